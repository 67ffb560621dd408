/*
 * pack: seals a recipe and its images into one capsule, and reads one back.
 */
#include "for_others.h"
#include "job.h"
#include "say.h"
#include "sealed.h"
#include "words/fail.h"
#include <coldmint/host/count.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static struct {
    struct job_options job;
    char *key, *maker, *make_key, *for_others, *log;
    int show, units, replace;
} given;

/* --- reading back ------------------------------------------------------------------------ */

static enum exit_code show(struct tool *tool, const char *path)
{
    struct cm_capsule_file *file = calloc(1, sizeof *file);
    if (!file)
        return tool_fail_memory(tool);
    enum exit_code code = host_code(tool, cm_capsule_file_load(&tool->host, path, file));
    if (!code && !file->capsule.has_work) {
        code = tool_fail_as(tool, EXIT_BAD_FILE, "the capsule is a backup, not a job", path,
                            "'coldmint image info' tells what it holds");
    }
    if (!code)
        code = sealed_check_maker(tool, file, given.maker);
    if (!code) {
        sealed_say(tool, file, true);
        say_last(tool, "%s is whole%s", path, given.maker ? ", and the maker's" : "");
    }
    cm_capsule_file_free(file);
    free(file);
    return code;
}

struct logging {
    struct tool *tool;
    json_t *rows;
    unsigned made, failed;
};

static void say_record(void *context, const struct cm_tally_record *record)
{
    static const char *const KINDS[] = {"", "begun", "made", "failed"};
    struct logging *logging = context;
    const char *kind = record->kind < 4 ? KINDS[record->kind] : "unknown";
    char capsule[2 * CM_TALLY_CAPSULE + 1], why[80] = "";
    digest_text(record->capsule, CM_TALLY_CAPSULE, capsule);
    if (record->kind == CM_TALLY_FAILED)
        snprintf(why, sizeof why, ": %s while %s, at 0x%04X",
                 cm_status_word((enum cm_status)record->status),
                 step_words((enum cm_step)record->step), (unsigned)record->address);
    say(logging->tool, logging->rows && json_array_size(logging->rows) ? "" : "log",
        "%s  %-6s %4u so far  %6.2f s%s", capsule, kind, (unsigned)record->used,
        record->milliseconds / 1000.0, why);
    json_array_append_new(logging->rows,
                          json_pack("{s:s, s:s, s:I, s:I, s:i, s:I}", "capsule", capsule, "kind",
                                    kind, "used", (json_int_t)record->used, "milliseconds",
                                    (json_int_t)record->milliseconds, "status", record->status,
                                    "address", (json_int_t)record->address));
    logging->made += record->kind == CM_TALLY_MADE;
    logging->failed += record->kind == CM_TALLY_FAILED;
}

static enum exit_code show_log(struct tool *tool, const char *path)
{
    struct logging logging = {tool, json_array(), 0, 0};
    enum exit_code code = host_code(tool, cm_tally_file(&tool->host, path, say_record, &logging));
    set_json(tool, "log", logging.rows);
    if (!code)
        say_last(tool, "%u made and %u failed are on record", logging.made, logging.failed);
    return code;
}

/* --- packing ----------------------------------------------------------------------------- */

static enum exit_code write_capsule(struct tool *tool, const struct cm_recipe *recipe,
                                    struct cm_pack *pack, const char *path)
{
    struct cm_capsule_file *file = calloc(1, sizeof *file);
    if (!file)
        return tool_fail_memory(tool);
    enum exit_code code = host_code(tool, cm_pack(&tool->host, recipe, pack, path));
    if (!code)
        code = host_code(tool, cm_capsule_file_load(&tool->host, path, file)); // as others will
    if (!code) {
        sealed_say(tool, file, true);
        if (pack->units && !pack->seal.is_signed)
            say(tool, "note", "without --key anybody can raise the limit");
        say_last(tool, "%s is sealed: %u bytes", path, (unsigned)file->capsule.input.bytes);
    }
    cm_capsule_file_free(file);
    free(file);
    return code;
}

/* "strike-node.yaml" becomes strike-node.mint, in this folder. */
static void own_path(const char *recipe, char *path, size_t room)
{
    const char *slash = strrchr(recipe, '/'), *name = slash ? slash + 1 : recipe,
               *dot = strrchr(name, '.');
    snprintf(path, room, "%.*s.mint", dot ? (int)(dot - name) : (int)strlen(name), name);
}

static enum exit_code pack_to(struct tool *tool, const struct cm_recipe *recipe,
                              struct cm_pack *pack, const char *const *things)
{
    char path[CM_FILE_PATH];
    enum exit_code code = EXIT_GOOD;
    if (given.for_others)
        code = for_others_folder(tool, given.for_others, recipe, path, sizeof path);
    else if (things[1])
        cm_name_with_extension(path, sizeof path, things[1], ".mint");
    else
        own_path(things[0], path, sizeof path);
    if (!code)
        code = write_capsule(tool, recipe, pack, path);
    if (!code && given.for_others)
        code = for_others_write(tool, given.for_others, recipe);
    if (!code && given.for_others)
        say_last(tool, "%s is ready to hand on: a capsule, README.txt and ./start",
                 given.for_others);
    return code;
}

static enum exit_code pack_recipe(struct tool *tool, const char *const *things)
{
    struct cm_recipe recipe = {.path = NULL};
    struct cm_pack pack = {.units = (uint32_t)given.units,
                           .unprotect = given.job.unprotect,
                           .lose_data = given.job.lose_data,
                           .anyway = given.job.anyway,
                           .allow = (const char *const *)given.job.allow};
    enum exit_code code = EXIT_GOOD;
    if (given.key)
        code = host_code(tool, cm_maker_load(&tool->host, given.key, &pack.maker));
    if (!code && given.key && !pack.maker.can_sign)
        code = tool_fail_as(tool, EXIT_BAD_FILE, "a public key cannot sign", given.key,
                            "--key takes the private one, which stays with its maker");
    if (!code)
        code = host_code(tool, cm_recipe_load(&tool->host, things[0], &recipe));
    if (!code)
        code = pack_to(tool, &recipe, &pack, things);
    cm_recipe_free(&recipe);
    cm_maker_free(&pack.maker);
    return code;
}

static enum exit_code make_key(struct tool *tool)
{
    char own[CM_FILE_PATH], others[CM_FILE_PATH];
    snprintf(own, sizeof own, "%.4000s.key", given.make_key);
    snprintf(others, sizeof others, "%.4000s.pub", given.make_key);
    enum exit_code code = host_code(tool, cm_maker_make(&tool->host, own, others));
    if (!code)
        say_last(tool,
                 "%s signs capsules: keep it to yourself; %s tells yours from others: hand it "
                 "on",
                 own, others);
    return code;
}

/* --- the verb ---------------------------------------------------------------------------- */

static enum exit_code run(struct tool *tool, const char *const *things)
{
    tool->host.replace = given.replace;
    bool has_one = things[0] && !things[1], has_none = !things[0];
    if (given.make_key && has_none)
        return make_key(tool);
    if (given.log && has_none)
        return show_log(tool, given.log);
    if (given.make_key || given.log)
        return tool_fail_as(tool, EXIT_USAGE, "this stands alone", things[0],
                            "coldmint pack --make-key NAME, coldmint pack --log FILE");
    if (given.units < 0)
        return tool_fail_as(tool, EXIT_USAGE, "--units is 1 or more", "",
                            "for example --units 50; left out, there is no limit");
    if (given.show && has_one)
        return show(tool, things[0]);
    if (given.show || has_none || (!has_one && things[2]) || (given.for_others && !has_one))
        return tool_fail_as(tool, EXIT_USAGE, "what shall be packed?",
                            has_none ? "no recipe is named" : things[1],
                            "coldmint pack RECIPE.yaml, or coldmint pack --show FILE.mint");
    return pack_recipe(tool, things);
}

static const struct poptOption options[] = {
    {"key", 0, POPT_ARG_STRING, &given.key, 0, "sign it with this private key", "FILE"},
    {"units", 0, POPT_ARG_INT, &given.units, 0, "so many units may be made from it, and no more",
     "N"},
    {"show", 0, POPT_ARG_NONE, &given.show, 0, "read a capsule back", NULL},
    {"maker", 0, POPT_ARG_STRING, &given.maker, 0,
     "with --show: must be signed with this key (the public one will do)", "FILE"},
    {"make-key", 0, POPT_ARG_STRING, &given.make_key, 0,
     "make a new key: NAME.key to sign with, NAME.pub to hand on", "NAME"},
    {"for-others", 0, POPT_ARG_STRING, &given.for_others, 0,
     "make a folder to hand on: the capsule, a page to read, a script that does it", "FOLDER"},
    {"log", 0, POPT_ARG_STRING, &given.log, 0,
     "show the log of a player that works without a computer", "FILE"},
    {"replace", 0, POPT_ARG_NONE, &given.replace, 0, "overwrite the file if it exists", NULL},
    UNPROTECT_OPTION(given.job, "the capsule may erase a locked chip"),
    LOSE_DATA_OPTION(given.job),
    ANYWAY_OPTION(given.job),
    ALLOW_OPTION(given.job, ALLOW_WORDS),
    POPT_TABLEEND};

const struct verb verb_pack = {
    .name = "pack",
    .things = "[options] RECIPE.yaml [FILE.mint]",
    .summary = "seal a recipe and its images into one capsule, for others or for a programmer "
               "without a computer",
    .example = "coldmint pack recipes/strike-node.yaml --key carillon.key --units 50",
    .mistake = "handing on the .key with the capsule: who has it can raise the limit",
    .heeds = HEEDS_NOTHING,
    .options = options,
    .run = run,
};
