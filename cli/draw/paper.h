/* Drawing on paper of 1280 by 800, into SVG, PDF or PNG by the file's extension: text, ink, and the
 * file. */
#ifndef CM_CLI_PAPER_H
#define CM_CLI_PAPER_H

#include "tool.h"
#include <cairo.h>

enum { PAPER_WIDTH = 1280, PAPER_HEIGHT = 800 };

struct rgb {
    double r, g, b;
};
static const struct rgb PAPER_INK = {0.12, 0.12, 0.14}, PAPER_PALE = {0.45, 0.45, 0.48},
                        PAPER_WHITE = {1, 1, 1};

enum align { LEFT, MIDDLE, RIGHT };

void paper_ink(cairo_t *cr, struct rgb colour);
void paper_text(cairo_t *cr, double x, double y, double size, bool bold, enum align align,
                const char *text);
void paper_mono(cairo_t *cr, double x, double y, double size, enum align align, const char *text);
void paper_font(cairo_t *cr, bool bold);                /* the one of paper_text */
double paper_text_width(cairo_t *cr, const char *text); /* in the font that was set last */

/* Draws a page that is white at first. EXIT_GOOD, or the failure is told. */
typedef void paper_fn(cairo_t *cr, const void *context);
enum exit_code paper_draw(struct tool *tool, const char *path, paper_fn *draw, const void *context);

/* Draws one page, in mm; returns whether another one follows. */
typedef bool paper_page_fn(cairo_t *cr, const void *context, unsigned page);
/* Pages to print, of any size. */
struct paper_pages {
    double width_mm, height_mm;
    unsigned count; /* more than one: only a PDF takes them */
    paper_page_fn *draw;
};
enum exit_code paper_print(struct tool *tool, const char *path, const struct paper_pages *pages,
                           const void *context);

#endif
