/*
 * Labels on paper. Lengths are in mm here.
 *
 *     +--------------------------+
 *     | LARKSPUR 2.0      ▄▄▄ ▄▄ |
 *     | w25q64            █▄█ ▄█ |
 *     | sum 3F2A          ▀▀▀ ▀▀ |
 *     +--------------------------+
 */
#include "label_paper.h"
#include "paper.h"
#include "words/fail.h"
#include <qrencode.h>
#include <stdio.h>
#include <string.h>
#include <strings.h>

enum { ACROSS = 3, DOWN = 8, ON_SHEET = ACROSS * DOWN };
static const double SHEET_WIDTH = 210, SHEET_HEIGHT = 297, MARGIN = 1.5, QUIET_MODULES = 4;

struct sheet {
    struct label_size size;
    const struct label *labels;
    size_t count, first; /* the first of the page; of one alone the page is the label */
};

/* Dark modules on white, with the quiet zone that the standard wants (four modules). Returns the
 * width that it takes. */
static double draw_code(cairo_t *cr, const char *text, double right, double y, double side)
{
    QRcode *code = text[0] ? QRcode_encodeString8bit(text, 0, QR_ECLEVEL_M) : NULL;
    if (!code)
        return 0;
    const double module = side / (code->width + 2 * QUIET_MODULES);
    const double x = right - side + QUIET_MODULES * module;
    cairo_set_antialias(cr, CAIRO_ANTIALIAS_NONE);
    for (int i = 0; i < code->width * code->width; i++) {
        if (code->data[i] & 1)
            cairo_rectangle(cr, x + i % code->width * module,
                            y + (QUIET_MODULES + i / code->width) * module, module, module);
    }
    paper_ink(cr, (struct rgb){0, 0, 0});
    cairo_fill(cr);
    cairo_set_antialias(cr, CAIRO_ANTIALIAS_DEFAULT);
    QRcode_free(code);
    return side;
}

/* `size`, or less where the line would be longer than the room. */
static double fitting(cairo_t *cr, double size, double room, bool is_title, const char *text)
{
    enum { TRIAL = 100 };
    paper_font(cr, is_title);
    cairo_set_font_size(cr, TRIAL);
    double width = paper_text_width(cr, text) / TRIAL;
    return width * size > room ? room / width : size;
}

/* The title, and lines of one size below it, in the middle of the height. */
static void draw_lines(cairo_t *cr, const struct label *label, struct label_size size, double x,
                       double y, double room)
{
    static const double TITLE_MOST = 5, LINE_MOST = 3.4, PITCH = 1.5;
    int count = 0;
    for (int i = 0; i < LABEL_LINES; i++)
        count += label->lines[i][0] != '\0';
    double most = (size.height - 2 * MARGIN) / (count + 0.5);
    double title = most < TITLE_MOST ? most : TITLE_MOST,
           line = most / PITCH * 1.1 < LINE_MOST ? most / PITCH * 1.1 : LINE_MOST;
    for (int i = 1; i < LABEL_LINES; i++)
        line = fitting(cr, line, room, false, label->lines[i]);
    title = fitting(cr, title, room, true, label->lines[0]);
    double height = title + (count - 1) * line * PITCH, at = y + (size.height - height) / 2;
    paper_ink(cr, (struct rgb){0, 0, 0});
    for (int i = 0; i < LABEL_LINES; i++) {
        if (!label->lines[i][0])
            continue;
        double now = i ? line : title;
        paper_text(cr, x, at + now / 2, now, i == 0, LEFT, label->lines[i]);
        at += i ? line * PITCH : title + line * (PITCH - 1);
    }
}

static void draw_label(cairo_t *cr, const struct label *label, struct label_size size, double x,
                       double y)
{
    double side = size.height - MARGIN;
    double taken = draw_code(cr, label->code, x + size.width - MARGIN / 2, y + MARGIN / 2, side);
    draw_lines(cr, label, size, x + MARGIN, y, size.width - 2 * MARGIN - taken);
}

static void draw_cut_line(cairo_t *cr, struct label_size size, double x, double y)
{
    cairo_set_line_width(cr, 0.1);
    paper_ink(cr, (struct rgb){0.8, 0.8, 0.8});
    cairo_rectangle(cr, x, y, size.width, size.height);
    cairo_stroke(cr);
}

static void draw_sheet(cairo_t *cr, const struct sheet *sheet)
{
    const double left = (SHEET_WIDTH - ACROSS * sheet->size.width) / 2,
                 top = (SHEET_HEIGHT - DOWN * sheet->size.height) / 2;
    for (size_t i = 0; i < ON_SHEET && sheet->first + i < sheet->count; i++) {
        double x = left + (double)(i % ACROSS) * sheet->size.width,
               y = top + (double)(i / ACROSS) * sheet->size.height;
        draw_cut_line(cr, sheet->size, x, y);
        draw_label(cr, &sheet->labels[sheet->first + i], sheet->size, x, y);
    }
}

static bool draw(cairo_t *cr, const void *context, unsigned page)
{
    struct sheet sheet = *(const struct sheet *)context;
    sheet.first = (size_t)page * ON_SHEET;
    if (sheet.count == 1)
        draw_label(cr, sheet.labels, sheet.size, 0, 0);
    else
        draw_sheet(cr, &sheet);
    return sheet.first + ON_SHEET < sheet.count;
}

enum exit_code labels_on_paper(struct tool *tool, struct label_size size,
                               const struct label *labels, size_t count, const char *path)
{
    const struct sheet sheet = {.size = size, .labels = labels, .count = count};
    const struct paper_pages pages = {.width_mm = count == 1 ? size.width : SHEET_WIDTH,
                                      .height_mm = count == 1 ? size.height : SHEET_HEIGHT,
                                      .count = (unsigned)((count + ON_SHEET - 1) / ON_SHEET),
                                      .draw = draw};
    return paper_print(tool, path, &pages, &sheet);
}
