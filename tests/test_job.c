/* Hardware: an ATtiny84A (and where said an ATmega8 or ATmega1284P) on a simulated bench, and a
 * person who disturbs it. */
#include "support/memory_rig.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum { FLASH = 8192, PAGE = 64, PAGES = FLASH / PAGE };

static void rig_ready(struct rig *rig, const char *part, const char *more)
{
    rig_open(rig, part, more);
    rig_identify(rig);
    fill_image(rig, 5);
}

static void disturb(struct rig *rig, uint32_t lost, uint32_t back)
{
    *cm_sim_faults(rig->sim) =
        (struct sim_faults){.contact_lost_after_bytes = lost, .contact_back_after_bytes = back};
    cm_sim_restart_faults(rig->sim);
}

static enum cm_status put(struct rig *rig)
{
    return cm_put(&rig->session, &rig->put, &rig->report);
}

/* --- what it costs ----------------------------------------------------------------------- */

static void an_erased_chip_is_written_and_read_once(void **state)
{
    struct rig rig;
    (void)state;
    rig_ready(&rig, "attiny84a", "");
    uint64_t before = cm_sim_bytes(rig.sim);
    assert_int_equal(put(&rig), CM_OK);
    uint64_t sent = cm_sim_bytes(rig.sim) - before;
    assert_memory_equal(rig.model->flash, rig.image, FLASH);
    assert_false(rig.report.erase);
    assert_int_equal(rig.report.pages_written, PAGES);
    assert_int_equal(rig.model->page_writes, PAGES);
    assert_int_equal(rig.model->erases, 0);
    uint64_t needed = 2 * 4 * FLASH + 4 * PAGES; // load, write, read back
    uint64_t polls = PAGES * (4500 / 160 + 2) * 4, probes = PAGES * 4;
    assert_in_range(sent, needed, needed + polls + probes + 100);
    assert_in_range(rig.report.predicted_us, rig.report.actual_us * 95 / 100,
                    rig.report.actual_us * 105 / 100);
    assert_no_breach(rig.model);
    rig_close(&rig);
}

static void the_same_again_is_one_read(void **state)
{
    struct rig rig;
    (void)state;
    rig_ready(&rig, "attiny84a", "");
    assert_int_equal(put(&rig), CM_OK);
    uint64_t before = cm_sim_bytes(rig.sim);
    assert_int_equal(put(&rig), CM_OK);
    assert_in_range(cm_sim_bytes(rig.sim) - before, 4 * FLASH, 4 * FLASH + 112);
    assert_int_equal(rig.report.pages_equal, PAGES);
    assert_int_equal(rig.model->page_writes, PAGES);
    rig_close(&rig);
}

static void a_changed_image_costs_one_erase(void **state)
{
    struct rig rig;
    (void)state;
    rig_ready(&rig, "attiny84a", "");
    assert_int_equal(put(&rig), CM_OK);
    fill_image(&rig, 6);
    memset(rig.image + 640, 0xFF, 128); // two pages are wanted blank
    assert_int_equal(cm_plan(&rig.session, &rig.put, &rig.report), CM_OK);
    assert_true(rig.report.erase);
    assert_int_equal(rig.report.pages_written, PAGES - 2);
    assert_int_equal(rig.report.pages_blank, 2);
    assert_int_equal(rig.model->erases, 0); // a plan changes nothing
    assert_int_equal(put(&rig), CM_OK);
    assert_int_equal(rig.model->erases, 1);
    assert_int_equal(rig.report.pages_written, PAGES - 2);
    assert_memory_equal(rig.model->flash, rig.image, FLASH);
    assert_no_breach(rig.model);
    rig_close(&rig);
}

static void only_what_differs_is_written(void **state)
{
    struct rig rig;
    (void)state;
    rig_ready(&rig, "attiny84a", "");
    memset(rig.image + 1000, 0xFF, 100);
    assert_int_equal(put(&rig), CM_OK);
    uint32_t writes = rig.model->page_writes;
    memset(rig.image + 1030, 0x42, 5); // bits go from 1 to 0 only
    assert_int_equal(put(&rig), CM_OK);
    assert_int_equal(rig.report.pages_written, 1);
    assert_int_equal(rig.model->page_writes, writes + 1);
    assert_int_equal(rig.model->erases, 0);
    assert_memory_equal(rig.model->flash, rig.image, FLASH);
    rig_close(&rig);
}

static void bytes_outside_the_image_stay(void **state)
{
    struct rig rig;
    (void)state;
    rig_ready(&rig, "attiny84a", "");
    rig.memory = (struct cm_memory){rig.image, 50, 100};
    rig.want.source = cm_memory_source(&rig.memory);
    memset(rig.model->flash + 90, 0x00, 10);
    memset(rig.model->flash + 150, 0x00, 10);
    assert_int_equal(put(&rig), CM_OK);
    assert_int_equal(rig.model->flash[99], 0x00);
    assert_int_equal(rig.model->flash[150], 0x00);
    assert_memory_equal(rig.model->flash + 100, rig.image, 50);
    rig_close(&rig);
}

/* A page whose first byte is blank while the rest is not: the survey takes it for blank, the verify
 * finds out. */
static void a_page_that_only_looks_blank_leads_to_an_erase(void **state)
{
    struct rig rig;
    (void)state;
    rig_ready(&rig, "attiny84a", "");
    memset(rig.model->flash + 5 * PAGE + 8, 0x00, 20);
    assert_int_equal(put(&rig), CM_OK);
    assert_true(rig.report.erase);
    assert_memory_equal(rig.model->flash, rig.image, FLASH);
    rig_close(&rig);
}

/* Where each byte is written by itself, none is that cannot become what is wanted; and on good
 * wires nothing is in doubt. */
static void flash_without_pages_that_only_looks_blank_is_no_doubt(void **state)
{
    static struct rig rig;
    (void)state;
    rig_ready(&rig, "at90s2313", "");
    struct avr_model *model = rig.model;
    memset(model->flash, 0xFF, 64);
    model->flash[7] = (uint8_t)~rig.image[7];
    uint8_t carry[128];
    rig.put.carry = (struct cm_carry){.bytes = carry, .size = sizeof carry, .in_memory = true};
    model->eeprom[3] = 0x42;
    assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_OK);
    assert_true(rig.report.erase && !rig.report.doubted);
    assert_int_equal(model->eeprom[3], 0x42);
    rig_close(&rig);
}

static void one_page_of_memory_is_enough(void **state)
{
    struct rig rig;
    (void)state;
    rig_ready(&rig, "attiny84a", "");
    rig.session.workspace_bytes = PAGE;
    assert_int_equal(put(&rig), CM_OK);
    assert_int_equal(put(&rig), CM_OK);
    assert_int_equal(rig.model->page_writes, PAGES);
    fill_image(&rig, 9);
    assert_int_equal(put(&rig), CM_OK);
    assert_memory_equal(rig.model->flash, rig.image, FLASH);
    rig.session.workspace_bytes = PAGE - 1;
    assert_int_equal(put(&rig), CM_NO_ROOM);
    rig_close(&rig);
}

static void bytewise_eeprom_writes_only_what_differs(void **state)
{
    struct rig rig;
    uint8_t data[32] = "the name of a bell, as before..";
    struct cm_memory memory = {data, sizeof data, 7};
    (void)state;
    rig_ready(&rig, "atmega8", "");
    rig.want = (struct cm_want){CM_REGION_DATA, cm_memory_source(&memory)};
    assert_int_equal(put(&rig), CM_OK);
    assert_int_equal(rig.model->eeprom_writes, sizeof data);
    data[3] ^= 0xFF;
    data[30] ^= 0xFF;
    assert_int_equal(put(&rig), CM_OK);
    assert_int_equal(rig.model->eeprom_writes, sizeof data + 2);
    assert_memory_equal(rig.model->eeprom + 7, data, sizeof data);
    assert_no_breach(rig.model);
    rig_close(&rig);
}

/* --- contact ----------------------------------------------------------------------------- */

/* Cuts the wires at many places of a put, for good, and wants the right error within a page of the
 * truth; then mends. */
static void lost_contact_is_told_within_a_page_and_made_good(void **state)
{
    (void)state;
    for (uint32_t lost = 1; lost < 60000; lost = lost < 330 ? lost + 1 : lost + 3391) {
        struct rig rig;
        rig_ready(&rig, "attiny84a", "");
        rig.memory.count = 2048;
        uint32_t pages = 2048 / PAGE;
        disturb(&rig, lost, 0);
        enum cm_status status = put(&rig);
        uint32_t reached = rig.model->page_writes;
        if (status != CM_OK) {
            const struct cm_failure *failure = &rig.session.failure;
            assert_int_equal(status, CM_CONTACT_LOST);
            if (failure->region && strcmp(failure->region, "flash") == 0 &&
                failure->step != CM_STEP_COMPARE)
                assert_in_range(failure->address / PAGE, reached ? reached - 1 : 0, reached);
            disturb(&rig, 0, 0);
            assert_int_equal(cm_recover(&rig.session), CM_OK);
            assert_int_equal(put(&rig), CM_OK);
            assert_true(rig.report.pages_written <= pages - reached + 1);
            assert_true(rig.model->page_writes <= pages + 1);
        }
        assert_memory_equal(rig.model->flash, rig.image, 2048);
        rig_close(&rig);
    }
}

/* The job goes on by itself, and what is wanted is right. Where nobody can know whether anything
 * beside it has changed, it says so. */
static void a_moment_without_contact_is_survived(void **state)
{
    unsigned doubted = 0;
    (void)state;
    for (uint32_t lost = 10; lost < 9000; lost += 211) {
        struct rig rig;
        rig_ready(&rig, "attiny84a", "");
        rig.memory.count = 512;
        disturb(&rig, lost, 20);
        enum cm_status status = put(&rig);
        if (status != CM_OK && status != CM_IN_DOUBT)
            fail_msg("lost after %u bytes: %s, step %d, at 0x%04X", lost, cm_status_word(status),
                     rig.session.failure.step, rig.session.failure.address);
        assert_true(rig.session.recoveries <= 1);
        assert_int_equal(status == CM_IN_DOUBT,
                         rig.report.doubtful_bytes ==
                             FLASH - 512 + 512); // flash behind the image, and the eeprom
        assert_int_equal(status == CM_IN_DOUBT, rig.report.doubted);
        doubted += status == CM_IN_DOUBT;
        assert_memory_equal(rig.model->flash, rig.image, 512);
        rig_close(&rig);
    }
    assert_true(doubted > 5);
}

/* Where all of the chip is wanted, or blank since the erase, there is nothing to doubt in the end.
 */
static void after_doubt_all_of_a_chip_is_compared_again(void **state)
{
    static uint8_t eeprom[512];
    (void)state;
    fill_pattern(eeprom, sizeof eeprom, 3);
    for (uint32_t lost = 10; lost < 120000; lost = lost * 5 / 3 + 97) {
        struct rig rig;
        rig_ready(&rig, "attiny84a", "");
        memset(rig.model->flash, 0x55, FLASH); // so that it must be erased
        struct cm_memory data = {eeprom, sizeof eeprom, 0};
        struct cm_want wants[] = {rig.want, {CM_AVR_EEPROM, cm_memory_source(&data)}};
        rig.put.wants = wants;
        rig.put.want_count = 2;
        rig.memory.count = lost % 2 ? FLASH : 700;
        disturb(&rig, lost, 20);
        assert_int_equal(put(&rig), CM_OK);
        assert_int_equal(rig.report.doubtful_bytes, 0);
        assert_memory_equal(rig.model->flash, rig.image, rig.memory.count);
        for (uint32_t i = rig.memory.count; i < FLASH; i++)
            assert_int_equal(rig.model->flash[i], 0xFF);
        assert_memory_equal(rig.model->eeprom, eeprom, sizeof eeprom);
        rig_close(&rig);
    }
}

/* One bit wrong now and then on MISO: reads are repeated, nothing false is accepted. */
static void flipped_bits_do_not_get_through(void **state)
{
    (void)state;
    for (uint32_t every = 1501; every < 9000; every += 777) {
        struct rig rig;
        rig_ready(&rig, "attiny84a", "");
        *cm_sim_faults(rig.sim) = (struct sim_faults){.flip_every_bytes = every};
        rig.memory.count = 2048;
        for (int tries = 0; tries < 5 && put(&rig) != CM_OK; tries++)
            continue;
        assert_memory_equal(rig.model->flash, rig.image, 2048);
        rig_close(&rig);
    }
}

static void a_slow_part_is_waited_for(void **state)
{
    struct rig rig;
    (void)state;
    rig_ready(&rig, "attiny84a", "faults:\n  slow_percent: 300\n");
    assert_int_equal(put(&rig), CM_OK);
    assert_no_breach(rig.model);
    rig_close(&rig);
    rig_ready(&rig, "attiny84a", "faults:\n  slow_percent: 900\n");
    assert_int_equal(put(&rig), CM_TIMED_OUT);
    assert_int_equal(rig.session.failure.address, 0);
    rig_close(&rig);
}

static bool stop_at_half(void *context, const struct cm_progress *progress)
{
    unsigned *calls = context;
    (*calls)++;
    return progress->step != CM_STEP_PROGRAM || progress->done < progress->total / 2;
}

static void a_stopped_put_goes_on_where_it_was(void **state)
{
    struct rig rig;
    unsigned calls = 0;
    (void)state;
    rig_ready(&rig, "attiny84a", "");
    rig.put.progress = stop_at_half;
    rig.put.progress_context = &calls;
    assert_int_equal(put(&rig), CM_STOPPED);
    uint32_t written = rig.model->page_writes;
    assert_in_range(written, PAGES / 2, PAGES / 2 + 3); // several at once
    rig.put.progress = NULL;
    assert_int_equal(put(&rig), CM_OK);
    assert_int_equal(rig.model->page_writes, PAGES);
    assert_int_equal(rig.report.pages_equal, written);
    rig_close(&rig);
}

static enum cm_status drop(void *context, uint32_t address, const uint8_t *bytes, uint32_t count)
{
    (void)context, (void)address, (void)bytes, (void)count;
    return CM_OK;
}

/* --- protection -------------------------------------------------------------------------- */

static void a_locked_chip_is_left_alone_unless_told(void **state)
{
    static const uint8_t LOCKS[] = {0xFE, 0xFC};
    (void)state;
    for (size_t i = 0; i < sizeof LOCKS; i++) {
        struct rig rig;
        rig_ready(&rig, "attiny84a", "");
        memset(rig.model->flash, 0x12, FLASH);
        rig.model->lock = LOCKS[i];
        assert_int_equal(put(&rig), CM_PROTECTED);
        assert_int_equal(rig.session.failure.found, LOCKS[i]);
        assert_int_equal(rig.model->flash[77], 0x12);
        assert_int_equal(cm_keep(&rig.session, CM_REGION_MAIN, drop, NULL, NULL, &rig.report),
                         LOCKS[i] == 0xFC ? CM_PROTECTED : CM_OK);
        rig.put.unprotect = true;
        disturb(&rig, 9000, 0); // in the middle of the writing
        assert_int_equal(put(&rig), CM_CONTACT_LOST);
        assert_true(rig.report.unlocked); // it is told what stood there
        assert_int_equal(rig.report.lock, LOCKS[i]);
        disturb(&rig, 0, 0);
        assert_int_equal(cm_recover(&rig.session), CM_OK);
        rig.model->lock = LOCKS[i];
        assert_int_equal(put(&rig), CM_OK);
        assert_false(rig.report.unlocked);
        assert_true(rig.report.relocked);
        assert_int_equal(rig.model->lock, LOCKS[i]);
        assert_memory_equal(rig.model->flash, rig.image, FLASH);
        assert_no_breach(rig.model);
        rig_close(&rig);
    }
}

static void a_write_locked_chip_that_fits_needs_nothing(void **state)
{
    struct rig rig;
    (void)state;
    rig_ready(&rig, "atmega1284p", "  fuses: [0x62, 0x99, 0xFF]\n");
    rig.memory.count = 1000;
    assert_int_equal(put(&rig), CM_OK);
    rig.model->lock = 0xCE; // boot lock bits too
    assert_int_equal(put(&rig), CM_OK);
    rig.image[5] ^= 0xFF;
    assert_int_equal(put(&rig), CM_PROTECTED);
    assert_int_equal(cm_keep(&rig.session, CM_REGION_MAIN, drop, NULL, NULL, &rig.report), CM_OK);
    rig_close(&rig);
}

/* --- the EEPROM over an erase ------------------------------------------------------------ */

struct saved {
    unsigned calls;
    uint8_t bytes[512];
    enum cm_status answer;
};

static enum cm_status save(void *context, uint8_t region, uint32_t address, const uint8_t *bytes,
                           uint32_t count)
{
    struct saved *saved = context;
    assert_int_equal(region, CM_REGION_DATA);
    assert_int_equal(address, 0);
    saved->calls++;
    memcpy(saved->bytes, bytes, count);
    return saved->answer;
}

static void rig_with_data(struct rig *rig, const char *more)
{
    rig_ready(rig, "attiny84a", more);
    assert_int_equal(put(rig), CM_OK);
    memcpy(rig->model->eeprom + 20, "Theresia", 8);
    fill_image(rig, 8);
}

static void an_erase_that_would_lose_data_is_refused(void **state)
{
    struct rig rig;
    (void)state;
    rig_with_data(&rig, "");
    assert_int_equal(put(&rig), CM_REFUSED);
    assert_string_equal(rig.session.failure.region, "eeprom");
    assert_int_equal(rig.session.failure.address, 20);
    assert_int_equal(rig.model->erases, 0);
    rig.put.lose_data = true;
    assert_int_equal(put(&rig), CM_OK);
    assert_int_equal(rig.model->eeprom[20], 0xFF);
    rig_close(&rig);
}

static void data_is_carried_over_the_erase(void **state)
{
    struct rig rig;
    struct saved saved = {0};
    uint8_t carry[512];
    uint8_t name[] = "Bertha";
    struct cm_memory memory = {name, 6, 22};
    (void)state;
    rig_with_data(&rig, "");
    struct cm_want wants[] = {
        rig.want, {CM_REGION_DATA, cm_memory_source(&memory)}}; // laid over what is carried
    rig.put.wants = wants;
    rig.put.want_count = 2;
    rig.put.carry =
        (struct cm_carry){.bytes = carry, .size = sizeof carry, .saved = save, .context = &saved};
    saved.answer = CM_NO_ROOM; // the disk is full
    assert_int_equal(put(&rig), CM_REFUSED);
    assert_int_equal(rig.model->erases, 0);
    saved.answer = CM_OK;
    assert_int_equal(put(&rig), CM_OK);
    assert_int_equal(saved.calls, 2);
    assert_memory_equal(saved.bytes + 20, "Theresia", 8);
    assert_memory_equal(rig.model->eeprom + 20, "ThBertha", 8);
    assert_memory_equal(rig.model->flash, rig.image, FLASH);
    assert_true(rig.report.carried);
    assert_int_equal(rig.model->erases, 1);
    assert_no_breach(rig.model);
    rig_close(&rig);
}

static void eesave_makes_carrying_needless(void **state)
{
    struct rig rig;
    (void)state;
    rig_with_data(&rig, "  fuses: [0x62, 0xD7, 0xFF]\n");
    assert_int_equal(put(&rig), CM_OK);
    assert_false(rig.report.carried);
    assert_memory_equal(rig.model->eeprom + 20, "Theresia", 8);
    assert_int_equal(cm_blank(&rig.session, &(struct cm_blank){0}, &rig.report), CM_OK);
    assert_memory_equal(rig.model->eeprom + 20, "Theresia", 8);
    rig_close(&rig);
}

/* With EESAVE an erase for the flash's sake leaves an EEPROM that is right alone. */
static void an_eeprom_that_outlives_the_erase_is_not_written_again(void **state)
{
    struct rig rig;
    struct cm_memory memory = {(const uint8_t *)"Theresia", 8, 20};
    (void)state;
    rig_with_data(&rig, "  fuses: [0x62, 0xD7, 0xFF]\n");
    struct cm_want wants[] = {rig.want, {CM_REGION_DATA, cm_memory_source(&memory)}};
    rig.put.wants = wants;
    rig.put.want_count = 2;
    assert_int_equal(put(&rig), CM_OK);
    assert_true(rig.report.erase);
    assert_int_equal(rig.model->eeprom_writes, 0);
    rig_close(&rig);
}

/* --- a worn byte ------------------------------------------------------------------------- */

static enum cm_status (*true_shift)(const struct cm_port *, const uint8_t *, uint8_t *, uint32_t);
static uint8_t worn_opcode;

/* Reads of address 5 come with bit 4 set. */
static enum cm_status worn_shift(const struct cm_port *port, const uint8_t *out, uint8_t *in,
                                 uint32_t bytes)
{
    enum cm_status status = true_shift(port, out, in, bytes);
    for (uint32_t i = 0; in && i + 3 < bytes; i += 4) {
        if (out[i] == worn_opcode && out[i + 1] == 0 && out[i + 2] == 5)
            in[i + 3] |= 0x10;
    }
    return status;
}

static void a_worn_byte_is_named_and_nothing_is_erased_for_it(void **state)
{
    static const uint8_t OPCODES[] = {0xA0, 0x20}; // EEPROM byte 5; flash word 5, its low byte
    static const uint8_t ZEROS[64];
    (void)state;
    for (size_t i = 0; i < sizeof OPCODES; i++) {
        struct rig rig;
        struct cm_memory memory = {ZEROS, sizeof ZEROS, 0};
        rig_ready(&rig, "attiny84a", "");
        worn_opcode = OPCODES[i];
        struct cm_spi worn = *rig.port->spi;
        true_shift = worn.shift;
        worn.shift = worn_shift;
        rig.port->spi = &worn;
        rig.want =
            (struct cm_want){i == 0 ? CM_REGION_DATA : CM_REGION_MAIN, cm_memory_source(&memory)};
        assert_int_equal(put(&rig), CM_WRITE_FAILED);
        assert_int_equal(rig.session.failure.address, i == 0 ? 5 : 10);
        assert_int_equal(rig.session.failure.expected, 0x00);
        assert_int_equal(rig.session.failure.found, 0x10);
        assert_int_equal(rig.model->erases, 0);
        rig_close(&rig);
    }
}

/* --- a port that takes batches whole ----------------------------------------------------- */

static struct cm_port *inner_port;
static unsigned batches;

static enum cm_status run_whole(struct cm_run *run)
{
    const struct cm_port *rich = run->port;
    batches++;
    run->port = inner_port;
    enum cm_status status = cm_port_run(run);
    run->port = rich;
    return status;
}

static uint32_t inner_now(const struct cm_port *port)
{
    (void)port;
    return inner_port->lines->now_us(inner_port);
}

/* Several pages are one batch, as many as the workspace has room for. */
static void a_rich_port_gets_pages_in_few_batches(void **state)
{
    struct rig rig;
    static const struct cm_lines CLOCK = {.now_us = inner_now};
    struct cm_port_state made = {0};
    struct cm_port rich = {.run = run_whole, .lines = &CLOCK, .state = &made};
    (void)state;
    rig_ready(&rig, "attiny84a", "");
    inner_port = rig.port;
    rich.traits = rig.port->traits;
    rig.session.port = &rich;
    batches = 0;
    assert_int_equal(put(&rig), CM_OK);
    assert_in_range(batches, PAGES / 3, PAGES + 20);
    assert_memory_equal(rig.model->flash, rig.image, FLASH);
    rig_close(&rig);
}

/* --- refusals before anything is touched ------------------------------------------------- */

static void what_does_not_fit_is_refused(void **state)
{
    struct rig rig;
    (void)state;
    rig_ready(&rig, "attiny84a", "");
    rig.memory = (struct cm_memory){rig.image, 2, FLASH - 1};
    rig.want.source = cm_memory_source(&rig.memory);
    assert_int_equal(put(&rig), CM_TOO_LARGE);
    assert_int_equal(rig.session.failure.address, FLASH);
    struct cm_want fuses = {4, rig.want.source}; // calibration: read only
    rig.put.wants = &fuses;
    assert_int_equal(put(&rig), CM_BAD_ARGUMENT);
    assert_int_equal(rig.model->page_writes, 0);
    rig_close(&rig);
}

/* A run that ends with the region, and another behind it: the second must not be overlooked. */
static void bytes_behind_the_end_are_seen(void **state)
{
    static _Alignas(8) uint8_t memory[CM_IMAGE_MEMORY(4)];
    struct cm_image image;
    struct rig rig;
    (void)state;
    rig_ready(&rig, "attiny84a", "");
    cm_image_init(&image, memory, sizeof memory);
    assert_int_equal(cm_image_add(&image, FLASH - 2, (const uint8_t *)"ab", 2, 1), CM_OK);
    assert_int_equal(cm_image_add(&image, 0x810000, (const uint8_t *)"cd", 2, 2), CM_OK);
    rig.want.source = cm_image_source(&image);
    assert_int_equal(put(&rig), CM_TOO_LARGE);
    assert_int_equal(rig.session.failure.address, 0x810000);
    assert_int_equal(rig.model->page_writes, 0);
    assert_int_equal(cm_compare(&rig.session, &rig.want, NULL, NULL, NULL, &rig.report),
                     CM_TOO_LARGE);
    rig.session.workspace_bytes = 1;
    assert_int_equal(cm_compare(&rig.session, &rig.want, NULL, NULL, NULL, &rig.report),
                     CM_NO_ROOM);
    rig_close(&rig);
}

static void a_supply_outside_the_range_is_refused(void **state)
{
    struct rig rig;
    (void)state;
    rig_open(&rig, "atmega128rfa1", "port:\n  measures_supply: true\n");
    rig.model->supply_mv = 5000; // a 3.6 V part
    rig_identify(&rig);
    fill_image(&rig, 1);
    assert_int_equal(put(&rig), CM_SUPPLY_OUTSIDE);
    assert_int_equal(rig.session.failure.measured_mv, 5000);
    assert_int_equal(cm_blank(&rig.session, &(struct cm_blank){0}, &rig.report), CM_SUPPLY_OUTSIDE);
    assert_int_equal(rig.model->erases + rig.model->page_writes, 0);
    rig_close(&rig);
}

/* --- the other jobs ---------------------------------------------------------------------- */

struct seen {
    uint32_t count, addresses[8];
};

static bool see(void *context, uint32_t address, uint8_t wanted, uint8_t found)
{
    struct seen *seen = context;
    assert_int_not_equal(wanted, found);
    if (seen->count < 8)
        seen->addresses[seen->count] = address;
    seen->count++;
    return true;
}

static void compare_names_every_difference(void **state)
{
    struct rig rig;
    struct seen seen = {0};
    (void)state;
    rig_ready(&rig, "attiny84a", "");
    assert_int_equal(put(&rig), CM_OK);
    assert_int_equal(cm_compare(&rig.session, &rig.want, see, NULL, &seen, &rig.report), CM_OK);
    rig.model->flash[3] ^= 1;
    rig.model->flash[8191] ^= 0x80;
    assert_int_equal(cm_compare(&rig.session, &rig.want, see, NULL, &seen, &rig.report),
                     CM_DIFFERS);
    assert_int_equal(seen.count, 2);
    assert_int_equal(seen.addresses[0], 3);
    assert_int_equal(seen.addresses[1], 8191);
    assert_int_equal(rig.report.differences, 2);
    assert_int_equal(rig.session.failure.address, 3);
    assert_int_equal(rig.session.failure.found, rig.image[3] ^ 1);
    rig_close(&rig);
}

static void blank_erases_only_what_is_not_blank(void **state)
{
    struct rig rig;
    (void)state;
    rig_ready(&rig, "attiny84a", "");
    assert_int_equal(cm_blank(&rig.session, &(struct cm_blank){0}, &rig.report), CM_OK);
    assert_false(rig.report.erase);
    rig.model->eeprom[511] = 0;
    assert_int_equal(cm_blank(&rig.session, &(struct cm_blank){0}, &rig.report), CM_OK);
    assert_true(rig.report.erase);
    rig.model->lock = 0xFC;
    rig.model->flash[7] = 0x12;
    // as put: only when asked
    assert_int_equal(cm_blank(&rig.session, &(struct cm_blank){0}, &rig.report), CM_PROTECTED);
    assert_int_equal(rig.model->flash[7], 0x12);
    assert_int_equal(cm_blank(&rig.session, &(struct cm_blank){.unprotect = true}, &rig.report),
                     CM_OK);
    assert_int_equal(rig.model->lock, 0xFF);
    assert_int_equal(rig.model->erases, 2);
    assert_no_breach(rig.model);
    rig_close(&rig);
}

static enum cm_status collect(void *context, uint32_t address, const uint8_t *bytes, uint32_t count)
{
    memcpy((uint8_t *)context + address, bytes, count);
    return CM_OK;
}

static void keep_reads_everything_twice(void **state)
{
    struct rig rig;
    uint8_t *kept = malloc(FLASH);
    (void)state;
    rig_ready(&rig, "attiny84a", "");
    assert_int_equal(put(&rig), CM_OK);
    uint64_t before = cm_sim_bytes(rig.sim);
    assert_int_equal(cm_keep(&rig.session, CM_REGION_MAIN, collect, NULL, kept, &rig.report),
                     CM_OK);
    assert_in_range(cm_sim_bytes(rig.sim) - before, 8 * FLASH, 8 * FLASH + 270);
    assert_memory_equal(kept, rig.image, FLASH);
    free(kept);
    rig_close(&rig);
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(an_erased_chip_is_written_and_read_once),
        cmocka_unit_test(the_same_again_is_one_read),
        cmocka_unit_test(a_changed_image_costs_one_erase),
        cmocka_unit_test(only_what_differs_is_written),
        cmocka_unit_test(bytes_outside_the_image_stay),
        cmocka_unit_test(a_page_that_only_looks_blank_leads_to_an_erase),
        cmocka_unit_test(flash_without_pages_that_only_looks_blank_is_no_doubt),
        cmocka_unit_test(one_page_of_memory_is_enough),
        cmocka_unit_test(bytewise_eeprom_writes_only_what_differs),
        cmocka_unit_test(lost_contact_is_told_within_a_page_and_made_good),
        cmocka_unit_test(a_moment_without_contact_is_survived),
        cmocka_unit_test(after_doubt_all_of_a_chip_is_compared_again),
        cmocka_unit_test(flipped_bits_do_not_get_through),
        cmocka_unit_test(a_slow_part_is_waited_for),
        cmocka_unit_test(a_stopped_put_goes_on_where_it_was),
        cmocka_unit_test(a_locked_chip_is_left_alone_unless_told),
        cmocka_unit_test(a_write_locked_chip_that_fits_needs_nothing),
        cmocka_unit_test(an_erase_that_would_lose_data_is_refused),
        cmocka_unit_test(data_is_carried_over_the_erase),
        cmocka_unit_test(eesave_makes_carrying_needless),
        cmocka_unit_test(an_eeprom_that_outlives_the_erase_is_not_written_again),
        cmocka_unit_test(a_worn_byte_is_named_and_nothing_is_erased_for_it),
        cmocka_unit_test(a_rich_port_gets_pages_in_few_batches),
        cmocka_unit_test(what_does_not_fit_is_refused),
        cmocka_unit_test(bytes_behind_the_end_are_seen),
        cmocka_unit_test(a_supply_outside_the_range_is_refused),
        cmocka_unit_test(compare_names_every_difference),
        cmocka_unit_test(blank_erases_only_what_is_not_blank),
        cmocka_unit_test(keep_reads_everything_twice),
    };
    return cmocka_run_group_tests_name("job", tests, NULL, NULL);
}
