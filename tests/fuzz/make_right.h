/* A sealed job that somebody has changed, with its sums made right again. */
#ifndef CM_TEST_MAKE_RIGHT_H
#define CM_TEST_MAKE_RIGHT_H

#include <stddef.h>
#include <stdint.h>

/* How far: each is worth nothing without those before it. */
enum make_right { RIGHT_FILE_SUM, RIGHT_PART_SUMS, RIGHT_DIGESTS };

/* As far as the bytes are still fields of a capsule. Returns how many bytes there are. */
size_t make_right(uint8_t *bytes, size_t count, enum make_right how_far);

#endif
