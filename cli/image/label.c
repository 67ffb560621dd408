/*
 * image label: what to stick on a chip, so that in ten years somebody knows what is in it: title,
 * part, the 16-bit sum that EPROM programmers show, CRC-32, the day; and all of it in a code.
 */
#include "begin.h"
#include "draw/label_paper.h"
#include "image.h"
#include "say.h"
#include "words/fail.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>
#include <zlib.h>

struct sums {
    uint32_t crc, sum;
};

static bool add_chunk(void *context, uint32_t address, const uint8_t *bytes, uint32_t count)
{
    struct sums *sums = context;
    (void)address;
    sums->crc = (uint32_t)crc32(sums->crc, bytes, count);
    for (uint32_t i = 0; i < count; i++)
        sums->sum += bytes[i];
    return !tool_interrupted;
}

static bool sum_up(const struct cm_source *source, struct sums *sums)
{
    uint8_t *chunk = malloc(CHUNK_BYTES);
    bool is_good = chunk && each_chunk(source, 0, UINT32_MAX, chunk, add_chunk, sums);
    free(chunk);
    return is_good;
}

static void fill_label(const struct tool *tool, const struct input *input, const struct sums *sums,
                       struct label *label)
{
    const char *slash = strrchr(input->path, '/'), *name = slash ? slash + 1 : input->path;
    time_t now = time(NULL);
    struct tm day;
    char date[20] = "";
    if (gmtime_r(&now, &day))
        strftime(date, sizeof date, "%Y-%m-%d", &day);
    snprintf(label->lines[0], LABEL_TEXT, "%s", image_options.title ? image_options.title : name);
    snprintf(label->lines[1], LABEL_TEXT, "%s%s%u bytes", tool->given.chip ? tool->given.chip : "",
             tool->given.chip ? ", " : "", (unsigned)input->bytes);
    snprintf(label->lines[2], LABEL_TEXT, "sum %04X  crc-32 %08X", (unsigned)(sums->sum & 0xFFFF),
             (unsigned)sums->crc);
    snprintf(label->lines[3], LABEL_TEXT, "%s", date);
    snprintf(label->code, LABEL_TEXT, "%.80s %.40s sum %04X crc-32 %08X %s", label->lines[0],
             tool->given.chip ? tool->given.chip : "", (unsigned)(sums->sum & 0xFFFF),
             (unsigned)sums->crc, date);
}

enum exit_code image_label(struct tool *tool, const char *const *things)
{
    struct input input = {.bytes = 0};
    struct label label = {.code = ""};
    struct sums sums = {.crc = (uint32_t)crc32(0, NULL, 0)};
    if (!things[0] || things[1] || !image_options.output)
        return tool_fail_as(tool, EXIT_USAGE, "label takes one file, and -o for the drawing",
                            things[0] && things[1] ? things[1] : "",
                            "coldmint image label FILE -o label.pdf");
    enum exit_code code = tool_check_options(tool);
    if (!code)
        code = input_load(tool, things[0], &input);
    if (!code && !sum_up(&input.source, &sums))
        code = input_fail(tool, input.path);
    if (!code) {
        fill_label(tool, &input, &sums, &label);
        for (int i = 0; i < LABEL_LINES; i++)
            say(tool, i ? "" : "label", "%s", label.lines[i]);
        set_json(tool, "label",
                 json_pack("[o, o, o, o]", json_text(label.lines[0]), json_text(label.lines[1]),
                           json_text(label.lines[2]), json_text(label.lines[3])));
        code = labels_on_paper(tool, LABEL_OF_CHIP, &label, 1, image_options.output);
    }
    if (!code)
        say_last(tool, "%s is a label of 36 by 14 mm", image_options.output);
    input_free(&input);
    return code;
}
