/*
 * link-campaign JOBS MOMENTS: Hardware as in test_link.c. So many jobs through a middleman who does
 * everything at once; then so many programs killed and so many probes restarted, each at a random
 * moment of a job, after which the same job must come to a good end. Prints what was survived.
 */
#define _GNU_SOURCE
#include "support/chance.h"
#include "support/link_rig.h"
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <sys/wait.h>
#include <unistd.h>

enum { JOBS_A_CHIP = 20, BYTES = 4096, SAFE_MS = 1100 };

static const struct pty_size SIZES[] = {{1024, 24, 3}, {276, 7, 2}, {65536, 64, 4}};
static const struct {
    const char *part;
    unsigned mv;
} CHIPS[] = {{"attiny84a", 5000}, {"w25x10", 3300}, {"24lc256", 5000}};

enum { SIZE_COUNT = sizeof SIZES / sizeof SIZES[0], CHIP_COUNT = sizeof CHIPS / sizeof CHIPS[0] };

static int jobs, moments;

/* Every job has contents of its own, so that there is something to write. */
static void change_image(int seed)
{
    for (uint32_t i = 0; i < BYTES; i++)
        link_image[i] = (uint8_t)((i * 5 + i / 250 + (uint32_t)seed * 77) | 1);
}

static void begin(struct far_end *far, const char *what, int number)
{
    char name[60];
    snprintf(name, sizeof name, "%s-%d", what, number);
    begin_far_end(far, name, CHIPS[number % CHIP_COUNT].part, CHIPS[number % CHIP_COUNT].mv, "",
                  SIZES[number / CHIP_COUNT % SIZE_COUNT]);
}

static const char *part_of(int number)
{
    return CHIPS[number % CHIP_COUNT].part;
}

/* A job may be ended by lost contact; it never ends good over wrong contents. */
static void jobs_through_a_middleman(void **state)
{
    static const char *const WORDS[MISCHIEF_KINDS] = {"dropped", "flipped", "repeated", "delayed",
                                                      "split",   "cut",     "withheld"};
    static const struct mischief ALL = {{600, 600, 400, 800, 60, 600}};
    unsigned long happened[MISCHIEF_KINDS] = {0};
    int good = 0, given_up = 0;
    (void)state;
    for (int number = 0; good + given_up < jobs; number++) {
        struct far_end far;
        uint32_t restarted;
        enum cm_status status = CM_OK;
        begin(&far, "middle", number);
        put_between(&far, &ALL);
        for (int i = 0; i < JOBS_A_CHIP && good + given_up < jobs; i++) {
            change_image(number * JOBS_A_CHIP + i);
            status = put_image(&far, part_of(number), BYTES, &restarted);
            good += status == CM_OK;
            given_up += status != CM_OK;
        }
        for (int i = 0; i < MISCHIEF_KINDS; i++)
            happened[i] += far.facts->happened[i];
        end_far_end(&far);
        if (!status)
            check_chip(&far, BYTES);
    }
    printf("  %d jobs came to a good end, %d were given up;", good, given_up);
    for (int i = 0; i < MISCHIEF_KINDS; i++)
        printf(" %s %lu,", WORDS[i], happened[i]);
    printf(" and no wrong byte\n");
    assert_true(good * 50 >= jobs * 49);
}

/* The probe lets go a second after it has heard nobody; where the machine has no time for it, later
 * by the clock on the wall. */
static void await_release(const struct far_end *far)
{
    enum { LOOKS = 60 };
    usleep(SAFE_MS * 1000);
    for (int i = 0; far->facts->in_session && i < LOOKS; i++)
        usleep(SAFE_MS * 1000);
    assert_false(far->facts->in_session);
}

/* A program is killed: within a second the probe has let the target go, and the next one does it.
 */
static void programs_that_are_killed(void **state)
{
    (void)state;
    for (int number = 0; number < moments; number++) {
        struct far_end far;
        uint32_t restarted;
        begin(&far, "killed", number);
        change_image(number);
        pid_t job = fork();
        if (job == 0) {
            (void)!put_image(&far, part_of(number), BYTES, &restarted);
            _exit(0);
        }
        usleep((useconds_t)(rand() % 60000));
        kill(job, SIGKILL);
        waitpid(job, NULL, 0);
        if (number % 4 == 0)
            await_release(&far);
        enum cm_status status = put_image(&far, part_of(number), BYTES, &restarted);
        end_far_end(&far);
        if (status)
            fail_msg("%s: %s", part_of(number), cm_status_word(status));
        check_chip(&far, BYTES);
    }
    printf("  %d programs killed: the target was let go, and the same job came to a good end\n",
           moments);
}

static void probes_that_restart(void **state)
{
    unsigned told = 0, again = 0;
    (void)state;
    for (int number = 0; number < moments; number++) {
        struct far_end far;
        uint32_t restarted = 0;
        begin(&far, "restart", number);
        change_image(number + 7);
        pid_t hand = signal_later(&far, SIGUSR1, rand() % 60000);
        enum cm_status status = put_image(&far, part_of(number), BYTES, &restarted);
        waitpid(hand, NULL, 0);
        told += restarted;
        if (status) {
            again++;
            status = put_image(&far, part_of(number), BYTES, &restarted);
        }
        end_far_end(&far);
        if (status)
            fail_msg("%s: %s", part_of(number), cm_status_word(status));
        check_chip(&far, BYTES);
    }
    printf("  %d probes restarted: %u times it was told in a job, %u jobs were given again\n",
           moments, told, again);
}

int main(int argc, char **argv)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(jobs_through_a_middleman),
        cmocka_unit_test(programs_that_are_killed),
        cmocka_unit_test(probes_that_restart),
    };
    jobs = argc > 1 ? atoi(argv[1]) : 40;
    moments = argc > 2 ? atoi(argv[2]) : 12;
    srand(test_seed());
    return cmocka_run_group_tests(tests, link_setup, link_teardown);
}
