/*
 * The same for memories in sockets and on I2C; and the work on files, beside the system's own
 * commands for comparing and for checksums.
 *
 * Floor of a parallel flash: the data sheet's typical times of the erases and of each unit that is
 * programmed, four write cycles for each, one read cycle for each byte that is read back, and one
 * reading of what is compared before. Of an I2C EEPROM: the time of each page, its bits out and
 * back.
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
    ROM = 512 * 1024,
    BANK = 64 * 1024,
    BANK_AT = 3 * BANK,
    CYCLE_NS = 70,
    UNIT_US = 14,
    SECTOR = 4096,
    SECTOR_US = 18000,
    CHIP_US = 70000,
    EEPROM = 32768,
    PAGE = 64,
    PAGE_US = 5000,
    WRITE_CYCLES = 4
};
static uint8_t workspace[WORKSPACE], image[ROM];

static void fill(uint8_t *bytes, uint32_t count, uint32_t seed)
{
    for (uint32_t i = 0; i < count; i++) {
        seed = seed * 1664525u + 1013904223u;
        bytes[i] = (uint8_t)(seed >> 24) & 0xF7; // no byte is blank
    }
}

static double put(struct cm_sim *sim, const struct cm_kit *kit, uint32_t at, uint32_t bytes)
{
    struct cm_session session;
    struct cm_memory memory = {image + at, bytes, at};
    struct cm_want want = {CM_REGION_MAIN, cm_memory_source(&memory)};
    struct cm_put job = {.wants = &want, .want_count = 1};
    struct cm_report report;
    cm_ignore(cm_open(&session, cm_sim_port(sim), kit, 1, workspace, sizeof workspace));
    enum cm_status status = CM_OK;
    if (kit->family == &cm_eprom)
        status = cm_feed(&session, 5000);
    if (!status)
        status = cm_identify(&session, cm_sim_part(sim)->name);
    uint64_t begun = cm_sim_time_us(sim);
    if (!status)
        status = cm_put(&session, &job, &report);
    if (status) {
        printf("the job failed: %s\n", cm_status_word(status));
        exit(1);
    }
    double us = (double)(cm_sim_time_us(sim) - begun);
    cm_close(&session);
    return us;
}

static void tell(const char *label, double floor_us, const double *us)
{
    printf("  %-50s %8.3f s %8.3f s  %6.4f    %8.3f s  %6.3f\n", label, floor_us / 1e6, us[0] / 1e6,
           us[0] / floor_us, us[1] / 1e6, us[1] / us[0]);
}

/* Each job on a port at hand, and on one at the end of a link. */
static void measure_rom(const char *folder)
{
    static const struct cm_kit kit = {.family = &cm_par,
                                      .parts = cm_par_all_parts,
                                      .part_count = CM_PAR_PART_COUNT,
                                      .carrier = &cm_carry_sectors};
    const double cycle_us = CYCLE_NS / 1e3, unit_us = UNIT_US + WRITE_CYCLES * cycle_us + cycle_us;
    double fresh[2], over[2], bank[2], same[2];
    for (int link = 0; link < 2; link++) {
        char path[300], port[60];
        snprintf(path, sizeof path, "%s/rom.yaml", folder);
        snprintf(port, sizeof port, "port:\n  batch_us: %d\n", link ? LINK_US : 0);
        struct cm_sim *sim = measured_bench(path, "sst39sf040", 5000, port);
        fill(image, ROM, 1);
        fresh[link] = put(sim, &kit, 0, ROM);
        fill(image, ROM, 2);
        over[link] = put(sim, &kit, 0, ROM);
        fill(image + BANK_AT, BANK, 3);
        bank[link] = put(sim, &kit, BANK_AT, BANK);
        same[link] = put(sim, &kit, 0, ROM);
        cm_sim_close(sim);
        cm_sim_renew(path);
    }
    tell("512 KiB into an erased chip", ROM * unit_us, fresh);
    tell("512 KiB over other contents", CHIP_US + ROM * unit_us, over);
    tell("one bank of 64 KiB replaced", BANK / SECTOR * SECTOR_US + BANK * unit_us, bank);
    tell("the same again", ROM * cycle_us, same);
}

/* Others, of which the chip's own time is short, or a pulse of ours. */
struct other {
    const char *part, *label;
    unsigned supply_mv;
    uint32_t bytes;
    uint8_t unit, write_cycles;
    double unit_us, cycle_us;
    const struct cm_kit kit;
};

static const struct other OTHERS[] = {
    {"am29f002bb",
     "64 KiB into an erased Am29F002BB",
     5000,
     BANK,
     1,
     WRITE_CYCLES,
     7,
     0.12,
     {.family = &cm_par, .parts = cm_par_all_parts, .part_count = CM_PAR_PART_COUNT}},
    {"sst39vf1601",
     "64 KiB into an erased SST39VF1601, 16 bits",
     3300,
     BANK,
     2,
     WRITE_CYCLES,
     7,
     0.09,
     {.family = &cm_par, .parts = cm_par_all_parts, .part_count = CM_PAR_PART_COUNT}},
    {"m27c256b",
     "32 KiB into an erased M27C256B",
     0,
     32768,
     1,
     0,
     102,
     0.12,
     {.family = &cm_eprom, .parts = cm_eprom_all_parts, .part_count = CM_EPROM_PART_COUNT}},
};

static void measure_other(const char *folder, const struct other *other)
{
    static const char FED[] = "feeds_from_mv: 1800\n  feeds_to_mv: 6500\n  raises_a9: true\n  "
                              "raises_vpp: true\n  measures_supply: true\n  ";
    double us[2], units = (double)other->bytes / other->unit;
    for (int link = 0; link < 2; link++) {
        char path[300], port[300];
        snprintf(path, sizeof path, "%s/other.yaml", folder);
        snprintf(port, sizeof port, "port:\n  %sbatch_us: %d\n", other->supply_mv ? "" : FED,
                 link ? LINK_US : 0);
        struct cm_sim *sim = measured_bench(path, other->part, other->supply_mv, port);
        fill(image, other->bytes, 4);
        us[link] = put(sim, &other->kit, 0, other->bytes);
        cm_sim_close(sim);
        cm_sim_renew(path);
    }
    tell(other->label, units * (other->unit_us + (other->write_cycles + 1) * other->cycle_us), us);
}

static void measure_eeprom(const char *folder)
{
    static const struct cm_kit kit = {.family = &cm_i2c24,
                                      .parts = cm_i2c24_all_parts,
                                      .part_count = CM_I2C24_PART_COUNT,
                                      .carrier = &cm_carry_sectors};
    double us[2];
    uint32_t hz = 0;
    for (int link = 0; link < 2; link++) {
        char path[300], port[60];
        snprintf(path, sizeof path, "%s/eeprom.yaml", folder);
        snprintf(port, sizeof port, "port:\n  batch_us: %d\n", link ? LINK_US : 0);
        struct cm_sim *sim = measured_bench(path, "24lc256", 3300, port);
        uint64_t begun = cm_sim_bytes(sim);
        us[link] = put(sim, &kit, 0, EEPROM);
        hz = cm_sim_bytes(sim) > begun ? 250000 : 0;
        cm_sim_close(sim);
        cm_sim_renew(path);
    }
    double bit_us = 1e6 / hz;
    tell("32 KiB into an I2C EEPROM, the bus made from lines",
         EEPROM / PAGE * (0.8 * PAGE_US + (2 * 9 * PAGE) * bit_us), us);
}

/* --- files ------------------------------------------------------------------------------- */

struct run_cost run_cost_of(int tries, const char *const *arguments)
{
    struct run_cost best = {1e9, 0};
    for (int i = 0; i < tries; i++) {
        struct timeval begin, end;
        struct rusage usage;
        int status;
        fflush(stdout); // the child must not write it, too
        gettimeofday(&begin, NULL);
        pid_t child = fork();
        if (child == 0) {
            if (!freopen("/dev/null", "w", stdout) || !freopen("/dev/null", "w", stderr))
                _exit(127);
            execvp(arguments[0], (char *const *)(uintptr_t)arguments);
            _exit(127);
        }
        wait4(child, &status, 0, &usage);
        gettimeofday(&end, NULL);
        double seconds =
            (double)(end.tv_sec - begin.tv_sec) + (double)(end.tv_usec - begin.tv_usec) / 1e6;
        if (!WIFEXITED(status) || WEXITSTATUS(status) == 127)
            seconds = -1;
        if (seconds < best.seconds)
            best = (struct run_cost){seconds, usage.ru_maxrss};
    }
    return best;
}

static void tell_cost(const char *label, struct run_cost cost, double mib)
{
    printf("  %-50s %8.3f s  %7.0f MiB/s  %6ld KiB of memory\n", label, cost.seconds,
           mib / cost.seconds, cost.kib);
}

static void make_file(const char *path, uint32_t mib)
{
    FILE *file = fopen(path, "wb");
    for (uint32_t i = 0; file && i < 2 * mib; i++) {
        fill(image, ROM, i + 1);
        if (fwrite(image, 1, ROM, file) != ROM)
            exit(1);
    }
    if (!file || fclose(file) != 0)
        exit(1);
}

static void measure_files(const char *folder)
{
    enum { MIB = 64 };
    char one[300], two[300];
    snprintf(one, sizeof one, "%s/one.bin", folder);
    snprintf(two, sizeof two, "%s/two.bin", folder);
    make_file(one, MIB);
    make_file(two, MIB);
    printf("\nfiles of %d MiB, host\n", MIB);
    tell_cost("image match",
              run_cost_of(3, (const char *const[]){TOOL_PATH, "image", "match", one, two, NULL}),
              2 * MIB);
    tell_cost("  cmp", run_cost_of(3, (const char *const[]){"cmp", one, two, NULL}), 2 * MIB);
    tell_cost("image info (CRC-32, sums, SHA-256, texts)",
              run_cost_of(3, (const char *const[]){TOOL_PATH, "image", "info", one, NULL}), MIB);
    tell_cost("  sha256sum", run_cost_of(3, (const char *const[]){"sha256sum", one, NULL}), MIB);
    struct run_cost show =
        run_cost_of(3, (const char *const[]){TOOL_PATH, "image", "show", one, NULL});
    printf("  %-50s %8.3f s                 %6ld KiB of memory\n", "image show, its first rows",
           show.seconds, show.kib);
    make_file(one, 1);
    tell_cost("image info of 1 MiB, for its memory",
              run_cost_of(3, (const char *const[]){TOOL_PATH, "image", "info", one, NULL}), 1);
    unlink(one);
    unlink(two);
}

void measure_roms(const char *folder)
{
    printf("\n  %-50s %10s %10s  %6s    %10s  %6s\n", "put into sockets and on I2C", "floor", "job",
           "ratio", "by a link", "ratio");
    measure_rom(folder);
    for (size_t i = 0; i < sizeof OTHERS / sizeof OTHERS[0]; i++)
        measure_other(folder, &OTHERS[i]);
    measure_eeprom(folder);
    measure_files(folder);
}
