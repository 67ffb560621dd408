/*
 * wires: how to connect a chip: its package from above, and which of the programmer's lines goes to which pin. In the terminal, or drawn.
 */
#include "wires.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <strings.h>

const char *const role_names[ROLE_COUNT] = {"", "RESET", "SCK", "MOSI", "MISO", "supply", "ground"};

/* --- the table of pins -------------------------------------------------------------------------------------------- */

static enum role role_of(const char *name)
{
    static const struct {
        const char *name;
        enum role role;
    } ROLES[] = {{"RESET", ROLE_RESET}, {"SCK", ROLE_SCK},     {"MOSI", ROLE_MOSI},  {"MISO", ROLE_MISO},   {"VCC", ROLE_SUPPLY},
                 {"AVCC", ROLE_SUPPLY}, {"UVCC", ROLE_SUPPLY}, {"GND", ROLE_GROUND}, {"AGND", ROLE_GROUND}, {"UGND", ROLE_GROUND}};
    for (size_t i = 0; i < sizeof ROLES / sizeof ROLES[0]; i++) {
        if (strcmp(ROLES[i].name, name) == 0)
            return ROLES[i].role;
    }
    return ROLE_NONE;
}

static void read_pins(struct wiring *wiring)
{
    const char *text = wiring->pinout->names;
    for (uint8_t i = 0; i < wiring->pinout->pins; i++) {
        char whole[2 * PIN_NAME];
        size_t length = strcspn(text, " ");
        snprintf(whole, sizeof whole, "%.*s", (int)length, text);
        char *slash = strchr(whole, '/');
        wiring->pins[i].role = role_of(slash ? slash + 1 : whole);
        if (slash && wiring->pins[i].role != ROLE_NONE)
            *slash = '\0';
        snprintf(wiring->pins[i].name, sizeof wiring->pins[i].name, "%.11s", whole);
        text += length + (text[length] == ' ');
    }
}

/* --- in the terminal ---------------------------------------------------------------------------------------------- */

enum { NAME_WIDTH = 6, ROLE_WIDTH = 7, BODY_WIDTH = 13 };

static const char *role_on(const struct pin *pin)
{
    return pin->role ? colour("\033[1m") : "";
}

static void print_left(const struct wiring *wiring, int number)
{
    const struct pin *pin = &wiring->pins[number - 1];
    printf("  %s%*s%s %*s %3d ", role_on(pin), ROLE_WIDTH, role_names[pin->role], colour("\033[0m"), NAME_WIDTH, pin->name, number);
}

static void print_right(const struct wiring *wiring, int number)
{
    const struct pin *pin = &wiring->pins[number - 1];
    printf(" %-3d %-*s %s%s%s\n", number, NAME_WIDTH, pin->name, role_on(pin), role_names[pin->role], colour("\033[0m"));
}

static void print_indent(void)
{
    printf("%*s", 2 + ROLE_WIDTH + 1 + NAME_WIDTH + 5, "");
}

static void print_dual(const struct wiring *wiring)
{
    int rows = wiring->pinout->pins / 2;
    print_indent();
    printf("+-----.__.-----+\n");
    for (int row = 1; row <= rows; row++) {
        print_left(wiring, row);
        printf("|%s%*s|", row == 1 ? "o" : " ", BODY_WIDTH, "");
        print_right(wiring, wiring->pinout->pins + 1 - row);
    }
    print_indent();
    printf("+--------------+\n");
}

/* Names of a side's pins from above, a letter a row; `first` is the leftmost pin, `step` leads to the next. */
static void print_columns(const struct wiring *wiring, int first, int step, bool above)
{
    enum { LETTERS = 24 };
    int side = wiring->pinout->pins / 4;
    char labels[MOST_PINS / 4][LETTERS];
    size_t longest = 0;
    for (int i = 0; i < side; i++) {
        const struct pin *pin = &wiring->pins[first + i * step - 1];
        const char *role = pin->role <= ROLE_MISO && strcmp(pin->name, role_names[pin->role]) != 0 ? role_names[pin->role] : "";
        snprintf(labels[i], LETTERS, "%s%s%s", pin->name, *role ? " " : "", role);
        longest = strlen(labels[i]) > longest ? strlen(labels[i]) : longest;
    }
    for (size_t row = 0; row < longest; row++) {
        print_indent();
        printf(" ");
        for (int i = 0; i < side; i++) {
            size_t length = strlen(labels[i]), at = above ? row - (longest - length) : row;
            printf(" %c ", (above ? row >= longest - length : row < length) ? labels[i][at] : ' ');
        }
        printf("\n");
    }
}

static void print_numbers(const struct wiring *wiring, int first, int step)
{
    print_indent();
    printf(" ");
    for (int i = 0; i < wiring->pinout->pins / 4; i++)
        printf("%3d", first + i * step);
    printf("\n");
}

static void print_edge(int side)
{
    print_indent();
    printf("+");
    for (int i = 0; i < side; i++)
        printf("---");
    printf("+\n");
}

static void print_quad(const struct wiring *wiring)
{
    int pins = wiring->pinout->pins, side = pins / 4;
    print_columns(wiring, pins, -1, true);
    print_numbers(wiring, pins, -1);
    print_edge(side);
    for (int row = 1; row <= side; row++) {
        print_left(wiring, row);
        printf("|%s%*s|", row == 1 ? "o" : " ", 3 * side - 1, "");
        print_right(wiring, pins - side + 1 - row);
    }
    print_edge(side);
    print_numbers(wiring, side + 1, 1);
    print_columns(wiring, side + 1, 1, false);
}

void wires_pins(const struct wiring *wiring, enum role role, char *text, size_t bytes)
{
    size_t used = 0;
    text[0] = '\0';
    for (int i = 0; i < wiring->pinout->pins && used < bytes; i++) {
        if (wiring->pins[i].role == role)
            used += (size_t)snprintf(text + used, bytes - used, "%s%d", used ? ", " : "", i + 1);
    }
}

/* "4 (PB3)" for a line, which has one pin; "7, 20" for a supply, whose pins' names are no news. */
static void pins_in_words(const struct wiring *wiring, enum role role, char *text, size_t bytes)
{
    wires_pins(wiring, role, text, bytes);
    for (int i = 0; role <= ROLE_MISO && i < wiring->pinout->pins; i++) {
        size_t used = strlen(text);
        if (wiring->pins[i].role == role)
            snprintf(text + used, bytes - used, " (%s)", wiring->pins[i].name);
    }
}

static void list_lines(struct tool *tool, const struct wiring *wiring)
{
    static const char *const NOTES[ROLE_COUNT] = {
        "",
        "10 kOhm from here to the supply, so that it floats high",
        "clock, from the programmer; 100 Ohm in series helps with long wires",
        "data to the chip",
        "data from the chip",
        "100 nF from each of these to ground, close to the pin",
        "common to programmer, board and chip",
    };
    json_t *lines = json_object();
    for (int role = ROLE_RESET; role < ROLE_COUNT; role++) {
        char pins[200];
        pins_in_words(wiring, (enum role)role, pins, sizeof pins);
        say(tool, role == ROLE_RESET ? "lines" : "", "%-7s to pin %-24s %s%s%s", role_names[role], pins, colour("\033[2m"),
            NOTES[role], colour("\033[0m"));
        json_object_set_new(lines, role_names[role], json_string(pins));
    }
    set_json(tool, "lines", lines);
    set_json(tool, "package", json_string(wiring->pinout->package));
    say(tool, "supply", "%s; the part wants %.1f to %.1f V", wiring->feeding, wiring->part->supply_min_mv / 1000.0,
        wiring->part->supply_max_mv / 1000.0);
}

/* --- the verb ----------------------------------------------------------------------------------------------------- */

static enum exit_code find_package(struct tool *tool, struct wiring *wiring)
{
    char known[200] = "", evidence[300];
    size_t used = 0;
    const struct cm_pinout *row;
    for (uint8_t i = 0; (row = cm_avr_pinout(wiring->part, i)) != NULL && used < sizeof known; i++) {
        if (!wiring->pinout && (!tool->package || strcasecmp(tool->package, row->package) == 0))
            wiring->pinout = row;
        used += (size_t)snprintf(known + used, sizeof known - used, "%s%s", i ? ", " : "", row->package);
    }
    if (wiring->pinout) {
        say(tool, "chip", "%s%s%s in %s, from above%s%s", colour("\033[1m"), wiring->part->name, colour("\033[0m"),
            wiring->pinout->package, strchr(known, ',') ? "; known: " : "", strchr(known, ',') ? known : "");
        return EXIT_GOOD;
    }
    snprintf(evidence, sizeof evidence, "%s: %s", wiring->part->name,
             known[0] ? known : "no package of this part is in the tables");
    return tool_fail_as(tool, EXIT_USAGE, tool->package ? "this package is not known" : "no pinout is known", evidence,
                        known[0] ? "--package takes one of these" : "its data sheet shows the pins RESET, SCK, MOSI and MISO");
}

/* What the port can do about the supply; without a port, the rule. */
static enum exit_code look_at_port(struct tool *tool, struct wiring *wiring)
{
    static char text[200];
    wiring->feeding = "from the board or from the programmer, never from both";
    if (!tool->via)
        return EXIT_GOOD;
    enum exit_code code = tool_open_port(tool);
    if (code)
        return code;
    const struct cm_traits *traits = &tool->port->traits;
    if (traits->supply_max_mv)
        snprintf(text, sizeof text, "this port can feed %.1f to %.1f V (--feed), if the board does not",
                 traits->supply_min_mv / 1000.0, traits->supply_max_mv / 1000.0);
    else
        snprintf(text, sizeof text, "from the board: this port cannot feed it%s",
                 traits->senses & CM_LINE_BIT(CM_LINE_SUPPLY) ? ", but measures it" : "");
    wiring->feeding = text;
    return EXIT_GOOD;
}

/* The packages with eight pins that all makers of SPI memories share (SOIC-8, WSON-8, DIP-8); seen from above, pin 1 at the upper left. */
static enum exit_code list_memory_pins(struct tool *tool, const struct cm_part *part)
{
    static const char *const ROWS[] = {"  SELECT 1 | o      | 8  supply",
                                       "  MISO   2 |        | 7  HOLD    high, or wired to the port",
                                       "  WP     3 |        | 6  SCK", "  ground 4 |        | 5  MOSI"};
    say(tool, "chip", "%s%s%s in a package with eight pins, from above", colour("\033[1m"), part->name, colour("\033[0m"));
    if (!tool->json) {
        printf("\n           +--------+\n");
        for (size_t i = 0; i < sizeof ROWS / sizeof ROWS[0]; i++)
            printf("%s\n", ROWS[i]);
        printf("           +--------+\n\n");
    }
    say(tool, "lines", "WP high too, if its registers shall be written; MOSI goes to the chip's data in, MISO to its data out");
    say(tool, "supply", "the part wants %.1f to %.1f V; from the board or from the programmer, never from both",
        part->supply_min_mv / 1000.0, part->supply_max_mv / 1000.0);
    set_json(tool, "lines",
             json_pack("{s:s, s:s, s:s, s:s, s:s, s:s, s:s, s:s}", "SELECT", "1", "MISO", "2", "WP", "3", "ground", "4", "MOSI",
                       "5", "SCK", "6", "HOLD", "7", "supply", "8"));
    say_last(tool, "pin 1 is at the dot; larger packages and balls differ: see the data sheet");
    return EXIT_GOOD;
}

static enum exit_code run(struct tool *tool, const char *const *things)
{
    struct wiring wiring = {0};
    char path[4096];
    if (things[0] && (things[1] || tool->chip))
        return tool_fail_as(tool, EXIT_USAGE, "wires takes one chip", things[0], "coldmint wires --chip NAME");
    if (things[0])
        tool->chip = strdup(things[0]);
    if (!tool->chip)
        return tool_fail_as(tool, EXIT_USAGE, "no chip is named", "--chip is missing", "coldmint wires --chip attiny84a");
    enum exit_code code = tool_check_options(tool);
    if (code)
        return code;
    wiring.part = tool_part(tool->chip);
    if (is_memory(wiring.part))
        return list_memory_pins(tool, wiring.part);
    code = look_at_port(tool, &wiring);
    if (!code)
        code = find_package(tool, &wiring);
    if (code)
        return code;
    read_pins(&wiring);
    if (!tool->json && !tool->output) {
        printf("\n");
        if (wiring.pinout->shape == CM_PACKAGE_DUAL)
            print_dual(&wiring);
        else
            print_quad(&wiring);
        printf("\n");
    }
    list_lines(tool, &wiring);
    if (tool->output) {
        name_with_extension(path, sizeof path, tool->output, ".svg");
        code = wires_draw(tool, &wiring, path);
        if (code)
            return code;
        set_json(tool, "file", json_string(path));
        say_last(tool, "%s shows how to connect %s", path, wiring.part->name);
    } else {
        say_last(tool, "pin 1 is at the dot; with power off, connect ground first");
    }
    return EXIT_GOOD;
}

static const struct poptOption options[] = {
    {"package", 0, POPT_ARG_STRING, &the_tool.package, 0, "which package; the first that is known if not given", "NAME"},
    {"output", 'o', POPT_ARG_STRING, &the_tool.output, 0, "draw into a file instead: .svg or .png", "FILE"},
    {"replace", 0, POPT_ARG_NONE, &the_tool.replace, 0, "the file may be there already", NULL},
    POPT_TABLEEND};

const struct verb verb_wires = {
    .name = "wires",
    .things = "[options] [CHIP]",
    .summary = "show how to connect a chip: its package from above, every programming line to its pin",
    .example = "coldmint wires --chip attiny84a --output node.png",
    .mistake = "counting from the wrong corner: the dot or notch marks pin 1, and the count goes against the clock",
    .options = options,
    .run = run,
};
