/*
 * Saying things: aligned lines for people on stdout, progress on stderr, one JSON object for
 * machines.
 */
#include "tool.h"
#include <stdarg.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

enum { LABEL_WIDTH = 9 };

void say(const struct tool *tool, const char *label, const char *format, ...)
{
    va_list arguments, again;
    if (tool->json)
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

const char *seconds_text(uint32_t us, char *text, size_t bytes)
{
    double seconds = us / 1e6;
    if (seconds < 0.1)
        snprintf(text, bytes, "%.0f ms", seconds * 1e3);
    else if (seconds < 100)
        snprintf(text, bytes, "%.2f s", seconds);
    else
        snprintf(text, bytes, "%u min %02u s", us / 60000000, us / 1000000 % 60);
    return text;
}

void candidate_names(const struct cm_session *session, char *names, size_t bytes)
{
    size_t used = 0;
    bool found = session->part && !cm_candidate(session, 0); // by its own tables, or by name
    snprintf(names, bytes, "%s", found ? session->part->name : "in no table");
    for (uint16_t i = 0; cm_candidate(session, i) && used < bytes; i++)
        used += (size_t)snprintf(names + used, bytes - used, "%s%s", i ? " or " : "",
                                 cm_candidate(session, i)->name);
}

const char *chip_name(const struct tool *tool)
{
    static char names[300];
    if (tool->chip)
        return tool->session.part->name;
    candidate_names(&tool->session, names, sizeof names);
    return names;
}

const char *id_text(const struct cm_part *part, char *text)
{
    bool tagged =
        part->id_bytes &&
        (part->id[0] == 0x90 || part->id[0] == 0xAB); // an older id instruction, and what it brings
    snprintf(text, 40, part->id_bytes ? tagged ? "id by %02X:" : "id" : "without an id",
             part->id[0]);
    for (uint8_t i = tagged; i < part->id_bytes; i++)
        snprintf(text + strlen(text), 40 - strlen(text), " %02X", part->id[i]);
    return text;
}

void say_chip(struct tool *tool)
{
    const struct cm_session *session = &tool->session;
    const struct cm_part *part = session->part;
    bool several = cm_candidate(session, 1) != NULL;
    char id_words[40];
    say(tool, "chip", "%s%s%s, %s%s", colour("1"), chip_name(tool), colour("0"),
        id_text(part, id_words),
        tool->chip                 ? ", as asked for"
        : several                  ? ", which they share"
        : cm_candidate(session, 0) ? ""
                                   : ", in no table; it tells of itself");
    json_t *shared = json_array();
    for (uint16_t i = 0; cm_candidate(session, i); i++)
        json_array_append_new(shared, json_text(cm_candidate(session, i)->name));
    char id[12];
    id[0] = '\0';
    for (uint8_t i = 0; i < part->id_bytes && i < 5; i++)
        snprintf(id + 2 * i, 3, "%02X", part->id[i]);
    set_json(tool, "chip",
             json_pack("{s:s, s:s, s:o, s:b, s:I}", "name", part->name, "id", id, "candidates",
                       shared, "asserted", tool->chip != NULL, "bus_clock_hz",
                       (json_int_t)session->clock_hz));
}

const char *amount_text(uint32_t bytes, char *text)
{
    if (bytes >= 1 << 20 && bytes % (1 << 20) == 0)
        snprintf(text, SHORT_TEXT, "%u MiB", (unsigned)(bytes >> 20));
    else if (bytes >= 1024 && bytes % 1024 == 0)
        snprintf(text, SHORT_TEXT, "%u KiB", (unsigned)(bytes >> 10));
    else
        snprintf(text, SHORT_TEXT, "%u bytes", (unsigned)bytes);
    return text;
}
