/*
 * mint: brings one chip to the state that a recipe tells: settings, loader and application, EEPROM,
 * lock bits, what each unit gets of its own. Or many, one after another (line.h).
 */
#include "begin.h"
#include "catalogue.h"
#include "job.h"
#include "line.h"
#include "say.h"
#include "sealed.h"
#include "words/fail.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static struct {
    struct job_options job;
    struct unit_options unit;
    struct sealed_options sealed;
    char *from, *board, *version;
    int count, patience;
} given;

static const char *text_of(const struct cm_recipe_text *text)
{
    return text->text ? text->text : "";
}

static void say_recipe(struct tool *tool, const struct cm_recipe *recipe)
{
    const char *board = text_of(&recipe->board), *version = text_of(&recipe->version);
    say(tool, "recipe", "%s%s%s%s%s", recipe->title.text, *board ? ", board " : "", board,
        *version ? ", version " : "", version);
    json_t *object = json_pack("{s:o, s:o}", "title", json_text(recipe->title.text), "chip",
                               json_text(recipe->chip.text));
    if (*board)
        json_object_set_new(object, "board", json_text(board));
    if (*version)
        json_object_set_new(object, "version", json_text(version));
    set_json(tool, "recipe", object);
}

/* The chip; or, where the catalogue has found it already, the same by the recipe's own name for it.
 */
static enum exit_code begin(struct tool *tool)
{
    if (!tool->open)
        return tool_begin(tool);
    return session_code(tool, cm_identify(&tool->session, tool->given.chip));
}

static void say_verdict(struct tool *tool, const struct cm_job *job, const struct cm_recipe *recipe,
                        const struct unit *unit)
{
    const char *version = text_of(&recipe->version);
    char number[UNIT_TEXT];
    unit_number_text(unit, number);
    say_last(tool, "minted: this %s is a %s%s%s%s%s%s", chip_name(tool), recipe->title.text,
             *version ? ", version " : "", version, number[0] ? ", " : "", number,
             job->has_work ? "" : "; it was before");
}

static void say_number(struct tool *tool, const struct unit *unit)
{
    if (!unit->record.has_number)
        return;
    say(tool, "number", "%llu%s%s", (unsigned long long)unit->record.number,
        unit->record.series[0] ? " of " : "", unit->record.series);
    set_json(tool, "number", json_integer((json_int_t)unit->record.number));
}

static enum exit_code mint(struct tool *tool, struct cm_job *job, const struct cm_recipe *recipe,
                           struct cm_ledger *ledger)
{
    say_recipe(tool, recipe);
    enum exit_code code = job_take_chip(tool, recipe);
    if (!code)
        code = begin(tool);
    if (code)
        return code;
    cm_job_tell_left_behind(job);
    set_json(tool, "files", json_array());
    struct unit unit;
    code = unit_begin(tool, &unit, recipe, ledger, &given.unit, job);
    if (code)
        return code;
    say_number(tool, &unit);
    job->unit_facts = unit.has_facts ? &unit.facts : NULL;
    code = host_code(tool, cm_job_want_recipe(job, recipe));
    if (!code)
        code = job_run(tool, job, &given.job);
    if (given.job.only_plan) {
        code = unit_take_back(tool, &unit, code);
        return code ? code : job_end_plan(tool, job, recipe->title.text);
    }
    code = unit_end(tool, &unit, job, code);
    if (!code)
        say_verdict(tool, job, recipe, &unit);
    return code;
}

static enum exit_code mint_recipe(struct tool *tool, const char *path)
{
    struct cm_recipe *recipe = calloc(1, sizeof *recipe);
    struct cm_job *job = recipe ? job_new(tool, &given.job) : NULL;
    enum exit_code code = recipe ? tool->words.code : tool_fail_memory(tool);
    if (job)
        code = host_code(tool, cm_recipe_load(&tool->host, path, recipe));
    struct cm_ledger *ledger = NULL;
    if (job && !code)
        code = unit_open_ledger(tool, &given.unit, &ledger);
    if (job && !code)
        code = mint(tool, job, recipe, ledger);
    unit_tell_ledger(tool, ledger);
    cm_ledger_close(ledger);
    cm_job_free(job);
    if (recipe)
        cm_recipe_free(recipe);
    free(recipe);
    return code;
}

static enum exit_code refuse_sealed(struct tool *tool, const char *path)
{
    return tool_fail_as(tool, EXIT_USAGE, "--maker and --yes are for capsules", path,
                        "leave them out: nobody has signed a recipe");
}

/* A recipe, or a capsule, which has all that it needs. */
static enum exit_code mint_file(struct tool *tool, const char *path)
{
    if (!cm_capsule_is_file(&tool->host, path))
        return given.sealed.maker || given.sealed.yes ? refuse_sealed(tool, path)
                                                      : mint_recipe(tool, path);
    if (given.unit.ledger || given.unit.number || given.unit.station || given.unit.known)
        return tool_fail_as(tool, EXIT_USAGE, "a capsule gives its units no numbers", path,
                            "leave --ledger, --station, --number and --known out");
    return sealed_mint(tool, path, &given.job, &given.sealed);
}

static enum exit_code mint_from(struct tool *tool, const char *const *things)
{
    const struct cm_catalogue_choice choice = {things[0], given.board, given.version};
    char path[CM_FILE_PATH];
    if (things[0] && things[1])
        return tool_fail_as(tool, EXIT_USAGE, "one title at a time", things[1],
                            "coldmint mint --from FOLDER \"strike node\"");
    enum exit_code code = catalogue_choose(tool, given.from, &choice, path);
    return code || !path[0] ? code : mint_file(tool, path);
}

static bool is_line(void)
{
    return given.count || given.patience;
}

static enum exit_code mint_many(struct tool *tool, const char *const *things)
{
    const struct line_options line = {.recipe = things[0],
                                      .count = given.count,
                                      .patience = given.patience,
                                      .job = &given.job,
                                      .unit = &given.unit};
    enum { MOST_PATIENCE = 3600 };
    if (given.count < 0 || given.patience < 0 || given.patience > MOST_PATIENCE)
        return tool_fail_as(tool, EXIT_USAGE, "--count is 1 or more, --patience 1 to 3600", "",
                            "for example --count 12 --patience 60");
    if (given.sealed.maker || given.sealed.yes)
        return refuse_sealed(tool, things[0]);
    if (given.from || given.job.only_plan || given.job.wait_seconds || given.unit.number ||
        tool->given.record || tool->given.feed)
        return tool_fail_as(tool, EXIT_USAGE, "this is for one unit, and --count for many",
                            "--from, --plan, --wait, --number, --record and --feed",
                            "leave it out; numbers of many come from --ledger");
    if (!tool->port_name)
        return tool_open_port(tool);
    enum exit_code code = tool_check_options(tool);
    return code ? code : line_run(tool, &line);
}

static enum exit_code run(struct tool *tool, const char *const *things)
{
    enum exit_code code = job_check_options(tool, &given.job);
    if (!code && !given.from && (!things[0] || things[1]))
        code = tool_fail_as(tool, EXIT_USAGE, "mint takes one recipe, or one capsule",
                            things[0] ? things[1] : "none is named", "coldmint mint RECIPE.yaml");
    if (!code && is_line())
        return mint_many(tool, things);
    if (!code && tool->more_ports[0])
        code = tool_fail_as(tool, EXIT_USAGE, "an option is given twice", "via",
                            "several sockets are for many units: --count N");
    if (!code)
        code = given.from ? mint_from(tool, things) : mint_file(tool, things[0]);
    return code;
}

static const struct poptOption options[] = {
    {"from", 0, POPT_ARG_STRING, &given.from, 0,
     "a folder of recipes and capsules: lists what fits the chip, newest first; with a TITLE, "
     "mints that",
     "FOLDER"},
    {"board", 0, POPT_ARG_STRING, &given.board, 0,
     "with --from: which board this is, where no marker on the chip tells", "NAME"},
    {"version", 0, POPT_ARG_STRING, &given.version, 0,
     "with --from: this version instead of the newest", "VERSION"},
    {"count", 0, POPT_ARG_INT, &given.count, 0,
     "hands-free, until so many have passed: waits for a unit, makes it, says PASS or FAIL, waits "
     "until it is taken away; at several sockets at once where --via is given several times",
     "N"},
    {"patience", 0, POPT_ARG_INT, &given.patience, 0,
     "hands-free, and ends when no unit came for so long", "SECONDS"},
    {"ledger", 0, POPT_ARG_STRING, &given.unit.ledger, 0,
     "gives out the recipe's numbers, and records each unit: a file, or postgresql://...",
     "LEDGER"},
    {"station", 0, POPT_ARG_STRING, &given.unit.station, 0,
     "this place's name in the ledger, in place of the computer's", "NAME"},
    {"number", 0, POPT_ARG_STRING, &given.unit.number, 0,
     "the unit's number; with a ledger, one that was made is made again", "N"},
    {"known", 0, POPT_ARG_STRING, &given.unit.known, 0,
     "a unit that holds a number of the ledger: leave it (as if not given), make it again under "
     "its number, or give it a new one",
     "leave|again|new"},
    {"yes", 0, POPT_ARG_NONE, &given.sealed.yes, 0, "of a capsule: do not ask", NULL},
    {"maker", 0, POPT_ARG_STRING, &given.sealed.maker, 0,
     "of a capsule: it must be signed with this key (the public one will do)", "FILE"},
    PLAN_OPTION(given.job, "show the steps and how long they take, and do nothing; ends with 1 "
                           "where something would change"),
    UNPROTECT_OPTION(given.job, "allow erasing a locked chip"),
    ANYWAY_OPTION(given.job),
    KEEP_BOOT_OPTION(given.job),
    LOSE_BOOT_OPTION(given.job),
    LOSE_DATA_OPTION(given.job),
    ALLOW_OPTION(given.job, ALLOW_WORDS),
    WAIT_OPTION(given.job),
    NO_BACKUP_OPTION(given.job),
    POPT_TABLEEND};

const struct verb verb_mint = {
    .name = "mint",
    .things = "[options] RECIPE | CAPSULE | --from FOLDER [TITLE]",
    .summary =
        "make a unit after a recipe: settings, loader, firmware, eeprom and lock bits in one go",
    .example = "coldmint mint --via sim:node.yaml recipes/strike-node.yaml",
    .mistake =
        "a recipe for a crystal, and a board without one: 'board-clock' says that there is one",
    .takes_ports = true,
    .options = options,
    .run = run,
};
