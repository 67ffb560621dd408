/* This computer's own pins, ports/linux/, through the tool: the kernel is played by
 * fake_linux/kernel.c, which is loaded before the tool and wires its devices to a simulated bench.
 * A real kernel is in linux/run. */
#include "support/tool.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static struct outcome outcome;

/* A bench behind the fake kernel, and the desk that names its devices. */
struct place {
    char bench[300], via[320], image[300];
};

static void set_up(struct place *place, const char *name, const char *part, const char *bench,
                   const char *desk)
{
    char text[1500], file[60], path[300];
    snprintf(text, sizeof text, "bench: b\nchip:\n  part: %s\n%s", part, bench);
    snprintf(file, sizeof file, "%s.yaml", name);
    write_file(place->bench, sizeof place->bench, file, text);
    snprintf(text, sizeof text, "desk: d\n%s", desk);
    snprintf(file, sizeof file, "%s-desk.yaml", name);
    write_file(path, sizeof path, file, text);
    snprintf(place->via, sizeof place->via, "linux:%s", path);
    char bytes[3001];
    for (int i = 0; i < 3000; i++)
        bytes[i] = (char)('!' + i * 7 % 90);
    bytes[3000] = '\0';
    snprintf(file, sizeof file, "%s.bin", name);
    write_file(place->image, sizeof place->image, file, bytes);
    setenv("FAKE_BENCH", place->bench, 1);
    unsetenv("FAKE_TROUBLE");
}

/* Runs the tool with the fake kernel before it. */
#define FAKED(due, ...) TOOL_BEHIND(FAKE_KERNEL, due, __VA_ARGS__)

static void assert_kept_to_the_sheet(const struct place *place)
{
    TOOL(0, "bench", "show", place->bench);
    assert_says(outcome.out, "breaches  none");
}

static void all_verbs(struct place *place, const char *chip)
{
    char kept[340];
    snprintf(kept, sizeof kept, "%s.mint", place->image);
    FAKED(0, "look", "--via", place->via, "--chip", chip);
    FAKED(0, "put", "--via", place->via, "--chip", chip, place->image, "--anyway");
    FAKED(0, "match", "--via", place->via, "--chip", chip, place->image);
    FAKED(0, "keep", "--via", place->via, "--chip", chip, kept);
    FAKED(0, "erase", "--via", place->via, "--chip", chip, "--no-backup");
    FAKED(1, "match", "--via", place->via, "--chip", chip, place->image);
    FAKED(0, "put", "--via", place->via, kept);
    FAKED(0, "match", "--via", place->via, "--chip", chip, place->image);
    assert_kept_to_the_sheet(place);
}

static const char SPI[] = "spi:\n  device: /dev/spidev9.0\n";

static void spi_memory_by_the_controllers_select(void **state)
{
    struct place place;
    (void)state;
    set_up(&place, "controller", "w25x10", "  supply_mv: 3300\n", SPI);
    all_verbs(&place, "w25x10");
    FAKED(0, "guard", "--via", place.via, "--set", "lower-half");
    FAKED(6, "erase", "--via", place.via, "--chip", "w25x10");
    FAKED(0, "guard", "--via", place.via, "--lift");
    FAKED(0, "raw", "--via", place.via, "9F -> 3");
    assert_says(outcome.out, "EF 30 11");
    assert_kept_to_the_sheet(&place);
}

static void spi_memory_by_a_line_as_select(void **state)
{
    struct place place;
    (void)state;
    set_up(&place, "line", "w25x10", "  supply_mv: 3300\n",
           "spi:\n  device: /dev/spidev9.0\nlines:\n  SELECT: gpiochip9 4\n");
    all_verbs(&place, "w25x10");
    setenv("FAKE_TROUBLE", "always-selects", 1); // then the controller selects what is not there
    FAKED(0, "match", "--via", place.via, place.image);
}

static void an_avr_behind_spidev_and_a_line(void **state)
{
    struct place place;
    (void)state;
    set_up(&place, "avr", "attiny84a", "  supply_mv: 5000\n",
           "spi:\n  device: /dev/spidev9.0\nlines:\n  RESET: BUTTON-RESET\n");
    all_verbs(&place, "attiny84a");
}

/* Writes to the part and reads it back, through a desk of lines. */
static void put_through(const char *name, const char *part, const char *desk)
{
    struct place place;
    char file[60];
    set_up(&place, name, part, "  supply_mv: 5000\nport:\n  only_lines: true\n", desk);
    snprintf(file, sizeof file, "%s.bin", name);
    write_file(place.image, sizeof place.image, file, "the storm of the ninth night, node by node");
    FAKED(0, "put", "--via", place.via, "--chip", part, place.image, "--anyway");
    FAKED(0, "match", "--via", place.via, "--chip", part, place.image);
    assert_kept_to_the_sheet(&place);
}

static const char AVR_LINES[] = "lines:\n  RESET: gpiochip9 0\n  SCK: gpiochip9 1\n"
                                "  MOSI: gpiochip9 2\n  MISO: gpiochip9 3\n";

static void everything_by_lines(void **state)
{
    struct place place;
    (void)state;
    set_up(&place, "bits", "attiny84a", "  supply_mv: 5000\nport:\n  only_lines: true\n",
           AVR_LINES);
    FAKED(0, "look", "--via", place.via);
    FAKED(0, "put", "--via", place.via, "--chip", "attiny84a", place.image, "--anyway");
    assert_kept_to_the_sheet(&place);
    set_up(&place, "wires", "24lc64", "  supply_mv: 5000\n",
           "lines:\n  SDA: gpiochip9 14\n  SCL: gpiochip9 15\n");
    FAKED(0, "put", "--via", place.via, "--chip", "24lc64", place.image);
    FAKED(0, "match", "--via", place.via, "--chip", "24lc64", place.image);
    assert_kept_to_the_sheet(&place);
}

/* A kernel before 5.10 changes one line in a call; a priority is asked for where the desk says so.
 */
static void lines_of_an_old_kernel_go_one_by_one(void **state)
{
    struct place place;
    char desk[300];
    (void)state;
    snprintf(desk, sizeof desk, "priority: 20\n%s", AVR_LINES);
    set_up(&place, "old", "attiny84a", "  supply_mv: 5000\nport:\n  only_lines: true\n", desk);
    setenv("FAKE_TROUBLE", "old-kernel", 1);
    FAKED(0, "put", "--via", place.via, "--chip", "attiny84a", place.image, "--anyway");
    assert_kept_to_the_sheet(&place);
    setenv("FAKE_TROUBLE", "no-priority", 1);
    FAKED(3, "look", "--via", place.via, "--chip", "attiny84a");
}

static void three_wires_by_lines(void **state)
{
    (void)state;
    put_through("three", "93lc66b",
                "lines:\n  SCK: gpiochip9 1\n  MOSI: gpiochip9 2\n  MISO: gpiochip9 3\n"
                "  SELECT: gpiochip9 4\n");
}

/* Each line of a parallel memory by itself. */
static void a_parallel_memory_by_lines(void **state)
{
    char desk[1200];
    int at = snprintf(desk, sizeof desk,
                      "lines:\n  CE: gpiochip9 8\n  OE: gpiochip9 9\n  WE: gpiochip9 10\ndata:\n");
    (void)state;
    for (int i = 0; i < 8; i++)
        at += snprintf(desk + at, sizeof desk - (size_t)at, "  - gpiochip9 %d\n", CM_LINE_D0 + i);
    at += snprintf(desk + at, sizeof desk - (size_t)at, "address:\n");
    for (int i = 0; i < 17; i++)
        at += snprintf(desk + at, sizeof desk - (size_t)at, "  - gpiochip9 %d\n", CM_LINE_A0 + i);
    put_through("flash", "sst39sf010a", desk);
}

/* The address by the kernel's SPI through a chain of shift registers, the data by lines. */
static void a_parallel_memory_by_shift_registers(void **state)
{
    struct place place;
    char desk[900];
    int at = snprintf(desk, sizeof desk,
                      "%slines:\n  CE: gpiochip9 8\n  OE: gpiochip9 9\n  WE: gpiochip9 10\n"
                      "  LATCH: gpiochip9 13\ndata:\n",
                      SPI);
    (void)state;
    for (int i = 0; i < 8; i++)
        at += snprintf(desk + at, sizeof desk - (size_t)at, "  - gpiochip9 %d\n", CM_LINE_D0 + i);
    set_up(&place, "registers", "sst39sf010a", "  supply_mv: 5000\nport:\n  registers: true\n",
           desk);
    FAKED(0, "put", "--via", place.via, "--chip", "sst39sf010a", place.image, "--anyway");
    FAKED(0, "match", "--via", place.via, "--chip", "sst39sf010a", place.image);
    assert_kept_to_the_sheet(&place);
}

/* Four resistors at a converter with logic levels: opening the device clocks nothing into the chip.
 */
static void an_avr_behind_modem_lines(void **state)
{
    struct place place;
    (void)state;
    set_up(&place, "modem", "attiny84a", "  supply_mv: 5000\nport:\n  only_lines: true\n",
           "modem:\n  device: /dev/ttyS9\nlines:\n  RESET: TXD\n  SCK: not RTS\n  MOSI: not DTR\n"
           "  MISO: not CTS\n");
    FAKED(0, "look", "--via", place.via);
    assert_says(outcome.out, "goes on driving SCK, MOSI, RESET");
    FAKED(0, "put", "--via", place.via, "--chip", "attiny84a", place.image, "--anyway");
    FAKED(0, "match", "--via", place.via, "--chip", "attiny84a", place.image);
    assert_kept_to_the_sheet(&place);
}

static void i2c_by_its_adapter(void **state)
{
    struct place place;
    (void)state;
    set_up(&place, "i2c", "24lc256", "  supply_mv: 5000\n", "i2c:\n  device: /dev/i2c-9\n");
    FAKED(0, "look", "--via", place.via, "--chip", "24lc256");
    FAKED(0, "put", "--via", place.via, "--chip", "24lc256", place.image);
    setenv("FAKE_TROUBLE", "no-empty", 1);
    FAKED(0, "match", "--via", place.via, "--chip", "24lc256", place.image);
    FAKED(0, "erase", "--via", place.via, "--chip", "24lc256", "--no-backup");
    assert_kept_to_the_sheet(&place);
}

/* Measured by what the kernel tells: in millivolts, or by raw number and scale. */
static void the_supply_is_measured(void **state)
{
    static const char *const WAYS[][3] = {{"in1_input", "1650\n", ""},
                                          {"in_voltage3_raw", "2063\n", "in_voltage_scale"},
                                          {"in_voltage4_raw", "2063\n", "in_voltage4_scale"}};
    (void)state;
    for (size_t i = 0; i < sizeof WAYS / sizeof WAYS[0]; i++) {
        struct place place;
        char path[300], scale[300], desk[700], name[40];
        write_file(path, sizeof path, WAYS[i][0], WAYS[i][1]);
        if (*WAYS[i][2])
            write_file(scale, sizeof scale, WAYS[i][2], "0.8\n");
        snprintf(desk, sizeof desk, "%ssupply:\n  measure: %s\n  times: 2.0\n", SPI, path);
        snprintf(name, sizeof name, "supply-%u", (unsigned)i);
        set_up(&place, name, "w25x10", "  supply_mv: 3300\n", desk);
        FAKED(0, "look", "--via", place.via, "--chip", "w25x10");
        assert_says(outcome.out, "supply    3.30 V");
    }
}

static void a_line_switches_the_supply(void **state)
{
    struct place place;
    (void)state;
    set_up(&place, "switch", "w25x10",
           "  supply_mv: 0\nport:\n  feeds_from_mv: 1800\n  feeds_to_mv: 5000\n",
           "spi:\n  device: /dev/spidev9.0\nsupply:\n  switch: gpiochip9 30\n  mv: 3300\n");
    FAKED(0, "put", "--via", place.via, "--chip", "w25x10", "--feed", "3.3V", place.image);
    FAKED(0, "match", "--via", place.via, "--chip", "w25x10", "--feed", "3.3V", place.image);
    assert_kept_to_the_sheet(&place);
}

/* Each refusal of the system is told, with what to do. */
static void troubles_are_told(void **state)
{
    static const char LINES[] = "spi:\n  device: /dev/spidev9.0\nlines:\n  SELECT: gpiochip9 4\n";
    static const char PRIORITY[] = "priority: 20\nspi:\n  device: /dev/spidev9.0\n";
    static const struct {
        const char *trouble, *desk;
        const char *words;
    } CASES[] = {
        {"no-right", SPI, "/dev/spidev9.0: permission denied"},
        {"busy", SPI, "another process uses it"},
        {"no-mode", SPI, "cannot do SPI mode 0"},
        {"no-clock", SPI, "the system refused the SPI clock"},
        {"too-long", SPI, "longer than the system takes"},
        {"taken", LINES, "is taken by 'spi0 CS0'"},
        {"line-fails", LINES, "the system refused a line"},
        {"smbus-only", "i2c:\n  device: /dev/i2c-9\n", "plain I2C transfers"},
        {"no-modem", "modem:\n  device: /dev/ttyS9\n", "has no modem lines"},
        {"", "spi:\n  device: /dev/spidev8.0\n", "there is no /dev/spidev8.0"},
        {"", "i2c:\n  device: /dev/i2c-8\n", "i2c-dev loaded"},
        {"", "spi:\n  device: /dev/null\n", "is no SPI device"},
        {"", "lines:\n  RESET: NO-SUCH-LINE\n", "there is no line 'NO-SUCH-LINE'"},
        {"", "lines:\n  RESET: gpiochip9 500\n", "no line of that number"},
        {"", "lines:\n  RESET: TXD\n", "is a serial device's: name that under 'modem'"},
        {"", "modem:\n  device: /dev/ttyS9\nlines:\n  RESET: CTS\n", "RESET is driven"},
        {"", "lines:\n  RESET: gpiochip9 3\n  SCK: not gpiochip9 3\n",
         "named twice: for RESET and for SCK"},
        {"", "lines:\n  RESET: gpiochip9 0\n", "want an SPI device"},
        {"", "spi:\n  device: /dev/spidev9.0\nsupply:\n  switch: gpiochip9 30\n",
         "wants its voltage"},
        {"", "lines:\n  SDA: gpiochip9 14\n", "SDA wants SCL"},
        {"", "spi:\n  speed: 3\n", "near line"},
        {"", "supply:\n  mv: 3300\n", "it names no bus"},
        {"no-priority", PRIORITY, "rtprio in /etc/security/limits.conf"},
        {"", "priority: 200\nspi:\n  device: /dev/spidev9.0\n", "priorities are 1 to 99"},
    };
    (void)state;
    for (size_t i = 0; i < sizeof CASES / sizeof CASES[0]; i++) {
        struct place place;
        char name[40], text[900];
        snprintf(name, sizeof name, "trouble-%u", (unsigned)i);
        set_up(&place, name, "w25x10", "  supply_mv: 3300\n", CASES[i].desk);
        setenv("FAKE_TROUBLE", CASES[i].trouble, 1);
        setenv("LD_PRELOAD", FAKE_KERNEL, 1);
        run_tool(&outcome, "look", "--via", place.via, "--chip", "w25x10", NULL);
        unsetenv("LD_PRELOAD");
        snprintf(text, sizeof text, "%.400s%.400s", outcome.out, outcome.err);
        assert_says(text, CASES[i].words);
        assert_int_equal(outcome.code, 3);
    }
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(spi_memory_by_the_controllers_select),
        cmocka_unit_test(spi_memory_by_a_line_as_select),
        cmocka_unit_test(an_avr_behind_spidev_and_a_line),
        cmocka_unit_test(everything_by_lines),
        cmocka_unit_test(lines_of_an_old_kernel_go_one_by_one),
        cmocka_unit_test(a_parallel_memory_by_lines),
        cmocka_unit_test(a_parallel_memory_by_shift_registers),
        cmocka_unit_test(three_wires_by_lines),
        cmocka_unit_test(an_avr_behind_modem_lines),
        cmocka_unit_test(i2c_by_its_adapter),
        cmocka_unit_test(the_supply_is_measured),
        cmocka_unit_test(a_line_switches_the_supply),
        cmocka_unit_test(troubles_are_told),
    };
    setenv("ASAN_OPTIONS", "verify_asan_link_order=0:detect_leaks=0", 1);
    return cmocka_run_group_tests_name("linux", tests, NULL, NULL);
}
