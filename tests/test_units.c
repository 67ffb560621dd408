/* Hardware: simulated benches, through the tool: settings, capsules, backups, boot loaders,
 * recipes, wiring, faults. */
#define _GNU_SOURCE /* asprintf */
#include "support/chance.h"
#include "support/tool.h"
#include <dirent.h>
#include <jansson.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

#define DEMO SOURCE_FOLDER "/demo"
static const char FIRMWARE[] = DEMO "/firmware/strike-node-1.4.hex";
static const char OLD_NODE[] =
    "  flash: " DEMO "/firmware/strike-node-1.2.hex\n  eeprom: " DEMO "/firmware/bell-7.hex\n";
static const char CONSOLE[] = "  board_clock_hz: 16000000\nport:\n  measures_supply: true\n";

static struct outcome outcome;

static unsigned count_backups(void)
{
    char path[300];
    unsigned count = 0;
    snprintf(path, sizeof path, "%s/coldmint/backups", test_folder());
    DIR *folder = opendir(path);
    for (struct dirent *entry; folder && (entry = readdir(folder)) != NULL;)
        count += strstr(entry->d_name, ".mint") != NULL;
    if (folder)
        closedir(folder);
    return count;
}

/* The bench's line that shows this fact, e.g. "fuses 0x62". */
static void assert_bench(const char *path, const char *fact)
{
    run_tool(&outcome, "bench", "show", path, NULL);
    assert_says(outcome.out, fact);
}

/* --- files that are for another chip ----------------------------------------------------- */

static void an_image_that_cannot_be_for_the_chip_is_named(void **state)
{
    static const uint8_t ARM[32] = {0x00, 0x50, 0x00, 0x20, 0x99, 0x01, 0x00, 0x08, 0xA1, 0x01,
                                    0x00, 0x08, 0xA3, 0x01, 0x00, 0x08, 0xA5, 0x01, 0x00, 0x08};
    char path[200], via[220], arm[200];
    (void)state;
    make_bench("misfit", "attiny84a", "", path, via);
    run_tool(&outcome, "put", via, DEMO "/firmware/console-2.0.hex", NULL);
    assert_int_equal(outcome.code, 10);
    assert_says(outcome.err, "cannot be a program for attiny84");
    assert_says(outcome.err, "its vectors are of two words, the part's of one");
    write_file(arm, sizeof arm, "arm.bin", "");
    FILE *file = fopen(arm, "wb");
    assert_non_null(file);
    fwrite(ARM, 1, sizeof ARM, file);
    fclose(file);
    run_tool(&outcome, "put", via, arm, NULL);
    assert_int_equal(outcome.code, 10);
    assert_says(outcome.err, "Arm Cortex-M");
    assert_bench(path, "pages written 0");
    run_tool(&outcome, "put", via, arm, "--anyway", NULL);
    assert_int_equal(outcome.code, 0);
    char recipe[200];
    write_file(recipe, sizeof recipe, "other-board.yaml",
               "recipe: another board's\nchip: attiny84a\nflash: " DEMO
               "/firmware/console-2.0.hex\n");
    run_tool(&outcome, "mint", via, recipe, NULL);
    assert_int_equal(outcome.code, 10);
    assert_says(outcome.err, "cannot be a program for attiny84a");
    make_bench("misfit-1284", "atmega1284p", CONSOLE, path, via);
    run_tool(&outcome, "put", via, FIRMWARE, NULL); // a smaller part's
    assert_int_equal(outcome.code, 10);
    assert_says(outcome.err, "its vectors are of one word, the part's of two");
    // not at 0: no vectors
    run_tool(&outcome, "put", via, DEMO "/firmware/loader-console.hex", NULL);
    assert_int_equal(outcome.code, 0);
}

/* Behind the last address there is none. */
static void a_byte_at_the_last_address_ends_the_file(void **state)
{
    char path[200], via[220], hex[200];
    (void)state;
    make_bench("last", "sst39sf010a", "", path, via);
    write_file(hex, sizeof hex, "last.hex", ":02000004FFFFFC\n:01FFFF0042BF\n:00000001FF\n");
    run_tool(&outcome, "put", via, "--chip=sst39sf010a", hex, NULL);
    assert_int_equal(outcome.code, 9);
    assert_says(outcome.err, "the file does not fit this chip");
}

/* A linker's file: flash, eeprom and fuses at their addresses. */
static void a_linkers_file_brings_the_eeprom_too(void **state)
{
    char path[200], via[220], hex[200];
    (void)state;
    make_bench("linker", "attiny84a", "", path, via);
    write_file(hex, sizeof hex, "all.hex",
               ":040000000FC001022A\n:02000004008179\n:0400080062656C6C55\n:02000004008278\n"
               ":02000000E2DF3D\n:00000001FF\n");
    run_tool(&outcome, "put", via, hex, NULL);
    assert_int_equal(outcome.code, 0);
    assert_says(outcome.out, "4 bytes, 0x0000 to 0x0003, for flash");
    assert_says(outcome.out, "4 bytes, 0x0008 to 0x000B, for eeprom");
    assert_says(outcome.out, "2 more bytes of it are at addresses of other regions");
    assert_says(outcome.out, "the file also wants other fuses or lock bits than the chip has");
    assert_says(outcome.out, "low fuse               0x62 -> 0xE2");
    run_tool(&outcome, "put", via, hex, "--settings", NULL);
    assert_int_equal(outcome.code, 0);
    assert_bench(path, "fuses 0xE2 0xDF 0xFF");
    char thing[220];
    snprintf(thing, sizeof thing, "eeprom=%s", hex);
    run_tool(&outcome, "put", via, thing, NULL);
    assert_says(outcome.out, "it did before");
}

/* --- tune -------------------------------------------------------------------------------- */

static void tune_shows_and_changes_by_name(void **state)
{
    char path[200], via[220];
    (void)state;
    make_bench("tune", "attiny84a", "", path, via);
    run_tool(&outcome, "tune", via, NULL);
    assert_int_equal(outcome.code, 0);
    assert_says(outcome.out, "clock                  internal-8MHz");
    assert_says(outcome.out, "the CPU starts at 1 MHz");
    run_tool(&outcome, "tune", via, "brown-out", NULL);
    assert_says(outcome.out, "* off");
    assert_says(outcome.out, "2.7V");
    run_tool(&outcome, "tune", via, "--plan", "clock-divide=by-1", NULL);
    assert_says(outcome.out, "by-8 -> by-1");
    assert_bench(path, "fuses 0x62 0xDF 0xFF");
    run_tool(&outcome, "tune", via, "clock-divide=by-1", "brown-out=2.7V", NULL);
    assert_int_equal(outcome.code, 0);
    assert_says(outcome.out, "low fuse               0x62 -> 0xE2");
    assert_says(outcome.out, "entered again, the CPU runs at 8 MHz");
    assert_bench(path, "fuses 0xE2 0xDD 0xFF");
    assert_says(outcome.out, "breaches  none");
    run_tool(&outcome, "tune", via, "clock-divide=by-1", NULL);
    assert_says(outcome.out, "it had them before");
    run_tool(&outcome, "tune", via, "--json", NULL);
    assert_says(outcome.out, "\"brown-out\": \"2.7V\"");
}

static void tune_names_what_there_is(void **state)
{
    char path[200], via[220];
    (void)state;
    make_bench("tune-wrong", "attiny84a", "", path, via);
    run_tool(&outcome, "tune", via, "speed=fast", NULL);
    assert_int_equal(outcome.code, 2);
    assert_says(outcome.err, "one of: clock, start-up, clock-divide");
    run_tool(&outcome, "tune", via, "brown-out=3.3V", NULL);
    assert_int_equal(outcome.code, 2);
    assert_says(outcome.err, "one of: off, 1.8V, 2.7V, 4.3V");
    run_tool(&outcome, "tune", via, "--allow=everything", "reset-pin=io", NULL);
    assert_int_equal(outcome.code, 2);
    run_tool(&outcome, "tune", "--chip=attiny84a", "--bytes=E2,DF,FF,FF,00", NULL);
    assert_int_equal(outcome.code, 2);
    run_tool(&outcome, "tune", "--bytes=E2", NULL);
    assert_int_equal(outcome.code, 2);
    assert_bench(path, "fuses 0x62 0xDF 0xFF");
}

static unsigned times_in(const char *text, const char *words)
{
    unsigned times = 0;
    while ((text = strstr(text, words))) {
        text += strlen(words);
        times++;
    }
    return times;
}

static void tune_lists_the_choices_of_this_part_once(void **state)
{
    (void)state;
    run_tool(&outcome, "tune", "--chip=attiny85", "--bytes=62,DF,FF", "clock", NULL);
    assert_int_equal(times_in(outcome.out, "internal-8MHz"), 1);
    assert_int_equal(times_in(outcome.out, "crystal-32kHz"), 1);
    run_tool(&outcome, "tune", "--chip=attiny85", "--bytes=62,DF,FF", "clock=fast", NULL);
    assert_says(outcome.err, ", crystal-8MHz-up\n");
    run_tool(&outcome, "tune", "--chip=attiny85", "--bytes=62,DF,FF", "clock=crystal-32kHz-32Kck",
             NULL);
    assert_int_equal(outcome.code, 2); // a larger part's
    run_tool(&outcome, "tune", "--chip=atmega64hve2", "--bytes=FF", "clock", NULL);
    assert_null(strstr(outcome.out, "internal-2")); // its bit cannot say so
}

static void tune_works_without_a_chip(void **state)
{
    (void)state;
    run_tool(&outcome, "tune", "--chip=atmega328p", "--bytes=0xF7,0xD8,0xFC", NULL);
    assert_int_equal(outcome.code, 0);
    assert_says(outcome.out, "crystal-full-swing");
    assert_says(outcome.out, "4096-bytes");
    run_tool(&outcome, "tune", "--chip=atmega328p", "--bytes=E2,D8,FC", "start-up=16Kck+4ms",
             "clock=crystal-8MHz-up", NULL);
    assert_int_equal(outcome.code, 0); // in whatever order they are named
    assert_says(outcome.out, "low fuse 0xEF");
    run_tool(&outcome, "tune", "--chip=atmega328p", "--bytes=F7,D8,FC", "reset-pin=io", NULL);
    assert_int_equal(outcome.code, 0);
    assert_says(outcome.out, "on a chip this would be refused");
    assert_says(outcome.out, "high fuse 0x58");
}

/* Every word of an advice is one that can be typed, or says that there are more: none is cut. */
static void check_advice(const char *chip, const struct cm_setting *setting)
{
    char wrong[100], word[CM_WORD_BYTES];
    snprintf(wrong, sizeof wrong, "%s=nothing-such", setting->name);
    run_tool(&outcome, "tune", "--json", "--chip", chip, "--bytes=FF", wrong, NULL);
    json_t *answer = json_loads(outcome.out, 0, NULL);
    const char *advice =
        json_string_value(json_object_get(json_object_get(answer, "failure"), "try"));
    assert_non_null(advice);
    assert_memory_equal(advice, "one of: ", 8);
    for (advice += 8; *advice; advice += strspn(advice, ", ")) {
        size_t length = strcspn(advice, ",");
        bool is_known = strncmp(advice, "and more", length) == 0;
        for (const struct cm_choice *const *table = setting->choices; table && *table; table++) {
            for (const struct cm_choice *choice = *table; choice->word; choice++)
                is_known |=
                    strlen(choice->word) == length && strncmp(choice->word, advice, length) == 0;
        }
        snprintf(word, sizeof word, "%.*s", (int)(length < 39 ? length : 39), advice);
        if (!is_known)
            fail_msg("%s, %s: '%s' is no choice of it", chip, setting->name, word);
        advice += length;
    }
    json_decref(answer);
}

static void no_advice_is_cut_off(void **state)
{
    const uint8_t bytes[CM_SETTING_BYTES] = {0xFF, 0xFF, 0xFF, 0xFF};
    struct cm_setting setting;
    (void)state;
    for (uint16_t p = 0; p < CM_AVR_PART_COUNT; p++) {
        const struct cm_part *part = cm_avr_all_parts[p];
        for (uint8_t i = 0; cm_avr_words.setting(part, bytes, i, &setting); i++) {
            // boot sections have sizes of their own in each part; of the others a few will do
            if (p % 8 == 0 || strcmp(setting.name, "clock") == 0)
                check_advice(part->name, &setting);
        }
    }
}

static void each_fence_refuses_and_says_why(void **state)
{
    static const struct {
        const char *part, *bench, *choice, *says, *allow;
        int code_when_allowed;
    } CASES[] = {
        {"attiny84a", "", "reset-pin=io", "end programming over these pins", "--allow=reset-pin",
         0},
        {"attiny84a", "", "debug-wire=on", "end programming over these pins", "--allow=debug-wire",
         0},
        {"attiny84a", "", "serial-programming=off", "cannot be changed over these pins",
         "--allow=serial-programming", 10},
        {"attiny84a", "", "clock=external-clock", "may not be there", "--allow=clock", 4},
        {"attiny84a", "", "clock=bits-0111", "gives this value no meaning", "--allow=clock", 4},
        {"atmega328p", "", "memory-lock=no-writing", "prevent later work", "--allow=memory-lock",
         0},
        {"atmega328p", "", "boot-lock=no-writing", "prevent later work", "--allow=boot-lock", 0},
        {"atmega328p", "  lock: 0xFE\n", "memory-lock=open", "chip erase only",
         "--allow=memory-lock", 10},
        {"attiny84a", "port:\n  measures_supply: true\n", "brown-out=4.3V", "", "", 0},
    };
    (void)state;
    for (size_t i = 0; i < sizeof CASES / sizeof CASES[0]; i++) {
        char path[200], via[220], name[30];
        snprintf(name, sizeof name, "fence-%u", (unsigned)i);
        make_bench(name, CASES[i].part, CASES[i].bench, path, via);
        run_tool(&outcome, "tune", via, CASES[i].choice, NULL);
        if (CASES[i].says[0] == '\0') {
            assert_int_equal(outcome.code, 0); // no fence here
            continue;
        }
        assert_int_equal(outcome.code, 10);
        assert_says(outcome.err, CASES[i].says);
        assert_says(outcome.err, "nothing was changed");
        assert_bench(path, "settings written 0");
        run_tool(&outcome, "tune", via, CASES[i].allow, CASES[i].choice, NULL);
        if (outcome.code != CASES[i].code_when_allowed)
            fail_msg("%s allowed: exit %d\n%s%s", CASES[i].choice, outcome.code, outcome.out,
                     outcome.err);
    }
}

static void a_brown_out_level_above_the_supply_is_refused(void **state)
{
    char path[200], text[300];
    (void)state;
    snprintf(text, sizeof text,
             "bench: low\nchip:\n  part: attiny84a\n  supply_mv: 3300\nport:\n  measures_supply: "
             "true\n");
    write_file(path, sizeof path, "low.yaml", text);
    char via[220];
    snprintf(via, sizeof via, "--via=sim:%s", path);
    run_tool(&outcome, "tune", via, "brown-out=4.3V", NULL);
    assert_int_equal(outcome.code, 10);
    assert_says(outcome.err, "the level would be 4.3 V; the supply is 3.30 V");
    assert_bench(path, "settings written 0");
    run_tool(&outcome, "tune", via, "brown-out=2.7V", NULL);
    assert_int_equal(outcome.code, 0);
}

/* --- capsules ---------------------------------------------------------------------------- */

static void a_chip_is_kept_wiped_and_restored(void **state)
{
    char path[200], via[220], kept[220];
    (void)state;
    make_bench("kept", "attiny84a", OLD_NODE, path, via);
    run_tool(&outcome, "tune", via, "clock-divide=by-1", "eeprom-on-erase=kept", NULL);
    assert_int_equal(outcome.code, 0);
    snprintf(kept, sizeof kept, "%s/bell-7", test_folder());
    run_tool(&outcome, "keep", via, "--notes=north side", kept, NULL);
    assert_int_equal(outcome.code, 0);
    strcat(kept, ".mint");
    assert_says(outcome.out, "bell-7.mint holds all that the chip holds");
    run_tool(&outcome, "tune", via, "clock-divide=by-8", "eeprom-on-erase=cleared", NULL);
    run_tool(&outcome, "erase", via, NULL);
    assert_int_equal(outcome.code, 0);
    run_tool(&outcome, "match", via, kept, NULL);
    assert_int_equal(outcome.code, 1);
    assert_says(outcome.err, "differ in flash");
    assert_says(outcome.out, "by-8 -> by-1");
    run_tool(&outcome, "put", via, kept, NULL);
    assert_int_equal(outcome.code, 0);
    assert_says(outcome.out, "north side");
    run_tool(&outcome, "match", via, kept, NULL);
    assert_int_equal(outcome.code, 0);
    run_tool(&outcome, "put", via, kept, NULL);
    assert_says(outcome.out, "it did before");
    assert_bench(path, "fuses 0xE2 0xD7 0xFF");
    assert_says(outcome.out, "breaches  none");
    run_tool(&outcome, "keep", via, kept, NULL);
    assert_int_equal(outcome.code, 10); // it is there already
    make_bench("other", "attiny85", "", path, via);
    run_tool(&outcome, "put", via, kept, NULL);
    assert_int_equal(outcome.code, 5);
    assert_says(outcome.err, "another kind of chip");
    assert_bench(path, "pages written 0");
}

static void a_locked_chip_is_not_kept_as_nonsense(void **state)
{
    char path[200], via[220], kept[220];
    (void)state;
    snprintf(kept, sizeof kept, "%s/nonsense.mint", test_folder());
    make_bench("locked", "attiny84a", "  lock: 0xFC\n", path, via);
    run_tool(&outcome, "keep", via, kept, NULL);
    assert_int_equal(outcome.code, 6);
    assert_says(outcome.err, "locked against reading");
    assert_int_not_equal(access(kept, F_OK), 0);
}

static void damaged_capsules_do_no_harm(void **state)
{
    char path[200], via[220], kept[220], damaged[220];
    (void)state;
    make_bench("damage", "attiny84a", OLD_NODE, path, via);
    snprintf(kept, sizeof kept, "%s/whole.mint", test_folder());
    snprintf(damaged, sizeof damaged, "%s/damaged.mint", test_folder());
    run_tool(&outcome, "keep", via, kept, NULL);
    FILE *file = fopen(kept, "rb");
    static uint8_t whole[16384];
    size_t bytes = fread(whole, 1, sizeof whole, file);
    fclose(file);
    srand(test_seed());
    for (int round = 0; round < 30; round++) {
        size_t at = (size_t)rand() % bytes;
        whole[at] ^= 0x10;
        file = fopen(damaged, "wb");
        fwrite(whole, 1, round % 3 ? bytes : at, file);
        fclose(file);
        whole[at] ^= 0x10;
        run_tool(&outcome, "put", via, damaged, NULL);
        assert_int_equal(outcome.code, 9);
        assert_says(outcome.err, round % 3 || at > 0 ? "damaged.mint" : "is empty");
    }
    assert_bench(path, "erases 0, pages written 0, eeprom writes 0, settings written 0");
}

/* --- backups ----------------------------------------------------------------------------- */

static void a_chip_is_kept_before_it_is_changed(void **state)
{
    char path[200], via[220];
    (void)state;
    char bench[500];
    // like no other test's
    snprintf(bench, sizeof bench, "%s  fuses: [0x62, 0xDE, 0xFF]\n", OLD_NODE);
    make_bench("backup", "attiny84a", bench, path, via);
    unsigned before = count_backups();
    run_tool(&outcome, "put", via, FIRMWARE, NULL);
    assert_int_equal(outcome.code, 0);
    assert_says(outcome.out, "backup    ");
    assert_int_equal(count_backups(), before + 1);
    char kept[300];
    const char *line = strstr(outcome.out, "backup    ") + 10;
    snprintf(kept, sizeof kept, "%.*s", (int)strcspn(line, "\n"), line);
    run_tool(&outcome, "put", via, FIRMWARE, NULL); // nothing to change, nothing to keep
    assert_int_equal(count_backups(), before + 1);
    run_tool(&outcome, "put", via, kept, NULL); // the backup is the way back
    assert_int_equal(outcome.code, 0);
    assert_int_equal(count_backups(), before + 2);
    run_tool(&outcome, "match", via, DEMO "/firmware/strike-node-1.2.hex", NULL);
    assert_int_equal(outcome.code, 0);
    run_tool(&outcome, "put", via, FIRMWARE, NULL); // the same contents once more: not stored twice
    assert_says(outcome.out, "holds the same already");
    assert_int_equal(count_backups(), before + 2);
    run_tool(&outcome, "erase", via, "--no-backup", NULL);
    assert_int_equal(count_backups(), before + 2);
}

static void without_a_backup_nothing_is_changed(void **state)
{
    char path[200], via[220], file[300];
    (void)state;
    make_bench("no-room", "attiny84a", OLD_NODE, path, via);
    snprintf(file, sizeof file, "%s/not-a-folder", test_folder());
    write_file(file, sizeof file, "not-a-folder", "in the way");
    setenv("XDG_STATE_HOME", file, 1);
    run_tool(&outcome, "put", via, FIRMWARE, NULL);
    setenv("XDG_STATE_HOME", test_folder(), 1);
    assert_int_equal(outcome.code, 9);
    assert_bench(path, "erases 0, pages written 0");
}

/* --- what a cut-off command leaves ------------------------------------------------------- */

static void a_lifted_lock_is_remembered(void **state)
{
    char path[200], via[220], bench[400], pattern[300];
    (void)state;
    snprintf(
        bench, sizeof bench,
        "  flash: " DEMO
        "/firmware/strike-node-1.2.hex\n  lock: 0xFE\nfaults:\n  contact_lost_after_bytes: 4500\n");
    make_bench("lifted", "attiny84a", bench, path, via);
    run_tool(&outcome, "put", via, "--unprotect", "--no-backup", FIRMWARE, NULL);
    assert_int_equal(outcome.code, 8);
    assert_says(outcome.err, "The lock byte was 0xFE and is not back");
    run_tool(&outcome, "bench", "mend", path, NULL);
    run_tool(&outcome, "put", via, FIRMWARE, NULL); // as after a kill: only the file tells
    assert_int_equal(outcome.code, 0);
    assert_says(outcome.out, "the lock byte it had lifted was 0xFE");
    snprintf(pattern, sizeof pattern, "rm %s/coldmint/carried/*-lock-*.hex", test_folder());
    assert_int_equal(system(pattern), 0);
    run_tool(&outcome, "tune", via, "--allow=memory-lock", "memory-lock=no-writing", NULL);
    assert_int_equal(outcome.code, 0);
    run_tool(&outcome, "put", via, "--unprotect", "--no-backup",
             DEMO "/firmware/strike-node-1.2.hex", NULL);
    assert_int_equal(outcome.code, 0);
    assert_says(outcome.out, "lock byte put back");
    assert_int_not_equal(system(pattern), 0); // nothing is left of a job that ended well
}

static void unfinished_files_of_dead_commands_go(void **state)
{
    char path[200], via[220], stale[260], own[260], kept[220], name[60];
    (void)state;
    make_bench("stale", "attiny84a", "", path, via);
    snprintf(kept, sizeof kept, "%s/stale.mint", test_folder());
    write_file(stale, sizeof stale, "stale.mint.new-999999999", "half a file");
    snprintf(name, sizeof name, "stale.mint.new-%ld", (long)getpid());
    write_file(own, sizeof own, name, "of a command that still runs");
    run_tool(&outcome, "keep", via, kept, NULL);
    assert_int_equal(outcome.code, 0);
    assert_int_not_equal(access(stale, F_OK), 0);
    assert_int_equal(access(own, F_OK), 0);
}

/* --- settings in an ELF file ------------------------------------------------------------- */

static void fuses_in_an_elf_file_are_told_and_written_when_asked(void **state)
{
    char path[200], via[220];
    (void)state;
    make_bench("elf-fuses", "attiny84a", "", path, via);
    run_tool(&outcome, "put", via, DEMO "/firmware/strike-node-1.5.elf", NULL);
    assert_int_equal(outcome.code, 0);
    assert_says(outcome.out, "--settings writes them");
    assert_says(outcome.out, "by-8 -> by-1");
    assert_bench(path, "fuses 0x62 0xDF 0xFF");
    run_tool(&outcome, "put", via, "--settings", DEMO "/firmware/strike-node-1.5.elf", NULL);
    assert_int_equal(outcome.code, 0);
    assert_bench(path, "fuses 0xE2 0xD5 0xFE");
    run_tool(&outcome, "put", via, "--settings", DEMO "/firmware/strike-node-1.5.elf", NULL);
    assert_says(outcome.out, "it did before");
    assert_true(strstr(outcome.out, "--settings writes them") == NULL);
}

/* --- boot loaders ------------------------------------------------------------------------ */

static void mint_console(const char *name, char *path, char *via)
{
    make_bench(name, "atmega1284p", CONSOLE, path, via);
    run_tool(&outcome, "mint", via, DEMO "/recipes/console.yaml", NULL);
    if (outcome.code)
        fail_msg("%s%s", outcome.out, outcome.err);
}

static void a_boot_loader_in_use_is_precious(void **state)
{
    char path[200], via[220];
    (void)state;
    mint_console("loader", path, via);
    run_tool(&outcome, "put", "--anyway", via, "--clock=16MHz", FIRMWARE, NULL);
    assert_int_equal(outcome.code, 10);
    assert_says(outcome.err, "would erase a boot loader in use");
    assert_says(outcome.err, "0x1F800");
    assert_bench(path, "erases 0");
    run_tool(&outcome, "put", "--anyway", via, "--clock=16MHz", "--keep-boot",
             DEMO "/firmware/loader-console.hex", NULL);
    assert_int_equal(outcome.code, 9); // the file and the chip both have one
    run_tool(&outcome, "put", "--anyway", via, "--clock=16MHz", "--keep-boot", FIRMWARE, NULL);
    assert_int_equal(outcome.code, 0);
    run_tool(&outcome, "match", via, "--clock=16MHz", DEMO "/firmware/loader-console.hex", NULL);
    assert_int_equal(outcome.code, 0);
    run_tool(&outcome, "match", via, "--clock=16MHz", FIRMWARE, NULL);
    assert_int_equal(outcome.code, 0);
    run_tool(&outcome, "put", "--anyway", via, "--clock=16MHz", "--lose-boot",
             DEMO "/firmware/strike-node-1.2.hex", NULL);
    assert_int_equal(outcome.code, 0);
    run_tool(&outcome, "look", via, "--clock=16MHz", NULL);
    assert_says(outcome.out, "and that is BLANK");
}

/* Without a boot section the word at reset leads to the loader: that is one in use as well. Kept,
 * it gets the new application joined, and is entered as before. */
static void a_loader_that_reset_leads_to_is_precious(void **state)
{
    static const char OLD[] = DEMO "/firmware/strike-node-1.4.hex";
    char path[200], via[220], flash[300];
    (void)state;
    make_bench("joined", "attiny84a", "", path, via);
    TOOL(0, "mint", via, DEMO "/recipes/strike-node.yaml");
    TOOL(10, "put", via, OLD);
    assert_says(outcome.err, "would lose a boot loader in use");
    assert_says(outcome.err, "leads to 0x1A00");
    TOOL(9, "put", via, "--keep-boot", DEMO "/firmware/loader-node.hex");
    TOOL(0, "put", via, "--keep-boot", OLD);
    TOOL(0, "match", via, DEMO "/firmware/loader-node.hex");
    TOOL(1, "match", via, OLD); // its word at reset is the loader's now
    assert_says(outcome.err, "2 of 788 bytes differ, the first at 0x0000");
    snprintf(flash, sizeof flash, "%s/joined.bin", test_folder());
    TOOL(0, "keep", via, "--region", "flash", flash);
    char *held = read_file(flash);
    assert_memory_equal(held, "\xFF\xCC", 2);          // rjmp 0x1A00
    assert_memory_equal(held + 0x19FE, "\xA2\xC3", 2); // and from there to the application's start
    free(held);
    TOOL(10, "put", via, OLD); // without an erase: one word is other
    TOOL(0, "put", via, "--lose-boot", OLD);
    TOOL(0, "put", via, OLD);
    assert_says(outcome.out, "nothing");
}

/* --- recipes ----------------------------------------------------------------------------- */

static void a_bare_node_is_minted_in_one_command(void **state)
{
    char path[200], via[220];
    (void)state;
    make_bench("bare", "attiny84a", "port:\n  measures_supply: true\n", path, via);
    TOOL(1, "mint", via, "--plan", DEMO "/recipes/strike-node.yaml");
    assert_says(outcome.err, "is not a strike node yet");
    assert_says(outcome.err, "and settings changed");
    assert_says(outcome.out, "1. settings, then enter again at 8 MHz");
    assert_bench(path, "erases 0, pages written 0, eeprom writes 0, settings written 0");
    run_tool(&outcome, "mint", via, DEMO "/recipes/strike-node.yaml", NULL);
    assert_int_equal(outcome.code, 0);
    assert_says(outcome.out, "minted: this attiny84a is a strike node, version 1.5");
    TOOL(0, "mint", via, "--plan", DEMO "/recipes/strike-node.yaml");
    assert_says(outcome.out, "is a strike node already; nothing would change");
    TOOL(0, "tune", via, "--chip", "attiny84a", "brown-out=1.8V");
    TOOL(1, "mint", via, "--plan", DEMO "/recipes/strike-node.yaml"); // settings alone
    TOOL(0, "mint", via, DEMO "/recipes/strike-node.yaml");
    assert_bench(path, "fuses 0xE2 0xD5 0xFE");
    assert_says(outcome.out, "breaches  none");
    run_tool(&outcome, "mint", via, DEMO "/recipes/strike-node.yaml", NULL);
    assert_says(outcome.out, "it was before");
    run_tool(&outcome, "match", via, "--region=eeprom", DEMO "/firmware/bell-7.hex", NULL);
    assert_int_equal(outcome.code, 0);
    char flash[220];
    snprintf(flash, sizeof flash, "%s/bare.bin", test_folder());
    run_tool(&outcome, "keep", via, "--region=flash", flash, NULL);
    FILE *file = fopen(flash, "rb");
    static uint8_t bytes[8192];
    assert_int_equal(fread(bytes, 1, sizeof bytes, file), 8192);
    fclose(file);
    assert_int_equal(bytes[0] | bytes[1] << 8, 0xCCFF); // rjmp 0x1A00
    assert_int_equal(bytes[0x19FF] & 0xF0, 0xC0);       // the application's own
}

/* What `mint` would write, compared with what is there: nothing is written for it. */
static void a_recipe_is_an_inspection(void **state)
{
    static const char RECIPE[] = DEMO "/recipes/strike-node.yaml";
    char path[200], via[220], other[200];
    (void)state;
    make_bench("inspected", "attiny84a", "", path, via);
    TOOL(1, "match", via, RECIPE);
    assert_says(outcome.err, "chip and file differ in flash");
    TOOL(0, "mint", via, RECIPE);
    TOOL(0, "match", via, RECIPE);
    assert_says(outcome.out,
                "this attiny84a is a strike node: all 2300 bytes and its settings match");
    TOOL(0, "tune", via, "watchdog=always-on"); // which it leaves alone
    TOOL(0, "match", via, RECIPE);
    TOOL(0, "tune", via, "brown-out=off");
    TOOL(1, "match", via, RECIPE);
    assert_says(outcome.out, "off -> 2.7V");
    assert_says(outcome.err, "chip and file differ in settings");
    TOOL(0, "tune", via, "brown-out=2.7V");
    write_file(other, sizeof other, "other-bell.bin", "another bell");
    TOOL(0, "put", via, "--region", "eeprom", other);
    TOOL(1, "match", via, RECIPE);
    assert_says(outcome.err, "chip and file differ in eeprom");
    TOOL(5, "match", via, DEMO "/recipes/console.yaml");
    TOOL(2, "match", via, "--chip", "atmega328p", RECIPE); // as for mint
    TOOL(2, "match", via, DEMO "/recipes/numbered-node.yaml");
    assert_says(outcome.err, "--number N");
    TOOL(1, "match", via, "--number", "1001", DEMO "/recipes/numbered-node.yaml");
    assert_says(outcome.out, "file  E9 03\n"); // as far as there is something to compare
}

static void the_console_is_minted_with_its_loader_locked(void **state)
{
    char path[200], via[220];
    (void)state;
    mint_console("console", path, via);
    assert_says(outcome.out, "then enter again at 16 MHz");
    assert_bench(path, "fuses 0xF7 0xD4 0xFC  lock 0xEF");
    assert_says(outcome.out, "breaches  none");
    run_tool(&outcome, "mint", via, DEMO "/recipes/console.yaml", NULL);
    assert_says(outcome.out, "it was before");
    char other[220];
    make_bench("no-crystal", "atmega1284p", "", other, via);
    run_tool(&outcome, "mint", via, DEMO "/recipes/console.yaml", NULL);
    assert_int_equal(outcome.code, 4);
    assert_says(outcome.err, "its new clock does not run");
    make_bench("wrong-board", "attiny84a", "", other, via);
    run_tool(&outcome, "mint", via, DEMO "/recipes/console.yaml", NULL);
    assert_int_equal(outcome.code, 5);
}

static const char RECIPE[] =
    "recipe: a test\nchip: attiny84a\nsupply: 4.5V to 5.5V\nsettings:\n  clock: internal-8MHz\n"
    "  clock-divide: by-1\nflash: " DEMO "/firmware/strike-node-1.4.hex\n";

static void errors_in_a_recipe_name_line_key_and_choices(void **state)
{
    static const struct {
        const char *recipe;
        const char *says[3];
    } CASES[] = {
        {"recipe: x\nchip: attiny84a\nspeed: fast\n",
         {"line 3: key 'speed'", "no such key", "one of: recipe, chip, board"}},
        {"recipe: x\nchip: attiny84z\n",
         {"line 2, key 'chip': attiny84z", "no such chip", "coldmint chips"}},
        {"recipe: x\nchip: attiny84a\nsettings:\n  clock: internal-9MHz\n",
         {"line 4: clock=internal-9MHz", "no such choice",
          "one of: external-clock, internal-8MHz"}},
        {"recipe: x\nchip: attiny84a\nsettings:\n  clok: internal-8MHz\n",
         {"line 4: clok=", "no setting of this name", "one of: clock, start-up"}},
        {"recipe: x\nchip: attiny84a\nsettings:\n  clock: internal-8MHz\n  clock: internal-8MHz\n",
         {"line 5: clock", "named twice", ""}},
        {"recipe: x\nchip: attiny84a\nchip: attiny84a\n", {"line 3: key 'chip'", "twice", ""}},
        {"recipe: x\nchip: attiny84a\nsupply: much\n",
         {"line 3, key 'supply': much", "no supply", "4.5V to 5.5V"}},
        {"recipe: x\nchip: attiny84a\nboard-clock: fast\n",
         {"line 3, key 'board-clock'", "no frequency", "16MHz"}},
        {"recipe: x\nchip: attiny84a\nenter: door\n",
         {"line 3, key 'enter': door", "", "one of: reset-vector"}},
        {"recipe: x\nchip: attiny84a\nallow: [speed]\n",
         {"line 3, key 'allow': speed", "no such setting", ""}},
        {"recipe: x\nchip: attiny84a\nsettings: fast\n",
         {"line 3: settings", "names and words", ""}},
        {"recipe: x\nchip: [a, b]\n", {"line 2: key 'chip'", "a plain value", ""}},
        {"chip: attiny84a\n", {"key 'recipe' is missing", "", ""}},
        {"recipe: x\nchip: attiny84a\n  bad: [\n", {"line 3", "is not YAML", ""}},
        {"- one\n- two\n", {"is not a recipe", "", ""}},
    };
    char path[200], via[220], file[200];
    (void)state;
    make_bench("recipes", "attiny84a", "", path, via);
    for (size_t i = 0; i < sizeof CASES / sizeof CASES[0]; i++) {
        write_file(file, sizeof file, "wrong-recipe.yaml", CASES[i].recipe);
        run_tool(&outcome, "mint", via, file, NULL);
        assert_int_equal(outcome.code, 9);
        for (int n = 0; n < 3; n++)
            assert_says(outcome.err, CASES[i].says[n]);
    }
    assert_bench(path, "settings written 0");
}

static void a_recipe_is_held_to_its_supply_and_its_fences(void **state)
{
    char path[200], via[220], file[200], text[600];
    (void)state;
    snprintf(text, sizeof text,
             "bench: low\nchip:\n  part: attiny84a\n  supply_mv: 3300\nport:\n  measures_supply: "
             "true\n");
    write_file(path, sizeof path, "low-node.yaml", text);
    snprintf(via, sizeof via, "--via=sim:%s", path);
    write_file(file, sizeof file, "recipe.yaml", RECIPE);
    run_tool(&outcome, "mint", via, file, NULL);
    assert_int_equal(outcome.code, 10);
    assert_says(outcome.err, "3.30 V measured; line 3 of the recipe wants 4.50 to 5.50 V");
    static const struct {
        const char *more;
        int code;
    } CASES[] = {
        {"lock:\n  memory-lock: no-writing\n", 0},
        {"allow: reset-pin\nlock:\n  reset-pin: io\n", 0},
        {"lock:\n  reset-pin: io\n", 10},
    };
    for (size_t i = 0; i < sizeof CASES / sizeof CASES[0]; i++) {
        char name[30];
        snprintf(name, sizeof name, "fenced-%u", (unsigned)i);
        make_bench(name, "attiny84a", "", path, via);
        snprintf(text, sizeof text, "%s%s", RECIPE, CASES[i].more);
        write_file(file, sizeof file, "recipe.yaml", text);
        run_tool(&outcome, "mint", via, file, NULL);
        if (outcome.code != CASES[i].code)
            fail_msg("%s: exit %d\n%s", CASES[i].more, outcome.code, outcome.err);
    }
}

/* Whatever a file holds, the tool answers with one of its codes, and a chip is touched by a whole
 * recipe only. */
static void damaged_recipes_do_no_harm(void **state)
{
    char path[200], via[220], file[200], damaged[sizeof RECIPE + 8];
    (void)state;
    make_bench("recipe-fuzz", "attiny84a", "", path, via);
    srand(test_seed());
    for (int round = 0; round < (test_does_all() ? 800 : 25); round++) {
        memcpy(damaged, RECIPE, sizeof RECIPE);
        for (int i = 0; i < 1 + round % 4; i++)
            damaged[(size_t)rand() % (sizeof RECIPE - 1)] =
                "abz019:-#[]{}\"'\n \t&*!|>%@,?\x01\xC3"[rand() % 29];
        if (round % 5 == 0)
            damaged[(size_t)rand() % sizeof RECIPE] = '\0';
        write_file(file, sizeof file, "damaged.yaml", damaged);
        run_tool(&outcome, "mint", via, "--plan", file, NULL);
        if (outcome.code > 1 && outcome.code != 2 && outcome.code != 5 && outcome.code != 9 &&
            outcome.code != 10)
            fail_msg("exit %d for:\n%s\n%s", outcome.code, damaged, outcome.err);
    }
    assert_bench(path, "erases 0, pages written 0, eeprom writes 0, settings written 0");
}

/* --- wires ------------------------------------------------------------------------------- */

static void wires_are_drawn(void **state)
{
    char path[220], head[9] = "";
    (void)state;
    run_tool(&outcome, "wires", "attiny84a", NULL);
    assert_int_equal(outcome.code, 0);
    assert_says(outcome.out, "MOSI    PA6   7 |              | 8   PA5    MISO");
    assert_says(outcome.out, "to pin 4 (PB3)");
    run_tool(&outcome, "wires", "--chip=atmega2561", "--json", NULL);
    assert_says(outcome.out, "\"MOSI\": \"2 (PE0)\"");
    run_tool(&outcome, "wires", "--chip=atmega1284p", "--package=tqfp-44", NULL);
    assert_says(outcome.out, "44 43 42");
    run_tool(&outcome, "wires", "--chip=atmega1284p", "--package=DIP-8", NULL);
    assert_int_equal(outcome.code, 2);
    assert_says(outcome.err, "DIP-40, TQFP-44");
    run_tool(&outcome, "wires", "at90pwm81", NULL);
    assert_int_equal(outcome.code, 2);
    assert_says(outcome.err, "no package of this part is in the tables");
    static const char *const ENDINGS[] = {".png", ""};
    static const char *const HEADS[] = {"\x89PNG\r\n\x1A\n", "<?xml ve"};
    for (int i = 0; i < 2; i++) {
        snprintf(path, sizeof path, "%s/drawing%s", test_folder(), ENDINGS[i]);
        run_tool(&outcome, "wires", "atmega1284p", "--output", path, NULL);
        assert_int_equal(outcome.code, 0);
        FILE *file = fopen(i ? strcat(path, ".svg") : path, "rb");
        assert_non_null(file);
        assert_int_equal(fread(head, 1, 8, file), 8);
        fclose(file);
        assert_memory_equal(head, HEADS[i], 8);
    }
    run_tool(&outcome, "wires", "attiny84a", "--output=/nowhere/at/all.png", NULL);
    assert_int_equal(outcome.code, 9);
    run_tool(&outcome, "wires", "attiny84a", "--output=drawing.jpg", NULL);
    assert_int_equal(outcome.code, 2);
}

/* --- faults told apart ------------------------------------------------------------------- */

/* A copy of one of the demo's faulty benches, so that its state stays in the test's folder. */
static void copy_bench(const char *name, char *via)
{
    char from[300], path[200], file[60];
    snprintf(from, sizeof from, DEMO "/benches/%s.yaml", name);
    char *text = read_file(from);
    if (!text)
        fail_msg("%s is not there", from);
    snprintf(file, sizeof file, "copy-of-%s.yaml",
             strchr(name, '/') ? strchr(name, '/') + 1 : name);
    write_file(path, sizeof path, file, text);
    free(text);
    snprintf(via, 220, "--via=sim:%s", path);
}

static void faults_are_told_apart(void **state)
{
    static const struct {
        const char *bench, *option;
        int code;
        const char *what, *advice;
    } CASES[] = {
        {"faults/no-rights", "--json", 3, "permission denied for the port",
         "add your user to the device's group"},
        {"faults/no-power", "--json", 4, "has no power", "switch the board's supply on"},
        {"faults/held-in-reset", "--json", 4, "held in reset", "release the button"},
        {"faults/held-but-answering", "--json", 0, "\"reset_held\": true", ""},
        {"faults/miso-low", "--json", 4, "no chip answers", "MISO stays low"},
        {"faults/miso-high", "--json", 4, "no chip answers", "MISO stays high"},
        {"faults/wrong-part", "--chip=attiny85", 5, "not the chip that was asked for",
         "which board is connected"},
        {"faults/too-slow-for-port", "--json", 4, "at the clocks that this port can make",
         "below 200 kHz"},
        {"new-node", "--clock=8MHz", 0, "its own clock is slower than --clock 8MHz says", ""},
        {"faults/restarting", "--json", 8, "the programmer restarted",
         "a capacitor on its reset helps"},
    };
    (void)state;
    for (size_t i = 0; i < sizeof CASES / sizeof CASES[0]; i++) {
        char via[220];
        copy_bench(CASES[i].bench, via);
        run_tool(&outcome, "look", via, CASES[i].option, NULL);
        if (outcome.code != CASES[i].code)
            fail_msg("%s: exit %d\n%s%s", CASES[i].bench, outcome.code, outcome.out, outcome.err);
        bool on_stdout = outcome.code == 0 || strcmp(CASES[i].option, "--json") == 0;
        assert_says(on_stdout ? outcome.out : outcome.err, CASES[i].what);
        assert_says(on_stdout ? outcome.out : outcome.err, CASES[i].advice);
    }
    run_tool(&outcome, "look", NULL); // and no port at all
    assert_int_equal(outcome.code, 3);
    assert_says(outcome.err, "no port is named");
}

static void a_job_goes_on_after_the_programmer_restarted(void **state)
{
    char path[200], via[220];
    (void)state;
    make_bench("restart", "attiny84a", "faults:\n  restart_every_bytes: 3000\n", path, via);
    run_tool(&outcome, "put", via, FIRMWARE, NULL);
    assert_int_equal(outcome.code, 0);
    assert_says(outcome.out, "the programmer was gone ");
    run_tool(&outcome, "bench", "break", path, "rights=none", "reset=held", NULL);
    assert_says(outcome.out, "rights=none");
    run_tool(&outcome, "look", via, NULL);
    assert_int_equal(outcome.code, 3);
    run_tool(&outcome, "bench", "mend", path, NULL);
    run_tool(&outcome, "match", via, FIRMWARE, NULL);
    assert_int_equal(outcome.code, 0);
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(an_image_that_cannot_be_for_the_chip_is_named),
        cmocka_unit_test(a_byte_at_the_last_address_ends_the_file),
        cmocka_unit_test(a_linkers_file_brings_the_eeprom_too),
        cmocka_unit_test(tune_shows_and_changes_by_name),
        cmocka_unit_test(tune_names_what_there_is),
        cmocka_unit_test(tune_lists_the_choices_of_this_part_once),
        cmocka_unit_test(tune_works_without_a_chip),
        cmocka_unit_test(no_advice_is_cut_off),
        cmocka_unit_test(each_fence_refuses_and_says_why),
        cmocka_unit_test(a_brown_out_level_above_the_supply_is_refused),
        cmocka_unit_test(a_chip_is_kept_wiped_and_restored),
        cmocka_unit_test(a_locked_chip_is_not_kept_as_nonsense),
        cmocka_unit_test(damaged_capsules_do_no_harm),
        cmocka_unit_test(a_chip_is_kept_before_it_is_changed),
        cmocka_unit_test(without_a_backup_nothing_is_changed),
        cmocka_unit_test(a_lifted_lock_is_remembered),
        cmocka_unit_test(unfinished_files_of_dead_commands_go),
        cmocka_unit_test(fuses_in_an_elf_file_are_told_and_written_when_asked),
        cmocka_unit_test(a_boot_loader_in_use_is_precious),
        cmocka_unit_test(a_loader_that_reset_leads_to_is_precious),
        cmocka_unit_test(a_bare_node_is_minted_in_one_command),
        cmocka_unit_test(a_recipe_is_an_inspection),
        cmocka_unit_test(the_console_is_minted_with_its_loader_locked),
        cmocka_unit_test(errors_in_a_recipe_name_line_key_and_choices),
        cmocka_unit_test(a_recipe_is_held_to_its_supply_and_its_fences),
        cmocka_unit_test(damaged_recipes_do_no_harm),
        cmocka_unit_test(wires_are_drawn),
        cmocka_unit_test(faults_are_told_apart),
        cmocka_unit_test(a_job_goes_on_after_the_programmer_restarted),
    };
    test_folder();
    return cmocka_run_group_tests_name("units", tests, NULL, NULL);
}
