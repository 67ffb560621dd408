/*
 * Fuzz target for the host library's reader of ELF files: any bytes, every region. What comes out
 * is as much as it says; nothing is read beyond the file.
 */
#include <coldmint/host.h>
#include <stdlib.h>
#include <string.h>

static void read_region(const struct cm_host *host, struct cm_image_file *file, const char *region)
{
    struct cm_image_part part;
    uint32_t start, count, sum = 0;
    cm_image_file_part_by_name(host, file, region, &part);
    for (uint64_t at = 0;
         at <= UINT32_MAX && part.source.extent(part.source.context, (uint32_t)at, &start, &count);
         at = (uint64_t)start + count)
        sum += count;
    if (sum != part.bytes) // which may be more than the file has: segments may share its bytes
        abort();
}

int LLVMFuzzerTestOneInput(const uint8_t *data, size_t size);

int LLVMFuzzerTestOneInput(const uint8_t *data, size_t size)
{
    static struct cm_host host;
    static const char *const REGIONS[] = {"flash", "eeprom", "fuses", "signature"};
    struct cm_image_file file = {.path = "fuzzed"};
    char *copy = malloc(size + 1); // an allocation of its own, so that a byte too many shows
    if (copy && size) {
        cm_host_begin(&host, NULL);
        memcpy(copy, data, size);
        bool is_read = cm_format_elf.read(&host, &file, copy, size);
        file.format = &cm_format_elf;
        for (size_t i = 0; is_read && i < sizeof REGIONS / sizeof REGIONS[0]; i++)
            read_region(&host, &file, REGIONS[i]);
        cm_image_file_free(&file);
        cm_host_end(&host);
    }
    free(copy);
    return 0;
}
