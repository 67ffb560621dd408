/*
 * Hardware: simulated benches, with one thing wrong that an ordinary job never meets: a wire off
 * for a moment, a bus with limits, a chip that stays busy, nothing in the socket, a caller that
 * forgets to keep what is carried.
 *
 * tests/test_wires.c tries every wire at many places; here each rule that came of it has a test of
 * its own.
 */
#include "../core/job/setting_stage.h"
#include "support/campaign.h"
#include "support/memory_rig.h"
#include "support/rom_rig.h"
#include <coldmint/settings.h>
#include <stdio.h>
#include <string.h>

static void break_wire(struct cm_sim *sim, const char *text)
{
    struct sim_faults *faults = cm_sim_faults(sim);
    faults->wire_count = text != NULL;
    if (text)
        assert_true(sim_wire_parse(text, &faults->wires[0]));
    cm_sim_restart_faults(sim);
}

static void break_wire_for(struct cm_sim *sim, const char *wire, unsigned from, unsigned clocks)
{
    char text[SIM_WIRE_TEXT];
    snprintf(text, sizeof text, "%s@%u+%u", wire, from, clocks);
    break_wire(sim, text);
}

/* --- AVR --------------------------------------------------------------------------------- */

/* MISO open for three bytes of a write instruction: the recovery's RESET pulse waits until the
 * write has ended. */
static void recovery_waits_for_the_write(void **state)
{
    unsigned recovered = 0;
    (void)state;
    for (unsigned from = 1400 + 28 * test_first_place(); from < 1400 + 48 * 28;
         from += 28 * test_place_step()) {
        static struct rig rig;
        rig_open(&rig, "attiny13a", "");
        fill_image(&rig, 3);
        rig_identify(&rig);
        break_wire_for(rig.sim, "miso=high", from, 24);
        enum cm_status status = cm_put(&rig.session, &rig.put, &rig.report);
        assert_true(status == CM_OK ||
                    status == CM_IN_DOUBT); // of the EEPROM nobody knows what it was
        assert_int_equal(rig.report.erase, 0);
        recovered += rig.session.recoveries > 0;
        assert_memory_equal(rig.model->flash, rig.image, rig.model->row->flash_bytes);
        assert_no_breach(rig.model);
        rig_close(&rig);
    }
    assert_true(recovered > 20 / test_place_step());
}

static struct cm_traits limits;
static struct cm_port *limited;
static enum cm_status (*true_run)(struct cm_run *);
static unsigned clocks_asked, clocks_outside;

static enum cm_status watch_clocks(struct cm_run *run)
{
    for (uint32_t i = 0; i < run->op_count; i++) {
        uint32_t hz = run->ops[i].clock.want_hz;
        bool is_clock = run->ops[i].kind == CM_OP_CLOCK && hz > 0; // 0 releases the bus
        clocks_asked += is_clock;
        clocks_outside += is_clock && (hz < limits.clock_min_hz || hz > limits.clock_max_hz);
    }
    return true_run ? true_run(run) : cm_interpret(run);
}

/* No clock outside a port's range is asked for: not by a feed, not by the ladder, not where the CPU
 * clock is told. */
static void the_core_keeps_to_the_clocks_of_a_port(void **state)
{
    (void)state;
    for (int told = 0; told < 2; told++) {
        static struct rig rig;
        rig_open(&rig, "attiny84a", "port:\n  feeds_from_mv: 1800\n  feeds_to_mv: 5500\n");
        limited = rig.port;
        limited->traits.clock_min_hz = 100000;
        limited->traits.clock_max_hz = 150000;
        limits = limited->traits;
        true_run = limited->run;
        limited->run = watch_clocks;
        clocks_asked = clocks_outside = 0;
        rig.session.cpu_hz = told ? 8000000 : 0;
        cm_ignore(cm_feed(&rig.session, 3300));
        cm_ignore(cm_identify(&rig.session, NULL)); // 8 MHz divided by eight: both clocks will do
        assert_true(clocks_asked > 0);
        assert_int_equal(clocks_outside, 0);
        limited->run = true_run;
        rig_close(&rig);
    }
}

/* A line that reads 00 all the time is no other chip, whenever it begins to. */
static void a_dead_wire_that_reads_00_is_no_wrong_chip(void **state)
{
    static const char *const WIRES[] = {"miso=low", "miso=high"};
    (void)state;
    for (unsigned n = test_first_place(); n < 160; n += test_place_step()) {
        static struct rig rig;
        rig_open(&rig, "attiny84a", "");
        break_wire_for(rig.sim, WIRES[n % 2], n, 0x7FFFFFFF);
        enum cm_status status = cm_identify(&rig.session, "attiny84a");
        if (status != CM_OK && status != CM_NO_CHIP && status != CM_CONTACT_LOST)
            fail_msg("MISO gone from clock %u on: %s", n, cm_status_word(status));
        rig_close(&rig);
    }
}

/* A CPU that runs at 20 MHz is talked to much faster than one whose clock nobody knows; nothing but
 * Programming Enable finds it out. */
static void a_fast_clock_is_found_by_itself(void **state)
{
    static struct rig rig;
    (void)state;
    rig_open(&rig, "atmega328p", "  board_clock_hz: 20000000\n  fuses: [0xF7, 0xD9, 0xFF]\n");
    rig_identify(&rig);
    assert_true(rig.session.clock_hz > 2000000);
    assert_true(rig.session.clock_hz < 20000000 / 6);
    assert_no_breach(rig.model);
    rig_close(&rig);
}

static void a_locked_chip_is_wiped_only_when_asked(void **state)
{
    static struct rig rig;
    struct cm_blank how = {.unprotect = false};
    (void)state;
    rig_open(&rig, "attiny84a", "  lock: 0xFC\n");
    memset(rig.model->flash, 0x12, 100);
    rig_identify(&rig);
    assert_int_equal(cm_blank(&rig.session, &how, &rig.report), CM_PROTECTED);
    assert_int_equal(rig.model->erases, 0);
    how.unprotect = true;
    assert_int_equal(cm_blank(&rig.session, &how, &rig.report), CM_OK);
    assert_int_equal(rig.model->erases, 1);
    rig_close(&rig);
}

static void a_clock_cannot_be_learnt_without_words(void **state)
{
    static struct rig rig;
    struct cm_kit wordless = test_kit;
    (void)state;
    wordless.words = NULL;
    rig_open(&rig, "attiny84a", "");
    rig.session.kits = &wordless;
    rig_identify(&rig);
    assert_int_equal(cm_learn_clock(&rig.session, 8000000), CM_PORT_LACKS);
    rig_close(&rig);
}

/* Parts with one id whose fuses differ: settings are changed where somebody has said which it is.
 */
static void settings_of_a_shared_id_want_the_name(void **state)
{
    static struct rig rig;
    uint8_t bytes[CM_SETTING_BYTES];
    struct cm_tune_report report;
    (void)state;
    rig_open(&rig, "atmega165p", "");
    assert_int_equal(cm_identify(&rig.session, NULL), CM_OK);
    assert_int_equal(cm_read_settings(&rig.session, bytes), CM_OK);
    assert_int_equal(cm_check_masks(&rig.session), CM_REFUSED);
    bytes[0] ^= 0x40;
    assert_int_equal(cm_tune(&rig.session, bytes, &report), CM_REFUSED);
    assert_int_equal(rig.model->setting_writes, 0);
    assert_int_equal(cm_identify(&rig.session, "atmega165p"), CM_OK);
    assert_int_equal(cm_tune(&rig.session, bytes, &report), CM_OK);
    rig_close(&rig);
}

/* The EEPROM is wanted as a whole: an erase takes nothing along that is not wanted. */
static void a_whole_eeprom_needs_no_leave_to_lose_data(void **state)
{
    static struct rig rig;
    static uint8_t data[64];
    (void)state;
    rig_open(&rig, "attiny13a", "");
    memset(rig.model->flash, 0x00, 64);
    memset(rig.model->eeprom, 0x33, 64);
    fill_image(&rig, 3);
    for (unsigned i = 0; i < sizeof data; i++)
        data[i] = (uint8_t)(i * 7);
    struct cm_memory memory = {data, sizeof data, 0};
    const struct cm_want wants[] = {rig.want, {CM_REGION_DATA, cm_memory_source(&memory)}};
    rig_identify(&rig);
    struct cm_put both = {.wants = wants, .want_count = 2};
    assert_int_equal(cm_put(&rig.session, &both, &rig.report), CM_OK);
    assert_memory_equal(rig.model->eeprom, data, sizeof data);
    rig_close(&rig);
}

/*
 * MOSI and SCK are shorted for a moment while the chip is looked at, and it writes to its EEPROM.
 * Then an erase is needed: what is carried over it has been read too late, and that is told.
 */
static void what_was_carried_after_bad_contact_is_in_doubt(void **state)
{
    static const struct subject SUBJECT = {.part = "attiny13a",
                                           .more = "",
                                           .first = 96,
                                           .count = 160,
                                           .data_count = 8,
                                           .workspace = 512};
    static const unsigned PLACES[] = {700, 1318, 1500, 2474, 2600, 3500};
    static struct campaign campaign;
    struct tally tally = {0};
    (void)state;
    campaign_open(&campaign, &SUBJECT);
    for (unsigned i = 0; i < sizeof PLACES / sizeof PLACES[0]; i++) {
        struct sim_wire_fault fault;
        assert_true(sim_wire_parse("mosi=sck", &fault));
        fault.from = PLACES[i];
        fault.count = 64;
        campaign_job(&campaign, &fault, &tally);
    }
    campaign_close(&campaign);
    assert_int_equal(tally.wrong + tally.untold + tally.stuck, 0);
}

/* --- SPI memories ------------------------------------------------------------------------ */

static struct memory_rig nor;

/* Contact lost for good in the midst of a job of a part that is in its 4-byte mode; then the same
 * session goes on. */
static void a_chip_with_four_byte_addresses_is_put_again_after_a_loss(void **state)
{
    static const char *const PARTS[] = {"w25q256", "mx25l25635f", "n25q512"};
    enum { FIRST = 0x1000100, COUNT = 512 };
    static uint8_t bytes[COUNT];
    (void)state;
    fill_pattern(bytes, COUNT, 5);
    for (unsigned n = 0; n < 3 * 8; n++) {
        memory_rig_open(&nor, PARTS[n % 3], "");
        memory_rig_identify(&nor, RIG_WORKSPACE);
        struct cm_memory memory = {bytes, COUNT, FIRST};
        const struct cm_want want = {CM_NOR_FLASH, cm_memory_source(&memory)};
        struct cm_put put = {.wants = &want, .want_count = 1, .carry.in_memory = true};
        break_wire_for(nor.sim, "miso=high", 300 + 611 * n, 0x7FFFFFFF);
        enum cm_status first = cm_put(&nor.session, &put, &nor.report);
        break_wire(nor.sim, NULL);
        enum cm_status again = cm_put(&nor.session, &put, &nor.report);
        if (again != CM_OK && again != CM_IN_DOUBT)
            fail_msg("%s: %s, and then %s", PARTS[n % 3], cm_status_word(first),
                     cm_status_word(again));
        for (uint32_t i = 0; i < COUNT; i++)
            assert_int_equal(nor_model_at(nor.model, FIRST + i), bytes[i]);
        for (uint32_t i = 0; i < 4096; i++) { // where three of the four address bytes would lead
            assert_int_equal(nor_model_at(nor.model, (FIRST & 0xFFFFFF) - 0x100 + i), 0xFF);
            assert_int_equal(nor_model_at(nor.model, (FIRST >> 8) - 0x1 + i), 0xFF);
        }
        memory_rig_close(&nor);
    }
}

/* A chip that is busy for longer than its sheet says is there all the same: that is no lost
 * contact. */
static void a_chip_that_stays_busy_is_told_so(void **state)
{
    static const char *const PARTS[] = {"s25fl129p", "w25q64", "sst25vf020b", "at25df641"};
    (void)state;
    for (unsigned n = 0; n < 4; n++) {
        memory_rig_open(&nor, PARTS[n], "faults:\n  slow_percent: 200000\n");
        memory_rig_identify(&nor, RIG_WORKSPACE);
        want_part(&nor, 0, 700);
        nor.put.unprotect = true;
        assert_int_equal(cm_put(&nor.session, &nor.put, &nor.report), CM_TIMED_OUT);
        assert_int_equal(nor.session.failure.status, CM_TIMED_OUT);
        memory_rig_close(&nor);
    }
}

/* Pages of these take up to 3 ms, not 1.3. */
static void slow_pages_are_waited_for(void **state)
{
    (void)state;
    memory_rig_open(&nor, "s25fl129p",
                    "faults:\n  slow_percent: 195\n"); // of the 1.5 ms that is typical
    memory_rig_identify(&nor, RIG_WORKSPACE);
    want_part(&nor, 0, 2000);
    assert_int_equal(cm_put(&nor.session, &nor.put, &nor.report), CM_OK);
    assert_int_equal(nor.session.recoveries, 0);
    memory_rig_close(&nor);
}

/* A serial EEPROM may take nearly twice its sheet's longest write cycle: 6 ms of 25LC1024. */
static void slow_eeproms_are_waited_for(void **state)
{
    static const char *const PARTS[] = {"25lc640a", "25lc1024", "at25040b"};
    (void)state;
    for (unsigned n = 0; n < sizeof PARTS / sizeof PARTS[0]; n++) {
        memory_rig_open(&nor, PARTS[n], "faults:\n  slow_percent: 195\n");
        memory_rig_identify(&nor, RIG_WORKSPACE);
        want_part(&nor, 0, 500);
        assert_int_equal(cm_put(&nor.session, &nor.put, &nor.report), CM_OK);
        for (uint32_t at = 0; at < 500; at++)
            assert_int_equal(nor_model_at(nor.model, at), nor.image[at]);
        assert_int_equal(nor.session.recoveries, 0);
        memory_rig_close(&nor);
    }
}

/* With zeroed members nothing is carried that nobody keeps safe. */
static void nothing_is_carried_that_nobody_keeps(void **state)
{
    (void)state;
    memory_rig_open(&nor, "w25q64", "");
    memory_rig_identify(&nor, RIG_WORKSPACE);
    assert_int_equal(cm_put(&nor.session, &nor.put, &nor.report), CM_OK);
    want_part(&nor, 100, 50);
    nor.image[120] = 0xFF; // wants an erase, and what is around it is carried
    nor.put.carry.in_memory = false;
    uint32_t erases = nor.model->erases;
    assert_int_equal(cm_put(&nor.session, &nor.put, &nor.report), CM_REFUSED);
    assert_int_equal(nor.session.failure.step, CM_STEP_CARRY);
    assert_int_equal(nor.model->erases, erases);
    nor.put.carry.in_memory = true; // said in words,
    nor.kits[0].carrier = NULL;     // by a build that cannot
    assert_int_equal(cm_put(&nor.session, &nor.put, &nor.report), CM_REFUSED);
    assert_int_equal(nor.model->erases, erases);
    nor.kits[0].carrier = &cm_carry_sectors;
    assert_int_equal(cm_put(&nor.session, &nor.put, &nor.report), CM_OK);
    assert_holds_image(&nor);
    memory_rig_close(&nor);
}

/* What people type. */
static void names_that_people_type_are_there(void **state)
{
    static const char *const NAMES[] = {"mx25l3205d", "mx25l6405d", "mx25l12805d",
                                        "n25q00",     "at26df321",  "s25fl129p"};
    const struct cm_kit kit = {
        .family = &cm_nor, .parts = cm_nor_all_parts, .part_count = CM_NOR_PART_COUNT};
    (void)state;
    for (unsigned n = 0; n < sizeof NAMES / sizeof NAMES[0]; n++) {
        if (!cm_part_by_name(&kit, 1, NAMES[n]))
            fail_msg("%s is in no table", NAMES[n]);
    }
}

/* --- ports with limits ------------------------------------------------------------------- */

static enum cm_status sink_nothing(void *context, uint32_t address, const uint8_t *bytes,
                                   uint32_t count)
{
    (void)context, (void)address, (void)bytes, (void)count;
    return CM_OK;
}

/* The bench refuses a transfer that is longer than its port takes. */
static void long_transfers_are_split(void **state)
{
    static const char *const PARTS[] = {"24lc256", "25lc640a", "93lc66b"};
    (void)state;
    for (unsigned n = 0; n < 3; n++) {
        static struct rom_rig rig;
        rom_rig_open(&rig, PARTS[n], "port:\n  transfer_max: 30\n");
        rom_rig_identify(&rig);
        assert_int_equal(rom_rig_put(&rig, 0, rig.bytes), CM_OK);
        assert_int_equal(cm_read(&rig.session, CM_REGION_MAIN, 0, rig.session.workspace, rig.bytes),
                         CM_OK);
        assert_memory_equal(rig.session.workspace, rig.image, rig.bytes);
        assert_int_equal(
            cm_keep(&rig.session, CM_REGION_MAIN, sink_nothing, NULL, NULL, &rig.report), CM_OK);
        assert_rom_holds(&rig, 0);
        assert_no_rom_breach(&rig);
        rom_rig_close(&rig);
    }
    memory_rig_open(&nor, "mx25l512", "port:\n  transfer_max: 64\n");
    memory_rig_identify(&nor, RIG_WORKSPACE);
    assert_int_equal(cm_put(&nor.session, &nor.put, &nor.report), CM_OK);
    assert_holds_image(&nor);
    memory_rig_close(&nor);
}

/* A port whose calls are expensive says so: its predictions are no dream, and comparing does not
 * ask in small groups. */
static void what_calls_cost_is_predicted(void **state)
{
    static const char *const PARTS[] = {"24lc256", "25lc640a", "am29f010b", "at28c64b"};
    (void)state;
    for (unsigned n = 0; n < 4; n++) {
        static struct rom_rig rig;
        rom_rig_open(&rig, PARTS[n], "port:\n  call_us: 1000\n");
        rom_rig_identify(&rig);
        assert_int_equal(rom_rig_put(&rig, 0, 1024), CM_OK);
        if (rig.report.predicted_us < rig.report.actual_us / 2 ||
            rig.report.predicted_us > 2 * rig.report.actual_us)
            fail_msg("%s: %u us predicted, %u taken", PARTS[n], (unsigned)rig.report.predicted_us,
                     (unsigned)rig.report.actual_us);
        rom_rig_close(&rig);
    }
}

/* --- I2C --------------------------------------------------------------------------------- */

/*
 * A part that has eight device addresses, one for each block, is looked for while SDA is off for a
 * moment. Taken for the second block, all of it would be written one block too high, and read back.
 */
static void a_bad_moment_in_the_search_leads_to_no_other_block(void **state)
{
    unsigned good = 0;
    (void)state;
    for (unsigned n = test_first_place(); n < 40; n += test_place_step()) {
        static struct rom_rig rig;
        rom_rig_open(&rig, "24lc16b", "");
        break_wire_for(rig.sim, n % 2 ? "sda=high" : "scl=high", n, 64);
        enum cm_status status = rom_rig_try(&rig);
        if (!status)
            status = rom_rig_put(&rig, 200, 300);
        good += status == CM_OK;
        for (uint32_t i = 200; !status && i < 500; i++)
            assert_int_equal(cm_sim_at(rig.sim, i), rig.image[i]);
        rom_rig_close(&rig);
    }
    assert_true(good >= 10 / test_place_step());
}

/* The second block of a part is no device: 52 would be taken for its first one. */
static void a_block_is_no_device(void **state)
{
    static struct rom_rig rig;
    (void)state;
    rom_rig_open(&rig, "24lc16b", "");
    assert_int_equal(rom_rig_try(&rig), CM_OK);
    rig.session.device = 0x52;
    assert_int_equal(cm_identify(&rig.session, "24lc16b"), CM_BAD_ARGUMENT);
    rig.session.device = 0x50;
    assert_int_equal(cm_identify(&rig.session, "24lc16b"), CM_OK);
    rom_rig_close(&rig);
}

/* --- reading twice ----------------------------------------------------------------------- */

static enum cm_status (*true_bus_read)(const struct cm_port *, uint32_t, uint8_t *, uint32_t);
static uint32_t since_begin;

static enum cm_status begin_rhythm(struct cm_run *run)
{
    since_begin = 0;
    return true_run ? true_run(run) : cm_interpret(run);
}

/* The 100th byte of each batch reads with a bit changed. */
static enum cm_status disturbed_read(const struct cm_port *port, uint32_t address, uint8_t *bytes,
                                     uint32_t count)
{
    enum cm_status status = true_bus_read(port, address, bytes, count);
    if (since_begin <= 100 && 100 < since_begin + count)
        bytes[100 - since_begin] ^= 0x20;
    since_begin += count;
    return status;
}

/* Two readings with one rhythm are wrong together, and agree: the second goes in other portions. */
static void the_second_reading_goes_in_other_portions(void **state)
{
    static struct rom_rig rig;
    (void)state;
    rom_rig_open(&rig, "at28c64b", "");
    rom_rig_identify(&rig);
    assert_int_equal(rom_rig_put(&rig, 0, rig.bytes), CM_OK);
    true_run = rig.port->run;
    const struct cm_parallel *good = rig.port->parallel;
    struct cm_parallel disturbed = *good;
    true_bus_read = disturbed.read;
    disturbed.read = disturbed_read;
    cm_sim_port(rig.sim)->run = begin_rhythm;
    cm_sim_port(rig.sim)->parallel = &disturbed;
    assert_int_not_equal(
        cm_keep(&rig.session, CM_REGION_MAIN, sink_nothing, NULL, NULL, &rig.report), CM_OK);
    cm_sim_port(rig.sim)->run = true_run;
    cm_sim_port(rig.sim)->parallel = good;
    assert_int_equal(cm_keep(&rig.session, CM_REGION_MAIN, sink_nothing, NULL, NULL, &rig.report),
                     CM_OK);
    rom_rig_close(&rig);
}

/* The job with a wire off for so many clocks ("mosi=low"), at one place after another from so
 * many eighths of the job on: what ends good is right, and nothing else has changed. */
static void play_faults(const struct subject *subject, const char *wire, unsigned clocks,
                        unsigned eighths, unsigned step)
{
    struct campaign campaign;
    struct tally tally = {0};
    campaign_open(&campaign, subject);
    for (unsigned from = (unsigned)campaign.clocks * eighths / 8 + step * test_first_place();
         from < campaign.clocks; from += step * test_place_step()) {
        char text[SIM_WIRE_TEXT];
        struct sim_wire_fault fault;
        snprintf(text, sizeof text, "%s@%u+%u", wire, from, clocks);
        assert_true(sim_wire_parse(text, &fault));
        campaign_job(&campaign, &fault, &tally);
    }
    assert_true(tally.jobs > 20 / test_place_step() && tally.good > 0);
    assert_int_equal(tally.wrong, 0);
    assert_int_equal(tally.untold, 0);
    campaign_close(&campaign);
}

/* MOSI off for a part of the bytes that fill a page up: they are no image's, and are read back all
 * the same. */
static void what_fills_a_page_up_is_read_back(void **state)
{
    static const struct subject ERASED = {.part = "attiny45",
                                          .more = "",
                                          .first = 96,
                                          .count = 20,
                                          .workspace = 512},
                                KEPT = {.part = "attiny45",
                                        .more = "",
                                        .first = 100,
                                        .count = 20,
                                        .workspace = 512,
                                        .keeps_old = true};
    (void)state;
    play_faults(&ERASED, "mosi=low", 8, 1, 37);
    play_faults(&KEPT, "mosi=low", 8, 1, 37);
}

/* A data wire off for so long that it spans what two readings of a page's rest would take one right
 * behind the other: the second comes later, so they do not agree. */
static void two_readings_of_a_rest_lie_apart(void **state)
{
    static const struct subject PAGES = {.part = "at29c256",
                                         .more = "",
                                         .first = 1000,
                                         .count = 30,
                                         .workspace = 1024,
                                         .takes_pieces = true};
    (void)state;
    play_faults(&PAGES, "d0=high", 300, 0, 61);
}

/* Both readings of a status register lay in one fault, were alike and wrong, and were put back at
 * the end "as they were". A proof between the two is spoilt with them. */
static void registers_that_one_fault_misreads_are_not_put_back(void **state)
{
    static const struct subject EEPROM = {
        .part = "25lc640a", .more = "", .first = 100, .count = 200, .workspace = 1024};
    static struct campaign campaign;
    struct tally tally = {0};
    struct sim_wire_fault fault;
    (void)state;
    campaign_open(&campaign, &EEPROM);
    assert_true(sim_wire_parse("select=high@0+64", &fault));
    for (fault.from = 200; fault.from < 340; fault.from += 2)
        campaign_job(&campaign, &fault, &tally);
    assert_int_equal(tally.jobs, 70);
    assert_int_equal(tally.wrong + tally.untold + tally.stuck, 0);
    campaign_close(&campaign);
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(recovery_waits_for_the_write),
        cmocka_unit_test(the_core_keeps_to_the_clocks_of_a_port),
        cmocka_unit_test(a_dead_wire_that_reads_00_is_no_wrong_chip),
        cmocka_unit_test(a_fast_clock_is_found_by_itself),
        cmocka_unit_test(a_locked_chip_is_wiped_only_when_asked),
        cmocka_unit_test(a_clock_cannot_be_learnt_without_words),
        cmocka_unit_test(settings_of_a_shared_id_want_the_name),
        cmocka_unit_test(a_whole_eeprom_needs_no_leave_to_lose_data),
        cmocka_unit_test(what_was_carried_after_bad_contact_is_in_doubt),
        cmocka_unit_test(a_chip_with_four_byte_addresses_is_put_again_after_a_loss),
        cmocka_unit_test(a_chip_that_stays_busy_is_told_so),
        cmocka_unit_test(slow_pages_are_waited_for),
        cmocka_unit_test(slow_eeproms_are_waited_for),
        cmocka_unit_test(nothing_is_carried_that_nobody_keeps),
        cmocka_unit_test(names_that_people_type_are_there),
        cmocka_unit_test(long_transfers_are_split),
        cmocka_unit_test(what_calls_cost_is_predicted),
        cmocka_unit_test(a_bad_moment_in_the_search_leads_to_no_other_block),
        cmocka_unit_test(what_fills_a_page_up_is_read_back),
        cmocka_unit_test(two_readings_of_a_rest_lie_apart),
        cmocka_unit_test(a_block_is_no_device),
        cmocka_unit_test(the_second_reading_goes_in_other_portions),
        cmocka_unit_test(registers_that_one_fault_misreads_are_not_put_back),
    };
    return cmocka_run_group_tests(tests, NULL, NULL);
}
