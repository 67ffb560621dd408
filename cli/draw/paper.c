/*
 * Paper: what all drawings share.
 */
#include "paper.h"
#include "shown.h"
#include "words/fail.h"
#include <cairo-pdf.h>
#include <cairo-svg.h>
#include <stdio.h>
#include <string.h>
#include <strings.h>

void paper_ink(cairo_t *cr, struct rgb colour)
{
    cairo_set_source_rgb(cr, colour.r, colour.g, colour.b);
}

enum { SHOWN_BYTES = 400 };

double paper_text_width(cairo_t *cr, const char *text)
{
    char shown[SHOWN_BYTES];
    cairo_text_extents_t extents;
    cairo_text_extents(cr, shown_text(text, shown, sizeof shown), &extents);
    return extents.x_advance;
}

static void write_text(cairo_t *cr, double x, double y, double size, enum align align,
                       const char *text)
{
    char shown[SHOWN_BYTES];
    cairo_set_font_size(cr, size);
    double width = paper_text_width(cr, text);
    cairo_move_to(cr,
                  align == LEFT    ? x
                  : align == RIGHT ? x - width
                                   : x - width / 2,
                  y + size * 0.36);
    cairo_show_text(cr, shown_text(text, shown, sizeof shown));
}

void paper_text(cairo_t *cr, double x, double y, double size, bool bold, enum align align,
                const char *text)
{
    cairo_select_font_face(cr, "sans-serif", CAIRO_FONT_SLANT_NORMAL,
                           bold ? CAIRO_FONT_WEIGHT_BOLD : CAIRO_FONT_WEIGHT_NORMAL);
    write_text(cr, x, y, size, align, text);
}

void paper_mono(cairo_t *cr, double x, double y, double size, enum align align, const char *text)
{
    cairo_select_font_face(cr, "monospace", CAIRO_FONT_SLANT_NORMAL, CAIRO_FONT_WEIGHT_NORMAL);
    write_text(cr, x, y, size, align, text);
}

static cairo_status_t to_stream(void *stream, const unsigned char *bytes, unsigned count)
{
    return fwrite(bytes, 1, count, stream) == count ? CAIRO_STATUS_SUCCESS
                                                    : CAIRO_STATUS_WRITE_ERROR;
}

/* Draws on a surface, and releases it. The first failure of either counts. */
static cairo_status_t draw_on(cairo_surface_t *surface, paper_fn *draw, const void *context,
                              FILE *png)
{
    cairo_t *cr = cairo_create(surface);
    paper_ink(cr, PAPER_WHITE);
    cairo_paint(cr);
    draw(cr, context);
    cairo_status_t status = cairo_status(cr);
    cairo_destroy(cr);
    if (png && status == CAIRO_STATUS_SUCCESS)
        status = cairo_surface_write_to_png_stream(surface, to_stream, png);
    cairo_surface_finish(surface);
    if (status == CAIRO_STATUS_SUCCESS)
        status = cairo_surface_status(surface);
    cairo_surface_destroy(surface);
    return status;
}

static cairo_surface_t *make_surface(const char *ending, FILE *stream)
{
    if (strcasecmp(ending, ".png") == 0)
        return cairo_image_surface_create(CAIRO_FORMAT_RGB24, PAPER_WIDTH, PAPER_HEIGHT);
    return strcasecmp(ending, ".pdf") == 0
               ? cairo_pdf_surface_create_for_stream(to_stream, stream, PAPER_WIDTH, PAPER_HEIGHT)
               : cairo_svg_surface_create_for_stream(to_stream, stream, PAPER_WIDTH, PAPER_HEIGHT);
}

enum exit_code paper_draw(struct tool *tool, const char *path, paper_fn *draw, const void *context)
{
    const char *dot = strrchr(path, '.');
    bool png = dot && strcasecmp(dot, ".png") == 0;
    struct cm_new_file file;
    if (!png && !(dot && (strcasecmp(dot, ".svg") == 0 || strcasecmp(dot, ".pdf") == 0)))
        return tool_fail_as(tool, EXIT_USAGE, "drawings are .svg, .pdf or .png", path,
                            "name the file so");
    if (!cm_new_file_open(&tool->host, path, &file))
        return tool_fail_host(tool);
    cairo_surface_t *surface = make_surface(dot, file.stream);
    cairo_status_t status = draw_on(surface, draw, context, png ? file.stream : NULL);
    if (status == CAIRO_STATUS_SUCCESS)
        return host_code(tool, cm_new_file_commit(&tool->host, &file));
    cm_new_file_drop(&file);
    return tool_fail_as(tool, EXIT_BAD_FILE, "the drawing cannot be written",
                        cairo_status_to_string(status), "make room on the disk");
}
