/*
 * A probe's firmware in a process of its own, with a simulated bench behind it and a pseudo
 * terminal as its serial line; in between, where a test wants that, a middleman who drops, flips,
 * repeats, delays, splits and cuts what passes.
 */
#define _GNU_SOURCE
#include "link_rig.h"
#include "chance.h"
#include <coldmint/host.h>
#include <errno.h>
#include <fcntl.h>
#include <link/link.h>
#include <poll.h>
#include <pty/pty.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/mman.h>
#include <sys/prctl.h>
#include <sys/wait.h>
#include <time.h>
#include <unistd.h>

enum { WORKSPACE = 1 << 17 };

struct cm_host link_host;
uint8_t link_image[LINK_IMAGE];
struct link_rates link_rates;
static uint8_t workspace[WORKSPACE];

/* --- the probe's process ----------------------------------------------------------------- */

static volatile sig_atomic_t is_over, restarts;

static void on_signal(int number)
{
    if (number == SIGUSR1)
        restarts = 1;
    else
        is_over = 1;
}

static void play_probe(const struct far_end *far, struct pty_size size, int report)
{
    char error[SIM_ERROR_BYTES];
    struct sigaction action = {.sa_handler = on_signal};
    sigaction(SIGTERM, &action, NULL);
    sigaction(SIGUSR1, &action, NULL);
    struct cm_sim *sim = cm_sim_open(far->path, error);
    struct pty_probe *probe = sim ? pty_probe_open(cm_sim_port(sim), size) : NULL;
    if (!probe) {
        fprintf(stderr, "%s: %s\n", far->path, error);
        _exit(1);
    }
    if (link_rates.first)
        pty_probe_set_rates(probe, link_rates.first, link_rates.fastest, link_rates.is_deaf);
    char device[64];
    snprintf(device, sizeof device, "%s", pty_probe_device(probe));
    if (write(report, device, sizeof device) != sizeof device)
        _exit(1);
    while (!is_over) {
        pty_probe_step(probe);
        far->facts->in_session = pty_probe_in_session(probe);
        if (restarts)
            pty_probe_restart(probe);
        restarts = 0;
    }
    pty_probe_close(probe);
    _exit(cm_sim_close(sim) ? 0 : 1);
}

/* Waits until somebody wants the probe, and plays it. */
static void wait_and_play(const struct far_end *far, struct pty_size size, int report, int wanted)
{
    char word;
    prctl(PR_SET_PDEATHSIG, SIGKILL); // never outlives a test that fails
    if (read(wanted, &word, 1) != 1)
        _exit(1);
    play_probe(far, size, report);
}

void prepare_far_end(struct far_end *far, const char *name, const char *part, unsigned mv,
                     const char *more, struct pty_size size)
{
    char text[600], file[60];
    int report[2], wanted[2];
    memset(far, 0, sizeof *far);
    snprintf(text, sizeof text, "bench: b\nchip:\n  part: %s\n  supply_mv: %u\n%s", part, mv, more);
    snprintf(file, sizeof file, "%s.yaml", name);
    write_file(far->path, sizeof far->path, file, text);
    far->facts =
        mmap(NULL, sizeof *far->facts, PROT_READ | PROT_WRITE, MAP_SHARED | MAP_ANONYMOUS, -1, 0);
    assert_true(far->facts != MAP_FAILED);
    assert_true(pipe(report) == 0 && pipe(wanted) == 0);
    far->pid = fork();
    if (far->pid == 0) {
        close(wanted[1]);
        wait_and_play(far, size, report[1], wanted[0]);
    }
    close(report[1]);
    close(wanted[0]);
    far->report = report[0];
    far->wanted = wanted[1];
}

void plug_in_far_end(struct far_end *far)
{
    assert_int_equal(write(far->wanted, "", 1), 1);
    assert_int_equal(read(far->report, far->device, sizeof far->device), sizeof far->device);
    close(far->report);
    close(far->wanted);
    snprintf(far->name, sizeof far->name, "link:%s", far->device);
}

void begin_far_end(struct far_end *far, const char *name, const char *part, unsigned mv,
                   const char *more, struct pty_size size)
{
    prepare_far_end(far, name, part, mv, more, size);
    plug_in_far_end(far);
}

static void stop(pid_t pid)
{
    int status;
    kill(pid, SIGTERM);
    assert_int_equal(waitpid(pid, &status, 0), pid);
}

void end_far_end(struct far_end *far)
{
    if (far->middle)
        stop(far->middle);
    stop(far->pid);
}

/* --- the middleman ----------------------------------------------------------------------- */

static bool happens(const struct far_end *far, const struct mischief *mischief,
                    enum mischief_kind kind)
{
    unsigned one_in = mischief->one_in[kind];
    bool does = one_in && (unsigned)rand() % one_in == 0;
    far->facts->happened[kind] += does;
    return does;
}

static void write_all(int line, const uint8_t *bytes, size_t count)
{
    while (count) {
        ssize_t written = write(line, bytes, count);
        if (written <= 0) {
            struct pollfd ready = {line, POLLOUT, 0};
            if (poll(&ready, 1, 300) <= 0)
                return;
            continue;
        }
        bytes += written;
        count -= (size_t)written;
    }
}

/* A piece passes, or what is left of it. */
static void pass_on(const struct far_end *far, int to, uint8_t *bytes, size_t count,
                    const struct mischief *mischief)
{
    if (happens(far, mischief, MISCHIEF_DROP))
        return;
    if (happens(far, mischief, MISCHIEF_CUT))
        count = (size_t)rand() % count;
    if (happens(far, mischief, MISCHIEF_FLIP) && count)
        bytes[(size_t)rand() % count] ^= (uint8_t)(1u << (rand() & 7));
    if (happens(far, mischief, MISCHIEF_DELAY))
        usleep((useconds_t)(rand() % 20000));
    size_t part = happens(far, mischief, MISCHIEF_SPLIT) ? count / 2 : count;
    write_all(to, bytes, part);
    if (part < count) {
        usleep(2000);
        write_all(to, bytes + part, count - part);
    }
    if (happens(far, mischief, MISCHIEF_REPEAT))
        write_all(to, bytes, count);
}

/* A result's payload up to its data, field 9: numbers before it. */
static size_t without_data(const uint8_t *payload, size_t count)
{
    enum { DATA_KEY = 9 << 3 | 2 };
    for (size_t at = 0; at < count;) {
        if (payload[at] == DATA_KEY)
            return at;
        for (int varints = 0; varints < 2 && at < count; at++) // a key, and a number
            varints += !(payload[at] & 0x80);
    }
    return count;
}

/* Passes a probe's frames on whole, but for what it has read. */
static void withhold(struct cm_link_intake *intake, int to, const uint8_t *bytes, size_t count)
{
    static uint8_t line[CM_LINK_LINE_BYTES(4096)];
    struct cm_link_frame frame;
    size_t payload;
    enum cm_link_taken taken;
    for (size_t i = 0; i < count;) {
        i += cm_link_take(intake, bytes + i, count - i, &taken);
        if (taken != CM_LINK_WHOLE || !cm_link_open(intake, &frame, &payload))
            continue;
        const uint8_t *first = intake->bytes + CM_LINK_HEAD;
        payload = frame.kind == CM_LINK_RESULT ? without_data(first, payload) : payload;
        write_all(to, line, cm_link_encode(&frame, first, payload, line));
    }
}

static unsigned mischief_count; // each middleman has luck of its own

static void play_middleman(const struct far_end *far, int near_line, int far_line,
                           const struct mischief *mischief)
{
    enum { PIECE = 700 };
    static uint8_t room[4096];
    struct cm_link_intake intake = {.bytes = room, .room = sizeof room};
    prctl(PR_SET_PDEATHSIG, SIGKILL);
    struct sigaction action = {.sa_handler = on_signal};
    sigaction(SIGTERM, &action, NULL);
    srand(test_seed() + mischief_count);
    while (!is_over) {
        uint8_t bytes[PIECE];
        struct pollfd ready[2] = {{near_line, POLLIN, 0}, {far_line, POLLIN, 0}};
        if (poll(ready, 2, 50) <= 0)
            continue;
        for (int i = 0; i < 2; i++) {
            ssize_t got = ready[i].revents & POLLIN ? read(ready[i].fd, bytes, sizeof bytes) : 0;
            if (got > 0 && i == 1 && mischief->one_in[MISCHIEF_WITHHOLD])
                withhold(&intake, near_line, bytes, (size_t)got);
            else if (got > 0)
                pass_on(far, ready[1 - i].fd, bytes, (size_t)got, mischief);
        }
    }
    _exit(0);
}

/* Stands between the computer and the probe: the device to be opened is another one then. */
void put_between(struct far_end *far, const struct mischief *mischief)
{
    struct pty_line near_line;
    int far_line = open(far->device, O_RDWR | O_NOCTTY | O_NONBLOCK);
    assert_true(pty_line_open(&near_line, O_NONBLOCK) && far_line >= 0);
    mischief_count++;
    far->middle = fork();
    if (far->middle == 0)
        play_middleman(far, near_line.line, far_line, mischief);
    pty_line_close(&near_line);
    close(far_line);
    snprintf(far->name, sizeof far->name, "link:%s", near_line.device);
}

/* --- this end ---------------------------------------------------------------------------- */

int link_setup(void **state)
{
    (void)state;
    (void)test_folder();
    cm_host_begin(&link_host, cm_all_ports);
    for (uint32_t i = 0; i < LINK_IMAGE; i++)
        link_image[i] = (uint8_t)(i * 5 + i / 250) | 1;
    return 0;
}

int link_teardown(void **state)
{
    (void)state;
    cm_host_end(&link_host);
    return 0;
}

/* Puts the image through the link, and compares it. Returns the first status that is not good. */
enum cm_status put_image(struct far_end *far, const char *part, uint32_t bytes, uint32_t *restarted)
{
    struct cm_open_port port;
    struct cm_session session = {.port = NULL};
    struct cm_report report;
    struct cm_memory memory = {link_image, bytes, 0};
    struct cm_want want = {CM_REGION_MAIN, cm_memory_source(&memory)};
    struct cm_put put = {.wants = &want,
                         .want_count = 1,
                         .unprotect = true,
                         .lose_data = true,
                         .carry.in_memory = true};
    if (!cm_port_open(&link_host, far->name, &port))
        return CM_PORT_FAILED;
    enum cm_status status = cm_open(&session, port.port, link_host.kits, link_host.kit_count,
                                    workspace, sizeof workspace);
    if (!status)
        status = cm_identify(&session, part);
    if (!status)
        status = cm_put(&session, &put, &report);
    if (!status)
        status = cm_compare(&session, &want, NULL, NULL, NULL, &report);
    *restarted = port.port->state->restarts;
    cm_close(&session);
    assert_true(cm_port_close(&link_host, &port));
    return status;
}

/* What the bench's chip holds, and that nothing on its wires was against the data sheet. */
void check_chip(const struct far_end *far, uint32_t bytes)
{
    char error[SIM_ERROR_BYTES];
    struct cm_sim *sim = cm_sim_open(far->path, error);
    assert_non_null(sim);
    const struct avr_model *avr = cm_sim_model(sim);
    for (uint32_t i = 0; i < bytes; i++) {
        uint8_t found = avr ? avr->flash[i] : cm_sim_at(sim, i);
        if (found != link_image[i])
            fail_msg("0x%04X holds %02X, not %02X", (unsigned)i, found, link_image[i]);
    }
    for (int i = 0; i < cm_sim_kind(sim)->breach_count; i++) {
        if (cm_sim_breaches(sim)[i])
            fail_msg("%u times: %s", (unsigned)cm_sim_breaches(sim)[i],
                     cm_sim_kind(sim)->breach_words[i]);
    }
    assert_true(cm_sim_close(sim));
}

pid_t signal_later(const struct far_end *far, int number, int us)
{
    enum { LOOK_US = 200, MOST_LOOKS = 300000 };
    pid_t sender = fork();
    if (sender == 0) {
        for (int i = 0; !far->facts->in_session && i < MOST_LOOKS; i++)
            usleep(LOOK_US);
        usleep((useconds_t)us);
        kill(far->pid, number);
        _exit(0);
    }
    return sender;
}
