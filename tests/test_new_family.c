/* Hardware: a chip that nobody makes, on a bus of its own (tests/new_family). What every call of
 * the core does with a family that no folder but its own names. */
#include "new_family/chime.h"
#include "support/support.h"
#include <coldmint/restore.h>
#include <string.h>

enum { IMAGE = 3000, WORKSPACE = 2048 };

static struct chime_model model;
static struct cm_session session;
static uint8_t image[CHIME_FLASH_BYTES], workspace[WORKSPACE];
static struct cm_report report;
static const struct cm_part *const PARTS[] = {&chime_part};
static const struct cm_kit KIT = {.family = &chime,
                                  .parts = PARTS,
                                  .part_count = 1,
                                  .carrier = &cm_carry_sectors,
                                  .words = &chime_words,
                                  .about = &chime_about};

static void begin(void)
{
    chime_model_begin(&model);
    for (uint32_t i = 0; i < sizeof image; i++)
        image[i] = (uint8_t)(i * 7 + i / 251) & 0xFE;
    assert_int_equal(cm_open(&session, &model.port, &KIT, 1, workspace, sizeof workspace), CM_OK);
    assert_int_equal(cm_identify(&session, NULL), CM_OK);
}

static void end(void)
{
    cm_close(&session);
    assert_int_equal(model.breaches, 0);
}

static enum cm_status put_image(uint32_t count, bool unprotect)
{
    struct cm_memory memory = {image, count, 0};
    struct cm_want want = {CHIME_FLASH, cm_memory_source(&memory)};
    struct cm_put put = {
        .wants = &want, .want_count = 1, .unprotect = unprotect, .carry.in_memory = true};
    return cm_put(&session, &put, &report);
}

static enum cm_status tune(const char *name, const char *word)
{
    uint8_t bytes[CM_SETTING_BYTES];
    struct cm_tune_report tuned;
    enum cm_status status = cm_read_settings(&session, bytes);
    if (!status)
        status = cm_choose(&chime_words, session.part, bytes, name, word);
    return status ? status : cm_tune(&session, bytes, &tuned);
}

static enum cm_status sink_nothing(void *context, uint32_t address, const uint8_t *bytes,
                                   uint32_t count)
{
    (void)context, (void)address, (void)bytes, (void)count;
    return CM_OK;
}

/* --- contents ---------------------------------------------------------------------------- */

static void a_linkers_address_finds_its_region(void **state)
{
    (void)state;
    assert_int_equal(cm_region_at(&chime, &chime_part, 0x08000000), CHIME_FLASH);
    assert_int_equal(cm_region_at(&chime, &chime_part, 0x08003FFF), CHIME_FLASH);
    assert_int_equal(cm_region_at(&chime, &chime_part, 0x08004000), CHIME_FLASH); // beyond its end
    assert_int_equal(cm_region_at(&chime, &chime_part, 0x1FFFF80F), CHIME_OPTIONS);
    assert_int_equal(cm_region_at(&chime, &chime_part, 0), -1);
    assert_int_equal(cm_region_at(&cm_avr, &cm_attiny84a.part, 0x810010), CM_AVR_EEPROM);
    assert_int_equal(cm_region_at(&cm_avr, &cm_attiny84a.part, 0x1FFF), CM_AVR_FLASH);
}

/* A HEX file as linkers make them: of several regions, at their bases. */
static void a_linkers_file_is_put_where_it_belongs(void **state)
{
    static const char *const FILES[] = {
        ":020000040800F2\n:0400100011223344428\n", // a wrong sum: nothing of it counts
        ":020000040800F2\n:040010001122334442\n:020000041FFFDC\n:02F80400DEAD77\n:00000001FF\n"};
    _Alignas(4) static uint8_t memory[CM_IMAGE_MEMORY(8)];
    struct cm_record_reader reader;
    struct cm_image file;
    (void)state;
    cm_image_init(&file, memory, sizeof memory);
    cm_record_begin(&reader, cm_record_into_image, &file);
    assert_int_equal(cm_record_feed(&reader, FILES[0], strlen(FILES[0])), CM_BAD_IMAGE);
    cm_image_init(&file, memory, sizeof memory);
    cm_record_begin(&reader, cm_record_into_image, &file);
    assert_int_equal(cm_record_feed(&reader, FILES[1], strlen(FILES[1])), CM_OK);
    assert_int_equal(cm_record_end(&reader), CM_OK);
    struct cm_placed flash, options;
    struct cm_source source = cm_image_source(&file);
    struct cm_want wants[] = {
        {CHIME_FLASH, cm_place(&flash, source, &chime, &chime_part, CHIME_FLASH)},
        {CHIME_OPTIONS, cm_place(&options, source, &chime, &chime_part, CHIME_OPTIONS)}};
    struct cm_put put = {.wants = wants, .want_count = 2, .carry.in_memory = true};
    begin();
    assert_int_equal(cm_put(&session, &put, &report), CM_OK);
    assert_int_equal(report.bytes, 6);
    assert_memory_equal(model.flash + 0x10, "\x11\x22\x33\x44", 4);
    assert_memory_equal(model.options + 4, "\xDE\xAD", 2);
    wants[0].source = cm_place(&flash, source, &chime, &chime_part, CHIME_LEVEL);
    assert_ptr_equal(wants[0].source.context, source.context); // nothing for that: from 0
    put.want_count = 1;
    assert_int_equal(cm_put(&session, &put, &report), CM_TOO_LARGE);
    end();
}

static void pages_are_erased_and_their_rest_is_carried(void **state)
{
    (void)state;
    begin();
    assert_int_equal(put_image(IMAGE, false), CM_OK);
    assert_memory_equal(model.flash, image, IMAGE);
    assert_int_equal(model.page_erases, 0);
    assert_int_equal(put_image(IMAGE, false), CM_OK);
    assert_int_equal(report.pages_written, 0);
    model.flash[1500] = 0x00;
    memset(model.flash + IMAGE, 0x21, 3072 - IMAGE); // beside the image, in its last unit
    model.flash[IMAGE - 1] = 0x00;
    image[IMAGE - 1] = 0x42;
    assert_int_equal(put_image(IMAGE, false), CM_OK);
    assert_memory_equal(model.flash, image, IMAGE);
    assert_int_equal(model.flash[IMAGE], 0x21);
    assert_int_equal(model.flash[3071], 0x21);
    assert_int_equal(model.page_erases, 2);
    assert_int_equal(model.mass_erases, 0);
    assert_int_equal(report.carried_bytes, 3072 - IMAGE);
    end();
}

static void whole_jobs_know_the_chip(void **state)
{
    struct cm_memory memory = {image, IMAGE, 0};
    struct cm_want want = {CHIME_FLASH, cm_memory_source(&memory)};
    (void)state;
    begin();
    assert_int_equal(cm_is_blank(&session, CHIME_FLASH, NULL, NULL), CM_OK);
    assert_int_equal(put_image(IMAGE, false), CM_OK);
    assert_int_equal(cm_compare(&session, &want, NULL, NULL, NULL, &report), CM_OK);
    model.flash[77] ^= 0x10;
    assert_int_equal(cm_compare(&session, &want, NULL, NULL, NULL, &report), CM_DIFFERS);
    assert_int_equal(session.failure.address, 77);
    assert_int_equal(cm_is_blank(&session, CHIME_FLASH, NULL, NULL), CM_DIFFERS);
    assert_int_equal(cm_keep(&session, CHIME_FLASH, sink_nothing, NULL, NULL, &report), CM_OK);
    assert_int_equal(report.bytes, CHIME_FLASH_BYTES);
    assert_int_equal(cm_keep(&session, CHIME_OPTIONS, sink_nothing, NULL, NULL, &report), CM_OK);
    assert_int_equal(cm_blank(&session, &(struct cm_blank){0}, &report), CM_OK);
    assert_true(report.erase);
    assert_int_equal(cm_is_blank(&session, CHIME_FLASH, NULL, NULL), CM_OK);
    assert_int_equal(put_image(100, false), CM_OK);
    assert_int_equal(cm_erase(&session), CM_OK); // the unit that is all of the region
    assert_int_equal(model.mass_erases, 1);
    assert_int_equal(cm_is_blank(&session, CHIME_FLASH, NULL, NULL), CM_OK);
    end();
}

static void the_prediction_holds(void **state)
{
    (void)state;
    begin();
    memset(model.flash, 0, sizeof model.flash);
    assert_int_equal(put_image(CHIME_FLASH_BYTES, false), CM_OK);
    assert_true(report.actual_us > report.predicted_us / 10 * 8);
    assert_true(report.actual_us < report.predicted_us / 10 * 12);
    end();
}

/* --- settings ---------------------------------------------------------------------------- */

static void wide_settings_are_put_with_their_erase(void **state)
{
    uint8_t bytes[CM_SETTING_BYTES];
    struct cm_setting setting;
    char word[CM_WORD_BYTES];
    (void)state;
    begin();
    model.options[1] = 0x5C; // what no setting names stays
    assert_int_equal(tune("boot-address", "0x08002000"), CM_OK);
    assert_memory_equal(model.options + 4, "\x00\x20\x00\x08", 4);
    assert_int_equal(model.option_erases, 0); // bits could fall
    assert_int_equal(tune("boot-address", "0x080020F0"), CM_OK);
    assert_int_equal(model.option_erases, 1);
    assert_int_equal(tune("write-groups", "0xA5C3"), CM_OK);
    assert_memory_equal(model.options + 9, "\xC3\xA5\xFF", 3);
    assert_int_equal(tune("watchdog", "hardware"), CM_OK);
    assert_int_equal(model.options[0], 0xFE);
    assert_int_equal(model.options[1], 0x5C);
    assert_int_equal(tune("watchdog", "hardware"), CM_OK);
    assert_int_equal(model.option_erases, 1);
    assert_int_equal(cm_read_settings(&session, bytes), CM_OK);
    assert_true(cm_setting_by_name(&chime_words, session.part, bytes, "boot-address", &setting));
    assert_int_equal(cm_setting_width(&setting), 32);
    assert_string_equal(cm_setting_word(&setting, cm_setting_value(&setting, bytes), word),
                        "0x080020F0");
    end();
}

static void words_that_no_setting_has_are_refused(void **state)
{
    static const char *const WRONG[] = {"0x1FFFFFFFF", "0x", "0xG1", "0x12@4",
                                        "bits-0101",   "",   "x1"};
    uint8_t bytes[CM_SETTING_BYTES] = {0}, before[CM_SETTING_BYTES] = {0};
    (void)state;
    for (size_t i = 0; i < sizeof WRONG / sizeof WRONG[0]; i++)
        assert_int_equal(cm_choose(&chime_words, &chime_part, bytes, "boot-address", WRONG[i]),
                         CM_DIFFERS);
    assert_int_equal(cm_choose(&chime_words, &chime_part, bytes, "write-groups", "0x12345"),
                     CM_DIFFERS);
    assert_int_equal(cm_choose(&chime_words, &chime_part, bytes, "watchdog", "bits-2"), CM_DIFFERS);
    assert_memory_equal(bytes, before, sizeof before);
    assert_int_equal(cm_choose(&chime_words, &chime_part, bytes, "watchdog", "bits-1"), CM_OK);
    assert_int_equal(bytes[0], 1);
}

/* --- protection -------------------------------------------------------------------------- */

static void close_read_out(void)
{
    assert_int_equal(tune("read-out", "closed"), CM_OK);
    assert_int_equal(model.level, 0xFE);
}

static void a_closed_chip_gives_nothing_and_takes_nothing(void **state)
{
    struct cm_guard guard;
    struct cm_memory memory = {image, IMAGE, 0};
    struct cm_want want = {CHIME_FLASH, cm_memory_source(&memory)};
    (void)state;
    begin();
    assert_int_equal(put_image(IMAGE, false), CM_OK);
    close_read_out();
    assert_int_equal(cm_guard_look(&session, &guard), CM_OK);
    assert_true(cm_guard_is_on(&guard));
    assert_true(cm_guard_covers(&guard, CHIME_FLASH, 0, 1));
    assert_false(cm_guard_covers(&guard, CHIME_OPTIONS, 0, 1));
    assert_int_equal(guard.cost, CM_LIFT_CONTENTS);
    assert_int_equal(cm_keep(&session, CHIME_FLASH, sink_nothing, NULL, NULL, &report),
                     CM_PROTECTED);
    assert_int_equal(cm_compare(&session, &want, NULL, NULL, NULL, &report), CM_PROTECTED);
    assert_int_equal(cm_is_blank(&session, CHIME_FLASH, NULL, NULL), CM_PROTECTED);
    assert_int_equal(put_image(IMAGE, false), CM_PROTECTED);
    assert_int_equal(cm_blank(&session, &(struct cm_blank){0}, &report), CM_PROTECTED);
    assert_int_equal(cm_guard_lift(&session, &guard, CM_LIFT_FREE), CM_REFUSED);
    assert_int_equal(tune("read-out", "open"), CM_PROTECTED);
    assert_memory_equal(model.flash, image, IMAGE);
    assert_int_equal(tune("write-groups", "0x0001"), CM_OK); // options are not covered
    end();
}

static void unprotect_lifts_puts_and_closes_again(void **state)
{
    (void)state;
    begin();
    assert_int_equal(put_image(IMAGE, false), CM_OK);
    close_read_out();
    image[5] ^= 0x40;
    assert_int_equal(put_image(IMAGE, true), CM_OK);
    assert_int_equal(model.mass_erases, 1);
    assert_memory_equal(model.flash, image, IMAGE);
    assert_int_equal(model.level, 0xFE);
    assert_true(report.erase && report.lifts && report.relocked && !report.unlocked);
    assert_int_equal(report.pages_written, (IMAGE + CHIME_PAGE - 1) / CHIME_PAGE);
    end();
}

/* Nothing is to be written there, but the old contents are to go. */
static void blank_bytes_wanted_of_a_closed_chip_are_made_so(void **state)
{
    struct cm_blank_area area = {0, CHIME_FLASH_BYTES, 0xFF};
    struct cm_want want = {CHIME_FLASH, cm_blank_source(&area)};
    struct cm_put put = {.wants = &want, .want_count = 1, .unprotect = true};
    (void)state;
    begin();
    assert_int_equal(put_image(IMAGE, false), CM_OK);
    close_read_out();
    assert_int_equal(cm_put(&session, &put, &report), CM_OK);
    for (uint32_t i = 0; i < CHIME_FLASH_BYTES; i++)
        assert_int_equal(model.flash[i], 0xFF);
    assert_int_equal(model.level, 0xFE);
    want.region = 9;
    assert_int_equal(cm_put(&session, &put, &report), CM_BAD_ARGUMENT);
    want.region = CHIME_NO_DATA;
    assert_int_equal(cm_put(&session, &put, &report), CM_BAD_ARGUMENT);
    end();
}

/* What can still be read is not given up unasked. */
static void a_lift_that_would_lose_data_is_refused(void **state)
{
    struct cm_memory memory = {image, IMAGE, 0};
    struct cm_want want = {CHIME_FLASH, cm_memory_source(&memory)};
    struct cm_put put = {.wants = &want, .want_count = 1, .unprotect = true};
    (void)state;
    begin();
    memset(model.flash + 8000, 0x77, 9);
    assert_int_equal(put_image(IMAGE, false), CM_OK);
    assert_int_equal(tune("write-in", "closed"), CM_OK);
    assert_int_equal(put_image(IMAGE, false), CM_OK); // it is there already
    assert_int_equal(cm_keep(&session, CHIME_FLASH, sink_nothing, NULL, NULL, &report), CM_OK);
    image[100] ^= 0x08;
    assert_int_equal(put_image(IMAGE, false), CM_PROTECTED);
    assert_int_equal(cm_put(&session, &put, &report), CM_REFUSED);
    assert_int_equal(session.failure.address, 8000);
    assert_int_equal(model.mass_erases, 0);
    put.lose_data = true;
    assert_int_equal(cm_put(&session, &put, &report), CM_OK);
    assert_memory_equal(model.flash, image, IMAGE);
    assert_int_equal(model.flash[8000], 0xFF);
    assert_int_equal(model.level, 0xFD);
    end();
}

static void the_plan_of_a_lift_changes_nothing(void **state)
{
    struct cm_memory memory = {image, IMAGE, 0};
    struct cm_want want = {CHIME_FLASH, cm_memory_source(&memory)};
    struct cm_put put = {.wants = &want, .want_count = 1, .unprotect = true};
    (void)state;
    begin();
    assert_int_equal(put_image(IMAGE, false), CM_OK);
    close_read_out();
    assert_int_equal(cm_plan(&session, &put, &report), CM_OK);
    assert_true(report.erase && report.lifts);
    assert_int_equal(report.bytes, IMAGE);
    assert_int_equal(report.pages_written, (IMAGE + CHIME_PAGE - 1) / CHIME_PAGE);
    assert_int_equal(model.mass_erases, 0);
    uint32_t predicted = report.predicted_us;
    assert_int_equal(cm_put(&session, &put, &report), CM_OK);
    assert_true(report.actual_us > predicted / 10 * 7 && report.actual_us < predicted / 10 * 14);
    end();
}

static void a_guard_is_lifted_for_its_price_and_restored(void **state)
{
    struct cm_guard guard;
    (void)state;
    begin();
    assert_int_equal(put_image(IMAGE, false), CM_OK);
    close_read_out();
    assert_int_equal(cm_guard_look(&session, &guard), CM_OK);
    assert_int_equal(cm_guard_lift(&session, &guard, CM_LIFT_CONTENTS), CM_OK);
    assert_int_equal(model.mass_erases, 1);
    assert_int_equal(cm_is_blank(&session, CHIME_FLASH, NULL, NULL), CM_OK);
    assert_int_equal(cm_guard_restore(&session, &guard), CM_OK);
    assert_int_equal(model.level, 0xFE);
    assert_int_equal(cm_blank(&session, &(struct cm_blank){.unprotect = true}, &report), CM_OK);
    assert_int_equal(model.level, CHIME_LEVEL_OPEN); // an erased chip stays open
    end();
}

/* --- all at once ------------------------------------------------------------------------- */

static void want_settings(uint8_t *bytes)
{
    assert_int_equal(cm_read_settings(&session, bytes), CM_OK);
    assert_int_equal(cm_choose(&chime_words, session.part, bytes, "boot-address", "0x08000400"),
                     CM_OK);
    assert_int_equal(cm_choose(&chime_words, session.part, bytes, "read-out", "closed"), CM_OK);
}

static void a_mint_does_contents_options_and_level(void **state)
{
    uint8_t settings[CM_SETTING_BYTES];
    struct cm_memory memory = {image, IMAGE, 0};
    struct cm_want want = {CHIME_FLASH, cm_memory_source(&memory)};
    struct cm_mint mint = {.put = {.wants = &want, .want_count = 1}, .settings = settings};
    struct cm_mint_report minted;
    uint32_t predicted;
    (void)state;
    begin();
    want_settings(settings);
    assert_int_equal(cm_mint_plan(&session, &mint, &minted, &predicted), CM_OK);
    assert_int_equal(cm_mint(&session, &mint, &minted), CM_OK);
    assert_memory_equal(model.flash, image, IMAGE);
    assert_memory_equal(model.options + 4, "\x00\x04\x00\x08", 4);
    assert_int_equal(model.level, 0xFE);
    assert_int_equal(cm_mint(&session, &mint, &minted), CM_PROTECTED);
    mint.put.unprotect = true;
    image[9] ^= 0x20;
    assert_int_equal(cm_mint(&session, &mint, &minted), CM_OK);
    assert_memory_equal(model.flash, image, IMAGE);
    assert_int_equal(model.level, 0xFE);
    end();
}

struct file {
    uint8_t bytes[32768];
    uint32_t count;
};

static enum cm_status append(void *context, const char *text, size_t bytes)
{
    struct file *file = context;
    assert_true(bytes <= sizeof file->bytes - file->count);
    memcpy(file->bytes + file->count, text, bytes);
    file->count += (uint32_t)bytes;
    return CM_OK;
}

static enum cm_status from_file(void *context, uint32_t offset, uint8_t *bytes, uint32_t count)
{
    memcpy(bytes, ((struct file *)context)->bytes + offset, count);
    return CM_OK;
}

/* A capsule of the chip as it stands. */
static void keep_capsule(struct file *file)
{
    static const struct cm_capsule_region REGIONS[] = {{"flash", CHIME_FLASH_BYTES, 0xFF, {0}},
                                                       {"options", CHIME_OPTION_BYTES, 0xFF, {0}},
                                                       {"level", 1, 0xFF, {0}}};
    const struct cm_capsule_facts facts = {
        .chip = "chime16", .family = "chime", .id = {0xC4, 0x1E, 0x07}, .id_bytes = 3};
    const uint8_t *const contents[] = {model.flash, model.options, &model.level};
    struct cm_capsule_writer writer;
    file->count = 0;
    assert_int_equal(cm_capsule_write_begin(&writer, &facts, REGIONS, 3, append, file), CM_OK);
    for (uint8_t i = 0; i < 3; i++)
        assert_int_equal(cm_capsule_write(&writer, REGIONS, i, 0, contents[i], REGIONS[i].bytes),
                         CM_OK);
    assert_int_equal(cm_capsule_write_end(&writer), CM_OK);
}

static void a_capsule_brings_it_back(void **state)
{
    static struct file file;
    static struct chime_model before;
    struct cm_capsule capsule;
    struct cm_mint_report minted;
    (void)state;
    begin();
    assert_int_equal(put_image(IMAGE, false), CM_OK);
    assert_int_equal(tune("boot-address", "0x08001000"), CM_OK);
    keep_capsule(&file);
    before = model;
    assert_int_equal(cm_blank(&session, &(struct cm_blank){0}, &report), CM_OK);
    assert_int_equal(tune("boot-address", "0x00000000"), CM_OK);
    struct cm_capsule_input input = {&file, from_file, file.count};
    assert_int_equal(cm_capsule_open(&capsule, &input), CM_OK);
    assert_int_equal(cm_restore(&session, &capsule, &minted), CM_OK);
    assert_memory_equal(model.flash, before.flash, sizeof model.flash);
    assert_memory_equal(model.options, before.options, sizeof model.options);
    end();
}

/* --- bad wires --------------------------------------------------------------------------- */

/* Two regions in one put. */
static enum cm_status put_both(const uint8_t *options)
{
    struct cm_memory flash = {image, IMAGE, 0}, option = {options, CHIME_OPTION_BYTES, 0};
    struct cm_want wants[] = {{CHIME_FLASH, cm_memory_source(&flash)},
                              {CHIME_OPTIONS, cm_memory_source(&option)}};
    struct cm_put put = {.wants = wants, .want_count = 2, .carry.in_memory = true};
    return cm_put(&session, &put, &report);
}

static bool is_right(const uint8_t *options)
{
    return memcmp(model.flash, image, IMAGE) == 0 && model.flash[IMAGE] == 0x21 &&
           memcmp(model.options, options, CHIME_OPTION_BYTES) == 0;
}

/* A wire that is off for some bytes, at places all over a job that erases, carries and writes. */
static void no_bad_moment_ends_good_over_wrong_contents(void **state)
{
    static const uint8_t LENGTHS[] = {1, 7, 60};
    uint8_t options[CHIME_OPTION_BYTES];
    unsigned good = 0, told = 0;
    (void)state;
    memset(options, 0x36, sizeof options);
    for (uint32_t at = 0; at < 9000; at += 13) {
        for (size_t n = 0; n < sizeof LENGTHS; n++) {
            begin();
            memset(model.flash, 0x21, sizeof model.flash);
            memset(model.options, 0x12, sizeof model.options);
            model.broken_at = model.bytes + at;
            model.broken = LENGTHS[n];
            enum cm_status status = put_both(options);
            if (status == CM_OK)
                assert_true(is_right(options));
            good += status == CM_OK;
            told += status != CM_OK;
            cm_close(&session);
        }
    }
    print_message("%u jobs good, %u told\n", good, told);
    assert_true(good > 1500);
    assert_true(told < good / 3);
}

/* The same while protection is lifted by an erase, and put back. */
static void no_bad_moment_of_a_lift_ends_good_over_wrong_contents(void **state)
{
    static const uint8_t LENGTHS[] = {1, 9, 80};
    unsigned good = 0, told = 0, again = 0;
    (void)state;
    for (uint32_t at = 0; at < 9000; at += 11) {
        for (size_t n = 0; n < sizeof LENGTHS; n++) {
            begin();
            memset(model.flash, 0x21, sizeof model.flash);
            model.level = 0xFE;
            model.broken_at = model.bytes + at;
            model.broken = LENGTHS[n];
            enum cm_status status = put_image(IMAGE, true);
            bool is_done = memcmp(model.flash, image, IMAGE) == 0 && model.level == 0xFE;
            assert_true(status != CM_OK || is_done);
            good += status == CM_OK;
            told += status != CM_OK;
            model.broken = 0; // the clip is seated again
            again += status != CM_OK && put_image(IMAGE, true) == CM_OK &&
                     memcmp(model.flash, image, IMAGE) == 0;
            cm_close(&session);
        }
    }
    print_message("%u jobs good, %u told, %u of those good when run again\n", good, told, again);
    assert_true(good > 1500);
    assert_int_equal(again, told);
}

static void every_familys_state_has_its_room(void **state)
{
    static struct cm_all_found found;
    struct cm_kit kits[CM_ALL_KITS];
    (void)state;
    cm_all_kits(kits, &found);
    for (int k = 0; k < CM_ALL_KITS; k++) // wherever the workspace begins
        assert_true(kits[k].family->state_bytes + sizeof(uint32_t) - 1 <= CM_STATE_BYTES);
}

static void the_smallest_workspace_is_a_page_and_a_map(void **state)
{
    (void)state;
    begin();
    cm_close(&session);
    for (uint32_t bytes = 0; bytes < 200; bytes++) {
        enum cm_status status = cm_open(&session, &model.port, &KIT, 1, workspace + 1, bytes);
        assert_true(status == CM_OK || status == CM_NO_ROOM);
        if (status) {
            assert_int_equal(cm_identify(&session, NULL), CM_PORT_LACKS);
            continue;
        }
        assert_int_equal(cm_identify(&session, NULL), CM_OK);
        status = put_image(60, false);
        assert_true(status == CM_OK || status == CM_NO_ROOM);
        assert_true(bytes < 90 || status == CM_OK);
        cm_close(&session);
    }
    end();
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(a_linkers_address_finds_its_region),
        cmocka_unit_test(a_linkers_file_is_put_where_it_belongs),
        cmocka_unit_test(pages_are_erased_and_their_rest_is_carried),
        cmocka_unit_test(whole_jobs_know_the_chip),
        cmocka_unit_test(the_prediction_holds),
        cmocka_unit_test(wide_settings_are_put_with_their_erase),
        cmocka_unit_test(words_that_no_setting_has_are_refused),
        cmocka_unit_test(a_closed_chip_gives_nothing_and_takes_nothing),
        cmocka_unit_test(unprotect_lifts_puts_and_closes_again),
        cmocka_unit_test(blank_bytes_wanted_of_a_closed_chip_are_made_so),
        cmocka_unit_test(a_lift_that_would_lose_data_is_refused),
        cmocka_unit_test(the_plan_of_a_lift_changes_nothing),
        cmocka_unit_test(a_guard_is_lifted_for_its_price_and_restored),
        cmocka_unit_test(a_mint_does_contents_options_and_level),
        cmocka_unit_test(a_capsule_brings_it_back),
        cmocka_unit_test(no_bad_moment_ends_good_over_wrong_contents),
        cmocka_unit_test(no_bad_moment_of_a_lift_ends_good_over_wrong_contents),
        cmocka_unit_test(every_familys_state_has_its_room),
        cmocka_unit_test(the_smallest_workspace_is_a_page_and_a_map),
    };
    return cmocka_run_group_tests(tests, NULL, NULL);
}
