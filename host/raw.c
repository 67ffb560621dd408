/*
 * Raw bytes: what is at offset n of the file is for address n. They are read where they lie, so
 * that a file of any size takes the same memory. Gaps are filled with FF when they are written.
 */
#include <coldmint/host/image_file.h>
#include <stdint.h>
#include <string.h>

static enum cm_status fill(FILE *stream, uint32_t count)
{
    uint8_t blank[4096];
    memset(blank, 0xFF, sizeof blank);
    for (size_t part; count; count -= (uint32_t)part) {
        part = count < sizeof blank ? count : sizeof blank;
        if (fwrite(blank, 1, part, stream) != part)
            return CM_BAD_IMAGE;
    }
    return CM_OK;
}

static enum cm_status write_raw(struct cm_image_writer *writer, uint32_t address,
                                const uint8_t *bytes, uint32_t count)
{
    enum cm_status status = writer->has_begun ? fill(writer->stream, address - writer->at) : CM_OK;
    if (!status && fwrite(bytes, 1, count, writer->stream) != count)
        status = CM_BAD_IMAGE;
    return status;
}

static enum cm_status end_raw(struct cm_image_writer *writer)
{
    (void)writer;
    return CM_OK;
}

const struct cm_file_format cm_format_raw = {.name = "raw",
                                             .title = "raw bytes",
                                             .extensions = {".bin", ".raw", ".rom", ".img"},
                                             .write = write_raw,
                                             .write_end = end_raw};
