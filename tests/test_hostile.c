/*
 * Hardware: simulated benches, through the tool as a process. What comes from files, names,
 * environments and disks may be anything: it is shown and not obeyed, refused in words, and changes
 * nothing.
 */
#include "support/tool.h"
#include <dirent.h>
#include <jansson.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/resource.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

static struct outcome outcome;
static char bench[200], via[220];

static int begin(void **state)
{
    (void)state;
    setenv("XDG_STATE_HOME", test_folder(), 1);
    setenv("XDG_CONFIG_HOME", test_folder(), 1);
    make_bench("hostile", "attiny84a", "", bench, via);
    cm_sim_renew(bench);
    return 0;
}

/* Runs a line of the shell, in which "$T" is the tool; its exit code. */
static int shell(const char *format, ...)
{
    char line[6000];
    va_list arguments;
    va_start(arguments, format);
    vsnprintf(line, sizeof line, format, arguments);
    va_end(arguments);
    setenv("T", TOOL_PATH, 1);
    int result = system(line);
    return WIFEXITED(result) ? WEXITSTATUS(result) : -1;
}

static void assert_tame(const char *text)
{
    for (const char *c = text; *c; c++) {
        if (((unsigned char)*c < 0x20 && *c != '\n') || *c == 0x7F)
            fail_msg("byte %02X at %ld goes to the terminal:\n%s", (unsigned char)*c,
                     (long)(c - text), text);
    }
}

static void controls_in_names_are_shown(void **state)
{
    static const char HEX[] = ":0400000001020304F2\n:00000001FF\n",
                      NAME[] = "e\033[31m\a\nnew\177\302\233m.hex";
    char path[300], kept[300];
    (void)state;
    write_file(path, sizeof path, NAME, HEX);
    TOOL(0, "put", via, path);
    assert_tame(outcome.out);
    assert_says(outcome.out, "e\\x1B[31m\\x07\\nnew\\x7F\\x9Bm.hex");
    TOOL(2, "look\033[2J");
    assert_tame(outcome.err);
    TOOL(2, "look", via, "thing\033]0;title\a");
    assert_tame(outcome.err);
    TOOL(2, "chips", "no\033[2Jchip");
    assert_tame(outcome.err);
    TOOL(9, "put", via, "gone\r\033[K.hex");
    assert_tame(outcome.err);
    snprintf(kept, sizeof kept, "%s/notes.mint", test_folder());
    TOOL(0, "keep", via, kept, "--notes", "first\nforged    line\033[1m");
    TOOL(0, "match", via, kept);
    assert_tame(outcome.out);
    assert_says(outcome.out, "first\\nforged");
}

static void json_names_every_file(void **state)
{
    char path[300];
    (void)state;
    write_file(path, sizeof path, "latin-\344.hex", ":0400000001020304F2\n:00000001FF\n");
    TOOL(0, "put", via, path, "--json");
    json_t *answer = json_loads(outcome.out, 0, NULL);
    assert_non_null(answer);
    json_t *file = json_array_get(json_object_get(answer, "files"), 0);
    assert_says(json_string_value(json_object_get(file, "path")), "latin-\\xE4.hex");
    json_decref(answer);
}

/* A text of `depth` opening brackets, or of lists in one line. */
static void deep_file(char *path, const char *name, const char *begin, const char *piece,
                      unsigned depth)
{
    size_t bytes = strlen(piece);
    char *text = malloc(strlen(begin) + bytes * depth + 2);
    char *end = text + sprintf(text, "%s", begin);
    for (unsigned i = 0; i < depth; i++, end += bytes)
        memcpy(end, piece, bytes);
    strcpy(end, "\n");
    write_file(path, 300, name, text);
    free(text);
}

/* Processor time of the tool so far. */
static double children_s(void)
{
    struct rusage used;
    getrusage(RUSAGE_CHILDREN, &used);
    return (double)(used.ru_utime.tv_sec + used.ru_stime.tv_sec);
}

static void nesting_is_refused_before_it_is_parsed(void **state)
{
    static const char *const PIECES[] = {"[", "{a: ", "- ", "[["};
    (void)state;
    for (size_t i = 0; i < sizeof PIECES / sizeof PIECES[0]; i++) {
        char path[300], deep_via[320];
        double begun = children_s();
        deep_file(path, "deep-recipe.yaml", "recipe: x\nsettings:\n  ", PIECES[i], 100000);
        TOOL(9, "mint", via, path);
        assert_says(outcome.err, "nested");
        deep_file(path, "deep-bench.yaml", "bench: x\nchip:\n  ", PIECES[i], 100000);
        snprintf(deep_via, sizeof deep_via, "--via=sim:%s", path);
        TOOL(3, "look", deep_via);
        assert_says(outcome.err, "nested");
        assert_true(children_s() - begun < 60); // it was minutes for each
    }
    TOOL(0, "look", via);
}

/* Comments alone, or nothing: that is no bench. */
static void a_bench_that_says_nothing_is_none(void **state)
{
    static const char *const TEXTS[] = {"", "# a bench\n", "---\n", "~\n", "[]\n"};
    char path[300], empty_via[320];
    (void)state;
    for (size_t i = 0; i < sizeof TEXTS / sizeof TEXTS[0]; i++) {
        write_file(path, sizeof path, "empty-bench.yaml", TEXTS[i]);
        snprintf(empty_via, sizeof empty_via, "--via=sim:%s", path);
        TOOL(3, "look", empty_via);
    }
}

/* One bad file never blocks the list of the others. */
static void a_bad_file_does_not_block_a_folder(void **state)
{
    char path[300], folder[300];
    (void)state;
    snprintf(folder, sizeof folder, "%s/recipes", test_folder());
    mkdir(folder, 0777);
    deep_file(path, "recipes/deep.yaml", "recipe: ", "[", 100000);
    write_file(
        path, sizeof path, "recipes/good.yaml",
        "recipe: a good one\nchip: attiny84a\nversion: 1\nsettings:\n  clock-divide: by-8\n");
    char pipe[320];
    snprintf(pipe, sizeof pipe, "%s/waits.yaml", folder);
    assert_int_equal(mkfifo(pipe, 0600), 0); // nobody ever writes into it
    run_tool(&outcome, "mint", via, "--from", folder, NULL);
    assert_says(outcome.out, "a good one");
    assert_says(outcome.out, "nested");
}

static void a_mistyped_word_is_answered_with_the_near_one(void **state)
{
    (void)state;
    TOOL(2, "lok");
    assert_says(outcome.err, "look, perhaps?");
    TOOL(2, "ptu");
    assert_says(outcome.err, "put, perhaps?");
    TOOL(2, "zzz");
    assert_null(strstr(outcome.err, "perhaps"));
    TOOL(0, "help", "put");
    assert_says(outcome.out, "--keep-boot");
    assert_says(outcome.out, "linux:DESK.yaml");
    TOOL(0, "bench", "--help");
    assert_says(outcome.out, "sda=held ");
    assert_says(outcome.out, "mosi=low@812+24");
    TOOL(0, "bench", "make", "--help");
    assert_null(strstr(outcome.out, "sda=held"));
    TOOL(2, "help", "lok");
    assert_says(outcome.err, "look, perhaps?");
    TOOL(2, "put", via, "--keepboot", "x.hex");
    assert_says(outcome.err, "--keep-boot, perhaps?");
    TOOL(2, "put", via, "--nothing-like-it", "x.hex");
    assert_null(strstr(outcome.err, "perhaps"));
}

/* 010 is ten, or it is refused: never eight. */
static void no_number_is_read_in_octal(void **state)
{
    char path[300], other[300], octal[320], chip[300];
    (void)state;
    write_file(path, sizeof path, "octal.yaml",
               "bench: 007\nchip:\n  part: attiny84a\n  supply_mv: 05000\n");
    snprintf(octal, sizeof octal, "--via=sim:%s", path);
    TOOL(3, "look", octal);
    assert_says(outcome.err, "near line 4: 05000: a number does not begin with a zero");
    write_file(
        path, sizeof path, "octal.yaml",
        "bench: 007\nchip:\n  part: attiny84a\n  supply_mv: 5000\n  fuses: [0x62, 0xDF, 0377]\n");
    TOOL(3, "look", octal);
    assert_says(outcome.err, "near line 5: 0377");
    write_file(path, sizeof path, "octal.yaml",
               "bench: 007\nchip:\n  part: attiny84a\n  supply_mv: 5000\n");
    TOOL(0, "look", octal);
    write_file(other, sizeof other, "marked.yaml",
               "recipe: marked\nchip: attiny84a\nmarker: eeprom 0100 HELLO\n"
               "unit:\n  - eeprom 010 u8 number\n  - eeprom 020 crc16-little 010 to 010\n");
    TOOL(0, "mint", octal, other, "--number", "7");
    snprintf(chip, sizeof chip, "%s/eeprom.bin", test_folder());
    TOOL(0, "keep", octal, "--region", "eeprom", chip);
    char *held = read_file(chip);
    assert_memory_equal(held + 100, "HELLO", 5);
    assert_int_equal(held[10], 7);
    free(held);
    write_file(
        other, sizeof other, "map.yaml",
        "block: b\nplace: eeprom 0100\nbytes: 5\nfields:\n  - {name: a, at: 01, type: u8}\n");
    TOOL(9, "tune", octal, "--map", other);
    assert_says(outcome.err, "01: a number does not begin with a zero");
    write_file(
        other, sizeof other, "map.yaml",
        "block: b\nplace: eeprom 0100\nbytes: 5\nfields:\n  - {name: a, at: 0, type: text-5}\n");
    TOOL(0, "tune", octal, "--map", other);
    assert_says(outcome.out, "HELLO");
}

static void numbers_and_options_that_make_no_sense_are_refused(void **state)
{
    char path[300], out[320];
    (void)state;
    write_file(path, sizeof path, "two.bin", "\001\002\003\004");
    snprintf(out, sizeof out, "%s/swapped.bin", test_folder());
    TOOL(2, "image", "swap", path, "--ways", "0", "-o", out);
    TOOL(2, "image", "show", path, "--rows", "-1");
    TOOL(2, "image", "show", path, "--bytes", "02", "--nth", "-1");
    TOOL(2, "image", "show", path, "--nth", "0");
    TOOL(2, "put", via, path, "--keep-boot", "--lose-boot");
    assert_says(outcome.err, "exclude each other");
    TOOL(2, "chips", "attiny84a", "attiny85");
    TOOL(2, "bench", "show", bench, "more");
    TOOL(2, "bench", "mend", bench, "lost=3");
    TOOL(2, "look", via, "--chip", "attiny84a", "--chip=attiny85");
    assert_says(outcome.err, "twice");
    TOOL(2, "image", "cut", path, "-o", out, "-oswapped.bin");
    assert_says(outcome.err, "twice");
    TOOL(2, "image", "cut", path, "--output", out, "-o", out);
    assert_says(outcome.err, "twice");
    TOOL(2, "chips", "--feed", "3.3"); // heeded by nobody here
    static const char *const BAD[][4] = {
        {"pack", "x.yaml", "--units", "0"},     {"pack", "x.yaml", "--units", ""},
        {"pack", "x.yaml", "--units", "010"},   {"mint", "x.yaml", "--count", "0"},
        {"mint", "x.yaml", "--count", "ten"},   {"mint", "x.yaml", "--patience", "0"},
        {"mint", "x.yaml", "--ledger", ""},     {"ledger", "x.ledger", "--last", "0"},
        {"ledger", "x.ledger", "--last", "-1"}, {"look", "--chip", ""},
        {"put", "x.hex", "--wait=", NULL},      {"image", "show", "two.bin", "--nth=00"}};
    for (size_t i = 0; i < sizeof BAD / sizeof BAD[0]; i++) {
        TOOL(2, BAD[i][0], BAD[i][1], BAD[i][2], BAD[i][3]);
        assert_says(outcome.err, "--");
    }
    write_file(path, sizeof path, "plain.yaml", "recipe: plain\nchip: attiny84a\n");
    TOOL(2, "mint", via, path, "--maker", "maker.pub"); // nobody has signed a recipe
    TOOL(2, "mint", via, path, "--count", "2", "--maker", "maker.pub");
    TOOL(0, "chips", "--help");
    assert_null(strstr(outcome.out, "--via"));
    TOOL(0, "look", "--help");
    assert_says(outcome.out, "--via");
}

/* The C library's numbers take signs, blanks and what is too long; 0100 would be 64. */
static void numbers_are_what_they_say(void **state)
{
    static const char *const AREAS[] = {"upper-18014398509481985K",      "lower--1", "lower- 64K",
                                        "upper-1/-18446744073709551614", "0x0..-1",  "upper-3/2"};
    static const char *const OFFSETS[] = {"-18446744073709551615", " 1", "+1", "0x0x1", "4096M"};
    char path[300], out[320], store[200], store_via[220], clock[200], clock_via[220];
    (void)state;
    write_file(path, sizeof path, "three.bin", "\001\002\003\004");
    snprintf(out, sizeof out, "%s/placed.hex", test_folder());
    for (size_t i = 0; i < sizeof OFFSETS / sizeof *OFFSETS; i++)
        TOOL(2, "image", "place", path, path, "--at", OFFSETS[i], "-o", out);
    TOOL(0, "image", "place", path, path, "--at", "0100", "-o", out); // decimal
    TOOL(0, "image", "info", out);
    assert_says(outcome.out, "0x0067");
    TOOL(2, "image", "show", path, "--bytes", "-5");
    TOOL(2, "image", "show", path, "--bytes", "+5");
    TOOL(2, "image", "fill", path, "--range", "0+4", "--with", "-FFFFFFFFFFFFFFFF", "-o", out);
    make_bench("area", "25lc1024", "", store, store_via);
    for (size_t i = 0; i < sizeof AREAS / sizeof *AREAS; i++)
        TOOL(2, "guard", store_via, "--chip", "25lc1024", "--set", AREAS[i]);
    make_bench("clock", "24c02", "", clock, clock_via);
    TOOL(2, "look", clock_via, "--chip", "24c02@152");
    TOOL(2, "look", clock_via, "--chip", "24c02@50zz");
    TOOL(0, "look", clock_via, "--chip", "24c02@50");
    TOOL(2, "raw", store_via, "9F -> -18446744073709551613");
    TOOL(2, "tune", "--chip", "attiny84a", "--bytes", "-FFFFFFFFFFFFFFFE");
    TOOL(0, "tune", "--chip", "attiny84a", "--bytes", "0xE2 DF,FF");
    TOOL(2, "mint", via, "--number", "99999999999999999999999",
         SOURCE_FOLDER "/demo/recipes/numbered-node.yaml");
}

static void closed_and_full_outputs_are_no_good_end(void **state)
{
    char vcd[300];
    (void)state;
    snprintf(vcd, sizeof vcd, "%s/closed.vcd", test_folder());
    assert_int_equal(shell("\"$T\" look %s --record %s >&- 2>&-", via, vcd), 0);
    char *text = read_file(vcd);
    assert_non_null(text);
    assert_null(strstr(text, "chip      ")); // words in the place of wires
    free(text);
    if (access("/dev/full", W_OK) == 0) {
        assert_int_equal(shell("\"$T\" --help > /dev/full"), 9);
        assert_int_equal(shell("\"$T\" look --help > /dev/full"), 9);
        assert_int_equal(shell("\"$T\" --version > /dev/full"), 9);
    }
    // a file that may not grow: told, and the chip as it was
    char much[4097], image[300];
    for (int i = 0; i < 4096; i++)
        much[i] = (char)('A' + (i * 7 + i / 26) % 57);
    much[4096] = '\0';
    write_file(image, sizeof image, "much.bin", much);
    TOOL(0, "put", via, image);
    snprintf(vcd, sizeof vcd, "%s/large.mint", test_folder());
    assert_int_equal(shell("ulimit -f 1; \"$T\" keep %s %s 2> %s.err", via, vcd, vcd), 9);
    assert_int_not_equal(access(vcd, F_OK), 0);
    TOOL(0, "look", via);
}

static unsigned files_in(const char *folder, const char *end)
{
    unsigned count = 0;
    DIR *list = opendir(folder);
    for (struct dirent *item; list && (item = readdir(list)) != NULL;) {
        size_t length = strlen(item->d_name);
        count += length > strlen(end) && strcmp(item->d_name + length - strlen(end), end) == 0;
    }
    if (list)
        closedir(list);
    return count;
}

/* Backups in a folder with odd characters, for the user alone; what a killed command left is
 * removed; an equal one is found. */
static void backups_are_found_and_for_the_user_alone(void **state)
{
    char folder[300], backups[340], left[700], image[300], other[300];
    struct stat facts;
    (void)state;
    snprintf(folder, sizeof folder, "%s/odd [a-z]*?", test_folder());
    mkdir(folder, 0755);
    setenv("XDG_STATE_HOME", folder, 1);
    write_file(image, sizeof image, "one.hex", ":04000000AA55AA55FE\n:00000001FF\n");
    write_file(other, sizeof other, "other.hex", ":0400000055AA55AAFE\n:00000001FF\n");
    TOOL(0, "put", via, image);
    TOOL(0, "put", via, other);
    snprintf(backups, sizeof backups, "%s/coldmint/backups", folder);
    unsigned count = files_in(backups, ".mint");
    assert_true(count > 0);
    assert_int_equal(stat(backups, &facts), 0);
    assert_int_equal(facts.st_mode & 0777, 0700);
    snprintf(left, sizeof left, "%s/attiny84a-1E930C-20260101-000000-7.part.new-999999999",
             backups);
    FILE *file = fopen(left, "w");
    assert_non_null(file);
    fclose(file);
    TOOL(0, "put", via, image);
    TOOL(0, "put", via, other);
    TOOL(0, "put", via, image);
    assert_says(outcome.out, "holds the same already");
    assert_int_not_equal(access(left, F_OK), 0);
    DIR *list = opendir(backups);
    for (struct dirent *item; list && (item = readdir(list)) != NULL;) {
        snprintf(left, sizeof left, "%s/%.200s", backups, item->d_name);
        if (item->d_name[0] != '.' && stat(left, &facts) == 0)
            assert_int_equal(facts.st_mode & 077, 0);
    }
    closedir(list);
    setenv("XDG_STATE_HOME", test_folder(), 1);
}

/* A folder that cannot be: nothing is written elsewhere, and the chip is not touched. */
static void a_folder_that_cannot_be_is_told(void **state)
{
    char image[300], other[300], *deep = malloc(4000);
    (void)state;
    write_file(image, sizeof image, "one.hex", ":04000000AA55AA55FE\n:00000001FF\n");
    write_file(other, sizeof other, "other.hex", ":0400000055AA55AAFE\n:00000001FF\n");
    TOOL(0, "put", via, image);
    deep[0] = '\0';
    for (int i = 0; i < 360; i++)
        strcat(deep, "/long-name");
    setenv("XDG_STATE_HOME", deep, 1);
    TOOL(10, "put", via, other);
    assert_says(outcome.err, "too long");
    TOOL(0, "match", via, image);
    setenv("XDG_STATE_HOME", test_folder(), 1);
    snprintf(deep, 4000, "%s/not-mine", test_folder());
    mkdir(deep, 0500);
    if (geteuid() != 0) { // root may do all
        char path[4200];
        snprintf(path, sizeof path, "%s/x.mint", deep);
        TOOL(9, "keep", via, path);
        assert_null(strstr(outcome.err, "make room"));
    }
    free(deep);
}

/* Fontconfig repeats a language that it does not know. */
static void a_language_does_not_reach_the_terminal(void **state)
{
    char path[200];
    (void)state;
    write_file(path, sizeof path, "drawn.svg", "");
    setenv("LANG", "\033[31m", 1);
    setenv("FC_LANG", "\033[32m", 1);
    TOOL(0, "wires", "attiny84a", "--output", path, "--replace");
    unsetenv("LANG");
    unsetenv("FC_LANG");
    assert_null(strchr(outcome.err, '\033'));
    assert_null(strchr(outcome.out, '\033'));
}

/* A terminal that knows no colours gets none. */
static void colours_are_for_terminals_that_have_them(void **state)
{
    static const struct {
        const char *terminal;
        bool has;
    } CASES[] = {{"TERM=dumb", false}, {"TERM=", false}, {"-u TERM", false}, {"TERM=xterm", true}};
    char command[600];
    (void)state;
    for (size_t i = 0; i < sizeof CASES / sizeof CASES[0]; i++) {
        static char text[8192];
        snprintf(command, sizeof command,
                 "env -u NO_COLOR %s script -qec '%s look %s' /dev/null </dev/null",
                 CASES[i].terminal, TOOL_PATH, via);
        FILE *shown = popen(command, "r");
        assert_non_null(shown);
        text[fread(text, 1, sizeof text - 1, shown)] = '\0';
        assert_int_equal(pclose(shown), 0);
        assert_says(text, "attiny84");
        if ((strchr(text, '\033') != NULL) != CASES[i].has)
            fail_msg("%s: %s", CASES[i].terminal, text);
    }
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test_setup(controls_in_names_are_shown, begin),
        cmocka_unit_test_setup(a_language_does_not_reach_the_terminal, begin),
        cmocka_unit_test_setup(colours_are_for_terminals_that_have_them, begin),
        cmocka_unit_test_setup(json_names_every_file, begin),
        cmocka_unit_test_setup(nesting_is_refused_before_it_is_parsed, begin),
        cmocka_unit_test_setup(a_bench_that_says_nothing_is_none, begin),
        cmocka_unit_test_setup(a_bad_file_does_not_block_a_folder, begin),
        cmocka_unit_test_setup(a_mistyped_word_is_answered_with_the_near_one, begin),
        cmocka_unit_test_setup(no_number_is_read_in_octal, begin),
        cmocka_unit_test_setup(numbers_and_options_that_make_no_sense_are_refused, begin),
        cmocka_unit_test_setup(numbers_are_what_they_say, begin),
        cmocka_unit_test_setup(closed_and_full_outputs_are_no_good_end, begin),
        cmocka_unit_test_setup(backups_are_found_and_for_the_user_alone, begin),
        cmocka_unit_test_setup(a_folder_that_cannot_be_is_told, begin),
    };
    return cmocka_run_group_tests(tests, NULL, NULL);
}
