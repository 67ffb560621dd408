/* Hardware: boards that run the probe's firmware, and nobody but their own compiler made it. An
 * ATmega328P or an ATmega1284P whose processor is simulated, its pins wired to a simulated bench;
 * or an emulated Arm board with SPI memories that we did not model: the argument, `328p`, `1284p`
 * or `arm`, says which. Each is used through the tool, over a pseudo terminal; the tool's clock is
 * that of the board (processor/shared_time.h). */
#define _GNU_SOURCE
#include "processor/shared_time.h"
#include "support/chance.h"
#include "support/tool.h"
#include <fcntl.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/prctl.h>
#include <sys/wait.h>
#include <unistd.h>

enum { MOST_FLASH = 16896, MOST_RAM = 1792, MOST_RAM_1284P = 16384 };

static struct outcome outcome;

/* Runs the tool by the board's clock. */
#define TIMED(due, ...) TOOL_BEHIND(KEPT_TIME, due, __VA_ARGS__)

/* --- boards ------------------------------------------------------------------------------ */

struct board {
    pid_t pid;
    FILE *output;
    int held; // the device, open: an emulator looks only now and then if somebody is there
    char bench[200], via[80], time[200];
    unsigned in, out; // bytes of its line, when it was stopped
};

static void start(struct board *board, const char *const *arguments)
{
    int ends[2];
    assert_int_equal(pipe(ends), 0);
    board->pid = fork();
    if (board->pid == 0) {
        prctl(PR_SET_PDEATHSIG, SIGKILL);
        dup2(ends[1], STDOUT_FILENO);
        dup2(ends[1], STDERR_FILENO);
        close(ends[0]);
        execvp(arguments[0], (char *const *)(uintptr_t)arguments);
        _exit(127);
    }
    close(ends[1]);
    board->output = fdopen(ends[0], "r");
    char line[300];
    const char *device = NULL;
    while (!device && fgets(line, sizeof line, board->output))
        device = strstr(line, "/dev/pts/");
    assert_non_null(device);
    snprintf(board->via, sizeof board->via, "link:%.*s", (int)strcspn(device, " \n"), device);
    board->held = open(board->via + strlen("link:"), O_RDWR | O_NOCTTY);
    assert_true(board->held >= 0);
}

/* What it said since. */
static void stop(struct board *board, char *words, size_t room)
{
    int status;
    kill(board->pid, SIGTERM);
    size_t count = fread(words, 1, room - 1, board->output);
    words[count] = '\0';
    fclose(board->output);
    close(board->held);
    assert_int_equal(waitpid(board->pid, &status, 0), board->pid);
}

/* An AVR in front of a part, at the end of a line that damages so many frames of a hundred. */
static void start_board_on(const char *loss, struct board *board, const char *mcu, const char *name,
                           const char *part, const char *more)
{
    char text[600], file[60], firmware[300];
    snprintf(text, sizeof text, "bench: b\nchip:\n  part: %s\n%s", part, more);
    snprintf(file, sizeof file, "%s.yaml", name);
    snprintf(firmware, sizeof firmware, FIRMWARE "/%s.elf", mcu);
    write_file(board->bench, sizeof board->bench, file, text);
    const char *const arguments[] = {PROCESSOR, mcu, firmware, board->bench, "1", loss, NULL};
    snprintf(file, sizeof file, "%s.time", name);
    snprintf(board->time, sizeof board->time, "%s/%s", test_folder(), file);
    setenv(SHARED_TIME_FILE, board->time, 1);
    unsetenv(SHARED_TIME_PID);
    start(board, arguments);
}

static void start_board(struct board *board, const char *mcu, const char *name, const char *part,
                        const char *more)
{
    start_board_on("0", board, mcu, name, part, more);
}

static void start_avr(struct board *board, const char *name, const char *part, const char *more)
{
    start_board(board, "atmega328p", name, part, more);
}

static unsigned number_behind(const char *text, const char *words)
{
    const char *at = strstr(text, words);
    assert_non_null(at);
    return (unsigned)strtoul(at + strlen(words), NULL, 10);
}

/* Ends it; its memory has sufficed, and it has done nothing to the part that is not allowed. */
static void stop_board(struct board *board, unsigned most_ram)
{
    char words[400], via[220];
    stop(board, words, sizeof words);
    unsigned ram = number_behind(words, "RAM "), stack = number_behind(words, "stack ");
    board->in = number_behind(words, "in ");
    board->out = number_behind(words, "out ");
    printf("  %s  %.1f s, RAM %u bytes, of which stack %u; line: %u in, %u out\n", board->bench,
           (double)strtoull(words, NULL, 10) / 16e6, ram, stack, board->in, board->out);
    assert_int_equal(number_behind(words, "lost "), 0);
    assert_in_range(ram, 1000, most_ram);
    snprintf(via, sizeof via, "%s", board->bench);
    TOOL(0, "bench", "show", via);
    assert_says(outcome.out, "breaches  none");
}

static void stop_avr(struct board *board)
{
    stop_board(board, MOST_RAM);
}

/* --- an ATmega328P ----------------------------------------------------------------------- */

/* The tool's verbs, and its words where a person would look. */
static void an_atmega328p_programs_an_avr(void **state)
{
    struct board board;
    char kept[300];
    (void)state;
    start_avr(&board, "avr", "attiny84a", "  supply_mv: 5000\n");
    snprintf(kept, sizeof kept, "%s/kept.mint", test_folder());
    TIMED(0, "look", "--via", board.via);
    assert_says(outcome.out, "attiny84a, id 1E 93 0C");
    assert_says(outcome.out, "supply    4.9");
    TIMED(0, "mint", "--via", board.via, SOURCE_FOLDER "/demo/recipes/strike-node.yaml");
    TIMED(0, "match", "--via", board.via, "--region", "eeprom",
          SOURCE_FOLDER "/demo/firmware/bell-7.hex");
    TIMED(0, "keep", "--via", board.via, "--chip", "attiny84a", kept);
    TIMED(0, "put", "--via", board.via, "--chip", "attiny84a", "--lose-boot",
          SOURCE_FOLDER "/demo/firmware/strike-node-1.4.hex");
    TIMED(0, "match", "--via", board.via, SOURCE_FOLDER "/demo/firmware/strike-node-1.4.hex");
    TIMED(0, "tune", "--via", board.via, "brown-out=4.3V");
    assert_says(outcome.out, "4.3V");
    TIMED(1, "match", "--via", board.via, kept);
    TIMED(0, "put", "--via", board.via, kept);
    TIMED(0, "match", "--via", board.via, kept);
    stop_avr(&board);
}

/* A target so slow that the SPI is too fast for it. */
static void an_atmega328p_is_slow_enough_for_a_watch_crystal(void **state)
{
    struct board board;
    (void)state;
    start_avr(&board, "slow", "attiny24a", // a small one: its flash is read at 4 kHz
              "  supply_mv: 5000\n  fuses: [0xE6, 0xDF, 0xFF]\n  board_clock_hz: 32768\n");
    TIMED(0, "look", "--via", board.via, "--chip", "attiny24a");
    assert_says(outcome.out, "kHz");
    stop_avr(&board);
}

static void make_image(char *path, size_t room, const char *name, unsigned bytes)
{
    snprintf(path, room, "%s/%s", test_folder(), name);
    FILE *file = fopen(path, "w");
    for (unsigned i = 0; i < bytes; i++)
        fputc((int)((i * 37 + (i >> 8) * 11 + 1) & 0xFF), file);
    fclose(file);
}

static void an_atmega328p_programs_spi_flash(void **state)
{
    struct board board;
    char image[300], kept[300];
    (void)state;
    if (!test_takes(0, 2)) // a minute of the processor's time: every other day
        return;
    start_avr(&board, "nor", "w25x10", "  supply_mv: 3300\n");
    make_image(image, sizeof image, "nor.bin", 20000);
    snprintf(kept, sizeof kept, "%s/nor.mint", test_folder());
    TIMED(0, "look", "--via", board.via, "--chip", "w25x10");
    TIMED(0, "put", "--via", board.via, "--chip", "w25x10", image);
    TIMED(0, "match", "--via", board.via, image);
    TIMED(0, "guard", "--via", board.via, "--set", "lower-half");
    TIMED(6, "erase", "--via", board.via, "--chip", "w25x10");
    TIMED(0, "keep", "--via", board.via, "--chip", "w25x10", kept);
    TIMED(0, "erase", "--via", board.via, "--chip", "w25x10", "--unprotect");
    TIMED(0, "put", "--via", board.via, kept, "--unprotect");
    TIMED(0, "guard", "--via", board.via);
    assert_says(outcome.out, "guarded   64 KiB at the lower end");
    stop_avr(&board);
}

/* A line does not wait until the processor has time. What it can send in one go is all taken, so
 * that nothing crosses twice. */
static void a_processor_keeps_up_with_its_line(void **state)
{
    static const struct {
        const char *mcu, *part, *more;
        unsigned bytes, most_ram;
    } JOBS[] = {{"atmega328p", "attiny84a", "  supply_mv: 5000\n", 5000, MOST_RAM},
                {"atmega328p", "w25x10", "  supply_mv: 3300\n", 9000, MOST_RAM},
                {"atmega1284p", "w25x10", "  supply_mv: 3300\n", 9000, MOST_RAM_1284P}};
    (void)state;
    for (size_t i = 0; i < sizeof JOBS / sizeof JOBS[0]; i++) {
        struct board board;
        char image[300], name[40];
        snprintf(name, sizeof name, "line-%u", (unsigned)i);
        start_board(&board, JOBS[i].mcu, name, JOBS[i].part, JOBS[i].more);
        make_image(image, sizeof image, name, JOBS[i].bytes);
        TIMED(0, "put", "--via", board.via, "--chip", JOBS[i].part, image, "--no-backup",
              "--anyway");
        stop_board(&board, JOBS[i].most_ram);
        assert_in_range(board.in, JOBS[i].bytes, 4 * JOBS[i].bytes); // looks, operations, data
    }
}

/* What is lost on a bad line is sent again, and once only: copies of copies would fill it. */
static void a_bad_line_dies_out_by_itself(void **state)
{
    enum { BYTES = 3000, MOST = 10 * BYTES };
    static const char *const MCUS[] = {"atmega328p", "atmega1284p"}, *const LOSSES[] = {"5", "20"};
    (void)state;
    for (size_t i = 0; i < sizeof MCUS / sizeof MCUS[0]; i++) {
        struct board board;
        char image[300], name[40];
        const char *loss = LOSSES[(i + test_seed()) % 2];
        snprintf(name, sizeof name, "lossy-%s", MCUS[i]);
        start_board_on(loss, &board, MCUS[i], name, "w25x10", "  supply_mv: 3300\n");
        make_image(image, sizeof image, name, BYTES);
        TIMED(0, "put", "--via", board.via, "--chip", "w25x10", image, "--no-backup", "--anyway");
        stop_board(&board, i ? MOST_RAM_1284P : MOST_RAM);
        assert_in_range(board.in, BYTES, MOST);
    }
}

static void an_atmega328p_programs_i2c_and_three_wire_memories(void **state)
{
    static const struct {
        const char *part;
        unsigned bytes;
    } PARTS[] = {{"24lc64", 3000}, {"93lc66b", 512}, {"25lc256", 3000}};
    (void)state;
    for (size_t i = 0; i < sizeof PARTS / sizeof PARTS[0]; i++) {
        struct board board;
        char image[300];
        start_avr(&board, PARTS[i].part, PARTS[i].part, "  supply_mv: 5000\n");
        make_image(image, sizeof image, PARTS[i].part, PARTS[i].bytes);
        TIMED(0, "look", "--via", board.via, "--chip", PARTS[i].part);
        TIMED(0, "put", "--via", board.via, "--chip", PARTS[i].part, image);
        TIMED(0, "match", "--via", board.via, "--chip", PARTS[i].part, image);
        stop_avr(&board);
    }
}

static void the_firmware_fits(void **state)
{
    FILE *size = popen("avr-size " FIRMWARE "/atmega328p.elf", "r");
    unsigned text = 0, data = 0;
    char line[200];
    (void)state;
    assert_non_null(size);
    while (fgets(line, sizeof line, size))
        (void)sscanf(line, "%u %u", &text, &data);
    assert_int_equal(pclose(size), 0);
    printf("  ATmega328P: flash %u bytes\n", text + data);
    assert_in_range(text + data, 8000, MOST_FLASH);
}

/* The pin of a line in the firmware's header, PIN_OF(B, 0): "PB0". */
static void pin_in_header(const char *header, const char *line, char *pin)
{
    static const char BEFORE[] = "PIN_OF(";
    char wanted[40];
    snprintf(wanted, sizeof wanted, "#define %s_PIN ", line);
    const char *at = strstr(header, wanted);
    assert_non_null(at);
    at = strstr(at, BEFORE);
    assert_non_null(at);
    at += strlen(BEFORE);
    snprintf(pin, 4, "P%c%c", at[0], at[3]);
}

/* What the tool says that a line comes from. */
static void from_in_output(const char *line, char *from, size_t room)
{
    char name[20];
    snprintf(name, sizeof name, "\"%s\": \"", line);
    const char *at = strstr(outcome.out, "\"from\"");
    at = at ? strstr(at, name) : NULL;
    assert_non_null(at);
    at += strlen(name);
    snprintf(from, room, "%.*s", (int)strcspn(at, "\""), at);
}

/* The wires that the tool draws begin at the pins that the firmware has. */
static void the_wires_begin_where_the_firmware_has_its_pins(void **state)
{
    enum { LINES = 4 };
    static const struct {
        const char *board, *header, *chip, *lines[LINES];
    } WIRES[] = {{"probe-328p", "328p", "attiny84a", {"RESET", "SCK", "MOSI", "MISO"}},
                 {"probe-328p", "328p", "w25q32", {"SELECT", "WP", "HOLD"}},
                 {"probe-328p", "328p", "24lc64", {"SDA", "SCL"}},
                 {"probe-1284p", "1284p", "attiny84a", {"RESET", "SCK", "MOSI", "MISO"}},
                 {"probe-1284p", "1284p", "w25q32", {"SELECT", "WP", "HOLD"}},
                 {"probe-1284p", "1284p", "24lc64", {"SDA", "SCL"}},
                 {"probe-1284p", "1284p", "27c256", {"CE", "OE", "VPP"}},
                 {"probe-1284p", "1284p", "sst39sf040", {"CE", "OE", "WE"}}};
    (void)state;
    for (size_t i = 0; i < sizeof WIRES / sizeof WIRES[0]; i++) {
        char path[300], pin[4], from[60];
        snprintf(path, sizeof path, SOURCE_FOLDER "/probe/avr/atmega%s.h", WIRES[i].header);
        char *header = read_file(path);
        assert_non_null(header);
        TOOL(0, "wires", "--from", WIRES[i].board, "--chip", WIRES[i].chip, "--json");
        for (size_t line = 0; line < LINES && WIRES[i].lines[line]; line++) {
            pin_in_header(header, WIRES[i].lines[line], pin);
            from_in_output(WIRES[i].lines[line], from, sizeof from);
            assert_says(from, pin);
        }
        free(header);
    }
}

/* What the demo burns is what the sources make. */
static void the_demo_has_this_firmware(void **state)
{
    char *built = read_file(FIRMWARE "/atmega328p.hex"),
         *kept = read_file(SOURCE_FOLDER "/demo/firmware/probe-328p.hex");
    (void)state;
    assert_non_null(built);
    assert_non_null(kept);
    if (strcmp(built, kept) != 0)
        fail_msg("demo/firmware/build makes it anew");
    free(built);
    free(kept);
}

/* --- an ATmega1284P ---------------------------------------------------------------------- */

/* Parallel memories of each kind: bytes, and pages of EEPROM and of flash. */
static void an_atmega1284p_programs_parallel_memories(void **state)
{
    static const char *const PARTS[] = {"sst39sf010a", "at28c256", "at29c010a"};
    (void)state;
    for (size_t i = 0; i < sizeof PARTS / sizeof PARTS[0]; i++) {
        struct board board;
        char image[300];
        start_board(&board, "atmega1284p", PARTS[i], PARTS[i],
                    "  supply_mv: 5000\nport:\n  registers: true\n");
        make_image(image, sizeof image, PARTS[i], 700);
        TIMED(0, "put", "--via", board.via, "--chip", PARTS[i], image, "--no-backup");
        TIMED(0, "match", "--via", board.via, "--chip", PARTS[i], image);
        stop_board(&board, MOST_RAM_1284P);
    }
}

/* An EPROM wants 6.25 V for programming, which the board does not feed; but it reads one. */
static void an_atmega1284p_reads_an_eprom(void **state)
{
    struct board board;
    char image[300], more[400];
    (void)state;
    make_image(image, sizeof image, "eprom.bin", 8192);
    snprintf(more, sizeof more,
             "  supply_mv: 5000\n  eprom: %s\nport:\n  registers: true\n  raises_a9: true\n",
             image);
    start_board(&board, "atmega1284p", "eprom", "27c64", more);
    TIMED(0, "match", "--via", board.via, "--chip", "27c64", image);
    stop_board(&board, MOST_RAM_1284P);
}

static void an_atmega1284p_programs_what_a_small_one_does(void **state)
{
    static const char *const PARTS[] = {"attiny84a", "w25x10", "24lc64"};
    (void)state;
    for (size_t i = 0; i < sizeof PARTS / sizeof PARTS[0]; i++) {
        struct board board;
        char image[300];
        start_board(&board, "atmega1284p", PARTS[i], PARTS[i],
                    i == 1 ? "  supply_mv: 3300\n" : "  supply_mv: 5000\n");
        make_image(image, sizeof image, "more.bin", 900);
        TIMED(0, "look", "--via", board.via, "--chip", PARTS[i]);
        TIMED(0, "put", "--via", board.via, "--chip", PARTS[i], image, "--anyway");
        TIMED(0, "match", "--via", board.via, "--chip", PARTS[i], image);
        stop_board(&board, MOST_RAM_1284P);
    }
}

/* --- an emulated Arm board --------------------------------------------------------------- */

static void all_verbs(const char *via, const char *chip)
{
    char image[300], other[300], kept[300];
    snprintf(kept, sizeof kept, "%s/%s.mint", test_folder(), chip);
    remove(kept);
    make_image(image, sizeof image, "arm.bin", 9000);
    make_image(other, sizeof other, "other.bin", 700);
    TIMED(0, "look", "--via", via, "--chip", chip);
    TIMED(0, "put", "--via", via, "--chip", chip, image);
    TIMED(0, "match", "--via", via, "--chip", chip, image);
    TIMED(0, "keep", "--via", via, "--chip", chip, kept);
    TIMED(0, "put", "--via", via, "--chip", chip, other, "--no-backup");
    TIMED(0, "match", "--via", via, "--chip", chip, other);
    TIMED(0, "guard", "--via", via, "--chip", chip);
    TIMED(0, "raw", "--via", via, "9F -> 3");
    TIMED(0, "erase", "--via", via, "--chip", chip, "--no-backup");
    TIMED(1, "match", "--via", via, "--chip", chip, image);
    TIMED(0, "put", "--via", via, "--no-backup", "--chip", chip, kept);
    TIMED(0, "match", "--via", via, "--chip", chip, image);
}

static void an_arm_board_programs_chips_that_we_did_not_model(void **state)
{
    static const char *const MODELS[][2] = {
        {"w25x10", "w25x10"},         {"m25p05", "m25p05"},        {"m25p10", "m25p10"},
        {"m25pe20", "m25pe20"},       {"mx25l2005a", "mx25l2005"}, {"at25fs010", "at25fs010"},
        {"sst25wf010", "sst25wf010"}, {"sst25wf512", "sst25wf512"}};
    (void)state;
    for (size_t i = 0; i < sizeof MODELS / sizeof MODELS[0]; i++) {
        if (!test_takes((uint32_t)i, 4)) // others each day
            continue;
        struct board board;
        char machine[80], words[400];
        snprintf(machine, sizeof machine, "ast2500-evb,spi-model=%s", MODELS[i][0]);
        const char *const arguments[] = {
            "qemu-system-arm", "-M",      machine,     "-kernel", FIRMWARE "/arm-emulated.elf",
            "-display",        "none",    "-monitor",  "none",    "-chardev",
            "pty,id=u",        "-serial", "chardev:u", NULL};
        setenv("QEMU_AUDIO_DRV", "none", 1);
        start(&board, arguments);
        snprintf(board.time, sizeof board.time, "%d", (int)board.pid);
        setenv(SHARED_TIME_PID, board.time, 1);
        unsetenv(SHARED_TIME_FILE);
        all_verbs(board.via, MODELS[i][1]);
        stop(&board, words, sizeof words);
    }
}

int main(int argc, char **argv)
{
    const struct CMUnitTest on_arm[] = {
        cmocka_unit_test(an_arm_board_programs_chips_that_we_did_not_model)};
    const struct CMUnitTest on_1284p[] = {
        cmocka_unit_test(an_atmega1284p_programs_parallel_memories),
        cmocka_unit_test(an_atmega1284p_reads_an_eprom),
        cmocka_unit_test(an_atmega1284p_programs_what_a_small_one_does),
    };
    const struct CMUnitTest on_328p[] = {
        cmocka_unit_test(the_firmware_fits),
        cmocka_unit_test(the_demo_has_this_firmware),
        cmocka_unit_test(the_wires_begin_where_the_firmware_has_its_pins),
        cmocka_unit_test(an_atmega328p_programs_an_avr),
        cmocka_unit_test(an_atmega328p_is_slow_enough_for_a_watch_crystal),
        cmocka_unit_test(a_processor_keeps_up_with_its_line),
        cmocka_unit_test(a_bad_line_dies_out_by_itself),
        cmocka_unit_test(an_atmega328p_programs_spi_flash),
        cmocka_unit_test(an_atmega328p_programs_i2c_and_three_wire_memories),
    };
    (void)test_folder();                                   // the tool keeps its state there
    setenv("ASAN_OPTIONS", "verify_asan_link_order=0", 1); // something is loaded before the tool
    const char *which = argc > 1 ? argv[1] : "328p";
    if (strcmp(which, "arm") == 0)
        return cmocka_run_group_tests_name("boards, Arm", on_arm, NULL, NULL);
    if (strcmp(which, "1284p") == 0)
        return cmocka_run_group_tests_name("boards, ATmega1284P", on_1284p, NULL, NULL);
    return cmocka_run_group_tests_name("boards, ATmega328P", on_328p, NULL, NULL);
}
