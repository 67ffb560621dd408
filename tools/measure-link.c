/*
 * Jobs through a probe at the end of a serial line, in real time: the bench keeps the pace of real
 * hardware, and a process in between gives the line its rate and 1 ms of latency each way.
 *
 * Floor: the longer one of two: the same job on a port of this computer at the same pace, and the
 * image once over the line, ten bits a byte.
 */
#define _GNU_SOURCE
#include "measure.h"
#include <coldmint/coldmint.h>
#include <coldmint/ports.h>
#include <fcntl.h>
#include <link/link.h>
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

enum {
    LATENCY_NS = 1000000,
    BITS = 10,
    ROOM = 1 << 13,
    BACKLOG = 4096,
    PIECE = 4096,
    WORKSPACE = 1 << 17
};

struct link_job {
    const char *name, *part, *more;
    unsigned supply_mv;
    const struct cm_kit *kit;
    uint32_t cpu_hz, bytes, baud;
    struct pty_size size;
};

static uint64_t now_ns(void)
{
    struct timespec now;
    clock_gettime(CLOCK_MONOTONIC, &now);
    return (uint64_t)now.tv_sec * 1000000000u + (uint64_t)now.tv_nsec;
}

/* --- the line ---------------------------------------------------------------------------- */

/* One direction: bytes on their way, and when each arrives. */
struct way {
    int from, to;
    uint8_t bytes[ROOM];
    uint64_t due[ROOM];
    uint32_t head, tail;
    uint64_t busy_until;
};

static void take(struct way *way, uint64_t byte_ns)
{
    uint8_t bytes[PIECE];
    ssize_t got = read(way->from, bytes, sizeof bytes);
    uint64_t now = now_ns();
    if (way->busy_until < now)
        way->busy_until = now;
    for (ssize_t i = 0; i < got; i++) {
        way->busy_until += byte_ns;
        way->bytes[way->head % ROOM] = bytes[i];
        way->due[way->head++ % ROOM] = way->busy_until + LATENCY_NS;
    }
}

/* A serial line's driver takes no more than it has room for. */
static bool has_room(const struct way *way)
{
    return way->head - way->tail < BACKLOG;
}

/* Hands over what has arrived. When the next byte does; UINT64_MAX: none is on its way. */
static uint64_t give(struct way *way)
{
    uint8_t bytes[PIECE];
    size_t count = 0;
    for (uint64_t now = now_ns();
         way->tail != way->head && way->due[way->tail % ROOM] <= now && count < sizeof bytes;)
        bytes[count++] = way->bytes[way->tail++ % ROOM];
    for (size_t at = 0; at < count;) {
        ssize_t written = write(way->to, bytes + at, count - at);
        if (written <= 0)
            break;
        at += (size_t)written;
    }
    return way->tail == way->head ? UINT64_MAX : way->due[way->tail % ROOM];
}

static _Noreturn void play_line(int near_line, int far_line, uint32_t baud)
{
    static struct way out, in;
    const uint64_t byte_ns = BITS * 1000000000ull / baud;
    prctl(PR_SET_PDEATHSIG, SIGKILL);
    out.from = in.to = near_line;
    out.to = in.from = far_line;
    for (;;) {
        uint64_t next = give(&out), other = give(&in), now = now_ns();
        next = other < next ? other : next;
        next = next < now ? now : next - now > 1000000000u ? now + 1000000000u : next;
        struct timespec wait = {(time_t)((next - now) / 1000000000u),
                                (long)((next - now) % 1000000000u)};
        struct pollfd ready[2] = {{near_line, has_room(&out) ? POLLIN : 0, 0},
                                  {far_line, has_room(&in) ? POLLIN : 0, 0}};
        if (ppoll(ready, 2, &wait, NULL) <= 0)
            continue;
        if (ready[0].revents & POLLIN)
            take(&out, byte_ns);
        if (ready[1].revents & POLLIN)
            take(&in, byte_ns);
    }
}

/* A line of this rate in front of a probe. Its device goes to `device`. */
static pid_t begin_line(const char *probe, uint32_t baud, char *device)
{
    struct pty_line near_line;
    int far_line = open(probe, O_RDWR | O_NOCTTY);
    if (!pty_line_open(&near_line, 0) || far_line < 0)
        exit(1);
    pid_t line = fork();
    if (line == 0)
        play_line(near_line.line, far_line, baud);
    pty_line_close(&near_line);
    close(far_line);
    memcpy(device, near_line.device, sizeof near_line.device);
    return line;
}

/* --- the probe --------------------------------------------------------------------------- */

static _Noreturn void play_probe(struct cm_sim *sim, struct pty_size size, int report)
{
    char device[64];
    prctl(PR_SET_PDEATHSIG, SIGKILL);
    struct pty_probe *probe = pty_probe_open(cm_sim_port(sim), size);
    if (!probe)
        _exit(1);
    snprintf(device, sizeof device, "%s", pty_probe_device(probe));
    if (write(report, device, sizeof device) != sizeof device)
        _exit(1);
    for (;;)
        pty_probe_step(probe);
}

static pid_t begin_probe(struct cm_sim *sim, struct pty_size size, char *device)
{
    int report[2];
    if (pipe(report))
        exit(1);
    pid_t probe = fork();
    if (probe == 0)
        play_probe(sim, size, report[1]);
    close(report[1]);
    if (read(report[0], device, 64) != 64)
        exit(1);
    close(report[0]);
    return probe;
}

static void end(pid_t process)
{
    if (process <= 0) // -1 would be every process there is
        return;
    kill(process, SIGKILL);
    waitpid(process, NULL, 0);
}

/* --- jobs -------------------------------------------------------------------------------- */

/* Real seconds of putting the image: programmed and read back. */
static double put_once(const struct link_job *job, const struct cm_port *port, uint8_t *image)
{
    static uint8_t workspace[WORKSPACE];
    struct cm_session session;
    struct cm_report report;
    struct cm_memory memory = {image, job->bytes, 0};
    struct cm_want want = {CM_REGION_MAIN, cm_memory_source(&memory)};
    struct cm_put put = {.wants = &want, .want_count = 1};
    cm_ignore(cm_open(&session, port, job->kit, 1, workspace, sizeof workspace));
    session.cpu_hz = job->cpu_hz;
    enum cm_status status = cm_identify(&session, job->part);
    uint64_t begun = now_ns();
    if (!status)
        status = cm_put(&session, &put, &report);
    double took = (double)(now_ns() - begun) / 1e9;
    cm_close(&session);
    if (status)
        printf("  NOT AS IT SHOULD BE: %s\n", cm_status_word(status));
    return took;
}

static struct cm_sim *stand(const struct link_job *job, const char *folder)
{
    char path[300], more[200];
    snprintf(path, sizeof path, "%s/link.yaml", folder);
    snprintf(more, sizeof more, "%space: 1\n", job->more);
    return measured_bench(path, job->part, job->supply_mv, more);
}

static double put_here(const struct link_job *job, const char *folder, uint8_t *image)
{
    struct cm_sim *sim = stand(job, folder);
    double took = put_once(job, cm_sim_port(sim), image);
    cm_sim_close(sim);
    return took;
}

static double put_there(const struct link_job *job, const char *folder, uint8_t *image,
                        struct link_counts *counts)
{
    char device[64], error[CM_PORT_ERROR_BYTES];
    struct cm_open_port port = {.kind = NULL};
    double took = 0;
    struct cm_sim *sim = stand(job, folder);
    pid_t probe = begin_probe(sim, job->size, device);
    pid_t line = begin_line(device, job->baud, device);
    if (cm_port_link.open(device, &port, error) == CM_PORT_OPENED) {
        struct link_counts before = link_counts(port.hardware);
        took = put_once(job, port.port, image);
        *counts = link_counts(port.hardware);
        counts->out -= before.out;
        counts->in -= before.in;
        counts->turns -= before.turns;
        cm_port_link.close(&port);
    } else {
        printf("  NOT AS IT SHOULD BE: %s\n", error);
    }
    end(line);
    end(probe);
    cm_sim_close(sim);
    return took;
}

static void measure_link(const struct link_job *job, const char *folder)
{
    uint8_t *image = malloc(job->bytes);
    struct link_counts counts = {0, 0, 0, 0};
    if (!image)
        exit(1);
    for (uint32_t i = 0; i < job->bytes; i++)
        image[i] = (uint8_t)(i * 37 + (i >> 8) * 11 + 1);
    double here = put_here(job, folder, image), there = put_there(job, folder, image, &counts),
           wire = (double)job->bytes * BITS / job->baud, floor = here > wire ? here : wire;
    printf("  %-44s %8.3f s %8.3f s %8.3f s  %6.4f %9llu %7llu %6llu\n", job->name, here, wire,
           there, there / floor, (unsigned long long)counts.out, (unsigned long long)counts.in,
           (unsigned long long)counts.turns);
    free(image);
}

void measure_links(const char *folder)
{
    static const struct cm_kit AVR = {.family = &cm_avr,
                                      .parts = cm_avr_all_parts,
                                      .part_count = CM_AVR_PART_COUNT,
                                      .strides = &cm_avr_strides};
    static const struct cm_kit NOR = {
        .family = &cm_nor, .parts = cm_nor_all_parts, .part_count = CM_NOR_PART_COUNT};
#define AVR_JOB(name, baud, ...)                                                                   \
    {                                                                                              \
        name, "atmega328p", "  fuses: [0xF7, 0xD9, 0xFF]\n  board_clock_hz: 16000000\n", 5000,     \
            &AVR, 16000000, 32768, baud, __VA_ARGS__                                               \
    }
#define NOR_JOB(name, bytes, baud, ...)                                                            \
    {                                                                                              \
        name, "w25q32", "", 3300, &NOR, 0, bytes, baud, __VA_ARGS__                                \
    }
    static const struct link_job JOBS[] = {
        AVR_JOB("32 KiB AVR, 1 Mbaud, probe of 64 KiB", 1000000, {65536, 64, 4}),
        AVR_JOB("32 KiB AVR, 1 Mbaud, probe of 1 KiB", 1000000, {1024, 24, 2}),
        AVR_JOB("32 KiB AVR, 115200 baud, probe of 1 KiB", 115200, {1024, 24, 2}),
        NOR_JOB("1 MiB flash, 1 Mbaud, probe of 64 KiB", 1 << 20, 1000000, {65536, 64, 4}),
        NOR_JOB("1 MiB flash, 1 Mbaud, probe of 1 KiB", 1 << 20, 1000000, {1024, 24, 2}),
        NOR_JOB("128 KiB flash, 115200 baud, probe of 1 KiB", 1 << 17, 115200, {1024, 24, 2})};
    printf("\n  %-44s %10s %10s %10s  %6s %9s %7s %6s\n", "put over a line of 1 ms latency", "here",
           "its bytes", "over it", "ratio", "out", "in", "turns");
    fflush(stdout);
    for (size_t i = 0; i < sizeof JOBS / sizeof JOBS[0]; i++)
        measure_link(&JOBS[i], folder);
}
