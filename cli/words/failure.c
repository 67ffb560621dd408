/*
 * Failures in words: what happened, the evidence, what to try. One row a status; where the same
 * status has several causes that the evidence tells apart, a function adds its own advice.
 */
#include "causes.h"
#include "fail.h"
#include "guard.h"
#include "say.h"
#include "text.h"
#include <stdio.h>
#include <string.h>

struct row {
    enum exit_code code;
    const char *what; /* %s: the step, or the chip */
    const char *advice;
};

static const struct row ROWS[CM_STATUS_COUNT] = {
    [CM_OK] = {EXIT_GOOD, "nothing failed", ""},
    [CM_DIFFERS] = {EXIT_DIFFERS, "chip and file differ",
                    "put the file into the chip, or keep what the chip holds"},
    [CM_BAD_ARGUMENT] = {EXIT_USAGE, "there is no such thing on this chip",
                         "see 'coldmint chips NAME' for what the part has"},
    [CM_PORT_FAILED] = {EXIT_NO_PORT, "the port failed",
                        "check the programmer, its cable and the disk; then run the command again"},
    [CM_PORT_LACKS] =
        {EXIT_NO_PORT, "the port cannot do what this needs",
         "use a port that drives SCK, MOSI and RESET (of a memory: SELECT), and reads MISO"},
    [CM_NO_POWER] = {EXIT_NO_CHIP, "the target has no power",
                     "switch the board's supply on, or let the programmer feed it; never both"},
    [CM_NO_CHIP] = {EXIT_NO_CHIP, "no chip answers", ""},
    [CM_UNKNOWN_CHIP] = {EXIT_WRONG_CHIP, "something answers with an id that no known part has",
                         "seat the chip or clip again; if the id stays the same, the part is not "
                         "in the table: see 'coldmint chips'"},
    [CM_WRONG_CHIP] =
        {EXIT_WRONG_CHIP, "this is not the chip that was asked for",
         "check which board is connected; or name the part that is there with --chip"},
    [CM_PROTECTED] = {EXIT_PROTECTED, "the chip's lock bits forbid it",
                      "only a chip erase opens it, and that clears the contents: 'put --unprotect' "
                      "or 'erase' do that"},
    [CM_WRITE_FAILED] = {EXIT_WRITE_FAILED, "what was written did not stay",
                         "check the supply's voltage and decoupling; if it fails at the same "
                         "address again, the chip is worn"},
    [CM_TIMED_OUT] = {EXIT_WRITE_FAILED,
                      "the chip stayed busy for longer than its data sheet allows",
                      "check the supply; run the command again"},
    [CM_CONTACT_LOST] = {EXIT_CONTACT_LOST, "contact with the chip was lost",
                         "seat the clip or plug again and run the same command"},
    [CM_BAD_IMAGE] = {EXIT_BAD_FILE,
                      "the file cannot be read to its end, or has changed since it was opened",
                      "build or copy the file again, then run the same command"},
    [CM_TOO_LARGE] = {EXIT_BAD_FILE, "the file does not fit this chip",
                      "check that the file is for this part and this region"},
    [CM_NO_ROOM] = {EXIT_BAD_FILE, "there is not enough memory for this",
                    "close other programs, or use a smaller file"},
    [CM_REFUSED] = {EXIT_REFUSED, "refused: it would lose data",
                    "--lose-data lets the chip erase clear it"},
    [CM_SUPPLY_OUTSIDE] = {EXIT_REFUSED, "refused: the supply is outside the part's range",
                           "set the supply right before changing the chip"},
    [CM_IN_DOUBT] = {EXIT_CONTACT_LOST,
                     "contact was bad for a moment, and bytes beside the image may have changed",
                     "what was wanted is right. Compare the rest with a backup ('match'), and put "
                     "that back where it differs"},
    [CM_STOPPED] = {EXIT_INTERRUPTED, "stopped",
                    "run the same command again: it goes on where it stopped"},
};

/* Nothing answers: the family tells what the answer looks like; of a chip that is held by RESET,
 * the port may tell more. */
static void explain_silence(const struct tool *tool, struct words *words)
{
    enum { SLOWEST_HZ = 1000 };
    uint32_t least_hz = tool->port->traits.clock_min_hz;
    bool has_reset =
        tool->session.family && (tool->session.family->lines & CM_LINE_BIT(CM_LINE_RESET));
    (void)explain_by_family(tool, CM_NO_CHIP, words);
    if (tool->searches) {
        snprintf(words->what, sizeof words->what,
                 "at no supply did the chip's id read right every time");
        snprintf(words->evidence, sizeof words->evidence,
                 "%d times at each supply in the part's range", CM_SUPPLY_ASKS);
        snprintf(words->try, sizeof words->try,
                 "hold the board's processor in reset, or lift the chip's supply pin and feed the "
                 "chip alone");
    } else if (has_reset && tool->reset_held) {
        snprintf(words->what, sizeof words->what, "the target is held in reset");
        snprintf(words->try, sizeof words->try,
                 "RESET was low before anything here drove it: release the button, look for a "
                 "short or a supervisor that holds it; a board without power looks the same");
    } else if (has_reset && least_hz > SLOWEST_HZ) {
        snprintf(words->what, sizeof words->what,
                 "no chip answers at the clocks that this port can make");
        snprintf(words->try, sizeof words->try,
                 "a chip whose own clock is below %u kHz is too slow for this port: use one that "
                 "goes down to 1 kHz; or see to plug and supply",
                 (unsigned)least_hz * 4 / 1000);
    }
}

/* --- protection -------------------------------------------------------------------------- */

/* Parts without registers: sectors locked by 12 V, software data protection, a pin. */
static void explain_other_guard(struct tool *tool, const struct cm_failure *failure,
                                struct words *words)
{
    struct cm_guard guard;
    struct cm_region region;
    char area[120];
    uint32_t address = failure->address;
    cm_region(&tool->session, CM_REGION_MAIN, &region);
    bool looked = cm_guard_look(&tool->session, &guard) == CM_OK;
    snprintf(words->what, sizeof words->what,
             "the chip is protected: a write at 0x%04X does nothing", (unsigned)address);
    if (looked && guard.bytes) {
        snprintf(words->evidence, sizeof words->evidence, "locked: %s",
                 guard_area_text(&guard, region.bytes, area, sizeof area));
        snprintf(words->try, sizeof words->try,
                 "it takes 12 V on pins of the chip to change that, or cannot be changed; leave "
                 "that area out");
        return;
    }
    snprintf(words->evidence, sizeof words->evidence,
             "a page was sent, and the chip holds what it held before (0x%02X, not 0x%02X)",
             failure->found, failure->expected);
    snprintf(words->try, sizeof words->try,
             "software data protection is on, most likely: --unprotect writes in the way that it "
             "allows, and leaves "
             "it as it is. Or WE does not "
             "reach the part");
}

/* Protection in the way of a write or an erase: the register, and the area that its bits mean. */
static void explain_guard(struct tool *tool, const struct cm_failure *failure, struct words *words)
{
    struct cm_guard guard;
    struct cm_region region;
    char area[120];
    uint32_t address = failure->address;
    uint8_t found = failure->found;
    if (failure->region && strcmp(failure->region, "status") == 0) {
        cm_ignore(cm_guard_look(&tool->session, &guard)); // what cannot be read is not told
        guard_fail_held(tool, &guard);
        return;
    }
    cm_region(&tool->session, CM_REGION_MAIN, &region);
    bool looked = cm_guard_look(&tool->session, &guard) == CM_OK;
    if (!tool->session.kit->about->guard_choose) {
        explain_other_guard(tool, failure, words);
        return;
    }
    snprintf(words->what, sizeof words->what,
             "the chip is protected: an erase or a write at 0x%04X would do nothing",
             (unsigned)address);
    snprintf(words->evidence, sizeof words->evidence, "status 0x%02X protects %s", found,
             looked ? guard_area_text(&guard, region.bytes, area, sizeof area) : "it");
    snprintf(words->try, sizeof words->try,
             "nothing was changed; --unprotect lifts it for the job and puts it back, 'coldmint "
             "guard' shows it");
}

/* A memory that does not look at the highest bits of an address: names of those that have as many
 * bytes. */
static void explain_smaller_chip(const struct tool *tool, const struct cm_failure *failure,
                                 struct words *words)
{
    enum { MOST_NAMES = 5 };
    const struct cm_session *session = &tool->session;
    char names[120] = "";
    size_t at = 0;
    for (uint16_t i = 0, told = 0; i < session->kit->part_count && told < MOST_NAMES; i++) {
        const struct cm_part *part = session->kit->parts[i];
        struct cm_region region;
        if (!session->family->region(part, CM_REGION_MAIN, &region) ||
            region.bytes != failure->address || at >= sizeof names)
            continue;
        at +=
            (size_t)snprintf(names + at, sizeof names - at, "%s%s", told++ ? ", " : "", part->name);
    }
    snprintf(words->what, sizeof words->what, "the chip seems to be smaller than %s",
             session->part->name);
    snprintf(words->evidence, sizeof words->evidence,
             "what is written appears %u bytes further, too; that was taken back",
             (unsigned)failure->address);
    snprintf(words->try, sizeof words->try,
             "read the marking again; parts of %u bytes: %s. Or a wire of the address is open",
             (unsigned)failure->address, names[0] ? names : "none in the tables");
}

static void explain_wrong_chip(struct tool *tool, struct words *words)
{
    const struct cm_session *session = &tool->session;
    const struct cm_part *wanted =
        tool->given.chip ? cm_host_part(&tool->host, tool->given.chip) : NULL;
    char names[300];
    candidate_names(session, names, sizeof names);
    int used = snprintf(words->evidence, sizeof words->evidence, "id %02X %02X %02X, which is %s",
                        session->id[0], session->id[1], session->id[2], names);
    if (wanted && used > 0)
        snprintf(words->evidence + used, sizeof words->evidence - (size_t)used,
                 "; %s has %02X %02X %02X", wanted->name, wanted->id[0], wanted->id[1],
                 wanted->id[2]);
}

static void explain_supply(const struct tool *tool, const struct cm_failure *failure,
                           struct words *words)
{
    const struct cm_part *part = tool->session.part;
    double volts = failure->measured_mv / 1000.0;
    if (part)
        snprintf(words->evidence, sizeof words->evidence,
                 "%.2f V measured; %s works from %.1f to %.1f V", volts, part->name,
                 part->supply_min_mv / 1000.0, part->supply_max_mv / 1000.0);
    else
        snprintf(words->evidence, sizeof words->evidence, "%.2f V measured at the target", volts);
}

static void explain_place(const struct cm_failure *failure, struct words *words)
{
    size_t used = strlen(words->what);
    if (failure->region && failure->has_address)
        snprintf(words->what + used, sizeof words->what - used, " while %s %s at 0x%04X",
                 step_words(failure->step), failure->region, (unsigned)failure->address);
    else if (failure->step != CM_STEP_NONE && failure->step != CM_STEP_OPEN)
        snprintf(words->what + used, sizeof words->what - used, " while %s",
                 step_words(failure->step));
    if (failure->has_bytes)
        snprintf(words->evidence, sizeof words->evidence, "read 0x%02X, expected 0x%02X",
                 failure->found, failure->expected);
}

/* Times that the programmer restarted; also behind a recorder. */
static uint32_t restarts(const struct tool *tool)
{
    return tool->opened.kind ? tool->opened.port->state->restarts : 0;
}

/* What the port says of the way to its hardware; NULL: nothing. */
static const char *trouble_of(const struct tool *tool)
{
    const struct cm_port_kind *kind = tool->opened.kind;
    return kind && kind->trouble ? kind->trouble(&tool->opened) : NULL;
}

static void explain_trouble(const struct tool *tool, struct words *words)
{
    explain_place(&tool->session.failure, words);
    snprintf(words->evidence, sizeof words->evidence, "%s", trouble_of(tool));
    snprintf(words->try, sizeof words->try, "%s", tool->opened.kind->cure);
}

/* The programmer itself went away and came back, again and again. */
static void explain_restarts(const struct tool *tool, struct words *words)
{
    snprintf(words->what, sizeof words->what, "the programmer restarted in the middle of the job");
    explain_place(&tool->session.failure, words);
    snprintf(
        words->evidence, sizeof words->evidence,
        "it released all lines and began again, %u times; contact with the chip itself was good",
        (unsigned)restarts(tool));
    snprintf(words->try, sizeof words->try,
             "look at the programmer's own supply: feed the board by itself; where opening the "
             "port resets the programmer, a "
             "capacitor on "
             "its reset helps. Then run the same command again");
}
/* Which bytes may have changed: those that no image wants, from here on; or a setting, which was
 * seen to. */
static void explain_doubt(const struct cm_failure *failure, struct words *words)
{
    if (failure->step == CM_STEP_CARRY) {
        snprintf(words->what, sizeof words->what,
                 "a write went wrong, and only an erase that was not allowed can mend it");
        snprintf(words->evidence, sizeof words->evidence,
                 "%s from 0x%04X on: bits have changed, and the erase would take other bytes along",
                 failure->region, (unsigned)failure->address);
        snprintf(words->try, sizeof words->try,
                 "run the same command again, and let it carry them; or put the backup back");
    } else if (failure->has_bytes)
        snprintf(words->evidence, sizeof words->evidence,
                 "%s 0x%02X: it was %02X before, and is %02X now", failure->region,
                 (unsigned)failure->address, failure->expected, failure->found);
    else if (failure->region)
        snprintf(words->evidence, sizeof words->evidence,
                 "a chip obeys what it misreads; %s from 0x%04X on, as far as no image wants it, "
                 "is not what anybody has proven",
                 failure->region, (unsigned)failure->address);
    else
        snprintf(words->evidence, sizeof words->evidence,
                 "a chip obeys what it misreads; nobody has compared its contents");
}

static void explain_lost_contact(const struct cm_failure *failure, struct words *words)
{
    explain_place(failure, words);
    if (failure->has_bytes)
        snprintf(words->evidence, sizeof words->evidence,
                 "read 0x%02X, expected 0x%02X; after that the chip did not respond",
                 failure->found, failure->expected);
}

static void explain_size(const struct tool *tool, const struct cm_failure *failure,
                         struct words *words)
{
    struct cm_region region;
    int index = failure->region ? cm_region_by_name(&tool->session, failure->region) : -1;
    if (index < 0 || !cm_region(&tool->session, (uint8_t)index, &region))
        return;
    snprintf(words->evidence, sizeof words->evidence,
             "the file has bytes at 0x%04X; %s of %s ends at 0x%04X", (unsigned)failure->address,
             region.name, tool->session.part->name, (unsigned)region.bytes - 1);
}

/* A chip in no table, and without tables of its own. */
static void explain_unknown(struct tool *tool, struct words *words)
{
    explain_wrong_chip(tool, words);
    (void)explain_by_family(tool, CM_UNKNOWN_CHIP, words);
}

static const char *const BUS_MISSING[] = {
    [CM_BUS_SHIFT] = "it has no RESET line, or no SPI",
    [CM_BUS_SPI] = "it has no SELECT line, or no SPI",
    [CM_BUS_THREE_WIRE] = "it has no SELECT line, or no SPI",
    [CM_BUS_I2C] = "it has no I2C bus (SDA, SCL)",
    [CM_BUS_PARALLEL] = "it has no parallel bus (CE, OE, WE, address and data lines)",
};

/* An EPROM wants voltages that the port does not have. */
static void explain_voltages(const struct cm_about *about, const struct cm_part *part,
                             struct words *words)
{
    uint16_t mv = about->program_mv(part);
    snprintf(words->what, sizeof words->what, "this port cannot program an %s", about->kind);
    snprintf(words->evidence, sizeof words->evidence,
             "it wants %.2f V of supply from the port, and the programming voltage on VPP%s",
             mv / 1000.0, mv ? "" : "; and this part is only read here");
    snprintf(words->try, sizeof words->try, "reading, 'look' and 'match' work with any port");
}

/* What exactly the port is missing. */
static void explain_port(struct tool *tool, const struct cm_failure *failure, struct words *words)
{
    const struct cm_part *part = tool->session.part;
    const struct cm_traits *traits = &tool->port->traits;
    if (!part && tool->given.chip)
        part = cm_host_part(&tool->host, tool->given.chip);
    if (tool->verb->sends_frames) {
        snprintf(words->evidence, sizeof words->evidence,
                 "it has no SPI with a SELECT line, and frames by hand are for that");
        snprintf(words->try, sizeof words->try, "the other verbs work on memories of every bus");
        return;
    }
    const struct cm_kit *kit = part ? kit_of(tool, part) : NULL;
    uint8_t bus = kit ? kit->family->bus->id : CM_BUS_SPI;
    if (bus == CM_BUS_SHIFT || bus == CM_BUS_SPI)
        return;
    if (kit->about->wants_voltages && failure->step == CM_STEP_PROGRAM) {
        explain_voltages(kit->about, part, words);
    } else if (kit->about->data_lines && traits->data_lines == kit->about->data_lines(part)) {
        snprintf(words->evidence, sizeof words->evidence,
                 "a cycle of it takes %u us; %s takes cycles that come so slowly for data to write",
                 tool->session.clock_hz ? (unsigned)(1000000 / tool->session.clock_hz) : 0u,
                 part->name);
        snprintf(words->try, sizeof words->try,
                 "nothing was changed; use a port with a faster bus, such as a probe");
    } else if (kit->about->data_lines && traits->data_lines) {
        snprintf(words->evidence, sizeof words->evidence,
                 "the port's bus has %u data lines, %s wants %u", (unsigned)traits->data_lines,
                 part->name, (unsigned)kit->about->data_lines(part));
        snprintf(words->try, sizeof words->try, "use a socket, or an adapter, for this part");
    } else {
        snprintf(words->evidence, sizeof words->evidence, "%s", BUS_MISSING[bus]);
        snprintf(words->try, sizeof words->try,
                 "use a port that has it; 'coldmint wires %s' shows what goes where", part->name);
    }
}

/* A part that is erased as a whole, or by large pieces, and a file that has less than that. */
static void explain_large_erase(const struct tool *tool, const struct cm_failure *failure,
                                struct words *words)
{
    snprintf(words->what, sizeof words->what,
             "this part is erased in pieces too large to be carried");
    snprintf(words->evidence, sizeof words->evidence,
             "the file covers a part of it, and an erase at 0x%04X clears the rest, too",
             (unsigned)failure->address);
    snprintf(words->try, sizeof words->try,
             "make a file of all of it: 'coldmint keep --region %s' saves what is there, 'coldmint "
             "image place' puts yours in; then put "
             "that",
             main_region(tool));
}

/* What an erase would lose; or that there is none. */
static void explain_refusal(const struct tool *tool, const struct cm_failure *failure,
                            struct words *words)
{
    if (!explain_by_family(tool, CM_REFUSED, words))
        snprintf(words->evidence, sizeof words->evidence,
                 "the pages need a chip erase, and that clears %s, which holds data from 0x%04X on",
                 failure->region ? failure->region : "eeprom", (unsigned)failure->address);
}

static void words_for_failure(struct tool *tool, enum cm_status status, struct words *words)
{
    const struct cm_failure copy = tool->session.failure,
                            *failure = &copy; // some explanations look at the chip once more
    const struct row *row = &ROWS[status < CM_STATUS_COUNT ? status : CM_PORT_FAILED];
    memset(words, 0, sizeof *words);
    words->code = row->code;
    snprintf(words->what, sizeof words->what, "%s", row->what);
    snprintf(words->try, sizeof words->try, "%s", row->advice);
    switch (status) {
    case CM_NO_CHIP:
        explain_silence(tool, words);
        break;
    case CM_UNKNOWN_CHIP:
        explain_unknown(tool, words);
        break;
    case CM_WRONG_CHIP:
        if (failure->step == CM_STEP_VERIFY)
            explain_smaller_chip(tool, failure, words);
        else
            explain_wrong_chip(tool, words);
        break;
    case CM_NO_POWER:
    case CM_SUPPLY_OUTSIDE:
        explain_supply(tool, failure, words);
        if (status == CM_NO_POWER && tool->port->traits.data_lines && failure->measured_mv > 300)
            snprintf(words->try, sizeof words->try,
                     "something holds the supply down: a part that is the wrong way round in its "
                     "socket does, through its "
                     "protection diodes. Switch off at "
                     "once, let it cool, and look at pin 1 ('coldmint wires')");
        break;
    case CM_TOO_LARGE:
        explain_size(tool, failure, words);
        break;
    case CM_PROTECTED:
        if (explain_by_family(tool, status, words))
            break;
        if (tool->session.part && is_memory(tool, tool->session.part)) {
            explain_guard(tool, &copy, words);
            break;
        }
        snprintf(words->evidence, sizeof words->evidence,
                 "the lock byte reads 0x%02X; 0x%02X would be open", failure->found,
                 failure->expected);
        break;
    case CM_PORT_LACKS:
        explain_port(tool, failure, words);
        break;
    case CM_NO_ROOM:
        if (failure->step == CM_STEP_CARRY && tool->session.part)
            explain_large_erase(tool, failure, words);
        break;
    case CM_IN_DOUBT:
        explain_doubt(failure, words);
        break;
    case CM_REFUSED:
        explain_refusal(tool, failure, words);
        break;
    case CM_PORT_FAILED:
        if (trouble_of(tool))
            explain_trouble(tool, words);
        else
            explain_place(failure, words);
        break;
    case CM_CONTACT_LOST:
        if (trouble_of(tool))
            explain_trouble(tool, words);
        else if (restarts(tool))
            explain_restarts(tool, words);
        else
            explain_lost_contact(failure, words);
        break;
    default:
        explain_place(failure, words);
        break;
    }
}

/* A serial memory that is fed by the port, and does not answer as what it should be: in circuit the
 * rest of the board may be awake at that voltage, and talk on the same wires. */
static void add_neighbours(struct tool *tool, enum cm_status status, struct words *words)
{
    char before[260];
    const struct cm_kit *kit = tool->session.kit;
    bool is_silent = status == CM_NO_CHIP || status == CM_WRONG_CHIP || status == CM_UNKNOWN_CHIP;
    if (!is_silent || !tool->feed_mv || !tool->given.chip || !kit || kit->about->program ||
        tool->port->traits.data_lines)
        return;
    snprintf(before, sizeof before, "%.259s", words->try);
    snprintf(
        words->try, sizeof words->try,
        "in circuit, feed less or hold the processor in reset: at %.2f V the rest of the board "
        "may be awake (--feed search finds a voltage); else: %s",
        tool->feed_mv / 1000.0, before);
}

/* --- the failure ------------------------------------------------------------------------- */

enum exit_code tool_fail(struct tool *tool, enum cm_status status)
{
    words_for_failure(tool, status, &tool->words);
    add_neighbours(tool, status, &tool->words);
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
