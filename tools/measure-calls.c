/*
 * What calls of a port cost: the same jobs at 0, 20 and 100 us a call, on a port of single calls
 * and on one that packs them. A system call takes some 20 us, a USB transfer 100 us and more.
 */
#include "measure.h"
#include <coldmint/coldmint.h>
#include <stdio.h>
#include <string.h>

enum { MOST_BYTES = 65536, COSTS = 3 };

struct call_job {
    const char *name, *part;
    unsigned supply_mv;
    uint32_t bytes, page_bytes;
    bool again; /* it is measured when the chip holds all of it already */
};

static const struct call_job JOBS[] = {
    {"64 KiB into new NOR", "w25q16", 3300, 65536, 256, false},
    {"64 KiB of NOR found equal", "w25q16", 3300, 65536, 256, true},
    {"16 KiB into NOR, by words", "sst25vf016b", 3300, 16384, 2, false},
    {"16 KiB of AVR at 1 MHz", "attiny167", 5000, 16384, 128, false},
    {"16 KiB of AVR at 1 MHz found equal", "attiny167", 5000, 16384, 128, true},
};

static const struct cm_kit KITS[] = {{.family = &cm_nor,
                                      .parts = cm_nor_all_parts,
                                      .part_count = CM_NOR_PART_COUNT,
                                      .carrier = &cm_carry_sectors},
                                     {.family = &cm_avr,
                                      .parts = cm_avr_all_parts,
                                      .part_count = CM_AVR_PART_COUNT,
                                      .carrier = &cm_carry_data}};

struct cost {
    double ms;
    uint64_t calls;
};

static struct cost put(struct cm_sim *sim, const struct call_job *job)
{
    static uint8_t workspace[MOST_BYTES], image[MOST_BYTES];
    struct cm_session session;
    struct cm_report report;
    struct cm_memory memory = {image, job->bytes, 0};
    struct cm_want want = {CM_REGION_MAIN, cm_memory_source(&memory)};
    struct cm_put what = {.wants = &want, .want_count = 1, .unprotect = true};
    for (uint32_t i = 0; i < job->bytes; i++)
        image[i] = (uint8_t)(i * 37 + (i >> 8) * 11 + 1) & 0xF7;
    cm_ignore(cm_open(&session, cm_sim_port(sim), KITS, 2, workspace, sizeof workspace));
    session.cpu_hz = cm_sim_model(sim) ? 1000000 : 0;
    enum cm_status status = cm_identify(&session, job->part);
    uint64_t begun = cm_sim_time_us(sim), calls = cm_sim_calls(sim);
    if (!status)
        status = cm_put(&session, &what, &report);
    struct cost cost = {(double)(cm_sim_time_us(sim) - begun) / 1e3, cm_sim_calls(sim) - calls};
    cm_close(&session);
    if (status)
        printf("  NOT AS IT SHOULD BE: %s\n", cm_status_word(status));
    return cost;
}

static struct cost measure_job(const char *folder, const struct call_job *job, int call_us,
                               bool packs)
{
    char path[300], port[80];
    snprintf(path, sizeof path, "%s/calls.yaml", folder);
    snprintf(port, sizeof port, "port:\n  call_us: %d\n  frames: %s\n", call_us,
             packs ? "true" : "false");
    struct cm_sim *sim = measured_bench(path, job->part, job->supply_mv, port);
    struct cost cost = put(sim, job);
    if (job->again)
        cost = put(sim, job);
    cm_sim_close(sim);
    return cost;
}

void measure_calls(const char *folder)
{
    static const int COST_US[COSTS] = {0, 20, 100};
    printf("\nwhat calls cost: ms at so many us a call, and calls a page, single > packed\n");
    printf("  %-36s %19s %19s %19s   %s\n", "", "0 us", "20 us", "100 us", "calls a page, 20 us");
    for (size_t i = 0; i < sizeof JOBS / sizeof JOBS[0]; i++) {
        double pages = JOBS[i].bytes / (double)JOBS[i].page_bytes, calls[2] = {0};
        printf("  %-36s", JOBS[i].name);
        for (int at = 0; at < COSTS; at++) {
            struct cost single = measure_job(folder, &JOBS[i], COST_US[at], false),
                        packed = measure_job(folder, &JOBS[i], COST_US[at], true);
            printf(" %8.1f > %8.1f", single.ms, packed.ms);
            if (COST_US[at] == 20) {
                calls[0] = (double)single.calls;
                calls[1] = (double)packed.calls;
            }
        }
        printf("   %7.2f > %5.2f\n", calls[0] / pages, calls[1] / pages);
    }
}
