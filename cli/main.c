/*
 * The command-line tool: finds the verb, reads its options, runs it, and ends with one plain line
 * and an exit code.
 */
#include "begin.h"
#include "help.h"
#include "list.h"
#include "man.h"
#include "nearest.h"
#include "options.h"
#include "say.h"
#include "words/fail.h"
#include <ctype.h>
#include <fcntl.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/ioctl.h>
#include <unistd.h>

/* A text behind a label, broken between words where the terminal's line ends. */
static void print_wrapped(const char *colour_code, const char *label, const char *off,
                          const char *text)
{
    enum { INDENT = 10, LEAST = 40, MOST_LINE = 600 };
    struct winsize size = {0};
    bool terminal = isatty(STDERR_FILENO) && ioctl(STDERR_FILENO, TIOCGWINSZ, &size) == 0 &&
                    size.ws_col >= INDENT + LEAST;
    size_t room = terminal ? (size_t)(size.ws_col - INDENT) : SIZE_MAX;
    room = terminal && room >= MOST_LINE ? MOST_LINE - 1 : room;
    fprintf(stderr, "%s%s%s%*s", colour_code, label, off, INDENT - (int)strlen(label), "");
    while (strlen(text) > room) {
        size_t end = room;
        while (end > LEAST / 2 && text[end] != ' ')
            end--;
        char line[MOST_LINE];
        snprintf(line, sizeof line, "%.*s", (int)end, text);
        print_shown(stderr, line);
        fprintf(stderr, "\n%*s", INDENT, "");
        text += end + (text[end] == ' ');
    }
    print_shown(stderr, text);
    fprintf(stderr, "\n");
}

static void print_words(const struct tool *tool)
{
    fflush(stdout); // what was said before comes first, in a file too
    const struct words *words = &tool->words;
    bool plain = !isatty(STDERR_FILENO) || (getenv("NO_COLOR") && *getenv("NO_COLOR"));
    const char *red = plain ? "" : "\033[1;31m", *dim = plain ? "" : "\033[2m",
               *off = plain ? "" : "\033[0m";
    fprintf(stderr, "%sfailed%s    %s: ", red, off, tool->verb->name);
    print_shown(stderr, words->what);
    fprintf(stderr, "\n");
    if (words->evidence[0])
        print_wrapped(dim, "evidence", off, words->evidence);
    if (words->try[0])
        print_wrapped(dim, "try", off, words->try);
}

static void print_answer(struct tool *tool, enum exit_code code)
{
    set_json(tool, "verb", json_text(tool->verb->name));
    set_json(tool, "exit", json_integer(code));
    set_json(tool, "good", json_boolean(code == EXIT_GOOD));
    if (code == EXIT_GOOD) {
        set_json(tool, "verdict", json_text(tool->last_line));
    } else {
        json_t *failure = json_object_get(tool->answer, "failure");
        if (!failure) {
            failure = json_object();
            set_json(tool, "failure", failure);
        }
        json_object_set_new(failure, "what", json_text(tool->words.what));
        json_object_set_new(failure, "evidence", json_text(tool->words.evidence));
        json_object_set_new(failure, "try", json_text(tool->words.try));
    }
    json_print(tool->answer);
}

static void print_last_line(const struct tool *tool)
{
    printf("%sgood%s      ", ink("1;32"), ink("0"));
    print_shown(stdout, tool->last_line);
    printf("\n");
}

static enum exit_code finish(struct tool *tool, enum exit_code code)
{
    tool_close(tool);
    if (!code)
        code = tool->words.code;
    if (tool->given.json)
        print_answer(tool, code);
    else if (code == EXIT_GOOD && tool->last_line[0])
        print_last_line(tool);
    else if (code != EXIT_GOOD)
        print_words(tool);
    json_decref(tool->answer);
    if (fflush(stdout) != 0 || ferror(stdout)) // a full disk must not look like success
        return code ? code : EXIT_BAD_FILE;
    return code;
}

/* An option by its long name, "output" or "output=x", or by its letter. */
static const struct poptOption *find_option(const struct poptOption *options, const char *name,
                                            char letter)
{
    const struct poptOption *found = NULL;
    for (; !found &&
           (options->longName || options->shortName || options->argInfo == POPT_ARG_INCLUDE_TABLE);
         options++) {
        size_t length = name ? strcspn(name, "=") : 0;
        if (options->argInfo == POPT_ARG_INCLUDE_TABLE)
            found = find_option(options->arg, name, letter);
        else if (name ? options->longName && strlen(options->longName) == length &&
                            strncmp(options->longName, name, length) == 0
                      : options->shortName == letter)
            found = options;
    }
    return found;
}

static bool has_value(const struct poptOption *option)
{
    unsigned kind = option ? option->argInfo & POPT_ARG_MASK : 0;
    return kind == POPT_ARG_STRING || kind == POPT_ARG_INT;
}

/* An option with a value, and the value; NULL: there is none. */
struct given_option {
    const struct poptOption *option;
    const char *value;
};

/* The option with a value that a word begins: --output x, --output=x, -o x, -ox, -jo x. Its value,
 * where that stands in the word. */
static struct given_option option_of(const struct poptOption *options, const char *word)
{
    const char *equals = strchr(word, '=');
    if (strncmp(word, "--", 2) == 0)
        return (struct given_option){find_option(options, word + 2, 0), equals ? equals + 1 : NULL};
    for (const char *letter = word + 1; *word == '-' && *letter; letter++) {
        const struct poptOption *option = find_option(options, NULL, *letter);
        const char *rest = letter + 1 + (letter[1] == '=');
        if (!option || has_value(option))
            return (struct given_option){option, letter[1] ? rest : NULL};
    }
    return (struct given_option){NULL, NULL};
}

/* The next option from argument `at` on; values are stepped over. False: there are no more. */
static bool next_option(const struct poptOption *options, int argc, const char **argv, int *at,
                        struct given_option *given)
{
    while (*at < argc && strcmp(argv[*at], "--") != 0) {
        *given = option_of(options, argv[(*at)++]);
        if (has_value(given->option) && !given->value && *at < argc)
            given->value = argv[(*at)++];
        if (given->option)
            return true;
    }
    return false;
}

/* The next one that has a value. */
static bool next_given(const struct poptOption *options, int argc, const char **argv, int *at,
                       struct given_option *given)
{
    while (next_option(options, argc, argv, at, given)) {
        if (has_value(given->option))
            return true;
    }
    return false;
}

/* A text or number that is given twice: which one was meant? Lists (--allow) may be. */
static const char *given_twice(const struct poptOption *options, int argc, const char **argv)
{
    enum { MOST = 64 };
    const struct poptOption *seen[MOST];
    struct given_option given;
    int count = 0;
    for (int at = 1; count < MOST && next_given(options, argc, argv, &at, &given);) {
        for (int k = 0; k < count; k++) {
            if (seen[k] == given.option)
                return given.option->longName;
        }
        seen[count++] = given.option;
    }
    return NULL;
}

/* Numbers as people write them: popt takes 010 for 8, and "" for 0. */
static bool is_amount(const struct given_option *given)
{
    static const char *const MAY_BE_0[] = {"rows", "bank"};
    const char *digits = given->value + (given->value[0] == '-');
    bool may_be_0 = false;
    for (size_t i = 0; i < sizeof MAY_BE_0 / sizeof MAY_BE_0[0]; i++)
        may_be_0 |= strcmp(given->option->longName, MAY_BE_0[i]) == 0;
    return strspn(digits, "0123456789") == strlen(digits) &&
           (digits[0] != '0' || (may_be_0 && !digits[1]));
}

/* An option whose value is empty (a variable that is not set is enough), or no number where one is
 * due. A verb says what is too large, or negative. */
static bool has_bad_value(const struct poptOption *options, int argc, const char **argv,
                          struct given_option *given)
{
    for (int at = 1; next_given(options, argc, argv, &at, given);) {
        bool is_number = (given->option->argInfo & POPT_ARG_MASK) == POPT_ARG_INT;
        if (given->value && (!given->value[0] || (is_number && !is_amount(given))))
            return true;
    }
    return false;
}

static enum exit_code fail_value(struct tool *tool, const struct given_option *given)
{
    char what[80], example[80];
    bool is_empty = !given->value[0];
    snprintf(what, sizeof what, is_empty ? "--%s has an empty value" : "--%s takes no such number",
             given->option->longName);
    snprintf(example, sizeof example, "--%s %s", given->option->longName,
             given->option->argDescrip ? given->option->argDescrip : "VALUE");
    return tool_fail_as(tool, EXIT_USAGE, what, given->value,
                        is_empty ? "leave it out, or give it one" : example);
}

/* What the options do not say: COLDMINT_VIA, then the configuration file. */
static enum exit_code take_options(struct tool *tool, struct cm_config *config)
{
    const char *via = getenv("COLDMINT_VIA");
    tool->given = common_given;
    if (!cm_config_read(&tool->host, config)) {
        tool_fail_host(tool);
        fprintf(stderr, "note      ");
        print_shown(stderr, tool->host.error.path);
        fprintf(stderr, " is passed over: %s\n", tool->words.evidence);
        memset(&tool->words, 0, sizeof tool->words);
    }
    char **vias = tool->given.vias;
    const char *name = vias ? vias[0] : via && *via ? via : config->via;
    int more = 0;
    if (!tool->given.clock && config->clock)
        tool->given.clock = strdup(config->clock);
    tool->port_name = name ? cm_config_port(config, name) : NULL;
    while (vias && vias[more + 1] && more < TOOL_MORE_PORTS) {
        tool->more_ports[more] = cm_config_port(config, vias[more + 1]);
        more++;
    }
    bool is_too_many = more && (!tool->verb->takes_ports || vias[more + 1]);
    return is_too_many ? tool_fail_as(tool, EXIT_USAGE, "an option is given twice", "via",
                                      "give it once; mint --count takes it up to 32 times")
                       : EXIT_GOOD;
}

static void offer_options(struct nearest *nearest, const struct poptOption *options)
{
    for (; options->longName || options->shortName || options->argInfo == POPT_ARG_INCLUDE_TABLE;
         options++) {
        if (options->argInfo == POPT_ARG_INCLUDE_TABLE)
            offer_options(nearest, options->arg);
        else if (options->longName)
            nearest_offer(nearest, options->longName);
    }
}

static enum exit_code fail_option(struct tool *tool, const struct poptOption *options,
                                  const char *given, int result)
{
    char what[200], typed[80], text[120];
    snprintf(what, sizeof what, "%.80s: %s", given, poptStrerror(result));
    snprintf(typed, sizeof typed, "%.*s", (int)strcspn(given + strspn(given, "-"), "="),
             given + strspn(given, "-"));
    struct nearest nearest = {.typed = typed};
    offer_options(&nearest, options);
    if (nearest.name)
        snprintf(text, sizeof text, "--%s, perhaps? 'coldmint %s --help' lists the options",
                 nearest.name, tool->verb->name);
    else
        snprintf(text, sizeof text, "'coldmint %s --help' lists the options", tool->verb->name);
    return tool_fail_as(tool, EXIT_USAGE, what, "", text);
}

/* An option of the verb that this act does not heed: passed over, it would be taken for done. */
static const char *not_for(const struct verb *verb, const struct act *act,
                           const struct poptOption *options, int argc, const char **argv)
{
    struct given_option given;
    for (int at = 1; act && verb->options && next_option(options, argc, argv, &at, &given);) {
        const char *name = given.option->longName;
        bool is_own = name && find_option(verb->options, name, 0) == given.option;
        if (is_own && !act_heeds(act, name))
            return name;
    }
    return NULL;
}

static enum exit_code fail_act(struct tool *tool, const struct act *act, const char *option)
{
    char what[120], text[300] = "";
    snprintf(what, sizeof what, "%s %s takes no --%s", tool->verb->name, act->name, option);
    for (const struct act *other = tool->verb->acts; other->name; other++) {
        size_t used = strlen(text);
        if (act_heeds(other, option))
            snprintf(text + used, sizeof text - used, "%s%s", used ? ", " : "it is for ",
                     other->name);
    }
    return tool_fail_as(tool, EXIT_USAGE, what, "", text);
}

/* The verb's help, or that of the act that is named. */
static enum exit_code help_of(const struct verb *verb, const struct act *act)
{
    if (act)
        print_act_help(verb, act);
    else
        print_verb_help(verb);
    return EXIT_GOOD;
}

static enum exit_code run_verb(struct tool *tool, int argc, const char **argv)
{
    struct cm_config config = {.via = NULL};
    struct poptOption options[COMMON_COUNT + 2] = {POPT_TABLEEND};
    int used = 0;
    for (int i = 0; i <= COMMON_COUNT; i++) {
        const struct poptOption *table =
            i < COMMON_COUNT ? common_options[i].options : tool->verb->options;
        if (table && (i == COMMON_COUNT || verb_heeds(tool->verb, i)))
            options[used++] = (struct poptOption){
                NULL, '\0', POPT_ARG_INCLUDE_TABLE, (void *)(uintptr_t)table, 0, NULL, NULL};
    }
    options[used] = (struct poptOption)POPT_TABLEEND;
    poptContext context = poptGetContext("coldmint", argc, argv, options, 0);
    const char *twice = given_twice(options, argc, argv);
    struct given_option bad;
    bool is_bad = has_bad_value(options, argc, argv, &bad);
    int result = twice || is_bad ? -1 : poptGetNextOpt(context);
    enum exit_code code;
    if (twice) {
        code = tool_fail_as(tool, EXIT_USAGE, "an option is given twice", twice, "give it once");
    } else if (is_bad) {
        code = fail_value(tool, &bad);
    } else if (result < -1) {
        code = fail_option(tool, options, poptBadOption(context, POPT_BADOPTION_NOALIAS), result);
    } else {
        static const char *nothing[] = {NULL};
        const char **things = poptGetArgs(context);
        things = things ? things : nothing;
        const struct act *act = find_act(tool->verb, things[0]);
        const char *strange = wants_help ? NULL : not_for(tool->verb, act, options, argc, argv);
        if (wants_help)
            code = help_of(tool->verb, act);
        else
            code = strange ? fail_act(tool, act, strange) : take_options(tool, &config);
        if (!code && !wants_help)
            code = tool->verb->run(tool, things);
    }
    code = finish(tool, code);
    cm_config_free(&config);
    poptFreeContext(context);
    return code;
}

static void on_interrupt(int signal_number)
{
    (void)signal_number;
    tool_interrupted = 1;
}

/* 0 to 2 are open: else the next file that is opened would take what is said. */
static void open_standard_streams(void)
{
    for (int i = 0; i <= STDERR_FILENO; i++) {
        if (fcntl(i, F_GETFD) < 0)
            (void)!open("/dev/null", i == STDIN_FILENO ? O_RDONLY : O_WRONLY);
    }
}

/* Libraries repeat the language's name in what they say to the terminal. */
static void forget_strange_languages(void)
{
    static const char *const NAMES[] = {"FC_LANG", "LC_ALL", "LC_CTYPE", "LANG", "LANGUAGE"};
    for (size_t i = 0; i < sizeof NAMES / sizeof NAMES[0]; i++) {
        const char *text = getenv(NAMES[i]);
        while (text && *text && !iscntrl((unsigned char)*text))
            text++;
        if (text && *text)
            unsetenv(NAMES[i]);
    }
}

/* Help that nobody gets is no good end. */
static int end_of_help(int code)
{
    return fflush(stdout) != 0 || ferror(stdout) ? EXIT_BAD_FILE : code;
}

static void say_no_verb(const char *given)
{
    struct nearest nearest = {.typed = given};
    for (int i = 0; verbs[i]; i++)
        nearest_offer(&nearest, verbs[i]->name);
    fprintf(stderr, "failed    there is no verb '");
    print_shown(stderr, given);
    fprintf(stderr, "'\ntry       ");
    if (nearest.name)
        fprintf(stderr, "%s, perhaps? ", nearest.name);
    fprintf(stderr, "'coldmint --help' lists them; the verb comes first\n");
}

/* All verbs, or one, or one of what it does. */
static int help(const char *name, const char *act, int code)
{
    const struct verb *verb = name ? find_verb(name) : NULL;
    if (verb)
        help_of(verb, find_act(verb, act));
    else if (name)
        say_no_verb(name);
    else
        print_help();
    return end_of_help(name && !verb ? EXIT_USAGE : code);
}

static void on_no_room(int signal_number)
{
    static const char TEXT[] = "failed    the disk is full, and a bench's memory cannot be stored\n"
                               "try       make room on the disk, and give the same command again\n";
    (void)signal_number;
    (void)!write(STDERR_FILENO, TEXT, sizeof TEXT - 1);
    _exit(EXIT_BAD_FILE);
}

static bool is_interrupted(void *context)
{
    (void)context;
    return tool_interrupted;
}

int main(int argc, const char **argv)
{
    static struct tool tool;
    open_standard_streams();
    forget_strange_languages();
    cm_host_begin(&tool.host, cm_all_ports);
    tool.host.stopped = is_interrupted;
    if (argc < 2 || strcmp(argv[1], "--help") == 0 || strcmp(argv[1], "-h") == 0 ||
        strcmp(argv[1], "help") == 0)
        return help(argc > 2 ? argv[2] : NULL, argc > 3 ? argv[3] : NULL,
                    argc < 2 ? EXIT_USAGE : EXIT_GOOD);
    if (strcmp(argv[1], "--version") == 0) {
        printf("coldmint %s\n", CM_VERSION);
        return end_of_help(EXIT_GOOD);
    }
    if (strcmp(argv[1], "--man") == 0 || strcmp(argv[1], "--words") == 0) {
        if (argv[1][2] == 'm')
            print_man_page();
        else
            print_words_of(&tool, argc > 2 ? argv[2] : "", argv + (argc > 2 ? 3 : 2));
        return end_of_help(EXIT_GOOD);
    }
    tool.verb = find_verb(argv[1]);
    if (!tool.verb) {
        say_no_verb(argv[1]);
        return EXIT_USAGE;
    }
    tool.answer = json_object();
    struct sigaction action = {.sa_handler = on_interrupt};
    sigaction(SIGINT, &action, NULL);
    sigaction(SIGTERM, &action, NULL);
    sigaction(SIGHUP, &action, NULL);
    signal(SIGXFSZ, SIG_IGN);   // a file that may not grow is an error of its own
    signal(SIGBUS, on_no_room); // a mapped file that cannot: nothing is driven but a bench
    signal(SIGPIPE, SIG_IGN); // whoever reads our output may go; the target must still be released
    argv[1] = argv[0];
    int code = (int)run_verb(&tool, argc - 1, argv + 1);
    cm_host_end(&tool.host);
    return code;
}
