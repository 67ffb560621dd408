/* What the acts of the verb image share: files as sources, views of them, amounts in words, and
 * files out. */
#ifndef CM_CLI_IMAGE_H
#define CM_CLI_IMAGE_H

#include "draw/map_draw.h"
#include "tool.h"
#include <limits.h>

enum { MOST_INPUTS = 16, CHUNK_BYTES = 1 << 18 };

/* An input: an image file, or a region of a capsule. */
struct input {
    struct cm_image_file file;
    struct cm_image_part part;
    struct cm_capsule_file *capsule; /* NULL: it is none */
    struct cm_source source;
    const char *path, *format;
    uint32_t bytes, first, last;
    bool has_entry;
    uint32_t entry;
};
enum exit_code input_load(struct tool *tool, const char *path, struct input *input);
void input_free(struct input *input);

/* "file  app.hex, Intel HEX: 802 bytes, 0x0000 to 0x0321" behind this label. */
void input_say(struct tool *tool, const char *label, const struct input *input);

/* It could not be read to its end, or the user has interrupted. */
enum exit_code input_fail(struct tool *tool, const char *path);

/* Calls `act` for each piece from `first` to `last`, read into `chunk` of CHUNK_BYTES, the lowest
 * address first. False: a piece could not be read, or `act` has ended it. */
typedef bool chunk_fn(void *context, uint32_t address, const uint8_t *bytes, uint32_t count);
bool each_chunk(const struct cm_source *source, uint32_t first, uint32_t last, uint8_t *chunk,
                chunk_fn *act, void *context);

/* The part of it that --range asks for; all of it where that is not given. EXIT_GOOD, or the
 * failure is told. */
enum exit_code input_range(struct tool *tool, const struct input *input, uint32_t *first,
                           uint32_t *last);

/* A source that shows others in another way. */
enum view_kind {
    VIEW_MOVED,   /* bytes first to last of the inner one, moved so that `first` is at `to` */
    VIEW_JOINED,  /* several, which do not overlap; the first that has a byte counts */
    VIEW_FILLED,  /* gaps from first to last are `fill` */
    VIEW_SWAPPED, /* the bytes of each group of `ways` in the opposite order */
    VIEW_SPLIT,   /* byte `part` of each group of `ways` */
    VIEW_WOVEN    /* the other way round: a byte of each inner one in turn */
};
struct view {
    enum view_kind kind;
    struct cm_source inner[MOST_INPUTS];
    unsigned count;
    uint32_t first, last, to;
    uint32_t ways, part;
    uint8_t fill;
};
struct cm_source view_source(struct view *view);

/* Writes a source into the file that -o names, in the format of its extension. `inputs` are told
 * where one is replaced. */
enum exit_code write_output(struct tool *tool, struct cm_source source, const char *asked,
                            const struct input *inputs, unsigned count);

/* Says texts that a file holds, and adds them to a list in JSON (find.c). */
struct text_list;
void texts_say(struct tool *tool, const struct text_list *list, json_t *json);

/* Says texts that a file holds, and adds them to a list in JSON (find.c). */
struct text_list;
void texts_say(struct tool *tool, const struct text_list *list, json_t *json);

/* The acts. */
enum { UNSET = INT_MIN }; /* a number that was not given */

struct image_options {
    char *range, *find, *bytes, *at, *with, *region, *output, *format, *title;
    int bank, rows, nth, ways, replace, any_case, least;
    struct map_options map;
};
extern struct image_options image_options;
enum exit_code image_show(struct tool *tool, const char *const *things);
enum exit_code image_find(struct tool *tool, const char *const *things);
enum exit_code image_label(struct tool *tool, const char *const *things);
enum exit_code image_info(struct tool *tool, const char *const *things);
enum exit_code image_match(struct tool *tool, const char *const *things);
enum exit_code image_place(struct tool *tool, const char *const *things);
enum exit_code image_join(struct tool *tool, const char *const *things);
enum exit_code image_cut(struct tool *tool, const char *const *things);
enum exit_code image_fill(struct tool *tool, const char *const *things);
enum exit_code image_convert(struct tool *tool, const char *const *things);
enum exit_code image_swap(struct tool *tool, const char *const *things);
enum exit_code image_split(struct tool *tool, const char *const *things);
enum exit_code image_weave(struct tool *tool, const char *const *things);

/* A map of a source, drawn where --map says. EXIT_GOOD too where it does not. */
enum exit_code map_of_source(struct tool *tool, const struct cm_source *source, const char *title);

#endif
