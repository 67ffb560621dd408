/*
 * What a sealed capsule says, in words.
 */
#include "../sealed.h"
#include "../say.h"
#include "capsule.h"
#include "fail.h"
#include <coldmint/host/count.h>
#include <stdio.h>
#include <string.h>

/* The first bytes of a digest or a key: enough to tell one from another. */
enum { SHOWN_BYTES = 8, SHOWN_TEXT = 2 * SHOWN_BYTES + 1 };

static const char *beginning_text(const uint8_t *bytes, char *text)
{
    return digest_text(bytes, SHOWN_BYTES, text);
}

enum exit_code sealed_check_maker(struct tool *tool, const struct cm_capsule_file *file,
                                  const char *path)
{
    struct cm_maker maker;
    const struct cm_capsule_seal *seal = &file->seal; // is right; but by whom?
    char evidence[200];
    if (!path)
        return EXIT_GOOD;
    bool good = cm_maker_load(&tool->host, path, &maker);
    cm_maker_free(&maker);
    if (!good)
        return tool_fail_host(tool);
    if (seal->is_signed && memcmp(seal->key, maker.key, sizeof maker.key) == 0)
        return EXIT_GOOD;
    snprintf(evidence, sizeof evidence, "%.120s: %s", file->path,
             cm_capsule_fault_word(seal->is_signed ? CM_CAPSULE_OTHER_MAKER : CM_CAPSULE_UNSIGNED));
    return tool_fail_as(tool, EXIT_REFUSED, "refused: this capsule is not the maker's", evidence,
                        "get it again from who made it, or name the right key with --maker");
}

/* --- contents and settings --------------------------------------------------------------- */

static void say_contents(struct tool *tool, const struct cm_capsule_file *file)
{
    const struct cm_capsule *capsule = &file->capsule;
    bool is_first = true;
    json_t *list = json_array();
    for (uint8_t i = 0; i < capsule->region_count; i++) {
        struct cm_capsule_place place;
        struct cm_source source = cm_capsule_source(capsule, i, &place);
        uint32_t start, bytes, all = 0, first = 0, end = 0;
        for (; source.extent(source.context, end, &start, &bytes); end = start + bytes) {
            first = all ? first : start;
            all += bytes;
        }
        if (!all)
            continue;
        say(tool, is_first ? "contents" : "", "%s: %u bytes, 0x%04X to 0x%04X",
            capsule->regions[i].name, (unsigned)all, (unsigned)first, (unsigned)end - 1);
        json_array_append_new(list,
                              json_pack("{s:o, s:I}", "region", json_text(capsule->regions[i].name),
                                        "bytes", (json_int_t)all));
        is_first = false;
    }
    set_json(tool, "contents", list);
}

static bool is_chosen(const struct cm_setting *setting, const uint8_t *chosen)
{
    uint8_t bits[CM_SETTING_BYTES + 4] = {0};
    cm_set_setting(setting, bits, UINT32_MAX);
    for (uint8_t i = 0; i < CM_SETTING_BYTES; i++) {
        if (bits[i] & ~chosen[i])
            return false;
    }
    return true;
}

static void say_settings(struct tool *tool, const struct cm_capsule_file *file)
{
    const struct cm_part *part = cm_host_part(&tool->host, file->capsule.facts.chip);
    const struct cm_words *words = part ? words_of(tool, part) : NULL;
    uint8_t bytes[CM_SETTING_BYTES], chosen[CM_SETTING_BYTES];
    struct cm_setting setting;
    bool is_first = true;
    json_t *list = json_object();
    if (words) {
        memset(chosen, 0, sizeof chosen);
        cm_settings_as_delivered(&tool->host, part, bytes);
        cm_capsule_file_chosen(file, kit_of(tool, part), part, bytes, chosen);
    }
    for (uint8_t i = 0; words && words->setting(part, bytes, i, &setting); i++) {
        char word[CM_WORD_BYTES];
        if (!is_chosen(&setting, chosen))
            continue;
        cm_setting_word(&setting, cm_setting_value(&setting, bytes), word);
        say(tool, is_first ? "settings" : "", "%-20s %s", setting.name, word);
        json_object_set_new(list, setting.name, json_text(word));
        is_first = false;
    }
    set_json(tool, "settings", list);
}

/* --- all of it --------------------------------------------------------------------------- */

static void say_board(struct tool *tool, const struct cm_capsule *capsule)
{
    const struct cm_capsule_work *work = &capsule->work;
    char supply[60] = "", feed[60] = "";
    if (work->supply_from_mv)
        snprintf(supply, sizeof supply, ", supply %.2f to %.2f V", work->supply_from_mv / 1000.0,
                 work->supply_to_mv / 1000.0);
    if (work->feed_mv)
        snprintf(feed, sizeof feed, ", fed with %.2f V by the programmer%s", work->feed_mv / 1000.0,
                 work->power_cycle ? " after a power cycle" : "");
    say(tool, "board", "%s%s%s with %s%s%s", work->board[0] ? "" : "any", work->board,
        work->marker_bytes ? ", known by its marker," : "", capsule->facts.chip, supply, feed);
}

static void say_seal(struct tool *tool, const struct cm_capsule_file *file)
{
    const struct cm_capsule_facts *facts = &file->capsule.facts;
    const struct cm_capsule_seal *seal = &file->seal;
    char digest[SHOWN_TEXT], key[SHOWN_TEXT], when[SHORT_TEXT];
    say(tool, "sealed", "%s by %s; SHA-256 %s...", minute_text(facts->time, when), facts->tool,
        beginning_text(seal->digest, digest));
    if (seal->is_signed)
        say(tool, "signed", "with the key %s...", beginning_text(seal->key, key));
    else
        say(tool, "signed", "by nobody: anybody can have made it");
    json_t *object = json_object();
    char all[2 * CM_DIGEST_BYTES + 1];
    json_object_set_new(object, "sha256",
                        json_text(digest_text(seal->digest, sizeof seal->digest, all)));
    json_object_set_new(object, "key",
                        seal->is_signed ? json_text(digest_text(seal->key, sizeof seal->key, all))
                                        : json_null());
    set_json(tool, "seal", object);
}

void sealed_say(struct tool *tool, const struct cm_capsule_file *file, bool details)
{
    const struct cm_capsule *capsule = &file->capsule;
    const struct cm_capsule_work *work = &capsule->work;
    char units[SHORT_TEXT];
    say(tool, "makes", "%s%s%s", work->title, work->version[0] ? ", version " : "", work->version);
    say_board(tool, capsule);
    if (details) {
        say_contents(tool, file);
        say_settings(tool, file);
        if (work->unprotect || work->lose_data)
            say(tool, "may", "%s%s%s", work->unprotect ? "erase a locked chip" : "",
                work->unprotect && work->lose_data ? ", " : "",
                work->lose_data ? "lose what the data memory holds" : "");
    }
    if (work->units)
        say(tool, "limit", "%s", count_text(work->units, "unit", units));
    say_seal(tool, file);
    set_json(tool, "capsule",
             json_pack("{s:o, s:o, s:o, s:o, s:o, s:I, s:I}", "path", json_text(file->path),
                       "title", json_text(work->title), "board", json_text(work->board), "version",
                       json_text(work->version), "chip", json_text(capsule->facts.chip), "units",
                       (json_int_t)work->units, "time", (json_int_t)capsule->facts.time));
}
