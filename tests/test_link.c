/* Hardware: a probe's firmware in a process of its own, with a simulated bench behind it and a
 * pseudo terminal as its serial line; in between, where a test wants that, a middleman who drops,
 * flips, repeats, delays and splits what passes. */
#define _GNU_SOURCE
#include "support/link_rig.h"
#include <fcntl.h>
#include <link/link.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/file.h>
#include <sys/prctl.h>
#include <sys/wait.h>
#include <time.h>
#include <unistd.h>

enum { WORKSPACE = 1 << 17 };

static uint8_t workspace[WORKSPACE];

/* --- tests ------------------------------------------------------------------------------- */

static const struct {
    const char *part;
    unsigned mv;
    const char *more;
    uint32_t bytes;
} CHIPS[] = {
    {"attiny84a", 5000, "", 8192},
    {"atmega328p", 5000, "", 20000},
    {"w25q16", 3300, "", LINK_IMAGE},
    {"sst25vf016b", 3300, "", 20000},
    {"25lc640a", 5000, "", 8192},
    {"24lc256", 5000, "", 20000},
    {"93c66", 5000, "", 512},
    {"sst39sf010a", 5000, "", 20000},
    {"sst39sf010a", 5000, "port:\n  only_lines: true\n", 3000},
    {"at29c256", 5000, "", 4096},
};

/* Large and small probes, and one that has room for little more than a page. */
static void every_family_is_written_through_a_probe(void **state)
{
    static const struct pty_size SIZES[] = {{65536, 64, 4}, {1024, 24, 2}, {276, 7, 2}};
    (void)state;
    for (size_t i = 0; i < sizeof CHIPS / sizeof CHIPS[0]; i++) {
        for (size_t s = 0; s < sizeof SIZES / sizeof SIZES[0]; s++) {
            struct far_end far;
            char name[40];
            uint32_t restarted;
            snprintf(name, sizeof name, "chip-%u-%u", (unsigned)i, (unsigned)s);
            begin_far_end(&far, name, CHIPS[i].part, CHIPS[i].mv, CHIPS[i].more, SIZES[s]);
            enum cm_status status = put_image(&far, CHIPS[i].part, CHIPS[i].bytes, &restarted);
            end_far_end(&far);
            if (status)
                fail_msg("%s, probe %u: %s", CHIPS[i].part, (unsigned)s, cm_status_word(status));
            assert_int_equal(restarted, 0);
            check_chip(&far, CHIPS[i].bytes);
        }
    }
}

/* An image crosses the line about once, though it is looked for, written and compared: a page that
 * differs is found by its first bytes, and one that is written lies in the probe already. */
static void an_image_crosses_the_line_about_once(void **state)
{
    static const struct pty_size SIZES[] = {{65536, 64, 4}, {1024, 24, 2}};
    (void)state;
    for (size_t i = 0; i < sizeof SIZES / sizeof SIZES[0]; i++) {
        struct far_end far;
        struct cm_open_port port;
        struct cm_session session;
        struct cm_report report;
        struct cm_memory memory = {link_image, LINK_IMAGE, 0};
        struct cm_want want = {CM_REGION_MAIN, cm_memory_source(&memory)};
        struct cm_put put = {.wants = &want, .want_count = 1};
        begin_far_end(&far, i ? "once-small" : "once-large", "w25q16", 3300, "", SIZES[i]);
        assert_true(cm_port_open(&link_host, far.name, &port));
        assert_int_equal(cm_open(&session, port.port, link_host.kits, link_host.kit_count,
                                 workspace, sizeof workspace),
                         CM_OK);
        assert_int_equal(cm_identify(&session, "w25q16"), CM_OK);
        uint64_t before = link_counts(port.hardware).out;
        assert_int_equal(cm_put(&session, &put, &report), CM_OK);
        struct link_counts counts = link_counts(port.hardware);
        cm_close(&session);
        assert_true(cm_port_close(&link_host, &port));
        end_far_end(&far);
        assert_int_equal(counts.resent, 0);
        assert_in_range(counts.out - before, LINK_IMAGE, LINK_IMAGE + LINK_IMAGE / 3);
        check_chip(&far, LINK_IMAGE);
    }
}

/* Whatever happens to what passes: it ends good over right contents. */
static void a_middleman_loses_nothing(void **state)
{
    static const struct mischief KINDS[] = {{{[MISCHIEF_DROP] = 40}},   {{[MISCHIEF_FLIP] = 40}},
                                            {{[MISCHIEF_REPEAT] = 20}}, {{[MISCHIEF_DELAY] = 20}},
                                            {{[MISCHIEF_SPLIT] = 3}},   {{[MISCHIEF_CUT] = 40}},
                                            {{60, 60, 60, 60, 10, 60}}};
    static const struct pty_size SIZE = {1024, 24, 3};
    (void)state;
    for (size_t i = 0; i < sizeof KINDS / sizeof KINDS[0]; i++) {
        struct far_end far;
        char name[40];
        uint32_t restarted;
        snprintf(name, sizeof name, "middle-%u", (unsigned)i);
        begin_far_end(&far, name, "w25q16", 3300, "", SIZE);
        put_between(&far, &KINDS[i]);
        enum cm_status status = put_image(&far, "w25q16", 20000, &restarted);
        end_far_end(&far);
        if (status)
            fail_msg("mischief %u: %s", (unsigned)i, cm_status_word(status));
        check_chip(&far, 20000);
    }
}

/* What a probe says that it has read, and does not send, is not what was there before. */
static void a_probe_that_withholds_what_it_read_is_no_good_one(void **state)
{
    static const struct mischief WITHHOLDS = {{[MISCHIEF_WITHHOLD] = 1}};
    static const struct pty_size SIZE = {1024, 24, 3};
    struct far_end far;
    uint32_t restarted;
    (void)state;
    begin_far_end(&far, "withholds", "w25q16", 3300, "", SIZE);
    put_between(&far, &WITHHOLDS);
    assert_int_equal(put_image(&far, "w25q16", 2000, &restarted), CM_PORT_FAILED);
    end_far_end(&far);
}

/* The probe's processor starts again in the middle of a job: told as that, and the job goes on. */
static void a_probe_that_restarts_is_told_and_borne(void **state)
{
    static const struct pty_size SIZE = {520, 24, 2};
    uint32_t seen = 0;
    (void)state;
    for (int i = 0; i < 12; i++) {
        struct far_end far;
        char name[40];
        uint32_t restarted;
        snprintf(name, sizeof name, "restart-%d", i);
        begin_far_end(&far, name, "w25q16", 3300, "", SIZE);
        pid_t troublemaker = signal_later(&far, SIGUSR1, 4000 + 5000 * i);
        enum cm_status status = put_image(&far, "w25q16", LINK_IMAGE, &restarted);
        waitpid(troublemaker, NULL, 0);
        seen += restarted;
        if (status) // it gave up at a bad moment: once more
            status = put_image(&far, "w25q16", LINK_IMAGE, &restarted);
        end_far_end(&far);
        if (status)
            fail_msg("restart %d: %s", i, cm_status_word(status));
        check_chip(&far, LINK_IMAGE);
    }
    assert_true(seen > 0);
}

/* This process is killed in the midst of a job: the probe lets no line hang, and the same job is
 * done by the next one. */
static void a_computer_that_is_killed_leaves_a_probe_that_works(void **state)
{
    static const struct pty_size SIZE = {520, 24, 2};
    struct far_end far;
    uint32_t restarted;
    (void)state;
    begin_far_end(&far, "killed", "attiny84a", 5000, "", SIZE);
    for (int i = 0; i < 15; i++) {
        pid_t job = fork();
        if (job == 0) {
            (void)!put_image(&far, "attiny84a", 8192, &restarted);
            _exit(0);
        }
        usleep((useconds_t)(500 + 1500 * i));
        kill(job, SIGKILL);
        waitpid(job, NULL, 0);
    }
    assert_int_equal(put_image(&far, "attiny84a", 8192, &restarted), CM_OK);
    end_far_end(&far);
    check_chip(&far, 8192);
}

/* The line is gone in the midst of a job: a clear end, soon. */
static void a_line_that_is_pulled_out_ends_the_job(void **state)
{
    static const struct pty_size SIZE = {520, 24, 2};
    (void)state;
    for (int i = 0; i < 4; i++) {
        struct far_end far;
        char name[40];
        uint32_t restarted;
        snprintf(name, sizeof name, "pulled-%d", i);
        begin_far_end(&far, name, "w25q16", 3300, "", SIZE);
        pid_t hand = signal_later(&far, SIGKILL, 8000 + 4000 * i);
        time_t begun = time(NULL);
        enum cm_status status = put_image(&far, "w25q16", LINK_IMAGE, &restarted);
        waitpid(hand, NULL, 0);
        waitpid(far.pid, NULL, 0);
        assert_true(status == CM_PORT_FAILED || status == CM_CONTACT_LOST);
        assert_true(time(NULL) - begun < 60); // some 5, where the machine has time for us
    }
}

/* The rate is found, and raised where both can; where the faster one does not get through, both go
 * back. */
static void the_rate_of_the_line_is_found_and_raised(void **state)
{
    static const struct {
        struct link_rates rates;
        uint32_t in_the_end;
    } CASES[] = {{{115200, 1000000, false}, 1000000},
                 {{9600, 500000, false}, 500000},
                 {{115200, 1000000, true}, 115200},
                 {{500000, 0, false}, 500000}};
    (void)state;
    for (size_t i = 0; i < sizeof CASES / sizeof CASES[0]; i++) {
        struct far_end far;
        struct cm_open_port port;
        char name[40];
        uint32_t restarted;
        snprintf(name, sizeof name, "rate-%u", (unsigned)i);
        link_rates = CASES[i].rates;
        begin_far_end(&far, name, "attiny84a", 5000, "", (struct pty_size){520, 24, 2});
        assert_true(cm_port_open(&link_host, far.name, &port));
        assert_int_equal(link_baud(port.hardware), CASES[i].in_the_end);
        assert_true(cm_port_close(&link_host, &port));
        enum cm_status status = put_image(&far, "attiny84a", 8192, &restarted);
        link_rates = (struct link_rates){0, 0, false};
        end_far_end(&far);
        assert_int_equal(status, CM_OK);
        check_chip(&far, 8192);
    }
}

/* A probe that restarts is back at the rate that it begins with: there it is found. */
static void a_probe_that_restarts_is_found_at_its_first_rate(void **state)
{
    static const char *const PARTS[] = {"attiny84a", "w25x10"};
    uint32_t seen = 0;
    (void)state;
    for (int i = 0; i < 4 || (!seen && i < 16); i++) {
        struct far_end far;
        char name[40];
        uint32_t restarted = 0;
        snprintf(name, sizeof name, "rate-restart-%d", i);
        link_rates = (struct link_rates){115200, 1000000, false};
        begin_far_end(&far, name, PARTS[i % 2], i % 2 ? 3300 : 5000, "",
                      (struct pty_size){520, 24, 2});
        pid_t hand = signal_later(&far, SIGUSR1, 12000 + 9000 * i);
        enum cm_status status = put_image(&far, PARTS[i % 2], 8192, &restarted);
        waitpid(hand, NULL, 0);
        seen += restarted;
        if (status) // it gave up at a bad moment: once more
            status = put_image(&far, PARTS[i % 2], 8192, &restarted);
        link_rates = (struct link_rates){0, 0, false};
        end_far_end(&far);
        assert_int_equal(status, CM_OK);
        check_chip(&far, 8192);
    }
    assert_true(seen > 0);
}

/* The device of the first probe, and then of the second, by one name. */
static void name_device(struct far_end *far, const char *path)
{
    remove(path);
    assert_int_equal(symlink(far->device, path), 0);
}

struct hand {
    struct far_end next; /* that is plugged in */
    const char *path;
    int times;
};

/* It is plugged in again as soon as somebody waits for that. */
static bool plug_in_again(void *context, const struct cm_failure *failure)
{
    struct hand *hand = context;
    (void)failure;
    if (hand->times++ == 0) {
        plug_in_far_end(&hand->next);
        name_device(&hand->next, hand->path);
    }
    usleep(50000);
    return hand->times < 40;
}

/* A job whose line is pulled out, and a probe of this size is plugged in. */
static enum cm_status put_with_plugging(struct hand *hand, struct pty_size next)
{
    struct far_end first;
    struct cm_open_port port;
    struct cm_session session;
    struct cm_report report;
    struct cm_memory memory = {link_image, 8192, 0};
    struct cm_want want = {CM_REGION_MAIN, cm_memory_source(&memory)};
    struct cm_put put = {.wants = &want, .want_count = 1};
    char path[300], name[320];
    prepare_far_end(&hand->next, "plugged", "attiny84a", 5000, "", next);
    begin_far_end(&first, "plugged", "attiny84a", 5000, "", (struct pty_size){520, 24, 2});
    snprintf(path, sizeof path, "%s/probe", test_folder());
    snprintf(name, sizeof name, "link:%s", path);
    name_device(&first, path);
    hand->path = path;
    assert_true(cm_port_open(&link_host, name, &port));
    assert_int_equal(cm_open(&session, port.port, link_host.kits, link_host.kit_count, workspace,
                             sizeof workspace),
                     CM_OK);
    assert_int_equal(cm_identify(&session, "attiny84a"), CM_OK);
    session.on_lost = plug_in_again;
    session.lost_context = hand;
    pid_t puller = signal_later(&first, SIGKILL, 3000);
    enum cm_status status = cm_put(&session, &put, &report);
    waitpid(puller, NULL, 0);
    waitpid(first.pid, NULL, 0);
    assert_true(hand->times > 0);
    cm_close(&session);
    assert_true(cm_port_close(&link_host, &port));
    end_far_end(&hand->next);
    return status;
}

static void a_line_that_is_plugged_in_again_goes_on(void **state)
{
    struct hand hand = {.times = 0};
    (void)state;
    enum cm_status status = put_with_plugging(&hand, (struct pty_size){520, 24, 2});
    if (status)
        fail_msg("%s, after %d looks", cm_status_word(status), hand.times);
    check_chip(&hand.next, 8192);
}

/* Our memory was made for the first one. */
static void a_probe_of_another_size_does_not_go_on(void **state)
{
    struct hand hand = {.times = 0};
    (void)state;
    enum cm_status status = put_with_plugging(&hand, (struct pty_size){65536, 64, 9});
    assert_true(status == CM_PORT_FAILED || status == CM_CONTACT_LOST);
}

/* A probe that stands still for longer than anybody waits, and then goes on: its old results are
 * of no batch any more, whose bytes are no longer there. */
static void a_result_that_comes_too_late_is_nobodys(void **state)
{
    enum { STILL_US = 4600000, MOMENTS = 3 };
    uint32_t seen = 0;
    (void)state;
    for (int i = 0; i < MOMENTS || (!seen && i < 4 * MOMENTS); i++) {
        struct far_end far;
        char name[40];
        uint32_t restarted;
        int at_us = 9000 + 9000 * i;
        snprintf(name, sizeof name, "late-%d", i);
        begin_far_end(&far, name, "w25q16", 3300, "", (struct pty_size){520, 24, 2});
        pid_t stops = signal_later(&far, SIGSTOP, at_us),
              goes_on = signal_later(&far, SIGCONT, at_us + STILL_US);
        enum cm_status status = put_image(&far, "w25q16", LINK_IMAGE, &restarted);
        waitpid(stops, NULL, 0);
        waitpid(goes_on, NULL, 0);
        seen += restarted;
        if (status)
            status = put_image(&far, "w25q16", LINK_IMAGE, &restarted);
        end_far_end(&far);
        assert_int_equal(status, CM_OK);
        check_chip(&far, LINK_IMAGE);
    }
    assert_true(seen > 0);
}

static void what_is_no_probe_is_told(void **state)
{
    struct cm_open_port port;
    char path[200], name[220];
    (void)state;
    write_file(path, sizeof path, "no-device", "x");
    snprintf(name, sizeof name, "link:%s", path);
    assert_false(cm_port_open(&link_host, name, &port));
    assert_string_equal(link_host.error.detail, "it is no serial device");
    assert_false(cm_port_open(&link_host, "link:/nowhere", &port));
    assert_false(cm_port_open(&link_host, "link:tcp:1", &port)); // nobody listens there
    assert_true(link_host.error.detail[0]);
    assert_false(cm_port_open(&link_host, "link:/dev/null,123", &port));
    assert_non_null(strstr(link_host.error.detail, "no rate"));
}

/* Of a device in use, the refusal names the process that has it open. */
static void another_process_is_named(struct far_end *far)
{
    struct cm_open_port port;
    char byte, name[60];
    int ready[2];
    assert_int_equal(pipe(ready), 0);
    pid_t holder = fork();
    if (holder == 0) {
        prctl(PR_SET_PDEATHSIG, SIGKILL);
        int line = open(far->device, O_RDWR | O_NOCTTY);
        bool is_held = line >= 0 && flock(line, LOCK_EX) == 0 && write(ready[1], "", 1) == 1;
        pause();
        _exit(!is_held);
    }
    close(ready[1]);
    assert_int_equal(read(ready[0], &byte, 1), 1);
    close(ready[0]);
    assert_false(cm_port_open(&link_host, far->name, &port));
    assert_int_equal(link_host.error.kind, CM_ERROR_PORT_BUSY);
    kill(holder, SIGKILL);
    waitpid(holder, NULL, 0);
    snprintf(name, sizeof name, "process %d (test-link) uses it", (int)holder);
    assert_string_equal(link_host.error.detail, name);
}

/* Two on one probe: the second is told, and the first goes on. */
static void a_probe_is_for_one_at_a_time(void **state)
{
    static const struct pty_size SIZE = {1024, 24, 2};
    struct far_end far;
    struct cm_open_port one, other;
    uint32_t restarted;
    (void)state;
    begin_far_end(&far, "two", "attiny84a", 5000, "", SIZE);
    assert_true(cm_port_open(&link_host, far.name, &one));
    assert_false(cm_port_open(&link_host, far.name, &other));
    assert_true(cm_port_close(&link_host, &one));
    another_process_is_named(&far);
    assert_int_equal(put_image(&far, "attiny84a", 8192, &restarted), CM_OK);
    end_far_end(&far);
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(every_family_is_written_through_a_probe),
        cmocka_unit_test(an_image_crosses_the_line_about_once),
        cmocka_unit_test(a_middleman_loses_nothing),
        cmocka_unit_test(a_probe_that_withholds_what_it_read_is_no_good_one),
        cmocka_unit_test(a_probe_that_restarts_is_told_and_borne),
        cmocka_unit_test(a_computer_that_is_killed_leaves_a_probe_that_works),
        cmocka_unit_test(a_line_that_is_pulled_out_ends_the_job),
        cmocka_unit_test(a_line_that_is_plugged_in_again_goes_on),
        cmocka_unit_test(a_probe_of_another_size_does_not_go_on),
        cmocka_unit_test(the_rate_of_the_line_is_found_and_raised),
        cmocka_unit_test(a_probe_that_restarts_is_found_at_its_first_rate),
        cmocka_unit_test(a_result_that_comes_too_late_is_nobodys),
        cmocka_unit_test(what_is_no_probe_is_told),
        cmocka_unit_test(a_probe_is_for_one_at_a_time),
    };
    return cmocka_run_group_tests(tests, link_setup, link_teardown);
}
