/*
 * Files into the acts of the verb image, and out of them.
 */
#include "image.h"
#include "numbers.h"
#include "say.h"
#include "words/fail.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>

/* --- in ---------------------------------------------------------------------------------- */

static enum exit_code load_capsule(struct tool *tool, const char *path, struct input *input)
{
    char known[300] = "";
    const char *wanted = image_options.region;
    input->capsule = calloc(1, sizeof *input->capsule);
    if (!input->capsule)
        return tool_fail_memory(tool);
    enum exit_code code = host_code(tool, cm_capsule_file_load(&tool->host, path, input->capsule));
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

static enum exit_code load_image(struct tool *tool, const char *path, struct input *input)
{
    const char *region = image_options.region ? image_options.region : "flash";
    enum exit_code code = host_code(tool, cm_image_file_load(&tool->host, path, &input->file));
    if (code)
        return code;
    cm_image_file_part_by_name(&tool->host, &input->file, region, &input->part);
    input->source = input->part.source;
    input->format = input->file.format->title;
    input->has_entry = input->file.has_entry;
    input->entry = input->file.entry;
    return EXIT_GOOD;
}

enum exit_code input_load(struct tool *tool, const char *path, struct input *input)
{
    uint64_t bytes;
    memset(input, 0, sizeof *input);
    input->path = path;
    enum exit_code code = cm_capsule_is_file(&tool->host, path) ? load_capsule(tool, path, input)
                                                                : load_image(tool, path, input);
    if (code)
        return code;
    if (!cm_source_bounds(&input->source, &input->first, &input->last, &bytes))
        return tool_fail_as(tool, EXIT_BAD_FILE, "the file holds nothing here", path,
                            "name another region with --region");
    input->bytes = (uint32_t)bytes;
    return EXIT_GOOD;
}

void input_free(struct input *input)
{
    cm_image_file_free(&input->file);
    if (input->capsule)
        cm_capsule_file_free(input->capsule);
    free(input->capsule);
    input->capsule = NULL;
}

void input_say(struct tool *tool, const char *label, const struct input *input)
{
    say(tool, label, "%s, %s: %u bytes, 0x%04X to 0x%04X", input->path, input->format,
        (unsigned)input->bytes, (unsigned)input->first, (unsigned)input->last);
}

enum exit_code input_fail(struct tool *tool, const char *path)
{
    return tool_fail_as(tool, tool_interrupted ? EXIT_INTERRUPTED : EXIT_BAD_FILE,
                        "the file cannot be read to its end", path, "run the command again");
}

bool each_chunk(const struct cm_source *source, uint32_t first, uint32_t last, uint8_t *chunk,
                chunk_fn *act, void *context)
{
    uint32_t start, count;
    for (uint64_t at = first;
         at <= last && source->extent(source->context, (uint32_t)at, &start, &count) && count &&
         start <= last;
         at = (uint64_t)start + count) {
        count = count < CHUNK_BYTES ? count : CHUNK_BYTES;
        count = (uint64_t)last - start + 1 < count ? last - start + 1 : count;
        if (source->read(source->context, start, chunk, count) != CM_OK ||
            !act(context, start, chunk, count))
            return false;
    }
    return true;
}

enum exit_code input_range(struct tool *tool, const struct input *input, uint32_t *first,
                           uint32_t *last)
{
    *first = input->first;
    *last = input->last;
    if (image_options.range &&
        (!parse_range(image_options.range, first, last) || *first > input->last))
        return tool_fail_as(tool, EXIT_USAGE, "this is not a range of the file",
                            image_options.range, "--range 0x8000..0x80FF, 32K+256, or 0x8000..");
    *last = *last < input->last ? *last : input->last;
    return EXIT_GOOD;
}

/* --- out --------------------------------------------------------------------------------- */

struct output {
    struct cm_new_file file;
    struct cm_image_writer writer;
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

static enum cm_status write_run(struct output *output, const struct cm_source *source,
                                uint32_t start, uint32_t count)
{
    enum cm_status status = CM_OK;
    for (uint32_t at = 0, part; at < count && !status; at += part) {
        part = count - at < sizeof output->chunk ? count - at : (uint32_t)sizeof output->chunk;
        status = source->read(source->context, start + at, output->chunk, part);
        if (!status)
            status = cm_image_write(&output->writer, start + at, output->chunk, part);
    }
    return status;
}

static enum cm_status write_all(struct output *output, const struct cm_source *source,
                                const struct cm_file_format *format)
{
    enum cm_status status = CM_OK;
    uint32_t start, count;
    cm_image_write_begin(&output->writer, format, output->file.stream);
    for (uint64_t at = 0; !status && at <= UINT32_MAX &&
                          source->extent(source->context, (uint32_t)at, &start, &count) && count;
         at = (uint64_t)start + count)
        status = write_run(output, source, start, count);
    return status ? status : cm_image_write_end(&output->writer);
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
    if (!cm_source_bounds(source, &extent->first, &extent->last, &extent->bytes))
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

static enum exit_code write_file(struct tool *tool, const struct cm_source *source,
                                 const struct cm_file_format *format, const char *path)
{
    struct output *output = calloc(1, sizeof *output);
    if (!output)
        return tool_fail_memory(tool);
    enum exit_code code = host_code(tool, cm_new_file_open(&tool->host, path, &output->file));
    if (!code && write_all(output, source, format) == CM_OK) {
        code = host_code(tool, cm_new_file_commit(&tool->host, &output->file));
    } else if (!code) {
        cm_new_file_drop(&output->file);
        code = tool_fail_as(tool, EXIT_BAD_FILE, "the new file cannot be written", path,
                            "make room on the disk; check that the inputs are still there");
    }
    free(output);
    return code;
}

/* Does the format say nothing of addresses? Then the file begins with the first byte. */
static bool is_raw(const struct cm_file_format *format)
{
    return !format->read;
}

static void tell_output(struct tool *tool, const struct cm_file_format *format, const char *path,
                        const struct extent *extent)
{
    bool gaps = extent->bytes != (uint64_t)extent->last - extent->first + 1;
    const char *more = "";
    if (is_raw(format) && gaps)
        more = "; gaps are FF";
    else if (is_raw(format) && extent->first)
        more = "; the file begins with the first of them";
    say(tool, "file", "%s, %s: %llu bytes, 0x%04X to 0x%04X%s", path, format->name,
        (unsigned long long)extent->bytes, (unsigned)extent->first, (unsigned)extent->last, more);
    set_json(tool, "file", json_text(path));
    set_json(tool, "output",
             json_pack("{s:s, s:I, s:I, s:I}", "format", format->name, "bytes",
                       (json_int_t)extent->bytes, "first", (json_int_t)extent->first, "last",
                       (json_int_t)extent->last));
}

/* The format that is asked for, or of the extension, or of the first input; and the new file's
 * name. NULL: the failure is told. */
static const struct cm_file_format *choose_format(struct tool *tool, const char *asked,
                                                  const struct input *inputs, unsigned count,
                                                  char *path)
{
    const char *named = image_options.format;
    const struct cm_file_format *format =
        named ? cm_format_by_name(&tool->host, named) : cm_format_by_extension(&tool->host, asked);
    if ((named && !format) || (format && !format->write)) {
        tool_fail_as(tool, EXIT_USAGE, "no such format to write", named ? named : asked,
                     "--format hex, srec or raw");
        return NULL;
    }
    if (format) {
        cm_name_with_extension(path, CM_FILE_PATH, asked, format->extensions[0]);
        return format;
    }
    // "melody-2.0" has a dot, and no extension that says anything
    format = count && inputs[0].file.reader ? &cm_format_raw : &cm_format_hex;
    snprintf(path, CM_FILE_PATH, "%s%s", asked, format->extensions[0]);
    return format;
}

enum exit_code write_output(struct tool *tool, struct cm_source source, const char *asked,
                            const struct input *inputs, unsigned count)
{
    char path[CM_FILE_PATH];
    struct extent extent;
    if (!asked)
        return tool_fail_as(tool, EXIT_USAGE, "what shall the new file be called?", "-o is missing",
                            "-o NAME; its extension says the format: .hex, .srec, .bin");
    const struct cm_file_format *format = choose_format(tool, asked, inputs, count, path);
    if (!format)
        return tool->words.code;
    bool is_own = tool->host.replace && is_input(path, inputs, count);
    enum exit_code code = check_extent(tool, &source, is_raw(format), &extent);
    if (!code)
        code = write_file(tool, &source, format, path);
    if (code)
        return code;
    if (is_own)
        say(tool, "note", "%s was one of the inputs, and is replaced", path);
    tell_output(tool, format, path, &extent);
    return EXIT_GOOD;
}
