/* Hardware: simulated benches, one after another or side by side, through the tool: units with
 * numbers of their own, hands-free, and the ledger that tells of them. */
#include "support/tool.h"
#include <jansson.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

#define FIRMWARE SOURCE_FOLDER "/demo/firmware/"

static struct outcome outcome;
static char recipe[300], ledger[300];

static const char RECIPE[] = "recipe: strike node\nchip: attiny84a\nboard: C\nversion: \"1.5\"\n"
                             "settings:\n  clock: internal-8MHz\n  clock-divide: by-1\n"
                             "flash: " FIRMWARE "strike-node-1.5.hex\n"
                             "eeprom: " FIRMWARE "bell-7.hex\n";

static const char UNIT[] = "numbers: strike-node 1000 to 1999\nunit:\n"
                           "  - eeprom 0x1E0 u32-little number\n"
                           "  - eeprom 0x1E4 text-8 N-{number:5}\n"
                           "  - eeprom 0x1EC u16-big 513\n"
                           "  - eeprom 0x1EE crc16-little 0x1E0 to 0x1ED\n";

static void write_recipe(const char *unit)
{
    char text[2000];
    snprintf(text, sizeof text, "%s%s", RECIPE, unit);
    write_file(recipe, sizeof recipe, "node.yaml", text);
}

static void new_ledger(const char *name)
{
    snprintf(ledger, sizeof ledger, "%s/%s", test_folder(), name);
    unlink(ledger);
}

/* A bench; returns its port's name. */
static const char *bench(const char *name, const char *more, char *via, size_t room)
{
    char file[60], text[400], path[300];
    snprintf(file, sizeof file, "%s.yaml", name);
    snprintf(text, sizeof text,
             "bench: %s\nchip:\n  part: attiny84a\n  supply_mv: 5000\nport:\n"
             "  measures_supply: true\n%s",
             name, more);
    write_file(path, sizeof path, file, text);
    snprintf(via, room, "sim:%s", path);
    return via;
}

static uint8_t *eeprom_of(const char *via)
{
    static uint8_t bytes[512];
    char path[300];
    snprintf(path, sizeof path, "%s/eeprom.bin", test_folder());
    TOOL(0, "keep", "--via", via, "--region", "eeprom", path, "--replace");
    FILE *file = fopen(path, "rb");
    assert_non_null(file);
    assert_int_equal(fread(bytes, 1, sizeof bytes, file), sizeof bytes);
    fclose(file);
    return bytes;
}

static uint16_t crc16(const uint8_t *bytes, int count)
{
    uint16_t sum = 0;
    for (int i = 0; i < count * 8; i++) {
        bool out = (sum >> 15 ^ bytes[i / 8] >> (7 - i % 8)) & 1;
        sum = (uint16_t)(sum << 1 ^ (out ? 0x1021 : 0));
    }
    return sum;
}

static void assert_is_unit(const char *via, unsigned number)
{
    const uint8_t *bytes = eeprom_of(via);
    char text[12];
    assert_int_equal(bytes[0x1E0] | bytes[0x1E1] << 8, number);
    snprintf(text, sizeof text, "N-%05u", number);
    assert_string_equal((const char *)bytes + 0x1E4, text);
    assert_memory_equal(bytes + 0x1EC, "\x02\x01", 2);
    assert_int_equal(bytes[0x1EE] | bytes[0x1EF] << 8, crc16(bytes + 0x1E0, 14));
}

/* --- one unit ---------------------------------------------------------------------------- */

static void a_unit_gets_its_own(void **state)
{
    char via[320];
    (void)state;
    write_recipe(UNIT);
    bench("one", "", via, sizeof via);
    TOOL(2, "mint", "--via", via, recipe);
    assert_says(outcome.err, "--number N gives one by hand");
    TOOL(0, "mint", "--via", via, "--number", "42", recipe);
    assert_says(outcome.out, "version 1.5, number 42");
    assert_is_unit(via, 42);
    new_ledger("one.ledger");
    TOOL(0, "mint", "--via", via, "--ledger", ledger, recipe);
    assert_is_unit(via, 1000);
    TOOL(0, "undo", "--via", via, "--chip", "attiny84a", "--list");
    assert_says(outcome.out, "  number 42\n"); // the backup knows which unit it was
    TOOL(1, "mint", "--via", via, "--plan", "--number", "7", recipe);
    // which uses none up
    TOOL(1, "mint", "--via", via, "--plan", "--ledger", ledger, "--known", "new", recipe);
    assert_says(outcome.out, "1001 of strike-node");
    TOOL(0, "ledger", ledger, "1000");
    assert_says(outcome.out, "strike-node-1.5.hex");
    assert_says(outcome.out, "id 1E930C");
    TOOL(1, "ledger", ledger, "1001");
    TOOL(0, "mint", "--via", via, "--ledger", ledger, "--known", "new", recipe);
    assert_says(outcome.out, "number 1001");
    TOOL(0, "ledger", ledger, "1000", "--label", "Node {number}/{version} {", "--label", "{chip}");
    assert_string_equal(outcome.out, "Node 1000/1.5 {\nattiny84a\n");
    TOOL(2, "ledger", ledger, "1000", "--label", "Node {nothing}");
    assert_says(outcome.err, "{nothing}");
}

/* A unit that is put in again got the next number, and its label was wrong. */
static void a_unit_that_comes_again_is_known(void **state)
{
    char via[320], other[320];
    (void)state;
    write_recipe(UNIT);
    bench("again", "", via, sizeof via);
    bench("other", "", other, sizeof other);
    new_ledger("again.ledger");
    TOOL(0, "mint", "--via", via, "--ledger", ledger, recipe);
    TOOL(10, "mint", "--via", via, "--ledger", ledger, recipe);
    assert_says(outcome.err, "this is number 1000 of strike-node already, and is left as it is");
    TOOL(0, "tune", "--via", via, "--chip", "attiny84a", "brown-out=off");
    TOOL(0, "mint", "--via", via, "--ledger", ledger, "--known", "again", recipe);
    assert_says(outcome.out, "number 1000");
    assert_is_unit(via, 1000);
    TOOL(0, "ledger", ledger, "1000");
    assert_says(outcome.out, "2 units, 2 passed"); // its history is kept
    TOOL(0, "ledger", ledger, "--label", "N-{number}", "--last", "5");
    assert_string_equal(outcome.out, "N-1000\n"); // and it has one label
    TOOL(0, "mint", "--via", via, "--ledger", ledger, "--number", "1000", recipe);
    TOOL(0, "mint", "--via", other, "--ledger", ledger, recipe);
    assert_is_unit(other, 1001);
    TOOL(0, "mint", "--via", other, "--ledger", ledger, "--number", "1002", recipe);
    TOOL(0, "mint", "--via", other, "--ledger", ledger, "--known", "new", recipe);
    assert_is_unit(other, 1003);
    TOOL(10, "mint", "--via", other, "--ledger", ledger, "--number", "5000", recipe);
    assert_says(outcome.err, "the series strike-node has no number 5000");
    assert_is_unit(other, 1003);
    TOOL(2, "mint", "--via", via, "--known", "again", recipe);
    TOOL(2, "mint", "--via", via, "--ledger", ledger, "--known", "perhaps", recipe);
    write_recipe("known: perhaps\n");
    TOOL(9, "mint", "--via", via, "--ledger", ledger, recipe);
    assert_says(outcome.err, "one of: leave, again, new");
}

/* Two places that tell different numbers are no number. */
static void a_number_that_is_in_doubt_is_none(void **state)
{
    char via[320], path[300];
    (void)state;
    write_recipe(UNIT);
    bench("doubt", "", via, sizeof via);
    new_ledger("doubt.ledger");
    TOOL(0, "mint", "--via", via, "--ledger", ledger, recipe);
    write_file(path, sizeof path, "text.hex", ":0801E4004E2D303130303500A2\n:00000001FF\n");
    char thing[320];
    snprintf(thing, sizeof thing, "eeprom=%s", path);
    TOOL(0, "put", "--via", via, "--chip", "attiny84a", thing);
    TOOL(0, "mint", "--via", via, "--ledger", ledger, recipe);
    assert_is_unit(via, 1001);
}

/* In a run it is neither good nor bad. */
static void a_known_unit_on_a_belt_is_left(void **state)
{
    char via[320], belt[300];
    (void)state;
    write_recipe(UNIT);
    bench("seen", "", via, sizeof via);
    new_ledger("seen.ledger");
    TOOL(0, "mint", "--via", via, "--ledger", ledger, recipe);
    bench("fresh", "", via, sizeof via);
    write_file(belt, sizeof belt, "seen-belt.yaml",
               "belt: one of them is made\nunits:\n  - seen.yaml\n  - fresh.yaml\n");
    snprintf(via, sizeof via, "belt:%s", belt);
    TOOL(0, "mint", "--via", via, "--count", "1", "--ledger", ledger, recipe);
    assert_says(outcome.out, "SAME      0.00 s: this is number 1000 of strike-node already");
    assert_says(outcome.out, "PASS      number 1001");
    assert_says(outcome.out, "units     1 passed, 0 failed");
    assert_says(outcome.out, "1 came that were made before");
    snprintf(via, sizeof via, "sim:%s/seen.yaml", test_folder());
    assert_is_unit(via, 1000);
    TOOL(0, "ledger", ledger, "--json");
    assert_says(outcome.out, "\"count\": 2");
}

/* Values of a unit's own in exports and on labels; and units by how and where they were made. */
static void units_are_found_labelled_and_exported(void **state)
{
    char via[320], path[300], *contents;
    (void)state;
    write_file(path, sizeof path, "own.csv", "number,gain,site\n7,118,North \"A\"\n8,121,South\n");
    write_recipe("numbers: sites from own.csv\nunit:\n  - eeprom 0x1E0 u16-little number\n"
                 "  - eeprom 0x1E2 u8 gain\n");
    new_ledger("own.ledger");
    bench("own-1", "wires: [\"mosi=low@2000+9000\"]\n", via, sizeof via);
    run_tool(&outcome, "mint", "--via", via, "--ledger", ledger, "--station", "bench-9", recipe,
             NULL);
    assert_int_not_equal(outcome.code, 0);
    bench("own-2", "", via, sizeof via);
    TOOL(0, "mint", "--via", via, "--ledger", ledger, "--station", "bench-1", recipe);
    bench("own-3", "", via, sizeof via);
    TOOL(0, "mint", "--via", via, "--ledger", ledger, "--station", "bench-2", recipe);
    TOOL(0, "ledger", ledger, "--failed");
    assert_says(outcome.out, "1 unit, 0 passed");
    TOOL(0, "ledger", ledger, "--made-by", "bench-2");
    assert_says(outcome.out, "1 unit, 1 passed");
    TOOL(0, "ledger", ledger, "--version", "1.5", "--passed");
    assert_says(outcome.out, "2 units, 2 passed");
    TOOL(0, "ledger", ledger, "--until", "2026-11-30 09:30");
    assert_says(outcome.out, "0 units");
    TOOL(0, "ledger", ledger, "--since", "2026-11-30 09:30");
    assert_says(outcome.out, "3 units");
    TOOL(2, "ledger", ledger, "--since", "2026-11-30 24:30");
    TOOL(2, "ledger", ledger, "--day", "2026-11-30", "--until", "2026-11-30");
    TOOL(0, "ledger", ledger, "8", "--label", "gain {gain}, {site}");
    assert_string_equal(outcome.out, "gain 121, South\n");
    TOOL(2, "ledger", ledger, "8", "--label", "{phase}");
    assert_says(outcome.err, "{gain}");
    snprintf(path, sizeof path, "%s/units.csv", test_folder());
    TOOL(0, "ledger", ledger, "-o", path);
    contents = read_file(path);
    assert_says(contents, ",key,\"own.gain\",\"own.site\"\r\n");
    assert_says(contents, "\"118\",\"North \"\"A\"\"\"\r\n");
    free(contents);
    snprintf(path, sizeof path, "%s/labels.csv", test_folder());
    TOOL(0, "ledger", ledger, "--label", "S-{number}", "--label", "gain {gain}", "--code",
         "{series}:{number}", "-o", path);
    contents = read_file(path);
    assert_string_equal(contents, "line1,line2,code\r\n\"S-7\",\"gain 118\",\"sites:7\"\r\n"
                                  "\"S-8\",\"gain 121\",\"sites:8\"\r\n");
    free(contents);
    snprintf(path, sizeof path, "%s/labels.pdf", test_folder());
    TOOL(0, "ledger", ledger, "--label", "S-{number}", "-o", path);
    assert_says(outcome.out, "2 labels in ");
    TOOL(2, "ledger", ledger, "--code", "x");
    TOOL(2, "ledger", ledger, "--failed", "--passed");
}

static void assert_blank(const char *via)
{
    const uint8_t *bytes = eeprom_of(via);
    for (int i = 0; i < 512; i++)
        assert_int_equal(bytes[i], 0xFF);
}

/* What the ledger cannot hold is found before the chip is touched, and no number is used up. */
static void texts_are_checked_before_the_chip_is_touched(void **state)
{
    char via[320], long_name[200] = "", text[2400];
    (void)state;
    bench("texts", "", via, sizeof via);
    new_ledger("texts.ledger");
    write_recipe(UNIT);
    TOOL(9, "mint", "--via", via, "--ledger", ledger, "--station", "caf\xE9", recipe);
    assert_says(outcome.err, "station's name");
    for (int i = 0; i < 80; i++)
        strcat(long_name, "\xC3\xA9");
    snprintf(text, sizeof text,
             "recipe: strike node\nchip: attiny84a\nboard: %s\nflash: " FIRMWARE
             "strike-node-1.5.hex\n%s",
             long_name, UNIT);
    write_file(recipe, sizeof recipe, "long.yaml", text);
    TOOL(9, "mint", "--via", via, "--ledger", ledger, recipe);
    assert_says(outcome.err, "the ledger cannot hold the board's name");
    assert_says(outcome.err, "160 bytes, and 127 are the most");
    assert_blank(via);
    write_recipe(UNIT);
    TOOL(0, "mint", "--via", via, "--ledger", ledger, recipe);
    assert_says(outcome.out, "number 1000");
}

/* Six files with the longest names: no digest is cut off. */
static void no_field_of_a_record_is_cut(void **state)
{
    enum { FILES = 6 };
    char via[320], text[4000] = "recipe: long names\nchip: attiny84a\nflash:\n", name[260],
                   path[600];
    (void)state;
    bench("names", "", via, sizeof via);
    new_ledger("names.ledger");
    for (int i = 0; i < FILES; i++) {
        memset(name, 'n', sizeof name);
        snprintf(name + 240, sizeof name - 240, "-%d.hex", i);
        snprintf(text + strlen(text), sizeof text - strlen(text), "  - %s\n", name);
        char record[60];
        unsigned sum = 0x01u + 0x10u * (unsigned)i + 0xA5u;
        snprintf(record, sizeof record, ":0100%X000A5%02X\n:00000001FF\n", i, (0u - sum) & 0xFF);
        write_file(path, sizeof path, name, record);
    }
    write_file(recipe, sizeof recipe, "names-recipe.yaml", text);
    TOOL(0, "mint", "--via", via, "--ledger", ledger, recipe);
    snprintf(path, sizeof path, "%s/names.json", test_folder());
    TOOL(0, "ledger", ledger, "-o", path, "--replace");
    json_t *list = json_load_file(path, 0, NULL);
    const char *images = json_string_value(json_object_get(json_array_get(list, 0), "images"));
    assert_non_null(images);
    unsigned lines = 1;
    for (const char *at = images; *at; at++)
        lines += *at == '\n';
    assert_int_equal(lines, FILES);
    assert_int_equal(strlen(images), FILES * (246 + 1 + 64) + FILES - 1);
    json_decref(list);
}

/* The place of a symbol, a column of a file, and what a file has at the place is replaced. */
static void places_and_values(void **state)
{
    char via[320], csv[300];
    (void)state;
    write_file(csv, sizeof csv, "sites.csv", "number,site,pitch\n41,north,440\n42,south,466\n");
    write_recipe("numbers: sites from sites.csv\nunit:\n  - eeprom 0x00 text-6 {site}\n"
                 "  - eeprom 0x10 u16-little pitch\n  - eeprom 0x18 crc32-big 0x00 to 0x05\n");
    new_ledger("sites.ledger");
    bench("two", "", via, sizeof via);
    TOOL(0, "mint", "--via", via, "--ledger", ledger, recipe);
    const uint8_t *bytes = eeprom_of(via);
    assert_memory_equal(bytes, "north", 6);
    assert_int_equal(bytes[0x10] | bytes[0x11] << 8, 440);
    assert_memory_equal(bytes + 0x18, "\xa7\xb4\x66\x21", 4);
    TOOL(0, "mint", "--via", via, "--ledger", ledger, recipe);
    assert_memory_equal(eeprom_of(via), "south", 6);
    TOOL(10, "mint", "--via", via, "--ledger", ledger, recipe);
    assert_says(outcome.err, "all numbers of this series are given out");
}

/* Files of numbers as spreadsheets write them are right, and what is wrong with one is said before
 * a number is given out. */
static void files_of_numbers_are_right_or_refused(void **state)
{
    static const struct {
        const char *text, *said;
    } WRONG[] = {
        {"number,site\n41,north\n42,south\n\n41,east\n", "the number 41 is in line 2 already"},
        {"site,code\nnorth,1\n", "no column is called 'number'"},
        {"number,site,site\n41,a,b\n", "two columns have the same name"},
        {"number,site\n41,north\n42\n", "a row of other columns than the first"},
        {"number;site\n41,5;north\n", "this is no number"},
        {"number,place\n41,north\n", "no value called 'site'"}};
    static const char *const RIGHT[] = {"\xEF\xBB\xBFnumber,site\r\n41,north\r\n\r\n",
                                        "number;site\n41;north\n", "site\tnumber\nnorth\t41\n",
                                        "\"number\";\"site\"\n41;\"north\""};
    char via[320], csv[300];
    (void)state;
    write_recipe("numbers: sites from sites.csv\nunit:\n  - eeprom 0x00 text-6 {site}\n");
    bench("tables", "", via, sizeof via);
    for (size_t i = 0; i < sizeof WRONG / sizeof WRONG[0]; i++) {
        write_file(csv, sizeof csv, "sites.csv", WRONG[i].text);
        new_ledger("tables.ledger");
        TOOL(9, "mint", "--via", via, "--ledger", ledger, recipe);
        assert_says(outcome.err, WRONG[i].said);
        assert_int_equal(eeprom_of(via)[0], 0xFF);
    }
    for (size_t i = 0; i < sizeof RIGHT / sizeof RIGHT[0]; i++) {
        char name[40];
        snprintf(name, sizeof name, "right-%u", (unsigned)i);
        write_file(csv, sizeof csv, "sites.csv", RIGHT[i]);
        new_ledger("tables.ledger");
        bench(name, "", via, sizeof via);
        TOOL(0, "mint", "--via", via, "--ledger", ledger, recipe);
        assert_memory_equal(eeprom_of(via), "north", 6);
    }
}

/* The linker knows where it is: a variable in the EEPROM, and one in the flash. */
static void a_symbol_is_a_place(void **state)
{
    char via[320], source[300], command[900], text[900];
    (void)state;
    write_file(source, sizeof source, "program.c",
               "#include <avr/eeprom.h>\n#include <avr/pgmspace.h>\n"
               "uint8_t before EEMEM = 1;\nuint32_t unit_number EEMEM = 0xFFFFFFFF;\n"
               "const char made[8] PROGMEM = \"nowhere\";\n"
               "int main(void) { for (;;) OCR0A = pgm_read_byte(&made[eeprom_read_byte(&before)]); "
               "}\n");
    snprintf(command, sizeof command,
             "avr-gcc -mmcu=attiny84 -Os -fno-toplevel-reorder -o %s/program.elf %s && "
             "avr-nm %s/program.elf | grep -q ' unit_number$'",
             test_folder(), source, test_folder());
    assert_int_equal(system(command), 0);
    snprintf(text, sizeof text,
             "recipe: program\nchip: attiny84a\nflash: program.elf\nunit:\n"
             "  - eeprom unit_number u32-big number\n  - flash made text-8 here\n");
    write_file(recipe, sizeof recipe, "symbol.yaml", text);
    bench("symbols", "", via, sizeof via);
    TOOL(0, "mint", "--via", via, "--number", "66051", recipe);
    const uint8_t *bytes = eeprom_of(via);
    bool found = false;
    for (int at = 0; at < 8; at++)
        found |= memcmp(bytes + at, "\x00\x01\x02\x03", 4) == 0;
    assert_true(found);
    snprintf(source, sizeof source, "%s/flash.bin", test_folder());
    TOOL(0, "keep", "--via", via, "--region", "flash", source, "--replace");
    snprintf(command, sizeof command, "grep -q here %s && ! grep -q nowhere %s", source, source);
    assert_int_equal(system(command), 0);
}

static void what_is_no_entry_is_told(void **state)
{
    static const struct {
        const char *unit, *words;
        int code;
    } CASES[] = {
        {"unit: eeprom 0x1E0 number\n", "is not a memory, a place", 9},
        {"unit: eeprom 0x1E0 u12-little number\n", "is not a memory, a place", 9},
        {"unit: eeprom 0x1E0 u72-little number\n", "is not a memory, a place", 9},
        {"unit: eeprom 0x1E0 u16 number\n", "is not a memory, a place", 9},
        {"unit: eeprom 0x1E0 text-99 number\n", "is not a memory, a place", 9},
        {"unit: eeprom 0x1E0 text-8-x number\n", "is not a memory, a place", 9},
        {"unit: eeprom 0x1FE u32-little number\n", "this chip has no such place", 9},
        {"unit: eeprom no_symbol u32-little number\n", "this chip has no such place", 9},
        {"unit: cellar 0x10 u32-little number\n", "this chip has no such place", 9},
        {"unit: eeprom 0x1E0 u8 number\n", "a value of this unit does not fit", 9},
        {"unit: eeprom 0x1E0 text-4 N-{number}\n", "a value of this unit does not fit", 9},
        {"unit: eeprom 0x1E0 u8 {site}\n", "no value called 'site'", 9},
        {"unit: eeprom 0x1E0 crc16-little 0x1C0 to 0x1D0\n", "bytes that the recipe does not", 9},
        {"unit: eeprom 0x1E0 crc16-little 0x1E0 to 0x1E1\n", "bytes that the recipe does not", 9},
        {"unit: eeprom 0x1E0 crc16-little 5 to 1\n", "a value of this unit does not fit", 9},
        {"numbers: strike-node\n", "this is no series of numbers", 9},
        {"numbers: strike-node 9 to 3\n", "this is no series of numbers", 9},
    };
    char via[320];
    (void)state;
    bench("entries", "", via, sizeof via);
    for (size_t i = 0; i < sizeof CASES / sizeof CASES[0]; i++) {
        write_recipe(CASES[i].unit);
        run_tool(&outcome, "mint", "--via", via, "--number", "1042", recipe, NULL);
        assert_says(outcome.err, CASES[i].words);
        assert_int_equal(outcome.code, CASES[i].code);
    }
    const uint8_t *bytes = eeprom_of(via);
    for (int i = 0; i < 512; i++)
        assert_int_equal(bytes[i], 0xFF); // nothing was written
}

/* --- hands-free -------------------------------------------------------------------------- */

/* Twelve on a belt: two with bad contacts, one that is dead. */
static void twelve_on_a_belt(void **state)
{
    char via[320], belt[300], text[700] = "belt: twelve strike nodes\nunits:\n", name[40];
    (void)state;
    write_recipe(UNIT);
    new_ledger("belt.ledger");
    for (int i = 1; i <= 12; i++) {
        snprintf(name, sizeof name, "belt-%d", i);
        bench(name,
              i == 4    ? "faults:\n  contact_lost_after_bytes: 2500\n"
              : i == 7  ? "faults:\n  contact_lost_after_bytes: 9000\n"
              : i == 10 ? "wires: [\"miso=low\"]\n"
                        : "",
              via, sizeof via);
        snprintf(text + strlen(text), sizeof text - strlen(text), "  - %s.yaml\n", name);
    }
    write_file(belt, sizeof belt, "belt.yaml", text);
    snprintf(via, sizeof via, "belt:%s", belt);
    TOOL(4, "mint", "--via", via, "--count", "12", "--patience", "20", "--ledger", ledger,
         "--station", "bench-1", recipe);
    assert_says(outcome.err, "no more units came");
    assert_says(outcome.out, "units     9 passed, 3 failed: a yield of 75.0 %");
    assert_says(outcome.out, "PASS      number 1008");
    assert_says(outcome.out, "no chip answers: MISO stays low");
    for (int i = 1, number = 1000; i <= 12; i++) { // without gap or double
        if (i == 4 || i == 7 || i == 10)
            continue;
        snprintf(via, sizeof via, "sim:%s/belt-%d.yaml", test_folder(), i);
        assert_is_unit(via, (unsigned)number++);
    }
    TOOL(0, "ledger", ledger);
    assert_says(outcome.out, "12 units, 9 passed");
    assert_says(outcome.out, "FAIL");
    TOOL(0, "ledger", ledger, "--day", "1999-01-01");
    assert_says(outcome.out, "0 units");
    TOOL(2, "ledger", ledger, "--day", "yesterday");
    TOOL(2, "ledger", ledger, "--day", "2026-02-31");
    TOOL(0, "ledger", ledger, "--last", "3");
    assert_says(outcome.out, "9 earlier ones are left out");
    assert_says(outcome.out, "12 units, 9 passed");
    static const char *const FILES[][2] = {
        {"day.svg", "<svg"}, {"day.pdf", "%PDF"}, {"all.csv", "number,series"}, {"all.json", "["}};
    for (size_t i = 0; i < 4; i++) {
        char path[300];
        snprintf(path, sizeof path, "%s/%s", test_folder(), FILES[i][0]);
        TOOL(0, "ledger", ledger, "-o", path);
        char *contents = read_file(path);
        assert_non_null(contents);
        assert_non_null(strstr(contents, FILES[i][1]));
        free(contents);
    }
}

/* Eight sockets at once take no longer than one, and one that fails does not hold up the others. */
static void eight_sockets_at_once(void **state)
{
    char via[8][320], name[40];
    (void)state;
    write_recipe(UNIT);
    new_ledger("gang.ledger");
    for (int i = 0; i < 8; i++) {
        snprintf(name, sizeof name, "socket-%d", i);
        bench(name, i == 3 ? "wires: [\"miso=low\"]\n" : "", via[i], sizeof via[i]);
    }
    run_tool(&outcome, "mint", "--via", via[0], "--via", via[1], "--via", via[2], "--via", via[3],
             "--via", via[4], "--via", via[5], "--via", via[6], "--via", via[7], "--count", "7",
             "--ledger", ledger, "--json", recipe, NULL);
    json_t *answer = json_loads(outcome.out, 0, NULL);
    assert_int_equal(outcome.code, 0);
    assert_int_equal(json_integer_value(json_object_get(answer, "passed")), 7);
    json_int_t longest = 0, shortest = INT64_MAX;
    size_t i;
    json_t *unit;
    json_array_foreach(json_object_get(answer, "units"), i, unit)
    {
        json_int_t took = json_integer_value(json_object_get(unit, "took_ms"));
        if (!json_is_true(json_object_get(unit, "passed")))
            continue;
        longest = took > longest ? took : longest;
        shortest = took < shortest ? took : shortest;
    }
    assert_true(longest * 10 <= shortest * 11);
    json_decref(answer);
    bool seen[7] = {false};
    for (int k = 0; k < 8; k++) {
        if (k == 3)
            continue;
        const uint8_t *bytes = eeprom_of(via[k]);
        unsigned number = (unsigned)(bytes[0x1E0] | bytes[0x1E1] << 8);
        assert_in_range(number, 1000, 1006);
        assert_false(seen[number - 1000]);
        seen[number - 1000] = true;
    }
}

static void a_run_that_cannot_be_is_told(void **state)
{
    char via[320], path[300], text[400];
    (void)state;
    write_recipe(UNIT);
    bench("none", "", via, sizeof via);
    TOOL(2, "mint", "--via", via, "--count", "-1", recipe);
    TOOL(2, "mint", "--via", via, "--count", "2", "--number", "3", recipe);
    TOOL(2, "mint", "--via", via, "--count", "2", "--plan", recipe);
    TOOL(9, "mint", "--via", via, "--count", "2", "--ledger", "/no/such/folder/l", recipe);
    TOOL(3, "mint", "--via", via, "--count", "2", "--via", "sim:not-there.yaml", recipe);
    TOOL(9, "mint", "--via", via, "--count", "2", "not-there.yaml");
    new_ledger("clock.ledger");
    TOOL(2, "mint", "--via", via, "--count", "2", "--clock", "fast", recipe);
    TOOL(2, "mint", "--via", via, "--count", "2", "--chip", "attiny85", recipe);
    TOOL(0, "mint", "--via", via, "--count", "1", "--clock", "1MHz", "--chip", "attiny84a",
         "--ledger", ledger, recipe);
    new_ledger("short.ledger");
    write_recipe("numbers: few 5 to 5\nunit: eeprom 0x1E0 u8 number\n");
    TOOL(0, "mint", "--via", via, "--ledger", ledger, recipe);
    TOOL(10, "mint", "--via", via, "--count", "1", "--ledger", ledger, "--known", "new", recipe);
    assert_says(outcome.err, "all numbers of this series are given out");
    snprintf(text, sizeof text, "belt: b\nunits: [not-there.yaml]\n");
    write_file(path, sizeof path, "bad-belt.yaml", text);
    snprintf(via, sizeof via, "belt:%s", path);
    TOOL(3, "look", "--via", via);
    write_file(path, sizeof path, "bad-belt.yaml", "belt: b\n");
    TOOL(3, "look", "--via", via);
}

static void contact_is_shown_live(void **state)
{
    char via[320];
    (void)state;
    bench("live", "", via, sizeof via);
    TOOL(0, "look", "--live", "--via", via, "--chip", "attiny84a");
    assert_says(outcome.out, "id right 24 of 24   supply 5.00 V");
    assert_says(outcome.out, "contact has been good for a second");
    bench("loose", "wires: [\"miso=low@0+9000\"]\n", via, sizeof via);
    TOOL(0, "look", "--live", "--via", via, "--chip", "attiny84a"); // seated at last
    assert_says(outcome.out, "id right 0 of 8");
    assert_says(outcome.out, "MISO stays low");
    assert_says(outcome.out, "id right 24 of 32");
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(a_unit_gets_its_own),
        cmocka_unit_test(a_unit_that_comes_again_is_known),
        cmocka_unit_test(a_number_that_is_in_doubt_is_none),
        cmocka_unit_test(a_known_unit_on_a_belt_is_left),
        cmocka_unit_test(units_are_found_labelled_and_exported),
        cmocka_unit_test(texts_are_checked_before_the_chip_is_touched),
        cmocka_unit_test(no_field_of_a_record_is_cut),
        cmocka_unit_test(places_and_values),
        cmocka_unit_test(files_of_numbers_are_right_or_refused),
        cmocka_unit_test(a_symbol_is_a_place),
        cmocka_unit_test(what_is_no_entry_is_told),
        cmocka_unit_test(twelve_on_a_belt),
        cmocka_unit_test(eight_sockets_at_once),
        cmocka_unit_test(a_run_that_cannot_be_is_told),
        cmocka_unit_test(contact_is_shown_live),
    };
    return cmocka_run_group_tests_name("line", tests, NULL, NULL);
}
