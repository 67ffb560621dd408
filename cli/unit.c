/*
 * A unit: its number, what it gets of its own, and its record in the ledger.
 */
#include "unit.h"
#include "say.h"
#include "shown.h"
#include "words/fail.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>

enum exit_code unit_open_ledger(struct tool *tool, const struct unit_options *given,
                                struct cm_ledger **ledger)
{
    const char *end = given->number;
    uint64_t number;
    *ledger = NULL;
    if (given->number && (!cm_parse_number(&end, &number) || *end))
        return tool_fail_as(tool, EXIT_USAGE, "--number is no number", given->number,
                            "for example --number 1042");
    enum cm_known_unit unused;
    if (given->known && !cm_known_unit_parse(given->known, &unused))
        return tool_fail_as(tool, EXIT_USAGE, "no such choice for a known unit", given->known,
                            "--known leave, again or new");
    if (given->known && !given->ledger)
        return tool_fail_as(tool, EXIT_USAGE, "--known needs --ledger", given->known,
                            "the ledger tells which units were made before");
    if (given->known && given->number)
        return tool_fail_as(tool, EXIT_USAGE, "--known and --number exclude each other",
                            given->number, "--number says which number it shall have");
    if (!given->ledger)
        return EXIT_GOOD;
    *ledger = cm_ledger_open(&tool->host, given->ledger, given->station);
    return host_code(tool, *ledger != NULL);
}

/* --- the record -------------------------------------------------------------------------- */

/* What the ledger cannot hold is found before the chip is touched. */
#define SET(member, name, text)                                                                    \
    cm_unit_record_set(&tool->host, name, record->member, sizeof record->member, text)

static void hex_text(char *text, size_t room, const uint8_t *bytes, size_t count)
{
    text[0] = '\0';
    for (size_t i = 0; i < count && 2 * i + 3 <= room; i++)
        snprintf(text + 2 * i, 3, "%02X", bytes[i]);
}

/* The setting bytes of the chip, as many as it has. */
static void note_settings(struct tool *tool, char *text, size_t room)
{
    const struct cm_words *words = cm_words_of(&tool->session);
    struct cm_setting_byte byte;
    uint8_t bytes[CM_SETTING_BYTES], count = 0;
    text[0] = '\0';
    while (words && count < CM_SETTING_BYTES && words->byte(tool->session.part, count, &byte))
        count++;
    if (count && cm_read_settings(&tool->session, bytes) == CM_OK)
        hex_text(text, room, bytes, count);
}

/* The files with their SHA-256, as they were read. A name may hold anything. */
static void note_images(const struct cm_job *job, struct cm_unit_record *record)
{
    size_t used = 0;
    record->images[0] = '\0';
    for (uint8_t i = 0; i < job->file_count && used < sizeof record->images; i++) {
        char hash[2 * CM_DIGEST_BYTES + 1] = "changed since it was read", name[1024];
        uint8_t digest[CM_DIGEST_BYTES];
        const char *slash = strrchr(job->files[i].path, '/');
        if (cm_image_file_digest(&job->files[i], digest))
            hex_text(hash, sizeof hash, digest, sizeof digest);
        shown_text(slash ? slash + 1 : job->files[i].path, name, sizeof name);
        used += (size_t)snprintf(record->images + used, sizeof record->images - used, "%s%s %s",
                                 used ? "\n" : "", name, hash);
    }
}

void unit_tell_ledger(struct tool *tool, struct cm_ledger *ledger)
{
    if (!ledger)
        return;
    struct cm_ledger_facts facts = cm_ledger_facts(ledger);
    if (facts.in_journal)
        say(tool, "note", "%u units wait in this computer's journal for the server",
            (unsigned)facts.in_journal);
    if (facts.set_aside)
        say(tool, "note",
            "the ledger's server refuses %u of the journal's lines; with the reason "
            "of each they are in %s",
            (unsigned)facts.set_aside, facts.aside);
}

/* --- the unit ---------------------------------------------------------------------------- */

static bool wants_number(const struct cm_recipe *recipe)
{
    return recipe->range.series[0] != '\0';
}

/* The unit's own values, as the ledger keeps them. */
static void note_own(struct unit *unit)
{
    struct cm_unit_record *record = &unit->record;
    json_t *object = json_object();
    for (uint8_t i = 0; i < unit->facts.column_count; i++) {
        if (strcmp(unit->facts.names[i], "number") != 0)
            json_object_set_new(object, unit->facts.names[i], json_text(unit->facts.values[i]));
    }
    char *text = json_object_size(object) ? json_dumps(object, JSON_COMPACT) : NULL;
    snprintf(record->own, sizeof record->own, "%s",
             text && strlen(text) < sizeof record->own ? text : "");
    free(text);
    json_decref(object);
}

static enum exit_code note_number(struct unit *unit, enum exit_code code)
{
    unit->record.has_number = unit->has_facts && !code;
    unit->record.number = unit->facts.number;
    note_own(unit);
    return code;
}

/* --- a unit that was made before --------------------------------------------------------- */

static bool take_record(void *context, const struct cm_unit_record *record)
{
    *(struct cm_unit_record *)context = *record;
    return true;
}

static enum exit_code refuse_known(struct tool *tool, const struct cm_unit_record *made)
{
    char what[CM_LEDGER_TEXT + 80], evidence[400], begun[SHORT_TEXT];
    snprintf(what, sizeof what, "this is number %llu of %s already, and is left as it is",
             (unsigned long long)made->number, made->series);
    snprintf(evidence, sizeof evidence,
             "the chip holds that number; made %s UTC by %.100s, %.100s %s",
             second_text(made->begun / 1000, begun), made->station, made->recipe, made->version);
    return tool_fail_as(tool, EXIT_REFUSED, what, evidence,
                        "--known again makes it again under its number, --known new gives it a new "
                        "one; 'match RECIPE --number N' inspects it");
}

/* Does the chip hold a number that the ledger has as made? */
static enum exit_code look_for_known(struct tool *tool, struct unit *unit, struct cm_job *job,
                                     struct cm_unit_record *made)
{
    struct cm_ledger_query query = {.has_number = true,
                                    .series = unit->recipe->range.series,
                                    .result = CM_UNIT_PASSED,
                                    .last = 1};
    made->key[0] = '\0';
    if (!job || !unit->ledger || !wants_number(unit->recipe) ||
        !cm_job_find_number(job, unit->recipe, &query.number))
        return EXIT_GOOD;
    enum exit_code code = host_code(tool, cm_ledger_each(unit->ledger, &query, take_record, made));
    unit->is_known = !code && made->key[0];
    unit->known_number = query.number;
    return code;
}

static enum exit_code meet_known(struct tool *tool, struct unit *unit,
                                 const struct unit_options *given, struct cm_job *job)
{
    struct cm_unit_record made;
    enum cm_known_unit known = unit->recipe->known_unit;
    enum exit_code code = look_for_known(tool, unit, job, &made);
    if (given->known)
        cm_ignore(cm_known_unit_parse(given->known, &known)); // was looked at beforehand
    if (code || !unit->is_known)
        return code;
    set_json(tool, "known", json_integer((json_int_t)unit->known_number));
    if (known != CM_KNOWN_LEAVE)
        say(tool, "note", "this unit is number %llu already; it %s",
            (unsigned long long)unit->known_number,
            known == CM_KNOWN_AGAIN ? "is made again under it" : "gets a new one");
    unit->is_left = known == CM_KNOWN_LEAVE;
    unit->is_known = known != CM_KNOWN_NEW;
    return unit->is_left ? refuse_known(tool, &made) : EXIT_GOOD;
}

/* --- the number -------------------------------------------------------------------------- */

/* From the ledger: the next one, or this one. */
static bool take_from_ledger(struct unit *unit, bool has_wish, uint64_t wish)
{
    const struct cm_recipe *recipe = unit->recipe;
    struct cm_recipe_text file = {(char *)(uintptr_t)recipe->range.file, 0};
    char path[CM_FILE_PATH];
    const char *numbers = recipe->range.file[0] ? path : NULL;
    cm_recipe_file(recipe, &file, path, sizeof path);
    snprintf(unit->record.series, sizeof unit->record.series, "%s", recipe->range.series);
    return has_wish ? cm_ledger_take_this(unit->ledger, &recipe->range, numbers, wish,
                                          unit->record.key, &unit->facts)
                    : cm_ledger_take(unit->ledger, &recipe->range, numbers, unit->record.key,
                                     &unit->facts);
}

enum exit_code unit_take_number(struct tool *tool, struct unit *unit,
                                const struct unit_options *given, struct cm_job *job)
{
    const char *by_hand = given->number;
    uint64_t wish = 0;
    enum exit_code code = by_hand ? EXIT_GOOD : meet_known(tool, unit, given, job);
    if (code)
        return code;
    if (by_hand)
        cm_ignore(cm_parse_number(&by_hand, &wish)); // was looked at beforehand
    bool has_ledger = unit->ledger && wants_number(unit->recipe);
    unit->has_facts = given->number || has_ledger;
    if (!has_ledger)
        unit->facts = (struct cm_unit_facts){.has_number = given->number, .number = wish};
    else
        code = host_code(tool, take_from_ledger(unit, given->number || unit->is_known,
                                                given->number ? wish : unit->known_number));
    return note_number(unit, code);
}

enum exit_code unit_begin(struct tool *tool, struct unit *unit, const struct cm_recipe *recipe,
                          struct cm_ledger *ledger, const struct unit_options *given,
                          struct cm_job *job)
{
    struct cm_unit_record *record = &unit->record;
    const struct cm_part *part = tool->session.part;
    *unit = (struct unit){.ledger = ledger, .recipe = recipe};
    cm_unit_record_begin(record);
    bool fits = SET(recipe, "recipe's title", recipe->title.text) &&
                SET(version, "recipe's version", recipe->version.text) &&
                SET(board, "board's name", recipe->board.text) &&
                SET(chip, "chip's name", recipe->chip.text) &&
                SET(series, "series' name", recipe->range.series) &&
                SET(port, "port's name", tool->port_name);
    record->series[0] = '\0'; // until it has a number of it
    if (!fits && ledger)
        return tool_fail_host(tool);
    struct timespec now;
    clock_gettime(CLOCK_REALTIME, &now);
    record->begun = (int64_t)now.tv_sec * 1000 + now.tv_nsec / 1000000;
    unit->begun_us = tool->port->lines->now_us(tool->port);
    if (part)
        hex_text(record->chip_id, sizeof record->chip_id, part->id, part->id_bytes);
    if (part && ledger)
        note_settings(tool, record->settings_before, sizeof record->settings_before);
    return part ? unit_take_number(tool, unit, given, job) : EXIT_GOOD;
}

enum exit_code unit_end(struct tool *tool, struct unit *unit, struct cm_job *job,
                        enum exit_code code)
{
    struct cm_unit_record *record = &unit->record;
    record->took_ms = (tool->port->lines->now_us(tool->port) - unit->begun_us) / 1000;
    record->passed = code == EXIT_GOOD;
    record->has_number = unit->has_facts && (record->passed || unit->is_known);
    if (!unit->ledger)
        return code;
    if (job)
        note_images(job, record);
    if (!code)
        note_settings(tool, record->settings_after, sizeof record->settings_after);
    else
        shown_text(tool->words.what, record->cause, sizeof record->cause);
    if (cm_ledger_record(unit->ledger, record))
        return code;
    return code ? code : tool_fail_host(tool);
}

enum exit_code unit_take_back(struct tool *tool, struct unit *unit, enum exit_code code)
{
    if (!unit->ledger || cm_ledger_give_back(unit->ledger, unit->record.key))
        return code;
    return code ? code : tool_fail_host(tool);
}

const char *unit_number_text(const struct unit *unit, char *text)
{
    text[0] = '\0';
    if (unit->record.has_number)
        snprintf(text, UNIT_TEXT, "number %llu", (unsigned long long)unit->record.number);
    return text;
}
