/*
 * chips: what is supported, and the facts of one part. Everything here comes from the families' own
 * tables: regions, erase units, and what each tells beside those (struct cm_fact).
 */
#include "say.h"
#include "words/fail.h"
#include "words/fill.h"
#include <ctype.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static json_t *json_regions(const struct cm_kit *kit, const struct cm_part *part)
{
    json_t *regions = json_array();
    struct cm_region region;
    for (uint8_t i = 0; kit->family->region(part, i, &region); i++) {
        if (region.bytes)
            json_array_append_new(regions, json_pack("{s:s, s:I, s:I, s:I}", "name", region.name,
                                                     "base", (json_int_t)region.base, "bytes",
                                                     (json_int_t)region.bytes, "page_bytes",
                                                     (json_int_t)region.page_bytes));
    }
    return regions;
}

/* Erase units of the main region: number 0, 1, ...; false beyond the last, or where there are none.
 */
static bool erase_unit(const struct cm_kit *kit, const struct cm_part *part, uint8_t index,
                       struct cm_erase_unit *unit)
{
    const struct cm_family *family = kit->family;
    return family->erase_unit && family->erase_unit(part, CM_REGION_MAIN, index, unit);
}

static json_t *json_part(const struct cm_kit *kit, const struct cm_part *part)
{
    char id[2 * CM_ID_BYTES + 1] = "";
    struct cm_erase_unit unit;
    json_t *sizes = json_array();
    for (uint8_t i = 0; i < part->id_bytes; i++)
        snprintf(id + 2 * i, 3, "%02X", part->id[i]);
    for (uint8_t i = 0; erase_unit(kit, part, i, &unit); i++)
        json_array_append_new(sizes, json_integer(unit.bytes));
    return json_pack("{s:s, s:s, s:s, s:s, s:i, s:i, s:o, s:o}", "name", part->name, "family",
                     kit->family->name, "kind", kit->about->kind, "id", id, "supply_min_mv",
                     (int)part->supply_min_mv, "supply_max_mv", (int)part->supply_max_mv, "regions",
                     json_regions(kit, part), "erase_bytes", sizes);
}

/* --- the list ---------------------------------------------------------------------------- */

static void print_heading(const struct cm_kit *kit)
{
    printf("%s%-16s %-20s %9s  %5s  %-14s %s%s\n", ink("2"), kit->about->kind, "id", "bytes",
           "page", "supply", kit->about->program ? "eeprom" : "", ink("0"));
}

static void print_row(const struct cm_kit *kit, const struct cm_part *part)
{
    char id[SHORT_TEXT], data_bytes[20] = "";
    struct cm_region main, data;
    const char *text = id_text(part, id);
    bool is_plain_id = strncmp(text, "id ", 3) == 0 && text[3] != 'b';
    kit->family->region(part, CM_REGION_MAIN, &main);
    if (kit->about->program && kit->family->region(part, CM_REGION_DATA, &data))
        snprintf(data_bytes, sizeof data_bytes, "%6u", (unsigned)data.bytes);
    printf("%-16s %-20s %9u  %5u  %.2f to %.2f V %s\n", part->name, is_plain_id ? text + 3 : text,
           (unsigned)main.bytes, (unsigned)main.page_bytes, part->supply_min_mv / 1000.0,
           part->supply_max_mv / 1000.0, data_bytes);
}

static unsigned list_kit(struct tool *tool, const struct cm_kit *kit, const char *part_of_name,
                         json_t *rows)
{
    unsigned count = 0;
    for (uint16_t i = 0; i < kit->part_count; i++) {
        if (!strstr(kit->parts[i]->name, part_of_name))
            continue;
        if (count++ == 0 && !tool->given.json)
            print_heading(kit);
        if (!tool->given.json)
            print_row(kit, kit->parts[i]);
        json_array_append_new(rows, json_part(kit, kit->parts[i]));
    }
    return count;
}

static enum exit_code list(struct tool *tool, const char *part_of_name)
{
    json_t *rows = json_array();
    unsigned count = 0;
    set_json(tool, "chips", rows);
    for (uint8_t k = 0; k < tool->host.kit_count; k++)
        count += list_kit(tool, &tool->host.kits[k], part_of_name, rows);
    if (count == 0)
        return tool_fail_as(tool, EXIT_USAGE, "no such chip is known", part_of_name,
                            "a part of the name will do, for example 'tiny84' or 'w25q'");
    say_last(tool, "%u chips", count);
    return EXIT_GOOD;
}

/* --- the facts of one part --------------------------------------------------------------- */

/* What a word in the text of a fact stands for: {0}, {0:k}, {0:kk}, {0:x}, {t}. */
static void place_text(const void *context, const char *word, char *text, size_t room)
{
    const struct cm_fact *fact = context;
    if (word[0] == 't') {
        snprintf(text, room, "%s", fact->word ? fact->word : "");
        return;
    }
    uint32_t value = fact->values[(word[0] - '0') & 3];
    if (strcmp(word + 1, ":k") == 0)
        snprintf(text, room, "%.1f", value / 1000.0);
    else if (strcmp(word + 1, ":kk") == 0)
        snprintf(text, room, "%.2f", value / 1000.0);
    else if (strcmp(word + 1, ":x") == 0)
        snprintf(text, room, "%02X", (unsigned)value);
    else
        snprintf(text, room, "%u", (unsigned)value);
}

static void say_fact(struct tool *tool, const struct cm_fact *fact)
{
    char text[300];
    fill_in(fact->text, place_text, fact, text, sizeof text);
    say(tool, fact->label, "%s", text);
}

static void say_regions(struct tool *tool, const struct cm_kit *kit, const struct cm_part *part)
{
    struct cm_region region;
    for (uint8_t i = 0; kit->family->region(part, i, &region); i++) {
        if (!region.bytes || (region.traits & CM_REGION_SETTINGS) ||
            !(region.traits & CM_REGION_WRITABLE))
            continue;
        if (region.page_bytes > 1)
            say(tool, region.name, "%u bytes in pages of %u", (unsigned)region.bytes,
                (unsigned)region.page_bytes);
        else
            say(tool, region.name, "%u bytes, each written by itself", (unsigned)region.bytes);
    }
}

static void say_erases(struct tool *tool, const struct cm_kit *kit, const struct cm_part *part)
{
    struct cm_erase_unit unit;
    for (uint8_t i = 0; erase_unit(kit, part, i, &unit); i++)
        say(tool, i ? "" : "erasing", "%7u bytes: %.0f ms", (unsigned)unit.bytes, unit.us / 1000.0);
}

static void say_packages(struct tool *tool, const struct cm_kit *kit, const struct cm_part *part)
{
    char packages[100] = "none in the tables here";
    size_t used = 0;
    const struct cm_pinout *pinout;
    for (uint8_t i = 0; used < sizeof packages && (pinout = kit->about->pinout(part, i)); i++)
        used += (size_t)snprintf(packages + used, sizeof packages - used, "%s%s", i ? ", " : "",
                                 pinout->package);
    say(tool, "packages", "%s; 'coldmint wires %s' shows the pins", packages, part->name);
}

static void say_part(struct tool *tool, const struct cm_kit *kit, const struct cm_part *part)
{
    char id[SHORT_TEXT];
    struct cm_fact fact;
    say(tool, "chip", "%s%s%s  %s, %s", colour("1"), part->name, colour("0"), id_text(part, id),
        kit->about->kind);
    say(tool, "supply", "%.2f to %.2f V", part->supply_min_mv / 1000.0,
        part->supply_max_mv / 1000.0);
    say_regions(tool, kit, part);
    say_erases(tool, kit, part);
    for (uint8_t i = 0; kit->about->fact && kit->about->fact(part, i, &fact); i++)
        say_fact(tool, &fact);
    say_packages(tool, kit, part);
}

static enum exit_code run(struct tool *tool, const char *const *things)
{
    char name[40] = "";
    for (size_t i = 0; things[0] && things[0][i] && i < sizeof name - 1; i++)
        name[i] = (char)tolower((unsigned char)things[0][i]);
    if (things[0] && things[1])
        return tool_fail_as(tool, EXIT_USAGE, "chips takes one name", things[1],
                            "coldmint chips NAME");
    const struct cm_part *part = cm_host_part(&tool->host, name);
    if (!part)
        return list(tool, name);
    const struct cm_kit *kit = kit_of(tool, part);
    say_part(tool, kit, part);
    set_json(tool, "chips", json_pack("[o]", json_part(kit, part)));
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
