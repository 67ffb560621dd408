/* A package and the wires to it: what the drawings in the terminal and on paper share. */
#ifndef CM_CLI_WIRES_H
#define CM_CLI_WIRES_H

#include "tool.h"

enum { MOST_PINS = 100, PIN_NAME = 12 };

/* What a pin has to do with programming. */
enum role { ROLE_NONE, ROLE_RESET, ROLE_SCK, ROLE_MOSI, ROLE_MISO, ROLE_SUPPLY, ROLE_GROUND, ROLE_COUNT };
extern const char *const role_names[ROLE_COUNT];

struct pin {
    char name[PIN_NAME]; /* the port's name of the pin: "PA6" */
    enum role role;
};

struct wiring {
    const struct cm_part *part;
    const struct cm_pinout *pinout;
    struct pin pins[MOST_PINS]; /* from pin 1 on */
    const char *feeding;        /* who feeds the target, in words */
};

/* The numbers of the pins that have a role: "10, 31". */
void wires_pins(const struct wiring *wiring, enum role role, char *text, size_t bytes);

/* Draws into a file, by its extension .svg or .png. EXIT_GOOD, or the failure is told. */
enum exit_code wires_draw(struct tool *tool, const struct wiring *wiring, const char *path);

#endif
