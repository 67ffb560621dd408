#ifndef CRYPTO_UINT64_H
#define CRYPTO_UINT64_H
#include <stdint.h>
typedef uint64_t crypto_uint64;
#endif
