/*
 * image info: what a file holds, its checksums, texts in it, and for which parts it can be or
 * cannot be.
 *
 * SHA-256 takes longer than all the rest: it runs in a thread of its own, over the same bytes.
 */
#include "image.h"
#include "say.h"
#include "words/fail.h"
#include "begin.h"
#include "fits.h"
#include "texts.h"
#include <openssl/evp.h>
#include <pthread.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <zlib.h>

enum { MOST_RANGES = 8, MOST_TEXTS = 8, SHA_BYTES = 32 };

struct facts {
    uint32_t crc;
    uint64_t sum, blank;
    struct texts texts;
    struct text_list list;
    struct text list_texts[MOST_TEXTS];
};

/* --- one pass ---------------------------------------------------------------------------- */

/* Code and tables have printable runs by chance: those are for 'image find'. */
static void take_text(void *context, const struct text *text)
{
    enum { LIKELY = 8 };
    if (text->score >= LIKELY)
        text_list_add(context, text);
}

static bool take(void *context, uint32_t address, const uint8_t *bytes, uint32_t count)
{
    struct facts *facts = context;
    uint64_t sum = 0, blank = 0;
    facts->crc = (uint32_t)crc32(facts->crc, bytes, count);
    for (uint32_t i = 0; i < count; i++) { // the compiler makes wide instructions of this
        sum += bytes[i];
        blank += bytes[i] == 0xFF;
    }
    facts->sum += sum;
    facts->blank += blank;
    texts_take(&facts->texts, address, bytes, count);
    return !tool_interrupted;
}

/* --- SHA-256 ----------------------------------------------------------------------------- */

struct hashing {
    struct cm_source source;
    struct cm_file_reader *reader; /* its own, since readers have a place */
    uint8_t digest[SHA_BYTES];
    bool good;
};

static bool hash_chunk(void *context, uint32_t address, const uint8_t *bytes, uint32_t count)
{
    (void)address;
    return EVP_DigestUpdate(context, bytes, count) == 1 && !tool_interrupted;
}

static void *hash(void *context)
{
    struct hashing *hashing = context;
    EVP_MD_CTX *digest = EVP_MD_CTX_new();
    uint8_t *chunk = malloc(CHUNK_BYTES);
    hashing->good = digest && chunk && EVP_DigestInit_ex(digest, EVP_sha256(), NULL) == 1 &&
                    each_chunk(&hashing->source, 0, UINT32_MAX, chunk, hash_chunk, digest) &&
                    EVP_DigestFinal_ex(digest, hashing->digest, NULL) == 1;
    free(chunk);
    EVP_MD_CTX_free(digest);
    return NULL;
}

/* Both at once. */
static bool measure(struct tool *tool, const struct input *input, struct facts *facts,
                    struct hashing *hashing)
{
    pthread_t thread;
    uint8_t *chunk = malloc(CHUNK_BYTES);
    hashing->source = input->source;
    hashing->reader = input->file.reader ? cm_file_reader_open(&tool->host, input->path) : NULL;
    bool aside = hashing->reader ||
                 !input->capsule; // a capsule is read through one place: then one after the other
    if (hashing->reader)
        hashing->source = cm_file_reader_source(hashing->reader);
    facts->crc = (uint32_t)crc32(0, NULL, 0);
    bool started = aside && pthread_create(&thread, NULL, hash, hashing) == 0;
    facts->list = (struct text_list){.texts = facts->list_texts, .room = MOST_TEXTS};
    facts->texts =
        (struct texts){.least = TEXTS_LEAST, .found = take_text, .context = &facts->list};
    bool good = chunk && each_chunk(&input->source, 0, UINT32_MAX, chunk, take, facts);
    texts_end(&facts->texts);
    if (started)
        pthread_join(thread, NULL);
    else
        hash(hashing);
    cm_file_reader_close(hashing->reader);
    free(chunk);
    return good && hashing->good;
}

/* --- saying ------------------------------------------------------------------------------ */

static void say_ranges(struct tool *tool, const struct input *input)
{
    uint32_t start, count;
    unsigned shown = 0, more = 0;
    json_t *list = json_array();
    for (uint64_t at = 0;
         at <= UINT32_MAX &&
         input->source.extent(input->source.context, (uint32_t)at, &start, &count) && count;
         at = (uint64_t)start + count) {
        if (shown < MOST_RANGES) {
            say(tool, shown ? "" : "ranges", "0x%06X to 0x%06X  %u bytes", (unsigned)start,
                (unsigned)(start + (count - 1)), (unsigned)count);
            json_array_append_new(list, json_pack("{s:I, s:I}", "first", (json_int_t)start, "bytes",
                                                  (json_int_t)count));
            shown++;
        } else {
            more++;
        }
    }
    if (more)
        say(tool, "", "... and %u more", more);
    set_json(tool, "ranges", list);
}

static void say_facts(struct tool *tool, const struct input *input, const struct facts *facts,
                      const uint8_t *digest)
{
    char hex[2 * SHA_BYTES + 1];
    json_t *texts = json_array();
    for (int i = 0; i < SHA_BYTES; i++)
        snprintf(hex + 2 * i, 3, "%02x", digest[i]);
    say(tool, "blank", "%llu of %u bytes are FF", (unsigned long long)facts->blank,
        (unsigned)input->bytes);
    say(tool, "crc-32", "%08X", (unsigned)facts->crc);
    say(tool, "sum", "%08X of all bytes; %04X in 16 bits", (unsigned)facts->sum,
        (unsigned)(facts->sum & 0xFFFF));
    say(tool, "sha-256", "%s", hex);
    texts_say(tool, &facts->list, texts);
    if (facts->list.left_out)
        say(tool, "", "... and %llu more: 'coldmint image find %s'",
            (unsigned long long)facts->list.left_out, input->path);
    set_json(tool, "info",
             json_pack("{s:I, s:I, s:I, s:I, s:s, s:o}", "bytes", (json_int_t)input->bytes,
                       "blank_bytes", (json_int_t)facts->blank, "crc32", (json_int_t)facts->crc,
                       "sum", (json_int_t)facts->sum, "sha256", hex, "texts", texts));
}

enum exit_code image_info(struct tool *tool, const char *const *things)
{
    struct input input;
    struct hashing hashing = {.good = false};
    if (!things[0] || things[1])
        return tool_fail_as(tool, EXIT_USAGE, "info takes one file",
                            things[0] ? things[1] : "none is named", "coldmint image info FILE");
    enum exit_code code = tool_check_options(tool);
    struct facts *facts = calloc(1, sizeof *facts);
    if (!code && !facts)
        code = tool_fail_memory(tool);
    if (code) {
        free(facts);
        return code;
    }
    code = input_load(tool, things[0], &input);
    if (!code) {
        input_say(tool, "file", &input);
        if (input.has_entry)
            say(tool, "entry", "0x%06X", (unsigned)input.entry);
        say_ranges(tool, &input);
        fflush(stdout); // what is known is told before the long part
        if (!measure(tool, &input, facts, &hashing))
            code = input_fail(tool, input.path);
    }
    if (!code) {
        say_facts(tool, &input, facts, hashing.digest);
        code = say_fits(tool, &input);
    }
    if (!code)
        code = map_of_source(tool, &input.source, input.path);
    input_free(&input);
    free(facts);
    return code;
}
