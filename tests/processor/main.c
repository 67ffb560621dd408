/* processor MCU FIRMWARE BENCH [PACE [LOSS [SEED]]]: plays a probe on a simulated AVR in front of a
 * bench until it is stopped. LOSS: frames of a hundred that the line damages. Prints the device of
 * its serial line; at the end cycles, stack and the bytes of the line. With TEST_TIME it keeps the
 * time that it shares with who talks to it (shared_time.h), and no pace. */
#define _GNU_SOURCE
#include "avr_board.h"
#include "shared_time.h"
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <sys/prctl.h>
#include <time.h>

/* The library that simulates the processor does not free all that it takes. */
const char *__asan_default_options(void);

const char *__asan_default_options(void)
{
    return "detect_leaks=0";
}

static volatile sig_atomic_t is_over, resets;

static void on_signal(int number)
{
    if (number == SIGUSR1)
        resets = 1;
    else
        is_over = 1;
}

/* A millisecond of its time, if it may go on. */
static bool run_when_all_wait(struct avr_board *board, struct shared_time *shared)
{
    static const struct timespec MOMENT = {0, 50000};
    if (!shared_time_may_go_on(shared, avr_board_held(board))) {
        avr_board_listen(board);
        nanosleep(&MOMENT, NULL);
        return true;
    }
    bool runs = avr_board_run(board, AVR_BOARD_UNPACED);
    shared->now_us = avr_board_cycles(board) / AVR_BOARD_MHZ;
    return runs;
}

int main(int argc, char **argv)
{
    char error[SIM_ERROR_BYTES];
    if (argc < 4)
        return 2;
    prctl(PR_SET_PDEATHSIG, SIGTERM);
    signal(SIGTERM, on_signal);
    signal(SIGINT, on_signal);
    signal(SIGUSR1, on_signal);
    struct cm_sim *sim = cm_sim_open(argv[3], error);
    if (!sim) {
        fprintf(stderr, "%s\n", error);
        return 3;
    }
    unsigned pace = argc > 4 ? (unsigned)atoi(argv[4]) : 1;
    struct avr_board *board = avr_board_open(argv[1], argv[2], sim);
    avr_board_lose(board, argc > 5 ? (unsigned)atoi(argv[5]) : 0);
    srand(argc > 6 ? (unsigned)atoi(argv[6]) : 1);
    const char *path = getenv(SHARED_TIME_FILE);
    struct shared_time *shared = path ? shared_time_open(path, true) : NULL;
    printf("%s\n", avr_board_device(board));
    fflush(stdout);
    bool runs = true;
    while (!is_over && runs) {
        if (shared)
            runs = run_when_all_wait(board, shared);
        else
            runs = avr_board_run(board, pace ? pace : 1);
        if (resets)
            avr_board_reset(board);
        resets = 0;
    }
    struct avr_board_line line = avr_board_line(board);
    printf("%llu cycles, RAM %u bytes, of which stack %u; line: in %llu, lost %llu, out %llu%s\n",
           (unsigned long long)avr_board_cycles(board), (unsigned)avr_board_ram(board),
           (unsigned)avr_board_stack(board), (unsigned long long)line.in,
           (unsigned long long)line.lost, (unsigned long long)line.out,
           runs ? "" : ", and then it stopped");
    avr_board_close(board);
    return cm_sim_close(sim) && runs ? 0 : 1;
}
