/*
 * What a line says on which no probe answers: shown, so that a logger that talks, or a wrong rate,
 * is known by what it sends.
 */
#include "inside.h"
#include "line.h"
#include <stdio.h>
#include <string.h>

static bool is_shown(uint8_t byte)
{
    return byte >= ' ' && byte <= '~';
}

static bool is_text(const uint8_t *bytes, size_t count)
{
    for (size_t i = 0; i < count; i++) {
        if (!is_shown(bytes[i]) && bytes[i] != '\n' && bytes[i] != '\r')
            return false;
    }
    return count != 0;
}

/* At a wrong rate text is none: what is readable stays. */
void link_note_words(struct link *link)
{
    uint32_t count = link->in_count < LINK_HEARD ? link->in_count : LINK_HEARD;
    if (!count || (is_text(link->heard, link->heard_count) && !is_text(link->in, count)))
        return;
    memcpy(link->heard, link->in, count);
    link->heard_count = (uint8_t)count;
}

void link_explain(const struct link *link, bool is_found, char *error)
{
    char bytes[3 * LINK_HEARD + 1] = "", text[LINK_HEARD + 1] = "";
    for (uint8_t i = 0; i < link->heard_count; i++) {
        snprintf(bytes + 3 * (size_t)i, sizeof bytes - 3 * (size_t)i, " %02X", link->heard[i]);
        text[i] = is_shown(link->heard[i]) ? (char)link->heard[i] : '.';
    }
    if (is_found)
        snprintf(error, LINE_ERROR, "the probe there speaks another version of the protocol");
    else if (link_is_stopped(link))
        snprintf(error, LINE_ERROR, "stopped before a probe had answered");
    else if (link->heard_count)
        snprintf(error, LINE_ERROR, "what is there is no probe; it sends%s, \"%s\"", bytes, text);
    else
        snprintf(error, LINE_ERROR, "no probe answers there");
}
