/*
 * For which parts an image can be, in words.
 */
#include "fits.h"
#include "begin.h"
#include "say.h"
#include "words/fail.h"
#include "words/misfit.h"
#include <stdio.h>
#include <string.h>

enum { MOST_NAMES = 6 };

static enum exit_code say_one(struct tool *tool, const struct cm_image_traits *traits)
{
    char text[200], what[300];
    const struct cm_part *part = tool_part(tool);
    struct cm_misfit misfit;
    cm_image_misfit(traits, kit_of(tool, part), part, &misfit);
    set_json(tool, "fits", json_boolean(misfit.kind == CM_FITS));
    if (misfit.kind == CM_FITS) {
        say_last(tool, "it can be for %s", part->name);
        return EXIT_GOOD;
    }
    snprintf(what, sizeof what, "it cannot be for %s", part->name);
    return tool_fail_as(tool, EXIT_WRONG_CHIP, what, misfit_text(&misfit, text, sizeof text),
                        "'coldmint image info' without --chip tells which it can be for");
}

/* Of a family: those that are left, the ones of just this size first. */
static void say_family(struct tool *tool, const struct cm_image_traits *traits,
                       const struct cm_kit *kit, bool first, json_t *all)
{
    char names[400] = "";
    struct cm_misfit misfit;
    unsigned count = 0, exact = 0;
    for (int round = 0; round < 2; round++) {
        for (uint16_t i = 0; i < kit->part_count; i++) {
            struct cm_region region;
            const struct cm_part *part = kit->parts[i];
            kit->family->region(part, CM_REGION_MAIN, &region);
            bool is_exact = region.bytes == traits->reaches;
            cm_image_misfit(traits, kit, part, &misfit);
            if (is_exact != (round == 0) || misfit.kind != CM_FITS)
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

static void say_traits(struct tool *tool, const struct cm_image_traits *traits)
{
    const uint8_t *id = traits->id;
    if (traits->id_bytes)
        say(tool, "made for", "a chip with the signature %02X %02X %02X", id[0], id[1], id[2]);
    if (traits->is_avr)
        say(tool, "vectors", "as an AVR program of %s has them; it begins at 0x%X",
            traits->vector_words == 1 ? "up to 8 KiB" : "more than 8 KiB",
            (unsigned)traits->target);
}

static enum exit_code say_all(struct tool *tool, const struct cm_image_traits *traits,
                              const char *path)
{
    json_t *all = json_array();
    for (uint8_t k = 0; k < tool->host.kit_count; k++) {
        const struct cm_kit *kit = &tool->host.kits[k];
        bool is_memory_kit = !kit->about->program; // a program is for none
        if (!cm_host_is_plain(&tool->host, kit) && !(traits->is_avr && is_memory_kit))
            say_family(tool, traits, kit, json_array_size(all) == 0, all);
    }
    unsigned count = (unsigned)json_array_size(all), known = 0;
    for (uint8_t k = 0; k < tool->host.kit_count; k++)
        known += tool->host.kits[k].part_count;
    if (count == 0)
        say(tool, "fits", "none of the parts that are known here");
    if (count)
        say_last(tool, "%s can be for %u parts; --chip NAME tells why not for another", path,
                 count);
    else
        say_last(tool, "%s is for none of the %u parts", path, known);
    set_json(tool, "fits", all);
    return EXIT_GOOD;
}

enum exit_code say_fits(struct tool *tool, const struct input *input)
{
    struct cm_image_traits traits;
    cm_image_look(&input->file, &input->source, &traits);
    say_traits(tool, &traits);
    return tool->given.chip ? say_one(tool, &traits) : say_all(tool, &traits, input->path);
}
