#ifndef CRYPTO_VERIFY_32_H
#define CRYPTO_VERIFY_32_H

int crypto_verify_32(const unsigned char *x,const unsigned char *y);

#endif