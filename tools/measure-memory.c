/*
 * The same for SPI memories: simulated time of the standard jobs beside their floor, on a port at
 * hand and on one at the end of a link; and what a large chip takes of the host.
 *
 * Floor: the data sheet's typical times of the erases and programs that are needed; for each page 8
 * bits of write enable, 32 of instruction and address, its data out and once back; and what must be
 * read to know what is there. A job begins when the chip is identified.
 */
#include "measure.h"
#include <coldmint/coldmint.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/resource.h>
#include <sys/time.h>
#include <sys/wait.h>
#include <unistd.h>

enum {
    WORKSPACE = 1 << 20,
    LINK_US = 1000,
    TUNE = 40960,
    TUNE_AT = 0x260000,
    PAGE_US = 700,
    HALF_US = 120000,
    SECTOR_US = 45000,
    PAGE = 256
};
static const double HZ = 33e6;

static uint8_t workspace[WORKSPACE];

static struct cm_sim *stand(const char *folder, const char *part, int link_us, char *path)
{
    char port[60];
    snprintf(path, 300, "%s/memory.yaml", folder);
    snprintf(port, sizeof port, "port:\n  batch_us: %d\n", link_us);
    return measured_bench(path, part, 3300, port);
}

static double pages_us(double pages)
{
    return pages * (PAGE_US + (8 + 32 + 2 * 8 * PAGE) * 1e6 / HZ);
}

static double reading_us(double bytes)
{
    return bytes * 8e6 / HZ;
}

/* Simulated microseconds of putting an image. */
static double put(struct cm_sim *sim, const uint8_t *image, uint32_t at, uint32_t bytes,
                  struct cm_report *report)
{
    static const struct cm_kit kit = {.family = &cm_nor,
                                      .parts = cm_nor_all_parts,
                                      .part_count = CM_NOR_PART_COUNT,
                                      .carrier = &cm_carry_sectors};
    struct cm_session session;
    struct cm_memory memory = {image + at, bytes, at};
    struct cm_want want = {CM_NOR_FLASH, cm_memory_source(&memory)};
    struct cm_put job = {.wants = &want, .want_count = 1};
    cm_ignore(cm_open(&session, cm_sim_port(sim), &kit, 1, workspace, sizeof workspace));
    enum cm_status status = cm_identify(&session, cm_sim_memory(sim)->row->part.name);
    uint64_t begun = cm_sim_time_us(sim);
    if (!status)
        status = cm_put(&session, &job, report);
    double took = (double)(cm_sim_time_us(sim) - begun);
    cm_close(&session);
    if (status || nor_model_breaches(cm_sim_memory(sim)))
        printf("  NOT AS IT SHOULD BE: %s, %u breaches\n", cm_status_word(status),
               (unsigned)nor_model_breaches(cm_sim_memory(sim)));
    return took;
}

static void print_row(const char *name, double took, double linked, double floor)
{
    printf("  %-50s %8.3f s %8.3f s  %6.4f    %8.3f s  %6.4f\n", name, floor / 1e6, took / 1e6,
           took / floor, linked / 1e6, linked / took);
}

static void fill(uint8_t *bytes, uint32_t count, uint32_t seed)
{
    for (uint32_t i = 0; i < count; i++) {
        seed = seed * 1664525u + 1013904223u;
        bytes[i] = (uint8_t)(seed >> 24 & 0xFE);
    }
}

/* The four jobs on one chip; the second column by a link. */
static void measure_chip(const char *folder, const char *part, uint32_t bytes)
{
    char path[300], name[100];
    double took[4][2], pages = bytes / (double)PAGE;
    uint8_t *image = malloc(bytes);
    struct cm_report report;
    for (int link = 0; link < 2; link++) {
        struct cm_sim *sim = stand(folder, part, link ? LINK_US : 0, path);
        fill(image, bytes, 1);
        took[0][link] = put(sim, image, 0, bytes, &report);
        took[1][link] = put(sim, image, 0, bytes, &report);
        fill(image + TUNE_AT, TUNE, 2);
        took[2][link] = put(sim, image, 0, bytes, &report);
        fill(image + TUNE_AT, TUNE, 3);
        took[3][link] = put(sim, image, TUNE_AT, TUNE, &report);
        cm_sim_close(sim);
    }
    snprintf(name, sizeof name, "%s, %u MiB, erased: all of it", part, (unsigned)(bytes >> 20));
    print_row(name, took[0][0], took[0][1], pages_us(pages));
    print_row("  the same again: one read", took[1][0], took[1][1], reading_us(bytes));
    double change = HALF_US + 2 * SECTOR_US +
                    pages_us(TUNE / (double)PAGE); // 40 KiB: half a block and two sectors
    print_row("  a tune of 40 KiB changed, all given", took[2][0], took[2][1],
              reading_us(bytes - TUNE) + change);
    print_row("  a tune of 40 KiB changed, it alone given", took[3][0], took[3][1], change);
    free(image);
}

/* A command of the tool: wall time, and the most memory of its own (not the chip's cells, which are
 * a mapped file). */
static void run_command(const char *label, const char *via, const char *verb, const char *file)
{
    struct timeval begin, end;
    int pipes[2], status;
    char line[200];
    long anonymous = 0;
    if (pipe(pipes) != 0)
        exit(1);
    fflush(stdout);
    gettimeofday(&begin, NULL);
    pid_t child = fork();
    if (child == 0) {
        dup2(pipes[1], STDERR_FILENO);
        if (!freopen("/dev/null", "w", stdout))
            _exit(127);
        execl(TOOL_PATH, "coldmint", verb, "--via", via, file, (char *)NULL);
        _exit(127);
    }
    close(pipes[1]);
    snprintf(line, sizeof line, "/proc/%d/status", (int)child);
    for (pid_t done = 0; done == 0; done = waitpid(child, &status, WNOHANG)) {
        char text[200];
        bool runs = false; // before that it is still a copy of this program
        FILE *file_of = fopen(line, "r");
        while (file_of && fgets(text, sizeof text, file_of)) {
            long kib;
            runs |= strncmp(text, "Name:\tcoldmint", 14) == 0;
            if (runs && sscanf(text, "RssAnon: %ld", &kib) == 1 && kib > anonymous)
                anonymous = kib;
        }
        if (file_of)
            fclose(file_of);
        usleep(2000);
    }
    close(pipes[0]);
    gettimeofday(&end, NULL);
    double seconds =
        (double)(end.tv_sec - begin.tv_sec) + (double)(end.tv_usec - begin.tv_usec) / 1e6;
    printf("  %-50s %8.2f s on the host, %6ld KiB of memory%s\n", label, seconds, anonymous,
           WIFEXITED(status) && WEXITSTATUS(status) == 0 ? "" : "  FAILED");
}

static void measure_host(const char *folder, const char *part, const char *label)
{
    char path[300], via[320], kept[320], text[100];
    struct cm_sim *sim = stand(folder, part, 0, path);
    struct nor_model *model = cm_sim_memory(sim);
    fill(model->memory, model->row->bytes, 9);
    cm_sim_close(sim);
    snprintf(via, sizeof via, "sim:%s", path);
    snprintf(kept, sizeof kept, "%s/kept.mint", folder);
    unlink(kept);
    snprintf(text, sizeof text, "keep %s into a capsule", label);
    run_command(text, via, "keep", kept);
    snprintf(text, sizeof text, "match %s with it", label);
    run_command(text, via, "match", kept);
    unlink(kept);
    cm_sim_renew(path);
}

/* All of a chip read once, at the plain read's clock and at the fast one's. */
static void measure_reading(const char *folder, const char *part, uint32_t asked_hz)
{
    static uint8_t bytes[1 << 20];
    static const struct cm_kit kit = {
        .family = &cm_nor, .parts = cm_nor_all_parts, .part_count = CM_NOR_PART_COUNT};
    char path[300], text[100];
    struct cm_session session;
    snprintf(path, sizeof path, "%s/memory.yaml", folder);
    struct cm_sim *sim = measured_bench(path, part, 3300, "port:\n  max_clock_hz: 104000000\n");
    uint32_t count = cm_sim_memory(sim)->row->bytes;
    cm_ignore(cm_open(&session, cm_sim_port(sim), &kit, 1, workspace, sizeof workspace));
    session.cpu_hz = asked_hz;
    enum cm_status status = cm_identify(&session, part);
    uint64_t begun = cm_sim_time_us(sim);
    for (uint32_t at = 0; !status && at < count; at += sizeof bytes)
        status = cm_read(&session, CM_NOR_FLASH, at, bytes, sizeof bytes);
    double took = (double)(cm_sim_time_us(sim) - begun),
           floor = count * 8e6 / (double)session.clock_hz;
    snprintf(text, sizeof text, "%s, all of it read at %.0f MHz", part, session.clock_hz / 1e6);
    printf("  %-50s %8.3f s %8.3f s  %6.4f%s\n", text, floor / 1e6, took / 1e6, took / floor,
           status || nor_model_breaches(cm_sim_memory(sim)) ? "  NOT AS IT SHOULD BE" : "");
    cm_close(&session);
    cm_sim_close(sim);
}

void measure_memories(const char *folder)
{
    printf("\n  %-50s %10s %10s  %6s    %10s  %6s\n", "put into SPI flash at 33 MHz", "floor",
           "job", "ratio", "by a link", "ratio");
    measure_chip(folder, "w25q32", 4 << 20);
    measure_chip(folder, "w25q128", 16 << 20);
    measure_reading(folder, "w25q128", 0);
    measure_reading(folder, "w25q128", 104000000);
    printf("\nhost, for large chips\n");
    measure_host(folder, "w25q32", "4 MiB");
    measure_host(folder, "w25q512jv", "64 MiB");
}
