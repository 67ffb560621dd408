/* The board, as the program sees it. */
#ifndef BOARD_H
#define BOARD_H

#include <stdint.h>

struct cm_port;
struct cm_kit;
extern const struct cm_port board_port;
extern const struct cm_kit board_kit; /* what may be there */

void board_begin(void);

/* console.c */
int call_host(int number, const void *argument); /* Arm semihosting */
void board_say(const char *text);
void board_exit(int code);
uint32_t
board_host_us(void); /* the emulator's clock, for boards whose own is not worth the lines */

#endif
