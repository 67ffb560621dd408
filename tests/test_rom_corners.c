/* Hardware: parallel memories in sockets, as strict models: corners of the data sheets that good
 * contact alone does not bring. */
#include "support/memory_rig.h"
#include "support/rom_rig.h"
#include <coldmint/par.h>
#include <sim/par_model.h>
#include <sim/wires.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static struct rom_rig rig;

static void want_status(enum cm_status status, enum cm_status wanted)
{
    if (status != wanted)
        fail_msg("%s: %s, where it should be %s; at 0x%X, expected %02X, found %02X", rig.part,
                 cm_status_word(status), cm_status_word(wanted),
                 (unsigned)rig.session.failure.address, rig.session.failure.expected,
                 rig.session.failure.found);
}

static void preset(uint32_t address, const uint8_t *bytes, uint32_t count)
{
    for (uint32_t i = 0; i < count; i++)
        par_model_set(cm_sim_parallel(rig.sim), address + i, bytes[i]);
}

/* After a job that ended good, disturbed by `wire`: what was wanted is there, and of the first
 * bytes of the chip all others are as before. */
static void assert_only_these(const char *wire, const uint8_t *before, uint32_t first,
                              uint32_t count, uint32_t bytes)
{
    for (uint32_t at = 0; at < bytes; at++) {
        bool inside = at >= first && at < first + count;
        if (cm_sim_at(rig.sim, at) != (inside ? rig.image[at] : before[at]))
            fail_msg("%s, %s: good, and 0x%X holds %02X", rig.part, wire, (unsigned)at,
                     cm_sim_at(rig.sim, at));
    }
}

static uint32_t breaches_but(enum par_breach kind)
{
    const struct par_model *model = cm_sim_parallel(rig.sim);
    return par_model_breaches(model) - model->breaches[kind];
}

/* A page whose first bytes are blank is taken for blank. Where it is not, a bit that should become
 * 1 is never done: the status then shows the wrong bit 7 for good, or goes on until a reset. That
 * wants an erase, and no more. */
static void a_page_that_begins_blank_and_is_not(void **state)
{
    static const char *const PARTS[] = {"am29f010b", "sst39sf010a", "at49f512", "sst39vf400a",
                                        "am29f400bb"};
    static const uint8_t LEFT[] = {0x43, 0x80, 0x00, 0x80, 0x49, 0x00};
    (void)state;
    for (size_t i = 0; i < sizeof PARTS / sizeof PARTS[0]; i++) {
        rom_rig_open(&rig, PARTS[i], "");
        preset(rig.bytes - (uint32_t)sizeof LEFT, LEFT, sizeof LEFT);
        rom_rig_identify(&rig);
        want_status(rom_rig_put(&rig, 0, rig.bytes), CM_OK);
        assert_rom_holds(&rig, 0);
        assert_int_equal(rig.session.recoveries, 0);
        assert_int_equal(breaches_but(PAR_BREACH_NOT_ERASED), 0);
        rom_rig_close(&rig);
    }
}

/* Many such pages, in many sectors: they are found in one job, and at most one of them is told to
 * make a 1 of a 0. */
static void many_pages_that_begin_blank_and_are_not(void **state)
{
    enum { STEP = 512 };
    static const char *const PARTS[] = {"sst39sf010a", "am29f010b", "sst39vf400a", "am29f400bb"};
    static const uint8_t LEFT = 0x00;
    (void)state;
    for (size_t i = 0; i < sizeof PARTS / sizeof PARTS[0]; i++) {
        rom_rig_open(&rig, PARTS[i], "");
        for (uint32_t at = STEP - 3; at < rig.bytes; at += STEP)
            preset(at, &LEFT, 1);
        rom_rig_identify(&rig);
        want_status(rom_rig_put(&rig, 0, rig.bytes), CM_OK);
        assert_rom_holds(&rig, 0);
        assert_int_equal(rig.session.recoveries, 0);
        assert_in_range(par_model_breaches(cm_sim_parallel(rig.sim)), 0, 2);
        rom_rig_close(&rig);
    }
}

/* Each sector is asked for its lock, the small ones at one end too: a locked one ends the job
 * before anything is touched. */
static void locks_of_boot_sectors_are_seen(void **state)
{
    static const struct {
        const char *part, *status;
        bool at_top;
    } LOCKED[] = {
        {"am29f002bt", "  status: [0, 64]\n", true}, {"am29f002bb", "  status: [0, 1]\n", false},
        {"mx29f002t", "  status: [0, 64]\n", true},  {"m29f002bb", "  status: [0, 1]\n", false},
        {"am29f400bb", "  status: [0, 1]\n", false}, {"am29lv400bt", "  status: [0, 0, 4]\n", true},
        {"am29f200bt", "  status: [0, 64]\n", true}, {"a29040b", "  status: [0, 1]\n", false},
        {"en29f040a", "  status: [0, 128]\n", true}, {"hy29f040a", "  status: [0, 128]\n", true},
        {"pm29f002b", "  status: [0, 1]\n", false},  {"a29010", "  status: [0, 128]\n", true}};
    (void)state;
    for (size_t i = 0; i < sizeof LOCKED / sizeof LOCKED[0]; i++) {
        rom_rig_open(&rig, LOCKED[i].part, LOCKED[i].status);
        for (uint32_t at = 0; at < rig.bytes; at++)
            preset(at, (const uint8_t[]){(uint8_t)(at * 7 | 1)}, 1);
        rom_rig_identify(&rig);
        uint32_t count = 40000; // more than the small sectors, less than all of them
        want_status(rom_rig_put(&rig, LOCKED[i].at_top ? rig.bytes - count : 100, count),
                    CM_PROTECTED);
        for (uint32_t at = 0; at < rig.bytes; at++) {
            if (cm_sim_at(rig.sim, at) != (uint8_t)(at * 7 | 1))
                fail_msg("%s: 0x%X has changed", rig.part, (unsigned)at);
        }
        assert_no_rom_breach(&rig);
        rom_rig_close(&rig);
    }
}

/* A lock that does not show: the erase does nothing, and the job ends there. What was in the sector
 * is there still. */
static void a_sector_that_does_not_erase_ends_the_job(void **state)
{
    (void)state;
    rom_rig_open(&rig, "am29f010b", "");
    fill_pattern(rig.image, rig.bytes, 5);
    preset(0, rig.image, rig.bytes);
    rom_rig_identify(&rig);
    fill_pattern(rig.image + 100, 40000, 9);
    cm_sim_parallel(rig.sim)->worn_at = 0x2000; // in the first sector
    par_model_set(cm_sim_parallel(rig.sim), 0x2000, 0x00);
    rig.image[0x2000] = 0xFF;
    want_status(rom_rig_put(&rig, 100, 40000), CM_WRITE_FAILED);
    assert_in_range(rig.session.failure.address, 0, 0x3FFF);
    fill_pattern(rig.image, rig.bytes, 5);
    for (uint32_t at = 0x4000; at < rig.bytes; at++)
        assert_int_equal(cm_sim_at(rig.sim, at), rig.image[at]);
    rom_rig_close(&rig);
}

/* Up to the sheet's longest time, and what lies beyond is "timed out", not "contact lost". */
static void the_longest_times_of_the_sheets_are_borne(void **state)
{
    static const struct {
        const char *part;
        uint32_t percent;
        enum cm_status status;
    } SLOW[] = {{"sst39sf010a", 143, CM_OK},       {"am29f010b", 4286, CM_OK},
                {"at49f512", 167, CM_OK},          {"sst39vf1601", 143, CM_OK},
                {"am29f400bb", 4545, CM_OK},       {"sst39sf010a", 2000, CM_TIMED_OUT},
                {"am29f010b", 20000, CM_TIMED_OUT}};
    (void)state;
    for (size_t i = 0; i < sizeof SLOW / sizeof SLOW[0]; i++) {
        rom_rig_open(&rig, SLOW[i].part, "");
        rom_rig_identify(&rig);
        cm_sim_parallel(rig.sim)->slow_percent = SLOW[i].percent;
        want_status(rom_rig_put(&rig, 0, 200), SLOW[i].status);
        rom_rig_close(&rig);
    }
}

/* --- one wire ---------------------------------------------------------------------------- */

static void disturb(const char *text)
{
    struct sim_faults *faults = cm_sim_faults(rig.sim);
    faults->wire_count = text != NULL;
    if (text)
        assert_true(sim_wire_parse(text, &faults->wires[0]));
    cm_sim_restart_faults(rig.sim);
}

/* All wires off for the one cycle that brings the data: the next write, of the recovery, must not
 * be taken for them. Every cycle of a job in turn. */
static void the_recovery_is_not_programmed_as_data(void **state)
{
    enum { FIRST = 300, COUNT = 40, CYCLES = 700 };
    static const char *const PARTS[] = {"am29f010b", "sst39sf010a"};
    (void)state;
    for (size_t i = 0; i < 2; i++) {
        rom_rig_open(&rig, PARTS[i], "");
        uint8_t *before = malloc(rig.bytes);
        fill_pattern(before, rig.bytes, 21);
        memset(before + FIRST, 0xFF, COUNT);
        for (unsigned from = test_first_place(); from < CYCLES; from += test_place_step()) {
            char text[SIM_WIRE_TEXT];
            preset(0, before, 16384);
            rom_rig_identify(&rig);
            snprintf(text, sizeof text, "all=high@%u+1", from);
            disturb(text);
            enum cm_status status = rom_rig_put(&rig, FIRST, COUNT);
            disturb(NULL);
            cm_close(&rig.session);
            if (status == CM_OK)
                assert_only_these(text, before, FIRST, COUNT, 16384);
        }
        free(before);
        rom_rig_close(&rig);
    }
}

/* With one wire off all the time a job may fail; it never ends good over wrong contents, or with
 * others changed. */
static void one_wire_off_all_the_time_is_never_good(void **state)
{
    static const char *const PARTS[] = {"at28c16", "at28c64b", "am29f010b", "sst39sf010a",
                                        "at29c256"};
    static const char *const WIRES[] = {"a0", "a1", "a4", "a6", "a8", "a9", "a10", "a12", "a14",
                                        "d0", "d1", "d3", "d6", "d7", "ce", "oe",  "we"};
    static const char *const LEVELS[] = {"low", "high"};
    enum { FIRST = 100, COUNT = 900 };
    (void)state;
    for (size_t i = 0; i < sizeof PARTS / sizeof PARTS[0]; i++) {
        rom_rig_open(&rig, PARTS[i], "");
        uint8_t *before = malloc(rig.bytes);
        fill_pattern(before, rig.bytes, 21);
        for (size_t w = test_first_place(); w < 2 * sizeof WIRES / sizeof WIRES[0];
             w += test_place_step()) {
            char text[SIM_WIRE_TEXT];
            preset(0, before, rig.bytes);
            snprintf(text, sizeof text, "%s=%s", WIRES[w / 2], LEVELS[w % 2]);
            disturb(text);
            enum cm_status status = rom_rig_try(&rig);
            if (!status)
                status = rom_rig_put(&rig, FIRST, COUNT);
            disturb(NULL);
            cm_close(&rig.session);
            if (status == CM_OK)
                assert_only_these(text, before, FIRST, COUNT, rig.bytes);
        }
        free(before);
        rom_rig_close(&rig);
    }
}

/* Where there is no software data protection, a page that a bad wire has swallowed is not taken for
 * it: that would switch it on. */
static void protection_that_is_off_stays_off(void **state)
{
    static const char *const PARTS[] = {"at28c64b", "at28c256", "at29c256"}, *const WIRES[] = {
                                                                                 "we=high",
                                                                                 "ce=high"};
    enum { FIRST = 64, COUNT = 640, LENGTHS = 4 };
    (void)state;
    for (size_t i = 0; i < sizeof PARTS / sizeof PARTS[0]; i++) {
        rom_rig_open(&rig, PARTS[i], "");
        uint8_t *before = malloc(rig.bytes);
        fill_pattern(before, rig.bytes, 27);
        for (unsigned n = test_first_place(); n < 300; n += test_place_step()) {
            char text[SIM_WIRE_TEXT];
            preset(0, before, rig.bytes);
            snprintf(text, sizeof text, "%s@%u+%u", WIRES[n % 2], 700 + 17 * n,
                     64u << n / 2 % LENGTHS);
            rom_rig_identify(&rig);
            rig.put.unprotect = true;
            disturb(text);
            enum cm_status status = rom_rig_put(&rig, FIRST, COUNT);
            disturb(NULL);
            if (cm_sim_parallel(rig.sim)->sdp)
                fail_msg("%s, %s: %s, and its protection is on", PARTS[i], text,
                         cm_status_word(status));
            cm_close(&rig.session);
        }
        free(before);
        rom_rig_close(&rig);
    }
}

/* --- EPROMs ------------------------------------------------------------------------------ */

static void open_eprom(const char *part)
{
    rom_rig_open(&rig, part,
                 "port:\n  measures_supply: true\n  feeds_from_mv: 1800\n  feeds_to_mv: 6500\n  "
                 "raises_a9: true\n  raises_vpp: true\n");
    cm_sim_close(rig.sim);
    char text[400], error[SIM_ERROR_BYTES];
    snprintf(text, sizeof text,
             "bench: fed by the port\nchip:\n  part: %s\n  supply_mv: 0\nport:\n  measures_supply: "
             "true\n  feeds_from_mv: 1800\n  "
             "feeds_to_mv: 6500\n  raises_a9: true\n  raises_vpp: true\n",
             part);
    write_file(rig.path, sizeof rig.path, "fed-eprom.yaml", text);
    cm_sim_renew(rig.path);
    rig.sim = cm_sim_open(rig.path, error);
    if (!rig.sim)
        fail_msg("%s", error);
    rig.port = cm_sim_port(rig.sim);
    assert_int_equal(
        cm_open(&rig.session, rig.port, rig.kits, ROM_KITS, rig.workspace, sizeof rig.workspace),
        CM_OK);
    assert_int_equal(cm_feed(&rig.session, 5000), CM_OK);
    want_status(cm_identify(&rig.session, part), CM_OK);
}

/* One unit that takes only its fourth pulse: the units behind it get one each, all the same. */
static void a_slow_unit_alone_is_pulsed_again(void **state)
{
    enum { COUNT = 3000, EXTRA = 3 };
    (void)state;
    open_eprom("m27c256b");
    struct par_model *model = cm_sim_parallel(rig.sim);
    model->weak_at = 1000;
    model->weak_pulses = EXTRA;
    want_status(rom_rig_put(&rig, 0, COUNT), CM_OK); // the rest is blank: they went nowhere else
    for (uint32_t at = 0; at < COUNT; at++)
        assert_int_equal(cm_sim_at(rig.sim, at), rig.image[at]);
    assert_int_equal(model->programs, COUNT + EXTRA);
    assert_no_rom_breach(&rig);
    rom_rig_close(&rig);
}

/* A pulse that an address line has led astray is not taken for that of a slow unit. */
static void a_pulse_that_went_astray_is_doubt(void **state)
{
    enum { COUNT = 3000, LINE = 13, OPEN_AT = 1000 };
    (void)state;
    open_eprom("m27c256b");
    struct par_model *model = cm_sim_parallel(rig.sim);
    model->weak_at = OPEN_AT;
    model->weak_pulses = 1;
    par_model_set(model, OPEN_AT ^ 1u << LINE, rig.image[OPEN_AT]); // where it went instead
    want_status(rom_rig_put(&rig, 0, COUNT), CM_IN_DOUBT);
    for (uint32_t at = 0; at < COUNT; at++)
        assert_int_equal(cm_sim_at(rig.sim, at), rig.image[at]);
    rom_rig_close(&rig);
}

/* Under the name of a larger one, and no A9 to ask for its id: a few bytes tell, and it does not
 * go on. */
static void a_larger_name_costs_an_eprom_a_few_bytes(void **state)
{
    (void)state;
    open_eprom("m27c256b");
    rig.part = "m27c512";
    struct cm_port port = *rig.port;
    port.traits.lines &= ~CM_LINE_BIT(CM_LINE_A9_ID);
    cm_close(&rig.session);
    assert_int_equal(
        cm_open(&rig.session, &port, rig.kits, ROM_KITS, rig.workspace, sizeof rig.workspace),
        CM_OK);
    assert_int_equal(cm_feed(&rig.session, 5000), CM_OK);
    enum cm_status status = cm_identify(&rig.session, rig.part);
    if (!status)
        want_status(rom_rig_put(&rig, 0, 300), CM_WRONG_CHIP);
    assert_true(cm_sim_parallel(rig.sim)->programs <= CM_PROOF_BYTES);
    rom_rig_close(&rig);
}

/* A 0 that should be 1 wants light: not one pulse is spent on it. */
static void a_unit_that_cannot_be_reached_gets_no_pulse(void **state)
{
    (void)state;
    open_eprom("m27c256b");
    struct par_model *model = cm_sim_parallel(rig.sim);
    preset(50, (const uint8_t[]){0x00}, 1);
    rig.image[50] = 0x80;
    assert_int_not_equal(rom_rig_put(&rig, 0, 100), CM_OK);
    assert_true(model->programs <= 100);
    rom_rig_close(&rig);
}

/* --- page flash -------------------------------------------------------------------------- */

/* With a workspace of 1 KiB, too: a change of the id mode takes 10 ms, so none is spent on a
 * difference. */
static void differences_of_page_flash_cost_no_id_mode(void **state)
{
    enum { WORKSPACE = 1024 };
    (void)state;
    rom_rig_open(&rig, "at29c512", "");
    fill_pattern(rig.image, rig.bytes, 5);
    preset(0, rig.image, rig.bytes);
    fill_pattern(rig.image, rig.bytes, 6);
    assert_int_equal(cm_open(&rig.session, rig.port, rig.kits, ROM_KITS, rig.workspace, WORKSPACE),
                     CM_OK);
    assert_int_equal(cm_identify(&rig.session, rig.part), CM_OK);
    want_status(rom_rig_put(&rig, 0, rig.bytes), CM_OK);
    assert_rom_holds(&rig, 0);
    assert_in_range(rig.report.actual_us, 512 * 10000,
                    512 * 11000); // simulated: 512 pages of 10 ms
    rom_rig_close(&rig);
}

static enum cm_status note_page(void *context, uint8_t region, uint32_t address,
                                const uint8_t *bytes, uint32_t count)
{
    uint32_t *pages = context;
    assert_int_equal(region, CM_REGION_MAIN);
    for (uint32_t i = 0; i < count; i++)
        assert_int_equal(bytes[i],
                         cm_sim_at(rig.sim, address + i)); // before anything is changed there
    ++*pages;
    return CM_OK;
}

/* A page of which only a part is wanted is cleared and written anew: the caller gets it to keep
 * safe first. */
static void the_rest_of_a_page_is_handed_over(void **state)
{
    uint32_t pages = 0;
    (void)state;
    rom_rig_open(&rig, "at29c256", "");
    fill_pattern(rig.image, rig.bytes, 5);
    preset(0, rig.image, rig.bytes);
    rom_rig_identify(&rig);
    fill_pattern(rig.image + 100, 200, 6);
    rig.put.carry = (struct cm_carry){.saved = note_page, .context = &pages};
    want_status(rom_rig_put(&rig, 100, 200), CM_OK);
    assert_int_equal(pages, 2); // of 64 bytes: the first and the last
    assert_rom_holds(&rig, 0);
    rom_rig_close(&rig);
}

/* A command is one to a chip that loads pages only if its cycles follow one another within 150 us.
 * On a slower port the question who is there, and what ends protection, would be data: refused
 * before any of it is sent. */
static void a_slow_port_sends_no_command_to_a_part_that_loads_pages(void **state)
{
    static const char SLOW[] = "port:\n  only_lines: true\n  call_us: 8\n";
    static const char *const ASKED[] = {"at29c256", "at29c010a"}, *const NOT_ASKED = "at28c256";
    (void)state;
    if (!test_is_plain_way()) // a port that takes batches whole is as fast as its far end
        return;
    for (size_t i = 0; i < sizeof ASKED / sizeof ASKED[0]; i++) {
        rom_rig_open(&rig, ASKED[i], SLOW);
        preset(0, rig.image, rig.bytes);
        want_status(rom_rig_try(&rig), CM_PORT_LACKS);
        assert_rom_holds(&rig, 0);
        rom_rig_close(&rig);
    }
    rom_rig_open(&rig, NOT_ASKED, SLOW);
    preset(0, rig.image, rig.bytes);
    rom_rig_identify(&rig);
    want_status(cm_par_unprotect(&rig.session), CM_PORT_LACKS);
    want_status(cm_par_protect(&rig.session), CM_PORT_LACKS);
    assert_rom_holds(&rig, 0);
    rom_rig_close(&rig);
    rom_rig_open(&rig, "sst39sf010a", SLOW); // which has no time limit
    rom_rig_identify(&rig);
    rom_rig_close(&rig);
}

/* What was cut off of a command is data to such a part, as the sheets have it. */
static void a_command_that_is_cut_off_is_a_page(void **state)
{
    static const struct cm_pulse PULSE = {.low_ns = 100, .high_ns = 150};
    enum { UNLOCK_1 = 0x5555, PAUSE_US = 400, DONE_US = 20000 };
    (void)state;
    rom_rig_open(&rig, "at29c256", "");
    const struct cm_port *port = cm_sim_port(rig.sim);
    assert_int_equal(port->parallel->write(port, UNLOCK_1, 0xAA, &PULSE), CM_OK);
    port->lines->wait_us(port, PAUSE_US);
    port->lines->wait_us(port, DONE_US);
    uint8_t byte = 0;
    assert_int_equal(port->parallel->read(port, UNLOCK_1, &byte, 1), CM_OK);
    assert_int_equal(cm_sim_at(rig.sim, UNLOCK_1), 0xAA);
    rom_rig_close(&rig);
}

/* Blank bytes are compared right behind a unit whose write has just ended, on a bus that is fast:
 * not all data lines need be right then. */
static void what_is_compared_behind_a_write_is_given_time(void **state)
{
    static const char *const PARTS[] = {"sst39sf010a", "am29f010b", "am29f040b", "sst39vf1601"};
    (void)state;
    for (size_t i = 0; i < sizeof PARTS / sizeof PARTS[0]; i++) {
        rom_rig_open(&rig, PARTS[i], "");
        rom_rig_identify(&rig);
        for (uint32_t at = 0; at < 2048; at++) {
            if (at % 16 > 3)
                rig.image[at] = 0xFF;
        }
        want_status(rom_rig_put(&rig, 0, 2048), CM_OK);
        assert_false(rig.report.doubted);
        rom_rig_close(&rig);
    }
}

/* What a caller is given to keep is what is beside the images, and nothing of them. */
enum { KEPT_FIRST = 64 + 40, KEPT_COUNT = 100 };

static enum cm_status count_kept(void *context, uint8_t region, uint32_t address,
                                 const uint8_t *bytes, uint32_t count)
{
    uint32_t *kept = context;
    (void)region;
    assert_true(address >= KEPT_FIRST + KEPT_COUNT || address + count <= KEPT_FIRST);
    for (uint32_t i = 0; i < count; i++)
        assert_int_equal(bytes[i], cm_sim_at(rig.sim, address + i));
    *kept += count;
    return CM_OK;
}

static void a_page_is_kept_without_what_is_wanted_in_it(void **state)
{
    uint32_t kept = 0;
    (void)state;
    rom_rig_open(&rig, "at29c256", "");
    rom_rig_identify(&rig);
    want_status(rom_rig_put(&rig, 0, 512), CM_OK);
    for (uint32_t i = KEPT_FIRST; i < KEPT_FIRST + KEPT_COUNT; i++)
        rig.image[i] ^= 0x55;
    rig.put.carry.saved = count_kept;
    rig.put.carry.context = &kept;
    want_status(rom_rig_put(&rig, KEPT_FIRST, KEPT_COUNT), CM_OK);
    assert_int_equal(kept, 4 * 64 - 64 - KEPT_COUNT); // three pages of 64 bytes
    for (uint32_t at = 0; at < 512; at++)
        assert_int_equal(cm_sim_at(rig.sim, at), rig.image[at]);
    assert_no_rom_breach(&rig);
    rom_rig_close(&rig);
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(a_page_that_begins_blank_and_is_not),
        cmocka_unit_test(many_pages_that_begin_blank_and_are_not),
        cmocka_unit_test(locks_of_boot_sectors_are_seen),
        cmocka_unit_test(a_sector_that_does_not_erase_ends_the_job),
        cmocka_unit_test(the_longest_times_of_the_sheets_are_borne),
        cmocka_unit_test(protection_that_is_off_stays_off),
        cmocka_unit_test(a_slow_unit_alone_is_pulsed_again),
        cmocka_unit_test(a_pulse_that_went_astray_is_doubt),
        cmocka_unit_test(a_unit_that_cannot_be_reached_gets_no_pulse),
        cmocka_unit_test(a_larger_name_costs_an_eprom_a_few_bytes),
        cmocka_unit_test(the_recovery_is_not_programmed_as_data),
        cmocka_unit_test(one_wire_off_all_the_time_is_never_good),
        cmocka_unit_test(the_rest_of_a_page_is_handed_over),
        cmocka_unit_test(differences_of_page_flash_cost_no_id_mode),
        cmocka_unit_test(a_slow_port_sends_no_command_to_a_part_that_loads_pages),
        cmocka_unit_test(a_command_that_is_cut_off_is_a_page),
        cmocka_unit_test(what_is_compared_behind_a_write_is_given_time),
        cmocka_unit_test(a_page_is_kept_without_what_is_wanted_in_it),
    };
    return cmocka_run_group_tests(tests, NULL, NULL);
}
