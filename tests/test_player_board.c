/* Hardware: a simulated ATmega1284P with a player's firmware, its pins wired to a simulated bench.
 * The button is pressed, and the chip is what the tool makes of the same capsule. */
#include "support/tool.h"
#include <coldmint/host.h>
#include <processor/avr_board.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

/* The library that simulates the processor does not free all that it takes. */
const char *__asan_default_options(void);

const char *__asan_default_options(void)
{
    return "detect_leaks=0";
}

enum { EEPROM = 2048, FAST = 1000, MOST_MS = 20000 };
enum { BUSY = 0, FAILED = 1, BUTTON = 2, READY = 4 }; /* of port B */

static struct outcome outcome;
static char firmware[300], capsule[300], folder[250];
static uint8_t eeprom[EEPROM];

static const char *path_of(const char *name)
{
    static char paths[8][300];
    static unsigned at;
    char *path = paths[at++ % 8];
    snprintf(path, sizeof paths[0], "%s/%s", test_folder(), name);
    return path;
}

/* A capsule for three units, and the firmware that plays it. */
static int make_firmware(void **state)
{
    char command[1200], key[300];
    (void)state;
    snprintf(capsule, sizeof capsule, "%s", path_of("node.mint"));
    snprintf(key, sizeof key, "%s", path_of("carillon"));
    snprintf(folder, sizeof folder, "%s/firmware", test_folder());
    snprintf(firmware, sizeof firmware, "%s/player.elf", folder);
    setenv("XDG_STATE_HOME", path_of("state"), 1);
    TOOL(0, "pack", "--make-key", key);
    strcat(key, ".key");
    TOOL(0, "pack", SOURCE_FOLDER "/demo/recipes/strike-node.yaml", capsule, "--key", key,
         "--units", "3");
    snprintf(command, sizeof command, "%s/player/build %s %s %s", SOURCE_FOLDER, capsule,
             path_of("carillon.pub"), folder);
    memset(eeprom, 0xFF, sizeof eeprom);
    return system(command);
}

static struct cm_sim *open_bench(const char *path)
{
    char error[SIM_ERROR_BYTES];
    struct cm_sim *sim = cm_sim_open(path, error);
    if (!sim)
        fail_msg("%s", error);
    return sim;
}

static struct avr_board *switch_on(struct cm_sim *sim)
{
    struct avr_board *board = avr_board_open("atmega1284p", firmware, sim);
    avr_board_write_eeprom(board, eeprom, EEPROM);
    avr_board_hold(board, 'B', BUTTON, true);
    return board;
}

static void switch_off(struct avr_board *board)
{
    avr_board_read_eeprom(board, eeprom, EEPROM);
    avr_board_close(board);
}

/* Runs until a lamp shows; returns the milliseconds that it took. */
static unsigned run_until_at(int line, struct avr_board *board, uint8_t one, uint8_t other)
{
    for (unsigned ms = 0; ms < MOST_MS; ms++) {
        if (avr_board_shows(board, 'B', one) || avr_board_shows(board, 'B', other))
            return ms;
        assert_true(avr_board_run(board, FAST));
    }
    fail_msg("line %d: no lamp after %d s", line, MOST_MS / 1000);
    return 0;
}

#define run_until(...) run_until_at(__LINE__, __VA_ARGS__)

/* For a while, as when nobody touches it. */
static void rest(struct avr_board *board, unsigned ms)
{
    for (; ms; ms--)
        assert_true(avr_board_run(board, FAST));
}

/* Presses the button, and waits until the unit has ended. True: it is good. */
static bool press(struct avr_board *board, unsigned *took_ms)
{
    rest(board, 50);
    avr_board_hold(board, 'B', BUTTON, false);
    run_until(board, BUSY, FAILED);
    avr_board_hold(board, 'B', BUTTON, true);
    *took_ms = run_until(board, READY, FAILED);
    return avr_board_shows(board, 'B', READY);
}

static void assert_same_chip(const char *one, const char *other)
{
    struct cm_sim *a = open_bench(one), *b = open_bench(other);
    const struct avr_model *x = cm_sim_model(a), *y = cm_sim_model(b);
    assert_memory_equal(x->flash, y->flash, 8192);
    assert_memory_equal(x->eeprom, y->eeprom, 512);
    assert_memory_equal(x->fuses, y->fuses, 3);
    assert_int_equal(x->lock, y->lock);
    assert_no_breach(x);
    assert_true(cm_sim_close(a) && cm_sim_close(b));
}

static void a_button_makes_what_the_tool_makes(void **state)
{
    char bench[200], via[220], other[200];
    unsigned ready_ms, took_ms;
    (void)state;
    make_bench("by-player", "attiny84a", "", bench, via);
    struct cm_sim *sim = open_bench(bench);
    struct avr_board *board = switch_on(sim);
    ready_ms = run_until(board, READY, FAILED);
    assert_true(avr_board_shows(board, 'B', READY));
    assert_true(press(board, &took_ms));
    print_message("  ready %u ms after the power, the unit in %u ms; RAM %u bytes, of which stack "
                  "%u\n",
                  ready_ms, took_ms, (unsigned)avr_board_ram(board),
                  (unsigned)avr_board_stack(board));
    switch_off(board);
    assert_true(cm_sim_close(sim));
    make_bench("by-tool", "attiny84a", "", other, via);
    TOOL(0, "mint", via, capsule, "--yes");
    assert_same_chip(bench, other);
}

/* The power goes in the middle; and the next start makes the same unit whole, and counts it once.
 * Then the third, and no fourth. */
static void a_power_cut_is_made_good(void **state)
{
    char bench[200], via[220], log[300];
    unsigned took_ms;
    (void)state;
    make_bench("cut", "attiny84a", "", bench, via);
    struct cm_sim *sim = open_bench(bench);
    struct avr_board *board = switch_on(sim);
    run_until(board, READY, FAILED);
    rest(board, 50);
    avr_board_hold(board, 'B', BUTTON, false);
    run_until(board, BUSY, BUSY);
    rest(board, 250);
    assert_true(avr_board_shows(board, 'B', BUSY));
    switch_off(board);
    assert_true(cm_sim_close(sim));

    sim = open_bench(bench);
    board = switch_on(sim);
    run_until(board, READY, FAILED);
    assert_true(press(board, &took_ms));
    rest(board, 3000);                   // the beeper
    assert_true(press(board, &took_ms)); // it is right already, and does not count
    switch_off(board);
    assert_true(cm_sim_close(sim));
    char other[200], third[200];
    snprintf(other, sizeof other, "%s/by-tool.yaml", test_folder());
    assert_same_chip(bench, other);

    make_bench("third", "attiny84a", "", third, via);
    sim = open_bench(third);
    board = switch_on(sim);
    run_until(board, READY, FAILED);
    assert_true(press(board, &took_ms));
    rest(board, 3000);
    assert_false(press(board, &took_ms)); // no more
    switch_off(board);
    assert_true(cm_sim_close(sim));
    assert_same_chip(third, other);

    write_file(log, 200, "player.log", "");
    FILE *file = fopen(log, "wb");
    fwrite(eeprom, 1, sizeof eeprom, file);
    fclose(file);
    TOOL(0, "pack", "--log", log);
    assert_says(outcome.out, "3 made and 0 failed are on record");
}

int main(int argc, char **argv)
{
    (void)argc, (void)argv;
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(a_button_makes_what_the_tool_makes),
        cmocka_unit_test(a_power_cut_is_made_good),
    };
    return cmocka_run_group_tests(tests, make_firmware, NULL);
}
