/* A package and the wires to it: what the drawings in the terminal and on paper share. */
#ifndef CM_CLI_WIRES_H
#define CM_CLI_WIRES_H

#include "tool.h"

enum { MOST_PINS = 100, PIN_NAME = 12 };

/* What a pin has to do with programming. */
enum role {
    ROLE_NONE,
    ROLE_RESET,
    ROLE_SELECT,
    ROLE_SCK,
    ROLE_MOSI,
    ROLE_MISO,
    ROLE_SDA,
    ROLE_SCL,
    ROLE_CE,
    ROLE_OE,
    ROLE_OE_VPP, /* of an EPROM that has both on one pin */
    ROLE_WE,
    ROLE_ADDRESS, /* these two are many pins, each named as its line is */
    ROLE_DATA,
    ROLE_WP,
    ROLE_HOLD,
    ROLE_VPP,
    ROLE_ORG,
    ROLE_SUPPLY,
    ROLE_GROUND,
    ROLE_COUNT
};

/* What a role is called, and what belongs to it. */
struct role_words {
    const char *name, *note;
    double red, green, blue;
};
extern const struct role_words role_words[ROLE_COUNT];

/* How pins go round a package that has them on four sides: the one at the upper left, and how many
 * are on the left and right, and below and above. */
struct sides {
    int first, upright, across;
};
struct sides wires_sides(const struct cm_pinout *pinout);

/* The number of the pin that is `place` steps round from the one at the upper left, against the
 * clock. */
int wires_pin_at(const struct cm_pinout *pinout, int place);

struct pin {
    char name[PIN_NAME]; /* the port's name of the pin: "PA6" */
    enum role role;
};

struct board_pins;

struct wiring {
    const struct cm_part *part;
    const struct board_pins *from; /* the board that the wires come from; NULL: any */
    const struct cm_pinout *pinout;
    struct pin pins[MOST_PINS]; /* from pin 1 on */
    const char *feeding;        /* who feeds the target, in words */
};

/* The board's pin for a role; NULL: no board is named, or it has none. */
const char *wires_from(const struct wiring *wiring, enum role role);

/* Does the board put more on its lines than the chip bears? */
bool wires_are_too_high(const struct wiring *wiring);

/* The numbers of the pins that have a role: "10, 31"; none: an empty text. */
void wires_pins(const struct wiring *wiring, enum role role, char *text, size_t bytes);

/* Draws into a file, by its extension .svg, .pdf or .png. EXIT_GOOD, or the failure is told. */
enum exit_code wires_draw(struct tool *tool, const struct wiring *wiring, const char *path);

#endif
