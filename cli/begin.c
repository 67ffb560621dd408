/*
 * The port behind a command, and the chip behind the port.
 */
#include "begin.h"
#include "notes.h"
#include "progress.h"
#include "recording.h"
#include "say.h"
#include "words/fail.h"
#include <ctype.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

const struct cm_part *tool_part(struct tool *tool)
{
    return tool->given.chip ? cm_host_part(&tool->host, tool->given.chip) : NULL;
}

/* Times that the programmer restarted; also behind a recorder. */
static uint32_t restarts(const struct tool *tool)
{
    return tool->opened.kind ? tool->opened.port->state->restarts : 0;
}

/* --- the options ------------------------------------------------------------------------- */

/* 24c02@52: the one at this address of an I2C bus. */
static enum exit_code take_device(struct tool *tool)
{
    char *at = strchr(tool->given.chip, '@');
    if (!at)
        return EXIT_GOOD;
    bool good = cm_parse_byte(at + 1, &tool->device) && !at[3];
    *at = '\0';
    if (good && tool->device >= CM_SCAN_FIRST && tool->device <= CM_SCAN_LAST)
        return EXIT_GOOD;
    return tool_fail_as(tool, EXIT_USAGE, "this is no address of an I2C bus", at + 1,
                        "for example --chip 24c02@52");
}

static enum exit_code check_chip(struct tool *tool)
{
    char evidence[200];
    for (char *c = tool->given.chip; *c; c++)
        *c = (char)tolower((unsigned char)*c);
    enum exit_code code = take_device(tool);
    if (code)
        return code;
    if (strcmp(tool->given.chip, "any-flash") == 0) {
        tool->any_flash = true;
        free(tool->given.chip);
        tool->given.chip = NULL;
        return EXIT_GOOD;
    }
    if (tool_part(tool))
        return EXIT_GOOD;
    snprintf(evidence, sizeof evidence, "'%.100s' is in no table", tool->given.chip);
    return tool_fail_as(tool, EXIT_USAGE, "no such chip is known", evidence,
                        "'coldmint chips' lists them; write the whole name. SPI flash in no "
                        "table: plain-4M, with its size");
}

enum exit_code tool_check_options(struct tool *tool)
{
    if (tool->given.clock && cm_parse_clock(tool->given.clock) == 0)
        return tool_fail_as(tool, EXIT_USAGE, "--clock is not a frequency", tool->given.clock,
                            "the chip's own clock, for example 8MHz or 128kHz");
    return tool->given.chip ? check_chip(tool) : EXIT_GOOD;
}

/* --- the port ---------------------------------------------------------------------------- */

enum exit_code tool_open_port(struct tool *tool)
{
    if (!tool->port_name)
        return tool_fail_as(tool, EXIT_NO_PORT, "no port is named",
                            "neither --via, nor COLDMINT_VIA, nor the configuration file says one",
                            "--via sim:BENCH.yaml takes a simulated bench");
    bool is_open = cm_port_open(&tool->host, tool->port_name, &tool->opened);
    tool->port = tool->opened.port;
    bool is_shown = tool->host.error.kind == CM_ERROR_PORT_DENIED && tool->verb->shows_denied;
    return host_code(tool, is_open || is_shown);
}

/* What a recipe wishes. A board that has a supply, or a port that has none, is left as it is: the
 * supply is measured then. */
static enum exit_code take_wish(struct tool *tool)
{
    enum { OFF_US = 200000 };
    const struct cm_traits *traits = &tool->port->traits;
    bool can = tool->wish_mv && tool->wish_mv >= traits->supply_min_mv &&
               tool->wish_mv <= traits->supply_max_mv && tool->port->lines->supply;
    if (!can || cm_has_own_supply(&tool->session))
        return EXIT_GOOD;
    tool->feed_mv = tool->wish_mv;
    if (!tool->wish_cycle)
        return EXIT_GOOD;
    enum cm_status status = tool->port->lines->supply(tool->port, 0);
    tool->port->lines->wait_us(tool->port, OFF_US);
    return session_code(tool, status);
}

/* Either side may feed the board, never both. */
static enum exit_code prepare_feed(struct tool *tool)
{
    char evidence[200];
    uint16_t mv;
    if (!tool->given.feed)
        return take_wish(tool);
    const struct cm_traits *traits = &tool->port->traits;
    tool->searches = strcmp(tool->given.feed, "search") == 0;
    if (tool->searches && !tool->given.chip)
        return tool_fail_as(
            tool, EXIT_USAGE, "--feed search needs --chip",
            "the search begins at the part's highest supply, and never goes above it",
            "read the name off the package, and give it with --chip");
    mv = tool->searches ? traits->supply_max_mv : cm_parse_volts(tool->given.feed);
    if (mv == 0 && !tool->searches)
        return tool_fail_as(tool, EXIT_USAGE, "--feed is not a voltage", tool->given.feed,
                            "1.5 to 6 V, for example --feed 3.3");
    if (mv < traits->supply_min_mv || mv > traits->supply_max_mv || mv == 0) {
        snprintf(evidence, sizeof evidence, "%.2f V wanted; it can feed %.2f to %.2f V",
                 mv / 1000.0, traits->supply_min_mv / 1000.0, traits->supply_max_mv / 1000.0);
        return tool_fail_as(tool, EXIT_NO_PORT, "this port cannot feed the target so", evidence,
                            "feed the board from its own supply");
    }
    if (cm_has_own_supply(&tool->session)) {
        snprintf(evidence, sizeof evidence, "%.2f V measured before anything was switched on",
                 tool_supply_mv(tool) / 1000.0);
        return tool_fail_as(tool, EXIT_REFUSED, "refused: the target has a supply of its own",
                            evidence,
                            "leave --feed out; two supplies against each other harm both");
    }
    tool->feed_mv = tool->searches ? 0 : mv;
    return EXIT_GOOD;
}

/* What is odd about the connection, though the chip answers. */
static void say_findings(struct tool *tool)
{
    const struct cm_session *session = &tool->session;
    uint32_t told_hz = tool->given.clock ? cm_parse_clock(tool->given.clock) : 0;
    if (tool->reset_held)
        say(tool, "note",
            "RESET is held low by something on the board: the chip answers, but its program cannot "
            "run");
    if (told_hz && !is_memory(tool, session->part) && session->clock_hz < told_hz / 8)
        say(tool, "note",
            "the chip answers at %.1f kHz only, so its own clock is slower than --clock %s says",
            session->clock_hz / 1e3, tool->given.clock);
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

enum cm_status tool_start_session(struct tool *tool)
{
    enum cm_status status = cm_open(&tool->session, tool->port, tool->host.kits,
                                    tool->host.kit_count, tool->workspace, TOOL_WORKSPACE);
    tool->session.device = tool->device;
    tool->session.cpu_hz = tool->given.clock ? cm_parse_clock(tool->given.clock) : 0;
    return status;
}

enum exit_code tool_open_session(struct tool *tool)
{
    enum exit_code code = tool_open_port(tool);
    if (!code)
        code = recording_begin(tool);
    if (code)
        return code;
    tool->workspace = malloc(TOOL_WORKSPACE);
    enum cm_status status = tool_start_session(tool);
    if (status)
        return tool_fail(tool, status);
    tool->open = true;
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
            "them. Hold the board's processor in reset, or feed the board less: --feed search "
            "finds out how much",
            (unsigned)changes);
}

enum cm_status tool_feed(struct tool *tool)
{
    return tool->feed_mv ? cm_feed(&tool->session, tool->feed_mv) : CM_OK;
}

enum cm_status tool_learn_clock(struct tool *tool, enum cm_status status)
{
    bool can_learn = !tool->given.clock && cm_words_of(&tool->session);
    return !status && can_learn ? cm_learn_clock(&tool->session, tool->board_hz) : status;
}

static enum cm_status find_chip(struct tool *tool)
{
    uint16_t reset_level;
    listen(tool);
    if (cm_sense(&tool->session, CM_LINE_RESET, &reset_level) == CM_OK)
        tool->reset_held = reset_level == 0 && !tool->feed_mv;
    enum cm_status status = tool_feed(tool);
    if (!status && tool->searches)
        status = cm_find_supply(&tool->session, tool->given.chip, on_supply_try, tool);
    else if (!status)
        status = cm_identify(&tool->session, tool->given.chip);
    return tool_learn_clock(tool, status);
}

/* Is it an address at which a family of the list answers? */
static bool is_memory_address(const struct tool *tool, unsigned device)
{
    enum { ADDRESSES = 8 };
    for (uint8_t k = 0; k < tool->host.kit_count; k++) {
        unsigned first = tool->host.kits[k].about->first_device;
        if (first && device >= first && device < first + ADDRESSES)
            return true;
    }
    return false;
}

enum { ANSWERS = 16 };

/* What is on an I2C bus, told by the addresses that answer. */
static enum exit_code tell_devices(struct tool *tool, const uint8_t *answers)
{
    char list[400] = "", evidence[500];
    unsigned count = 0, memories = 0;
    json_t *found = json_array();
    for (unsigned device = CM_SCAN_FIRST; device <= CM_SCAN_LAST; device++) {
        if (!(answers[device / 8] >> device % 8 & 1))
            continue;
        snprintf(list + strlen(list), sizeof list - strlen(list), "%s%02X", count++ ? ", " : "",
                 device);
        memories += is_memory_address(tool, device);
        json_array_append_new(found, json_integer((json_int_t)device));
    }
    set_json(tool, "addresses", found);
    snprintf(evidence, sizeof evidence, "addresses that answer: %s", count ? list : "none");
    if (!count)
        return tool_fail_as(
            tool, EXIT_NO_CHIP, "nothing answers on the I2C bus", evidence,
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

static enum exit_code scan_bus(struct tool *tool)
{
    uint8_t answers[ANSWERS];
    enum cm_status status = tool_feed(tool);
    if (!status)
        status = cm_scan(&tool->session, answers);
    return status ? tool_fail(tool, status) : tell_devices(tool, answers);
}

static bool has_lines(const struct tool *tool, uint32_t lines)
{
    return tool->port->traits.lines & lines;
}

/* No chip has told who it is. On a port with several buses it may be one that cannot, on I2C. */
static enum exit_code look_on_i2c(struct tool *tool, enum cm_status status)
{
    static const uint8_t NONE[ANSWERS];
    uint8_t answers[ANSWERS];
    bool may_be = status == CM_NO_CHIP && !tool->given.chip &&
                  has_lines(tool, CM_LINE_BIT(CM_LINE_SDA)) &&
                  cm_scan(&tool->session, answers) == CM_OK;
    return may_be && memcmp(answers, NONE, sizeof answers) != 0 ? tell_devices(tool, answers)
                                                                : tool_fail(tool, status);
}

/* Of the families only those are asked that are asked by writing; or only those that prove that
 * they are there. */
static void ask_some(struct tool *tool, bool by_writing)
{
    static struct cm_kit asked[CM_HOST_KITS];
    uint8_t count = 0;
    for (int k = 0; k < tool->host.kit_count; k++) {
        const struct cm_about *about = tool->host.kits[k].about;
        if (by_writing ? about->asks_by_writing : !about->looks_like_nothing)
            asked[count++] = tool->host.kits[k];
    }
    tool->session.kits = asked;
    tool->session.kit_count = count;
}

/* Buses on which a chip cannot be asked who it is without harm, or at all. */
static enum exit_code refuse_to_guess(struct tool *tool)
{
    bool has_others = has_lines(tool, CM_LINE_BIT(CM_LINE_RESET) | CM_LINE_BIT(CM_LINE_SELECT));
    if (has_lines(tool, CM_LINE_BIT(CM_LINE_SDA)) && !has_others)
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
                        "no EEPROM in the socket, --chip any-flash asks which flash it is");
}

enum exit_code tool_begin(struct tool *tool)
{
    enum exit_code code = tool_check_options(tool);
    if (!code)
        code = tool_open_session(tool);
    if (code)
        return code;
    code = tool->given.chip ? EXIT_GOOD : refuse_to_guess(tool);
    if (code)
        return code;
    enum cm_status status = find_chip(tool);
    if (status)
        return look_on_i2c(tool, status);
    say_chip(tool);
    say_findings(tool);
    tell_left_lifted(tool);
    return EXIT_GOOD;
}

void tool_close(struct tool *tool)
{
    tool_progress_end(tool);
    if (restarts(tool))
        set_json(tool, "restarts", json_integer(restarts(tool)));
    if (restarts(tool) && !tool->words.code)
        say(tool, "note", "the programmer was gone %u time%s in the middle, and the job went on",
            (unsigned)restarts(tool), restarts(tool) == 1 ? "" : "s");
    if (tool->open)
        cm_close(&tool->session);
    tool->open = false;
    recording_end(tool);
    if (!cm_port_close(&tool->host, &tool->opened) && !tool->words.code)
        tool_fail_host(tool);
    free(tool->workspace);
    tool->workspace = NULL;
}
