/*
 * The firmware of a probe as a program on this computer. It is the same portable part; the board is
 * a pseudo terminal and a port, such as that of a simulated bench.
 */
#define _GNU_SOURCE
#include "pty.h"
#include <errno.h>
#include <fcntl.h>
#include <poll.h>
#include <stdlib.h>
#include <string.h>
#include <termios.h>
#include <time.h>
#include <unistd.h>

enum { IDLE_MS = 5, MOST_READ = 65536, MOST_WRITE = 4096, CYCLES = CM_LINK_CYCLES, PULSES = 64 };

struct pty_probe {
    struct cm_probe probe;
    struct cm_probe_board board;
    struct pty_line line;
    uint8_t in[MOST_READ];
    uint32_t in_at, in_count;
    uint8_t out[MOST_WRITE];
    size_t out_count;
    bool was_idle;
    uint32_t first_baud, baud; /* 0: the line has no rate */
    bool is_deaf;              /* at any rate but the first */
};

/* --- the line ---------------------------------------------------------------------------- */

uint32_t pty_line_baud(const struct pty_line *line)
{
    static const struct {
        speed_t speed;
        uint32_t baud;
    } RATES[] = {{B9600, 9600},     {B19200, 19200},   {B38400, 38400},    {B57600, 57600},
                 {B115200, 115200}, {B500000, 500000}, {B1000000, 1000000}};
    struct termios settings;
    if (tcgetattr(line->held, &settings) != 0)
        return 0;
    for (size_t i = 0; i < sizeof RATES / sizeof RATES[0]; i++) {
        if (RATES[i].speed == cfgetospeed(&settings))
            return RATES[i].baud;
    }
    return 0;
}

/* --- the board --------------------------------------------------------------------------- */

/* Does the other end speak at our rate? */
static bool is_in_tune(const struct pty_probe *probe)
{
    if (!probe->baud)
        return true;
    bool hears_nothing = probe->is_deaf && probe->baud != probe->first_baud;
    return !hears_nothing && pty_line_baud(&probe->line) == probe->baud;
}

static bool set_baud(void *context, uint32_t baud)
{
    struct pty_probe *probe = context;
    probe->baud = baud ? baud : probe->first_baud;
    return true;
}

enum { GARBLED = 0x5A };

static uint8_t receive(void *context, uint8_t *bytes, uint8_t most)
{
    struct pty_probe *probe = context;
    if (probe->in_at == probe->in_count) {
        ssize_t got = read(probe->line.line, probe->in, sizeof probe->in);
        probe->in_at = 0;
        probe->in_count = got > 0 ? (uint32_t)got : 0;
    }
    uint8_t count = 0;
    for (; count < most && probe->in_at != probe->in_count; probe->was_idle = false) {
        uint8_t byte = probe->in[probe->in_at++];
        bytes[count++] = is_in_tune(probe) ? byte : byte ^ GARBLED;
    }
    return count;
}

/* Nobody need read what we send: it must not stop us. */
static void send_all(const struct pty_probe *probe, const uint8_t *bytes, size_t count)
{
    enum { MOST_MS = 500 };
    while (count) {
        struct pollfd ready = {probe->line.line, POLLOUT, 0};
        ssize_t written = write(probe->line.line, bytes, count);
        if (written > 0) {
            bytes += written;
            count -= (size_t)written;
        } else if ((written < 0 && errno != EAGAIN && errno != EINTR) ||
                   poll(&ready, 1, MOST_MS) == 0) {
            return;
        }
    }
}

/* A frame comes in small parts, and goes out at its end. */
static void send_bytes(void *context, const uint8_t *bytes, size_t count)
{
    struct pty_probe *probe = context;
    for (size_t i = 0; i < count; i++) {
        probe->out[probe->out_count++] =
            is_in_tune(probe) ? bytes[i] : (uint8_t)(bytes[i] ^ GARBLED);
        if (probe->out_count == sizeof probe->out || !bytes[i]) {
            send_all(probe, probe->out, probe->out_count);
            probe->out_count = 0;
        }
    }
}

static uint32_t clock_us(void *context)
{
    struct timespec now;
    (void)context;
    clock_gettime(CLOCK_MONOTONIC, &now);
    return (uint32_t)((uint64_t)now.tv_sec * 1000000u + (uint64_t)now.tv_nsec / 1000u);
}

/* --- its memory -------------------------------------------------------------------------- */

static bool make_store(struct cm_link_store *store, struct pty_size size)
{
    *store = (struct cm_link_store){.ops = calloc(size.ops, sizeof *store->ops),
                                    .most_ops = size.ops,
                                    .cycles = calloc(CYCLES, sizeof *store->cycles),
                                    .pulses = calloc(PULSES, sizeof *store->pulses),
                                    .most_cycles = CYCLES,
                                    .most_pulses = PULSES};
    return store->ops && store->cycles && store->pulses;
}

static bool make_board(struct pty_probe *probe, const struct cm_port *port, struct pty_size size)
{
    struct cm_probe_board *board = &probe->board;
    *board = (struct cm_probe_board){.name = "pretended probe",
                                     .port = port,
                                     .buses = 0x1F,
                                     .window = size.window,
                                     .receive = receive,
                                     .send = send_bytes,
                                     .clock_us = clock_us,
                                     .context = probe,
                                     .buffer_bytes = size.batch_bytes + CM_LINK_FRAME,
                                     .slots = calloc(size.window, sizeof *board->slots)};
    bool good = make_store(&probe->probe.store, size) && board->slots;
    for (uint8_t i = 0; good && i < size.window; i++) {
        board->slots[i].bytes = malloc(board->buffer_bytes);
        good = board->slots[i].bytes != NULL;
    }
    return good;
}

bool pty_line_open(struct pty_line *line, int flags)
{
    struct termios settings;
    line->held = -1;
    line->line = posix_openpt(O_RDWR | O_NOCTTY | O_CLOEXEC | flags);
    if (line->line < 0 || grantpt(line->line) != 0 || unlockpt(line->line) != 0 ||
        ptsname_r(line->line, line->device, sizeof line->device) != 0)
        return false;
    line->held = open(line->device, O_RDWR | O_NOCTTY | O_CLOEXEC);
    if (line->held < 0 || tcgetattr(line->held, &settings) != 0)
        return false;
    cfmakeraw(&settings);
    return tcsetattr(line->held, TCSANOW, &settings) == 0;
}

void pty_line_close(struct pty_line *line)
{
    if (line->held >= 0)
        close(line->held);
    if (line->line >= 0)
        close(line->line);
}

/* --- all --------------------------------------------------------------------------------- */

struct pty_probe *pty_probe_open(const struct cm_port *port, struct pty_size size)
{
    struct pty_probe *probe = calloc(1, sizeof *probe);
    if (!probe)
        return NULL;
    if (!pty_line_open(&probe->line, O_NONBLOCK) || !make_board(probe, port, size)) {
        pty_probe_close(probe);
        return NULL;
    }
    probe->probe.board = &probe->board;
    cm_probe_begin(&probe->probe);
    return probe;
}

const char *pty_probe_device(const struct pty_probe *probe)
{
    return probe->line.device;
}

void pty_probe_set_rates(struct pty_probe *probe, uint32_t first, uint32_t fastest, bool is_deaf)
{
    probe->first_baud = probe->baud = first;
    probe->is_deaf = is_deaf;
    probe->board.set_baud = set_baud;
    probe->board.fastest_baud = fastest;
}

int pty_probe_line(const struct pty_probe *probe)
{
    return probe->line.line;
}

bool pty_probe_in_session(const struct pty_probe *probe)
{
    return probe->probe.session != 0;
}

void pty_probe_step(struct pty_probe *probe)
{
    struct pollfd ready = {probe->line.line, POLLIN, 0};
    probe->was_idle = true;
    cm_probe_step(&probe->probe);
    if (probe->was_idle)
        (void)poll(&ready, 1, IDLE_MS);
}

void pty_probe_restart(struct pty_probe *probe)
{
    for (uint8_t i = 0; i < probe->board.window; i++)
        probe->board.slots[i].state = 0;
    struct cm_link_store store = probe->probe.store;
    store.op_count = 0;
    store.data = NULL;
    probe->probe = (struct cm_probe){.board = &probe->board, .store = store};
    probe->in_at = probe->in_count = 0;
    probe->out_count = 0;
    probe->baud = probe->first_baud;
    cm_probe_begin(&probe->probe);
}

void pty_probe_close(struct pty_probe *probe)
{
    const struct cm_link_store *store = &probe->probe.store;
    for (uint8_t i = 0; probe->board.slots && i < probe->board.window; i++)
        free(probe->board.slots[i].bytes);
    free(probe->board.slots);
    free(store->ops);
    free(store->cycles);
    free(store->pulses);
    pty_line_close(&probe->line);
    free(probe);
}
