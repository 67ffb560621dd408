/*
 * Amounts as texts.
 */
#include "text.h"
#include <stdio.h>
#include <string.h>
#include <time.h>

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

const char *clock_text(uint32_t hz, char *text, size_t bytes)
{
    if (hz == 0)
        snprintf(text, bytes, "the board's");
    else if (hz >= 1000000)
        snprintf(text, bytes, "%g MHz", hz / 1e6);
    else
        snprintf(text, bytes, "%g kHz", hz / 1e3);
    return text;
}

const char *id_text(const struct cm_part *part, char *text)
{
    bool tagged =
        part->id_bytes &&
        (part->id[0] == 0x90 || part->id[0] == 0xAB); // an older id instruction, and what it brings
    snprintf(text, SHORT_TEXT, part->id_bytes ? tagged ? "id by %02X:" : "id" : "without an id",
             part->id[0]);
    for (uint8_t i = tagged; i < part->id_bytes; i++)
        snprintf(text + strlen(text), SHORT_TEXT - strlen(text), " %02X", part->id[i]);
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

const char *count_text(uint32_t count, const char *thing, char *text)
{
    snprintf(text, SHORT_TEXT, "%u %s%s", (unsigned)count, thing, count == 1 ? "" : "s");
    return text;
}

/* A time from a file may be any: one that no calendar has is told so. */
static const char *time_text(int64_t seconds, const char *format, char *text)
{
    time_t when = (time_t)seconds;
    struct tm parts;
    if (!gmtime_r(&when, &parts) || !strftime(text, SHORT_TEXT, format, &parts))
        snprintf(text, SHORT_TEXT, "no time");
    return text;
}

const char *minute_text(int64_t seconds, char *text)
{
    return time_text(seconds, "%Y-%m-%d %H:%M UTC", text);
}

const char *second_text(int64_t seconds, char *text)
{
    return time_text(seconds, "%Y-%m-%d %H:%M:%S", text);
}

const char *digest_text(const uint8_t *bytes, size_t count, char *text)
{
    for (size_t i = 0; i < count; i++)
        snprintf(text + 2 * i, 3, "%02x", bytes[i]);
    return text;
}
