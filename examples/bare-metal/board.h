/* The board, as the program sees it. */
#ifndef BOARD_H
#define BOARD_H

struct cm_port;
extern struct cm_port board_port;

void board_begin(void);
void board_say(const char *text);
void board_exit(int code);

#endif
