/*
 * ELF files: what is loaded lies at physical addresses (LMA), which a chip's family maps onto its
 * regions (coldmint/place.h). Of the AVR toolchain:
 *
 *     000000  flash, with the initial values of variables behind the code
 *     810000  eeprom        820000  fuses        830000  lock
 *     840000  the signature of the chip that it is for, last byte first
 *
 * Source: System V ABI, ELF-32 program header. Reading is libelf's; what it tells of offsets and
 * sizes is checked against the file before use.
 */
#include "job_inside.h"
#include <coldmint/host/image_file.h>
#include <gelf.h>
#include <libelf.h>
#include <stdlib.h>
#include <string.h>

static bool is_elf(const char *head, size_t bytes)
{
    return bytes >= SELFMAG && memcmp(head, ELFMAG, SELFMAG) == 0;
}

static bool is_inside(const GElf_Phdr *segment, size_t bytes)
{
    return segment->p_filesz <= bytes && segment->p_offset <= bytes - segment->p_filesz &&
           segment->p_paddr <= UINT32_MAX && segment->p_filesz <= UINT32_MAX - segment->p_paddr;
}

/* Everything that is loaded. False where the file contradicts itself. */
static bool load_segments(Elf *elf, const char *contents, size_t bytes, struct cm_image *image)
{
    size_t count;
    if (elf_getphdrnum(elf, &count) != 0 || count == 0)
        return false;
    for (size_t i = 0; i < count; i++) {
        GElf_Phdr segment;
        if (!gelf_getphdr(elf, (int)i, &segment))
            return false;
        if (segment.p_type != PT_LOAD || segment.p_filesz == 0)
            continue;
        if (!is_inside(&segment, bytes) ||
            cm_image_add(image, (uint32_t)segment.p_paddr,
                         (const uint8_t *)contents + segment.p_offset, (uint32_t)segment.p_filesz,
                         0) != CM_OK)
            return false;
    }
    return true;
}

/* The id of the chip that it was made for, where its toolchain leaves one. */
static void take_id(const struct cm_host *host, struct cm_image_file *file)
{
    uint32_t start, count;
    for (uint8_t k = 0; k < host->kit_count; k++) {
        const struct cm_about *about = host->kits[k].about;
        if (!about->elf_id_bytes || about->elf_machine != file->machine ||
            !file->source.extent(file->source.context, about->elf_id_at, &start, &count) ||
            start != about->elf_id_at || count < about->elf_id_bytes)
            continue;
        uint8_t turned[CM_ID_BYTES];
        cm_image_read(&file->image, about->elf_id_at, turned, about->elf_id_bytes, 0xFF);
        file->id_bytes = about->elf_id_bytes;
        for (uint8_t i = 0; i < file->id_bytes; i++)
            file->id[i] = turned[file->id_bytes - 1 - i];
        return;
    }
}

static bool load(struct cm_host *host, Elf *elf, struct cm_image_file *file, const char *contents,
                 size_t bytes)
{
    GElf_Ehdr header;
    if (!elf || elf_kind(elf) != ELF_K_ELF || !gelf_getehdr(elf, &header))
        return host_fail(host, CM_ERROR_FILE_ELF_HEADER, file->path);
    file->machine = header.e_machine;
    file->has_entry = header.e_entry <= UINT32_MAX;
    file->entry = (uint32_t)header.e_entry;
    size_t blocks = bytes / CM_IMAGE_BLOCK + 2 * (size_t)header.e_phnum + 8;
    file->memory = malloc(CM_IMAGE_MEMORY(blocks));
    if (!file->memory)
        return host_fail(host, CM_ERROR_NO_MEMORY, file->path);
    cm_image_init(&file->image, file->memory, CM_IMAGE_MEMORY(blocks));
    if (!load_segments(elf, contents, bytes, &file->image))
        return host_fail(host, CM_ERROR_FILE_ELF_SEGMENTS, file->path);
    file->source = cm_image_source(&file->image);
    take_id(host, file);
    return true;
}

static bool read_elf(struct cm_host *host, struct cm_image_file *file, char *contents, size_t bytes)
{
    elf_version(EV_CURRENT);
    Elf *elf = elf_memory(contents, bytes);
    bool good = load(host, elf, file, contents, bytes);
    elf_end(elf);
    return good;
}

/* In one table of symbols. */
static bool find_in(Elf *elf, Elf_Scn *section, const char *name, uint32_t *address)
{
    GElf_Shdr header;
    GElf_Sym symbol;
    Elf_Data *data = elf_getdata(section, NULL);
    if (!data || !gelf_getshdr(section, &header) || header.sh_entsize == 0)
        return false;
    for (size_t i = 0; i < header.sh_size / header.sh_entsize && i < INT32_MAX; i++) {
        const char *text = gelf_getsym(data, (int)i, &symbol)
                               ? elf_strptr(elf, header.sh_link, symbol.st_name)
                               : NULL;
        if (!text || strcmp(text, name) != 0 || symbol.st_value > UINT32_MAX)
            continue;
        *address = (uint32_t)symbol.st_value;
        return true;
    }
    return false;
}

static bool find_symbol(char *contents, size_t bytes, const char *name, uint32_t *address)
{
    GElf_Shdr header;
    bool found = false;
    elf_version(EV_CURRENT);
    Elf *elf = elf_memory(contents, bytes);
    for (Elf_Scn *section = elf ? elf_nextscn(elf, NULL) : NULL; section && !found;
         section = elf_nextscn(elf, section))
        found = gelf_getshdr(section, &header) && header.sh_type == SHT_SYMTAB &&
                find_in(elf, section, name, address);
    elf_end(elf);
    return found;
}

bool host_elf_symbol(struct cm_host *host, const char *path, const char *name, uint32_t *address)
{
    char *contents;
    size_t bytes;
    if (!cm_file_read_whole(host, path, &contents, &bytes))
        return false;
    bool found = is_elf(contents, bytes) && find_symbol(contents, bytes, name, address);
    free(contents);
    return found;
}

const struct cm_file_format cm_format_elf = {.name = "elf",
                                             .title = "ELF",
                                             .extensions = {".elf", ".axf"},
                                             .is_one = is_elf,
                                             .read = read_elf,
                                             .always_placed = true};
