/*
 * Hardware: simulated benches, through the command-line tool. Nothing may be lost there: images
 * from pipes, backups of several tools at once, what was carried for one board and not for another,
 * a bench that two use, bytes beside an image after bad contact.
 */
#define _GNU_SOURCE /* kill, usleep, mkfifo */
#include "support/memory_rig.h"
#include "support/tool.h"
#include <dirent.h>
#include <fcntl.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

enum { AT_ONCE = 6 };

static const char FIRMWARE[] = SOURCE_FOLDER "/demo/firmware/strike-node-1.4.hex";

static struct outcome outcome;

/* A shell's exit code. */
static int shell(const char *command)
{
    int status = system(command);
    return WIFEXITED(status) ? WEXITSTATUS(status) : -1;
}

static unsigned files_in(const char *folder, const char *ending)
{
    unsigned count = 0;
    DIR *all = opendir(folder);
    for (struct dirent *file; all && (file = readdir(all)) != NULL;) {
        size_t length = strlen(file->d_name), end = strlen(ending);
        count += length > end && strcmp(file->d_name + length - end, ending) == 0;
    }
    if (all)
        closedir(all);
    return count;
}

static void make_memory_bench(const char *name, char *via)
{
    char path[200], file[100];
    snprintf(file, sizeof file, "%s.yaml", name);
    write_file(path, sizeof path, file,
               "bench: in a test\nchip:\n  part: mx25l512\n  supply_mv: 3300\n");
    snprintf(via, 220, "--via=sim:%s", path);
}

/* Made-up contents as a HEX file that begins at an address; `path` has 200 bytes. */
static void make_hex(char *path, const char *name, unsigned bytes, unsigned seed, const char *at)
{
    char raw[200], output[230];
    make_file(raw, "raw.bin", bytes, seed);
    snprintf(path, 200, "%s/%s", test_folder(), name);
    snprintf(output, sizeof output, "--output=%s", path);
    run_tool(&outcome, "image", "cut", raw, "--range=0..", at, output, NULL);
    if (outcome.code)
        fail_msg("%s", outcome.err);
}

/* --- pipes ------------------------------------------------------------------------------- */

/* The first line comes alone, and the rest a moment later. */
static void an_image_from_a_pipe_is_whole(void **state)
{
    char path[200], via[220], command[1200], fifo[200];
    (void)state;
    make_bench("pipe", "attiny84a", "", path, via);
    snprintf(command, sizeof command,
             "(head -n 1 %s; sleep 0.3; tail -n +2 %s) | %s put %s /dev/stdin > /dev/null 2>&1",
             FIRMWARE, FIRMWARE, TOOL_PATH, via);
    assert_int_equal(shell(command), 0);
    run_tool(&outcome, "match", via, FIRMWARE, NULL);
    assert_int_equal(outcome.code, 0);
    assert_says(outcome.out, "all 788 bytes match");
    static const unsigned CHUNKS[] = {1, 7, 46, 511, 4096};
    for (size_t i = 0; i < sizeof CHUNKS / sizeof CHUNKS[0]; i++) {
        snprintf(command, sizeof command,
                 "dd bs=%u status=none if=%s | %s match %s /dev/stdin > /dev/null 2>&1", CHUNKS[i],
                 FIRMWARE, TOOL_PATH, via);
        assert_int_equal(shell(command), 0);
        snprintf(command, sizeof command,
                 "head -c 1500 %s | dd bs=%u status=none | %s put %s /dev/stdin > /dev/null 2>&1",
                 FIRMWARE, CHUNKS[i], TOOL_PATH, via);
        assert_int_equal(shell(command), 9); // it was cut off
    }
    snprintf(fifo, sizeof fifo, "%s/a-pipe", test_folder());
    assert_int_equal(mkfifo(fifo, 0600), 0);
    snprintf(command, sizeof command,
             "(head -c 700 %s; sleep 0.2; tail -c +701 %s) > %s & %s match %s %s > /dev/null 2>&1",
             FIRMWARE, FIRMWARE, fifo, TOOL_PATH, via, fifo);
    assert_int_equal(shell(command), 0);
}

/* Nobody writes to it: Ctrl-C ends the wait, and the bench is as new. */
static void control_c_ends_the_wait_for_a_pipe(void **state)
{
    char path[200], via[220], fifo[200];
    (void)state;
    make_bench("wait", "attiny84a", "", path, via);
    snprintf(fifo, sizeof fifo, "%s/silent-pipe", test_folder());
    assert_int_equal(mkfifo(fifo, 0600), 0);
    const char *put[] = {"coldmint", "put", via, fifo, NULL};
    pid_t child = start_tool(put);
    usleep(300000);
    assert_int_equal(kill(child, SIGINT), 0);
    int code = 0, status;
    for (int i = 0; i < 50 && (code = waitpid(child, &status, WNOHANG)) == 0; i++)
        usleep(100000);
    if (code == 0)
        kill(child, SIGKILL);
    assert_int_equal(code, child);
    assert_int_not_equal(WIFEXITED(status) ? WEXITSTATUS(status) : 1, 0);
    run_tool(&outcome, "look", via, NULL);
    assert_says(outcome.out, "8192 bytes, blank");
}

/* --- several at once --------------------------------------------------------------------- */

/* A hundred boards with other contents are put to at once, from one folder: each backup that is
 * named is there, and holds what its board held. */
static void backups_of_a_hundred_at_once_are_all_kept(void **state)
{
    enum { BOARDS = 100 };
    static char via[BOARDS][220];
    char path[200], folder[250];
    pid_t children[BOARDS];
    (void)state;
    for (unsigned i = 0; i < BOARDS; i++) {
        char name[20], old[200], more[60];
        snprintf(name, sizeof name, "old-%u.bin", i);
        make_file(old, name, 1024, 20 + i);
        snprintf(more, sizeof more, "  flash: old-%u.bin\n", i);
        snprintf(name, sizeof name, "at-once-%u", i);
        make_bench(name, "attiny84a", more, path, via[i]);
    }
    snprintf(folder, sizeof folder, "%s/coldmint/backups", test_folder());
    unsigned before = files_in(folder, ".mint");
    for (unsigned i = 0; i < BOARDS; i++) {
        const char *put[] = {"coldmint", "put", via[i], FIRMWARE, NULL};
        children[i] = start_tool(put);
    }
    for (unsigned i = 0; i < BOARDS; i++)
        assert_int_equal(end_of_tool(children[i]), 0);
    assert_int_equal(files_in(folder, ".mint"), before + BOARDS);
}

/* Without --replace one of them has the name, and the others are told. */
static void keeps_of_one_name_at_once_do_not_overwrite(void **state)
{
    char path[200], kept[220], via[AT_ONCE][220];
    pid_t children[AT_ONCE];
    unsigned good = 0, told = 0;
    (void)state;
    snprintf(kept, sizeof kept, "%s/one-name.hex", test_folder());
    for (unsigned i = 0; i < AT_ONCE; i++) {
        char name[20];
        snprintf(name, sizeof name, "keep-%u", i);
        make_bench(name, "attiny84a", "", path, via[i]);
    }
    for (unsigned i = 0; i < AT_ONCE; i++) {
        const char *keep[] = {"coldmint", "keep", via[i], kept, NULL};
        children[i] = start_tool(keep);
    }
    for (unsigned i = 0; i < AT_ONCE; i++) {
        int code = end_of_tool(children[i]);
        good += code == 0;
        told += code == 10;
    }
    assert_int_equal(good, 1);
    assert_int_equal(told, AT_ONCE - 1);
}

/* Of two puts at once to one bench, the second waits for the first: nothing of either is lost. */
static void two_at_once_on_a_bench_wait_for_one_another(void **state)
{
    char via[220], low[200], high[200];
    (void)state;
    make_memory_bench("shared", via);
    make_hex(low, "low.hex", 3000, 31, "--at=0");
    make_hex(high, "high.hex", 3000, 32, "--at=0x8000");
    for (int round = 0; round < 10; round++) {
        run_tool(&outcome, "erase", via, "--no-backup", NULL);
        assert_int_equal(outcome.code, 0);
        const char *first[] = {"coldmint", "put", via, low, NULL},
                   *second[] = {"coldmint", "put", via, high, NULL};
        pid_t one = start_tool(first), other = start_tool(second);
        assert_int_equal(end_of_tool(one), 0);
        assert_int_equal(end_of_tool(other), 0);
        run_tool(&outcome, "match", via, low, NULL);
        assert_int_equal(outcome.code, 0);
        run_tool(&outcome, "match", via, high, NULL);
        assert_int_equal(outcome.code, 0);
    }
}

/* A bench from elsewhere may come with links in its folder: what they point to is the user's. */
static void links_in_a_bench_are_not_followed(void **state)
{
    static const char *const NAMES[] = {"memory.cells", "state.json.new"};
    char path[220], via[220], own[200], link_path[450];
    (void)state;
    for (int i = 0; i < 2; i++) {
        char name[20];
        snprintf(name, sizeof name, "linked-%d", i);
        make_memory_bench(name, via);
        snprintf(path, sizeof path, "%s", via + strlen("--via=sim:"));
        write_file(own, sizeof own, "letter.txt", "dear aunt");
        run_tool(&outcome, "look", via, NULL);
        snprintf(link_path, sizeof link_path, "%.*s.state/%s", (int)(strlen(path) - 5), path,
                 NAMES[i]);
        struct stat facts;
        char folder[450];
        snprintf(folder, sizeof folder, "%s", link_path);
        *strrchr(folder, '/') = '\0';
        assert_int_equal(stat(folder, &facts), 0);
        unlink(link_path);
        assert_int_equal(symlink(own, link_path), 0);
        run_tool(&outcome, "put", via, FIRMWARE, NULL);
        char *text = read_file(own);
        assert_string_equal(text, "dear aunt");
        free(text);
    }
}

/* --- configuration ----------------------------------------------------------------------- */

static void a_configuration_that_says_nothing_is_none(void **state)
{
    static const char *const TEXTS[] = {"", "# nothing yet\n", "---\n", "\n\n"};
    char path[200], via[220], config[200];
    (void)state;
    make_bench("plain", "attiny84a", "", path, via);
    for (int i = 0; i < 4; i++) {
        char folder[200], file[220];
        snprintf(folder, sizeof folder, "%s/config/coldmint", test_folder());
        snprintf(config, sizeof config, "%s/config", test_folder());
        mkdir(config, 0700);
        mkdir(folder, 0700);
        snprintf(file, sizeof file, "config/coldmint/config.yaml");
        char written[200];
        write_file(written, sizeof written, file, TEXTS[i]);
        setenv("XDG_CONFIG_HOME", config, 1);
        run_tool(&outcome, "look", via, NULL);
        unsetenv("XDG_CONFIG_HOME");
        assert_int_equal(outcome.code, 0);
    }
}

/* --- doubt ------------------------------------------------------------------------------- */

/* Noise on MOSI: what ends good is right, beside the image too. With a backup it does end; without
 * one the range is named. */
static void after_bad_contact_the_backup_settles_the_doubt(void **state)
{
    char via[220], old[200], part[200];
    enum { BACKUP_CLOCKS = 2 * 8 * 65536 }; // go by before the job begins
    unsigned settled = 0, named = 0;
    (void)state;
    make_file(old, "old.bin", 65536, 41);
    make_hex(part, "part.hex", 9000, 42, "--at=0x1000");
    for (unsigned i = 0; i < 12; i++) {
        char wire[80], name[20];
        snprintf(name, sizeof name, "doubt-%u", i);
        make_memory_bench(name, via);
        run_tool(&outcome, "put", via, old, NULL);
        assert_int_equal(outcome.code, 0);
        snprintf(wire, sizeof wire, "mosi=low@%u+60",
                 40000 + 20000 * i + (i % 2 ? 0 : BACKUP_CLOCKS));
        run_tool(&outcome, "bench", "break", via, wire, NULL);
        assert_int_equal(outcome.code, 0);
        run_tool(&outcome, "put", via, part, i % 2 ? "--no-backup" : NULL, NULL);
        settled += strstr(outcome.out, "contact was bad for a moment") != NULL;
        named += outcome.code == 8 &&
                 strstr(outcome.err, "bytes beside the image may have changed") != NULL;
        if (i % 2 == 0)
            assert_int_equal(outcome.code, 0);
    }
    assert_true(settled > 0);
    assert_true(named > 0);
}

/* A job that fails in its writing may have changed what its image does not have; the next one would
 * not know. */
static void a_put_that_fails_says_what_it_may_have_changed(void **state)
{
    char via[220], old[200], part[200];
    (void)state;
    make_file(old, "harm-old.bin", 65536, 43);
    make_hex(part, "harm.hex", 9000, 44, "--at=0x1000");
    for (unsigned is_kept = 0; is_kept < 2; is_kept++) {
        make_memory_bench(is_kept ? "harm-kept" : "harm", via);
        run_tool(&outcome, "put", via, old, NULL);
        assert_int_equal(outcome.code, 0);
        run_tool(&outcome, "bench", "break", via, is_kept ? "mosi=low@1200000" : "mosi=low@150000",
                 NULL);
        run_tool(&outcome, "put", via, part, is_kept ? NULL : "--no-backup", NULL);
        assert_int_equal(outcome.code, 8);
        assert_says(outcome.out, "what the image does not have may have changed, too");
        assert_says(outcome.out, is_kept ? "match with the backup, /" : "with an older backup");
    }
    // a put that has changed nothing yet harms nothing
    run_tool(&outcome, "put", via, part, "--no-backup", NULL);
    assert_true(outcome.code != 0);
    assert_null(strstr(outcome.out, "may have changed, too"));
}

/* A clip that slips while the backup is read has cost nothing: that is said, and no pages that are
 * only planned are called right. */
static void a_put_that_did_not_begin_says_so(void **state)
{
    char via[220], old[200], new[200];
    (void)state;
    make_file(old, "slip-old.bin", 40000, 45);
    make_file(new, "slip-new.bin", 40000, 46);
    make_memory_bench("slipped", via);
    TOOL(0, "put", via, old);
    TOOL(0, "bench", "break", via, "lost=100000");
    TOOL(8, "put", via, new);
    assert_says(outcome.out, "so far    nothing of the contents was changed");
    assert_null(strstr(outcome.out, "are right"));
    TOOL(0, "bench", "mend", via);
    TOOL(0, "match", via, old);
    TOOL(0, "bench", "break", via, "lost=250000");
    TOOL(8, "put", via, new);
    assert_says(outcome.out, "are right");
}

/* --- sockets ----------------------------------------------------------------------------- */

/* A part without an id on a dead bus reads FF all over: that is no success, but where it is said in
 * words. */
static void an_empty_socket_is_not_kept(void **state)
{
    char path[200], via[220], kept[220];
    (void)state;
    make_bench("socket", "at28c64b", "", path, via);
    snprintf(kept, sizeof kept, "%s/socket.bin", test_folder());
    run_tool(&outcome, "keep", via, "--chip=at28c64b", kept, NULL);
    assert_int_equal(outcome.code, 4);
    assert_says(outcome.err, "nothing may be in the socket");
    assert_int_not_equal(access(kept, F_OK), 0);
    run_tool(&outcome, "keep", via, "--chip=at28c64b", "--even-blank", kept, NULL);
    assert_int_equal(outcome.code, 0);
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(an_image_from_a_pipe_is_whole),
        cmocka_unit_test(control_c_ends_the_wait_for_a_pipe),
        cmocka_unit_test(backups_of_a_hundred_at_once_are_all_kept),
        cmocka_unit_test(keeps_of_one_name_at_once_do_not_overwrite),
        cmocka_unit_test(two_at_once_on_a_bench_wait_for_one_another),
        cmocka_unit_test(links_in_a_bench_are_not_followed),
        cmocka_unit_test(a_configuration_that_says_nothing_is_none),
        cmocka_unit_test(after_bad_contact_the_backup_settles_the_doubt),
        cmocka_unit_test(a_put_that_fails_says_what_it_may_have_changed),
        cmocka_unit_test(a_put_that_did_not_begin_says_so),
        cmocka_unit_test(an_empty_socket_is_not_kept),
    };
    return cmocka_run_group_tests(tests, NULL, NULL);
}
