/*
 * wires: how to connect a chip: its package from above, and which of the programmer's lines goes to
 * which pin. In the terminal, or drawn.
 */
#include "begin.h"
#include "draw/wires.h"
#include "say.h"
#include "words/boards.h"
#include "words/fail.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <strings.h>

static struct {
    char *package, *output, *from;
    int replace;
} given;

const struct role_words role_words[ROLE_COUNT] = {
    [ROLE_NONE] = {"", "", 0.55, 0.55, 0.55},
    [ROLE_RESET] = {"RESET", "10 kOhm from here to the supply, so that it floats high", 0.80, 0.36,
                    0.00},
    [ROLE_SELECT] = {"SELECT", "chip select", 0.80, 0.36, 0.00},
    [ROLE_SCK] = {"SCK", "clock; 100 Ohm in series helps with long wires", 0.10, 0.35, 0.70},
    [ROLE_MOSI] = {"MOSI", "data to the chip", 0.05, 0.45, 0.25},
    [ROLE_MISO] = {"MISO", "data from the chip", 0.45, 0.20, 0.60},
    [ROLE_SDA] = {"SDA", "data, both ways; 4.7 kOhm from here to the supply", 0.05, 0.45, 0.25},
    [ROLE_SCL] = {"SCL", "clock; 4.7 kOhm from here to the supply", 0.10, 0.35, 0.70},
    [ROLE_CE] = {"CE", "chip enable", 0.80, 0.36, 0.00},
    [ROLE_OE] = {"OE", "output enable", 0.45, 0.20, 0.60},
    [ROLE_OE_VPP] =
        {"OE+VPP",
         "output enable; the programming voltage comes onto the same pin, where the port has it",
         0.45, 0.20, 0.60},
    [ROLE_WE] = {"WE", "write enable; of an EPROM, its program pin", 0.72, 0.30, 0.45},
    [ROLE_ADDRESS] = {"address", "each to the line of its own name", 0.10, 0.35, 0.70},
    [ROLE_DATA] = {"data", "each to the line of its own name; 10 kOhm to the supply", 0.05, 0.45,
                   0.25},
    [ROLE_WP] = {"WP", "write protect: wired to the port, or where it lets writes through", 0.40,
                 0.40, 0.45},
    [ROLE_HOLD] = {"HOLD", "high, or wired to the port", 0.40, 0.40, 0.45},
    [ROLE_VPP] = {"VPP", "the supply for reading; the programming voltage for programming", 0.72,
                  0.30, 0.45},
    [ROLE_ORG] = {"ORG", "high: words of 16 bits; low: bytes (parts that have it)", 0.40, 0.40,
                  0.45},
    [ROLE_SUPPLY] = {"supply", "100 nF from each of these to ground, close to the pin", 0.72, 0.08,
                     0.12},
    [ROLE_GROUND] = {"ground", "common to programmer, board and chip", 0.15, 0.15, 0.15},
};

/* --- the table of pins ------------------------------------------------------------------- */

/* A0, A18, D7: a line of a parallel bus. */
static enum role bus_role(const char *name)
{
    bool numbered = name[1] >= '0' && name[1] <= '9';
    return numbered && name[0] == 'A'   ? ROLE_ADDRESS
           : numbered && name[0] == 'D' ? ROLE_DATA
                                        : ROLE_NONE;
}

static enum role role_of(const char *name, bool parallel)
{
    static const struct {
        const char *name;
        enum role role;
    } OTHERS[] = {{"VCC", ROLE_SUPPLY}, {"AVCC", ROLE_SUPPLY}, {"UVCC", ROLE_SUPPLY},
                  {"GND", ROLE_GROUND}, {"AGND", ROLE_GROUND}, {"UGND", ROLE_GROUND}};
    for (size_t i = 0; i < sizeof OTHERS / sizeof OTHERS[0]; i++) {
        if (strcmp(OTHERS[i].name, name) == 0)
            return OTHERS[i].role;
    }
    for (int role = ROLE_RESET; role < ROLE_SUPPLY; role++) {
        if (strcmp(role_words[role].name, name) == 0)
            return (enum role)role;
    }
    return parallel ? bus_role(name) : ROLE_NONE;
}

struct sides wires_sides(const struct cm_pinout *pinout)
{
    if (pinout->shape != CM_PACKAGE_CHIP_CARRIER)
        return (struct sides){1, pinout->pins / 4, pinout->pins / 4};
    int across = pinout->pins / 4 - 1; // of 32: 7, and 9 upright
    return (struct sides){across / 2 + 2, pinout->pins / 2 - across, across};
}

int wires_pin_at(const struct cm_pinout *pinout, int place)
{
    return (wires_sides(pinout).first - 1 + place) % pinout->pins + 1;
}

static void read_pins(struct wiring *wiring, bool parallel)
{
    const char *text = wiring->pinout->names;
    for (uint8_t i = 0; i < wiring->pinout->pins; i++) {
        char whole[2 * PIN_NAME];
        size_t length = strcspn(text, " ");
        snprintf(whole, sizeof whole, "%.*s", (int)length, text);
        char *slash = strchr(whole, '/');
        wiring->pins[i].role = role_of(slash ? slash + 1 : whole, parallel);
        if (slash && wiring->pins[i].role != ROLE_NONE)
            *slash = '\0';
        snprintf(wiring->pins[i].name, sizeof wiring->pins[i].name, "%.11s", whole);
        text += length + (text[length] == ' ');
    }
}

/* --- in the terminal --------------------------------------------------------------------- */

enum { NAME_WIDTH = 6, ROLE_WIDTH = 7, BODY_WIDTH = 13 };

static const char *role_on(const struct pin *pin)
{
    return pin->role ? ink("1") : "";
}

/* Address and data lines are called as their pins are. */
static const char *role_beside(const struct pin *pin)
{
    bool own_name = pin->role == ROLE_ADDRESS || pin->role == ROLE_DATA ||
                    strcmp(pin->name, role_words[pin->role].name) == 0;
    return own_name ? "" : role_words[pin->role].name;
}

static void print_left(const struct wiring *wiring, int number)
{
    const struct pin *pin = &wiring->pins[number - 1];
    printf("  %s%*s %*s%s %3d ", role_on(pin), ROLE_WIDTH, role_beside(pin), NAME_WIDTH, pin->name,
           ink("0"), number);
}

static void print_right(const struct wiring *wiring, int number)
{
    const struct pin *pin = &wiring->pins[number - 1];
    printf(" %-3d %s%-*s %s%s\n", number, role_on(pin), NAME_WIDTH, pin->name, role_beside(pin),
           ink("0"));
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

/* Names of a side's pins from above, a letter a row; `place` is the leftmost pin's, `step` leads to
 * the next. */
static void print_columns(const struct wiring *wiring, int place, int step, bool above)
{
    enum { LETTERS = 24 };
    int across = wires_sides(wiring->pinout).across;
    char labels[MOST_PINS / 4][LETTERS];
    size_t longest = 0;
    for (int i = 0; i < across; i++) {
        const struct pin *pin = &wiring->pins[wires_pin_at(wiring->pinout, place + i * step) - 1];
        const char *role = pin->role < ROLE_SUPPLY ? role_beside(pin) : "";
        snprintf(labels[i], LETTERS, "%s%s%s", pin->name, *role ? " " : "", role);
        longest = strlen(labels[i]) > longest ? strlen(labels[i]) : longest;
    }
    for (size_t row = 0; row < longest; row++) {
        print_indent();
        printf(" ");
        for (int i = 0; i < across; i++) {
            size_t length = strlen(labels[i]), at = above ? row - (longest - length) : row;
            printf(" %c ", (above ? row >= longest - length : row < length) ? labels[i][at] : ' ');
        }
        printf("\n");
    }
}

static void print_numbers(const struct wiring *wiring, int place, int step)
{
    print_indent();
    printf(" ");
    for (int i = 0; i < wires_sides(wiring->pinout).across; i++)
        printf("%3d", wires_pin_at(wiring->pinout, place + i * step));
    printf("\n");
}

static void print_edge(int across)
{
    print_indent();
    printf("+");
    for (int i = 0; i < across; i++)
        printf("---");
    printf("+\n");
}

static void print_quad(const struct wiring *wiring)
{
    struct sides sides = wires_sides(wiring->pinout);
    int pins = wiring->pinout->pins;
    bool corner = sides.first == 1;
    print_columns(wiring, pins - 1, -1, true);
    print_numbers(wiring, pins - 1, -1);
    print_edge(sides.across);
    for (int row = 0; row < sides.upright; row++) {
        print_left(wiring, wires_pin_at(wiring->pinout, row));
        int dot = row != 0 ? -1
                  : corner ? 0
                           : 3 * sides.across / 2; // a chip carrier's is above, in the middle
        printf("|%*s%s%*s|", dot < 0 ? 0 : dot, "", dot < 0 ? " " : "o",
               3 * sides.across - 1 - (dot < 0 ? 0 : dot), "");
        print_right(wiring, wires_pin_at(wiring->pinout, pins - sides.across - 1 - row));
    }
    print_edge(sides.across);
    print_numbers(wiring, sides.upright, 1);
    print_columns(wiring, sides.upright, 1, false);
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

/* "4 (PB3)" for a line, which has one pin; "7, 20" for a supply, whose pins' names are no news; "A0
 * to A18" for a bus. */
static void pins_in_words(const struct wiring *wiring, enum role role, char *text, size_t bytes)
{
    int last = -1;
    if (role == ROLE_ADDRESS || role == ROLE_DATA) {
        for (int i = 0; i < wiring->pinout->pins; i++) {
            int number =
                wiring->pins[i].role == role ? (int)strtol(wiring->pins[i].name + 1, NULL, 10) : -1;
            last = number > last ? number : last;
        }
        text[0] = '\0';
        if (last >= 0)
            snprintf(text, bytes, "%c0 to %c%d", role == ROLE_DATA ? 'D' : 'A',
                     role == ROLE_DATA ? 'D' : 'A', last);
        return;
    }
    wires_pins(wiring, role, text, bytes);
    for (int i = 0; role < ROLE_SUPPLY && i < wiring->pinout->pins; i++) {
        size_t used = strlen(text);
        if (wiring->pins[i].role == role &&
            strcmp(wiring->pins[i].name, role_words[role].name) != 0)
            snprintf(text + used, bytes - used, " (%s)", wiring->pins[i].name);
    }
}

const char *wires_from(const struct wiring *wiring, enum role role)
{
    return wiring->from ? wiring->from->pins[role] : NULL;
}

bool wires_are_too_high(const struct wiring *wiring)
{
    return wiring->from && wiring->from->mv > wiring->part->supply_max_mv;
}

static bool lines_have_addresses(const struct wiring *wiring)
{
    char pins[200];
    pins_in_words(wiring, ROLE_ADDRESS, pins, sizeof pins);
    return pins[0];
}

static void list_lines(struct tool *tool, const struct wiring *wiring)
{
    json_t *lines = json_object(), *board = json_object();
    bool first = true;
    for (int role = ROLE_RESET; role < ROLE_COUNT; role++) {
        char pins[200];
        pins_in_words(wiring, (enum role)role, pins, sizeof pins);
        if (!pins[0])
            continue;
        bool bus = role == ROLE_ADDRESS || role == ROLE_DATA;
        const char *from = wires_from(wiring, (enum role)role);
        if (wiring->from)
            say(tool, first ? "lines" : "", "%-7s from %-12s to pin %-12s %s%s%s",
                role_words[role].name, from ? from : "-", pins, colour("2"), role_words[role].note,
                colour("0"));
        else
            say(tool, first ? "lines" : "", "%-7s %s %-24s %s%s%s", role_words[role].name,
                bus ? "pins  " : "to pin", pins, colour("2"), role_words[role].note, colour("0"));
        json_object_set_new(lines, role_words[role].name, json_text(pins));
        if (from)
            json_object_set_new(board, role_words[role].name, json_text(from));
        first = false;
    }
    set_json(tool, "lines", lines);
    if (wiring->from)
        set_json(tool, "from", board);
    else
        json_decref(board);
    set_json(tool, "package", json_text(wiring->pinout->package));
    if (wiring->from && wiring->from->addresses && lines_have_addresses(wiring))
        say(tool, "registers", "%s", wiring->from->addresses);
    say(tool, "supply", "%s; the part wants %.1f to %.1f V", wiring->feeding,
        wiring->part->supply_min_mv / 1000.0, wiring->part->supply_max_mv / 1000.0);
}

/* --- the verb ---------------------------------------------------------------------------- */

/* The packages of a part: number 0, 1, ... */
static const struct cm_pinout *package_of(const struct tool *tool, const struct cm_part *part,
                                          uint8_t number)
{
    return kit_of(tool, part)->about->pinout(part, number);
}

static enum exit_code find_package(struct tool *tool, struct wiring *wiring)
{
    char known[200] = "", evidence[300];
    size_t used = 0;
    const struct cm_pinout *row;
    for (uint8_t i = 0; (row = package_of(tool, wiring->part, i)) != NULL && used < sizeof known;
         i++) {
        if (!wiring->pinout && (!given.package || strcasecmp(given.package, row->package) == 0))
            wiring->pinout = row;
        used += (size_t)snprintf(known + used, sizeof known - used, "%s%s", i ? ", " : "",
                                 row->package);
    }
    if (wiring->pinout) {
        say(tool, "chip", "%s%s%s in %s, from above%s%s", colour("1"), wiring->part->name,
            colour("0"), wiring->pinout->package, strchr(known, ',') ? "; known: " : "",
            strchr(known, ',') ? known : "");
        return EXIT_GOOD;
    }
    snprintf(evidence, sizeof evidence, "%s: %s", wiring->part->name,
             known[0] ? known : "no package of this part is in the tables");
    return tool_fail_as(
        tool, EXIT_USAGE, given.package ? "this package is not known" : "no pinout is known",
        evidence, known[0] ? "--package takes one of these" : "its data sheet shows the pins");
}

/* What the port can do about the supply; without a port, the rule. */
static enum exit_code look_at_port(struct tool *tool, struct wiring *wiring)
{
    static char text[200];
    wiring->feeding = "from the board or from the programmer, never from both";
    if (!tool->port_name)
        return EXIT_GOOD;
    enum exit_code code = tool_open_port(tool);
    if (code)
        return code;
    const struct cm_traits *traits = &tool->port->traits;
    if (traits->supply_max_mv)
        snprintf(text, sizeof text,
                 "this port can feed %.1f to %.1f V (--feed), if the board does not",
                 traits->supply_min_mv / 1000.0, traits->supply_max_mv / 1000.0);
    else
        snprintf(text, sizeof text, "from the board: this port cannot feed it%s",
                 traits->senses & CM_LINE_BIT(CM_LINE_SUPPLY) ? ", but measures it" : "");
    wiring->feeding = text;
    return EXIT_GOOD;
}

/* The board that is named, if it has the lines for this chip. */
static enum exit_code find_board(struct tool *tool, struct wiring *wiring)
{
    if (!given.from)
        return EXIT_GOOD;
    wiring->from = board_named(given.from);
    if (!wiring->from)
        return tool_fail_as(tool, EXIT_USAGE, "no board of this name is known", given.from,
                            board_names);
    for (int i = 0; i < wiring->pinout->pins; i++) {
        enum role role = wiring->pins[i].role;
        bool may_lack = role == ROLE_NONE || role == ROLE_ORG;
        if (!may_lack && !wiring->from->pins[role])
            return tool_fail_as(tool, EXIT_USAGE, "this board has no line for a pin of this chip",
                                role_words[role].name, "another port has it: see 'coldmint ports'");
    }
    wiring->feeding = wiring->from->feeding;
    return EXIT_GOOD;
}

/* What is more than the chip's highest supply would go into its pins. */
static void warn_of_levels(struct tool *tool, const struct wiring *wiring)
{
    if (!wires_are_too_high(wiring))
        return;
    say(tool, "levels",
        "%s puts %.1f V on its lines, and this chip bears %.1f V: level shifters between the two, "
        "or a board of that voltage",
        wiring->from->name, wiring->from->mv / 1000.0, wiring->part->supply_max_mv / 1000.0);
}

static enum exit_code run(struct tool *tool, const char *const *things)
{
    struct wiring wiring = {0};
    tool->host.replace = given.replace;
    char path[CM_FILE_PATH];
    if (things[0] && (things[1] || tool->given.chip))
        return tool_fail_as(tool, EXIT_USAGE, "wires takes one chip", things[0],
                            "coldmint wires --chip NAME");
    if (things[0])
        tool->given.chip = strdup(things[0]);
    if (!tool->given.chip)
        return tool_fail_as(tool, EXIT_USAGE, "no chip is named", "--chip is missing",
                            "coldmint wires --chip attiny84a");
    enum exit_code code = tool_check_options(tool);
    if (code)
        return code;
    wiring.part = tool_part(tool);
    code = look_at_port(tool, &wiring);
    if (!code)
        code = find_package(tool, &wiring);
    if (code)
        return code;
    const bool parallel = kit_of(tool, wiring.part)->family->bus->id == CM_BUS_PARALLEL;
    read_pins(&wiring, parallel);
    code = find_board(tool, &wiring);
    if (code)
        return code;
    if (!tool->given.json && !given.output) {
        printf("\n");
        if (wiring.pinout->shape == CM_PACKAGE_DUAL)
            print_dual(&wiring);
        else
            print_quad(&wiring);
        printf("\n");
    }
    list_lines(tool, &wiring);
    warn_of_levels(tool, &wiring);
    if (given.output) {
        cm_name_with_extension(path, sizeof path, given.output, ".svg");
        code = wires_draw(tool, &wiring, path);
        if (code)
            return code;
        set_json(tool, "file", json_text(path));
        say_last(tool, "%s shows how to connect %s", path, wiring.part->name);
    } else {
        if (parallel)
            say(tool, "socket",
                "a part with fewer pins than the socket sits at its lower end, away from the "
                "lever: ground in the lowest left "
                "corner");
        say_last(tool, "pin 1 is at the dot; with power off, connect ground first");
    }
    return EXIT_GOOD;
}

static const struct poptOption options[] = {
    {"package", 0, POPT_ARG_STRING, &given.package, 0,
     "which package; the first that is known if not given", "NAME"},
    {"from", 0, POPT_ARG_STRING, &given.from, 0,
     "from the pins of a board: probe-328p, probe-1284p, header-40 or serial-lines", "BOARD"},
    {"output", 'o', POPT_ARG_STRING, &given.output, 0,
     "draw into a file instead: .svg, .pdf or .png", "FILE"},
    {"replace", 0, POPT_ARG_NONE, &given.replace, 0, "overwrite the file if it exists", NULL},
    POPT_TABLEEND};

const struct verb verb_wires = {
    .name = "wires",
    .things = "[options] [CHIP]",
    .summary =
        "show how to connect a chip: its package from above, every programming line to its pin",
    .example = "coldmint wires --chip attiny84a --output node.png",
    .mistake = "counting from the wrong corner: the dot or notch marks pin 1, and the count goes "
               "against the clock",
    .options = options,
    .heeds = HEEDS_CHIP | HEEDS_VIA,
    .run = run,
};
