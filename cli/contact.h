/* Contact with a chip, asked again and again: while a clip is seated, and between two units. */
#ifndef CM_CLI_CONTACT_H
#define CM_CLI_CONTACT_H

#include "tool.h"

enum { CONTACT_ASKS = 8, CONTACT_NAMES = 120 };

/* One look: how often the chip's id came right, and what else is seen. */
struct contact {
    uint8_t right, asked;
    bool has_supply; /* the port measures it */
    uint16_t mv;
    enum cm_status status; /* of the first ask that failed */
    char why[200];         /* what it looks like, in words */
};

/* Opens a session on the tool's port, asks for the chip of --chip and closes it: lines are released
 * between two looks. False: the port failed. */
bool contact_look(struct tool *tool, struct contact *contact);

/* Waits, as the port's time goes. False: Ctrl-C. */
bool contact_wait(struct tool *tool, uint32_t us);

#endif
