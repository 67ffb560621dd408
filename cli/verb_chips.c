/*
 * chips: what is supported, and the facts of one part.
 */
#include "tool.h"
#include <ctype.h>
#include <stdio.h>
#include <string.h>

static const struct cm_avr_part *row_of(uint16_t i)
{
    return cm_avr_row(cm_avr_all_parts[i]);
}

static json_t *json_row(const struct cm_avr_part *row)
{
    char id[12];
    snprintf(id, sizeof id, "%02X%02X%02X", row->part.id[0], row->part.id[1], row->part.id[2]);
    json_t *fuses = json_array();
    for (uint8_t i = 0; i < row->fuse_bytes; i++)
        json_array_append_new(fuses, json_pack("{s:i, s:s}", "default", (int)row->fuse_default[i], "bits", row->fuse_bits[i]));
    return json_pack("{s:s, s:s, s:s, s:I, s:I, s:I, s:I, s:I, s:I, s:I, s:o}", "name", row->part.name, "family", "avr", "id", id,
                     "flash_bytes", (json_int_t)row->flash_bytes, "flash_page_bytes", (json_int_t)row->flash_page_bytes,
                     "boot_max_bytes", (json_int_t)row->boot_max_bytes, "eeprom_bytes", (json_int_t)row->eeprom_bytes,
                     "eeprom_page_bytes", (json_int_t)row->eeprom_page_bytes, "supply_min_mv", (json_int_t)row->part.supply_min_mv,
                     "supply_max_mv", (json_int_t)row->part.supply_max_mv, "fuses", fuses);
}

static void say_row(const struct tool *tool, const struct cm_avr_part *row)
{
    if (!tool->json)
        printf("%-16s %02X %02X %02X  %7u  %5u  %6u\n", row->part.name, row->part.id[0], row->part.id[1], row->part.id[2],
               (unsigned)row->flash_bytes, (unsigned)row->flash_page_bytes, (unsigned)row->eeprom_bytes);
}

static void say_facts(const struct tool *tool, const struct cm_avr_part *row)
{
    static const char *const GENERATIONS[] = {"flash byte by byte, waits", "flash by page, reset after erase",
                                              "flash by page, waits", "flash and eeprom by page, RDY/BSY polled"};
    static const char *const BYTES[] = {"low", "high", "extended"};
    say(tool, "chip", "%s%s%s  id %02X %02X %02X, 8-bit AVR, 4-wire serial programming", colour("\033[1m"), row->part.name,
        colour("\033[0m"), row->part.id[0], row->part.id[1], row->part.id[2]);
    say(tool, "supply", "%.1f to %.1f V", row->part.supply_min_mv / 1000.0, row->part.supply_max_mv / 1000.0);
    say(tool, "flash", "%u bytes in pages of %u", (unsigned)row->flash_bytes, (unsigned)row->flash_page_bytes);
    if (row->boot_max_bytes)
        say(tool, "boot", "boot section of up to %u bytes at the end of flash", (unsigned)row->boot_max_bytes);
    say(tool, "eeprom", "%u bytes in pages of %u", (unsigned)row->eeprom_bytes, (unsigned)row->eeprom_page_bytes);
    say(tool, "writing", "%s; page %.1f ms, erase %.1f ms at most", GENERATIONS[row->generation],
        row->times->t_wd_flash_us / 1000.0, row->times->t_wd_erase_us / 1000.0);
    char packages[100] = "none in the tables here";
    size_t used = 0;
    for (uint8_t i = 0; cm_avr_pinout(&row->part, i) && used < sizeof packages; i++)
        used +=
            (size_t)snprintf(packages + used, sizeof packages - used, "%s%s", i ? ", " : "", cm_avr_pinout(&row->part, i)->package);
    say(tool, "packages", "%s; 'coldmint wires %s' shows the pins", packages, row->part.name);
    for (uint8_t i = 0; i < row->fuse_bytes; i++)
        say(tool, i ? "" : "fuses", "%-8s 0x%02X  bits 0 to 7: %s", BYTES[i], row->fuse_default[i], row->fuse_bits[i]);
}

static enum exit_code list(struct tool *tool, const char *part_of_name)
{
    json_t *rows = json_array();
    unsigned count = 0;
    set_json(tool, "chips", rows);
    if (!tool->json)
        printf("%s%-16s %-8s  %7s  %5s  %6s%s\n", colour("\033[2m"), "chip", "id", "flash", "page", "eeprom", colour("\033[0m"));
    for (uint16_t i = 0; i < CM_AVR_PART_COUNT; i++) {
        if (!strstr(row_of(i)->part.name, part_of_name))
            continue;
        say_row(tool, row_of(i));
        json_array_append_new(rows, json_row(row_of(i)));
        count++;
    }
    if (count == 0)
        return tool_fail_as(tool, EXIT_USAGE, "no such chip is known", part_of_name,
                            "a part of the name will do, for example 'tiny84'");
    say_last(tool, "%u chips", count);
    return EXIT_GOOD;
}

static enum exit_code run(struct tool *tool, const char *const *things)
{
    char name[40] = "";
    for (size_t i = 0; things[0] && things[0][i] && i < sizeof name - 1; i++)
        name[i] = (char)tolower((unsigned char)things[0][i]);
    const struct cm_part *part = cm_part_by_name(&tool_kit, 1, name);
    if (!part)
        return list(tool, name);
    const struct cm_avr_part *row = cm_avr_row(part);
    say_facts(tool, row);
    json_t *rows = json_array();
    json_array_append_new(rows, json_row(row));
    set_json(tool, "chips", rows);
    return EXIT_GOOD;
}

const struct verb verb_chips = {
    .name = "chips",
    .things = "[NAME or part of a name]",
    .summary = "what is supported, and the facts of one part",
    .example = "coldmint chips attiny84a",
    .mistake = "reading the name off the package without its last letter: the A, P and PA parts have ids of their own",
    .run = run,
};
