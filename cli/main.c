/*
 * The command-line tool: finds the verb, reads its options, runs it, and ends with one plain line and an exit code.
 */
#include "tool.h"
#include "config.h"
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/ioctl.h>
#include <unistd.h>

static const struct verb *const VERBS[] = {&verb_wires, &verb_look, &verb_keep, &verb_put,   &verb_match, &verb_blank, &verb_guard,
                                           &verb_tune,  &verb_raw,  &verb_mint, &verb_image, &verb_chips, &verb_bench};
enum { VERB_COUNT = sizeof VERBS / sizeof VERBS[0] };

struct tool the_tool;

static int wants_help;

static struct poptOption common_options[] = {
    {"via", 'v', POPT_ARG_STRING, &the_tool.via, 0, "through what: sim:BENCH.yaml (or COLDMINT_VIA, or the configuration file)",
     "PORT"},
    {"chip", 'c', POPT_ARG_STRING, &the_tool.chip, 0,
     "the chip that must be there; anything else stops the job. Of several on a two-wire bus: NAME@52", "NAME"},
    {"clock", 0, POPT_ARG_STRING, &the_tool.clock, 0,
     "the chip's own clock, if you know it: goes as fast as that allows; of a memory, the fastest for the bus", "HZ"},
    {"feed", 0, POPT_ARG_STRING, &the_tool.feed, 0,
     "feed the target with so many volts, if it has no supply of its own; 'search' finds them, in circuit", "VOLTS"},
    {"record", 0, POPT_ARG_STRING, &the_tool.record, 0, "write what crosses the wires to a VCD file, for a waveform viewer",
     "FILE"},
    {"json", 0, POPT_ARG_NONE, &the_tool.json, 0, "one JSON object on stdout, for machines", NULL},
    {"help", 'h', POPT_ARG_NONE, &wants_help, 0, "this help", NULL},
    POPT_TABLEEND};

static void print_options(const struct poptOption *options)
{
    for (; options && (options->longName || options->shortName); options++) {
        char name[60];
        snprintf(name, sizeof name, "--%s%s%s", options->longName, options->argDescrip ? " " : "",
                 options->argDescrip ? options->argDescrip : "");
        printf("  %-18s %s\n", name, options->descrip);
    }
}

static void print_help(void)
{
    printf("coldmint %s: programs chips in place\n\nusage: coldmint VERB [options] [things]\n\n", CM_VERSION);
    for (int i = 0; i < VERB_COUNT; i++)
        printf("  %-18s %s\n", VERBS[i]->name, VERBS[i]->summary);
    printf("\noptions of every verb:\n");
    print_options(common_options);
    printf("\nexit codes: 0 good, 1 chip and file differ, 2 usage, 3 no port, 4 no chip, 5 wrong chip, 6 protected,\n"
           "7 failed to write or verify, 8 contact lost, 9 bad file, 10 refused for safety, 130 interrupted\n\n"
           "'coldmint VERB --help' tells more. Begin with: coldmint look --via sim:BENCH.yaml\n");
}

static void print_verb_help(const struct verb *verb)
{
    printf("coldmint %s %s\n\n%s.\n\n", verb->name, verb->things, verb->summary);
    print_options(verb->options);
    print_options(common_options);
    printf("\nexample:\n  %s\n\nthe usual mistake:\n  %s\n", verb->example, verb->mistake);
}

static const struct verb *find_verb(const char *name)
{
    for (int i = 0; i < VERB_COUNT; i++) {
        if (strcmp(VERBS[i]->name, name) == 0)
            return VERBS[i];
    }
    return NULL;
}

/* A text behind a label, broken between words where the terminal's line ends. */
static void print_wrapped(const char *colour_code, const char *label, const char *off, const char *text)
{
    enum { INDENT = 10, LEAST = 40 };
    struct winsize size = {0};
    bool terminal = isatty(STDERR_FILENO) && ioctl(STDERR_FILENO, TIOCGWINSZ, &size) == 0 && size.ws_col >= INDENT + LEAST;
    size_t room = terminal ? (size_t)(size.ws_col - INDENT) : SIZE_MAX;
    fprintf(stderr, "%s%s%s%*s", colour_code, label, off, INDENT - (int)strlen(label), "");
    while (strlen(text) > room) {
        size_t end = room;
        while (end > LEAST / 2 && text[end] != ' ')
            end--;
        fprintf(stderr, "%.*s\n%*s", (int)end, text, INDENT, "");
        text += end + (text[end] == ' ');
    }
    fprintf(stderr, "%s\n", text);
}

static void print_words(const struct tool *tool)
{
    fflush(stdout); // what was said before comes first, in a file too
    const struct words *words = &tool->words;
    bool plain = !isatty(STDERR_FILENO) || (getenv("NO_COLOR") && *getenv("NO_COLOR"));
    const char *red = plain ? "" : "\033[1;31m", *dim = plain ? "" : "\033[2m", *off = plain ? "" : "\033[0m";
    fprintf(stderr, "%sfailed%s    %s: %s\n", red, off, tool->verb->name, words->what);
    if (words->evidence[0])
        print_wrapped(dim, "evidence", off, words->evidence);
    if (words->try[0])
        print_wrapped(dim, "try", off, words->try);
}

static void print_answer(struct tool *tool, enum exit_code code)
{
    set_json(tool, "verb", json_string(tool->verb->name));
    set_json(tool, "exit", json_integer(code));
    set_json(tool, "good", json_boolean(code == EXIT_GOOD));
    if (code == EXIT_GOOD) {
        set_json(tool, "verdict", json_string(tool->last_line));
    } else {
        json_t *failure = json_object_get(tool->answer, "failure");
        if (!failure) {
            failure = json_object();
            set_json(tool, "failure", failure);
        }
        json_object_set_new(failure, "what", json_string(tool->words.what));
        json_object_set_new(failure, "evidence", json_string(tool->words.evidence));
        json_object_set_new(failure, "try", json_string(tool->words.try));
    }
    json_dumpf(tool->answer, stdout, JSON_INDENT(2) | JSON_SORT_KEYS);
    printf("\n");
}

static enum exit_code finish(struct tool *tool, enum exit_code code)
{
    tool_close(tool);
    if (!code)
        code = tool->words.code;
    if (tool->json)
        print_answer(tool, code);
    else if (code == EXIT_GOOD && tool->last_line[0])
        printf("%sgood%s      %s\n", colour("\033[1;32m"), colour("\033[0m"), tool->last_line);
    else if (code != EXIT_GOOD)
        print_words(tool);
    json_decref(tool->answer);
    if (fflush(stdout) != 0 || ferror(stdout)) // a full disk must not look like success
        return code ? code : EXIT_BAD_FILE;
    return code;
}

static enum exit_code run_verb(struct tool *tool, int argc, const char **argv)
{
    struct poptOption options[] = {{NULL, '\0', POPT_ARG_INCLUDE_TABLE, common_options, 0, NULL, NULL},
                                   {NULL, '\0', POPT_ARG_INCLUDE_TABLE, (void *)(uintptr_t)tool->verb->options, 0, NULL, NULL},
                                   POPT_TABLEEND};
    if (!tool->verb->options)
        options[1] = (struct poptOption)POPT_TABLEEND;
    poptContext context = poptGetContext("coldmint", argc, argv, options, 0);
    int result = poptGetNextOpt(context);
    enum exit_code code;
    if (result < -1) {
        char what[200];
        snprintf(what, sizeof what, "%.80s: %s", poptBadOption(context, POPT_BADOPTION_NOALIAS), poptStrerror(result));
        code = tool_fail_as(tool, EXIT_USAGE, what, "", "'coldmint VERB --help' lists the options");
    } else if (wants_help) {
        print_verb_help(tool->verb);
        code = EXIT_GOOD;
    } else {
        const char *const nothing[] = {NULL};
        const char **things = poptGetArgs(context);
        config_apply(tool);
        code = tool->verb->run(tool, things ? things : nothing);
    }
    code = finish(tool, code);
    poptFreeContext(context);
    return code;
}

static void on_interrupt(int signal_number)
{
    (void)signal_number;
    tool_interrupted = 1;
}

int main(int argc, const char **argv)
{
    if (argc < 2 || strcmp(argv[1], "--help") == 0 || strcmp(argv[1], "-h") == 0 || strcmp(argv[1], "help") == 0) {
        print_help();
        return argc < 2 ? EXIT_USAGE : EXIT_GOOD;
    }
    if (strcmp(argv[1], "--version") == 0) {
        printf("coldmint %s\n", CM_VERSION);
        return EXIT_GOOD;
    }
    the_tool.verb = find_verb(argv[1]);
    if (!the_tool.verb) {
        fprintf(stderr, "failed    there is no verb '%s'\ntry       'coldmint --help' lists them; the verb comes first\n", argv[1]);
        return EXIT_USAGE;
    }
    the_tool.answer = json_object();
    struct sigaction action = {.sa_handler = on_interrupt};
    sigaction(SIGINT, &action, NULL);
    sigaction(SIGTERM, &action, NULL);
    sigaction(SIGHUP, &action, NULL);
    signal(SIGPIPE, SIG_IGN); // whoever reads our output may go; the target must still be let go
    argv[1] = argv[0];
    int code = (int)run_verb(&the_tool, argc - 1, argv + 1);
    free(the_tool.via);
    free(the_tool.chip);
    free(the_tool.clock);
    free(the_tool.feed);
    free(the_tool.record);
    free(the_tool.region);
    free(the_tool.format);
    free(the_tool.bytes);
    free(the_tool.notes);
    free(the_tool.package);
    free(the_tool.output);
    for (char **name = the_tool.allow; name && *name; name++)
        free(*name);
    free(the_tool.allow);
    file_close_pipes();
    return code;
}
