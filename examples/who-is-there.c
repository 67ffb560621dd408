/*
 * Asks the chip at the end of four pins who it is. Runs on examples/smallest-port.c.
 *
 *     who-is-there BENCH.yaml
 */
#include "board.h"
#include <coldmint/coldmint.h>
#include <stdio.h>

extern const struct cm_port cm_smallest_port;

/* This program carries three parts, and no others. */
static const struct cm_part *const PARTS[] = {&cm_attiny84a.part, &cm_atmega328p.part,
                                              &cm_atmega1284p.part};
static const struct cm_kit KIT = {.family = &cm_avr, .parts = PARTS, .part_count = 3};

int main(int argc, char **argv)
{
    static uint8_t workspace[CM_STATE_BYTES + 256];
    struct cm_session session;
    if (argc != 2 || !board_begin(argv[1]))
        return 2;
    enum cm_status status =
        cm_open(&session, &cm_smallest_port, &KIT, 1, workspace, sizeof workspace);
    if (!status)
        status = cm_identify(&session, NULL);
    if (!status)
        printf("%s, id %02X %02X %02X, at %u Hz\n", session.part->name, session.id[0],
               session.id[1], session.id[2], (unsigned)session.clock_hz);
    else
        printf("%s\n", cm_status_word(status));
    cm_close(&session);
    board_end();
    return status ? 1 : 0;
}
