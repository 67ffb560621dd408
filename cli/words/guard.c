/*
 * A memory's protection in words: which area, by which bits, and what holds them.
 */
#include "guard.h"
#include "fail.h"
#include "say.h"
#include <stdio.h>
#include <string.h>

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
                                     "of the chip, or is permanent"
           : hold == CM_LIFT_PIN   ? "the registers cannot be written while the WP pin is low"
           : hold == CM_LIFT_POWER ? "the registers are locked until the supply has "
                                     "been off (with some parts: permanent)"
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
            ? "switch the supply off and on; if it stays so, the lock is permanent"
            : "look at the WP pin; a worn or foreign part may not take it either");
}
