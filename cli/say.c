/*
 * Saying things: aligned lines for people on stdout, progress on stderr, one JSON object for machines.
 */
#include "tool.h"
#include <signal.h>
#include <stdarg.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

enum { LABEL_WIDTH = 9, BAR_WIDTH = 30, SHOW_AFTER_US = 300000 };

volatile sig_atomic_t tool_interrupted;

const char *colour(const char *code)
{
    const char *no_colour = getenv("NO_COLOR");
    bool plain = (no_colour && *no_colour) || !isatty(STDOUT_FILENO) || the_tool.json;
    return plain ? "" : code;
}

void say(const struct tool *tool, const char *label, const char *format, ...)
{
    va_list arguments;
    if (tool->json)
        return;
    va_start(arguments, format);
    printf("%s%-*s%s ", colour("\033[2m"), LABEL_WIDTH, label, colour("\033[0m"));
    vprintf(format, arguments);
    printf("\n");
    va_end(arguments);
    fflush(stdout);
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
    return json_pack("{s:b, s:b, s:b, s:I, s:I, s:I, s:I, s:I, s:I, s:I, s:I, s:I, s:I}", "erase", report->erase, "carried",
                     report->carried, "relocked", report->relocked, "pages", (json_int_t)report->pages, "pages_equal",
                     (json_int_t)report->pages_equal, "pages_blank", (json_int_t)report->pages_blank, "pages_written",
                     (json_int_t)report->pages_written, "bytes", (json_int_t)report->bytes, "bytes_written",
                     (json_int_t)report->bytes_written, "differences", (json_int_t)report->differences, "predicted_us",
                     (json_int_t)report->predicted_us, "actual_us", (json_int_t)report->actual_us, "survey_us",
                     (json_int_t)report->survey_us);
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

const char *chip_name(const struct tool *tool)
{
    static char names[300]; // "attiny84 or attiny84a"
    const struct cm_session *session = &tool->session;
    size_t used = 0;
    if (tool->chip)
        return session->part->name;
    for (uint16_t i = 0; cm_candidate(session, i) && used < sizeof names; i++)
        used += (size_t)snprintf(names + used, sizeof names - used, "%s%s", i ? " or " : "", cm_candidate(session, i)->name);
    return names;
}

void say_chip(struct tool *tool)
{
    const struct cm_session *session = &tool->session;
    const struct cm_part *part = session->part;
    bool several = cm_candidate(session, 1) != NULL;
    say(tool, "chip", "%s%s%s, id %02X %02X %02X%s", colour("\033[1m"), chip_name(tool), colour("\033[0m"), part->id[0], part->id[1],
        part->id[2], tool->chip ? ", as asked for" : several ? ", which they share" : "");
    json_t *shared = json_array();
    for (uint16_t i = 0; cm_candidate(session, i); i++)
        json_array_append_new(shared, json_string(cm_candidate(session, i)->name));
    char id[12];
    snprintf(id, sizeof id, "%02X%02X%02X", part->id[0], part->id[1], part->id[2]);
    set_json(tool, "chip", json_pack("{s:s, s:s, s:o, s:b, s:I}", "name", part->name, "id", id, "candidates", shared, "asserted",
                                     tool->chip != NULL, "bus_clock_hz", (json_int_t)session->clock_hz));
}

/* --- progress -------------------------------------------------------------------------------------------------- */

static void draw_bar(uint32_t done, uint32_t total, char *bar)
{
    uint32_t filled = total ? (uint32_t)((uint64_t)done * BAR_WIDTH / total) : 0;
    for (uint32_t i = 0; i < BAR_WIDTH; i++)
        bar[i] = i < filled ? '=' : i == filled ? '>' : '.';
    bar[BAR_WIDTH] = '\0';
}

static void show_progress(struct tool *tool, const struct cm_progress *progress, uint32_t gone_us)
{
    char bar[BAR_WIDTH + 1], left[SHORT_TEXT] = "";
    draw_bar(progress->done, progress->total, bar);
    double rate = gone_us ? progress->done / (gone_us / 1e6) : 0;
    uint32_t missing = progress->total > progress->done ? progress->total - progress->done : 0;
    if (rate > 0)
        seconds_text((uint32_t)(missing / rate * 1e6), left, sizeof left);
    fprintf(stderr, "\r\033[K%-*s [%s] %3u %%  %s  %u of %u bytes, %.1f KB/s, %s left", LABEL_WIDTH, step_words(progress->step), bar,
            progress->total ? (unsigned)((uint64_t)progress->done * 100 / progress->total) : 100, progress->region,
            (unsigned)progress->done, (unsigned)progress->total, rate / 1000, left);
    fflush(stderr);
    tool->progress_shown = true;
}

bool tool_progress(void *context, const struct cm_progress *progress)
{
    static enum cm_step last_step;
    static const char *last_region;
    struct tool *tool = context;
    uint32_t now_us = tool->port->now_us(tool->port);
    if (progress->step != last_step || progress->region != last_region) {
        last_step = progress->step;
        last_region = progress->region;
        tool->begun_us = now_us;
    }
    if (isatty(STDERR_FILENO) && progress->step != CM_STEP_ERASE && now_us - tool->begun_us > SHOW_AFTER_US)
        show_progress(tool, progress, now_us - tool->begun_us);
    return !tool_interrupted;
}

void tool_progress_end(struct tool *tool)
{
    if (tool->progress_shown)
        fprintf(stderr, "\r\033[K");
    tool->progress_shown = false;
}
