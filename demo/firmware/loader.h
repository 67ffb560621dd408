/* What the loader's protocol (loader.c) and its boards (loader-console.c, loader-node.c) share. */
#ifndef LOADER_H
#define LOADER_H

#include <stdbool.h>
#include <stdint.h>

enum { LOADER_VERSION = 1 };

/* First byte of flash that the loader keeps for itself; the application ends before it. */
extern const uint32_t application_end;

void application(void) __attribute__((noreturn)); /* where it begins: the linker is told (build) */

void board_begin(void);
bool board_receive(uint8_t *byte, uint16_t wait_ms); /* false: nothing came in that time */
void board_send(uint8_t byte);
void board_run(void) __attribute__((noreturn)); /* starts the application */
bool board_has_application(void);
void board_fill(
    uint32_t address,
    uint16_t word); /* a word of the page buffer; a board may keep the reset vector for itself */
void board_write(uint32_t page); /* erases the page and writes the buffer */

#endif
