/*
 * What is wrong with a desk by itself, before a line is taken: a line that is named twice, and an
 * input of a serial device where the port must drive.
 */
#include "desk.h"
#include <stdio.h>
#include <string.h>

enum { MOST_LINES = CM_LINE_COUNT + DESK_DATA + DESK_ADDRESSES + 1, ROLE = 12 };

struct named {
    const char *line;
    char role[ROLE];
    bool is_read; /* and never driven */
};

struct names {
    struct named list[MOST_LINES];
    unsigned count;
};

static const char *const ROLES[CM_LINE_COUNT] = {
    [CM_LINE_RESET] = "RESET", [CM_LINE_SCK] = "SCK",       [CM_LINE_MOSI] = "MOSI",
    [CM_LINE_MISO] = "MISO",   [CM_LINE_SELECT] = "SELECT", [CM_LINE_WP] = "WP",
    [CM_LINE_HOLD] = "HOLD",   [CM_LINE_CE] = "CE",         [CM_LINE_OE] = "OE",
    [CM_LINE_WE] = "WE",       [CM_LINE_A9_ID] = "A9_ID",   [CM_LINE_VPP] = "VPP",
    [CM_LINE_LATCH] = "LATCH", [CM_LINE_SDA] = "SDA",       [CM_LINE_SCL] = "SCL"};

static void add(struct names *names, const char *line, const char *role)
{
    static const char NOT[] = "not ";
    if (!line || names->count == MOST_LINES)
        return;
    struct named *named = &names->list[names->count++];
    named->line = line + (strncmp(line, NOT, strlen(NOT)) == 0 ? strlen(NOT) : 0);
    named->is_read = strcmp(role, "MISO") == 0;
    snprintf(named->role, sizeof named->role, "%s", role);
}

static void add_row(struct names *names, char **lines, unsigned count, char letter)
{
    char role[ROLE];
    for (unsigned i = 0; i < count; i++) {
        snprintf(role, sizeof role, "%c%u", letter, i);
        add(names, lines[i], role);
    }
}

static bool is_modem_input(const char *line)
{
    static const char *const INPUTS[] = {"CTS", "DSR", "RI", "DCD"};
    bool is_one = false;
    for (size_t i = 0; i < sizeof INPUTS / sizeof INPUTS[0]; i++)
        is_one |= strcmp(INPUTS[i], line) == 0;
    return is_one;
}

bool desk_check(const struct desk *desk, char *error, size_t room)
{
    struct names names = {.count = 0};
    for (int i = 0; i < CM_LINE_COUNT; i++)
        add(&names, ROLES[i] ? desk->lines.named[i] : NULL, ROLES[i] ? ROLES[i] : "");
    add_row(&names, desk->data, desk->data_count, 'D');
    add_row(&names, desk->address, desk->address_count, 'A');
    add(&names, desk->supply.power, "the supply");
    for (unsigned i = 0; i < names.count; i++) {
        const struct named *one = &names.list[i];
        for (unsigned k = 0; k < i; k++) {
            if (strcmp(names.list[k].line, one->line) == 0) {
                snprintf(error, room, "line '%.100s' is named twice: for %s and for %s", one->line,
                         names.list[k].role, one->role);
                return false;
            }
        }
        if (desk->modem.device && !one->is_read && is_modem_input(one->line)) {
            snprintf(error, room,
                     "%s is an input of the serial device, and %s is driven: RTS, DTR "
                     "and TXD are its outputs",
                     one->line, one->role);
            return false;
        }
    }
    return true;
}
