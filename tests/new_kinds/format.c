/*
 * "tally": text of a first line and one line for each run of bytes.
 *
 *     tally
 *     0040 DE AD BE EF
 */
#include "kinds.h"
#include <stdlib.h>
#include <string.h>

static const char HEAD[] = "tally\n";

static bool is_one(const char *head, size_t bytes)
{
    return bytes >= sizeof HEAD - 1 && memcmp(head, HEAD, sizeof HEAD - 1) == 0;
}

/* One line: an address, and bytes. The text ends with '\0'. */
static bool read_line(struct cm_image *image, char **text)
{
    uint32_t address = (uint32_t)strtoul(*text, text, 16);
    while (**text == ' ') {
        uint8_t byte = (uint8_t)strtoul(*text, text, 16);
        if (cm_image_add(image, address++, &byte, 1, 0) != CM_OK)
            return false;
    }
    bool is_end = **text == '\n';
    *text += is_end;
    return is_end;
}

static bool read_tally(struct cm_host *host, struct cm_image_file *file, char *contents,
                       size_t bytes)
{
    char *text = contents + sizeof HEAD - 1, *end = contents + bytes - 1;
    bool good = *end == '\n';
    file->memory = malloc(CM_IMAGE_MEMORY(64));
    cm_image_init(&file->image, file->memory, CM_IMAGE_MEMORY(64));
    *end = good ? '\0' : *end;
    while (good && *text)
        good = read_line(&file->image, &text) || !*text;
    file->source = cm_image_source(&file->image);
    if (!good)
        host->error = (struct cm_error){.kind = CM_ERROR_FILE_BROKE_OFF};
    return good;
}

static enum cm_status write_tally(struct cm_image_writer *writer, uint32_t address,
                                  const uint8_t *bytes, uint32_t count)
{
    fprintf(writer->stream, "%s%04X", writer->has_begun ? "" : HEAD, (unsigned)address);
    for (uint32_t i = 0; i < count; i++)
        fprintf(writer->stream, " %02X", bytes[i]);
    return fprintf(writer->stream, "\n") > 0 ? CM_OK : CM_BAD_IMAGE;
}

static enum cm_status end_tally(struct cm_image_writer *writer)
{
    (void)writer;
    return CM_OK;
}

const struct cm_file_format format_tally = {.name = "tally",
                                            .title = "a tally",
                                            .extensions = {".tally"},
                                            .is_one = is_one,
                                            .read = read_tally,
                                            .write = write_tally,
                                            .write_end = end_tally};
