/* Looking a part up in its family's table of packages. */
#ifndef CM_FAMILIES_PINOUTS_H
#define CM_FAMILIES_PINOUTS_H

#include <coldmint/pinout.h>

/* Package number 0, 1, ... of a part; NULL beyond the last. A row without parts is for all. */
const struct cm_pinout *cm_pinout_of(const struct cm_pinout *rows, uint8_t count,
                                     const struct cm_part *part, uint8_t number);

#endif
