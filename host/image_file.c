/*
 * Image files: which format, and what a file holds for a region.
 *
 * The content decides. Where that tells nothing, the name's extension does; a file of no format
 * that is not text either is raw bytes.
 */
#include "inside.h"
#include <coldmint/host/image_file.h>
#include <errno.h>
#include <openssl/evp.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

enum { MOST_FILE_BYTES = 256 << 20, HEAD_BYTES = 4096 };

/* --- whole files ------------------------------------------------------------------------- */

/* All of a stream of about so many bytes; NULL with errno set. */
static char *read_all(FILE *stream, size_t room, size_t *got)
{
    char *contents = NULL;
    *got = 0;
    while (room <= MOST_FILE_BYTES) {
        char *grown = realloc(contents, room);
        if (!grown)
            break;
        contents = grown;
        *got += fread(contents + *got, 1, room - *got, stream);
        if (*got < room && !ferror(stream))
            return contents;
        if (*got < room)
            break;
        room *= 2;
    }
    int error = room > MOST_FILE_BYTES ? EFBIG : errno;
    free(contents);
    errno = error;
    return NULL;
}

bool cm_file_read_whole(struct cm_host *host, const char *path, char **contents, size_t *bytes)
{
    struct stat facts;
    int descriptor = cm_file_open(host, path);
    FILE *file = descriptor >= 0 ? fdopen(descriptor, "rb") : NULL;
    *contents = NULL;
    if (!file || fstat(fileno(file), &facts) != 0) {
        int error = errno;
        if (file)
            fclose(file);
        return host_fail_opening(host, path, error);
    }
    *contents = read_all(file, facts.st_size > 0 ? (size_t)facts.st_size + 1 : 65536, bytes);
    int error = errno;
    fclose(file);
    if (!*contents)
        return host_fail_opening(host, path, error);
    if (*bytes > 0)
        return true;
    free(*contents);
    *contents = NULL;
    return host_fail(host, CM_ERROR_FILE_EMPTY, path);
}

/* --- formats ----------------------------------------------------------------------------- */

static bool is_text(const char *contents, size_t bytes)
{
    for (size_t i = 0; i < bytes; i++) {
        unsigned char c = (unsigned char)contents[i];
        if (c >= 0x7F || (c < ' ' && c != '\n' && c != '\r' && c != '\t'))
            return false;
    }
    return true;
}

/* The format of a file that begins so; NULL: it is text of none. */
static const struct cm_file_format *format_of(const struct cm_host *host, const char *path,
                                              const char *head, size_t bytes)
{
    for (const struct cm_file_format *const *format = host->formats; *format; format++) {
        if ((*format)->is_one && (*format)->is_one(head, bytes))
            return *format;
    }
    const struct cm_file_format *named = cm_format_by_extension(host, path);
    return named ? named : is_text(head, bytes) ? NULL : &cm_format_raw;
}

/* Opens it and looks at its beginning. */
static bool sniff(struct cm_host *host, struct cm_image_file *file)
{
    char head[HEAD_BYTES];
    file->reader = cm_file_reader_open(host, file->path);
    if (!file->reader)
        return host_fail_opening(host, file->path, errno);
    uint32_t bytes = cm_file_reader_bytes(file->reader),
             count = bytes < sizeof head ? bytes : (uint32_t)sizeof head;
    if (bytes == 0)
        return host_fail(host, CM_ERROR_FILE_EMPTY, file->path);
    if (cm_file_reader_read(file->reader, 0, (uint8_t *)head, count) != CM_OK)
        return host_fail(host, CM_ERROR_FILE_BROKE_OFF, file->path);
    file->format = format_of(host, file->path, head, count);
    return file->format || host_fail(host, CM_ERROR_FILE_TEXT, file->path);
}

static bool parse(struct cm_host *host, struct cm_image_file *file)
{
    char *contents;
    size_t bytes;
    cm_file_reader_close(file->reader);
    file->reader = NULL;
    bool good = cm_file_read_whole(host, file->path, &contents, &bytes);
    if (good && EVP_Digest(contents, bytes, file->digest, NULL, EVP_sha256(), NULL) != 1)
        good = host_fail(host, CM_ERROR_NO_MEMORY, file->path);
    good = good && file->format->read(host, file, contents, bytes);
    free(contents);
    return good;
}

bool cm_image_file_load(struct cm_host *host, const char *path, struct cm_image_file *file)
{
    memset(file, 0, sizeof *file);
    file->path = path;
    if (!sniff(host, file))
        return false;
    if (file->format->read)
        return parse(host, file);
    file->source = cm_file_reader_source(file->reader);
    return true;
}

void cm_image_file_free(struct cm_image_file *file)
{
    free(file->memory);
    cm_file_reader_close(file->reader);
    file->memory = NULL;
    file->reader = NULL;
}

static bool add_to_digest(EVP_MD_CTX *sum, struct cm_file_reader *reader)
{
    uint8_t piece[HEAD_BYTES];
    uint32_t bytes = cm_file_reader_bytes(reader), count;
    for (uint32_t at = 0; at < bytes; at += count) {
        count = bytes - at < sizeof piece ? bytes - at : (uint32_t)sizeof piece;
        if (cm_file_reader_read(reader, at, piece, count) != CM_OK ||
            EVP_DigestUpdate(sum, piece, count) != 1)
            return false;
    }
    return true;
}

bool cm_image_file_digest(const struct cm_image_file *file, uint8_t *digest)
{
    memcpy(digest, file->digest, CM_DIGEST_BYTES);
    if (!file->reader)
        return file->format != NULL;
    EVP_MD_CTX *sum = EVP_MD_CTX_new();
    bool good = sum && EVP_DigestInit_ex(sum, EVP_sha256(), NULL) == 1 &&
                add_to_digest(sum, file->reader) && EVP_DigestFinal_ex(sum, digest, NULL) == 1;
    EVP_MD_CTX_free(sum);
    return good;
}

/* --- parts of a file --------------------------------------------------------------------- */

bool cm_source_bounds(const struct cm_source *source, uint32_t *first, uint32_t *last,
                      uint64_t *bytes)
{
    uint32_t start, count;
    *bytes = 0;
    for (uint64_t at = 0;
         at <= UINT32_MAX && source->extent(source->context, (uint32_t)at, &start, &count) && count;
         at = (uint64_t)start + count) {
        if (*bytes == 0)
            *first = start;
        *last = start + (count - 1);
        *bytes += count;
    }
    return *bytes > 0;
}

static bool no_extent(void *context, uint32_t from, uint32_t *start, uint32_t *bytes)
{
    (void)context;
    *start = from;
    *bytes = 0;
    return false;
}

static enum cm_status no_bytes(void *context, uint32_t address, uint8_t *bytes, uint32_t count)
{
    (void)context;
    (void)address;
    (void)bytes;
    (void)count;
    return CM_BAD_IMAGE;
}

static void measure(struct cm_image_part *part)
{
    uint64_t bytes;
    (void)cm_source_bounds(&part->source, &part->first, &part->last, &bytes);
    part->bytes = (uint32_t)bytes;
}

/* A file of records may count from the region's base, as linkers do, or from 0; an ELF file does
 * the first. */
static void take_region(const struct cm_image_file *file, const struct cm_family *family,
                        const struct cm_part *chip, uint8_t region, struct cm_image_part *part)
{
    memset(part, 0, sizeof *part);
    if (file->format->read)
        part->source = cm_place(&part->placed, file->source, family, chip, region);
    else
        part->source = file->source;
    part->is_placed = part->source.context == &part->placed;
    if (file->format->always_placed && !part->is_placed)
        part->source = (struct cm_source){NULL, no_extent, no_bytes};
    measure(part);
}

/* A file that carries an id is for that chip and no other. */
static bool check_id(struct cm_host *host, const struct cm_image_file *file,
                     const struct cm_session *session)
{
    if (!file->id_bytes || memcmp(file->id, session->id, file->id_bytes) == 0)
        return true;
    struct cm_error *error = host_error(host, CM_ERROR_FILE_OTHER_CHIP, file->path);
    memcpy(error->id_found, file->id, file->id_bytes);
    memcpy(error->id_expected, session->id, file->id_bytes);
    error->id_bytes = file->id_bytes;
    return false;
}

bool cm_image_file_part(struct cm_host *host, struct cm_image_file *file,
                        const struct cm_session *session, uint8_t region,
                        struct cm_image_part *part)
{
    memset(part, 0, sizeof *part);
    if (file->machine && session->kit->about->elf_machine != file->machine)
        return host_fail(host, CM_ERROR_FILE_PROCESSOR, file->path);
    if (!check_id(host, file, session))
        return false;
    take_region(file, session->family, session->part, region, part);
    return true;
}

/* The family whose processor a file is for; NULL: none, or it does not say. */
static const struct cm_kit *kit_for(const struct cm_host *host, const struct cm_image_file *file)
{
    for (uint8_t k = 0; file->machine && k < host->kit_count; k++) {
        if (host->kits[k].about->elf_machine == file->machine)
            return &host->kits[k];
    }
    return NULL;
}

/* A part of the family that has this region, and as many others as any: between the bases of two
 * lies what is the first one's. */
static const struct cm_part *part_with(const struct cm_kit *kit, const char *name, uint8_t *index)
{
    struct cm_region region, data;
    const struct cm_part *found = NULL;
    for (uint16_t p = 0; p < kit->part_count; p++) {
        const struct cm_part *part = kit->parts[p];
        bool has_data = kit->family->region(part, CM_REGION_DATA, &data) && data.bytes;
        for (uint8_t i = 0; (has_data || !found) && kit->family->region(part, i, &region); i++) {
            if (!region.bytes || strcmp(region.name, name) != 0)
                continue;
            *index = i;
            found = part;
            if (has_data)
                return part;
        }
    }
    return found;
}

void cm_image_file_part_by_name(const struct cm_host *host, struct cm_image_file *file,
                                const char *region, struct cm_image_part *part)
{
    const struct cm_kit *kit = kit_for(host, file);
    uint8_t index = 0;
    const struct cm_part *chip = kit ? part_with(kit, region, &index) : NULL;
    memset(part, 0, sizeof *part);
    if (chip) {
        take_region(file, kit->family, chip, index, part);
        return;
    }
    part->source = kit ? (struct cm_source){NULL, no_extent, no_bytes} : file->source;
    measure(part);
}

bool cm_image_file_has_more(const struct cm_image_file *file, const struct cm_image_part *part)
{
    return part->is_placed && file->image.byte_count > part->bytes;
}
