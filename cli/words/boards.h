/* Boards that a chip can be wired to: which of their pins is which line. */
#ifndef CM_CLI_BOARDS_H
#define CM_CLI_BOARDS_H

#include "draw/wires.h"

struct board_pins {
    const char *name, *what;
    uint16_t mv;                  /* of its lines when they are high */
    const char *pins[ROLE_COUNT]; /* NULL: it has none for this */
    const char *feeding;          /* who feeds the chip, in words */
    const char *addresses;        /* how it makes address lines, in words; NULL: it has none */
};

/* NULL: there is no board of this name. */
const struct board_pins *board_named(const char *name);

/* All of them, as advice: "probe-328p, probe-1284p, header-40, serial-lines". */
extern const char board_names[];

#endif
