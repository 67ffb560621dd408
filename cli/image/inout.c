/*
 * Files into the acts of the verb image, and out of them; amounts as people write them.
 */
#include "image.h"
#include <ctype.h>
#include <errno.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>

/* --- amounts ----------------------------------------------------------------------------- */

static const char *read_number(const char *text, uint32_t *value)
{
    char *end;
    errno = 0;
    unsigned long long number = strtoull(text, &end, 0);
    if (end == text || *text == '-' || errno)
        return NULL;
    unsigned shift = toupper((unsigned char)*end) == 'K'   ? 10
                     : toupper((unsigned char)*end) == 'M' ? 20
                                                           : 0;
    *value = (uint32_t)(number << shift);
    return number > UINT32_MAX >> shift ? NULL : end + (shift ? 1 : 0);
}

bool parse_number(const char *text, uint32_t *value)
{
    const char *end = read_number(text, value);
    return end && *end == '\0';
}

bool parse_range(const char *text, uint32_t *first, uint32_t *last)
{
    const char *end = read_number(text, first);
    uint32_t size;
    *last = UINT32_MAX;
    if (end && *end == '\0')
        return true;
    if (end && *end == '+') {
        bool good = parse_number(end + 1, &size) && size > 0 && size - 1 <= UINT32_MAX - *first;
        *last = good ? *first + (size - 1) : 0;
        return good;
    }
    if (!end || strncmp(end, "..", 2) != 0)
        return false;
    return end[2] == '\0' || (parse_number(end + 2, last) && *first <= *last);
}

/* --- in ---------------------------------------------------------------------------------- */

static enum exit_code load_capsule(struct tool *tool, const char *path, struct input *input)
{
    char known[300] = "";
    const char *wanted = tool->region;
    input->capsule = calloc(1, sizeof *input->capsule);
    if (!input->capsule)
        return tool_fail_as(tool, EXIT_BAD_FILE, "there is not enough memory", path,
                            "close other programs");
    enum exit_code code = capsule_load(tool, path, input->capsule);
    for (uint8_t i = 0; !code && i < input->capsule->capsule.region_count; i++) {
        const struct cm_capsule_region *region = &input->capsule->capsule.regions[i];
        snprintf(known + strlen(known), sizeof known - strlen(known), "%s%s", i ? ", " : "",
                 region->name);
        if (wanted ? strcmp(region->name, wanted) != 0 : i != 0)
            continue;
        input->source = cm_capsule_source(&input->capsule->capsule, i, &input->capsule->places[i]);
        input->format = "region of a capsule";
        return EXIT_GOOD;
    }
    return code ? code
                : tool_fail_as(tool, EXIT_USAGE, "the capsule has no such region", known,
                               "--region takes one of these");
}

enum exit_code input_load(struct tool *tool, const char *path, struct input *input)
{
    enum exit_code code;
    uint64_t bytes;
    memset(input, 0, sizeof *input);
    input->path = path;
    if (capsule_is_one(path)) {
        code = load_capsule(tool, path, input);
    } else {
        code = image_file_load(tool, path, tool->region ? tool->region : "flash", &input->file);
        input->source = input->file.source;
        input->format = input->file.format;
        input->has_entry = input->file.has_entry;
        input->entry = input->file.entry;
    }
    if (code)
        return code;
    if (!source_bounds(&input->source, &input->first, &input->last, &bytes))
        return tool_fail_as(tool, EXIT_BAD_FILE, "the file holds nothing here", path,
                            "name another region with --region");
    input->bytes = (uint32_t)bytes;
    return EXIT_GOOD;
}

void input_free(struct input *input)
{
    image_file_free(&input->file);
    if (input->capsule)
        capsule_free(input->capsule);
    free(input->capsule);
    input->capsule = NULL;
}

/* --- out --------------------------------------------------------------------------------- */

struct output {
    struct new_file file;
    struct cm_record_writer writer;
    const struct file_format *format;
    uint8_t chunk[CHUNK_BYTES];
};

static bool is_input(const char *path, const struct input *inputs, unsigned count)
{
    struct stat a, b;
    for (unsigned i = 0; i < count; i++) {
        if (stat(path, &a) == 0 && stat(inputs[i].path, &b) == 0 && a.st_dev == b.st_dev &&
            a.st_ino == b.st_ino)
            return true;
    }
    return false;
}

/* Raw bytes have no gaps: they are filled. */
static enum cm_status write_gap(struct output *output, uint64_t count)
{
    memset(output->chunk, 0xFF, sizeof output->chunk);
    for (size_t part; count; count -= part) {
        part = count < sizeof output->chunk ? (size_t)count : sizeof output->chunk;
        if (fwrite(output->chunk, 1, part, output->file.stream) != part)
            return CM_BAD_IMAGE;
    }
    return CM_OK;
}

static enum cm_status write_run(struct output *output, const struct cm_source *source,
                                uint32_t start, uint32_t count)
{
    bool raw = output->format->records == CM_RECORDS_UNKNOWN;
    enum cm_status status = CM_OK;
    for (uint32_t at = 0, part; at < count && !status; at += part) {
        part = count - at < sizeof output->chunk ? count - at : (uint32_t)sizeof output->chunk;
        status = source->read(source->context, start + at, output->chunk, part);
        if (!status && raw)
            status =
                fwrite(output->chunk, 1, part, output->file.stream) == part ? CM_OK : CM_BAD_IMAGE;
        else if (!status)
            status = cm_record_write(&output->writer, start + at, output->chunk, part);
    }
    return status;
}

static enum cm_status write_all(struct output *output, const struct cm_source *source,
                                uint32_t first)
{
    bool raw = output->format->records == CM_RECORDS_UNKNOWN;
    enum cm_status status = CM_OK;
    uint32_t start, count;
    uint64_t at = first;
    cm_record_write_begin(&output->writer, output->format->records, new_file_text,
                          output->file.stream);
    while (!status && at <= UINT32_MAX &&
           source->extent(source->context, (uint32_t)at, &start, &count) && count) {
        if (raw && start > at)
            status = write_gap(output, start - at);
        if (!status)
            status = write_run(output, source, start, count);
        at = (uint64_t)start + count;
    }
    return status || raw ? status : cm_record_write_end(&output->writer);
}

/* What the new file will hold. */
struct extent {
    uint32_t first, last;
    uint64_t bytes;
};

/* Raw bytes have no gaps: two runs far from one another would fill a disk. */
static enum exit_code check_extent(struct tool *tool, const struct cm_source *source, bool raw,
                                   struct extent *extent)
{
    enum { MOST_RAW = 1 << 30 };
    char evidence[60];
    if (!source_bounds(source, &extent->first, &extent->last, &extent->bytes))
        return tool_fail_as(tool, EXIT_USAGE, "there would be nothing in the new file", "",
                            "look at the range");
    snprintf(evidence, sizeof evidence, "0x%X to 0x%X", (unsigned)extent->first,
             (unsigned)extent->last);
    if (raw && extent->last - extent->first >= MOST_RAW)
        return tool_fail_as(tool, EXIT_USAGE,
                            "as raw bytes this would be more than 1 GiB, most of it gaps", evidence,
                            "choose .hex or .srec, or cut it first");
    return EXIT_GOOD;
}

static enum exit_code write_file(struct tool *tool, struct output *output,
                                 const struct cm_source *source, uint32_t first, const char *path)
{
    enum exit_code code = new_file_open(tool, path, &output->file);
    if (code)
        return code;
    if (write_all(output, source, first) == CM_OK)
        return new_file_commit(tool, &output->file);
    new_file_drop(&output->file);
    return tool_fail_as(tool, EXIT_BAD_FILE, "the new file cannot be written", path,
                        "make room on the disk; check that the inputs are still there");
}

static void tell_output(struct tool *tool, const struct file_format *format, const char *path,
                        const struct extent *extent)
{
    bool raw = format->records == CM_RECORDS_UNKNOWN,
         gaps = extent->bytes != (uint64_t)extent->last - extent->first + 1;
    say(tool, "file", "%s, %s: %llu bytes, 0x%04X to 0x%04X%s", path, format->name,
        (unsigned long long)extent->bytes, (unsigned)extent->first, (unsigned)extent->last,
        raw && gaps            ? "; gaps are FF"
        : raw && extent->first ? "; the file begins with the first of them"
                               : "");
    set_json(tool, "file", json_text(path));
    set_json(tool, "output",
             json_pack("{s:s, s:I, s:I, s:I}", "format", format->name, "bytes",
                       (json_int_t)extent->bytes, "first", (json_int_t)extent->first, "last",
                       (json_int_t)extent->last));
}

enum exit_code write_output(struct tool *tool, struct cm_source source, const char *asked,
                            const struct input *inputs, unsigned count)
{
    char path[4096];
    struct extent extent;
    if (!asked)
        return tool_fail_as(tool, EXIT_USAGE, "what shall the new file be called?", "-o is missing",
                            "-o NAME; its extension says the format: .hex, .srec, .bin");
    const struct file_format *format =
        tool->format ? format_by_name(tool->format) : format_by_extension(asked);
    if (tool->format && !format)
        return tool_fail_as(tool, EXIT_USAGE, "no such format", tool->format,
                            "--format hex, srec or raw");
    bool unnamed = !format; // "melody-2.0" has a dot, and no extension that says anything
    if (unnamed)
        format = format_by_name(count && inputs[0].file.reader ? "raw"
                                                               : "hex"); // that of the first input
    if (unnamed)
        snprintf(path, sizeof path, "%s%s", asked, format->extensions[0]);
    else
        name_with_extension(path, sizeof path, asked, format->extensions[0]);
    bool own = tool->replace && is_input(path, inputs, count);
    struct output *output = calloc(1, sizeof *output);
    enum exit_code code =
        output ? check_extent(tool, &source, format->records == CM_RECORDS_UNKNOWN, &extent)
               : tool_fail_as(tool, EXIT_BAD_FILE, "there is not enough memory", "",
                              "close other programs");
    if (!code) {
        output->format = format;
        code = write_file(tool, output, &source, extent.first, path);
    }
    free(output);
    if (code)
        return code;
    if (own)
        say(tool, "note", "%s was one of the inputs, and is replaced", path);
    tell_output(tool, format, path, &extent);
    return EXIT_GOOD;
}
