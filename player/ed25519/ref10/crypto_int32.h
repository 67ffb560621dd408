#ifndef CRYPTO_INT32_H
#define CRYPTO_INT32_H
#include <stdint.h>
typedef int32_t crypto_int32;
#endif
