/*
 * Causes of failures that a family knows, as its own table tells them.
 */
#include "causes.h"
#include "fill.h"
#include "text.h"
#include <stdio.h>
#include <string.h>

static bool is_all(const uint8_t *answer, uint8_t value)
{
    return answer[0] == value && answer[1] == value && answer[2] == value && answer[3] == value;
}

static bool looks_so(const uint8_t *answer, uint8_t look)
{
    uint8_t low = (uint8_t)~answer[0];
    switch (look) {
    case CM_ANSWER_ONES:
        return is_all(answer, 0xFF);
    case CM_ANSWER_ZEROS:
        return is_all(answer, 0x00);
    case CM_ANSWER_ONE_LOW:
        return is_all(answer, answer[0]) && low && !(low & (low - 1));
    case CM_ANSWER_TWICE:
        return answer[0] == answer[2] && answer[1] == answer[3];
    default:
        return true;
    }
}

/* The clocks that were tried for a chip that did not answer. */
static void clocks_text(const struct tool *tool, char *text, size_t room)
{
    enum { SLOWEST_HZ = 1000 };
    uint32_t least_hz = tool->port->traits.clock_min_hz;
    snprintf(text, room, "from %s down to %u kHz",
             tool->given.clock ? "the clock given" : "200 kHz",
             (unsigned)(least_hz > SLOWEST_HZ ? least_hz : SLOWEST_HZ) / 1000);
}

/* What a word in braces stands for (struct cm_cause). */
static void place_text(const void *context, const char *word, char *text, size_t room)
{
    const struct tool *tool = context;
    const struct cm_failure *failure = &tool->session.failure;
    if (word[0] >= '0' && word[0] <= '3')
        snprintf(text, room, "%02X", failure->answer[word[0] - '0']);
    else if (strcmp(word, "tries") == 0)
        snprintf(text, room, "%u", (unsigned)tool->session.tries);
    else if (strcmp(word, "clocks") == 0)
        clocks_text(tool, text, room);
    else if (strcmp(word, "device") == 0)
        snprintf(text, room, "%s",
                 tool->session.device ? "at that address" : "an address from 50 to 57");
    else if (strcmp(word, "address") == 0)
        snprintf(text, room, "0x%04X", (unsigned)failure->address);
    else if (strcmp(word, "found") == 0)
        snprintf(text, room, "%02X", failure->found);
    else if (strcmp(word, "expected") == 0)
        snprintf(text, room, "%02X", failure->expected);
}

/* The first cause in the family's table that fits; false where there is none. */
bool explain_by_family(const struct tool *tool, enum cm_status status, struct words *words)
{
    const struct cm_failure *failure = &tool->session.failure;
    const struct cm_kit *kit = tool->session.kit;
    const struct cm_cause *cause = kit ? kit->about->causes : NULL;
    while (cause && cause->status &&
           (cause->status != status || !looks_so(failure->answer, cause->answer)))
        cause++;
    if (!cause || !cause->status)
        return false;
    if (cause->what)
        fill_in(cause->what, place_text, tool, words->what, sizeof words->what);
    if (cause->evidence)
        fill_in(cause->evidence, place_text, tool, words->evidence, sizeof words->evidence);
    if (cause->advice)
        fill_in(cause->advice, place_text, tool, words->try, sizeof words->try);
    return true;
}
