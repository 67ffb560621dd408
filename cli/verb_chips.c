/*
 * chips: what is supported, and the facts of one part.
 */
#include "tool.h"
#include <ctype.h>
#include <stdio.h>
#include <string.h>

static json_t *json_row(const struct cm_avr_part *row)
{
    char id[12];
    snprintf(id, sizeof id, "%02X%02X%02X", row->part.id[0], row->part.id[1], row->part.id[2]);
    json_t *fuses = json_array();
    for (uint8_t i = 0; i < row->fuse_bytes; i++)
        json_array_append_new(fuses, json_pack("{s:i, s:s}", "default", (int)row->fuse_default[i],
                                               "bits", row->fuse_bits[i]));
    return json_pack(
        "{s:s, s:s, s:s, s:I, s:I, s:I, s:I, s:I, s:I, s:I, s:o}", "name", row->part.name, "family",
        "avr", "id", id, "flash_bytes", (json_int_t)row->flash_bytes, "flash_page_bytes",
        (json_int_t)row->flash_page_bytes, "boot_max_bytes", (json_int_t)row->boot_max_bytes,
        "eeprom_bytes", (json_int_t)row->eeprom_bytes, "eeprom_page_bytes",
        (json_int_t)row->eeprom_page_bytes, "supply_min_mv", (json_int_t)row->part.supply_min_mv,
        "supply_max_mv", (json_int_t)row->part.supply_max_mv, "fuses", fuses);
}

static void say_row(const struct tool *tool, const struct cm_avr_part *row)
{
    if (!tool->json)
        printf("%-16s %02X %02X %02X  %7u  %5u  %6u\n", row->part.name, row->part.id[0],
               row->part.id[1], row->part.id[2], (unsigned)row->flash_bytes,
               (unsigned)row->flash_page_bytes, (unsigned)row->eeprom_bytes);
}

static void say_facts(const struct tool *tool, const struct cm_avr_part *row)
{
    static const char *const GENERATIONS[] = {
        "flash byte by byte, waits", "flash by page, reset after erase", "flash by page, waits",
        "flash and eeprom by page, RDY/BSY polled"};
    static const char *const BYTES[] = {"low", "high", "extended"};
    say(tool, "chip", "%s%s%s  id %02X %02X %02X, 8-bit AVR, 4-wire serial programming",
        colour("1"), row->part.name, colour("0"), row->part.id[0], row->part.id[1],
        row->part.id[2]);
    say(tool, "supply", "%.1f to %.1f V", row->part.supply_min_mv / 1000.0,
        row->part.supply_max_mv / 1000.0);
    say(tool, "flash", "%u bytes in pages of %u", (unsigned)row->flash_bytes,
        (unsigned)row->flash_page_bytes);
    if (row->boot_max_bytes)
        say(tool, "boot", "boot section of up to %u bytes at the end of flash",
            (unsigned)row->boot_max_bytes);
    say(tool, "eeprom", "%u bytes in pages of %u", (unsigned)row->eeprom_bytes,
        (unsigned)row->eeprom_page_bytes);
    say(tool, "writing", "%s; page %.1f ms, erase %.1f ms at most", GENERATIONS[row->generation],
        row->times->t_wd_flash_us / 1000.0, row->times->t_wd_erase_us / 1000.0);
    char packages[100] = "none in the tables here";
    size_t used = 0;
    const struct cm_pinout *pinout;
    for (uint8_t i = 0; (pinout = cm_avr_about.pinout(&row->part, i)) != NULL; i++)
        if (used < sizeof packages)
            used += (size_t)snprintf(packages + used, sizeof packages - used, "%s%s", i ? ", " : "",
                                     pinout->package);
    say(tool, "packages", "%s; 'coldmint wires %s' shows the pins", packages, row->part.name);
    for (uint8_t i = 0; i < row->fuse_bytes; i++)
        say(tool, i ? "" : "fuses", "%-8s 0x%02X  bits 0 to 7: %s", BYTES[i], row->fuse_default[i],
            row->fuse_bits[i]);
}

/* --- memories ---------------------------------------------------------------------------- */

static json_t *erase_sizes(const struct cm_kit *kit, const struct cm_part *part)
{
    json_t *sizes = json_array();
    const struct cm_family *family = kit->family;
    struct cm_erase_unit unit;
    for (uint8_t i = 0; family->erase_unit && family->erase_unit(part, CM_REGION_MAIN, i, &unit);
         i++)
        json_array_append_new(sizes, json_integer(unit.bytes));
    return sizes;
}

static json_t *json_memory(const struct cm_kit *kit, const struct cm_part *part)
{
    char id[16] = "";
    struct cm_region region;
    kit->family->region(part, CM_REGION_MAIN, &region);
    for (uint8_t i = 0; i < part->id_bytes; i++)
        snprintf(id + 2 * i, 3, "%02X", part->id[i]);
    return json_pack("{s:s, s:s, s:s, s:I, s:i, s:i, s:i, s:o}", "name", part->name, "family",
                     kit->family->name, "id", id, "bytes", (json_int_t)region.bytes, "page_bytes",
                     (int)region.page_bytes, "supply_min_mv", (int)part->supply_min_mv,
                     "supply_max_mv", (int)part->supply_max_mv, "erase_bytes",
                     erase_sizes(kit, part));
}

static void say_memory_row(const struct tool *tool, const struct cm_kit *kit,
                           const struct cm_part *part)
{
    char id[40];
    struct cm_region region;
    if (tool->json)
        return;
    kit->family->region(part, CM_REGION_MAIN, &region);
    const char *text = id_text(part, id);
    printf("%-16s %-20s %9u  %5u  %.2f to %.2f V\n", part->name,
           strncmp(text, "id ", 3) == 0 && text[3] != 'b' ? text + 3 : text, (unsigned)region.bytes,
           (unsigned)region.page_bytes, part->supply_min_mv / 1000.0, part->supply_max_mv / 1000.0);
}

/* Those that are not on SPI. */
static void say_other_memory(const struct tool *tool, const struct cm_part *part)
{
    const struct cm_kit *kit = kit_of(part);
    struct cm_region region;
    struct cm_erase_unit unit;
    const struct cm_family *family = kit->family;
    char id[40];
    family->region(part, CM_REGION_MAIN, &region);
    say(tool, "chip", "%s%s%s  %s, %s", colour("1"), part->name, colour("0"), id_text(part, id),
        kit->about->kind);
    say(tool, "supply", "%.2f to %.2f V", part->supply_min_mv / 1000.0,
        part->supply_max_mv / 1000.0);
    say(tool, "memory", "%u bytes, written in portions of %u", (unsigned)region.bytes,
        (unsigned)region.page_bytes);
    if (is_parallel(part)) {
        const struct cm_par_part *row = cm_par_row(part);
        say(tool, "bus", "%u bits; %u ns a cycle", row->traits & CM_PAR_WIDE ? 16u : 8u,
            (unsigned)row->cycle_ns);
        say(tool, "writing", "%s, %u us each, %u at most",
            row->page_bytes > 1 ? "pages" : "single units", (unsigned)row->times->program_us,
            (unsigned)row->times->program_max_us);
        if (kit->about->wants_voltages)
            say(tool, "",
                row->program_mv ? "where the port has %.2f V of supply and the programming voltage"
                                : "not programmed here",
                row->program_mv / 1000.0);
    }
    for (uint8_t i = 0; family->erase_unit && family->erase_unit(part, CM_REGION_MAIN, i, &unit);
         i++)
        say(tool, i ? "" : "erasing", "%7u bytes: %.0f ms", (unsigned)unit.bytes, unit.us / 1000.0);
}

static void say_memory_facts(const struct tool *tool, const struct cm_nor_part *row)
{
    static const char *const WIDE[] = {"", "; opcodes of their own with four address bytes",
                                       "; four address bytes by a mode (B7)",
                                       "; four address bytes by a mode (B7, enabled)"};
    char id[40], unit[40];
    say(tool, "chip", "%s%s%s  %s, %s", colour("1"), row->part.name, colour("0"),
        id_text(&row->part, id), row->rewrites ? "serial EEPROM on SPI" : "SPI NOR flash");
    say(tool, "supply", "%.2f to %.2f V", row->part.supply_min_mv / 1000.0,
        row->part.supply_max_mv / 1000.0);
    say(tool, "memory", "%u bytes; read at %.0f MHz%s", (unsigned)row->bytes, row->clock_hz / 1e6,
        WIDE[row->wide]);
    snprintf(unit, sizeof unit,
             row->page_bytes == 2   ? "words"
             : row->page_bytes == 1 ? "single bytes"
                                    : "pages of %u",
             (unsigned)row->page_bytes);
    say(tool, "writing", "%s, %.2f ms each, %.2f at most", unit, row->times->program_us / 1000.0,
        row->times->program_max_us / 1000.0);
    for (uint8_t i = 0; row->erases && i < CM_NOR_ERASES && row->erases->units[i].bytes; i++)
        say(tool, i ? "" : "erasing", "%6u bytes by %02X: %.0f ms, %.0f at most",
            (unsigned)row->erases->units[i].bytes, row->erases->units[i].opcode,
            row->erases->units[i].us / 1000.0, row->erases->units[i].max_us / 1000.0);
    say(tool, "guard", "%s",
        !row->guard             ? "no block protection"
        : row->guard->by_sector ? "a lock for each sector, all set by power-up"
        : row->guard->vague
            ? "block protection; which bits mean which area is not known here: any is taken for all"
        : row->guard->volatile_bits ? "block protection by area, all set by power-up"
                                    : "block protection by area");
}

/* --- all --------------------------------------------------------------------------------- */

static unsigned list_kit(struct tool *tool, const struct cm_kit *kit, const char *part_of_name,
                         json_t *rows)
{
    unsigned count = 0;
    bool memory = !kit->about->program;
    for (uint16_t i = 0; i < kit->part_count; i++) {
        if (!strstr(kit->parts[i]->name, part_of_name))
            continue;
        if (count++ == 0 && !tool->json)
            printf(memory ? "%s%-16s %-20s %9s  %5s  %s%s\n" : "%s%-16s %-8s  %7s  %5s  %6s%s\n",
                   ink("2"), "chip", "id", memory ? "bytes" : "flash", "page",
                   memory ? "supply" : "eeprom", ink("0"));
        if (memory)
            say_memory_row(tool, kit, kit->parts[i]);
        else
            say_row(tool, cm_avr_row(kit->parts[i]));
        json_array_append_new(rows, memory ? json_memory(kit, kit->parts[i])
                                           : json_row(cm_avr_row(kit->parts[i])));
    }
    return count;
}

static enum exit_code list(struct tool *tool, const char *part_of_name)
{
    json_t *rows = json_array();
    unsigned count = 0;
    set_json(tool, "chips", rows);
    for (int k = 0; k < TOOL_KITS; k++)
        count += list_kit(tool, &tool_kits[k], part_of_name, rows);
    if (count == 0)
        return tool_fail_as(tool, EXIT_USAGE, "no such chip is known", part_of_name,
                            "a part of the name will do, for example 'tiny84' or 'w25q'");
    say_last(tool, "%u chips", count);
    return EXIT_GOOD;
}

static enum exit_code run(struct tool *tool, const char *const *things)
{
    char name[40] = "";
    for (size_t i = 0; things[0] && things[0][i] && i < sizeof name - 1; i++)
        name[i] = (char)tolower((unsigned char)things[0][i]);
    if (things[0] && things[1])
        return tool_fail_as(tool, EXIT_USAGE, "chips takes one name", things[1],
                            "coldmint chips NAME");
    const struct cm_part *part = tool_part(name);
    if (!part)
        return list(tool, name);
    json_t *rows = json_array();
    if (is_memory(part)) {
        if (is_spi_memory(part))
            say_memory_facts(tool, cm_nor_row(part));
        else
            say_other_memory(tool, part);
        json_array_append_new(rows, json_memory(kit_of(part), part));
    } else {
        say_facts(tool, cm_avr_row(part));
        json_array_append_new(rows, json_row(cm_avr_row(part)));
    }
    set_json(tool, "chips", rows);
    return EXIT_GOOD;
}

const struct verb verb_chips = {
    .name = "chips",
    .things = "[NAME or part of a name]",
    .summary = "what is supported, and the facts of one part",
    .example = "coldmint chips attiny84a",
    .heeds = HEEDS_NOTHING,
    .mistake = "reading the name off the package without its last letter: the A, P and PA parts "
               "have ids of their own",
    .run = run,
};
