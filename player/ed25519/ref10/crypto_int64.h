#ifndef CRYPTO_INT64_H
#define CRYPTO_INT64_H
#include <stdint.h>
typedef int64_t crypto_int64;
#endif
