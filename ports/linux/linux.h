/* This computer's own pins: how many calls the kernel took, for tests and measurements. */
#ifndef CM_LINUX_LINUX_H
#define CM_LINUX_LINUX_H

#include <stdint.h>

struct linux_counts {
    uint64_t messages;  /* on SPI */
    uint64_t transfers; /* on I2C */
    uint64_t lines;     /* changes and readings of lines */
};

struct linux_port;
struct linux_counts linux_counts(const struct linux_port *linux_port);

#endif
