/*
 * Intel HEX and S-records as formats of files: the core reads and writes records, and an image
 * holds what they say.
 */
#include "inside.h"
#include <coldmint/host/image_file.h>
#include <stdlib.h>
#include <string.h>

/* The first character of a file that tells anything; '\0': none does. */
static const char *first_mark(const char *head, size_t bytes)
{
    size_t i = 0;
    while (i < bytes && strchr(" \t\r\n", head[i]) && head[i])
        i++;
    return i < bytes ? head + i : NULL;
}

static bool is_hex(const char *head, size_t bytes)
{
    const char *mark = first_mark(head, bytes);
    return mark && *mark == ':';
}

static bool is_srec(const char *head, size_t bytes)
{
    const char *mark = first_mark(head, bytes);
    return mark && mark + 1 < head + bytes && (*mark == 'S' || *mark == 's') && mark[1] >= '0' &&
           mark[1] <= '9';
}

/* Reads the text into an image of so many blocks. CM_NO_ROOM asks for more. */
static enum cm_status try_records(struct cm_image_file *file, const char *text, size_t bytes,
                                  size_t blocks, struct cm_record_reader *reader)
{
    free(file->memory);
    file->memory = malloc(CM_IMAGE_MEMORY(blocks));
    if (!file->memory)
        return CM_BAD_IMAGE;
    cm_image_init(&file->image, file->memory, CM_IMAGE_MEMORY(blocks));
    cm_record_begin(reader, cm_record_into_image, &file->image);
    cm_ignore(cm_record_feed(reader, text, bytes)); // the first fault stays, and ends it
    if (cm_record_end(reader) == CM_OK)
        return CM_OK;
    return reader->fault == CM_RECORD_SINK ? reader->sink_status : CM_BAD_IMAGE;
}

static bool fail_records(struct cm_host *host, const struct cm_image_file *file,
                         const struct cm_record_reader *reader)
{
    struct cm_error *error = host_error(host, CM_ERROR_FILE_RECORDS, file->path);
    error->line = reader->line;
    error->column = reader->column;
    error->record = reader->fault;
    error->found = reader->found;
    error->expected = reader->expected;
    error->status = reader->sink_status;
    error->address = file->image.clash_address;
    error->other_line = file->image.clash_line;
    return false;
}

static bool read_records(struct cm_host *host, struct cm_image_file *file, char *text, size_t bytes)
{
    struct cm_record_reader reader;
    size_t blocks = bytes / CM_IMAGE_BLOCK / 2 + 64;
    enum cm_status status;
    while ((status = try_records(file, text, bytes, blocks, &reader)) == CM_NO_ROOM)
        blocks *= 2;
    if (!file->memory)
        return host_fail(host, CM_ERROR_NO_MEMORY, file->path);
    if (status)
        return fail_records(host, file, &reader);
    if (file->image.byte_count == 0)
        return host_fail(host, CM_ERROR_FILE_NO_DATA, file->path);
    // what it is decides, and not what it is called
    file->format = reader.format == CM_RECORDS_MOTOROLA ? &cm_format_srec : &cm_format_hex;
    file->source = cm_image_source(&file->image);
    file->has_entry = reader.has_start;
    file->entry = reader.start;
    return true;
}

/* --- to write ---------------------------------------------------------------------------- */

static void begin(struct cm_image_writer *writer)
{
    if (!writer->has_begun)
        cm_record_write_begin(&writer->records,
                              writer->format == &cm_format_srec ? CM_RECORDS_MOTOROLA
                                                                : CM_RECORDS_INTEL,
                              cm_new_file_text, writer->stream);
    writer->has_begun = true;
}

static enum cm_status write_records(struct cm_image_writer *writer, uint32_t address,
                                    const uint8_t *bytes, uint32_t count)
{
    begin(writer);
    return cm_record_write(&writer->records, address, bytes, count);
}

static enum cm_status end_records(struct cm_image_writer *writer)
{
    begin(writer);
    return cm_record_write_end(&writer->records);
}

const struct cm_file_format cm_format_hex = {.name = "hex",
                                             .title = "Intel HEX",
                                             .extensions = {".hex", ".ihx", ".ihex", ".eep"},
                                             .is_one = is_hex,
                                             .read = read_records,
                                             .write = write_records,
                                             .write_end = end_records};

const struct cm_file_format cm_format_srec = {
    .name = "srec",
    .title = "S-records",
    .extensions = {".srec", ".s19", ".s28", ".s37", ".mot"},
    .is_one = is_srec,
    .read = read_records,
    .write = write_records,
    .write_end = end_records};
