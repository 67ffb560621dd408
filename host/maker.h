/* Makers' keys, as the files of the host library share them. */
#ifndef CM_HOST_MAKER_H
#define CM_HOST_MAKER_H

#include <coldmint/host/pack.h>

/* Signs a text (CM_SIGNATURE_BYTES); false: the library refused. */
bool maker_sign(const struct cm_maker *maker, const uint8_t *text, size_t bytes,
                uint8_t *signature);

#endif
