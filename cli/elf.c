/*
 * Images out of ELF files: what is loaded lies at physical addresses (LMA) that tell the region it
 * is for, as the chip's family has them. Without a chip they are those of the AVR toolchain:
 *
 *     000000  flash, with the initial values of variables behind the code
 *     810000  eeprom        820000  fuses        830000  lock        840000
 *         signature, last byte first
 *
 * Source: System V ABI, ELF-32 program header; the memory map of avr-ld's linker scripts. Reading
 * is libelf's; what it tells of offsets and sizes is checked against the file before use.
 */
#include "tool.h"
#include <gelf.h>
#include <libelf.h>
#include <stdlib.h>
#include <string.h>

struct window {
    const char *name;
    uint32_t first, bytes;
};

static const struct window WINDOWS[] = {
    {"flash", 0x000000, 0x800000}, {"eeprom", 0x810000, 0x10000}, {"fuses", 0x820000, 0x10000},
    {"lock", 0x830000, 0x10000},   {"signature", 0x840000, 3},
};
enum { WINDOW_COUNT = sizeof WINDOWS / sizeof WINDOWS[0], SIGNATURE_BYTES = 3 };

static const struct window ALL = {"flash", 0, UINT32_MAX};

static const struct window *window_by_name(const char *name)
{
    for (int i = 0; i < WINDOW_COUNT; i++) {
        if (strcmp(WINDOWS[i].name, name) == 0)
            return &WINDOWS[i];
    }
    return NULL;
}

/* Loads the part of a segment that lies in a window into an image; its addresses count from the
 * window's beginning. */
static enum cm_status add_segment(struct cm_image *image, const struct window *window,
                                  const GElf_Phdr *segment, const char *contents)
{
    uint64_t first = segment->p_paddr > window->first ? segment->p_paddr : window->first;
    uint64_t segment_end = segment->p_paddr + segment->p_filesz,
             window_end = (uint64_t)window->first + window->bytes;
    uint64_t end = segment_end < window_end ? segment_end : window_end;
    if (first >= end)
        return CM_OK;
    const uint8_t *bytes =
        (const uint8_t *)contents + segment->p_offset + (first - segment->p_paddr);
    return cm_image_add(image, (uint32_t)(first - window->first), bytes, (uint32_t)(end - first),
                        0);
}

/* Everything that is loaded and lies in a window. CM_BAD_IMAGE where the file contradicts itself.
 */
static enum cm_status load_window(Elf *elf, const char *contents, size_t bytes,
                                  const struct window *window, struct cm_image *image)
{
    size_t count;
    if (elf_getphdrnum(elf, &count) != 0 || count == 0)
        return CM_BAD_IMAGE;
    for (size_t i = 0; i < count; i++) {
        GElf_Phdr segment;
        if (!gelf_getphdr(elf, (int)i, &segment))
            return CM_BAD_IMAGE;
        if (segment.p_type != PT_LOAD || segment.p_filesz == 0)
            continue;
        bool inside = segment.p_filesz <= bytes && segment.p_offset <= bytes - segment.p_filesz &&
                      segment.p_paddr <= UINT32_MAX;
        if (!inside || add_segment(image, window, &segment, contents) != CM_OK)
            return CM_BAD_IMAGE;
    }
    return CM_OK;
}

/* A file that carries a signature is for that chip and no other. */
static enum exit_code check_signature(struct tool *tool, Elf *elf, const char *contents,
                                      size_t bytes, const char *path)
{
    _Alignas(8) uint8_t memory[CM_IMAGE_MEMORY(1)];
    uint8_t found[SIGNATURE_BYTES];
    char what[400], evidence[200];
    const uint8_t *id = tool->session.id;
    struct cm_image image;
    cm_image_init(&image, memory, sizeof memory);
    if (!tool->session.part)
        return EXIT_GOOD; // there is no chip to compare it with
    if (load_window(elf, contents, bytes, window_by_name("signature"), &image) != CM_OK ||
        image.byte_count != SIGNATURE_BYTES)
        return EXIT_GOOD;
    cm_image_read(&image, 0, found, sizeof found, 0xFF);
    if (found[2] == id[0] && found[1] == id[1] && found[0] == id[2])
        return EXIT_GOOD;
    snprintf(what, sizeof what, "%.300s is made for another chip", path);
    snprintf(evidence, sizeof evidence,
             "it carries the signature %02X %02X %02X; the chip has %02X %02X %02X", found[2],
             found[1], found[0], id[0], id[1], id[2]);
    return tool_fail_as(tool, EXIT_WRONG_CHIP, what, evidence,
                        "build the firmware for this chip, or connect the other board");
}

static enum exit_code fail_elf(struct tool *tool, const char *path, const char *why)
{
    char what[400];
    snprintf(what, sizeof what, "%.300s: is not an ELF file that can be used", path);
    return tool_fail_as(tool, EXIT_BAD_FILE, what, why,
                        "nothing was changed; build the file again for this chip");
}

static enum exit_code load(struct tool *tool, Elf *elf, struct image_file *file,
                           const char *contents, size_t bytes, const char *region)
{
    GElf_Ehdr header;
    const struct window *window = window_by_name(region);
    if (!elf || elf_kind(elf) != ELF_K_ELF || !gelf_getehdr(elf, &header))
        return fail_elf(tool, file->path, "its header is damaged");
    const struct cm_kit *kit = tool->session.kit;
    bool is_avr = header.e_machine == EM_AVR;
    if (tool->session.part && kit->about->elf_machine != header.e_machine)
        return fail_elf(tool, file->path, "it is for another kind of processor");
    bool is_placed = tool->session.part != NULL; // image_file_load takes from it what it wants
    if (is_placed || (!is_avr && strcmp(region, "flash") == 0))
        window = &ALL; // without a chip: all addresses there are
    file->has_entry = header.e_entry <= UINT32_MAX;
    file->entry = (uint32_t)header.e_entry;
    size_t blocks = bytes / CM_IMAGE_BLOCK + 2 * (size_t)header.e_phnum + 8;
    file->memory = malloc(CM_IMAGE_MEMORY(blocks));
    if (!file->memory || !window)
        return fail_elf(tool, file->path, "there is not enough memory for it");
    cm_image_init(&file->image, file->memory, CM_IMAGE_MEMORY(blocks));
    if (load_window(elf, contents, bytes, window, &file->image) != CM_OK)
        return fail_elf(tool, file->path,
                        "its program headers point outside the file, or at the same bytes twice");
    return check_signature(tool, elf, contents, bytes, file->path);
}

enum exit_code elf_load(struct tool *tool, struct image_file *file, char *contents, size_t bytes,
                        const char *region)
{
    elf_version(EV_CURRENT);
    Elf *elf = elf_memory(contents, bytes);
    enum exit_code code = load(tool, elf, file, contents, bytes, region);
    elf_end(elf);
    if (code)
        return code;
    file->format = "ELF";
    file->source = cm_image_source(&file->image);
    file->bytes = file->image.byte_count;
    cm_image_bounds(&file->image, &file->first, &file->last);
    return EXIT_GOOD;
}
