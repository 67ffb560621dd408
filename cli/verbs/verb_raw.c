/*
 * raw: bytes out, bytes back, for an SPI chip that no table knows.
 *
 *     "06"                         these bytes, in a frame of their own
 *     "9F -> 3"                    these bytes, then so many back
 *     "05 -> 1 until 00/01"        again and again, until the last byte back, under the mask behind
 *                                  the slash, is this
 *     "wait 5ms"                   so long; us, ms or s
 *
 * What could change a chip is sent only with --write: a frame is taken to be harmless where its
 * first byte is an instruction that reads on every memory there is.
 */
#include "begin.h"
#include "say.h"
#include "words/fail.h"
#include <ctype.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum {
    MOST_OUT = 600,
    MOST_BACK = 65536,
    UNTIL_TRIES = 200000,
    UNTIL_US = 10000000,
    SHOWN_BYTES = 256,
    ROW = 16
};

static int may_write;
static char *wanted_clock;

struct frame {
    uint8_t out[MOST_OUT];
    uint32_t out_count, back;
    uint32_t wait_us; /* nothing but that */
    bool until;
    uint8_t value, mask;
};

/* Instructions that only read, with all makers; and those that touch nothing but the latch. */
static bool is_harmless(uint8_t opcode)
{
    static const uint8_t READS[] = {0x9F, 0x9E, 0x90, 0xAB, 0x05, 0x35, 0x15, 0x5A, 0x03,
                                    0x0B, 0x13, 0x0C, 0x4B, 0x70, 0x3C, 0x04, 0x06};
    for (size_t i = 0; i < sizeof READS; i++) {
        if (READS[i] == opcode)
            return true;
    }
    return false;
}

/* --- reading the notation ---------------------------------------------------------------- */

static const char *skip(const char *text)
{
    while (*text == ' ' || *text == '\t')
        text++;
    return text;
}

static bool take_byte(const char **text, uint8_t *byte)
{
    const char *at = skip(*text);
    if (!cm_parse_byte(at, byte))
        return false;
    *text = at + 2;
    return true;
}

static bool take_word(const char **text, const char *word)
{
    const char *at = skip(*text);
    if (strncmp(at, word, strlen(word)) != 0)
        return false;
    *text = at + strlen(word);
    return true;
}

static bool parse_wait(const char *text, struct frame *frame)
{
    char *end;
    double amount = strtod(text, &end);
    const char *unit = skip(end);
    double us = strcmp(unit, "us") == 0   ? amount
                : strcmp(unit, "ms") == 0 ? amount * 1e3
                : strcmp(unit, "s") == 0  ? amount * 1e6
                                          : -1;
    frame->wait_us = us >= 1 && us <= 60e6 ? (uint32_t)us : 0;
    return frame->wait_us != 0;
}

static bool parse(const char *text, struct frame *frame)
{
    memset(frame, 0, sizeof *frame);
    if (take_word(&text, "wait"))
        return parse_wait(text, frame);
    while (frame->out_count < MOST_OUT && take_byte(&text, &frame->out[frame->out_count]))
        frame->out_count++;
    if (frame->out_count == 0)
        return false;
    if (take_word(&text, "->")) {
        uint64_t back;
        text = skip(text);
        if (!cm_parse_number(&text, &back) || back == 0 || back > MOST_BACK)
            return false;
        frame->back = (uint32_t)back;
        if (take_word(&text, "until")) {
            frame->mask = 0xFF;
            frame->until = take_byte(&text, &frame->value);
            if (!frame->until || (take_word(&text, "/") && !take_byte(&text, &frame->mask)))
                return false;
        }
    }
    return *skip(text) == '\0';
}

/* --- doing it ---------------------------------------------------------------------------- */

static void say_frame(struct tool *tool, const struct frame *frame, const uint8_t *back,
                      json_t *list)
{
    char out[40 * 3 + 8] = "", row[ROW * 3 + 1], text[ROW + 1];
    for (uint32_t i = 0; i < frame->out_count && i < 40; i++)
        snprintf(out + 3 * i, 4, "%02X ", frame->out[i]);
    say(tool, "out", "%s%s", out, frame->out_count > 40 ? "..." : "");
    json_t *bytes = json_array();
    for (uint32_t i = 0; i < frame->back; i++)
        json_array_append_new(bytes, json_integer(back[i]));
    for (uint32_t at = 0; at < frame->back && at < SHOWN_BYTES; at += ROW) {
        uint32_t count = frame->back - at < ROW ? frame->back - at : ROW;
        row[0] = '\0';
        for (uint32_t i = 0; i < count; i++) {
            snprintf(row + 3 * i, 4, "%02X ", back[at + i]);
            text[i] = isprint(back[at + i]) ? (char)back[at + i] : '.';
        }
        text[count] = '\0';
        say(tool, at ? "" : "back", "%04X  %-*s %s", (unsigned)at, ROW * 3, row, text);
    }
    if (frame->back > SHOWN_BYTES)
        say(tool, "", "... %u more bytes; --json has all", (unsigned)(frame->back - SHOWN_BYTES));
    json_array_append_new(list, bytes);
}

static enum exit_code run_frame(struct tool *tool, const struct frame *frame, uint8_t *back,
                                json_t *list)
{
    char evidence[200];
    uint32_t begun = tool->port->lines->now_us(tool->port), tries = 0;
    enum cm_status status = CM_OK;
    if (frame->wait_us)
        status = cm_raw_wait(&tool->session, frame->wait_us);
    else
        do {
            status = cm_raw_frame(&tool->session, frame->out, frame->out_count, back, frame->back);
        } while (!status && frame->until && (back[frame->back - 1] & frame->mask) != frame->value &&
                 ++tries < UNTIL_TRIES && !tool_interrupted &&
                 tool->port->lines->now_us(tool->port) - begun < UNTIL_US);
    if (status)
        return tool_fail(tool, status);
    if (!frame->wait_us)
        say_frame(tool, frame, back, list);
    if (tool_interrupted)
        return tool_fail_as(tool, EXIT_INTERRUPTED, "stopped", "",
                            "what was sent before has been done");
    if (!frame->until || (back[frame->back - 1] & frame->mask) == frame->value)
        return EXIT_GOOD;
    snprintf(evidence, sizeof evidence,
             "%02X came, %02X under the mask %02X was waited for, %u times", back[frame->back - 1],
             frame->value, frame->mask, (unsigned)tries);
    return tool_fail_as(tool, EXIT_WRITE_FAILED, "the chip did not come to this", evidence,
                        "is it there at all? Try \"9F -> 3\"");
}

static enum exit_code check_frames(struct tool *tool, const char *const *things,
                                   struct frame *frame)
{
    char evidence[300];
    for (; *things; things++) {
        if (!parse(*things, frame))
            return tool_fail_as(
                tool, EXIT_USAGE, "this is not a frame", *things,
                "bytes in hex, \"9F -> 3\", \"05 -> 1 until 00/01\", or \"wait 5ms\"");
        if (frame->until && (frame->value & ~frame->mask))
            return tool_fail_as(tool, EXIT_USAGE, "this can never come true", *things,
                                "the value has bits that the mask has not");
        if (may_write || !frame->out_count || is_harmless(frame->out[0]))
            continue;
        snprintf(evidence, sizeof evidence,
                 "%02X, in \"%.200s\", is not an instruction that only reads", frame->out[0],
                 *things);
        return tool_fail_as(tool, EXIT_REFUSED, "refused: this could change the chip", evidence,
                            "nothing was sent; --write lets it through");
    }
    return EXIT_GOOD;
}

static enum exit_code run(struct tool *tool, const char *const *things)
{
    static struct frame frame;
    static uint8_t back[MOST_BACK];
    uint32_t hz = wanted_clock ? cm_parse_clock(wanted_clock) : 1000000;
    if (!things[0])
        return tool_fail_as(tool, EXIT_USAGE, "nothing to send", "no frame is given",
                            "coldmint raw \"9F -> 3\"");
    if (hz == 0)
        return tool_fail_as(tool, EXIT_USAGE, "--at is not a frequency", wanted_clock,
                            "for example --at 1MHz");
    enum exit_code code = check_frames(tool, things, &frame);
    if (!code)
        code = tool_open_session(tool);
    if (code)
        return code;
    enum cm_status status = tool_feed(tool);
    if (!status)
        status = cm_raw_begin(&tool->session, hz);
    if (status)
        return tool_fail(tool, status);
    json_t *list = json_array();
    set_json(tool, "frames", list);
    for (; *things && !code; things++) {
        parse(*things, &frame);
        code = run_frame(tool, &frame, back, list);
    }
    if (!code)
        say_last(tool, "sent at %.0f kHz; what came back is not checked",
                 tool->session.clock_hz / 1e3);
    return code;
}

static const struct poptOption options[] = {
    {"write", 0, POPT_ARG_NONE, &may_write, 0, "also send what could change the chip", NULL},
    {"at", 0, POPT_ARG_STRING, &wanted_clock, 0, "clock of the bus; 1MHz if not given", "HZ"},
    POPT_TABLEEND};

const struct verb verb_raw = {
    .name = "raw",
    .things = "[options] \"BYTES [-> COUNT [until VALUE/MASK]]\" ...",
    .summary = "bytes out, bytes back, frame by frame, for an SPI chip that no table knows",
    .example = "coldmint raw --via sim:tune-store.yaml \"9F -> 3\" \"05 -> 1\"",
    .mistake = "forgetting the write enable: most chips want \"06\" in a frame of its own before "
               "each write",
    .options = options,
    .sends_frames = true,
    .run = run,
};
