#ifndef CRYPTO_UINT32_H
#define CRYPTO_UINT32_H
#include <stdint.h>
typedef uint32_t crypto_uint32;
#endif
