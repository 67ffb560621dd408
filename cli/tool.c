/*
 * The port behind a command, and the chip behind the port.
 */
#include "tool.h"
#include "guard.h"
#include <ctype.h>
#include <errno.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum {
    WORKSPACE_BYTES = 1 << 20
}; // the largest sector there is, and the map of the largest memory

static struct cm_all_found described; // chips that describe themselves
static struct cm_nor_found plain;     // one of which only the size is known: --chip plain-4M
static const struct cm_part *const plain_parts[] = {&plain.row.part};

struct cm_kit tool_kits[TOOL_KITS];
static struct cm_kit *plain_kit;

/* All families; and behind the one whose chips may have nothing but a size, such chips. */
void tool_make_kits(void)
{
    struct cm_kit all[CM_ALL_KITS], *next = tool_kits;
    cm_all_kits(all, &described);
    for (int i = 0; i < CM_ALL_KITS; i++) {
        *next++ = all[i];
        if (!all[i].about->known_by_size)
            continue;
        plain_kit = next++;
        *plain_kit = all[i];
        plain_kit->parts = plain_parts;
        plain_kit->part_count = 0; // none until it is asked for
        plain_kit->found = NULL;
        plain_kit->describe = NULL;
    }
}

bool is_plain_kit(const struct cm_kit *kit)
{
    return kit == plain_kit;
}

const struct cm_part *tool_part(const char *name)
{
    return cm_part_by_name(tool_kits, TOOL_KITS, name);
}

const struct cm_kit *kit_of(const struct cm_part *part)
{
    for (int k = 0; k < TOOL_KITS; k++) {
        for (uint16_t i = 0; i < tool_kits[k].part_count; i++) {
            if (tool_kits[k].parts[i] == part)
                return &tool_kits[k];
        }
        if (tool_kits[k].found == part)
            return &tool_kits[k];
    }
    return &tool_kits[0];
}

const struct cm_words *words_of(const struct cm_part *part)
{
    return kit_of(part)->words;
}

bool is_memory(const struct cm_part *part)
{
    return !kit_of(part)->about->program;
}

bool is_spi_memory(const struct cm_part *part)
{
    return kit_of(part)->words == &cm_nor_words;
}

bool is_parallel(const struct cm_part *part)
{
    return kit_of(part)->family->bus == &cm_bus_parallel;
}

const char *main_region(const struct tool *tool)
{
    static struct cm_region region;
    return cm_region(&tool->session, CM_REGION_MAIN, &region) ? region.name : "flash";
}

enum exit_code tool_fail(struct tool *tool, enum cm_status status)
{
    words_for_failure(tool, status, &tool->words);
    const struct cm_failure *failure = &tool->session.failure;
    json_t *record = json_pack("{s:s, s:s}", "status", cm_status_word(status), "step",
                               step_words(failure->step));
    if (failure->region)
        json_object_set_new(record, "region", json_text(failure->region));
    if (failure->has_address)
        json_object_set_new(record, "address", json_integer(failure->address));
    if (failure->has_bytes) {
        json_object_set_new(record, "expected", json_integer(failure->expected));
        json_object_set_new(record, "found", json_integer(failure->found));
    }
    set_json(tool, "failure", record);
    return tool->words.code;
}

enum exit_code tool_fail_as(struct tool *tool, enum exit_code code, const char *what,
                            const char *evidence, const char *advice)
{
    struct words *words = &tool->words;
    words->code = code;
    snprintf(words->what, sizeof words->what, "%s", what);
    snprintf(words->evidence, sizeof words->evidence, "%s", evidence);
    snprintf(words->try, sizeof words->try, "%s", advice);
    return code;
}

/* "8MHz", "128 kHz", "1.5M", "32768" in Hz; 0 where it is none of these. */
uint32_t parse_clock(const char *text)
{
    char *end;
    double value = strtod(text, &end);
    while (*end == ' ')
        end++;
    double factor = 1;
    if (tolower((unsigned char)*end) == 'k')
        factor = 1e3;
    else if (*end == 'M' || *end == 'm')
        factor = 1e6;
    const char *rest = factor > 1 ? end + 1 : end;
    bool unit = *rest == '\0' || strcmp(rest, "Hz") == 0 || strcmp(rest, "hz") == 0 ||
                strcmp(rest, "HZ") == 0;
    double hz = value * factor;
    return end != text && unit && hz >= 1000 && hz <= 133e6 ? (uint32_t)hz : 0;
}

/* "3.3" or "3.3V" in mV; 0 where it is neither, or no supply for a chip. */
uint16_t parse_volts(const char *text)
{
    char *end;
    double volts = strtod(text, &end);
    bool unit = *end == '\0' || strcmp(end, "V") == 0 || strcmp(end, "v") == 0;
    return end != text && unit && volts >= 1.5 && volts <= 6 ? (uint16_t)(volts * 1000 + 0.5) : 0;
}

/* Either side may feed the board, never both. */
static enum exit_code prepare_feed(struct tool *tool)
{
    char evidence[200];
    uint16_t mv, found;
    if (!tool->feed)
        return EXIT_GOOD;
    const struct cm_traits *traits = &tool->port->traits;
    tool->searches = strcmp(tool->feed, "search") == 0;
    if (tool->searches && !tool->chip)
        return tool_fail_as(
            tool, EXIT_USAGE, "--feed search needs --chip",
            "the search begins at the part's highest supply, and never goes above it",
            "read the name off the package, and give it with --chip");
    mv = tool->searches ? traits->supply_max_mv : parse_volts(tool->feed);
    if (mv == 0 && !tool->searches)
        return tool_fail_as(tool, EXIT_USAGE, "--feed is not a voltage", tool->feed,
                            "1.5 to 6 V, for example --feed 3.3");
    if (mv < traits->supply_min_mv || mv > traits->supply_max_mv || mv == 0) {
        snprintf(evidence, sizeof evidence, "%.2f V wanted; it can feed %.2f to %.2f V",
                 mv / 1000.0, traits->supply_min_mv / 1000.0, traits->supply_max_mv / 1000.0);
        return tool_fail_as(tool, EXIT_NO_PORT, "this port cannot feed the target so", evidence,
                            "feed the board from its own supply");
    }
    if (cm_supply_mv(&tool->session, &found) == CM_OK && found > 500) {
        snprintf(evidence, sizeof evidence, "%.2f V measured before anything was switched on",
                 found / 1000.0);
        return tool_fail_as(tool, EXIT_REFUSED, "refused: the target has a supply of its own",
                            evidence,
                            "leave --feed out; two supplies against each other harm both");
    }
    tool->feed_mv = tool->searches ? 0 : mv;
    return EXIT_GOOD;
}

enum exit_code tool_open_port(struct tool *tool)
{
    char error[PORT_ERROR_BYTES] = "", what[400], forms[200] = "this build has";
    const char *place;
    if (!tool->via)
        return tool_fail_as(tool, EXIT_NO_PORT, "no port is named",
                            "neither --via, nor COLDMINT_VIA, nor the configuration file says one",
                            "--via sim:BENCH.yaml takes a simulated bench");
    const struct port_kind *kind = port_kind_of(tool->via, &place);
    for (const struct port_kind *const *known = port_kinds; !kind && *known; known++)
        snprintf(forms + strlen(forms), sizeof forms - strlen(forms), "%s %s",
                 known == port_kinds ? "" : ",", (*known)->form);
    if (!kind)
        return tool_fail_as(tool, EXIT_NO_PORT, "no such kind of port", tool->via, forms);
    enum port_opening opening = kind->open(place, &tool->opened, error);
    tool->port = tool->opened.port;
    if (kind == &port_kind_sim)
        tool->sim = tool->opened.hardware;
    if (opening == PORT_DENIED && tool->verb != &verb_bench) {
        snprintf(what, sizeof what, "no right to use the port %.300s", place);
        return tool_fail_as(tool, EXIT_NO_PORT, what,
                            "the system refuses access: permission denied",
                            "the programmer is there: give your user the right to it (group, or "
                            "rule), then plug it in again");
    }
    if (opening != PORT_FAILED)
        return EXIT_GOOD;
    snprintf(what, sizeof what, "the %s %.300s cannot be set up", kind->what, place);
    return tool_fail_as(tool, EXIT_NO_PORT, what, error, kind->hint);
}

/* "plain-4M": SPI flash of this size, with the instructions that nearly all have; any id will do.
 */
static void describe_plain(const char *name)
{
    char *end;
    if (strncmp(name, "plain-", 6) != 0)
        return;
    unsigned long size = strtoul(name + 6, &end, 10), shift = *end == 'k'   ? 10
                                                              : *end == 'm' ? 20
                                                                            : 0;
    bool good = shift && end[1] == '\0' && size && (size & (size - 1)) == 0 &&
                size <= 0x10000000ul >> shift && size << shift >= 65536;
    if (!good)
        return;
    cm_nor_describe_plain(&plain, (uint32_t)(size << shift));
    snprintf(plain.row.part.name, sizeof plain.row.part.name, "%s", name);
    plain_kit->part_count = 1;
}

enum exit_code tool_check_options(struct tool *tool)
{
    char evidence[200];
    if (tool->clock && parse_clock(tool->clock) == 0)
        return tool_fail_as(tool, EXIT_USAGE, "--clock is not a frequency", tool->clock,
                            "the chip's own clock, for example 8MHz or 128kHz");
    if (tool->chip) {
        for (char *c = tool->chip; *c; c++)
            *c = (char)tolower((unsigned char)*c);
        char *at = strchr(tool->chip, '@'); // 24c02@52: the one at this address of a two-wire bus
        if (at) {
            tool->device = (uint8_t)strtoul(at + 1, NULL, 16);
            *at = '\0';
            if (tool->device < CM_SCAN_FIRST || tool->device > CM_SCAN_LAST)
                return tool_fail_as(tool, EXIT_USAGE, "this is no address of a two-wire bus",
                                    at + 1, "for example --chip 24c02@52");
        }
        if (strcmp(tool->chip, "any-flash") == 0) {
            tool->any_flash = true;
            free(tool->chip);
            tool->chip = NULL;
            return EXIT_GOOD;
        }
        describe_plain(tool->chip);
        if (!tool_part(tool->chip)) {
            snprintf(evidence, sizeof evidence, "'%.100s' is in no table", tool->chip);
            return tool_fail_as(tool, EXIT_USAGE, "no such chip is known", evidence,
                                "'coldmint chips' lists them; write the whole name. SPI flash in "
                                "no table: plain-4M, with its size");
        }
    }
    return EXIT_GOOD;
}

/* What is odd about the connection, though the chip answers. */
static void say_findings(struct tool *tool)
{
    const struct cm_session *session = &tool->session;
    uint32_t told_hz = tool->clock ? parse_clock(tool->clock) : 0;
    if (tool->reset_held)
        say(tool, "note",
            "RESET is held low by something on the board: the chip answers, but its program cannot "
            "run");
    if (told_hz && !is_memory(session->part) && session->clock_hz < told_hz / 8)
        say(tool, "note",
            "the chip answers at %.1f kHz only, so its own clock is slower than --clock %s says",
            session->clock_hz / 1e3, tool->clock);
    if (session->doubts)
        say(tool, "note",
            "contact was bad while the chip was looked for; what it misread may have changed it: "
            "compare it with a backup");
    set_json(tool, "reset_held", json_boolean(tool->reset_held));
}

uint16_t tool_supply_mv(struct tool *tool)
{
    uint16_t mv;
    return tool->open && cm_supply_mv(&tool->session, &mv) == CM_OK ? mv : 0;
}

const char *tool_port_key(const struct tool *tool, char *text)
{
    const char *via = tool->via ? tool->via : "", *colon = strchr(via, ':');
    char *place = colon ? realpath(colon + 1, NULL) : NULL;
    uint32_t hash = 2166136261u; // FNV-1a
    for (const char *at = place ? place : via; *at; at++)
        hash = (hash ^ (uint8_t)*at) * 16777619u;
    free(place);
    snprintf(text, SHORT_TEXT, "%08x", (unsigned)hash);
    return text;
}

uint32_t tool_restarts(const struct tool *tool)
{
    return tool->opened.kind ? tool->opened.port->state->restarts : 0; // also behind a recorder
}

enum exit_code tool_open_session(struct tool *tool)
{
    enum exit_code code = tool_open_port(tool);
    if (!code)
        code = recording_begin(tool);
    if (code)
        return code;
    tool->workspace = malloc(WORKSPACE_BYTES);
    enum cm_status status =
        cm_open(&tool->session, tool->port, tool_kits, TOOL_KITS, tool->workspace, WORKSPACE_BYTES);
    if (status)
        return tool_fail(tool, status);
    tool->open = true;
    tool->session.device = tool->device;
    tool->session.cpu_hz = tool->clock ? parse_clock(tool->clock) : 0;
    return prepare_feed(tool);
}

static void on_supply_try(void *context, const struct cm_supply_try *tried)
{
    struct tool *tool = context;
    json_t *list = json_object_get(tool->answer, "supply_tries");
    if (!list)
        set_json(tool, "supply_tries", list = json_array());
    say(tool, json_array_size(list) ? "" : "supply", "%.1f V: the id came right %u of %u times",
        tried->mv / 1000.0, tried->good, CM_SUPPLY_ASKS);
    json_array_append_new(list,
                          json_pack("{s:i, s:i}", "mv", (int)tried->mv, "good", (int)tried->good));
}

/* Something else on the same wires, before we drive any: in circuit, the rest of the board. */
static void listen(struct tool *tool)
{
    uint32_t changes =
        tool->port->traits.lines & CM_LINE_BIT(CM_LINE_SELECT) ? cm_listen(&tool->session) : 0;
    set_json(tool, "other_traffic", json_integer(changes));
    if (changes)
        say(tool, "note",
            "something else talks on these wires: they changed %u times while nobody here drove "
            "them. Hold the board's processor "
            "in reset, or "
            "feed the board less: --feed search finds out how much",
            (unsigned)changes);
}

enum cm_status tool_feed(struct tool *tool)
{
    return tool->feed_mv ? cm_feed(&tool->session, tool->feed_mv) : CM_OK;
}

static enum cm_status find_chip(struct tool *tool)
{
    uint16_t reset_level;
    listen(tool);
    if (cm_sense(&tool->session, CM_LINE_RESET, &reset_level) == CM_OK)
        tool->reset_held = reset_level == 0 && !tool->feed_mv;
    enum cm_status status = tool_feed(tool);
    if (!status && tool->searches)
        status = cm_find_supply(&tool->session, tool->chip, on_supply_try, tool);
    else if (!status)
        status = cm_identify(&tool->session, tool->chip);
    bool can_learn = !tool->clock && cm_words_of(&tool->session);
    return !status && can_learn ? cm_learn_clock(&tool->session, tool->board_hz) : status;
}

/* What is on a two-wire bus, told by the addresses that answer. */
static enum exit_code scan_bus(struct tool *tool)
{
    uint8_t answers[16];
    char list[400] = "", evidence[500];
    unsigned count = 0, memories = 0;
    json_t *found = json_array();
    enum cm_status status = tool_feed(tool);
    if (!status)
        status = cm_scan(&tool->session, answers);
    if (status)
        return tool_fail(tool, status);
    for (unsigned device = CM_SCAN_FIRST; device <= CM_SCAN_LAST; device++) {
        if (!(answers[device / 8] >> device % 8 & 1))
            continue;
        snprintf(list + strlen(list), sizeof list - strlen(list), "%s%02X", count++ ? ", " : "",
                 device);
        memories += device >= CM_I2C24_DEVICE && device < CM_I2C24_DEVICE + 8;
        json_array_append_new(found, json_integer((json_int_t)device));
    }
    set_json(tool, "addresses", found);
    snprintf(evidence, sizeof evidence, "addresses that answer: %s", count ? list : "none");
    if (!count)
        return tool_fail_as(
            tool, EXIT_NO_CHIP, "nothing answers on the two-wire bus", evidence,
            "SDA and SCL swapped? Each wants a pull-up of some 4.7 kOhm; has the chip power?");
    return tool_fail_as(
        tool, EXIT_WRONG_CHIP,
        memories ? "a serial EEPROM answers, or something like it; it has no id to tell which"
                 : "something answers, but not where EEPROMs do",
        evidence,
        memories == 8 ? "one that answers at all eight from 50 on is mostly a 24c16; read the name "
                        "off the package, and give it with --chip"
                      : "read the name off the package, and give it with --chip; of several on one "
                        "bus: --chip 24c02@51");
}

/* Of the families only those are asked that are asked by writing; or only those that prove that
 * they are there. */
static void ask_some(struct tool *tool, bool by_writing)
{
    static struct cm_kit asked[TOOL_KITS];
    uint8_t count = 0;
    for (int k = 0; k < TOOL_KITS; k++) {
        const struct cm_about *about = tool_kits[k].about;
        if (by_writing ? about->asks_by_writing : !about->looks_like_nothing)
            asked[count++] = tool_kits[k];
    }
    tool->session.kits = asked;
    tool->session.kit_count = count;
}

/* Buses on which a chip cannot be asked who it is without harm, or at all. */
static enum exit_code refuse_to_guess(struct tool *tool)
{
    if (tool->port->traits.lines & CM_LINE_BIT(CM_LINE_SDA))
        return scan_bus(tool);
    if (tool->port->traits.data_lines == 0) {
        ask_some(tool, false);
        return EXIT_GOOD;
    }
    if (tool->any_flash) {
        ask_some(tool, true);
        return EXIT_GOOD;
    }
    return tool_fail_as(tool, EXIT_USAGE,
                        "what is in the socket? A parallel chip is not asked without a name",
                        "a flash tells its id when it is written to; an EEPROM of the 28 series "
                        "takes that for data, and changes",
                        "read the name off the package, and give it with --chip; if there can be "
                        "no EEPROM in the socket, --chip "
                        "any-flash asks which "
                        "flash it is");
}

enum exit_code tool_begin(struct tool *tool)
{
    enum exit_code code = tool_check_options(tool);
    if (!code)
        code = tool_open_session(tool);
    if (code)
        return code;
    code = tool->chip ? EXIT_GOOD : refuse_to_guess(tool);
    if (code)
        return code;
    enum cm_status status = find_chip(tool);
    if (status)
        return tool_fail(tool, status);
    say_chip(tool);
    say_findings(tool);
    guard_tell_left_behind(tool);
    return EXIT_GOOD;
}

void tool_close(struct tool *tool)
{
    tool_progress_end(tool);
    if (tool_restarts(tool))
        set_json(tool, "restarts", json_integer(tool_restarts(tool)));
    if (tool_restarts(tool) && !tool->words.code)
        say(tool, "note", "the programmer restarted %u times in the middle, and the job went on",
            (unsigned)tool_restarts(tool));
    if (tool->open)
        cm_close(&tool->session);
    tool->open = false;
    recording_end(tool);
    const struct port_kind *kind = tool->opened.kind;
    if (kind && !kind->close(&tool->opened) && !tool->words.code)
        tool_fail_as(tool, EXIT_NO_PORT, "the bench's state cannot be saved", strerror(errno),
                     disk_advice(errno));
    tool->sim = NULL;
    free(tool->workspace);
    tool->workspace = NULL;
}
