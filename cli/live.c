/*
 * Contact, live:
 *
 *     contact   id right 27 of 32   supply 5.00 V   MISO reads high all the time
 *
 * The last four looks count, of eight asks each. On a terminal the line is written over; elsewhere
 * there is a line where something has changed.
 */
#include "live.h"
#include "begin.h"
#include "contact.h"
#include "say.h"
#include "words/fail.h"
#include <stdio.h>
#include <string.h>
#include <unistd.h>

enum {
    LOOKS = 4,         /* that are counted */
    LOOK_US = 100000,  /* between two */
    GOOD_US = 1000000, /* of good contact, and it is enough */
    LINE_TEXT = 300
};

struct live {
    struct contact looks[LOOKS]; /* the latest first */
    unsigned count;
    uint32_t good_since_us;
    bool is_good;
    char shown[LINE_TEXT];
};

static void take_look(struct live *live, const struct contact *now)
{
    memmove(live->looks + 1, live->looks, (LOOKS - 1) * sizeof live->looks[0]);
    live->looks[0] = *now;
    live->count += live->count < LOOKS;
}

static void count(const struct live *live, unsigned *right, unsigned *asked)
{
    *right = *asked = 0;
    for (unsigned i = 0; i < live->count; i++) {
        *right += live->looks[i].right;
        *asked += live->looks[i].asked;
    }
}

/* The latest trouble among the looks that count. */
static const char *trouble_of(const struct live *live)
{
    for (unsigned i = 0; i < live->count; i++) {
        if (live->looks[i].why[0])
            return live->looks[i].why;
    }
    return "";
}

static void show(const struct tool *tool, struct live *live)
{
    enum { BAR = 16 };
    bool is_terminal = isatty(STDOUT_FILENO);
    unsigned right, asked, filled;
    char line[LINE_TEXT], supply[40] = "", bar[BAR + 1];
    count(live, &right, &asked);
    filled = asked ? right * BAR / asked : 0;
    for (unsigned i = 0; i < BAR; i++)
        bar[i] = i < filled ? '#' : '.';
    bar[BAR] = '\0';
    if (live->looks[0].has_supply)
        snprintf(supply, sizeof supply, "   supply %.2f V", live->looks[0].mv / 1000.0);
    snprintf(line, sizeof line, "[%s]  id right %u of %u%s   %.150s", bar, right, asked, supply,
             trouble_of(live));
    if (tool->given.json || (!is_terminal && strcmp(line, live->shown) == 0))
        return;
    memcpy(live->shown, line, sizeof line);
    if (is_terminal)
        printf("\r\033[K");
    printf("contact   ");
    print_shown(stdout, line);
    if (!is_terminal)
        printf("\n");
    fflush(stdout);
}

/* Good for long enough? */
static bool is_enough(struct tool *tool, struct live *live)
{
    uint32_t now_us = tool->port->lines->now_us(tool->port);
    bool was_good = live->is_good;
    live->is_good = live->looks[0].right == CONTACT_ASKS;
    if (!live->is_good || !was_good)
        live->good_since_us = now_us;
    return live->is_good && now_us - live->good_since_us >= GOOD_US;
}

static enum exit_code end(struct tool *tool, const struct live *live)
{
    unsigned right, asked;
    count(live, &right, &asked);
    if (isatty(STDOUT_FILENO) && !tool->given.json)
        printf("\n");
    set_json(tool, "contact", json_pack("{s:i, s:i}", "right", (int)right, "asked", (int)asked));
    if (tool_interrupted)
        return tool_fail_as(tool, EXIT_INTERRUPTED, "stopped", trouble_of(live),
                            "the same command goes on looking");
    say_last(tool, "contact has been good for a second; nothing was changed");
    return EXIT_GOOD;
}

enum exit_code live_run(struct tool *tool)
{
    struct live live = {.count = 0};
    struct contact now;
    enum exit_code code = tool_check_options(tool);
    if (!code)
        code = tool_open_session(tool);
    if (code)
        return code;
    cm_close(&tool->session); // each look opens its own
    tool->open = false;
    do {
        if (!contact_look(tool, &now))
            return tool_fail(tool, CM_PORT_FAILED);
        take_look(&live, &now);
        show(tool, &live);
    } while (!is_enough(tool, &live) && contact_wait(tool, LOOK_US));
    return end(tool, &live);
}
