/*
 * Looking for a text or bytes in a source.
 */
#include "needle.h"
#include "words/fail.h"
#include <ctype.h>
#include <iconv.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

/* --- what is looked for ------------------------------------------------------------------ */

static enum exit_code fail_nothing(struct tool *tool, const char *text)
{
    return tool_fail_as(tool, EXIT_USAGE, "there is nothing to look for", text,
                        "a TEXT of up to 256 bytes, or --bytes \"DE AD ?? EF\"");
}

/* Letters of ASCII are the same with and without this bit. */
static void fold_case(struct needle *needle)
{
    enum { CASE = 0x20 };
    for (uint32_t i = 0; i < needle->length; i++) {
        if (needle->value[i] < 0x80 && isalpha(needle->value[i])) {
            needle->mask[i] = (uint8_t)~CASE;
            needle->value[i] &= (uint8_t)~CASE;
        }
    }
}

/* A text in another form; false: it is none in UTF-8, or too long. */
static bool convert(struct needle *needle, const char *text, const char *to)
{
    iconv_t conversion = iconv_open(to, "UTF-8");
    char *from = (char *)(uintptr_t)text, *out = (char *)needle->value;
    size_t left = strlen(text), room = sizeof needle->value;
    if (conversion == (iconv_t)-1)
        return false;
    bool is_good = iconv(conversion, &from, &left, &out, &room) != (size_t)-1;
    iconv_close(conversion);
    needle->length = (uint32_t)(sizeof needle->value - room);
    return is_good;
}

enum exit_code needles_of_text(struct tool *tool, struct needles *needles, const char *text,
                               bool any_case)
{
    static const char *const FORMS[][2] = {{"UTF-16LE", "UTF-16, low byte first"},
                                           {"UTF-16BE", "UTF-16, high byte first"}};
    const size_t length = strlen(text);
    struct needle *plain = &needles->list[0];
    memset(needles, 0, sizeof *needles);
    memset(needles->list, 0, sizeof needles->list);
    if (!length || length > NEEDLE_BYTES / 2)
        return fail_nothing(tool, text);
    memcpy(plain->value, text, length);
    plain->length = (uint32_t)length;
    plain->form = "";
    needles->count = 1;
    for (size_t i = 0; i < sizeof FORMS / sizeof FORMS[0]; i++) {
        struct needle *wide = &needles->list[needles->count];
        wide->form = FORMS[i][1];
        needles->count += convert(wide, text, FORMS[i][0]);
    }
    for (unsigned i = 0; i < needles->count; i++) {
        memset(needles->list[i].mask, 0xFF, sizeof needles->list[i].mask);
        if (any_case)
            fold_case(&needles->list[i]);
    }
    return EXIT_GOOD;
}

enum exit_code needles_of_bytes(struct tool *tool, struct needles *needles, const char *text)
{
    struct needle *needle = &needles->list[0];
    bool is_any = true;
    memset(needles, 0, sizeof *needles);
    needle->form = "";
    needles->count = 1;
    for (const char *at = text; *at;) {
        const uint32_t i = needle->length;
        if (isspace((unsigned char)*at)) {
            at++;
            continue;
        }
        bool is_wild = at[0] == '?' && at[1] == '?';
        if (i == NEEDLE_BYTES || (!is_wild && !cm_parse_byte(at, &needle->value[i])))
            return fail_nothing(tool, text);
        needle->mask[i] = is_wild ? 0 : 0xFF;
        is_any &= is_wild;
        needle->length++;
        at += 2;
    }
    return is_any ? fail_nothing(tool, text) : EXIT_GOOD;
}

/* --- the search -------------------------------------------------------------------------- */

static bool is_at(const struct needle *needle, const uint8_t *bytes, uint32_t left)
{
    if (left < needle->length)
        return false;
    for (uint32_t i = 0; i < needle->length; i++) {
        if ((bytes[i] & needle->mask[i]) != needle->value[i])
            return false;
    }
    return true;
}

/* The first of the forms that is here. Inside a longer text of UTF-16 with the low byte first, the
 * same text seems to begin a byte earlier with the high one first: the later form counts. */
static const struct needle *form_at(const struct needles *needles, const uint8_t *bytes,
                                    uint32_t left)
{
    enum { LOW_FIRST = 1, HIGH_FIRST = 2 };
    for (unsigned i = 0; i < needles->count; i++) {
        bool is_shadow =
            i == HIGH_FIRST && left && is_at(&needles->list[LOW_FIRST], bytes + 1, left - 1);
        if (!is_shadow && is_at(&needles->list[i], bytes, left))
            return &needles->list[i];
    }
    return NULL;
}

struct search {
    const struct needles *needles;
    needle_found_fn *found;
    void *context;
    uint8_t chunk[CHUNK_BYTES];
    bool is_ended;
};

static bool search_run(struct search *search, const struct cm_source *source, uint32_t start,
                       uint64_t count)
{
    enum { OVERLAP = NEEDLE_BYTES + 1 };
    for (uint64_t at = 0; at < count && !search->is_ended;) {
        uint32_t part = count - at < CHUNK_BYTES ? (uint32_t)(count - at) : CHUNK_BYTES;
        bool is_last = at + part == count;
        uint32_t fresh = is_last ? part : part - OVERLAP;
        if (source->read(source->context, start + (uint32_t)at, search->chunk, part) != CM_OK ||
            tool_interrupted)
            return false;
        for (uint32_t i = 0; i < fresh && !search->is_ended; i++) {
            const struct needle *needle = form_at(search->needles, search->chunk + i, part - i);
            if (needle)
                search->is_ended =
                    !search->found(search->context, start + (uint32_t)at + i, needle);
        }
        at += fresh;
    }
    return true;
}

bool needles_search(const struct needles *needles, const struct cm_source *source, uint32_t first,
                    uint32_t last, needle_found_fn *found, void *context)
{
    struct search *search = malloc(sizeof *search);
    uint32_t start, count;
    bool is_good = search != NULL;
    if (search)
        *search = (struct search){.needles = needles, .found = found, .context = context};
    for (uint64_t at = first;
         is_good && !search->is_ended && at <= last &&
         source->extent(source->context, (uint32_t)at, &start, &count) && count && start <= last;
         at = (uint64_t)start + count) {
        uint64_t most = (uint64_t)last - start + 1;
        is_good = search_run(search, source, start, count < most ? count : most);
    }
    free(search);
    return is_good;
}
