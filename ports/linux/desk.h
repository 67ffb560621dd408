/*
 * A desk: a YAML file that tells what of this computer is wired to a target (docs/desk.md).
 */
#ifndef CM_LINUX_DESK_H
#define CM_LINUX_DESK_H

#include <coldmint/port.h>

enum { DESK_DATA = 16, DESK_ADDRESSES = 32 };

struct desk_spi {
    char *device; /* NULL: there is none */
    uint32_t max_clock_hz;
};

struct desk_modem {
    char *device; /* whose modem lines are named among the lines */
};

struct desk_i2c {
    char *device;
    uint32_t clock_hz; /* of the adapter, which a program cannot set */
};

struct desk_supply {
    char *power; /* the line that switches it */
    uint16_t mv;
    char *measure; /* a file of the kernel's that tells a voltage */
    double times;  /* what it is multiplied by */
};

struct desk {
    char *title;
    struct desk_spi spi;
    struct desk_i2c i2c;
    struct desk_modem modem;
    struct desk_lines {
        char *named[CM_LINE_COUNT]; /* by enum cm_line */
    } lines;
    char **data, **address;
    unsigned data_count, address_count;
    struct desk_supply supply;
    unsigned priority; /* a real-time one, to be asked for; 0: none */
};

/* NULL: `error` tells why. */
struct desk *desk_load(const char *path, char *error, size_t room);
void desk_free(struct desk *desk);

/* False: it cannot be right, whatever the computer has; `error` tells why. */
bool desk_check(const struct desk *desk, char *error, size_t room);

#endif
