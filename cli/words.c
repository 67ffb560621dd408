/*
 * Failures in words: what happened, the evidence, what to try. One row a status; where the same
 * status has several causes that the evidence tells apart, a function adds its own advice.
 */
#include "guard.h"
#include "tool.h"
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
                      "only a chip erase opens it, and takes the contents along: 'put --unprotect' "
                      "or 'erase' do that"},
    [CM_WRITE_FAILED] = {EXIT_WRITE_FAILED, "what was written did not stay",
                         "check the supply's voltage and decoupling; if it fails at the same "
                         "address again, the chip is worn"},
    [CM_TIMED_OUT] = {EXIT_WRITE_FAILED,
                      "the chip stayed busy for longer than its data sheet allows",
                      "check the supply; run the command again"},
    [CM_CONTACT_LOST] = {EXIT_CONTACT_LOST, "contact with the chip was lost",
                         "seat the clip or plug again and run the same command"},
    [CM_BAD_IMAGE] = {EXIT_BAD_FILE, "the file is not what it should be",
                      "build or copy the file again"},
    [CM_TOO_LARGE] = {EXIT_BAD_FILE, "the file does not fit this chip",
                      "check that the file is for this part and this region"},
    [CM_NO_ROOM] = {EXIT_BAD_FILE, "there is not enough memory for this",
                    "close other programs, or use a smaller file"},
    [CM_REFUSED] = {EXIT_REFUSED, "refused: it would lose data",
                    "--lose-data lets the chip erase take it along"},
    [CM_SUPPLY_OUTSIDE] = {EXIT_REFUSED, "refused: the supply is outside the part's range",
                           "set the supply right before changing the chip"},
    [CM_IN_DOUBT] = {EXIT_CONTACT_LOST,
                     "contact was bad for a moment, and bytes beside the image may have changed",
                     "what was wanted is right. Compare the rest with a backup ('match'), and put "
                     "that back where it differs"},
    [CM_STOPPED] = {EXIT_INTERRUPTED, "stopped",
                    "run the same command again: it goes on where it stopped"},
};

static const char *const STEPS[CM_STEP_COUNT] = {
    [CM_STEP_NONE] = "working",
    [CM_STEP_OPEN] = "beginning",
    [CM_STEP_ENTER] = "entering programming mode",
    [CM_STEP_IDENTIFY] = "reading the id",
    [CM_STEP_READ] = "reading",
    [CM_STEP_COMPARE] = "comparing",
    [CM_STEP_ERASE] = "erasing",
    [CM_STEP_PROGRAM] = "writing",
    [CM_STEP_VERIFY] = "reading back",
    [CM_STEP_SETTINGS] = "reading or writing settings",
    [CM_STEP_CARRY] = "carrying data over the erase",
    [CM_STEP_LEAVE] = "leaving",
};

const char *step_words(enum cm_step step)
{
    return step < CM_STEP_COUNT ? STEPS[step] : "working";
}

enum exit_code exit_code_for(enum cm_status status)
{
    return status < CM_STATUS_COUNT ? ROWS[status].code : EXIT_NO_PORT;
}

static bool is_all(const uint8_t *answer, uint8_t value)
{
    return answer[0] == value && answer[1] == value && answer[2] == value && answer[3] == value;
}

/* Nothing answers: what the wire looked like tells the likely cause. */
static void explain_silence(const struct tool *tool, const struct cm_failure *failure,
                            struct words *words)
{
    enum { SLOWEST_HZ = 1000 };
    const uint8_t *answer = failure->answer;
    uint32_t least_hz = tool->port->traits.clock_min_hz;
    bool cannot_go_slow = least_hz > SLOWEST_HZ;
    snprintf(words->evidence, sizeof words->evidence,
             "answer to Programming Enable: %02X %02X %02X %02X, wanted 53 in the third place; %u "
             "tries, from %s down to %u kHz",
             answer[0], answer[1], answer[2], answer[3], (unsigned)tool->session.tries,
             tool->clock ? "the clock given" : "200 kHz",
             (unsigned)(cannot_go_slow ? least_hz : SLOWEST_HZ) / 1000);
    if (cannot_go_slow && !tool->reset_held) {
        snprintf(words->what, sizeof words->what,
                 "no chip answers at the clocks that this port can make");
        snprintf(words->try, sizeof words->try,
                 "a chip whose own clock is below %u kHz is too slow for this port: use one that "
                 "goes down to 1 kHz; or see to "
                 "plug and supply",
                 (unsigned)least_hz * 4 / 1000);
    } else if (tool->reset_held) {
        snprintf(words->what, sizeof words->what, "the target is held in reset");
        snprintf(words->try, sizeof words->try,
                 "RESET was low before anything here drove it: let go of the button, look for a "
                 "short or a supervisor "
                 "that holds it; a board without power looks the same");
    } else if (is_all(answer, 0xFF))
        snprintf(words->try, sizeof words->try,
                 "MISO stays high: is the plug on, the right way round, and RESET wired? A chip "
                 "whose crystal is missing is silent too");
    else if (is_all(answer, 0x00))
        snprintf(words->try, sizeof words->try,
                 "MISO stays low: has the target power? Is MISO shorted to ground, or swapped with "
                 "MOSI?");
    else
        snprintf(words->try, sizeof words->try,
                 "something answers, but not in step: seat the plug again, shorten the wires, take "
                 "other parts off SCK and MISO");
}

/* A parallel flash: what the bus shows tells how the part sits. The answer is two readings in id
 * mode, and two of the array. */
static void explain_silent_flash(const struct tool *tool, const struct cm_failure *failure,
                                 struct words *words)
{
    const uint8_t *answer = failure->answer;
    uint8_t byte = answer[0], low = (uint8_t)~byte;
    bool alike = is_all(answer, byte), one_low = low && !(low & (low - 1));
    snprintf(words->evidence, sizeof words->evidence,
             "in id mode it reads %02X %02X, else %02X %02X; %u tries, at three speeds", answer[0],
             answer[1], answer[2], answer[3], (unsigned)tool->session.tries);
    if (alike && byte == 0xFF)
        snprintf(words->try, sizeof words->try,
                 "nobody drives the bus: is the part in the socket, and not one pin too low? Pin 1 "
                 "is at the lever; 'coldmint wires' "
                 "shows it. Or it is no flash: an EPROM or EEPROM goes by its own name");
    else if (alike && one_low)
        snprintf(words->try, sizeof words->try,
                 "every reading is %02X: one line is held low and nobody drives the others. That "
                 "is how a part looks that sits one pin "
                 "too high, its ground on that line: switch off, look at pin 1",
                 byte);
    else if (alike && byte == 0x00)
        snprintf(words->try, sizeof words->try,
                 "all lines are held low: the part may be the wrong way round. Switch off at once, "
                 "and feel whether it is warm");
    else if (answer[0] == answer[2] && answer[1] == answer[3])
        snprintf(words->try, sizeof words->try,
                 "the contents answer, and the id mode does not come: an EPROM or EEPROM (give its "
                 "name), or WE does not reach the "
                 "part");
    else
        snprintf(words->try, sizeof words->try,
                 "something answers, and not twice alike: seat the part again, clean its pins; "
                 "slower: --clock 1MHz");
}

/* Two and three wires. */
static void explain_silent_wires(const struct tool *tool, const struct cm_failure *failure,
                                 struct words *words)
{
    bool two = tool->session.family->bus == &cm_bus_i2c;
    if (two)
        snprintf(words->evidence, sizeof words->evidence,
                 "no device acknowledges %s; asked twice, with the time of a write between",
                 tool->session.device ? "at that address" : "an address from 50 to 57");
    else
        snprintf(words->evidence, sizeof words->evidence,
                 "MISO does not go high while the part is selected, or its data do not begin with "
                 "a 0 (%02X)",
                 failure->found);
    snprintf(words->try, sizeof words->try,
             two ? "SDA and SCL swapped? Each wants a pull-up of some 4.7 kOhm; has the chip "
                   "power? 'coldmint look' without --chip "
                   "lists what answers"
                 : "is SELECT wired (it is high to select), and the organisation right: a name "
                   "with -8 is for bytes? MISO wants a pull-up: "
                   "one that is held low, by a pull-down or another chip, looks like a part that "
                   "never gets ready");
}

/* The same for a memory: its id did not come, or not twice alike. */
static void explain_silent_memory(const struct tool *tool, const struct cm_failure *failure,
                                  struct words *words)
{
    const uint8_t *answer = failure->answer;
    if (tool->session.family == &cm_par) {
        explain_silent_flash(tool, failure, words);
        return;
    }
    const struct cm_bus *bus = tool->session.family->bus;
    if (bus == &cm_bus_i2c || bus == &cm_bus_three_wire) {
        explain_silent_wires(tool, failure, words);
        return;
    }
    if (tool->session.family == &cm_eprom) {
        snprintf(words->evidence, sizeof words->evidence, "with A9 at 12 V it reads %02X %02X",
                 answer[0], answer[1]);
        snprintf(words->try, sizeof words->try,
                 "is the part in the socket, the right way round? Pin 1 is at the lever; 'coldmint "
                 "wires' shows it");
        return;
    }
    bool has_id = tool->session.family != &cm_ee25;
    if (tool->searches) {
        snprintf(words->what, sizeof words->what,
                 "at no supply did the chip's id read right every time");
        snprintf(words->evidence, sizeof words->evidence,
                 "%d times at each supply in the part's range", CM_SUPPLY_ASKS);
        snprintf(words->try, sizeof words->try,
                 "hold the board's processor in reset, or lift the chip's supply pin and feed the "
                 "chip alone");
        return;
    }
    snprintf(words->evidence, sizeof words->evidence,
             has_id ? "9F brought %02X %02X %02X; %u tries, in three ways, also woken and reset"
                    : "its status reads %02X whatever it is told",
             answer[0], answer[1], answer[2], (unsigned)tool->session.tries);
    if (!has_id && !is_all(answer, 0xFF))
        snprintf(words->try, sizeof words->try,
                 "MISO stays at one value: has the chip power, and is SELECT wired? Parts up to 4 "
                 "Kbit take no write enable while their WP "
                 "pin is low, and look just so: take WP high");
    else if (is_all(answer, 0xFF))
        snprintf(words->try, sizeof words->try,
                 "MISO stays high: is the clip seated, the right way round, and SELECT wired? Is "
                 "the hold pin high?");
    else if (is_all(answer, 0x00))
        snprintf(words->try, sizeof words->try,
                 "MISO stays low: has the chip power? Is MISO shorted, or swapped with MOSI?");
    else
        snprintf(words->try, sizeof words->try,
                 "something answers, and not twice alike: seat the clip again; in circuit, feed "
                 "less (--feed search) or hold the "
                 "processor in reset");
}

/* Parts without registers: sectors locked by 12 V, software data protection, a pin. */
static void explain_other_guard(struct tool *tool, const struct cm_failure *failure,
                                struct words *words)
{
    struct cm_guard guard;
    struct cm_region region;
    char area[120];
    uint32_t address = failure->address;
    cm_region(&tool->session, CM_REGION_MAIN, &region);
    if (tool->session.family == &cm_i2c24) {
        snprintf(words->what, sizeof words->what, "the chip takes no writes at 0x%04X",
                 (unsigned)address);
        snprintf(words->evidence, sizeof words->evidence,
                 "it acknowledges its address, and not the data; or it takes them, and is ready at "
                 "once, without having written");
        snprintf(words->try, sizeof words->try,
                 "its WP pin is high, most likely: take it to ground, or wire it to the port");
        return;
    }
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
             "software data protection is on, most likely: --unprotect writes behind it and leaves "
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
    if (!is_spi_memory(tool->session.part)) {
        explain_other_guard(tool, failure, words);
        return;
    }
    bool looked = cm_guard_look(&tool->session, &guard) == CM_OK;
    snprintf(words->what, sizeof words->what,
             "the chip is protected: an erase or a write at 0x%04X would do nothing",
             (unsigned)address);
    snprintf(words->evidence, sizeof words->evidence, "status 0x%02X protects %s", found,
             looked ? guard_area_text(&guard, region.bytes, area, sizeof area) : "it");
    snprintf(words->try, sizeof words->try,
             "nothing was changed; --unprotect lifts it for the job and puts it back, 'coldmint "
             "guard' shows it");
}

static void explain_wrong_chip(const struct tool *tool, struct words *words)
{
    const struct cm_session *session = &tool->session;
    const struct cm_part *wanted = tool->chip ? tool_part(tool->chip) : NULL;
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
        snprintf(words->evidence, sizeof words->evidence, "0x%02X came where 0x%02X was due",
                 failure->found, failure->expected);
}

/* The programmer itself went away and came back, again and again. */
static void explain_restarts(const struct tool *tool, struct words *words)
{
    snprintf(words->what, sizeof words->what, "the programmer restarted in the middle of the job");
    explain_place(&tool->session.failure, words);
    snprintf(words->evidence, sizeof words->evidence,
             "it let go of all lines and began anew, %u times; the chip was not lost by itself",
             (unsigned)tool_restarts(tool));
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
    if (failure->has_bytes)
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
                 "0x%02X came over the wires where the chip would have said 0x%02X, and then it "
                 "could not be found again",
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
static void explain_unknown(const struct tool *tool, struct words *words)
{
    if (tool->session.family == &cm_ee25) {
        snprintf(words->what, sizeof words->what,
                 "something answers as a memory does, but it brings no id");
        snprintf(words->evidence, sizeof words->evidence,
                 "its write enable latch does as it is told; 9F, 90 and AB brought nothing");
        snprintf(words->try, sizeof words->try,
                 "a serial EEPROM has none: read its name off the package and give it with --chip; "
                 "in circuit, feed less or hold "
                 "the processor in reset");
        return;
    }
    explain_wrong_chip(tool, words);
    if (tool->session.family == &cm_nor)
        snprintf(words->try, sizeof words->try,
                 "it tells nothing of itself either (no SFDP). With its size it can be used: "
                 "--chip plain-4M; by hand with "
                 "'coldmint raw'");
}

static const char *const BUS_MISSING[] = {
    [CM_BUS_SHIFT] = "it has no RESET line, or no SPI",
    [CM_BUS_SPI] = "it has no SELECT line, or no SPI",
    [CM_BUS_THREE_WIRE] = "it has no SELECT line, or no SPI",
    [CM_BUS_I2C] = "it has no I2C bus (SDA, SCL)",
    [CM_BUS_PARALLEL] = "it has no parallel bus (CE, OE, WE, address and data lines)",
};

/* What exactly the port is missing. */
static void explain_port(const struct tool *tool, const struct cm_failure *failure,
                         struct words *words)
{
    const struct cm_part *part = tool->session.part ? tool->session.part
                                 : tool->chip       ? tool_part(tool->chip)
                                                    : NULL;
    const struct cm_traits *traits = &tool->port->traits;
    if (tool->verb == &verb_raw) {
        snprintf(words->evidence, sizeof words->evidence,
                 "it has no SPI with a SELECT line, and frames by hand are for that");
        snprintf(words->try, sizeof words->try, "the other verbs work on memories of every bus");
        return;
    }
    if (!part || !is_memory(part) || is_spi_memory(part))
        return;
    if (is_parallel(part) && failure->step == CM_STEP_PROGRAM) {
        snprintf(words->what, sizeof words->what, "this port cannot program an EPROM");
        snprintf(words->evidence, sizeof words->evidence,
                 "it wants %.2f V of supply from the port, and the programming voltage on VPP%s",
                 cm_par_row(part)->program_mv / 1000.0,
                 cm_par_row(part)->program_mv ? "" : "; and this part is only read here");
        snprintf(words->try, sizeof words->try, "reading, 'look' and 'match' work with any port");
    } else if (is_parallel(part) && traits->data_lines) {
        snprintf(words->evidence, sizeof words->evidence,
                 "the port's bus has %u data lines, %s wants %u", (unsigned)traits->data_lines,
                 part->name, cm_par_row(part)->traits & CM_PAR_WIDE ? 16u : 8u);
        snprintf(words->try, sizeof words->try, "use a socket, or an adapter, for this part");
    } else {
        snprintf(words->evidence, sizeof words->evidence, "%s",
                 BUS_MISSING[kit_of(part)->family->bus->id]);
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
             "the file covers a part of it, and an erase at 0x%04X takes the rest along",
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
    if (tool->session.family != &cm_eprom) {
        snprintf(words->evidence, sizeof words->evidence,
                 "the pages need a chip erase, and that clears %s, which holds data from 0x%04X on",
                 failure->region ? failure->region : "eeprom", (unsigned)failure->address);
        return;
    }
    snprintf(words->what, sizeof words->what, "an EPROM cannot be erased here");
    snprintf(words->evidence, sizeof words->evidence,
             "0x%04X: the chip has 0x%02X, the file wants 0x%02X; only ultraviolet light makes a "
             "bit 1 again",
             (unsigned)failure->address, failure->found, failure->expected);
    snprintf(
        words->try, sizeof words->try,
        "erase it under a lamp, see that it is blank ('coldmint look'), and put the file then");
}

void words_for_failure(struct tool *tool, enum cm_status status, struct words *words)
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
        if (tool->session.kit && !tool->session.kit->about->program)
            explain_silent_memory(tool, failure, words);
        else
            explain_silence(tool, failure, words);
        break;
    case CM_UNKNOWN_CHIP:
        explain_unknown(tool, words);
        break;
    case CM_WRONG_CHIP:
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
        if (tool->session.part && is_memory(tool->session.part)) {
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
    case CM_CONTACT_LOST:
        if (tool_restarts(tool))
            explain_restarts(tool, words);
        else
            explain_lost_contact(failure, words);
        break;
    default:
        explain_place(failure, words);
        break;
    }
}
