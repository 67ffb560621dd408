/* Hardware: a probe's firmware in a process of its own, with a simulated bench behind it and a
 * pseudo terminal as its serial line; in between, where a test wants that, a middleman who drops,
 * flips, repeats, delays and splits what passes. */
#define _GNU_SOURCE
#include "support/support.h"
#include <coldmint/host.h>
#include <errno.h>
#include <fcntl.h>
#include <link/link.h>
#include <poll.h>
#include <pty/pty.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/file.h>
#include <sys/prctl.h>
#include <sys/wait.h>
#include <time.h>
#include <unistd.h>

enum { WORKSPACE = 1 << 17, IMAGE = 40000 };

static struct cm_host host;
static uint8_t workspace[WORKSPACE], image[IMAGE];

/* --- the probe's process ----------------------------------------------------------------- */

struct far_end {
    pid_t pid, middle;
    char path[200], device[64], name[100];
};

static volatile sig_atomic_t is_over, restarts;

static void on_signal(int number)
{
    if (number == SIGUSR1)
        restarts = 1;
    else
        is_over = 1;
}

static void play_probe(const char *path, struct pty_size size, int report)
{
    char error[SIM_ERROR_BYTES];
    prctl(PR_SET_PDEATHSIG, SIGKILL); // never outlives a test that fails
    struct sigaction action = {.sa_handler = on_signal};
    sigaction(SIGTERM, &action, NULL);
    sigaction(SIGUSR1, &action, NULL);
    struct cm_sim *sim = cm_sim_open(path, error);
    struct pty_probe *probe = sim ? pty_probe_open(cm_sim_port(sim), size) : NULL;
    if (!probe) {
        fprintf(stderr, "%s: %s\n", path, error);
        _exit(1);
    }
    char device[64];
    snprintf(device, sizeof device, "%s", pty_probe_device(probe));
    if (write(report, device, sizeof device) != sizeof device)
        _exit(1);
    while (!is_over) {
        pty_probe_step(probe);
        if (restarts)
            pty_probe_restart(probe);
        restarts = 0;
    }
    pty_probe_close(probe);
    _exit(cm_sim_close(sim) ? 0 : 1);
}

static void begin_far_end(struct far_end *far, const char *name, const char *part, unsigned mv,
                          const char *more, struct pty_size size)
{
    char text[600], file[60];
    int report[2];
    memset(far, 0, sizeof *far);
    snprintf(text, sizeof text, "bench: b\nchip:\n  part: %s\n  supply_mv: %u\n%s", part, mv, more);
    snprintf(file, sizeof file, "%s.yaml", name);
    write_file(far->path, sizeof far->path, file, text);
    assert_int_equal(pipe(report), 0);
    far->pid = fork();
    if (far->pid == 0)
        play_probe(far->path, size, report[1]);
    close(report[1]);
    assert_int_equal(read(report[0], far->device, sizeof far->device), sizeof far->device);
    close(report[0]);
    snprintf(far->name, sizeof far->name, "link:%s", far->device);
}

static void stop(pid_t pid)
{
    int status;
    kill(pid, SIGTERM);
    assert_int_equal(waitpid(pid, &status, 0), pid);
}

static void end_far_end(struct far_end *far)
{
    if (far->middle)
        stop(far->middle);
    stop(far->pid);
}

/* --- the middleman ----------------------------------------------------------------------- */

/* How often what happens to a piece of what passes, one in so many; 0: never. */
struct mischief {
    unsigned drop, flip, repeat, delay, split, cut;
};

static bool happens(unsigned one_in)
{
    return one_in && (unsigned)rand() % one_in == 0;
}

static void write_all(int line, const uint8_t *bytes, size_t count)
{
    while (count) {
        ssize_t written = write(line, bytes, count);
        if (written <= 0) {
            struct pollfd ready = {line, POLLOUT, 0};
            if (poll(&ready, 1, 300) <= 0)
                return;
            continue;
        }
        bytes += written;
        count -= (size_t)written;
    }
}

/* A piece passes, or what is left of it. */
static void pass_on(int to, uint8_t *bytes, size_t count, const struct mischief *mischief)
{
    if (happens(mischief->drop))
        return;
    if (happens(mischief->cut))
        count = (size_t)rand() % count;
    if (happens(mischief->flip) && count)
        bytes[(size_t)rand() % count] ^= (uint8_t)(1u << (rand() & 7));
    if (happens(mischief->delay))
        usleep((useconds_t)(rand() % 20000));
    size_t part = happens(mischief->split) ? count / 2 : count;
    write_all(to, bytes, part);
    if (part < count) {
        usleep(2000);
        write_all(to, bytes + part, count - part);
    }
    if (happens(mischief->repeat))
        write_all(to, bytes, count);
}

static void play_middleman(int near_line, int far_line, const struct mischief *mischief)
{
    enum { PIECE = 700 };
    prctl(PR_SET_PDEATHSIG, SIGKILL);
    struct sigaction action = {.sa_handler = on_signal};
    sigaction(SIGTERM, &action, NULL);
    srand(4711);
    while (!is_over) {
        uint8_t bytes[PIECE];
        struct pollfd ready[2] = {{near_line, POLLIN, 0}, {far_line, POLLIN, 0}};
        if (poll(ready, 2, 50) <= 0)
            continue;
        for (int i = 0; i < 2; i++) {
            ssize_t got = ready[i].revents & POLLIN ? read(ready[i].fd, bytes, sizeof bytes) : 0;
            if (got > 0)
                pass_on(ready[1 - i].fd, bytes, (size_t)got, mischief);
        }
    }
    _exit(0);
}

/* Stands between the computer and the probe: the device to be opened is another one then. */
static void put_between(struct far_end *far, const struct mischief *mischief)
{
    struct pty_line near_line;
    int far_line = open(far->device, O_RDWR | O_NOCTTY | O_NONBLOCK);
    assert_true(pty_line_open(&near_line, O_NONBLOCK) && far_line >= 0);
    far->middle = fork();
    if (far->middle == 0)
        play_middleman(near_line.line, far_line, mischief);
    pty_line_close(&near_line);
    close(far_line);
    snprintf(far->name, sizeof far->name, "link:%s", near_line.device);
}

/* --- this end ---------------------------------------------------------------------------- */

static int setup(void **state)
{
    (void)state;
    (void)test_folder();
    cm_host_begin(&host, cm_all_ports);
    for (uint32_t i = 0; i < IMAGE; i++)
        image[i] = (uint8_t)(i * 5 + i / 250) | 1;
    return 0;
}

static int teardown(void **state)
{
    (void)state;
    cm_host_end(&host);
    return 0;
}

/* Puts the image through the link, and compares it. Returns the first status that is not good. */
static enum cm_status put_image(struct far_end *far, const char *part, uint32_t bytes,
                                uint32_t *restarted)
{
    struct cm_open_port port;
    struct cm_session session = {.port = NULL};
    struct cm_report report;
    struct cm_memory memory = {image, bytes, 0};
    struct cm_want want = {CM_REGION_MAIN, cm_memory_source(&memory)};
    struct cm_put put = {.wants = &want,
                         .want_count = 1,
                         .unprotect = true,
                         .lose_data = true,
                         .carry.in_memory = true};
    if (!cm_port_open(&host, far->name, &port))
        return CM_PORT_FAILED;
    enum cm_status status =
        cm_open(&session, port.port, host.kits, host.kit_count, workspace, sizeof workspace);
    if (!status)
        status = cm_identify(&session, part);
    if (!status)
        status = cm_put(&session, &put, &report);
    if (!status)
        status = cm_compare(&session, &want, NULL, NULL, NULL, &report);
    *restarted = port.port->state->restarts;
    cm_close(&session);
    assert_true(cm_port_close(&host, &port));
    return status;
}

/* What the bench's chip holds, and that nothing on its wires was against the data sheet. */
static void check_chip(const struct far_end *far, uint32_t bytes)
{
    char error[SIM_ERROR_BYTES];
    struct cm_sim *sim = cm_sim_open(far->path, error);
    assert_non_null(sim);
    const struct avr_model *avr = cm_sim_model(sim);
    for (uint32_t i = 0; i < bytes; i++) {
        uint8_t found = avr ? avr->flash[i] : cm_sim_at(sim, i);
        if (found != image[i])
            fail_msg("0x%04X holds %02X, not %02X", (unsigned)i, found, image[i]);
    }
    for (int i = 0; i < cm_sim_kind(sim)->breach_count; i++) {
        if (cm_sim_breaches(sim)[i])
            fail_msg("%u times: %s", (unsigned)cm_sim_breaches(sim)[i],
                     cm_sim_kind(sim)->breach_words[i]);
    }
    assert_true(cm_sim_close(sim));
}

/* --- tests ------------------------------------------------------------------------------- */

static const struct {
    const char *part;
    unsigned mv;
    const char *more;
    uint32_t bytes;
} CHIPS[] = {
    {"attiny84a", 5000, "", 8192},
    {"atmega328p", 5000, "", 20000},
    {"w25q16", 3300, "", IMAGE},
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
        struct cm_memory memory = {image, IMAGE, 0};
        struct cm_want want = {CM_REGION_MAIN, cm_memory_source(&memory)};
        struct cm_put put = {.wants = &want, .want_count = 1};
        begin_far_end(&far, i ? "once-small" : "once-large", "w25q16", 3300, "", SIZES[i]);
        assert_true(cm_port_open(&host, far.name, &port));
        assert_int_equal(
            cm_open(&session, port.port, host.kits, host.kit_count, workspace, sizeof workspace),
            CM_OK);
        assert_int_equal(cm_identify(&session, "w25q16"), CM_OK);
        uint64_t before = link_counts(port.hardware).out;
        assert_int_equal(cm_put(&session, &put, &report), CM_OK);
        struct link_counts counts = link_counts(port.hardware);
        cm_close(&session);
        assert_true(cm_port_close(&host, &port));
        end_far_end(&far);
        assert_int_equal(counts.resent, 0);
        assert_in_range(counts.out - before, IMAGE, IMAGE + IMAGE / 3);
        check_chip(&far, IMAGE);
    }
}

/* Whatever happens to what passes: it ends good over right contents. */
static void a_middleman_loses_nothing(void **state)
{
    static const struct mischief KINDS[] = {
        {.drop = 40}, {.flip = 40}, {.repeat = 20},          {.delay = 20},
        {.split = 3}, {.cut = 40},  {60, 60, 60, 60, 10, 60}};
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

/* Sends a signal to a process after so many microseconds, from a process of its own. */
static pid_t signal_later(pid_t to, int number, int us)
{
    pid_t sender = fork();
    if (sender == 0) {
        usleep((useconds_t)us);
        kill(to, number);
        _exit(0);
    }
    return sender;
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
        pid_t troublemaker = signal_later(far.pid, SIGUSR1, 4000 + 5000 * i);
        enum cm_status status = put_image(&far, "w25q16", IMAGE, &restarted);
        waitpid(troublemaker, NULL, 0);
        seen += restarted;
        if (status) // it gave up at a bad moment: once more
            status = put_image(&far, "w25q16", IMAGE, &restarted);
        end_far_end(&far);
        if (status)
            fail_msg("restart %d: %s", i, cm_status_word(status));
        check_chip(&far, IMAGE);
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
        pid_t hand = signal_later(far.pid, SIGKILL, 8000 + 4000 * i);
        time_t begun = time(NULL);
        enum cm_status status = put_image(&far, "w25q16", IMAGE, &restarted);
        waitpid(hand, NULL, 0);
        waitpid(far.pid, NULL, 0);
        assert_true(status == CM_PORT_FAILED || status == CM_CONTACT_LOST);
        assert_true(time(NULL) - begun < 10);
    }
}

static void what_is_no_probe_is_told(void **state)
{
    struct cm_open_port port;
    char path[200], name[220];
    (void)state;
    write_file(path, sizeof path, "no-device", "x");
    snprintf(name, sizeof name, "link:%s", path);
    assert_false(cm_port_open(&host, name, &port));
    assert_string_equal(host.error.detail, "it is no serial device");
    assert_false(cm_port_open(&host, "link:/nowhere", &port));
    assert_false(cm_port_open(&host, "link:tcp:1", &port)); // nobody listens there
    assert_true(host.error.detail[0]);
    assert_false(cm_port_open(&host, "link:/dev/null,123", &port));
    assert_non_null(strstr(host.error.detail, "no rate"));
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
    assert_false(cm_port_open(&host, far->name, &port));
    assert_int_equal(host.error.kind, CM_ERROR_PORT_BUSY);
    kill(holder, SIGKILL);
    waitpid(holder, NULL, 0);
    snprintf(name, sizeof name, "process %d (test-link) uses it", (int)holder);
    assert_string_equal(host.error.detail, name);
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
    assert_true(cm_port_open(&host, far.name, &one));
    assert_false(cm_port_open(&host, far.name, &other));
    assert_true(cm_port_close(&host, &one));
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
        cmocka_unit_test(a_probe_that_restarts_is_told_and_borne),
        cmocka_unit_test(a_computer_that_is_killed_leaves_a_probe_that_works),
        cmocka_unit_test(a_line_that_is_pulled_out_ends_the_job),
        cmocka_unit_test(what_is_no_probe_is_told),
        cmocka_unit_test(a_probe_is_for_one_at_a_time),
    };
    return cmocka_run_group_tests(tests, setup, teardown);
}
