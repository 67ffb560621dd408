/*
 * Prints how long the standard jobs take in simulated time beside their floor, and how fast HEX
 * files are read.
 *
 * Floor of a job: the data sheet's times of the erases and page writes that are needed, and the
 * bits of the needed instructions on the wire at the fastest clock the data sheet allows (a quarter
 * of the CPU clock, a sixth from 12 MHz on), with every byte read back once. A job begins when the
 * chip is identified. Floor of a command: the same, and the 20 ms that the data sheet wants between
 * reset and the first instruction.
 */
#include "measure.h"
#include <coldmint/coldmint.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>
#include <unistd.h>

enum { ENTER_US = 20000, HEX_BYTES = 8 << 20 };

struct job {
    const char *name, *part, *clock_yaml;
    uint32_t cpu_hz;
    bool erase_first;
    bool untold; /* nobody tells the CPU's clock */
};

static const struct job JOBS[] = {
    {"attiny13a, 1 KiB, 1.2 MHz as delivered", "attiny13a", "", 1200000, false, false},
    {"attiny2313a, 2 KiB, 1 MHz as delivered", "attiny2313a", "", 1000000, false, false},
    {"attiny84a, 8 KiB, 1 MHz as delivered", "attiny84a", "", 1000000, false, false},
    {"attiny84a, 8 KiB, 8 MHz", "attiny84a", "  fuses: [0xE2, 0xDF, 0xFF]\n", 8000000, false,
     false},
    {"attiny84a, 8 KiB over old contents, 8 MHz", "attiny84a", "  fuses: [0xE2, 0xDF, 0xFF]\n",
     8000000, true, false},
    {"atmega1284p, 128 KiB, 1 MHz as delivered", "atmega1284p", "", 1000000, false, false},
    {"atmega1284p, 128 KiB, 16 MHz crystal", "atmega1284p",
     "  fuses: [0xFF, 0x99, 0xFF]\n  board_clock_hz: 16000000\n", 16000000, false, false},
    {"atmega328p, 32 KiB, 20 MHz crystal", "atmega328p",
     "  fuses: [0xF7, 0xD9, 0xFF]\n  board_clock_hz: 20000000\n", 20000000, false, false},
    {"atmega328p, 32 KiB, 20 MHz, clock not told", "atmega328p",
     "  fuses: [0xF7, 0xD9, 0xFF]\n  board_clock_hz: 20000000\n", 20000000, false, true},
    {"atmega2560, 256 KiB, 16 MHz crystal", "atmega2560",
     "  fuses: [0xFF, 0x99, 0xFF]\n  board_clock_hz: 16000000\n", 16000000, false, false},
};

static double host_seconds(void)
{
    struct timespec now;
    clock_gettime(CLOCK_MONOTONIC, &now);
    return (double)now.tv_sec + (double)now.tv_nsec * 1e-9;
}

struct cm_sim *measured_bench(const char *path, const char *part, unsigned supply_mv,
                              const char *more)
{
    char error[SIM_ERROR_BYTES];
    cm_sim_renew(path);
    FILE *file = fopen(path, "w");
    if (!file)
        exit(1);
    fprintf(file, "bench: measured\nchip:\n  part: %s\n  supply_mv: %u\n%s", part, supply_mv, more);
    fclose(file);
    struct cm_sim *sim = cm_sim_open(path, error);
    if (!sim) {
        fprintf(stderr, "%s\n", error);
        exit(1);
    }
    return sim;
}

static struct cm_sim *open_bench(const struct job *job, const char *folder)
{
    char path[300];
    snprintf(path, sizeof path, "%s/measure.yaml", folder);
    return measured_bench(path, job->part, 5000, job->clock_yaml);
}

/* Microseconds that the floor of a job takes; 0 pages: reading only. */
static double floor_us(const struct job *job, const struct cm_avr_part *row, uint32_t pages,
                       bool erase)
{
    double per_instruction = 32e6 * (job->cpu_hz < 12000000 ? 4 : 6) / job->cpu_hz;
    double loads = pages ? (double)row->flash_bytes + pages : 0;
    return (row->flash_bytes + loads + erase) * per_instruction + pages * 4500.0 +
           (erase ? 9000.0 : 0);
}

/* Simulated microseconds. */
struct took {
    double job_us, command_us;
};

/* One command: the way in, the job, the way out. */
static struct took run(struct cm_sim *sim, const struct job *job, uint8_t *image, uint32_t bytes,
                       struct cm_report *report)
{
    static const struct cm_kit kit = {.family = &cm_avr,
                                      .parts = cm_avr_all_parts,
                                      .part_count = CM_AVR_PART_COUNT,
                                      .carrier = &cm_carry_data,
                                      .words = &cm_avr_words,
                                      .find_clock = cm_avr_find_clock};
    static uint8_t workspace[512];
    struct cm_session session;
    struct cm_memory memory = {image, bytes, 0};
    struct cm_want want = {CM_AVR_FLASH, cm_memory_source(&memory)};
    struct cm_put put = {.wants = &want, .want_count = 1};
    uint64_t begun = cm_sim_time_us(sim);
    cm_ignore(cm_open(&session, cm_sim_port(sim), &kit, 1, workspace, sizeof workspace));
    session.cpu_hz = job->untold ? 0 : job->cpu_hz;
    enum cm_status status = cm_identify(&session, job->part);
    uint64_t job_begun = cm_sim_time_us(sim);
    if (!status)
        status = cm_put(&session, &put, report);
    uint64_t job_ended = cm_sim_time_us(sim);
    cm_close(&session);
    if (status) {
        fprintf(stderr, "%s: %s\n", job->name, cm_status_word(status));
        exit(1);
    }
    return (struct took){(double)(job_ended - job_begun), (double)(cm_sim_time_us(sim) - begun)};
}

static void print_row(const char *name, struct took took, double floor)
{
    printf("  %-44s %8.3f s %8.3f s  %6.4f    %8.3f s %6.4f\n", name, floor / 1e6,
           took.job_us / 1e6, took.job_us / floor, took.command_us / 1e6,
           took.command_us / (floor + ENTER_US));
}

static void measure_job(const struct job *job, const char *folder)
{
    struct cm_sim *sim = open_bench(job, folder);
    const struct cm_avr_part *row = cm_sim_model(sim)->row;
    uint32_t bytes = row->flash_bytes, pages = bytes / row->flash_page_bytes;
    uint8_t *image = malloc(bytes);
    struct cm_report report;
    for (uint32_t i = 0; i < bytes; i++)
        image[i] = (uint8_t)(i * 37 + (i >> 8) * 11 + 1);
    if (job->erase_first)
        memset(cm_sim_model(sim)->flash, 0x00, bytes);
    print_row(job->name, run(sim, job, image, bytes, &report),
              floor_us(job, row, pages, job->erase_first));
    print_row("  the same again: one read", run(sim, job, image, bytes, &report),
              floor_us(job, row, 0, false));
    if (report.pages_equal != pages || avr_model_breaches(cm_sim_model(sim)))
        printf("  NOT AS IT SHOULD BE: %u pages equal, %u breaches\n", (unsigned)report.pages_equal,
               (unsigned)avr_model_breaches(cm_sim_model(sim)));
    cm_sim_close(sim);
    free(image);
}

/* --- a bare strike node, made after the demo's recipe ------------------------------------ */

/* The node's flash: loader and application, joined as `mint` does it. */
struct node {
    uint8_t flash[8192];
    bool present[8192];
    uint8_t eeprom[10];
};

static enum cm_status into_node(void *context, uint32_t address, const uint8_t *bytes,
                                uint32_t count, uint32_t line)
{
    struct node *node = context;
    (void)line;
    for (uint32_t i = 0; i < count; i++) {
        node->flash[address + i] = bytes[i];
        node->present[address + i] = true;
    }
    return CM_OK;
}

static void load_hex(struct node *node, const char *folder, const char *name)
{
    char path[300], text[4096];
    struct cm_record_reader reader;
    snprintf(path, sizeof path, "%s/%s", folder, name);
    FILE *file = fopen(path, "r");
    cm_record_begin(&reader, into_node, node);
    for (size_t got; file && (got = fread(text, 1, sizeof text, file)) > 0;)
        cm_ignore(cm_record_feed(&reader, text, got));
    if (!file || cm_record_end(&reader)) {
        fprintf(stderr, "%s cannot be read\n", path);
        exit(1);
    }
    fclose(file);
}

static void make_node(struct node *node, const char *firmware)
{
    enum { LOADER = 0x1A00 };
    uint16_t vector, own_jump;
    memset(node, 0, sizeof *node);
    load_hex(node, firmware, "loader-node.hex");
    load_hex(node, firmware, "strike-node-1.5.hex");
    vector = (uint16_t)(node->flash[0] | node->flash[1] << 8);
    if (!cm_avr_lead_reset_to(&cm_attiny84a.part, LOADER, &vector, &own_jump))
        exit(1);
    memcpy(node->eeprom, "\x07\x64 Bell 7", sizeof node->eeprom);
    const uint8_t words[] = {(uint8_t)vector, (uint8_t)(vector >> 8), (uint8_t)own_jump,
                             (uint8_t)(own_jump >> 8)};
    into_node(node, 0, words, 2, 0);
    into_node(node, LOADER - 2, words + 2, 2, 0);
}

static bool node_extent(void *context, uint32_t from, uint32_t *start, uint32_t *bytes)
{
    const struct node *node = context;
    for (*start = from; *start < 8192 && !node->present[*start]; ++*start)
        continue;
    for (*bytes = 0; *start + *bytes < 8192 && node->present[*start + *bytes]; ++*bytes)
        continue;
    return *bytes > 0;
}

static enum cm_status node_read(void *context, uint32_t address, uint8_t *bytes, uint32_t count)
{
    memcpy(bytes, ((const struct node *)context)->flash + address, count);
    return CM_OK;
}

/*
 * Floor of making it, once it is identified: one fuse byte at the slow clock and two at the new,
 * another way in for each change of clock, and contents. A page of flash is loaded whole, since no
 * sheet says what its buffer holds before.
 */
static double node_floor_us(const struct node *node, double contents_hz, int reentries)
{
    double slow = 32e6 * 4 / 1e6, fast = 32e6 * 4 / contents_hz,
           us = reentries * (double)ENTER_US + 3 * 4500 + 2 * slow + 4 * fast;
    for (uint32_t page = 0; page < 8192; page += 64) {
        uint32_t bytes = 0;
        for (uint32_t i = 0; i < 64; i++)
            bytes += node->present[page + i];
        us += bytes ? 4500 + (64 + 1 + bytes) * fast : 0;
    }
    return us + 3 * 3600 +
           (2 * sizeof node->eeprom + 3) * fast; // the EEPROM's ten bytes lie in three of its pages
}

static struct took make_one(const struct node *node, const char *folder, bool fuses_last)
{
    static const struct job BARE = {
        .part = "attiny84a", .clock_yaml = "", .cpu_hz = 1000000, .name = ""};
    static const struct cm_kit kit = {.family = &cm_avr,
                                      .parts = cm_avr_all_parts,
                                      .part_count = CM_AVR_PART_COUNT,
                                      .carrier = &cm_carry_data,
                                      .words = &cm_avr_words};
    static uint8_t workspace[512];
    uint8_t settings[CM_SETTING_BYTES] = {0xE2, 0xD5, 0xFE, 0xFF};
    struct cm_memory eeprom = {node->eeprom, sizeof node->eeprom, 0};
    struct cm_want wants[] = {{CM_AVR_FLASH, {(void *)(uintptr_t)node, node_extent, node_read}},
                              {CM_AVR_EEPROM, cm_memory_source(&eeprom)}};
    struct cm_mint mint = {.put = {.wants = wants, .want_count = 2}, .settings = settings};
    struct cm_mint_report report;
    struct cm_tune_report tuned;
    struct cm_session session;
    struct cm_sim *sim = open_bench(&BARE, folder);
    uint64_t begun = cm_sim_time_us(sim);
    cm_ignore(cm_open(&session, cm_sim_port(sim), &kit, 1, workspace, sizeof workspace));
    session.cpu_hz = BARE.cpu_hz; // as delivered
    enum cm_status status = cm_identify(&session, "attiny84a");
    uint64_t job_begun = cm_sim_time_us(sim);
    if (!status && fuses_last) {
        status = cm_put(&session, &mint.put, &report.put);
        if (!status)
            status = cm_tune(&session, settings, &tuned);
    } else if (!status) {
        status = cm_mint(&session, &mint, &report);
    }
    uint64_t job_ended = cm_sim_time_us(sim);
    cm_close(&session);
    struct took took = {(double)(job_ended - job_begun), (double)(cm_sim_time_us(sim) - begun)};
    if (status || avr_model_breaches(cm_sim_model(sim)))
        printf("  NOT AS IT SHOULD BE: %s, %u breaches\n", cm_status_word(status),
               (unsigned)avr_model_breaches(cm_sim_model(sim)));
    cm_sim_close(sim);
    return took;
}

static void measure_mint(const char *folder, const char *firmware)
{
    static struct node node;
    make_node(&node, firmware);
    double fast_floor = node_floor_us(&node, 8e6, 1), slow_floor = node_floor_us(&node, 1e6, 0);
    struct took first = make_one(&node, folder, false), last = make_one(&node, folder, true);
    double wire = (slow_floor - fast_floor + ENTER_US) /
                  7; // contents at 8 MHz; at 1 MHz they take eight times as long
    double last_wire =
        last.job_us - first.job_us + wire; // what is not wire is the same: both orders enter twice
    printf("\n  mint of a bare strike node: attiny84a, loader, firmware 1.5, eeprom, three fuse "
           "bytes\n");
    print_row("fuses first: contents at 8 MHz", first, fast_floor);
    print_row("fuses last: contents at 1 MHz", last, fast_floor);
    printf("  contents on the wires: %.0f ms and %.0f ms, a factor of %.1f by clocks of 8; the "
           "rest is the chip's own time\n",
           wire / 1e3, last_wire / 1e3, last_wire / wire);
}

/* --- reading HEX ------------------------------------------------------------------------- */

struct text {
    char *bytes;
    size_t count;
};

static enum cm_status append(void *context, const char *text, size_t bytes)
{
    struct text *all = context;
    memcpy(all->bytes + all->count, text, bytes);
    all->count += bytes;
    return CM_OK;
}

/* A record of 16 bytes for each of so many places, in an order. */
static double seconds_for_lines(uint32_t lines, uint32_t (*place)(uint32_t line, uint32_t lines))
{
    enum { BYTES = 16, SPREAD = 64 };
    const uint8_t data[BYTES] = {1, 2, 3};
    size_t memory_bytes = CM_IMAGE_MEMORY((size_t)lines);
    void *memory = malloc(memory_bytes);
    struct cm_image image;
    double begun = host_seconds();
    cm_image_init(&image, memory, memory_bytes);
    for (uint32_t line = 0; line < lines; line++) {
        if (cm_image_add(&image, place(line, lines) * SPREAD, data, BYTES, line))
            exit(1);
    }
    double took = host_seconds() - begun;
    free(memory);
    return took;
}

static uint32_t rising(uint32_t line, uint32_t lines)
{
    (void)lines;
    return line;
}

static uint32_t falling(uint32_t line, uint32_t lines)
{
    return lines - 1 - line;
}

/* All of them once, for a power of two. */
static uint32_t mixed(uint32_t line, uint32_t lines)
{
    return (line * 2654435761u) & (lines - 1);
}

static void measure_orders(void)
{
    enum { LINES = 1 << 20 };
    printf("  2^20 records, each far from the next, rising   %8.2f s\n",
           seconds_for_lines(LINES, rising));
    printf("    the same, falling                            %8.2f s\n",
           seconds_for_lines(LINES, falling));
    printf("    the same, in no order                        %8.2f s\n",
           seconds_for_lines(LINES, mixed));
}

static void measure_hex(const char *folder)
{
    struct text text = {malloc(HEX_BYTES * 4), 0};
    uint8_t *data = malloc(HEX_BYTES);
    size_t memory_bytes = CM_IMAGE_MEMORY(HEX_BYTES / CM_IMAGE_BLOCK + 1);
    void *memory = calloc(1, memory_bytes);
    char *copy = malloc(HEX_BYTES * 4), path[300];
    struct cm_record_writer writer;
    struct cm_record_reader reader;
    struct cm_image image;
    double best = 1e9, best_copy = 1e9;
    for (uint32_t i = 0; i < HEX_BYTES; i++)
        data[i] = (uint8_t)(i * 2654435761u >> 24);
    cm_record_write_begin(&writer, CM_RECORDS_INTEL, append, &text);
    cm_ignore(cm_record_write(&writer, 0, data, HEX_BYTES));
    cm_ignore(cm_record_write_end(&writer));
    for (int i = 0; i < 5; i++) {
        double begun = host_seconds();
        cm_image_init(&image, memory, memory_bytes);
        cm_record_begin(&reader, cm_record_into_image, &image);
        cm_ignore(cm_record_feed(&reader, text.bytes, text.count));
        if (cm_record_end(&reader) || image.byte_count != HEX_BYTES)
            exit(1);
        double took = host_seconds() - begun;
        best = took < best ? took : best;
        begun = host_seconds();
        memcpy(copy, text.bytes, text.count);
        took = host_seconds() - begun;
        best_copy = took < best_copy ? took : best_copy;
    }
    printf("  reading Intel HEX into a sparse image          %8.0f MB/s of text\n",
           (double)text.count / best / 1e6);
    printf("  memcpy of the same text                        %8.0f MB/s\n",
           (double)text.count / best_copy / 1e6);
    snprintf(path, sizeof path, "%s/measure.hex", folder);
    FILE *file = fopen(path, "w");
    if (file) {
        fwrite(text.bytes, 1, text.count, file);
        fclose(file);
        char command[700];
        snprintf(command, sizeof command, "objcopy -I ihex -O binary %s %s/measure.bin 2>/dev/null",
                 path, folder);
        double begun = host_seconds();
        if (system(command) == 0)
            printf("  objcopy from HEX to binary, as a process       %8.0f MB/s of text\n",
                   (double)text.count / (host_seconds() - begun) / 1e6);
    }
    free(text.bytes), free(data), free(memory), free(copy);
}

static void measure_jobs(const char *folder)
{
    printf("simulated time beside the floor (docs/measuring.md)\n");
    printf("  %-44s %10s %10s  %6s    %10s %6s\n", "put of a full image", "floor", "job", "ratio",
           "command", "ratio");
    for (size_t i = 0; i < sizeof JOBS / sizeof JOBS[0]; i++)
        measure_job(&JOBS[i], folder);
}

static void measure_host(const char *folder)
{
    printf("\nhost throughput\n");
    measure_hex(folder);
    measure_orders();
}

/* measure FOLDER FIRMWARE [SECTION]: all of them, or one. */
int main(int argc, char **argv)
{
    static const struct {
        const char *name;
        void (*measure)(const char *folder);
    } SECTIONS[] = {
        {"jobs", measure_jobs},   {"mint", NULL},           {"memories", measure_memories},
        {"roms", measure_roms},   {"links", measure_links}, {"board", measure_board},
        {"calls", measure_calls}, {"host", measure_host},   {"ledger", measure_ledger}};
    const char *folder = argc > 1 ? argv[1] : "/tmp";
    setvbuf(stdout, NULL, _IOLBF, 0); // what is measured is seen, whatever comes behind it
    for (size_t i = 0; i < sizeof SECTIONS / sizeof SECTIONS[0]; i++) {
        if (argc > 3 && strcmp(argv[3], SECTIONS[i].name) != 0)
            continue;
        if (SECTIONS[i].measure)
            SECTIONS[i].measure(folder);
        else
            measure_mint(folder, argc > 2 ? argv[2] : "demo/firmware");
    }
    return 0;
}
