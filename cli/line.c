/*
 * A line of units:
 *
 *     wait for contact -> make -> PASS or FAIL -> wait until it is gone -> ...
 *
 * Contact is good when several looks in a row were, with a steady supply. A unit that has a supply
 * and is silent is a failure, too. A socket is a thread with a host context and a port of its own;
 * what is shown and counted they share.
 */
#include "line.h"
#include "begin.h"
#include "contact.h"
#include "say.h"
#include "words/fail.h"
#include <pthread.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/ioctl.h>
#include <time.h>
#include <unistd.h>

enum {
    GOOD_LOOKS = 3,    /* in a row: there is contact */
    SILENT_LOOKS = 8,  /* with a supply and without an answer: the unit is dead */
    LOOK_US = 50000,   /* between two looks */
    STEADY_PARTS = 20, /* the supply may differ by a twentieth */
    MS = 1000
};

/* What all sockets share. */
struct line {
    const struct line_options *given;
    struct tool *tool; /* says and answers */
    pthread_mutex_t lock;
    pthread_cond_t changed;
    int passed, failed, left, under_way;
    uint64_t sum_ms;
    uint32_t best_ms, worst_ms;
    json_t *units;
    bool ends; /* enough are made, or one socket could not go on */
    enum exit_code code;
};

struct socket {
    struct line *line;
    pthread_t thread;
    int place; /* from 1; 0: there is only one */
    struct tool tool;
    struct cm_recipe recipe;
    struct cm_ledger *ledger;
};

/* --- what is shown ----------------------------------------------------------------------- */

static unsigned terminal_width(void)
{
    struct winsize size = {0};
    bool has = isatty(STDOUT_FILENO) && ioctl(STDOUT_FILENO, TIOCGWINSZ, &size) == 0;
    return has ? size.ws_col : 0;
}

/* What became of a unit; one that was made before is neither good nor bad. */
enum { PASSED, FAILED, LEFT };
static const struct {
    const char *word, *colour;
} RESULTS[] = {
    [PASSED] = {"PASS", "30;42"}, [FAILED] = {"FAIL", "1;37;41"}, [LEFT] = {"SAME", "30;43"}};

/* Over the whole width of a terminal, with the bell. */
static void show_result(const struct socket *socket, const struct unit *unit, const char *more)
{
    char number[UNIT_TEXT], text[400], place[24] = "";
    const int result = unit->is_left ? LEFT : unit->record.passed ? PASSED : FAILED;
    if (socket->place)
        snprintf(place, sizeof place, "socket %d, ", socket->place);
    unit_number_text(unit, number);
    snprintf(text, sizeof text, "%s%s%s%.2f s%s%s", place, number, number[0] ? ", " : "",
             unit->record.took_ms / 1000.0, more[0] ? ": " : "", more);
    if (socket->line->tool->given.json)
        return;
    unsigned width = terminal_width();
    printf("%s%s      ", ink(RESULTS[result].colour), RESULTS[result].word);
    print_shown(stdout, text);
    printf("%*s%s%s\n", width > strlen(text) + 10 ? (int)(width - strlen(text) - 10) : 0, "",
           ink("0"), width ? "\a" : "");
    fflush(stdout);
}

static void add_json(struct line *line, const struct socket *socket, const struct unit *unit,
                     const char *cause)
{
    json_t *object =
        json_pack("{s:b, s:I, s:o}", "passed", (int)unit->record.passed, "took_ms",
                  (json_int_t)unit->record.took_ms, "via", json_text(socket->tool.port_name));
    if (unit->record.has_number)
        json_object_set_new(object, "number", json_integer((json_int_t)unit->record.number));
    if (unit->is_left)
        json_object_set_new(object, "known", json_integer((json_int_t)unit->known_number));
    else if (cause[0])
        json_object_set_new(object, "cause", json_text(cause));
    json_array_append_new(line->units, object);
}

/* --- counting ---------------------------------------------------------------------------- */

/* Enough are made, or it cannot go on. Called with the lock. */
static bool has_ended(const struct line *line)
{
    return line->ends || tool_interrupted ||
           (line->given->count && line->passed >= line->given->count);
}

static bool is_over(struct line *line)
{
    pthread_mutex_lock(&line->lock);
    bool over = has_ended(line);
    pthread_mutex_unlock(&line->lock);
    return over;
}

/* May the unit that is there be begun? Where so many are under way as are still wanted, it waits:
 * one of them may fail. False: no more are wanted. */
static bool may_begin(struct line *line)
{
    enum { LOOK_NS = 200000000, NS = 1000000000 };
    const int wanted = line->given->count;
    pthread_mutex_lock(&line->lock);
    while (!has_ended(line) && wanted && line->passed + line->under_way >= wanted) {
        struct timespec until;
        clock_gettime(CLOCK_MONOTONIC, &until);
        until.tv_nsec += LOOK_NS; // Ctrl-C is seen now and then
        until.tv_sec += until.tv_nsec / NS;
        until.tv_nsec %= NS;
        pthread_cond_timedwait(&line->changed, &line->lock, &until);
    }
    bool may = !has_ended(line);
    line->under_way += may;
    pthread_mutex_unlock(&line->lock);
    return may;
}

/* `was_begun`: may_begin had counted it. */
static void end_unit(struct socket *socket, const struct unit *unit, const char *cause,
                     bool was_begun)
{
    struct line *line = socket->line;
    const uint32_t took = unit->record.took_ms;
    pthread_mutex_lock(&line->lock);
    line->under_way -= was_begun;
    if (unit->is_left) {
        line->left++;
    } else if (unit->record.passed) {
        line->best_ms = !line->passed || took < line->best_ms ? took : line->best_ms;
        line->worst_ms = took > line->worst_ms ? took : line->worst_ms;
        line->sum_ms += took;
        line->passed++;
    } else {
        line->failed++;
    }
    show_result(socket, unit, cause);
    add_json(line, socket, unit, cause);
    pthread_cond_broadcast(&line->changed);
    pthread_mutex_unlock(&line->lock);
}

static void give_up(struct socket *socket, enum exit_code code)
{
    struct line *line = socket->line;
    pthread_mutex_lock(&line->lock);
    if (!line->code) {
        line->code = code;
        line->tool->words = socket->tool.words;
    }
    line->ends = true;
    pthread_cond_broadcast(&line->changed);
    pthread_mutex_unlock(&line->lock);
}

/* --- contact ----------------------------------------------------------------------------- */

enum found { FOUND_UNIT, FOUND_DEAD, FOUND_NOTHING, FOUND_TROUBLE };

static bool is_steady(const struct contact *before, const struct contact *now)
{
    unsigned off = before->mv > now->mv ? before->mv - now->mv : now->mv - before->mv;
    return !now->has_supply || off * STEADY_PARTS <= now->mv;
}

static bool is_fed(const struct socket *socket, const struct contact *contact)
{
    return contact->has_supply && contact->mv >= socket->recipe.part->supply_min_mv;
}

/* Waits for a unit. `why`: of one that is silent. */
static enum found wait_for_unit(struct socket *socket, char *why, size_t room)
{
    struct tool *tool = &socket->tool;
    struct contact before = {.asked = 0}, now;
    const uint32_t begun = tool->port->lines->now_us(tool->port),
                   patience = (uint32_t)socket->line->given->patience * 1000 * MS;
    int good = 0, silent = 0;
    for (;;) {
        if (!contact_look(tool, &now))
            return FOUND_TROUBLE;
        bool is_good = now.right == CONTACT_ASKS && (!good || is_steady(&before, &now));
        good = is_good ? good + 1 : 0;
        silent = !now.right && is_fed(socket, &now) ? silent + 1 : 0;
        before = now;
        if (good == GOOD_LOOKS)
            return FOUND_UNIT;
        if (silent == SILENT_LOOKS) {
            snprintf(why, room, "%s", now.why);
            return FOUND_DEAD;
        }
        bool is_late = patience && tool->port->lines->now_us(tool->port) - begun > patience;
        if ((!now.right && !silent && is_late) || is_over(socket->line) ||
            !contact_wait(tool, LOOK_US))
            return FOUND_NOTHING;
    }
}

/* Until neither chip nor supply is there, twice in a row. */
static bool wait_until_gone(struct socket *socket)
{
    struct contact now;
    for (int gone = 0; gone < 2;) {
        if (!contact_look(&socket->tool, &now))
            return false;
        gone = !now.right && !is_fed(socket, &now) ? gone + 1 : 0;
        if (is_over(socket->line) || !contact_wait(&socket->tool, LOOK_US))
            return false;
    }
    return true;
}

/* --- a unit ------------------------------------------------------------------------------ */

static enum exit_code do_job(struct socket *socket, struct unit *unit, struct cm_job *job)
{
    struct tool *tool = &socket->tool;
    job->unit_facts = unit->has_facts ? &unit->facts : NULL;
    enum exit_code code = host_code(tool, cm_job_want_recipe(job, &socket->recipe));
    return code ? code : host_code(tool, cm_job_run(job));
}

static struct cm_job *new_job(struct socket *socket)
{
    struct cm_job *job = job_new(&socket->tool, socket->line->given->job);
    if (job) {
        job->told = NULL;
        job->progress = NULL;
    }
    return job;
}

static enum cm_status begin_session(struct tool *tool)
{
    enum cm_status status = tool_start_session(tool);
    if (!status)
        status = cm_identify(&tool->session, tool->given.chip);
    return tool_learn_clock(tool, status);
}

/* A server that is away is waited for: without a number nothing can be made. */
static enum exit_code begin_unit(struct socket *socket, struct unit *unit, struct cm_job *job)
{
    struct tool *tool = &socket->tool;
    const struct unit_options *given = socket->line->given->unit;
    enum exit_code code = unit_begin(tool, unit, &socket->recipe, socket->ledger, given, job);
    for (bool told = false; code && tool->host.error.kind == CM_ERROR_LEDGER_AWAY; told = true) {
        if (!told)
            say(socket->line->tool, "note", "the ledger's server does not answer: waiting for it");
        if (tool_interrupted)
            break;
        memset(&tool->words, 0, sizeof tool->words);
        sleep(1);
        // for the same unit: it may have one already
        code = unit_take_number(tool, unit, given, job);
    }
    return code;
}

static void make_unit(struct socket *socket)
{
    struct tool *tool = &socket->tool;
    struct unit unit = {.ledger = NULL};
    char cause[400] = "";
    enum cm_status status = begin_session(tool);
    tool->open = true;
    struct cm_job *job = new_job(socket);
    enum exit_code code = job ? begin_unit(socket, &unit, job) : tool->words.code;
    bool has_begun = !code;
    if (status && has_begun)
        code = tool_fail(tool, status);
    else if (has_begun)
        code = do_job(socket, &unit, job);
    if (has_begun)
        code = unit_end(tool, &unit, job, code);
    unit.record.passed = code == EXIT_GOOD;
    if (code)
        snprintf(cause, sizeof cause, "%s", tool->words.what);
    cm_job_free(job);
    cm_close(&tool->session);
    tool->open = false;
    end_unit(socket, &unit, cause, true);
    bool is_its_own = unit.is_left || tool->host.error.kind == CM_ERROR_NUMBER_RANGE;
    if (!has_begun && !is_its_own) // no numbers any more: that no other unit can mend
        give_up(socket, code);
    memset(&tool->words, 0, sizeof tool->words);
}

/* A unit that has its supply, and does not answer. */
static void tell_dead(struct socket *socket, const char *why)
{
    struct unit unit;
    tool_fail_as(&socket->tool, EXIT_NO_CHIP, why, "", "");
    enum exit_code code = unit_begin(&socket->tool, &unit, &socket->recipe, socket->ledger,
                                     socket->line->given->unit, NULL);
    if (!code)
        (void)unit_end(&socket->tool, &unit, NULL, EXIT_NO_CHIP);
    end_unit(socket, &unit, why, false);
    memset(&socket->tool.words, 0, sizeof socket->tool.words);
}

static void *work(void *context)
{
    struct socket *socket = context;
    struct line *line = socket->line;
    char why[200];
    while (!is_over(line)) {
        enum found found = wait_for_unit(socket, why, sizeof why);
        if (found == FOUND_TROUBLE)
            give_up(socket, tool_fail(&socket->tool, CM_PORT_FAILED));
        if (found == FOUND_NOTHING || (found == FOUND_UNIT && !may_begin(line)))
            break;
        if (found == FOUND_UNIT)
            make_unit(socket);
        else if (found == FOUND_DEAD)
            tell_dead(socket, why);
        if (!is_over(line) && !wait_until_gone(socket))
            break;
    }
    return NULL;
}

/* --- setting up -------------------------------------------------------------------------- */

static enum exit_code open_socket(struct socket *socket, struct line *line, const char *port)
{
    struct tool *tool = &socket->tool;
    const struct line_options *given = line->given;
    socket->line = line;
    tool->verb = line->tool->verb;
    cm_host_begin(&tool->host, line->tool->host.ports);
    tool->port_name = port;
    tool->answer = json_object();
    tool->workspace = malloc(TOOL_WORKSPACE);
    if (!tool->workspace)
        return tool_fail_memory(tool);
    enum exit_code code =
        host_code(tool, cm_recipe_load(&tool->host, given->recipe, &socket->recipe));
    if (!code)
        code = unit_open_ledger(tool, given->unit, &socket->ledger);
    if (!code)
        code = tool_open_port(tool);
    if (code)
        return code;
    const char *asserted = line->tool->given.chip;
    if (asserted && strcmp(asserted, socket->recipe.chip.text) != 0)
        return tool_fail_as(tool, EXIT_USAGE, "the recipe is for another chip",
                            socket->recipe.chip.text,
                            "leave --chip out: the recipe asserts its own");
    tool->given.chip = strdup(socket->recipe.chip.text);
    tool->given.clock = line->tool->given.clock;
    tool->device = line->tool->device;
    tool->given.json = 1; // a socket says nothing by itself
    tool->board_hz = socket->recipe.board_hz;
    return EXIT_GOOD;
}

static void close_socket(struct socket *socket)
{
    struct tool *tool = &socket->tool;
    unit_tell_ledger(socket->line->tool, socket->ledger);
    cm_ledger_close(socket->ledger);
    cm_recipe_free(&socket->recipe);
    tool->open = false;
    tool_close(tool);
    free(tool->given.chip);
    json_decref(tool->answer);
    cm_host_end(&tool->host);
}

/* The first one is the tool's own port. */
static const char *port_of(const struct line *line, int index)
{
    return index ? line->tool->more_ports[index - 1] : line->tool->port_name;
}

static int socket_count(const struct tool *tool)
{
    int count = 1;
    while (tool->more_ports[count - 1])
        count++;
    return count;
}

/* --- the end ----------------------------------------------------------------------------- */

static void say_summary(struct line *line)
{
    struct tool *tool = line->tool;
    int all = line->passed + line->failed;
    double mean = line->passed ? (double)line->sum_ms / line->passed / 1000 : 0;
    if (all)
        say(tool, "units", "%d passed, %d failed: a yield of %.1f %%", line->passed, line->failed,
            100.0 * line->passed / all);
    if (line->left)
        say(tool, all ? "" : "units", "%d came that were made before, and were left as they are",
            line->left);
    if (line->passed)
        say(tool, "time", "%.2f s a unit; the best %.2f s, the worst %.2f s", mean,
            line->best_ms / 1000.0, line->worst_ms / 1000.0);
    set_json(tool, "units", json_incref(line->units));
    set_json(tool, "passed", json_integer(line->passed));
    set_json(tool, "failed", json_integer(line->failed));
    set_json(tool, "left", json_integer(line->left));
}

static enum exit_code end_line(struct line *line)
{
    struct tool *tool = line->tool;
    char evidence[100], advice[100], units[SHORT_TEXT];
    say_summary(line);
    if (line->code)
        return line->code;
    if (!line->given->count || line->passed >= line->given->count) {
        say_last(tool, "%s made", count_text((uint32_t)line->passed, "unit", units));
        return EXIT_GOOD;
    }
    snprintf(evidence, sizeof evidence, "%d of %d units were made", line->passed,
             line->given->count);
    snprintf(advice, sizeof advice, "with --count %d the same command makes the rest",
             line->given->count - line->passed);
    return tool_fail_as(tool, tool_interrupted ? EXIT_INTERRUPTED : EXIT_NO_CHIP,
                        tool_interrupted ? "stopped" : "no more units came", evidence, advice);
}

enum exit_code line_run(struct tool *tool, const struct line_options *given)
{
    int count = socket_count(tool), open = 0;
    struct line line = {.given = given, .tool = tool, .units = json_array()};
    struct socket *sockets = calloc((size_t)count, sizeof *sockets);
    if (!sockets)
        return tool_fail_memory(tool);
    pthread_mutex_init(&line.lock, NULL);
    pthread_condattr_t monotonic; // a wait is as long, whatever the clock is set to
    pthread_condattr_init(&monotonic);
    pthread_condattr_setclock(&monotonic, CLOCK_MONOTONIC);
    pthread_cond_init(&line.changed, &monotonic);
    pthread_condattr_destroy(&monotonic);
    for (; open < count && !line.code; open++) {
        sockets[open].place = count > 1 ? open + 1 : 0;
        enum exit_code code = open_socket(&sockets[open], &line, port_of(&line, open));
        if (code)
            give_up(&sockets[open], code);
    }
    int begun = 0;
    while (!line.code && begun < count &&
           pthread_create(&sockets[begun].thread, NULL, work, &sockets[begun]) == 0)
        begun++;
    for (int i = 0; i < begun; i++)
        pthread_join(sockets[i].thread, NULL);
    for (int i = 0; i < open; i++)
        close_socket(&sockets[i]);
    free(sockets);
    enum exit_code code = begun < count && !line.code ? tool_fail_memory(tool) : end_line(&line);
    json_decref(line.units);
    pthread_mutex_destroy(&line.lock);
    pthread_cond_destroy(&line.changed);
    return code;
}
