/*
 * Finding a format, and writing in any of them.
 */
#include "inside.h"
#include <coldmint/host/image_file.h>
#include <string.h>
#include <strings.h>

const struct cm_file_format *cm_format_by_name(const struct cm_host *host, const char *name)
{
    for (const struct cm_file_format *const *format = host->formats; *format; format++) {
        if (strcmp((*format)->name, name) == 0)
            return *format;
    }
    return NULL;
}

/* The extension of a path, from its dot on; NULL where the file's name has none. */
static const char *extension_of(const char *path)
{
    const char *slash = strrchr(path, '/');
    return strrchr(slash ? slash : path, '.');
}

static bool has_extension(const struct cm_file_format *format, const char *extension)
{
    for (int i = 0; i < CM_FORMAT_EXTENSIONS && format->extensions[i]; i++) {
        if (strcasecmp(format->extensions[i], extension) == 0)
            return true;
    }
    return false;
}

const struct cm_file_format *cm_format_by_extension(const struct cm_host *host, const char *path)
{
    const char *extension = extension_of(path);
    for (const struct cm_file_format *const *format = host->formats; extension && *format;
         format++) {
        if (has_extension(*format, extension))
            return *format;
    }
    return NULL;
}

void cm_name_with_extension(char *path, size_t bytes, const char *asked, const char *extension)
{
    snprintf(path, bytes, "%s%s", asked, extension_of(asked) ? "" : extension);
}

/* --- to write ---------------------------------------------------------------------------- */

void cm_image_write_begin(struct cm_image_writer *writer, const struct cm_file_format *format,
                          FILE *stream)
{
    *writer = (struct cm_image_writer){.format = format, .stream = stream};
}

enum cm_status cm_image_write(struct cm_image_writer *writer, uint32_t address,
                              const uint8_t *bytes, uint32_t count)
{
    enum cm_status status = writer->format->write(writer, address, bytes, count);
    writer->has_begun = true;
    writer->at = address + count;
    return status;
}

enum cm_status cm_image_write_end(struct cm_image_writer *writer)
{
    return writer->format->write_end(writer);
}
