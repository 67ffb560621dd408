/* Hardware: none for the tables; simulated benches for changing settings on a chip. */
#include "support/chance.h"
#include "support/support.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static const struct cm_words *const words = &cm_avr_words;

static uint32_t next_random(void)
{
    static uint32_t state;
    if (!state)
        state = 88172645 ^ test_seed();
    state ^= state << 13;
    state ^= state >> 17;
    return state ^= state << 5;
}

static void default_bytes(const struct cm_part *part, uint8_t *bytes)
{
    const struct cm_avr_part *row = cm_avr_row(part);
    memset(bytes, 0xFF, CM_SETTING_BYTES);
    memcpy(bytes, row->fuse_default, row->fuse_bytes);
}

/* Makes the words of `bytes` anew from a state in which every setting stands elsewhere. Clocks come
 * before what hangs on them. */
static void encode_words(const struct cm_part *part, const uint8_t *bytes, uint8_t *made)
{
    struct cm_setting setting;
    struct cm_setting_byte byte;
    char word[CM_WORD_BYTES];
    for (uint8_t i = 0; words->byte(part, i, &byte); i++)
        made[i] = (uint8_t)(bytes[i] ^ byte.named);
    for (uint8_t i = 0; words->setting(part, bytes, i, &setting); i++) {
        cm_setting_word(&setting, cm_setting_value(&setting, bytes), word);
        if (cm_choose(words, part, made, setting.name, word) != CM_OK)
            fail_msg("%s: %s=%s is not understood", part->name, setting.name, word);
    }
}

static void default_fuses_have_words_and_the_words_give_the_fuses(void **state)
{
    (void)state;
    for (uint16_t i = 0; i < CM_AVR_PART_COUNT; i++) {
        const struct cm_part *part = cm_avr_all_parts[i];
        uint8_t bytes[CM_SETTING_BYTES], made[CM_SETTING_BYTES] = {0};
        struct cm_setting setting;
        char word[CM_WORD_BYTES];
        default_bytes(part, bytes);
        for (uint8_t n = 0; words->setting(part, bytes, n, &setting); n++) {
            if (!cm_setting_choice(&setting, cm_setting_value(&setting, bytes)))
                fail_msg("%s: %s has no word as delivered: %s", part->name, setting.name,
                         cm_setting_word(&setting, cm_setting_value(&setting, bytes), word));
        }
        encode_words(part, bytes, made);
        assert_memory_equal(made, bytes, cm_setting_byte_count(words, part));
    }
}

static void any_bytes_go_to_words_and_back(void **state)
{
    (void)state;
    for (uint16_t i = 0; i < CM_AVR_PART_COUNT; i++) {
        const struct cm_part *part = cm_avr_all_parts[i];
        for (int round = 0; round < 5 && test_takes_part(i); round++) {
            uint8_t bytes[CM_SETTING_BYTES], made[CM_SETTING_BYTES] = {0};
            for (int b = 0; b < CM_SETTING_BYTES; b++)
                bytes[b] = (uint8_t)next_random();
            encode_words(part, bytes, made);
            assert_memory_equal(made, bytes, cm_setting_byte_count(words, part));
        }
    }
}

static void every_named_bit_belongs_to_one_setting(void **state)
{
    (void)state;
    for (uint16_t i = 0; i < CM_AVR_PART_COUNT; i++) {
        const struct cm_part *part = cm_avr_all_parts[i];
        uint8_t bytes[CM_SETTING_BYTES], covered[CM_SETTING_BYTES] = {0};
        struct cm_setting setting, other;
        struct cm_setting_byte byte;
        default_bytes(part, bytes);
        for (uint8_t n = 0; words->setting(part, bytes, n, &setting); n++) {
            assert_int_equal(covered[setting.byte] & setting.mask, 0);
            covered[setting.byte] |= (uint8_t)setting.mask;
            assert_true(cm_setting_by_name(words, part, bytes, setting.name, &other));
            assert_int_equal(other.mask, setting.mask); // names are unique
        }
        for (uint8_t n = 0; words->byte(part, n, &byte); n++) {
            if (covered[n] != byte.named)
                fail_msg("%s, %s: settings cover 0x%02X, names 0x%02X", part->name, byte.name,
                         covered[n], byte.named);
        }
    }
}

static void words_of_a_setting_are_unique_and_short(void **state)
{
    (void)state;
    for (uint16_t i = 0; i < CM_AVR_PART_COUNT; i++) {
        uint8_t bytes[CM_SETTING_BYTES];
        struct cm_setting setting;
        default_bytes(cm_avr_all_parts[i], bytes);
        for (uint8_t n = 0; words->setting(cm_avr_all_parts[i], bytes, n, &setting); n++) {
            for (unsigned a = 0; a < 64; a++) {
                const struct cm_choice *one = cm_setting_choice(&setting, (uint8_t)a);
                assert_true(!one || strlen(one->word) < CM_WORD_BYTES - 1);
                for (unsigned b = 0; one && b < a; b++) {
                    const struct cm_choice *other = cm_setting_choice(&setting, (uint8_t)b);
                    assert_true(!other || strcmp(one->word, other->word) != 0);
                }
            }
        }
    }
}

/* What a change from the defaults, by one choice, is fenced with. */
static enum cm_fence_kind fence_of(const char *name, const char *setting, const char *word)
{
    const struct cm_part *part = cm_part_by_name(&test_kit, 1, name);
    uint8_t before[CM_SETTING_BYTES], after[CM_SETTING_BYTES];
    struct cm_fence fence;
    default_bytes(part, before);
    memcpy(after, before, sizeof after);
    assert_int_equal(cm_choose(words, part, after, setting, word), CM_OK);
    return cm_next_fence(words, part, before, after, 0, &fence) ? fence.kind : CM_FENCE_NONE;
}

/* Each row of a setting's tables is the one that its value and its word find: none is there twice,
 * and no part has rows of another. */
static void check_rows(const struct cm_part *part, const uint8_t *bytes)
{
    struct cm_setting setting;
    for (uint8_t n = 0; words->setting(part, bytes, n, &setting); n++) {
        for (const struct cm_choice *const *table = setting.choices; table && *table; table++) {
            for (const struct cm_choice *row = *table; row->word; row++) {
                uint8_t made[CM_SETTING_BYTES];
                if (row->value >> cm_setting_width(&setting))
                    continue; // a table that is shared with a wider field
                memcpy(made, bytes, sizeof made);
                if (cm_setting_choice(&setting, row->value) != row ||
                    cm_choose(words, part, made, setting.name, row->word) != CM_OK ||
                    cm_setting_value(&setting, made) != row->value)
                    fail_msg("%s: %s=%s is hidden by another", part->name, setting.name, row->word);
            }
        }
    }
}

static void no_choice_hides_another(void **state)
{
    (void)state;
    for (uint16_t i = 0; i < CM_AVR_PART_COUNT; i++) {
        uint8_t bytes[CM_SETTING_BYTES];
        default_bytes(cm_avr_all_parts[i], bytes);
        check_rows(cm_avr_all_parts[i], bytes);
        // start-up times hang on the clock
        for (int round = 0; round < 5 && test_takes_part(i); round++) {
            for (int b = 0; b < CM_SETTING_BYTES; b++)
                bytes[b] = (uint8_t)next_random();
            check_rows(cm_avr_all_parts[i], bytes);
        }
    }
}

static void fences_stand_where_they_should(void **state)
{
    static const struct {
        const char *part, *setting, *word;
        enum cm_fence_kind kind;
    } CASES[] = {
        {"attiny84a", "reset-pin", "io", CM_FENCE_ENDS_ACCESS},
        {"atmega328p", "debug-wire", "on", CM_FENCE_ENDS_ACCESS},
        {"at90usb162", "reset-pin", "io", CM_FENCE_ENDS_ACCESS},
        {"attiny84a", "serial-programming", "off", CM_FENCE_NOT_HERE},
        {"atmega8", "clock", "external-clock", CM_FENCE_SOURCE},
        {"atmega8", "clock", "rc-3-8MHz", CM_FENCE_SOURCE},
        {"attiny85", "clock", "crystal-8MHz-up", CM_FENCE_SOURCE},
        {"attiny85", "clock", "internal-16MHz-pll", CM_FENCE_NONE},
        {"attiny84a", "clock", "bits-0001", CM_FENCE_UNNAMED},
        {"atmega1284p", "memory-lock", "no-writing", CM_FENCE_LOCKS},
        {"atmega1284p", "boot-lock", "no-reading", CM_FENCE_LOCKS},
        {"attiny84a", "clock-divide", "by-1", CM_FENCE_NONE},
        {"attiny84a", "watchdog", "always-on", CM_FENCE_NONE},
        {"atmega32u4", "clock", "crystal-3-8MHz",
         CM_FENCE_NONE}, // it runs on a crystal as delivered
    };
    (void)state;
    for (size_t i = 0; i < sizeof CASES / sizeof CASES[0]; i++) {
        enum cm_fence_kind kind = fence_of(CASES[i].part, CASES[i].setting, CASES[i].word);
        if (kind != CASES[i].kind)
            fail_msg("%s, %s=%s: fence %d, not %d", CASES[i].part, CASES[i].setting, CASES[i].word,
                     kind, CASES[i].kind);
    }
}

static void start_up_follows_the_clock(void **state)
{
    const struct cm_part *part = cm_part_by_name(&test_kit, 1, "atmega328p");
    uint8_t bytes[CM_SETTING_BYTES];
    struct cm_setting setting;
    char word[CM_WORD_BYTES];
    (void)state;
    default_bytes(part, bytes);
    bytes[0] = 0xFF; // crystal, 16Kck+65ms: SUT 11, which the internal oscillator does not have
    assert_int_equal(cm_choose(words, part, bytes, "clock", "internal-8MHz"), CM_OK);
    assert_true(cm_setting_by_name(words, part, bytes, "start-up", &setting));
    assert_string_equal(cm_setting_word(&setting, cm_setting_value(&setting, bytes), word),
                        "6ck+65ms");
    assert_int_equal(bytes[0], 0xE2);
    // the same table: nothing to settle
    assert_int_equal(cm_choose(words, part, bytes, "clock", "external-clock"), CM_OK);
    assert_int_equal(bytes[0], 0xE0);
    // the slowest, to be safe
    assert_int_equal(cm_choose(words, part, bytes, "clock", "crystal-8MHz-up"), CM_OK);
    assert_true(cm_setting_by_name(words, part, bytes, "start-up", &setting));
    assert_string_equal(cm_setting_word(&setting, cm_setting_value(&setting, bytes), word),
                        "16Kck+65ms");
    assert_int_equal(cm_choose(words, part, bytes, "clock", "internal-8MHz"), CM_OK);
    assert_int_equal(cm_choose(words, part, bytes, "clock", "internal-9MHz"), CM_DIFFERS);
    assert_int_equal(cm_choose(words, part, bytes, "klock", "internal-8MHz"), CM_BAD_ARGUMENT);
    assert_int_equal(bytes[0], 0xE2);
}

static void facts_come_out_of_the_bytes(void **state)
{
    static const struct {
        const char *part;
        uint8_t bytes[CM_SETTING_BYTES];
        uint32_t cpu_hz, board_hz;
        uint16_t brown_out_mv;
        uint32_t boot_bytes;
    } CASES[] = {
        {"attiny84a", {0x62, 0xDF, 0xFF, 0xFF}, 1000000, 1000000, 0, 0},
        {"attiny84a", {0xE2, 0xDD, 0xFF, 0xFF}, 8000000, 8000000, 2700, 0},
        {"atmega328p", {0x7F, 0xD8, 0xFC, 0xFF}, 0, 2000000, 4300, 4096},
        {"atmega1284p", {0xF7, 0xD4, 0xFC, 0xFF}, 0, 16000000, 4300, 2048},
        {"atmega8", {0x24, 0xD9, 0xFF, 0xFF}, 8000000, 8000000, 4000, 0},
        {"atmega8", {0xA4, 0xDA, 0xFF, 0xFF}, 8000000, 8000000, 2700, 1024},
        {"attiny26", {0x61, 0xF7, 0xFF, 0xFF}, 16000000, 16000000, 0, 0},
        {"attiny1634", {0x62, 0xDF, 0xFF, 0xFF}, 1000000, 1000000, 0, 0},
        {"attiny1634", {0x62, 0xDD, 0xFB, 0xFF}, 1000000, 1000000, 2700, 0},
        {"atmega128rfa1", {0xE2, 0x99, 0xFE, 0xFF}, 8000000, 8000000, 1800, 0},
    };
    (void)state;
    for (size_t i = 0; i < sizeof CASES / sizeof CASES[0]; i++) {
        const struct cm_part *part = cm_part_by_name(&test_kit, 1, CASES[i].part);
        assert_int_equal(words->cpu_hz(part, CASES[i].bytes, 0), CASES[i].cpu_hz);
        assert_int_equal(words->cpu_hz(part, CASES[i].bytes, 16000000), CASES[i].board_hz);
        assert_int_equal(words->brown_out_mv(part, CASES[i].bytes), CASES[i].brown_out_mv);
        assert_int_equal(words->boot_bytes(part, CASES[i].bytes), CASES[i].boot_bytes);
    }
}

/* --- on a chip --------------------------------------------------------------------------- */

static void choose(uint8_t *bytes, const struct rig *rig, const char *name, const char *word)
{
    assert_int_equal(cm_choose(words, rig->session.part, bytes, name, word), CM_OK);
}

static void tune_writes_what_differs_and_proves_the_clock(void **state)
{
    struct rig rig;
    struct cm_tune_report report;
    uint8_t bytes[CM_SETTING_BYTES];
    (void)state;
    rig_open(&rig, "attiny84a", "  fuses: [0x62, 0xDF, 0xFF]\n");
    rig_identify(&rig);
    assert_int_equal(cm_read_settings(&rig.session, bytes), CM_OK);
    assert_int_equal(cm_tune(&rig.session, bytes, &report), CM_OK);
    assert_int_equal(report.written, 0);
    choose(bytes, &rig, "clock-divide", "by-1");
    choose(bytes, &rig, "brown-out", "2.7V");
    bytes[2] = 0x00; // reserved bits of the extended byte, and one that has a name
    assert_int_equal(cm_tune(&rig.session, bytes, &report), CM_OK);
    assert_int_equal(report.written, 3);
    assert_true(report.reentered);
    assert_int_equal(report.cpu_hz, 8000000);
    assert_true(rig.session.clock_hz > 1900000);
    assert_int_equal(rig.model->fuses[0], 0xE2);
    assert_int_equal(rig.model->fuses[1], 0xDD);
    assert_int_equal(rig.model->fuses[2], 0xFE); // reserved bits stayed
    assert_no_breach(rig.model);
    rig_close(&rig);
}

static void tune_tells_a_clock_that_does_not_run(void **state)
{
    struct rig rig;
    struct cm_tune_report report;
    uint8_t bytes[CM_SETTING_BYTES];
    (void)state;
    rig_open(&rig, "attiny84a", "");
    rig_identify(&rig);
    assert_int_equal(cm_read_settings(&rig.session, bytes), CM_OK);
    choose(bytes, &rig, "clock", "crystal-8MHz-up");
    assert_int_equal(cm_tune(&rig.session, bytes, &report), CM_NO_CHIP);
    assert_int_equal(report.written, 1);
    rig_close(&rig);
}

static void tune_leaves_a_locked_chip_alone(void **state)
{
    struct rig rig;
    struct cm_tune_report report;
    uint8_t bytes[CM_SETTING_BYTES];
    (void)state;
    rig_open(&rig, "attiny84a", "  lock: 0xFE\n");
    rig_identify(&rig);
    assert_int_equal(cm_read_settings(&rig.session, bytes), CM_OK);
    choose(bytes, &rig, "clock-divide", "by-1");
    assert_int_equal(cm_tune(&rig.session, bytes, &report), CM_PROTECTED);
    bytes[0] = report.before[0];
    choose(bytes, &rig, "memory-lock", "open");
    assert_int_equal(cm_tune(&rig.session, bytes, &report), CM_PROTECTED);
    choose(bytes, &rig, "memory-lock", "no-writing-or-reading"); // locking further is possible
    bytes[3] &= 0x03; // whatever stands in the bits that mean nothing
    assert_int_equal(cm_tune(&rig.session, bytes, &report), CM_OK);
    assert_int_equal(rig.model->lock & 3, 0);
    assert_int_equal(rig.model->fuses[0], 0x62);
    assert_no_breach(rig.model);
    rig_close(&rig);
}

static void tune_survives_every_cut_of_the_wires(void **state)
{
    (void)state;
    for (uint32_t cut = 4; cut < 160; cut += 3) {
        struct rig rig;
        struct cm_tune_report report;
        uint8_t bytes[CM_SETTING_BYTES];
        rig_open(&rig, "attiny84a", "");
        rig_identify(&rig);
        assert_int_equal(cm_read_settings(&rig.session, bytes), CM_OK);
        choose(bytes, &rig, "clock-divide", "by-1");
        choose(bytes, &rig, "eeprom-on-erase", "kept");
        cm_sim_faults(rig.sim)->contact_lost_after_bytes = cut;
        cm_sim_faults(rig.sim)->contact_back_after_bytes = 300;
        cm_sim_restart_faults(rig.sim);
        enum cm_status status = cm_tune(&rig.session, bytes, &report);
        if (status) { // gone for too long: once more, as a person would
            assert_true(status == CM_CONTACT_LOST || status == CM_NO_CHIP);
            *cm_sim_faults(rig.sim) = (struct sim_faults){0};
            cm_sim_restart_faults(rig.sim);
            rig.session.cpu_hz = rig.session.clock_hz = 0;
            rig_identify(&rig);
            assert_int_equal(cm_tune(&rig.session, bytes, &report), CM_OK);
        }
        assert_int_equal(rig.model->fuses[0], 0xE2);
        assert_int_equal(rig.model->fuses[1], 0xD7);
        rig_close(&rig);
    }
}

static void a_slow_internal_oscillator_is_met_a_tenth_slower(void **state)
{
    struct rig rig;
    uint8_t bytes[CM_SETTING_BYTES];
    struct cm_tune_report report;
    (void)state;
    rig_open(&rig, "attiny84a", "");
    rig.model->trim_percent = 93;
    rig_identify(&rig);
    assert_int_equal(cm_read_settings(&rig.session, bytes), CM_OK);
    choose(bytes, &rig, "clock-divide", "by-1");
    assert_int_equal(cm_tune(&rig.session, bytes, &report), CM_OK);
    assert_true(rig.session.clock_hz > 1700000 && rig.session.clock_hz <= 1860000);
    rig_close(&rig);
}

static void the_clock_is_learnt_from_the_fuses(void **state)
{
    static const struct {
        const char *yaml;
        uint32_t board_hz, least_hz, most_hz;
    } CASES[] = {
        {"  fuses: [0x62, 0xD9, 0xFF]\n", 0, 190000, 200000}, // 1 MHz: not worth entering anew
        {"  fuses: [0xE2, 0xD9, 0xFF]\n", 0, 1600000,
         1800000}, // 8 MHz: what was found is near enough
        {"  fuses: [0xFF, 0xD9, 0xFF]\n  board_clock_hz: 16000000\n", 0, 2000000,
         2100000}, // found, not learnt
        {"  fuses: [0xFF, 0xD9, 0xFF]\n  board_clock_hz: 16000000\n", 16000000, 2500000, 2666667},
    };
    (void)state;
    for (size_t i = 0; i < sizeof CASES / sizeof CASES[0]; i++) {
        struct rig rig;
        rig_open(&rig, "atmega328p", CASES[i].yaml);
        rig_identify(&rig);
        assert_int_equal(cm_learn_clock(&rig.session, CASES[i].board_hz), CM_OK);
        assert_in_range(rig.session.clock_hz, CASES[i].least_hz, CASES[i].most_hz);
        assert_no_breach(rig.model);
        rig_close(&rig);
    }
}

/* --- pins and vectors -------------------------------------------------------------------- */

static unsigned count_words(const char *text, const char *ending)
{
    unsigned count = 0;
    size_t wanted = strlen(ending);
    for (size_t length; *text; text += length + (text[length] == ' ')) {
        length = strcspn(text, " ");
        const char *slash = memchr(text, '/', length);
        const char *name = slash ? slash + 1 : text;
        size_t left = (size_t)(text + length - name);
        count += wanted == 0 || (left == wanted && strncmp(name, ending, wanted) == 0);
    }
    return count;
}

static void pinouts_are_whole(void **state)
{
    const struct cm_pinout *row;
    unsigned known = 0;
    (void)state;
    for (uint16_t i = 0; (row = cm_avr_pinout_row(i)) != NULL; i++) {
        assert_int_equal(count_words(row->names, ""), row->pins);
        assert_int_equal(row->pins, strtoul(strchr(row->package, '-') + 1, NULL, 10));
        static const char *const LINES[] = {"RESET", "SCK", "MOSI", "MISO"};
        for (int n = 0; n < 4; n++) {
            if (count_words(row->names, LINES[n]) != 1)
                fail_msg("%s of %s has %s not once", row->package, row->parts, LINES[n]);
        }
        assert_true(count_words(row->names, "VCC") >= 1 && count_words(row->names, "GND") >= 1);
        char name[20];
        for (const char *text = row->parts; *text;
             text += strlen(name) + (text[strlen(name)] == ' ')) {
            snprintf(name, sizeof name, "%.*s", (int)strcspn(text, " "), text);
            if (!cm_part_by_name(&test_kit, 1, name))
                fail_msg("%s in %s is no part", name, row->package);
        }
    }
    for (uint16_t i = 0; i < CM_AVR_PART_COUNT; i++)
        known += cm_avr_about.pinout(cm_avr_all_parts[i], 0) != NULL;
    assert_true(known >= 120);
}

static void reset_is_led_into_a_loader(void **state)
{
    const struct cm_part *tiny = cm_part_by_name(&test_kit, 1, "attiny84a"),
                         *mega = cm_part_by_name(&test_kit, 1, "atmega328p");
    uint16_t vector = 0xC010, own_jump = 0; // rjmp to 0x0022
    (void)state;
    assert_true(cm_avr_lead_reset_to(tiny, 0x1A00, &vector, &own_jump));
    assert_int_equal(vector, 0xCCFF);   // rjmp from 0 to word 0x0D00
    assert_int_equal(own_jump, 0xC311); // from word 0x0CFF, around the end, to word 0x0011
    vector = 0x940C;                    // a jmp
    assert_false(cm_avr_lead_reset_to(tiny, 0x1A00, &vector, &own_jump));
    vector = 0xC010;
    assert_false(cm_avr_lead_reset_to(mega, 0x7000, &vector, &own_jump));
    assert_false(cm_avr_lead_reset_to(tiny, 0x2000, &vector, &own_jump));
    assert_false(cm_avr_lead_reset_to(tiny, 0x1A01, &vector, &own_jump));
    assert_int_equal(vector, 0xC010);
}

int main(void)
{
    const struct CMUnitTest tables[] = {
        cmocka_unit_test(default_fuses_have_words_and_the_words_give_the_fuses),
        cmocka_unit_test(any_bytes_go_to_words_and_back),
        cmocka_unit_test(every_named_bit_belongs_to_one_setting),
        cmocka_unit_test(words_of_a_setting_are_unique_and_short),
        cmocka_unit_test(no_choice_hides_another),
        cmocka_unit_test(fences_stand_where_they_should),
        cmocka_unit_test(start_up_follows_the_clock),
        cmocka_unit_test(facts_come_out_of_the_bytes),
        cmocka_unit_test(pinouts_are_whole),
        cmocka_unit_test(reset_is_led_into_a_loader),
    };
    const struct CMUnitTest on_a_chip[] = {
        cmocka_unit_test(tune_writes_what_differs_and_proves_the_clock),
        cmocka_unit_test(tune_tells_a_clock_that_does_not_run),
        cmocka_unit_test(tune_leaves_a_locked_chip_alone),
        cmocka_unit_test(tune_survives_every_cut_of_the_wires),
        cmocka_unit_test(a_slow_internal_oscillator_is_met_a_tenth_slower),
        cmocka_unit_test(the_clock_is_learnt_from_the_fuses),
    };
    int failed = 0;
    if (test_is_plain_way()) // no port is asked
        failed = cmocka_run_group_tests_name("settings, tables", tables, NULL, NULL);
    return failed + cmocka_run_group_tests_name("settings", on_a_chip, NULL, NULL);
}
