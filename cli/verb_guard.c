/*
 * guard: which area of a memory is protected, by which bits, and what holds them; lift it, set it,
 * put it back.
 */
#include "capsule.h"
#include "guard.h"
#include "settings.h"
#include <ctype.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static int wants_lift;
static char *wanted_area, *restore_from;

/* --- showing ----------------------------------------------------------------------------- */

const char *guard_area_text(const struct cm_guard *guard, uint32_t chip_bytes, char *text,
                            size_t room)
{
    char amount[SHORT_TEXT];
    if (guard->bytes == 0)
        snprintf(text, room, "nothing");
    else if (guard->vague)
        snprintf(text, room, "some of it or all: which area these bits mean is not known here");
    else if (guard->bytes == chip_bytes)
        snprintf(text, room, "all of it, 0x%06X to 0x%06X", 0, (unsigned)chip_bytes - 1);
    else
        snprintf(text, room, "%s at the %s end, 0x%06X to 0x%06X",
                 amount_text(guard->bytes, amount), guard->first ? "upper" : "lower",
                 (unsigned)guard->first, (unsigned)(guard->first + guard->bytes - 1));
    return text;
}

/* A bar of the chip: a sign for each part of it. Not by colour alone: the signs differ. */
static void say_bar(const struct tool *tool, const struct cm_guard *guard, uint32_t chip_bytes)
{
    enum { SIGNS = 64 };
    char bar[SIGNS + 1] = "", amount[SHORT_TEXT];
    uint32_t part = chip_bytes / SIGNS, signs = SIGNS;
    if (part == 0) {
        part = 1;
        signs = chip_bytes;
    }
    bool seen_part = false;
    for (uint32_t i = 0; i < signs; i++) {
        bool begins = cm_guard_covers(guard, CM_REGION_MAIN, i * part, 1),
             ends = cm_guard_covers(guard, CM_REGION_MAIN, (i + 1) * part - 1, 1);
        bar[i] = begins && ends                                           ? '#'
                 : cm_guard_covers(guard, CM_REGION_MAIN, i * part, part) ? '+'
                                                                          : '.';
        seen_part |= bar[i] == '+';
    }
    say(tool, "", "0x%06X  [%s]  0x%06X", 0, bar, (unsigned)chip_bytes - 1);
    say(tool, "", "a sign is %s: # protected, . open%s", amount_text(part, amount),
        seen_part ? ", + in part" : "");
}

static const char *hold_text(uint8_t hold)
{
    return hold == CM_LIFT_VOLTAGE ? "nothing that can be changed here: it takes 12 V on pins "
                                     "of the chip, or is for ever"
           : hold == CM_LIFT_PIN   ? "the registers cannot be written while the WP pin is low"
           : hold == CM_LIFT_POWER ? "the registers are locked until the supply has "
                                     "been off (with some parts and orders: for ever)"
                                   : "nothing: the registers can be written";
}

void guard_say(struct tool *tool, const struct cm_guard *guard)
{
    struct cm_region region;
    char area[120], bytes[40] = "", status[60] = "";
    uint16_t level;
    cm_region(&tool->session, CM_REGION_MAIN, &region);
    for (uint8_t i = 0; i < guard->count; i++)
        snprintf(bytes + strlen(bytes), sizeof bytes - strlen(bytes), "%s0x%02X", i ? " " : "",
                 guard->registers[i]);
    guard_area_text(guard, region.bytes, area, sizeof area);
    if (guard->count)
        snprintf(status, sizeof status, "  (status %s)", bytes);
    say(tool, "guarded", "%s%s%s%s", guard->bytes ? colour("1;33") : "", area,
        guard->bytes ? colour("0") : "",
        guard->count                     ? status
        : guard->cost == CM_LIFT_VOLTAGE ? ""
                                         : "; this part has no registers for it");
    if (guard->unreadable)
        say(tool, "",
            "software data protection, if it is on, does not show: a write that does nothing "
            "tells");
    if (guard->count || guard->bytes)
        say_bar(tool, guard, region.bytes);
    if (guard->by_sector && guard->bytes)
        say(tool, "", "each sector has a lock of its own here");
    bool senses = (tool->port->traits.senses & CM_LINE_BIT(CM_LINE_WP)) &&
                  cm_sense(&tool->session, CM_LINE_WP, &level) == CM_OK;
    if (guard->count || guard->bytes)
        say(tool, "held by", "%s%s", hold_text(guard->cost),
            guard->cost != CM_LIFT_PIN ? ""
            : !senses                  ? "; this port has no wire to it"
            : level                    ? "; it is high now"
                                       : "; it is LOW now");
    json_t *registers = json_array();
    for (uint8_t i = 0; i < guard->count; i++)
        json_array_append_new(registers, json_integer(guard->registers[i]));
    set_json(tool, "guard",
             json_pack("{s:o, s:I, s:I, s:i, s:b, s:b}", "registers", registers, "first",
                       (json_int_t)guard->first, "bytes", (json_int_t)guard->bytes, "hold",
                       (int)guard->cost, "by_sector", guard->by_sector, "vague", guard->vague));
}

/* --- areas in words ---------------------------------------------------------------------- */

static bool parse_amount(const char *text, uint32_t chip_bytes, uint32_t *bytes)
{
    char *end;
    unsigned long number = strtoul(text, &end, 0);
    if (strcmp(text, "half") == 0 || strcmp(text, "quarter") == 0 || strcmp(text, "eighth") == 0) {
        *bytes = chip_bytes / (text[0] == 'h' ? 2 : text[0] == 'q' ? 4 : 8);
        return true;
    }
    if (end == text)
        return false;
    if (*end == '/') { // 1/16, 3/4
        const char *below = end + 1;
        unsigned long parts = strtoul(below, &end, 10);
        *bytes = parts ? (uint32_t)((uint64_t)chip_bytes * number / parts) : 0;
        return parts && *end == '\0' && number <= parts;
    }
    unsigned shift = toupper((unsigned char)*end) == 'K'   ? 10
                     : toupper((unsigned char)*end) == 'M' ? 20
                                                           : 0;
    *bytes = (uint32_t)(number << shift);
    end += shift ? 1 : 0;
    return (*end == '\0' || strcmp(end, "iB") == 0) && ((uint64_t)number << shift) <= chip_bytes;
}

/* "none", "all", "upper-half", "lower-1/16", "upper-64K", "0x100000..0x1FFFFF". */
static bool parse_area(const char *text, uint32_t chip_bytes, uint32_t *first, uint32_t *bytes)
{
    char *end;
    *first = 0;
    *bytes = strcmp(text, "all") == 0 ? chip_bytes : 0;
    if (strcmp(text, "all") == 0 || strcmp(text, "none") == 0)
        return true;
    if (strncmp(text, "lower-", 6) == 0)
        return parse_amount(text + 6, chip_bytes, bytes);
    if (strncmp(text, "upper-", 6) == 0) {
        bool good = parse_amount(text + 6, chip_bytes, bytes);
        *first = good ? chip_bytes - *bytes : 0;
        return good;
    }
    unsigned long from = strtoul(text, &end, 0);
    if (end == text || strncmp(end, "..", 2) != 0)
        return false;
    unsigned long to = strtoul(end + 2, &end, 0);
    *first = (uint32_t)from;
    *bytes = (uint32_t)(to - from + 1);
    return *end == '\0' && from <= to && to < chip_bytes;
}

/* --- changing ---------------------------------------------------------------------------- */

enum exit_code guard_fail_held(struct tool *tool, const struct cm_guard *guard)
{
    char evidence[300];
    snprintf(evidence, sizeof evidence, "status 0x%02X after it was written, as before: %s",
             tool->session.failure.found, hold_text(guard->cost));
    return tool_fail_as(
        tool, EXIT_PROTECTED, "the chip does not let its status registers be written", evidence,
        guard->cost == CM_LIFT_PIN
            ? "take the WP pin high: lift it off the board's ground, or wire it to the port"
        : guard->cost == CM_LIFT_POWER
            ? "switch the supply off and on; if it stays so, the order was for ever"
            : "look at the WP pin; a worn or foreign part may not take it either");
}

static enum exit_code write_registers(struct tool *tool, const struct cm_guard *before,
                                      const struct cm_guard *wanted)
{
    struct cm_guard now;
    settings_show_change(tool, tool->session.part, before->registers, wanted->registers);
    enum exit_code code = backup_chip(tool, false, before->registers);
    if (code)
        return code;
    enum cm_status status = cm_guard_restore(&tool->session, wanted);
    if (!status)
        status = cm_guard_look(&tool->session, &now);
    if (status == CM_PROTECTED)
        return guard_fail_held(tool, before);
    if (status)
        return tool_fail(tool, status);
    guard_say(tool, &now);
    return EXIT_GOOD;
}

/* The software data protection of EEPROMs and page flash: all of the chip, and not to be read back.
 */
static enum exit_code switch_data_protection(struct tool *tool, bool on)
{
    enum cm_status status = on ? cm_par_protect(&tool->session) : cm_par_unprotect(&tool->session);
    if (status)
        return tool_fail(tool, status);
    say_last(tool, on ? "the command that protects all of the chip was sent; only a write can show "
                        "that it was taken"
                      : "the command that ends software data protection was sent; only a write can "
                        "show that it was taken");
    return EXIT_GOOD;
}

static enum exit_code lift(struct tool *tool, const struct cm_guard *guard)
{
    struct cm_guard now;
    if (guard->unreadable && guard->bytes == 0)
        return switch_data_protection(tool, false);
    if (guard->bytes == 0) {
        say_last(tool, "nothing is protected; it was so before");
        return EXIT_GOOD;
    }
    enum exit_code code = guard->count ? backup_chip(tool, false, guard->registers) : EXIT_GOOD;
    if (code)
        return code;
    enum cm_status status = cm_guard_lift(&tool->session, guard, CM_LIFT_FREE);
    if (status == CM_PROTECTED)
        return guard_fail_held(tool, guard);
    if (!status)
        status = cm_guard_look(&tool->session, &now);
    if (status)
        return tool_fail(tool, status);
    guard_say(tool, &now);
    say_last(tool, "protection is lifted, and stays so until it is set again");
    return EXIT_GOOD;
}

static enum exit_code set(struct tool *tool, const struct cm_guard *guard, const char *text)
{
    struct cm_region region;
    struct cm_guard wanted = *guard;
    uint32_t first, bytes;
    char area[120], evidence[400];
    cm_region(&tool->session, CM_REGION_MAIN, &region);
    if (!parse_area(text, region.bytes, &first, &bytes))
        return tool_fail_as(tool, EXIT_USAGE, "this is not an area of the chip", text,
                            "none, all, upper-half, lower-1/16, upper-64K, or 0x000000..0x0FFFFF");
    if (guard->unreadable && (bytes == 0 || bytes == region.bytes))
        return switch_data_protection(tool, bytes != 0);
    if (!is_spi_memory(tool->session.part))
        return tool_fail_as(
            tool, EXIT_USAGE, "this part has no protection that could be set here",
            tool->session.part->name,
            guard->unreadable
                ? "its software data protection is for all of it: --set all, --set none"
            : guard->cost == CM_LIFT_VOLTAGE ? "its data sheet tells what 12 V on a pin would do"
                                             : "a pin of its own protects all of it: WP, on most");
    if (cm_nor_guard_choose(tool->session.part, &wanted, first, bytes) != CM_OK) {
        snprintf(evidence, sizeof evidence, "0x%06X to 0x%06X is wanted; the least that has it: %s",
                 (unsigned)first, (unsigned)(first + bytes - 1),
                 wanted.bytes ? guard_area_text(&wanted, region.bytes, area, sizeof area) : "none");
        return tool_fail_as(tool, EXIT_USAGE, "the chip's bits cannot protect just this area",
                            evidence, "nothing was changed; ask for an area that it has");
    }
    enum exit_code code = memcmp(wanted.registers, guard->registers, sizeof wanted.registers)
                              ? write_registers(tool, guard, &wanted)
                              : EXIT_GOOD;
    if (!code)
        say_last(tool, "protected: %s", guard_area_text(&wanted, region.bytes, area, sizeof area));
    return code;
}

static enum exit_code restore(struct tool *tool, const struct cm_guard *guard, const char *path)
{
    struct capsule_file file;
    struct cm_guard wanted = *guard;
    enum exit_code code = capsule_load(tool, path, &file);
    if (!code) {
        capsule_say(tool, &file);
        code = capsule_check_chip(tool, &file);
    }
    if (!code)
        if (!capsule_settings(tool, &file, wanted.registers))
            code = tool_fail_as(tool, EXIT_BAD_FILE, "the capsule can no longer be read", path,
                                "copy the file again");
    capsule_free(&file);
    if (code)
        return code;
    cm_nor_guard_mean(tool->session.part, &wanted);
    if (memcmp(wanted.registers, guard->registers, sizeof wanted.registers) != 0)
        code = write_registers(tool, guard, &wanted);
    else
        guard_say(tool, guard);
    if (!code) {
        guard_forget(tool, path);
        say_last(tool, "the registers are as %s has them", path);
    }
    return code;
}

static enum exit_code run(struct tool *tool, const char *const *things)
{
    struct cm_guard guard;
    uint8_t settings[CM_SETTING_BYTES];
    if (things[0])
        return tool_fail_as(tool, EXIT_USAGE, "guard takes no things", things[0],
                            "coldmint guard [--lift | --set AREA | --restore FILE]");
    if ((wants_lift != 0) + (wanted_area != NULL) + (restore_from != NULL) > 1)
        return tool_fail_as(tool, EXIT_USAGE, "one thing at a time",
                            "--lift, --set and --restore exclude each other", "give one of them");
    enum exit_code code = tool_begin(tool);
    if (code)
        return code;
    if (!is_memory(tool->session.part))
        return tool_fail_as(tool, EXIT_USAGE, "guard is for memory chips", tool->session.part->name,
                            "a microcontroller has lock bits: see 'look' and 'tune'");
    enum cm_status status = cm_guard_look(&tool->session, &guard);
    if (!status)
        status = cm_read_settings(&tool->session, settings);
    if (status)
        return tool_fail(tool, status);
    if (!wants_lift && !wanted_area && !restore_from)
        settings_show(tool, tool->session.part, settings);
    if (restore_from && !is_spi_memory(tool->session.part))
        return tool_fail_as(tool, EXIT_USAGE, "this part has no registers to be restored",
                            tool->session.part->name, "--set all, --set none");
    if (!restore_from)
        guard_say(tool, &guard);
    code = wants_lift     ? lift(tool, &guard)
           : wanted_area  ? set(tool, &guard, wanted_area)
           : restore_from ? restore(tool, &guard, restore_from)
                          : EXIT_GOOD;
    if (!code && !wants_lift && !wanted_area && !restore_from)
        say_last(tool, "%s; nothing was changed",
                 guard.bytes ? "an erase or write there would do nothing"
                             : "all of the chip can be written");
    return code;
}

static const struct poptOption options[] = {
    {"lift", 0, POPT_ARG_NONE, &wants_lift, 0, "protect nothing any more", NULL},
    {"set", 0, POPT_ARG_STRING, &wanted_area, 0,
     "protect this: none, all, upper-half, lower-1/16, upper-64K, 0x0..0xFFFF", "AREA"},
    {"restore", 0, POPT_ARG_STRING, &restore_from, 0, "put the registers back that a capsule has",
     "FILE"},
    NO_BACKUP_OPTION,
    POPT_TABLEEND};

const struct verb verb_guard = {
    .name = "guard",
    .things = "[options]",
    .summary = "show, lift, set or restore a memory's protection",
    .example = "coldmint guard --via sim:tune-store.yaml --set upper-quarter",
    .mistake = "lifting protection for one write and leaving it so: 'put --unprotect' puts it back "
               "by itself",
    .options = options,
    .run = run,
};
