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

void paper_font(cairo_t *cr, bool bold)
{
    cairo_select_font_face(cr, "sans-serif", CAIRO_FONT_SLANT_NORMAL,
                           bold ? CAIRO_FONT_WEIGHT_BOLD : CAIRO_FONT_WEIGHT_NORMAL);
}

void paper_text(cairo_t *cr, double x, double y, double size, bool bold, enum align align,
                const char *text)
{
    paper_font(cr, bold);
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

/* What is drawn, on a page of this size in points; a PNG has so many dots a point. */
struct drawing {
    double width, height, scale;
    paper_fn *draw;
    const struct paper_pages *pages;
    const void *context;
};

static void draw_pages(cairo_t *cr, const struct drawing *drawing)
{
    enum { POINTS_PER_INCH = 72 };
    static const double MM_PER_INCH = 25.4;
    bool has_more = true;
    for (unsigned page = 0; has_more; page++) {
        cairo_save(cr);
        cairo_scale(cr, drawing->scale, drawing->scale);
        paper_ink(cr, PAPER_WHITE);
        cairo_paint(cr);
        if (drawing->pages)
            cairo_scale(cr, POINTS_PER_INCH / MM_PER_INCH, POINTS_PER_INCH / MM_PER_INCH);
        if (drawing->pages)
            has_more = drawing->pages->draw(cr, drawing->context, page);
        else
            drawing->draw(cr, drawing->context);
        has_more &= drawing->pages != NULL;
        cairo_restore(cr);
        if (has_more)
            cairo_show_page(cr);
    }
}

/* Draws on a surface, and releases it. The first failure of either counts. */
static cairo_status_t draw_on(cairo_surface_t *surface, const struct drawing *drawing, FILE *png)
{
    cairo_t *cr = cairo_create(surface);
    draw_pages(cr, drawing);
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

static cairo_surface_t *make_surface(const char *ending, const struct drawing *drawing,
                                     FILE *stream)
{
    const double width = drawing->width, height = drawing->height;
    if (strcasecmp(ending, ".png") == 0)
        return cairo_image_surface_create(CAIRO_FORMAT_RGB24, (int)(width * drawing->scale),
                                          (int)(height * drawing->scale));
    return strcasecmp(ending, ".pdf") == 0
               ? cairo_pdf_surface_create_for_stream(to_stream, stream, width, height)
               : cairo_svg_surface_create_for_stream(to_stream, stream, width, height);
}

static enum exit_code draw_file(struct tool *tool, const char *path, struct drawing *drawing)
{
    const char *dot = strrchr(path, '.');
    bool png = dot && strcasecmp(dot, ".png") == 0;
    struct cm_new_file file;
    if (!png && !(dot && (strcasecmp(dot, ".svg") == 0 || strcasecmp(dot, ".pdf") == 0)))
        return tool_fail_as(tool, EXIT_USAGE, "drawings are .svg, .pdf or .png", path,
                            "name the file so");
    if (drawing->pages && drawing->pages->count > 1 && strcasecmp(dot, ".pdf") != 0)
        return tool_fail_as(tool, EXIT_USAGE, "only a PDF has several pages", path,
                            "name the file .pdf, or draw less");
    if (!cm_new_file_open(&tool->host, path, &file))
        return tool_fail_host(tool);
    drawing->scale = png ? drawing->scale : 1;
    cairo_surface_t *surface = make_surface(dot, drawing, file.stream);
    cairo_status_t status = draw_on(surface, drawing, png ? file.stream : NULL);
    if (status == CAIRO_STATUS_SUCCESS)
        return host_code(tool, cm_new_file_commit(&tool->host, &file));
    cm_new_file_drop(&file);
    return tool_fail_as(tool, EXIT_BAD_FILE, "the drawing cannot be written",
                        cairo_status_to_string(status), "make room on the disk");
}

enum exit_code paper_draw(struct tool *tool, const char *path, paper_fn *draw, const void *context)
{
    struct drawing drawing = {PAPER_WIDTH, PAPER_HEIGHT, 1, draw, NULL, context};
    return draw_file(tool, path, &drawing);
}

/* A PNG has 300 dots an inch, so that a code can be scanned from it. */
enum exit_code paper_print(struct tool *tool, const char *path, const struct paper_pages *pages,
                           const void *context)
{
    static const double POINTS_PER_MM = 72 / 25.4, DOTS_PER_POINT = 300.0 / 72;
    struct drawing drawing = {pages->width_mm * POINTS_PER_MM,
                              pages->height_mm * POINTS_PER_MM,
                              DOTS_PER_POINT,
                              NULL,
                              pages,
                              context};
    return draw_file(tool, path, &drawing);
}
