/*
 * For which parts an image can be.
 *
 * What tells: how far it reaches; the signature section of an ELF file; and the first words of a
 * program for AVR, where parts of up to 8 KiB have vectors of one word (rjmp) and larger ones of
 * two (jmp, or rjmp and a word that is not used), and all of them lead into the flash. Data, such
 * as tunes, tell nothing but their size.
 */
#include "fits.h"
#include <stdio.h>
#include <string.h>

enum { MOST_NAMES = 6, SMALL_FLASH = 8192, VECTORS = 6 };

struct findings {
    uint64_t reaches; /* bytes from address 0 on */
    bool has_signature, is_program, is_arm;
    uint8_t signature[3];
    uint8_t vector_words; /* 1 or 2; 0: does not show */
    uint32_t target;      /* of the reset vector, in bytes */
};

static bool is_rjmp(uint16_t word)
{
    return (word & 0xF000) == 0xC000;
}

static bool is_jmp(uint16_t word)
{
    return (word & 0xFE0E) == 0x940C;
}

static bool is_reti(uint16_t word)
{
    return word == 0x9518;
}

/* The table that a Cortex-M begins with (ARMv6-M and ARMv7-M reference manuals, "Vector table"):
 * a stack pointer in RAM, a whole number of words; then addresses of handlers, with bit 0 set,
 * close to each other. */
static bool is_arm_table(const uint16_t *words)
{
    enum { RAM = 0x2000, RAM_END = 0x2010, RESET = 2, NMI = 4, FAULT = 6, APART = 0x40 };
    bool has_stack = words[1] >= RAM && words[1] <= RAM_END && !(words[0] & 3);
    bool is_odd = words[RESET] & words[NMI] & words[FAULT] & 1;
    uint16_t high = words[RESET + 1];
    return has_stack && is_odd && high < RAM && words[NMI + 1] - high < APART &&
           words[FAULT + 1] - high < APART && words[NMI + 1] >= high && words[FAULT + 1] >= high;
}

/* The first words, as an AVR would run them. */
static void look_at_vectors(const struct cm_source *source, struct findings *findings)
{
    uint8_t bytes[4 * VECTORS];
    uint16_t words[2 * VECTORS];
    uint32_t start, count;
    if (!source->extent(source->context, 0, &start, &count) || start != 0 || count < sizeof bytes ||
        source->read(source->context, 0, bytes, sizeof bytes) != CM_OK)
        return;
    for (int i = 0; i < 2 * VECTORS; i++)
        words[i] = (uint16_t)(bytes[2 * i] | bytes[2 * i + 1] << 8);
    bool one = true, two = true;
    for (int i = 0; i < VECTORS; i++) {
        one &= is_rjmp(words[i]) || is_reti(words[i]);
        two &= is_jmp(words[2 * i]) || ((is_rjmp(words[2 * i]) || is_reti(words[2 * i])) &&
                                        (words[2 * i + 1] == 0 || words[2 * i + 1] == 0xFFFF));
    }
    findings->is_program = one || two;
    findings->is_arm = !findings->is_program && is_arm_table(words);
    findings->vector_words = one ? 1 : two ? 2 : 0;
    if (is_jmp(words[0]))
        findings->target =
            ((uint32_t)(words[0] & 0x01F0) << 13 | (uint32_t)(words[0] & 1) << 16 | words[1]) * 2;
    else if (is_rjmp(words[0]))
        findings->target = (uint32_t)((words[0] & 0x0FFF) + 1) * 2 & 0x1FFF;
}

static void look_at_signature(struct tool *tool, const struct input *input,
                              struct findings *findings)
{
    struct image_file file;
    if (!input->file.format || strcmp(input->file.format, "ELF") != 0 ||
        image_file_load(tool, input->path, "signature", &file) != EXIT_GOOD)
        return;
    findings->has_signature = file.bytes == 3;
    cm_image_read(&file.image, 0, findings->signature, 3, 0xFF);
    image_file_free(&file);
}

/* What the vectors of a program say against a part's flash. */
static const char *vector_objection(const struct findings *findings, const struct cm_region *region,
                                    char *text, size_t room)
{
    if (findings->vector_words == 1 && region->bytes > SMALL_FLASH)
        return "its vectors are of one word, the part's of two";
    if (findings->vector_words == 2 && region->bytes <= SMALL_FLASH)
        return "its vectors are of two words, the part's of one";
    if (findings->target < region->bytes)
        return NULL;
    snprintf(text, room, "its reset vector leads to 0x%X, beyond the flash",
             (unsigned)findings->target);
    return text;
}

/* Why a part cannot be meant; NULL where it can. */
static const char *objection(const struct findings *findings, const struct cm_kit *kit,
                             const struct cm_part *part, char *text, size_t room)
{
    struct cm_region region;
    const uint8_t *id = part->id, *found = findings->signature;
    kit->family->region(part, CM_REGION_MAIN, &region);
    if (findings->reaches > region.bytes) {
        snprintf(text, room, "it reaches to 0x%llX, and %s ends at 0x%X",
                 (unsigned long long)findings->reaches - 1, region.name,
                 (unsigned)region.bytes - 1);
        return text;
    }
    if (!kit->about->program)
        return findings->has_signature ? "it carries the signature of a microcontroller" : NULL;
    if (findings->has_signature && (found[2] != id[0] || found[1] != id[1] || found[0] != id[2])) {
        snprintf(text, room, "it carries the signature %02X %02X %02X, the part has %02X %02X %02X",
                 found[2], found[1], found[0], id[0], id[1], id[2]);
        return text;
    }
    if (!findings->is_program)
        return findings->has_signature
                   ? NULL
                   : "it does not begin with vectors, as a program for AVR does";
    return vector_objection(findings, &region, text, room);
}

const char *why_no_program(const struct cm_source *source, const struct cm_kit *kit,
                           const struct cm_part *part, char *text, size_t room)
{
    struct findings findings = {.reaches = 0};
    struct cm_region region;
    bool is_avr = kit->about->program && strcmp(kit->about->program, "AVR") == 0;
    kit->family->region(part, CM_REGION_MAIN, &region);
    look_at_vectors(source, &findings);
    if (is_avr && findings.is_arm)
        return "it begins as a program for Arm Cortex-M does: a stack pointer, then odd addresses";
    return is_avr && findings.is_program ? vector_objection(&findings, &region, text, room) : NULL;
}

static void look(struct tool *tool, const struct input *input, struct findings *findings)
{
    memset(findings, 0, sizeof *findings);
    findings->reaches = (uint64_t)input->last + 1;
    look_at_vectors(&input->source, findings);
    look_at_signature(tool, input, findings);
}

static enum exit_code say_one(struct tool *tool, const struct findings *findings)
{
    char text[200], what[300];
    const struct cm_part *part = tool_part(tool->chip);
    const char *why = objection(findings, kit_of(part), part, text, sizeof text);
    set_json(tool, "fits", json_boolean(!why));
    if (!why) {
        say_last(tool, "it can be for %s", part->name);
        return EXIT_GOOD;
    }
    snprintf(what, sizeof what, "it cannot be for %s", part->name);
    return tool_fail_as(tool, EXIT_WRONG_CHIP, what, why,
                        "'coldmint image info' without --chip tells which it can be for");
}

/* Of a family: those that are left, the ones of just this size first. */
static void say_family(struct tool *tool, const struct findings *findings, const struct cm_kit *kit,
                       bool first, json_t *all)
{
    char names[400] = "", text[200];
    unsigned count = 0, exact = 0;
    for (int round = 0; round < 2; round++) {
        for (uint16_t i = 0; i < kit->part_count; i++) {
            struct cm_region region;
            const struct cm_part *part = kit->parts[i];
            kit->family->region(part, CM_REGION_MAIN, &region);
            bool is_exact = region.bytes == findings->reaches;
            if (is_exact != (round == 0) || objection(findings, kit, part, text, sizeof text))
                continue;
            exact += is_exact;
            if (count++ < MOST_NAMES)
                snprintf(names + strlen(names), sizeof names - strlen(names), "%s%s",
                         count > 1 ? ", " : "", part->name);
            json_array_append_new(all, json_text(part->name));
        }
    }
    if (count)
        say(tool, first ? "fits" : "", "%-17s %u of %u%s: %s%s", kit->about->kind, count,
            (unsigned)kit->part_count, exact ? ", those of its size first" : "", names,
            count > MOST_NAMES ? ", ..." : "");
}

enum exit_code say_fits(struct tool *tool, const struct input *input)
{
    struct findings findings;
    look(tool, input, &findings);
    if (findings.has_signature)
        say(tool, "made for", "a chip with the signature %02X %02X %02X", findings.signature[2],
            findings.signature[1], findings.signature[0]);
    if (findings.is_program)
        say(tool, "vectors", "as an AVR program of %s has them; it begins at 0x%X",
            findings.vector_words == 1 ? "up to 8 KiB" : "more than 8 KiB",
            (unsigned)findings.target);
    if (tool->chip)
        return say_one(tool, &findings);
    json_t *all = json_array();
    for (int k = 0; k < TOOL_KITS; k++) {
        size_t before = json_array_size(all);
        bool is_memory_kit = !tool_kits[k].about->program; // a program is for none
        if (!is_plain_kit(&tool_kits[k]) && !(findings.is_program && is_memory_kit))
            say_family(tool, &findings, &tool_kits[k], before == 0, all);
    }
    if (json_array_size(all) == 0)
        say(tool, "fits", "none of the parts that are known here");
    say_last(tool,
             json_array_size(all) ? "%s can be for %u parts; --chip NAME tells why not for another"
                                  : "%s is for none of the %u parts",
             input->path, (unsigned)json_array_size(all));
    set_json(tool, "fits", all);
    return EXIT_GOOD;
}
