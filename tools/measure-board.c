/*
 * An ATmega328P as a probe, its processor simulated: what its program costs a byte of an AVR's
 * flash, and a whole put against the target's own floor. All in the processor's time.
 */
#define _GNU_SOURCE
#include "measure.h"
#include <coldmint/coldmint.h>
#include <coldmint/ports.h>
#include <processor/avr_board.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/mman.h>
#include <sys/prctl.h>
#include <sys/wait.h>
#include <unistd.h>

enum { HZ = 16000000, BYTES = 32768, PAGE = 128, T_WD_FLASH_US = 4500, WORKSPACE = 1 << 17 };

/* What the board's process tells. */
struct board_facts {
    volatile uint64_t cycles;
    char device[64];
    volatile bool is_ready;
};

static _Noreturn void play_board(struct cm_sim *sim, struct board_facts *facts)
{
    prctl(PR_SET_PDEATHSIG, SIGKILL);
    struct avr_board *board = avr_board_open("atmega328p", FIRMWARE "/atmega328p.elf", sim);
    snprintf(facts->device, sizeof facts->device, "%s", avr_board_device(board));
    facts->is_ready = true;
    while (avr_board_run(board, 1))
        facts->cycles = avr_board_cycles(board);
    _exit(1);
}

/* Cycles of a put that programs all of it and reads it back; 0: it failed. */
static uint64_t put_all(const struct board_facts *facts, uint8_t *image, uint32_t *clock_hz)
{
    static const struct cm_kit KIT = {.family = &cm_avr,
                                      .parts = cm_avr_all_parts,
                                      .part_count = CM_AVR_PART_COUNT,
                                      .strides = &cm_avr_strides};
    static uint8_t workspace[WORKSPACE];
    char error[CM_PORT_ERROR_BYTES];
    struct cm_open_port port = {.kind = NULL};
    struct cm_session session;
    struct cm_report report;
    struct cm_memory memory = {image, BYTES, 0};
    struct cm_want want = {CM_REGION_MAIN, cm_memory_source(&memory)};
    struct cm_put put = {.wants = &want, .want_count = 1};
    if (cm_port_link.open(facts->device, &port, error) != CM_PORT_OPENED) {
        printf("  NOT AS IT SHOULD BE: %s\n", error);
        return 0;
    }
    cm_ignore(cm_open(&session, port.port, &KIT, 1, workspace, sizeof workspace));
    session.cpu_hz = HZ;
    enum cm_status status = cm_identify(&session, "atmega328p");
    uint64_t begun = facts->cycles;
    if (!status)
        status = cm_put(&session, &put, &report);
    uint64_t cycles = facts->cycles - begun;
    *clock_hz = session.clock_hz;
    cm_close(&session);
    cm_port_link.close(&port);
    if (status)
        printf("  NOT AS IT SHOULD BE: %s\n", cm_status_word(status));
    return status ? 0 : cycles;
}

void measure_board(const char *folder)
{
    static uint8_t image[BYTES];
    char path[300];
    uint32_t clock_hz = 0;
    struct board_facts *facts =
        mmap(NULL, sizeof *facts, PROT_READ | PROT_WRITE, MAP_SHARED | MAP_ANONYMOUS, -1, 0);
    for (uint32_t i = 0; i < BYTES; i++)
        image[i] = (uint8_t)(i * 37 + (i >> 8) * 11 + 1);
    snprintf(path, sizeof path, "%s/board.yaml", folder);
    struct cm_sim *sim = measured_bench(
        path, "atmega328p", 5000, "  fuses: [0xF7, 0xD9, 0xFF]\n  board_clock_hz: 16000000\n");
    pid_t board = facts != MAP_FAILED ? fork() : -1;
    if (board == 0)
        play_board(sim, facts);
    while (board > 0 && !facts->is_ready)
        usleep(1000);
    uint64_t cycles = board > 0 ? put_all(facts, image, &clock_hz) : 0;
    if (board > 0) { // -1 would be every process there is
        kill(board, SIGKILL);
        waitpid(board, NULL, 0);
    }
    cm_sim_close(sim);
    if (!cycles)
        return;
    enum { INSTRUCTIONS = 2 * BYTES, BITS = 32, MOST_CLOCK_HZ = HZ / 6 };
    double waits = (double)BYTES / PAGE * T_WD_FLASH_US / 1e6, all = (double)cycles / HZ,
           floor = waits + (double)INSTRUCTIONS * BITS / MOST_CLOCK_HZ;
    printf("\n  32 KiB AVR by an ATmega328P, 500 kbaud, SCK %.2f MHz: %.2f s, of which the chip "
           "writes "
           "%.2f s\n"
           "    %.0f cycles a byte that is loaded or read back, of which %.0f on the wires\n"
           "    the target's own floor %.2f s, ratio %.2f\n",
           clock_hz / 1e6, all, waits, (all - waits) * HZ / INSTRUCTIONS,
           (double)BITS * HZ / clock_hz, floor, all / floor);
}
