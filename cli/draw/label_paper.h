/*
 * Labels to print: a title, some lines, and a QR code (ISO/IEC 18004) that holds a text. One alone
 * is a page of its size; several are on sheets of A4.
 */
#ifndef CM_CLI_LABEL_PAPER_H
#define CM_CLI_LABEL_PAPER_H

#include "tool.h"

enum { LABEL_LINES = 4, LABEL_TEXT = 200 };

struct label {
    char lines[LABEL_LINES][LABEL_TEXT]; /* the first one is the title; empty ones are left out */
    char code[LABEL_TEXT];               /* empty: none */
};

/* Size of a label in mm. */
struct label_size {
    double width, height;
};
static const struct label_size LABEL_OF_UNIT = {70, 37}, /* three by eight on a sheet of A4 */
    LABEL_OF_CHIP = {36, 14};                            /* the back of a wide DIP of 28 pins */

/* Draws them; .svg and .png are one page. EXIT_GOOD, or the failure is told. */
enum exit_code labels_on_paper(struct tool *tool, struct label_size size,
                               const struct label *labels, size_t count, const char *path);

#endif
