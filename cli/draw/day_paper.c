/*
 * The report of a day on paper, 1280 by 800:
 *
 *     title, span                                 yield in large figures
 *     each unit: a bar as high as it took long    passed: filled; failed: hollow, with a cross
 *     failures by cause                           stations
 */
#include "day_paper.h"
#include "paper.h"
#include <stdio.h>
#include <time.h>

enum {
    LEFT_X = 70,
    RIGHT_X = 1210,
    CHART_Y = 190,
    CHART_HEIGHT = 290,
    LOWER_Y = 560,
    MIDDLE_X = 680,
    ROW = 32,
    MOST_BARS = 1140
};

static const struct rgb PASSED = {0.13, 0.42, 0.52}, FAILED = {0.85, 0.33, 0.08},
                        GRID = {0.85, 0.86, 0.88};

static uint32_t longest(const struct day *day)
{
    uint32_t most = 1;
    for (size_t i = 0; i < day->count; i++)
        most = day->units[i].took_ms > most ? day->units[i].took_ms : most;
    return most;
}

/* 1, 2 or 5 times a power of ten, so that there are some four of them. */
static double step_of(double most)
{
    double step = 1;
    while (step * 10 <= most / 4)
        step *= 10;
    while (step > most / 4 && step > 1e-6)
        step /= 10;
    return step * 5 <= most / 3 ? step * 5 : step * 2 <= most / 3 ? step * 2 : step;
}

static void draw_scale(cairo_t *cr, double most_s)
{
    char text[32];
    double step = step_of(most_s);
    cairo_set_line_width(cr, 1);
    for (double at = 0; at <= most_s * 1.001; at += step) {
        double y = CHART_Y + CHART_HEIGHT * (1 - at / most_s);
        paper_ink(cr, GRID);
        cairo_move_to(cr, LEFT_X, y);
        cairo_line_to(cr, RIGHT_X, y);
        cairo_stroke(cr);
        snprintf(text, sizeof text, "%g s", at);
        paper_ink(cr, PAPER_PALE);
        paper_text(cr, LEFT_X - 10, y, 13, false, RIGHT, text);
    }
}

static void draw_bar(cairo_t *cr, const struct day_unit *unit, double x, double width,
                     double most_ms)
{
    enum { LEAST = 12 };
    double height = CHART_HEIGHT * unit->took_ms / most_ms;
    height = !unit->passed && height < LEAST ? LEAST : height;
    double gap = width > 6 ? 2 : width > 3 ? 0.5 : 0, y = CHART_Y + CHART_HEIGHT - height;
    cairo_rectangle(cr, x + gap, y, width - 2 * gap, height);
    paper_ink(cr, unit->passed ? PASSED : FAILED);
    if (unit->passed) {
        cairo_fill(cr);
        return;
    }
    cairo_set_line_width(cr, 1.5);
    cairo_stroke(cr);
    cairo_move_to(cr, x + gap, y);
    cairo_line_to(cr, x + width - gap, y + height);
    cairo_move_to(cr, x + width - gap, y);
    cairo_line_to(cr, x + gap, y + height);
    cairo_stroke(cr);
}

/* Units from left to right in their order; of more than there is room for, each so many-th. */
static void draw_chart(cairo_t *cr, const struct day *day)
{
    double most_ms = longest(day) * 1.08;
    size_t every = (day->count + MOST_BARS - 1) / MOST_BARS,
           bars = every ? (day->count + every - 1) / every : 0;
    double width = bars ? (double)(RIGHT_X - LEFT_X) / (double)bars : 0;
    draw_scale(cr, most_ms / 1000);
    width = width > 60 ? 60 : width;
    for (size_t i = 0; i < bars; i++)
        draw_bar(cr, &day->units[i * every], LEFT_X + (double)i * width, width, most_ms);
    paper_ink(cr, PAPER_PALE);
    paper_text(cr, LEFT_X, CHART_Y + CHART_HEIGHT + 22, 14, false, LEFT,
               "each unit in its order, as high as it took long; failed: hollow, with a cross");
}

/* A list of amounts with bars; names that are too long for the page are cut. */
static void draw_amounts(cairo_t *cr, double x, const char *title, const struct day_amount *amounts,
                         int count, bool shows_passed)
{
    enum { BAR = 120, TEXT_X = 140 };
    int most = 1;
    char text[DAY_NAME + 60];
    paper_ink(cr, PAPER_INK);
    paper_text(cr, x, LOWER_Y, 17, true, LEFT, title);
    for (int i = 0; i < count; i++) {
        int all = amounts[i].failed + (shows_passed ? amounts[i].passed : 0);
        most = all > most ? all : most;
    }
    for (int i = 0; i < count; i++) {
        double y = LOWER_Y + 34 + i * ROW;
        double passed = shows_passed ? (double)BAR * amounts[i].passed / most : 0;
        paper_ink(cr, PASSED);
        cairo_rectangle(cr, x, y - 8, passed, 16);
        cairo_fill(cr);
        paper_ink(cr, FAILED);
        cairo_rectangle(cr, x + passed, y - 8, (double)BAR * amounts[i].failed / most, 16);
        cairo_fill(cr);
        if (shows_passed)
            snprintf(text, sizeof text, "%s: %d passed, %d failed", amounts[i].name,
                     amounts[i].passed, amounts[i].failed);
        else
            snprintf(text, sizeof text, "%d  %.55s", amounts[i].failed, amounts[i].name);
        paper_ink(cr, PAPER_INK);
        paper_text(cr, x + TEXT_X, y, 14, false, LEFT, text);
    }
    paper_ink(cr, PAPER_PALE);
    if (!count)
        paper_text(cr, x, LOWER_Y + 34, 14, false, LEFT, "none");
}

static void draw_times(cairo_t *cr, const struct day *day)
{
    uint64_t sum = 0;
    uint32_t best = UINT32_MAX, worst = 0;
    char text[160];
    for (size_t i = 0; i < day->count; i++) {
        const struct day_unit *unit = &day->units[i];
        if (!unit->passed)
            continue;
        sum += unit->took_ms;
        best = unit->took_ms < best ? unit->took_ms : best;
        worst = unit->took_ms > worst ? unit->took_ms : worst;
    }
    if (!day->passed)
        return;
    snprintf(text, sizeof text, "a good unit takes %.2f s; the best %.2f s, the worst %.2f s",
             (double)sum / day->passed / 1000, best / 1000.0, worst / 1000.0);
    paper_ink(cr, PAPER_PALE);
    paper_text(cr, LEFT_X, 132, 15, false, LEFT, text);
}

static void draw(cairo_t *cr, const void *context)
{
    const struct day *day = context;
    char text[120];
    int all = day->passed + day->failed;
    paper_ink(cr, PAPER_INK);
    paper_text(cr, LEFT_X, 52, 26, true, LEFT, day->title);
    paper_ink(cr, PAPER_PALE);
    paper_text(cr, LEFT_X, 92, 16, false, LEFT, day->span);
    draw_times(cr, day);
    paper_ink(cr, PAPER_INK);
    snprintf(text, sizeof text, "%.1f %%", all ? 100.0 * day->passed / all : 0.0);
    paper_text(cr, RIGHT_X, 62, 44, true, RIGHT, text);
    snprintf(text, sizeof text, "%d of %d units are good", day->passed, all);
    paper_text(cr, RIGHT_X, 104, 16, false, RIGHT, text);
    if (day->has_numbers) {
        snprintf(text, sizeof text, "numbers %llu to %llu", (unsigned long long)day->first_number,
                 (unsigned long long)day->last_number);
        paper_ink(cr, PAPER_PALE);
        paper_text(cr, RIGHT_X, 132, 15, false, RIGHT, text);
    }
    draw_chart(cr, day);
    draw_amounts(cr, LEFT_X, "Failures by cause", day->causes, day->cause_count, false);
    draw_amounts(cr, MIDDLE_X, "Stations", day->stations, day->station_count, true);
}

enum exit_code day_on_paper(struct tool *tool, const struct day *day, const char *path)
{
    return paper_draw(tool, path, draw, day);
}
