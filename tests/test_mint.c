/* Hardware: simulated benches. Whole chips: kept, wiped, restored, and made after a wanted state.
 */
#include "support/chance.h"
#include "support/support.h"
#include <coldmint/capsule.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

/* A capsule in memory. */
struct sealed {
    uint8_t *bytes;
    size_t count, room;
    struct cm_capsule capsule;
    struct cm_capsule_place places[CM_CAPSULE_REGIONS];
};

static enum cm_status append(void *context, const char *text, size_t bytes)
{
    struct sealed *sealed = context;
    if (sealed->count + bytes > sealed->room) {
        sealed->room = 2 * (sealed->count + bytes);
        sealed->bytes = realloc(sealed->bytes, sealed->room);
    }
    memcpy(sealed->bytes + sealed->count, text, bytes);
    sealed->count += bytes;
    return CM_OK;
}

static enum cm_status from_sealed(void *context, uint32_t offset, uint8_t *bytes, uint32_t count)
{
    memcpy(bytes, ((struct sealed *)context)->bytes + offset, count);
    return CM_OK;
}

/* Keeps all regions of the chip. */
static void keep_all(struct rig *rig, struct sealed *sealed)
{
    struct cm_capsule_region regions[CM_CAPSULE_REGIONS];
    struct cm_capsule_writer writer;
    struct cm_capsule_facts facts = {.chip = "kept", .id = {0x1E}, .id_bytes = 3};
    struct cm_region region;
    uint8_t count = 0, index[CM_CAPSULE_REGIONS];
    memset(sealed, 0, sizeof *sealed);
    for (uint8_t i = 0; cm_region(&rig->session, i, &region); i++) {
        if (!region.bytes)
            continue;
        snprintf(regions[count].name, sizeof regions[count].name, "%s", region.name);
        regions[count].bytes = region.bytes;
        regions[count].erased = region.erased;
        index[count++] = i;
    }
    assert_int_equal(cm_capsule_write_begin(&writer, &facts, regions, count, append, sealed),
                     CM_OK);
    for (uint8_t i = 0; i < count; i++) {
        uint8_t *bytes = malloc(regions[i].bytes);
        assert_int_equal(cm_read_twice(&rig->session, index[i], 0, bytes, regions[i].bytes), CM_OK);
        assert_int_equal(cm_capsule_write(&writer, regions, i, 0, bytes, regions[i].bytes), CM_OK);
        free(bytes);
    }
    assert_int_equal(cm_capsule_write_end(&writer), CM_OK);
    struct cm_capsule_input input = {sealed, from_sealed, (uint32_t)sealed->count};
    assert_int_equal(cm_capsule_open(&sealed->capsule, &input), CM_OK);
}

static void restore_all(struct rig *rig, struct sealed *sealed, struct cm_mint_report *report)
{
    struct cm_want wants[2];
    uint8_t count = 0, settings[CM_SETTING_BYTES];
    struct cm_setting_byte byte;
    struct cm_region region;
    memset(settings, 0xFF, sizeof settings);
    for (uint8_t i = CM_REGION_MAIN; i <= CM_REGION_DATA; i++) {
        cm_region(&rig->session, i, &region);
        int index = cm_capsule_region(&sealed->capsule, region.name);
        if (index >= 0)
            wants[count++] = (struct cm_want){
                i, cm_capsule_source(&sealed->capsule, (uint8_t)index, &sealed->places[i])};
    }
    for (uint8_t i = 0; cm_avr_words.byte(rig->session.part, i, &byte); i++) {
        cm_region(&rig->session, byte.region, &region);
        struct cm_source source = cm_capsule_source(
            &sealed->capsule, (uint8_t)cm_capsule_region(&sealed->capsule, region.name),
            &sealed->places[2]);
        assert_int_equal(source.read(source.context, byte.address, &settings[i], 1), CM_OK);
    }
    struct cm_mint mint = {
        .put = {.wants = wants, .want_count = count, .unprotect = true, .lose_data = true},
        .settings = settings,
        .board_hz = rig->model->board_hz};
    enum cm_status status = cm_mint(&rig->session, &mint, report);
    if (status)
        fail_msg("%s: %s, %s at 0x%X", rig->session.part->name, cm_status_word(status),
                 rig->session.failure.region ? rig->session.failure.region : "?",
                 (unsigned)rig->session.failure.address);
}

static uint32_t next_random(void)
{
    static uint32_t state;
    if (!state)
        state = 521288629 ^ test_seed();
    state ^= state << 13;
    state ^= state >> 17;
    return state ^= state << 5;
}

/* A few patches of contents, and settings that no fence minds. */
static void give_it_a_life(struct rig *rig)
{
    struct avr_model *model = rig->model;
    const struct cm_part *part = &model->row->part;
    uint8_t bytes[CM_SETTING_BYTES], wanted[CM_SETTING_BYTES];
    struct cm_setting setting;
    struct cm_fence fence;
    for (uint32_t at = 0; at < model->row->flash_bytes;
         at += 1 + next_random() % (model->row->flash_bytes / 8))
        model->flash[at] = (uint8_t)next_random();
    for (uint32_t at = 0; at < model->row->eeprom_bytes; at += 1 + next_random() % 60)
        model->eeprom[at] = (uint8_t)next_random();
    memset(bytes, 0xFF, sizeof bytes);
    memcpy(bytes, model->fuses, model->row->fuse_bytes);
    for (uint8_t i = 0; cm_avr_words.setting(part, bytes, i, &setting); i++) {
        memcpy(wanted, bytes, sizeof wanted);
        cm_set_setting(&setting, wanted, (uint8_t)next_random());
        if (!cm_next_fence(&cm_avr_words, part, bytes, wanted, 0, &fence))
            memcpy(bytes, wanted, sizeof bytes);
    }
    memcpy(model->fuses, bytes, model->row->fuse_bytes);
    memcpy(model->active_fuses, model->fuses, sizeof model->fuses);
    model->cpu_hz = avr_model_clock(model->row, model->fuses, model->board_hz);
    if (model->row->fuse_bytes && next_random() % 3 == 0)
        model->lock = 0xFE; // no writing
}

/* Everything else than it was: erased and filled again, fuses as delivered, unlocked. */
static void wipe(struct rig *rig)
{
    struct avr_model *model = rig->model;
    for (uint32_t i = 0; i < model->row->flash_bytes; i++)
        model->flash[i] = i % 5 ? 0xFF : 0x11;
    memset(model->eeprom, 0x22, model->row->eeprom_bytes);
    memcpy(model->fuses, model->row->fuse_default, sizeof model->fuses);
    model->lock = 0xFF;
}

static void check_one_part(const char *name)
{
    struct rig rig;
    struct sealed sealed;
    struct cm_mint_report report;
    rig_open(&rig, name, "  board_clock_hz: 8000000\n");
    struct avr_model *model = rig.model;
    uint32_t flash = model->row->flash_bytes, eeprom = model->row->eeprom_bytes;
    give_it_a_life(&rig);
    uint8_t *flash_was = malloc(flash), *eeprom_was = malloc(eeprom + 1u), fuses_were[3],
            lock_was = model->lock;
    memcpy(flash_was, model->flash, flash);
    memcpy(eeprom_was, model->eeprom, eeprom);
    memcpy(fuses_were, model->fuses, sizeof fuses_were);
    rig_identify(&rig);
    keep_all(&rig, &sealed);
    cm_close(&rig.session);
    wipe(&rig);
    cm_ignore(cm_open(&rig.session, rig.port, &test_kit, 1, rig.workspace, sizeof rig.workspace));
    rig_identify(&rig);
    restore_all(&rig, &sealed, &report);
    assert_memory_equal(model->flash, flash_was, flash);
    assert_memory_equal(model->eeprom, eeprom_was, eeprom);
    assert_memory_equal(model->fuses, fuses_were, sizeof fuses_were);
    assert_int_equal(model->lock, lock_was);
    restore_all(&rig, &sealed, &report); // and again: there is nothing to do
    assert_int_equal(report.settings_written, 0);
    assert_int_equal(report.put.pages_written, 0);
    assert_no_breach(model);
    free(flash_was), free(eeprom_was), free(sealed.bytes);
    rig_close(&rig);
}

static void every_part_is_kept_wiped_and_restored(void **state)
{
    (void)state;
    for (uint16_t i = 0; i < CM_AVR_PART_COUNT; i++) {
        if (test_takes_part(i))
            check_one_part(cm_avr_all_parts[i]->name);
    }
}

/* --- order and speed --------------------------------------------------------------------- */

static void set_up_mint(struct rig *rig, uint8_t *settings, struct cm_mint *mint)
{
    const struct cm_part *part = &rig->model->row->part;
    fill_image(rig, 3);
    memset(settings, 0xFF, CM_SETTING_BYTES);
    memcpy(settings, rig->model->fuses, rig->model->row->fuse_bytes);
    assert_int_equal(cm_choose(&cm_avr_words, part, settings, "clock-divide", "by-1"), CM_OK);
    assert_int_equal(cm_choose(&cm_avr_words, part, settings, "memory-lock", "no-writing"), CM_OK);
    *mint = (struct cm_mint){.put = rig->put, .settings = settings};
}

static void a_bare_chip_is_made_fast_first_and_locked_last(void **state)
{
    struct rig rig;
    struct cm_mint mint;
    struct cm_mint_report report;
    uint8_t settings[CM_SETTING_BYTES];
    (void)state;
    rig_open(&rig, "attiny84a", "");
    set_up_mint(&rig, settings, &mint);
    rig_identify(&rig);
    assert_int_equal(cm_mint(&rig.session, &mint, &report), CM_OK);
    assert_true(report.steps.changes_early && report.steps.changes_late && report.steps.reenters &&
                !report.steps.unlocks);
    assert_int_equal(report.settings_written, 2);
    assert_true(report.put.actual_us <
                1000000); // 8 KiB at 2 MHz; at 250 kHz it would be more than two seconds
    assert_int_equal(rig.model->fuses[0], 0xE2);
    assert_int_equal(rig.model->lock & 3, 2);
    assert_memory_equal(rig.model->flash, rig.image, 8192);
    assert_no_breach(rig.model);
    rig_close(&rig);
}

static void a_slower_clock_comes_last(void **state)
{
    struct rig rig;
    struct cm_mint mint;
    struct cm_mint_steps steps;
    struct cm_mint_report report;
    uint8_t settings[CM_SETTING_BYTES];
    (void)state;
    rig_open(&rig, "attiny84a", "  fuses: [0xE2, 0xDF, 0xFF]\n");
    set_up_mint(&rig, settings, &mint);
    assert_int_equal(
        cm_choose(&cm_avr_words, &rig.model->row->part, settings, "clock", "internal-128kHz"),
        CM_OK);
    rig.session.cpu_hz = 8000000;
    rig_identify(&rig);
    assert_int_equal(cm_mint_steps(&rig.session, &mint, &steps), CM_OK);
    assert_true(!steps.changes_early && steps.changes_late && !steps.reenters);
    assert_int_equal(cm_mint(&rig.session, &mint, &report), CM_OK);
    assert_int_equal(rig.model->fuses[0], 0xE4);
    assert_true(report.put.actual_us < 1000000);
    assert_in_range(rig.session.clock_hz, 20000, 32000); // proven at the new clock
    assert_no_breach(rig.model);
    rig_close(&rig);
}

static void what_ends_access_comes_last(void **state)
{
    struct rig rig;
    struct cm_mint mint;
    struct cm_mint_report report;
    uint8_t settings[CM_SETTING_BYTES];
    (void)state;
    rig_open(&rig, "attiny84a", "");
    set_up_mint(&rig, settings, &mint);
    assert_int_equal(cm_choose(&cm_avr_words, &rig.model->row->part, settings, "reset-pin", "io"),
                     CM_OK);
    rig_identify(&rig);
    assert_int_equal(cm_mint(&rig.session, &mint, &report), CM_OK);
    assert_int_equal(rig.model->fuses[1] & 0x80, 0);
    assert_memory_equal(rig.model->flash, rig.image, 8192);
    assert_no_breach(rig.model);
    rig_close(&rig);
}

static void a_locked_chip_is_opened_only_when_asked(void **state)
{
    struct rig rig;
    struct cm_mint mint;
    struct cm_mint_report report;
    uint8_t settings[CM_SETTING_BYTES], carry[512];
    (void)state;
    rig_open(&rig, "attiny84a", "  lock: 0xFE\n");
    memcpy(rig.model->eeprom, "bell 7", 6);
    memset(rig.model->flash, 0, 100);
    set_up_mint(&rig, settings, &mint);
    rig_identify(&rig);
    assert_int_equal(cm_mint(&rig.session, &mint, &report), CM_PROTECTED);
    assert_int_equal(rig.model->erases, 0);
    mint.put.unprotect = true;
    assert_int_equal(cm_mint(&rig.session, &mint, &report), CM_REFUSED); // the eeprom would be lost
    assert_int_equal(rig.model->erases, 0);
    mint.put.carry = (struct cm_carry){.bytes = carry, .size = sizeof carry, .in_memory = true};
    assert_int_equal(cm_mint(&rig.session, &mint, &report), CM_OK);
    assert_true(report.steps.unlocks && report.put.carried);
    assert_memory_equal(rig.model->eeprom, "bell 7", 6);
    assert_memory_equal(rig.model->flash, rig.image, 8192);
    assert_int_equal(rig.model->lock & 3, 2);
    assert_no_breach(rig.model);
    rig_close(&rig);
}

static void mint_is_finished_by_running_it_again(void **state)
{
    (void)state;
    for (uint32_t cut = 8; cut < 80000; cut = cut + 1 + cut / 6) {
        struct rig rig;
        struct cm_mint mint;
        struct cm_mint_report report;
        uint8_t settings[CM_SETTING_BYTES];
        rig_open(&rig, "attiny84a", "");
        set_up_mint(&rig, settings, &mint);
        cm_sim_faults(rig.sim)->contact_lost_after_bytes = cut;
        cm_sim_restart_faults(rig.sim);
        enum cm_status status = cm_identify(&rig.session, "attiny84a");
        if (!status)
            status = cm_mint(&rig.session, &mint, &report);
        if (status) {
            if (status != CM_CONTACT_LOST && status != CM_NO_CHIP)
                fail_msg("cut after %u bytes: %s", (unsigned)cut, cm_status_word(status));
            cm_close(&rig.session);
            *cm_sim_faults(rig.sim) = (struct sim_faults){0};
            cm_sim_restart_faults(rig.sim);
            cm_ignore(
                cm_open(&rig.session, rig.port, &test_kit, 1, rig.workspace, sizeof rig.workspace));
            rig_identify(&rig);
            assert_int_equal(cm_mint(&rig.session, &mint, &report), CM_OK);
        }
        assert_memory_equal(rig.model->flash, rig.image, 8192);
        assert_int_equal(rig.model->fuses[0], 0xE2);
        assert_int_equal(rig.model->lock & 3, 2);
        rig_close(&rig);
    }
}

static void the_plan_is_what_then_happens(void **state)
{
    struct rig rig;
    struct cm_mint mint;
    struct cm_mint_report plan, report;
    uint8_t settings[CM_SETTING_BYTES];
    uint32_t predicted_us;
    (void)state;
    rig_open(&rig, "atmega1284p", "");
    set_up_mint(&rig, settings, &mint);
    rig_identify(&rig);
    assert_int_equal(cm_mint_plan(&rig.session, &mint, &plan, &predicted_us), CM_OK);
    assert_int_equal(rig.model->page_writes + rig.model->setting_writes, 0);
    assert_int_equal(cm_mint(&rig.session, &mint, &report), CM_OK);
    assert_int_equal(report.put.pages_written, plan.put.pages_written);
    assert_in_range(predicted_us, report.actual_us - report.actual_us / 10,
                    report.actual_us + report.actual_us / 10);
    rig_close(&rig);
}

static void a_boot_loader_in_use_is_found(void **state)
{
    static const struct {
        const char *yaml;
        uint32_t at; // of a byte that is not blank
        bool in_use, readable;
        uint32_t start;
    } CASES[] = {
        {"  fuses: [0x62, 0xD9, 0xFF]\n", 0x7F00, false, false, 0},    // starts in the application
        {"  fuses: [0x62, 0xD8, 0xFF]\n", 0x7F00, true, true, 0x7000}, // 4096 bytes
        {"  fuses: [0x62, 0xDE, 0xFF]\n", 0x7FFF, true, true,
         0x7E00}, // 512 bytes, and its very last byte
        {"  fuses: [0x62, 0xDE, 0xFF]\n", 0x7000, false, true, 0x7E00}, // the section is blank
        {"  fuses: [0x62, 0xDE, 0xFF]\n  lock: 0xFC\n", 0x7000, true, false,
         0x7E00}, // cannot be seen: taken for one
    };
    (void)state;
    for (size_t i = 0; i < sizeof CASES / sizeof CASES[0]; i++) {
        struct rig rig;
        struct cm_boot boot;
        rig_open(&rig, "atmega328p", CASES[i].yaml);
        rig.model->flash[CASES[i].at] = 0x12;
        rig_identify(&rig);
        assert_int_equal(cm_find_boot(&rig.session, &boot), CM_OK);
        assert_int_equal(boot.in_use, CASES[i].in_use);
        assert_int_equal(boot.readable, CASES[i].readable);
        assert_int_equal(boot.start, CASES[i].start);
        rig_close(&rig);
    }
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(every_part_is_kept_wiped_and_restored),
        cmocka_unit_test(a_bare_chip_is_made_fast_first_and_locked_last),
        cmocka_unit_test(a_slower_clock_comes_last),
        cmocka_unit_test(what_ends_access_comes_last),
        cmocka_unit_test(a_locked_chip_is_opened_only_when_asked),
        cmocka_unit_test(mint_is_finished_by_running_it_again),
        cmocka_unit_test(the_plan_is_what_then_happens),
        cmocka_unit_test(a_boot_loader_in_use_is_found),
    };
    return cmocka_run_group_tests_name("mint", tests, NULL, NULL);
}
