/* An AVR that runs a probe's firmware, its pins wired to a simulated bench, its serial line a
 * pseudo terminal. */
#ifndef TESTS_AVR_BOARD_H
#define TESTS_AVR_BOARD_H

#include <sim/sim.h>
#include <stdbool.h>
#include <stdint.h>

struct avr_board;

/* `mcu`: "atmega328p" or "atmega1284p". `firmware`: an ELF file. NULL: a message is on stderr. */
struct avr_board *avr_board_open(const char *mcu, const char *firmware, struct cm_sim *sim);

enum { AVR_BOARD_MHZ = 16, AVR_BOARD_UNPACED = 0 };

/* The device of its serial line; and an open descriptor of it, to see what has not been read. */
const char *avr_board_device(const struct avr_board *board);
int avr_board_held(const struct avr_board *board);

/* Takes what is on its line into the driver's room, as a computer's driver does: a writer need not
 * wait until the processor goes on. From there a byte arrives in each byte's time, whether the
 * processor is ready for it or not. */
void avr_board_listen(struct avr_board *board);

/* Runs for a millisecond of its time, and waits where that would be faster than `pace` times the
 * real one; AVR_BOARD_UNPACED: never. False: the processor has stopped. */
bool avr_board_run(struct avr_board *board, unsigned pace);

/* Cycles so far; bytes of the deepest stack, and of it with all variables. */
uint64_t avr_board_cycles(const struct avr_board *board);
uint32_t avr_board_stack(const struct avr_board *board);
uint32_t avr_board_ram(const struct avr_board *board);

/* Bytes of the serial line: to the processor, and of them those that were lost in its receiver,
 * since it had not taken those before; and from it. */
struct avr_board_line {
    uint64_t in, lost, out;
};
struct avr_board_line avr_board_line(const struct avr_board *board);

/* From here on so many frames of a hundred lose a byte on the line, in either direction. */
void avr_board_lose(struct avr_board *board, unsigned percent);

/* A pin that no target is wired to: held at a level from outside, as a button does; and driven by
 * the processor, as a lamp is. */
void avr_board_hold(struct avr_board *board, char port, uint8_t bit, bool high);
bool avr_board_shows(struct avr_board *board, char port, uint8_t bit);

/* Its EEPROM, which outlives the power. */
void avr_board_read_eeprom(struct avr_board *board, uint8_t *bytes, uint32_t count);
void avr_board_write_eeprom(struct avr_board *board, const uint8_t *bytes, uint32_t count);

/* As when its reset button is pressed. */
void avr_board_reset(struct avr_board *board);

void avr_board_close(struct avr_board *board);

#endif
