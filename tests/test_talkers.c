/* Hardware: something at the far end of a pseudo terminal that never stops sending: a logger,
 * noise, an echo, or a probe that answers HELLO and then nothing but one kind of frame for ever.
 * The tool tells what is there, and ends; a signal ends any wait. */
#define _GNU_SOURCE
#include "support/tool.h"
#include <coldmint/link.h>
#include <errno.h>
#include <fcntl.h>
#include <poll.h>
#include <pty/pty.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/prctl.h>
#include <sys/wait.h>
#include <time.h>
#include <unistd.h>

static struct outcome outcome;

enum { ECHO = -1, DEAF = -2, PROBES = 100 };

/* A talker: bytes over and over; an echo; one that takes nothing; or a probe (PROBES and the kind
 * of its frames). */
static const struct talker {
    const char *name;
    int kind;
    const char *bytes;
    size_t count;
    const char *says; /* what the tool tells of it */
} TALKERS[] = {
    {"logger", 0, "tower 3: 21.5 C, bell 7 idle\r\n", 30, "tower 3"},
    {"zeros", 0, "\0\0\0\0\0\0\0\0", 8, "00 00"},
    {"ones", 0, "\xFF\xFF\xFF\xFF\xFF\xFF\xFF\xFF", 8, "FF FF"},
    {"noise", 0, "\x01\x80\x00\x37\xFE\x11\x00\x02", 8, "no probe"},
    {"echo", ECHO, "", 0, "no probe"},
    {"takes nothing", DEAF, "", 0, "no probe answers"},
    {"pulses", PROBES + CM_LINK_PULSE, "", 0, "never the answer"},
    {"again", PROBES + CM_LINK_AGAIN, "", 0, "never the answer"},
    {"ends", PROBES + CM_LINK_END, "", 0, "never the answer"},
    {"results", PROBES + CM_LINK_RESULT, "", 0, ""},
    {"strangers", PROBES + CM_LINK_STRANGER, "", 0, ""},
    {"says hello", PROBES + CM_LINK_HELLO, "", 0, "never the answer"},
};

enum { TALKER_COUNT = sizeof TALKERS / sizeof TALKERS[0] };

/* --- the talker's process ---------------------------------------------------------------- */

/* As fast as a line of 115200 baud or so: a piece in each millisecond. */
static void say(int line, const void *bytes, size_t count)
{
    (void)!write(line, bytes, count);
}

static void send_as_probe(int line, uint8_t kind, uint16_t session, const uint8_t *payload,
                          size_t count)
{
    uint8_t bytes[CM_LINK_LINE_BYTES(256)];
    const struct cm_link_frame frame = {kind, 0, 0, session};
    say(line, bytes, cm_link_encode(&frame, payload, count, bytes));
}

/* Answers HELLO as a probe does. */
static void answer_hello(int line, struct cm_link_intake *intake, const uint8_t *bytes,
                         size_t count, uint16_t *session)
{
    static const struct cm_link_limits LIMITS = {
        .batch_bytes = 600, .ops = 24, .window = 2, .buses = 0x1F};
    static const struct cm_traits TRAITS = {
        .lines = 0xFF, .clock_min_hz = 1000, .clock_max_hz = 4000000};
    enum cm_link_taken taken;
    for (size_t i = 0; i < count;) {
        struct cm_link_frame frame;
        uint8_t payload[200];
        size_t length;
        i += cm_link_take(intake, bytes + i, count - i, &taken);
        if (taken != CM_LINK_WHOLE || !cm_link_open(intake, &frame, &length) ||
            frame.kind != CM_LINK_HELLO)
            continue;
        *session = frame.session;
        size_t size = cm_link_put_probe(&LIMITS, "talker", &TRAITS, payload, sizeof payload);
        send_as_probe(line, CM_LINK_HELLO, frame.session, payload, size);
    }
}

static _Noreturn void talk(const struct talker *talker, int line)
{
    static uint8_t room[4096];
    struct cm_link_intake intake = {.bytes = room, .room = sizeof room};
    uint16_t session = 0;
    prctl(PR_SET_PDEATHSIG, SIGKILL);
    for (;;) {
        uint8_t bytes[512];
        struct pollfd ready = {line, POLLIN, 0};
        bool has_come = talker->kind != DEAF && poll(&ready, 1, 1) > 0;
        ssize_t got = has_come ? read(line, bytes, sizeof bytes) : 0;
        if (talker->kind == DEAF)
            usleep(1000);
        else if (talker->kind == ECHO && got > 0)
            say(line, bytes, (size_t)got);
        else if (talker->kind >= PROBES && got > 0)
            answer_hello(line, &intake, bytes, (size_t)got, &session);
        else if (talker->kind >= PROBES && session)
            send_as_probe(line, (uint8_t)(talker->kind - PROBES), session, NULL, 0);
        else if (talker->count)
            say(line, talker->bytes, talker->count);
    }
}

static pid_t begin_talker(const struct talker *talker, char *via, size_t room)
{
    struct pty_line line;
    assert_true(pty_line_open(&line, O_NONBLOCK));
    pid_t pid = fork();
    if (pid == 0)
        talk(talker, line.line);
    snprintf(via, room, "link:%s", line.device);
    pty_line_close(&line);
    return pid;
}

static void end_talker(pid_t pid)
{
    kill(pid, SIGKILL);
    waitpid(pid, NULL, 0);
}

static double seconds(void)
{
    struct timespec now;
    clock_gettime(CLOCK_MONOTONIC, &now);
    return (double)now.tv_sec + (double)now.tv_nsec / 1e9;
}

/* --- tests ------------------------------------------------------------------------------- */

enum { LONG = 60 }; /* seconds: far more than it takes, and no end is more still */

static void whoever_talks_is_told_and_the_tool_ends(void **state)
{
    double longest = 0;
    (void)state;
    for (size_t i = 0; i < TALKER_COUNT; i++) {
        char via[80];
        pid_t talker = begin_talker(&TALKERS[i], via, sizeof via);
        double begun = seconds();
        run_tool(&outcome, "look", "--via", via, "--chip", "attiny84a", NULL);
        double took = seconds() - begun;
        end_talker(talker);
        longest = took > longest ? took : longest;
        if (!outcome.code || outcome.code > 100 || took > LONG ||
            !strstr(outcome.err, TALKERS[i].says))
            fail_msg("%s: exit %d after %.1f s:\n%s%s", TALKERS[i].name, outcome.code, took,
                     outcome.out, outcome.err);
    }
    printf("  %d talkers told, the last one after %.1f s\n", (int)TALKER_COUNT, longest);
}

/* Whoever talks, and whatever is waited for. */
static void a_signal_ends_any_wait(void **state)
{
    static const int SIGNALS[] = {SIGINT, SIGTERM};
    double longest = 0;
    (void)state;
    for (size_t i = 0; i < TALKER_COUNT; i++) {
        if (TALKERS[i].kind == ECHO || !TALKERS[i].says[0]) // told at once
            continue;
        char via[80];
        pid_t talker = begin_talker(&TALKERS[i], via, sizeof via);
        const char *const arguments[] = {"coldmint", "look",      "--via", via,
                                         "--chip",   "attiny84a", NULL};
        pid_t tool = start_tool(arguments);
        usleep(400000);
        double begun = seconds();
        kill(tool, SIGNALS[i % 2]);
        int code = end_of_tool(tool);
        double took = seconds() - begun;
        end_talker(talker);
        longest = took > longest ? took : longest;
        if (took > LONG || code != 130)
            fail_msg("%s: %d after %.1f s", TALKERS[i].name, code, took);
    }
    printf("  a signal ended every wait, the last one after %.1f s\n", longest);
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(whoever_talks_is_told_and_the_tool_ends),
        cmocka_unit_test(a_signal_ends_any_wait),
    };
    return cmocka_run_group_tests(tests, NULL, NULL);
}
