/*
 * Reads the first bytes of a flash in a socket, twice, and prints them. Runs on
 * examples/socket-port.c.
 *
 *     read-a-rom BENCH.yaml
 */
#include "board.h"
#include <coldmint/coldmint.h>
#include <ctype.h>
#include <stdio.h>

extern const struct cm_port cm_socket_port;

static const struct cm_part *const PARTS[] = {&cm_sst39sf010a.part, &cm_sst39sf020a.part,
                                              &cm_sst39sf040.part, &cm_am29f040b.part};
static const struct cm_kit KIT = {.family = &cm_par, .parts = PARTS, .part_count = 4};

int main(int argc, char **argv)
{
    static uint8_t workspace[CM_STATE_BYTES + 256];
    uint8_t bytes[32];
    struct cm_session session;
    if (argc != 2 || !board_begin(argv[1]))
        return 2;
    enum cm_status status =
        cm_open(&session, &cm_socket_port, &KIT, 1, workspace, sizeof workspace);
    if (!status)
        status = cm_identify(&session,
                             "sst39sf040"); // by name: an EEPROM must not be asked as a flash is
    if (!status)
        status = cm_read_twice(&session, CM_REGION_MAIN, 0, bytes, sizeof bytes);
    if (status) {
        printf("%s\n", cm_status_word(status));
    } else {
        printf("%s, id %02X %02X: ", session.part->name, session.id[0], session.id[1]);
        for (unsigned i = 0; i < sizeof bytes; i++)
            putchar(isprint(bytes[i]) ? bytes[i] : '.');
        putchar('\n');
    }
    cm_close(&session);
    board_end();
    return status ? 1 : 0;
}
