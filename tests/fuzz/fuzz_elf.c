/*
 * Fuzz target for the tool's reader of ELF files: any bytes, every memory. What comes out is as
 * much as it says; nothing is read beyond the file.
 */
#include <stdlib.h>
#include <string.h>
#include <tool.h>

/* What the reader needs of the tool. */
enum exit_code tool_fail_as(struct tool *tool, enum exit_code code, const char *what,
                            const char *evidence, const char *advice)
{
    (void)tool;
    if (!what || !evidence || !advice)
        abort();
    return code;
}

static void read_region(char *contents, size_t bytes, const char *region, bool has_chip)
{
    static const struct cm_part PART = {.name = "any"};
    static const struct cm_kit KIT = {.about = &cm_avr_about};
    struct tool tool = {.session = {.part = has_chip ? &PART : NULL, .kit = &KIT}};
    struct image_file file = {.path = "fuzzed"};
    uint32_t start, count, sum = 0;
    if (elf_load(&tool, &file, contents, bytes, region) == EXIT_GOOD) {
        for (uint64_t at = 0; at <= UINT32_MAX &&
                              file.source.extent(file.source.context, (uint32_t)at, &start, &count);
             at = (uint64_t)start + count)
            sum += count;
        if (sum != file.bytes) // which may be more than the file has: segments may share its bytes
            abort();
    }
    free(file.memory);
}

int LLVMFuzzerTestOneInput(const uint8_t *data, size_t size);

int LLVMFuzzerTestOneInput(const uint8_t *data, size_t size)
{
    static const char *const REGIONS[] = {"flash", "eeprom", "fuses", "signature"};
    char *copy = malloc(size + 1); // an allocation of its own, so that a byte too many shows
    if (!copy || size == 0) {
        free(copy);
        return 0;
    }
    for (size_t i = 0; i < sizeof REGIONS / sizeof REGIONS[0]; i++) {
        memcpy(copy, data, size);
        read_region(copy, size, REGIONS[i], i % 2);
    }
    free(copy);
    return 0;
}
