/*
 * The wiring of a chip on paper, 1280 by 800: the lines in words on the left, the package from
 * above on the right, and what else belongs to the pins below. Roles are told by their names in
 * flags; colour comes on top of that.
 */
#include "paper.h"
#include "wires.h"
#include "words/boards.h"
#include <math.h>
#include <stdio.h>
#include <string.h>

enum { MARGIN = 48, CENTRE_X = 860, CENTRE_Y = 420 };

static const struct rgb BODY = {0.93, 0.93, 0.94};

static void ink_role(cairo_t *cr, enum role role)
{
    const struct role_words *words = &role_words[role];
    cairo_set_source_rgb(cr, words->red, words->green, words->blue);
}

/* A box with a role's name; x is its near edge, and it grows to the left where `leftwards`. Returns
 * its width. */
static double draw_flag(cairo_t *cr, double x, double y, double size, enum role role,
                        bool leftwards)
{
    cairo_select_font_face(cr, "sans-serif", CAIRO_FONT_SLANT_NORMAL, CAIRO_FONT_WEIGHT_BOLD);
    cairo_set_font_size(cr, size);
    double width = paper_text_width(cr, role_words[role].name) + size;
    ink_role(cr, role);
    cairo_rectangle(cr, leftwards ? x - width : x, y - size * 0.75, width, size * 1.5);
    cairo_fill(cr);
    paper_ink(cr, PAPER_WHITE);
    paper_text(cr, leftwards ? x - width / 2 : x + width / 2, y, size, true, MIDDLE,
               role_words[role].name);
    return width;
}

/* --- one pin ----------------------------------------------------------------------------- */

/* Draws a pin that points to the right from (0, 0), the edge of the body; flipped: to the left,
 * with its text still upright. */
static void draw_pin(cairo_t *cr, const struct pin *pin, int number, double pitch, bool flipped)
{
    double leg = 18, thick = pitch * 0.5 < 12 ? pitch * 0.5 : 12,
           size = pitch * 0.62 < 15 ? pitch * 0.62 : 15, to = flipped ? -1 : 1;
    char text[12];
    ink_role(cr, pin->role);
    cairo_rectangle(cr, flipped ? -leg : 0, -thick / 2, leg, thick);
    cairo_fill(cr);
    paper_ink(cr, PAPER_PALE);
    snprintf(text, sizeof text, "%d", number);
    paper_text(cr, -to * 6, 0, size * 0.9, false, flipped ? LEFT : RIGHT, text);
    paper_ink(cr, pin->role ? PAPER_INK : PAPER_PALE);
    paper_text(cr, to * (leg + 7), 0, size, pin->role != ROLE_NONE, flipped ? RIGHT : LEFT,
               pin->name);
    bool flagged = pin->role && pin->role != ROLE_ADDRESS && pin->role != ROLE_DATA &&
                   strcmp(pin->name, role_words[pin->role].name) != 0;
    if (flagged)
        draw_flag(cr, to * (leg + 16 + size * 3.1), 0, size * 0.88, pin->role, flipped);
}

static void place_pin(cairo_t *cr, const struct wiring *wiring, int number, double x, double y,
                      double pitch, double angle, bool flipped)
{
    cairo_save(cr);
    cairo_translate(cr, x, y);
    cairo_rotate(cr, angle);
    draw_pin(cr, &wiring->pins[number - 1], number, pitch, flipped);
    cairo_restore(cr);
}

/* --- packages ---------------------------------------------------------------------------- */

static void draw_body(cairo_t *cr, double x, double y, double width, double height, bool notch)
{
    paper_ink(cr, BODY);
    cairo_rectangle(cr, x, y, width, height);
    cairo_fill_preserve(cr);
    paper_ink(cr, PAPER_INK);
    cairo_set_line_width(cr, 2);
    cairo_stroke(cr);
    if (notch) {
        paper_ink(cr, PAPER_WHITE);
        cairo_arc(cr, x + width / 2, y, 16, 0, M_PI);
        cairo_fill_preserve(cr);
        paper_ink(cr, PAPER_INK);
        cairo_stroke(cr);
    }
}

static void draw_dot(cairo_t *cr, double x, double y)
{
    paper_ink(cr, PAPER_INK);
    cairo_arc(cr, x, y, 6, 0, 2 * M_PI);
    cairo_fill(cr);
}

static void draw_name(cairo_t *cr, const struct wiring *wiring)
{
    paper_ink(cr, PAPER_INK);
    paper_text(cr, CENTRE_X, CENTRE_Y - 10, 17, true, MIDDLE, wiring->part->name);
    paper_ink(cr, PAPER_PALE);
    paper_text(cr, CENTRE_X, CENTRE_Y + 14, 14, false, MIDDLE, wiring->pinout->package);
}

static void draw_dual(cairo_t *cr, const struct wiring *wiring)
{
    int rows = wiring->pinout->pins / 2;
    double pitch = 600.0 / rows < 44 ? 600.0 / rows : 44, height = pitch * rows + 16, width = 190;
    double x = CENTRE_X - width / 2, y = CENTRE_Y - height / 2;
    draw_body(cr, x, y, width, height, true);
    draw_dot(cr, x + 40, y + 8 + pitch / 2);
    for (int row = 0; row < rows; row++) {
        double at = y + 8 + pitch * (row + 0.5);
        place_pin(cr, wiring, row + 1, x, at, pitch, 0, true);
        place_pin(cr, wiring, wiring->pinout->pins - row, x + width, at, pitch, 0, false);
    }
    draw_name(cr, wiring);
}

static void draw_quad(cairo_t *cr, const struct wiring *wiring)
{
    struct sides sides = wires_sides(wiring->pinout);
    const struct cm_pinout *pinout = wiring->pinout;
    int most = sides.upright > sides.across ? sides.upright : sides.across, pins = pinout->pins;
    double pitch = 376.0 / most, height = pitch * sides.upright + 24,
           width = pitch * sides.across + 24;
    double x = CENTRE_X - width / 2, y = CENTRE_Y - height / 2;
    draw_body(cr, x, y, width, height, false);
    draw_dot(cr, sides.first == 1 ? x + 34 : x + width / 2, y + 34);
    for (int i = 0; i < sides.upright; i++) {
        double at = 12 + pitch * (i + 0.5);
        place_pin(cr, wiring, wires_pin_at(pinout, i), x, y + at, pitch, 0, true);
        place_pin(cr, wiring, wires_pin_at(pinout, sides.upright + sides.across + i), x + width,
                  y + height - at, pitch, 0, false);
    }
    for (int i = 0; i < sides.across; i++) {
        double at = 12 + pitch * (i + 0.5);
        place_pin(cr, wiring, wires_pin_at(pinout, sides.upright + i), x + at, y + height, pitch,
                  M_PI / 2, false);
        place_pin(cr, wiring, wires_pin_at(pinout, pins - sides.across + i), x + width - at, y,
                  pitch, -M_PI / 2, false);
    }
    draw_name(cr, wiring);
}

/* --- the lines in words ------------------------------------------------------------------ */

/* Returns where the list ends. */
static double draw_list(cairo_t *cr, const struct wiring *wiring)
{
    char text[120], supply[200];
    double y = 140;
    for (int role = ROLE_RESET; role < ROLE_COUNT; role++) {
        char pins[100];
        wires_pins(wiring, (enum role)role, pins, sizeof pins);
        if (!pins[0])
            continue;
        bool bus = role == ROLE_ADDRESS || role == ROLE_DATA;
        draw_flag(cr, MARGIN, y, 15, (enum role)role, false);
        const char *from = wires_from(wiring, (enum role)role);
        snprintf(text, sizeof text, "%s%s%sto pin%s %s", from ? "from " : "", from ? from : "",
                 from ? " " : "", strchr(pins, ',') ? "s" : "", pins);
        snprintf(supply, sizeof supply, "%.1f to %.1f V; %s", wiring->part->supply_min_mv / 1000.0,
                 wiring->part->supply_max_mv / 1000.0, role_words[role].note);
        paper_ink(cr, PAPER_INK);
        paper_text(cr, MARGIN + 100, y - 2, 16, true, LEFT, bus ? "by name" : text);
        paper_ink(cr, PAPER_PALE);
        paper_text(cr, MARGIN + 100, y + 17, 12.5, false, LEFT,
                   role == ROLE_SUPPLY ? supply : role_words[role].note);
        y += 44;
    }
    return y;
}

/* A line from a supply through a part to a name: the pull-up, drawn as a box, or the capacitor. */
static void draw_passive(cairo_t *cr, double y, enum role from, enum role to, bool capacitor,
                         const char *value, const char *why)
{
    double x = MARGIN + 90, part = x + 46;
    draw_flag(cr, x, y, 13, from, true);
    paper_ink(cr, PAPER_INK);
    cairo_set_line_width(cr, 2);
    cairo_move_to(cr, x, y);
    cairo_line_to(cr, part, y);
    cairo_move_to(cr, part + (capacitor ? 10 : 60), y);
    cairo_line_to(cr, x + 152, y);
    cairo_stroke(cr);
    if (capacitor) {
        cairo_rectangle(cr, part, y - 14, 3, 28);
        cairo_rectangle(cr, part + 8, y - 14, 3, 28);
        cairo_fill(cr);
    } else {
        cairo_rectangle(cr, part, y - 8, 60, 16);
        cairo_stroke(cr);
    }
    draw_flag(cr, x + 152, y, 13, to, false);
    paper_ink(cr, PAPER_INK);
    paper_text(cr, part + (capacitor ? 5 : 30), y - 24, 13, true, MIDDLE, value);
    paper_ink(cr, PAPER_PALE);
    paper_text(cr, MARGIN, y + 30, 12.5, false, LEFT, why);
}

/* What is more than the chip's highest supply would go into its pins. */
static void draw_levels(cairo_t *cr, const struct wiring *wiring)
{
    char text[120];
    if (!wires_are_too_high(wiring))
        return;
    snprintf(text, sizeof text,
             "%s puts %.1f V on its lines; this chip bears %.1f V: level shifters!",
             wiring->from->name, wiring->from->mv / 1000.0, wiring->part->supply_max_mv / 1000.0);
    paper_ink(cr, PAPER_INK);
    paper_text(cr, MARGIN, 712, 14.5, true, LEFT, text);
}

static void draw_all(cairo_t *cr, const void *context)
{
    const struct wiring *wiring = context;
    char title[120];
    snprintf(title, sizeof title, "Programming %s%s%s", wiring->part->name,
             wiring->from ? " from " : "", wiring->from ? wiring->from->name : "");
    paper_ink(cr, PAPER_INK);
    paper_text(cr, MARGIN, 58, 28, true, LEFT, title);
    snprintf(title, sizeof title, "%s from above; the dot marks pin 1", wiring->pinout->package);
    paper_ink(cr, PAPER_PALE);
    paper_text(cr, MARGIN, 94, 15, false, LEFT, title);
    double y = draw_list(cr, wiring) + 36;
    char pins[100];
    wires_pins(wiring, ROLE_RESET, pins, sizeof pins);
    if (pins[0]) {
        draw_passive(cr, y, ROLE_SUPPLY, ROLE_RESET, false, "10 kOhm",
                     "so that RESET floats high, and the program runs afterwards");
        y += 100;
    }
    draw_passive(cr, y, ROLE_SUPPLY, ROLE_GROUND, true, "100 nF",
                 "at each supply pin, as near as can be");
    paper_ink(cr, PAPER_PALE);
    paper_text(cr, MARGIN, 736, 13.5, false, LEFT, "Connect with the power off, ground first.");
    paper_text(cr, MARGIN, 758, 13.5, false, LEFT,
               "The board or the programmer feeds the chip, never both.");
    draw_levels(cr, wiring);
    if (wiring->pinout->shape == CM_PACKAGE_DUAL)
        draw_dual(cr, wiring);
    else
        draw_quad(cr, wiring);
}

enum exit_code wires_draw(struct tool *tool, const struct wiring *wiring, const char *path)
{
    return paper_draw(tool, path, draw_all, wiring);
}
