/*
 * Saying things: aligned lines for people on stdout, progress on stderr, one JSON object for
 * machines.
 */
#include "say.h"
#include "shown.h"
#include "text.h"
#include <stdarg.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

enum { LABEL_WIDTH = 9 };

void say(const struct tool *tool, const char *label, const char *format, ...)
{
    va_list arguments, again;
    if (tool->given.json)
        return;
    va_start(arguments, format);
    va_copy(again, arguments);
    int bytes = vsnprintf(NULL, 0, format, arguments);
    char *text = bytes < 0 ? NULL : malloc((size_t)bytes + 1);
    if (text)
        vsnprintf(text, (size_t)bytes + 1, format, again);
    va_end(again);
    va_end(arguments);
    printf("%s%-*s%s ", ink("2"), LABEL_WIDTH, label, ink("0"));
    print_shown(stdout, text ? text : "(no memory)");
    printf("\n");
    fflush(stdout);
    free(text);
}

void say_last(struct tool *tool, const char *format, ...)
{
    va_list arguments;
    va_start(arguments, format);
    vsnprintf(tool->last_line, sizeof tool->last_line, format, arguments);
    va_end(arguments);
}

void set_json(struct tool *tool, const char *key, json_t *value)
{
    json_object_set_new(tool->answer, key, value);
}

json_t *json_report(const struct cm_report *report)
{
    return json_pack(
        "{s:b, s:I, s:b, s:I, s:I, s:I, s:b, s:b, s:b, s:b, s:I, s:I, s:I, s:I, s:I, s:I, s:I, "
        "s:I, s:I, s:I}",
        "doubted", report->doubted, "doubtful_bytes", (json_int_t)report->doubtful_bytes, "lifts",
        report->lifts, "erases", (json_int_t)report->erases, "erased_bytes",
        (json_int_t)report->erased_bytes, "carried_bytes", (json_int_t)report->carried_bytes,
        "erase", report->erase, "carried", report->carried, "relocked", report->relocked,
        "unlocked", report->unlocked, "pages", (json_int_t)report->pages, "pages_equal",
        (json_int_t)report->pages_equal, "pages_blank", (json_int_t)report->pages_blank,
        "pages_written", (json_int_t)report->pages_written, "bytes", (json_int_t)report->bytes,
        "bytes_written", (json_int_t)report->bytes_written, "differences",
        (json_int_t)report->differences, "predicted_us", (json_int_t)report->predicted_us,
        "actual_us", (json_int_t)report->actual_us, "survey_us", (json_int_t)report->survey_us);
}

const char *chip_name(const struct tool *tool)
{
    static char names[300];
    if (tool->given.chip)
        return tool->session.part->name;
    candidate_names(&tool->session, names, sizeof names);
    return names;
}

void say_chip(struct tool *tool)
{
    const struct cm_session *session = &tool->session;
    const struct cm_part *part = session->part;
    bool several = cm_candidate(session, 1) != NULL;
    char id_words[SHORT_TEXT];
    say(tool, "chip", "%s%s%s, %s%s", colour("1"), chip_name(tool), colour("0"),
        id_text(part, id_words),
        tool->given.chip           ? ", as asked for"
        : several                  ? ", which they share"
        : cm_candidate(session, 0) ? ""
                                   : ", in no table; it describes itself");
    json_t *shared = json_array();
    for (uint16_t i = 0; cm_candidate(session, i); i++)
        json_array_append_new(shared, json_text(cm_candidate(session, i)->name));
    char id[12];
    id[0] = '\0';
    for (uint8_t i = 0; i < part->id_bytes && i < 5; i++)
        snprintf(id + 2 * i, 3, "%02X", part->id[i]);
    set_json(tool, "chip",
             json_pack("{s:s, s:s, s:o, s:b, s:I}", "name", part->name, "id", id, "candidates",
                       shared, "asserted", tool->given.chip != NULL, "bus_clock_hz",
                       (json_int_t)session->clock_hz));
}

/* --- the part at hand -------------------------------------------------------------------- */

const struct cm_kit *kit_of(const struct tool *tool, const struct cm_part *part)
{
    return cm_host_kit_of(&tool->host, part);
}

const struct cm_words *words_of(const struct tool *tool, const struct cm_part *part)
{
    return kit_of(tool, part)->words;
}

bool is_memory(const struct tool *tool, const struct cm_part *part)
{
    return !kit_of(tool, part)->about->program;
}

const char *main_region(const struct tool *tool)
{
    struct cm_region region; // names live as long as the program
    return cm_region(&tool->session, CM_REGION_MAIN, &region) ? region.name : "flash";
}
