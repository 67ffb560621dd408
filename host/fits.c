/*
 * For which parts an image can be.
 *
 * What tells: how far it reaches; the signature section of an ELF file; and the first words of a
 * program for AVR, where parts of up to 8 KiB have vectors of one word (rjmp) and larger ones of
 * two (jmp, or rjmp and a word that is not used), and all of them lead into the flash. Data, such
 * as tunes, tell nothing but their size.
 */
#include <coldmint/host/image_file.h>
#include <string.h>

enum { SMALL_FLASH = 8192, VECTORS = 6 };

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
static void look_at_vectors(const struct cm_source *source, struct cm_image_traits *traits)
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
    traits->is_avr = one || two;
    traits->is_arm = !traits->is_avr && is_arm_table(words);
    traits->vector_words = one ? 1 : two ? 2 : 0;
    if (is_jmp(words[0]))
        traits->target =
            ((uint32_t)(words[0] & 0x01F0) << 13 | (uint32_t)(words[0] & 1) << 16 | words[1]) * 2;
    else if (is_rjmp(words[0]))
        traits->target = (uint32_t)((words[0] & 0x0FFF) + 1) * 2 & 0x1FFF;
}

void cm_image_look(const struct cm_image_file *file, const struct cm_source *source,
                   struct cm_image_traits *traits)
{
    uint32_t first, last = 0;
    uint64_t bytes;
    memset(traits, 0, sizeof *traits);
    if (cm_source_bounds(source, &first, &last, &bytes))
        traits->reaches = (uint64_t)last + 1;
    look_at_vectors(source, traits);
    traits->id_bytes = file->id_bytes;
    memcpy(traits->id, file->id, sizeof traits->id);
}

/* What the vectors of a program say against a part's flash. */
static enum cm_misfit_kind vector_misfit(const struct cm_image_traits *traits, uint32_t flash_bytes)
{
    if (traits->vector_words == 1 && flash_bytes > SMALL_FLASH)
        return CM_MISFIT_SHORT_VECTORS;
    if (traits->vector_words == 2 && flash_bytes <= SMALL_FLASH)
        return CM_MISFIT_LONG_VECTORS;
    return traits->target < flash_bytes ? CM_FITS : CM_MISFIT_RESET;
}

static bool runs_avr(const struct cm_kit *kit)
{
    return kit->about->program && strcmp(kit->about->program, "AVR") == 0;
}

void cm_program_misfit(const struct cm_source *source, const struct cm_kit *kit,
                       const struct cm_part *part, struct cm_misfit *misfit)
{
    struct cm_image_traits traits = {.reaches = 0};
    struct cm_region region;
    *misfit = (struct cm_misfit){.kind = CM_FITS};
    kit->family->region(part, CM_REGION_MAIN, &region);
    look_at_vectors(source, &traits);
    if (runs_avr(kit) && traits.is_arm)
        misfit->kind = CM_MISFIT_ARM;
    else if (runs_avr(kit) && traits.is_avr)
        misfit->kind = vector_misfit(&traits, region.bytes);
    misfit->address = traits.target;
}

static enum cm_misfit_kind find_misfit(const struct cm_image_traits *traits,
                                       const struct cm_kit *kit, const struct cm_part *part,
                                       uint32_t main_bytes)
{
    if (traits->reaches > main_bytes)
        return CM_MISFIT_SIZE;
    if (!kit->about->program)
        return traits->id_bytes ? CM_MISFIT_MICRO : CM_FITS;
    if (traits->id_bytes && memcmp(traits->id, part->id, traits->id_bytes) != 0)
        return CM_MISFIT_ID;
    if (!traits->is_avr)
        return traits->id_bytes ? CM_FITS : CM_MISFIT_NO_VECTORS;
    return vector_misfit(traits, main_bytes);
}

void cm_image_misfit(const struct cm_image_traits *traits, const struct cm_kit *kit,
                     const struct cm_part *part, struct cm_misfit *misfit)
{
    struct cm_region region;
    kit->family->region(part, CM_REGION_MAIN, &region);
    *misfit = (struct cm_misfit){.kind = find_misfit(traits, kit, part, region.bytes),
                                 .limit = region.bytes,
                                 .region = region.name};
    misfit->address = misfit->kind == CM_MISFIT_SIZE ? traits->reaches - 1 : traits->target;
    memcpy(misfit->found, traits->id, sizeof misfit->found);
    memcpy(misfit->expected, part->id, sizeof misfit->expected);
}
