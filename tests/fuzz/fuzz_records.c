/*
 * Fuzz target for the reader of records, Intel HEX and S-record: any bytes, in pieces of any size,
 * into an image that is small. What was read is written and read again, and must be the same.
 */
#include <coldmint/coldmint.h>
#include <stdlib.h>
#include <string.h>

enum { BLOCKS = 64, TEXT = 65536 };

struct text {
    char bytes[TEXT];
    size_t count;
};

static enum cm_status append(void *context, const char *bytes, size_t count)
{
    struct text *text = context;
    if (text->count + count > TEXT)
        return CM_NO_ROOM;
    memcpy(text->bytes + text->count, bytes, count);
    text->count += count;
    return CM_OK;
}

static enum cm_status read_all(const char *text, size_t bytes, size_t piece, struct cm_image *image,
                               void *memory)
{
    struct cm_record_reader reader;
    cm_image_init(image, memory, CM_IMAGE_MEMORY(BLOCKS));
    cm_record_begin(&reader, cm_record_into_image, image);
    for (size_t at = 0; at < bytes; at += piece)
        cm_ignore(cm_record_feed(&reader, text + at,
                                 bytes - at < piece ? bytes - at : piece)); // the first fault stays
    return cm_record_end(&reader);
}

static void check_round_trip(const struct cm_image *image, enum cm_record_format format,
                             void *memory)
{
    static struct text text;
    struct cm_record_writer writer;
    struct cm_image again;
    uint32_t start, count;
    text.count = 0;
    cm_record_write_begin(&writer, format, append, &text);
    for (uint32_t at = 0; cm_image_extent(image, at, &start, &count); at = start + count) {
        uint8_t bytes[BLOCKS * CM_IMAGE_BLOCK];
        cm_image_read(image, start, bytes, count, 0);
        if (cm_record_write(&writer, start, bytes, count))
            abort();
        if (start + count == 0)
            break; // the image's last byte is the address space's last
    }
    if (cm_record_write_end(&writer) || read_all(text.bytes, text.count, 77, &again, memory) ||
        again.byte_count != image->byte_count)
        abort();
}

int LLVMFuzzerTestOneInput(const uint8_t *data, size_t size);

int LLVMFuzzerTestOneInput(const uint8_t *data, size_t size)
{
    static _Alignas(8) uint8_t memory[CM_IMAGE_MEMORY(BLOCKS)], other[CM_IMAGE_MEMORY(BLOCKS)];
    struct cm_image image;
    if (size < 1)
        return 0;
    if (read_all((const char *)data + 1, size - 1, (size_t)data[0] + 1, &image, memory) == CM_OK) {
        check_round_trip(&image, CM_RECORDS_INTEL, other);
        check_round_trip(&image, CM_RECORDS_MOTOROLA, other);
    }
    return 0;
}
