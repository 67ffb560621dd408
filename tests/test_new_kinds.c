/* Hardware: none. The tool with one kind of ports, one format and one verb more
 * (tests/new_kinds): each is one file and one row. */
#include "support/tool.h"
#include <coldmint/host.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static struct outcome outcome;

static void a_new_kind_of_ports_is_listed_and_opened(void **state)
{
    (void)state;
    TOOL(0, "ports");
    assert_says(outcome.out, "shelf:left");
    assert_says(outcome.out, "not usable: it fell down");
    TOOL(4, "look", "--via=shelf:left");
    assert_says(outcome.err, "no chip answers");
    TOOL(3, "look", "--via=shelf:middle");
    assert_says(outcome.err, "the shelf middle cannot be set up");
    assert_says(outcome.err, "there is no middle shelf");
    assert_says(outcome.err, "try       shelf:left");
    TOOL(3, "look", "--via=drawer:1");
    assert_says(outcome.err, "this build has sim:BENCH.yaml, shelf:SIDE");
}

static void a_new_format_is_read_and_written(void **state)
{
    char tally[200], hex[200], back[200], damaged[200];
    (void)state;
    write_file(tally, sizeof tally, "bells.tally", "tally\n0040 DE AD BE EF\n0100 01 02\n");
    snprintf(hex, sizeof hex, "%s/bells.hex", test_folder());
    snprintf(back, sizeof back, "%s/back.tally", test_folder());
    TOOL(0, "image", "convert", tally, "-o", hex);
    assert_says(outcome.out, "a tally: 6 bytes, 0x0040 to 0x0101");
    TOOL(0, "image", "convert", hex, "-o", back);
    char *text = read_file(back);
    assert_string_equal(text, "tally\n0040 DE AD BE EF\n0100 01 02\n");
    free(text);
    TOOL(0, "image", "match", tally, hex);
    write_file(damaged, sizeof damaged, "damaged", "tally\n0040 DE"); // known without its name
    TOOL(9, "image", "info", damaged);
    TOOL(2, "image", "convert", hex, "-o", back, "--format=score");
}

static void a_new_verb_has_help_options_and_json(void **state)
{
    (void)state;
    TOOL(0, "--help");
    assert_says(outcome.out, "ring the bell");
    TOOL(0, "ring", "--times", "3");
    assert_says(outcome.out, "3 times");
    TOOL(0, "ring", "--json");
    assert_says(outcome.out, "\"times\": 1");
    TOOL(0, "ring", "--help");
    assert_says(outcome.out, "--times N");
    TOOL(2, "ring", "--via=sim:x.yaml"); // it heeds none of those
    TOOL(0, "--man");
    assert_says(outcome.out, "coldmint ring");
    TOOL(0, "--words", "options", "ring");
    assert_says(outcome.out, "--times=");
    TOOL(2, "put"); // which this tool does not have
}

int main(void)
{
    setenv("TEST_TOOL", NEW_TOOL_PATH, 1);
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(a_new_kind_of_ports_is_listed_and_opened),
        cmocka_unit_test(a_new_format_is_read_and_written),
        cmocka_unit_test(a_new_verb_has_help_options_and_json),
    };
    return cmocka_run_group_tests(tests, NULL, NULL);
}
