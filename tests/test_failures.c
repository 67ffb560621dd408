/*
 * Hardware: a chip of each family on a simulated bench, behind a port that fails one operation.
 *
 * No failure of a port, a source or a sink may be swallowed: the call ends with it, and the
 * session's record says the same.
 */
#include "../core/job/batch.h"
#include "support/campaign.h"
#include <coldmint/restore.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum { MOST_FAILURES = 120 };

static const struct subject SUBJECTS[] = {
    {.part = "attiny13a", .more = "", .first = 96, .count = 160, .data_count = 8, .workspace = 512},
    {.part = "at90s2313",
     .more = "",
     .first = 32,
     .count = 48,
     .workspace = 128,
     .keeps_old = true},
    {.part = "mx25l512", .more = "", .first = 4796, .count = 900, .workspace = 8192},
    {.part = "w25q256", .more = "", .first = 0x1000000 - 300, .count = 600, .workspace = 70000},
    {.part = "sst25vf020b", .more = "", .first = 4106, .count = 60, .workspace = 8192},
    {.part = "25lc640a", .more = "", .first = 100, .count = 200, .workspace = 1024},
    {.part = "24lc16b", .more = "", .first = 200, .count = 150, .workspace = 512},
    {.part = "93lc56b", .more = "", .first = 31, .count = 40, .workspace = 256},
    {.part = "am29f010b", .more = "", .first = 19384, .count = 300, .workspace = 40000},
    {.part = "at29c256", .more = "", .first = 1000, .count = 300, .workspace = 1024},
    {.part = "at28c64b", .more = "", .first = 1000, .count = 300, .workspace = 1024},
    {.part = "m27c256b",
     .more = "port:\n  feeds_from_mv: 1800\n  feeds_to_mv: 6500\n  raises_vpp: true\n",
     .first = 500,
     .count = 40,
     .workspace = 512,
     .keeps_old = true,
     .once_only = true},
};
enum { SUBJECT_COUNT = sizeof SUBJECTS / sizeof SUBJECTS[0] };

static struct campaign campaign;

/* --- operations -------------------------------------------------------------------------- */

static struct cm_port failing;
static const struct cm_port *inner;
static unsigned operations, fails_at;

static enum cm_status run_on(struct cm_run *run, struct cm_op *ops, uint32_t count)
{
    struct cm_run own = {.port = inner, .bus = run->bus, .ops = ops, .op_count = count};
    enum cm_status status = cm_port_run(&own);
    uint32_t before = (uint32_t)(ops - run->ops);
    run->op = before + own.op;
    run->address = own.address;
    run->placed = own.placed;
    run->expected = own.expected;
    run->found = own.found;
    return status;
}

/* Operations that belong together: a prefix, and what is behind it. */
static uint32_t length_of(const struct cm_op *op)
{
    return op->kind == CM_OP_REPEAT ? 1u + op->repeat.ops : op->kind == CM_OP_POLL ? 2 : 1;
}

/* Runs operation after operation; one of them fails. */
static enum cm_status run_failing(struct cm_run *run)
{
    for (uint32_t i = 0; i < run->op_count; i += length_of(&run->ops[i])) {
        if (++operations == fails_at) {
            run->op = i;
            run->placed = false;
            return CM_PORT_FAILED;
        }
        enum cm_status status = run_on(run, &run->ops[i], length_of(&run->ops[i]));
        if (status)
            return status;
    }
    return CM_OK;
}

static void put_in_front(void)
{
    inner = cm_sim_port(campaign.sim);
    failing = *inner;
    failing.run = run_failing;
    campaign.port = &failing;
}

static void fail_each_operation(enum campaign_act act)
{
    campaign_restore(&campaign);
    operations = fails_at = 0;
    enum cm_status good = campaign_act(&campaign, act, NULL, NULL);
    if (act == CAMPAIGN_PUT)
        assert_int_equal(good, CM_OK);
    unsigned all = operations, step = all / MOST_FAILURES + 1;
    for (unsigned n = 1; n + 8 < all;
         n += step) { // the last ones let go of the lines, after the job
        campaign_restore(&campaign);
        operations = 0;
        fails_at = n;
        enum cm_status status = campaign_act(&campaign, act, NULL, NULL);
        if (operations < n)
            break;
        if (status == CM_OK || status != campaign.failure.status)
            fail_msg("%s: operation %u of %u failed: %s, and the record says %s",
                     campaign.subject->part, n, all, cm_status_word(status),
                     cm_status_word(campaign.failure.status));
    }
}

static void each_operation_fails_once(void **state)
{
    (void)state;
    for (int i = 0; i < SUBJECT_COUNT; i++) {
        campaign_open(&campaign, &SUBJECTS[i]);
        put_in_front();
        fail_each_operation(CAMPAIGN_PUT);
        campaign_close(&campaign);
    }
}

/* --- sources and sinks ------------------------------------------------------------------- */

static struct cm_memory image;
static unsigned reads, read_fails_at;

static bool image_extent(void *context, uint32_t from, uint32_t *start, uint32_t *bytes)
{
    struct cm_source source = cm_memory_source(context);
    return source.extent(source.context, from, start, bytes);
}

static enum cm_status image_read(void *context, uint32_t address, uint8_t *bytes, uint32_t count)
{
    struct cm_source source = cm_memory_source(context);
    return ++reads == read_fails_at ? CM_BAD_IMAGE
                                    : source.read(source.context, address, bytes, count);
}

static void each_source_call_fails_once(void **state)
{
    (void)state;
    for (int i = 0; i < SUBJECT_COUNT; i++) {
        const enum campaign_act ACTS[] = {CAMPAIGN_PUT, CAMPAIGN_COMPARE};
        struct cm_source source = {&image, image_extent, image_read};
        campaign_open(&campaign, &SUBJECTS[i]);
        image = (struct cm_memory){campaign.wanted, SUBJECTS[i].count, SUBJECTS[i].first};
        campaign.source = &source;
        for (int a = 0; a < 2; a++) {
            reads = read_fails_at = 0;
            campaign_restore(&campaign);
            cm_ignore(campaign_act(&campaign, ACTS[a], NULL, NULL));
            for (unsigned n = 1, all = reads; n <= all && n <= MOST_FAILURES; n++) {
                campaign_restore(&campaign);
                reads = 0;
                read_fails_at = n;
                assert_int_equal(campaign_act(&campaign, ACTS[a], NULL, NULL), CM_BAD_IMAGE);
                assert_int_equal(campaign.failure.status, CM_BAD_IMAGE);
            }
        }
        campaign_close(&campaign);
    }
}

static enum cm_status take(void *context, uint32_t address, const uint8_t *bytes, uint32_t count)
{
    unsigned *left = context;
    (void)address, (void)bytes, (void)count;
    return (*left)-- == 0 ? CM_NO_ROOM : CM_OK;
}

static void each_sink_call_fails_once(void **state)
{
    (void)state;
    for (int i = 0; i < SUBJECT_COUNT; i++) {
        campaign_open(&campaign, &SUBJECTS[i]);
        for (unsigned n = 0; n < 20; n++) {
            unsigned left = n;
            campaign_restore(&campaign);
            enum cm_status status = campaign_act(&campaign, CAMPAIGN_KEEP, take, &left);
            if (status == CM_OK)
                break; // there are no more calls
            assert_int_equal(status, CM_NO_ROOM);
            assert_int_equal(campaign.failure.status, CM_NO_ROOM);
        }
        campaign_close(&campaign);
    }
}

/* --- capsules ---------------------------------------------------------------------------- */

static char *capsule_bytes;
static size_t capsule_count;

static enum cm_status read_capsule(void *context, uint32_t offset, uint8_t *bytes, uint32_t count)
{
    (void)context;
    if (offset > capsule_count || count > capsule_count - offset || ++reads == read_fails_at)
        return CM_PORT_FAILED;
    memcpy(bytes, capsule_bytes + offset, count);
    return CM_OK;
}

static void load_capsule(void)
{
    FILE *file = fopen(SOURCE_FOLDER "/demo/capsules/bell-7.mint", "rb");
    assert_non_null(file);
    capsule_bytes = malloc(1 << 16);
    capsule_count = fread(capsule_bytes, 1, 1 << 16, file);
    fclose(file);
}

/* A capsule's input that dies in mid-job was once taken for one that ended: the chip got FF, and
 * the job ended with CM_OK. */
static void a_capsule_whose_input_dies_is_not_restored(void **state)
{
    (void)state;
    load_capsule();
    struct cm_capsule_input input = {NULL, read_capsule, (uint32_t)capsule_count};
    struct cm_capsule capsule;
    struct cm_mint_report report;
    reads = read_fails_at = 0;
    assert_int_equal(cm_capsule_open(&capsule, &input), CM_OK);
    unsigned opened = reads, all = 0, failed = 0;
    for (unsigned n = 0; n == 0 || n <= all; n += n < 10 ? 1 : all / 60 + 1) {
        struct rig rig;
        rig_open(&rig, "attiny84a", "");
        rig_identify(&rig);
        reads = opened;
        read_fails_at = n ? opened + n : 0;
        enum cm_status status = cm_restore(&rig.session, &capsule, &report);
        assert_int_equal(status == CM_OK, n == 0);
        if (n == 0)
            all = reads - opened;
        failed += status != CM_OK;
        if (status)
            assert_int_equal(rig.session.failure.status, status);
        rig_close(&rig);
    }
    assert_true(failed > 20);
    free(capsule_bytes);
}

static void a_capsule_of_another_kind_is_refused(void **state)
{
    struct rig rig;
    struct cm_capsule capsule;
    struct cm_mint_report report;
    (void)state;
    load_capsule();
    struct cm_capsule_input input = {NULL, read_capsule, (uint32_t)capsule_count};
    reads = read_fails_at = 0;
    assert_int_equal(cm_capsule_open(&capsule, &input), CM_OK);
    rig_open(&rig, "attiny85", "");
    // nobody is there yet
    assert_int_equal(cm_restore(&rig.session, &capsule, &report), CM_BAD_ARGUMENT);
    rig_identify(&rig);
    assert_int_equal(cm_restore(&rig.session, &capsule, &report), CM_WRONG_CHIP);
    assert_int_equal(rig.model->page_writes + rig.model->setting_writes, 0);
    rig_close(&rig);
    free(capsule_bytes);
}

/* --- calls that ask for what there is not ------------------------------------------------ */

static void refuse_all(struct cm_session *session, enum cm_status due)
{
    uint8_t byte = 0;
    struct cm_report report;
    struct cm_guard guard = {.count = 0};
    struct cm_put put = {.want_count = 0};
    struct cm_want want = {CM_REGION_MAIN, cm_memory_source(&(struct cm_memory){&byte, 1, 0})};
    assert_int_equal(cm_read(session, 0, 0, &byte, 1), due);
    assert_int_equal(session->failure.status, due);
    assert_int_equal(cm_match(session, 0, 0, &byte, 1), due);
    assert_int_equal(cm_program(session, 0, 0, &byte, 1), due);
    assert_int_equal(cm_erase(session), due);
    assert_int_equal(cm_check_supply(session), due);
    assert_int_equal(cm_recover(session), due);
    assert_int_equal(cm_put(session, &put, &report), due);
    assert_int_equal(cm_plan(session, &put, &report), due);
    assert_int_equal(cm_compare(session, &want, NULL, NULL, NULL, &report), due);
    assert_int_equal(cm_blank(session, &(struct cm_blank){0}, &report), due);
    assert_int_equal(cm_is_blank(session, 0, NULL, NULL), due);
    assert_int_equal(cm_keep(session, 0, take, NULL, NULL, &report), due);
    assert_int_equal(cm_guard_look(session, &guard), due);
    assert_int_equal(cm_guard_lift(session, &guard, CM_LIFT_FREE), due);
    assert_int_equal(cm_guard_restore(session, &guard), due);
    assert_int_equal(cm_raw_frame(session, &byte, 1, NULL, 0), due);
    assert_int_equal(session->failure.status, due);
}

static void no_call_jumps_through_null(void **state)
{
    uint16_t value = 7;
    (void)state;
    for (int i = 0; i < SUBJECT_COUNT; i++) {
        struct cm_session session;
        static uint8_t workspace[70000];
        const struct sim_kind *kind;
        campaign_open(&campaign, &SUBJECTS[i]);
        const struct cm_kit kits[] = {
            {.family = &cm_avr, .parts = cm_avr_all_parts, .part_count = CM_AVR_PART_COUNT},
            {.family = &cm_nor, .parts = cm_nor_all_parts, .part_count = CM_NOR_PART_COUNT},
            {.family = &cm_i2c24, .parts = cm_i2c24_all_parts, .part_count = CM_I2C24_PART_COUNT}};
        assert_int_equal(
            cm_open(&session, cm_sim_port(campaign.sim), kits, 3, workspace, sizeof workspace),
            CM_OK);
        refuse_all(&session, CM_BAD_ARGUMENT); // before cm_identify
        bool is_ours =
            sim_find_part(SUBJECTS[i].part, &kind) && cm_part_by_name(kits, 3, SUBJECTS[i].part);
        if (is_ours) {
            assert_int_equal(cm_identify(&session, SUBJECTS[i].part), CM_OK);
            if (!session.family->erase)
                // such chips are erased by areas
                assert_int_equal(cm_erase(&session), CM_BAD_ARGUMENT);
            if (kind->bus == SIM_SPI && kind != &sim_avr) {
                assert_int_equal(cm_raw_begin(&session, 100000), CM_OK);
                uint8_t byte;
                // by hand: the part is no longer known
                assert_int_equal(cm_read(&session, 0, 0, &byte, 1), CM_BAD_ARGUMENT);
            }
        }
        cm_close(&session);
        refuse_all(&session, CM_BAD_ARGUMENT); // and after cm_close
        assert_int_equal(cm_sense(&session, CM_LINE_VPP, &value), CM_PORT_LACKS);
        assert_int_equal(session.failure.status, CM_PORT_LACKS);
        campaign_close(&campaign);
    }
}

static void lines_without_sense_are_refused(void **state)
{
    static const struct cm_lines NONE = {.line = NULL};
    struct cm_port_state made = {.half_bit_us = 1};
    struct cm_port port = {
        .lines = &NONE, .state = &made, .traits.lines = CM_LINE_BIT(CM_LINE_SDA)};
    uint8_t byte = 0;
    (void)state;
    assert_int_equal(cm_i2c_by_lines.transfer(&port, &(struct cm_transfer){.device = 0x50}),
                     CM_PORT_LACKS);
    assert_int_equal(cm_spi_by_lines.shift(&port, &byte, &byte, 1), CM_PORT_LACKS);
}

/* More operations than a batch has room for are not run at all. */
static void a_batch_that_is_too_long_does_not_run(void **state)
{
    struct rig rig;
    (void)state;
    rig_open(&rig, "attiny84a", "");
    cm_batch_begin(&rig.session, CM_STEP_PROGRAM, "flash", 0);
    for (int i = 0; i <= CM_BATCH_OPS; i++)
        cm_batch_wait(&rig.session, 1000000);
    uint64_t before = cm_sim_time_us(rig.sim);
    assert_int_equal(cm_batch_run(&rig.session), CM_BAD_ARGUMENT);
    assert_int_equal(rig.session.failure.status, CM_BAD_ARGUMENT);
    assert_int_equal(cm_sim_time_us(rig.sim), before);
    rig_close(&rig);
}

/* --- clocks that stand still ------------------------------------------------------------- */

static uint32_t stands_still(const struct cm_port *port)
{
    (void)port;
    return 12345;
}

static enum cm_status busy_shift(const struct cm_port *port, const uint8_t *out, uint8_t *in,
                                 uint32_t bytes)
{
    (void)port, (void)out;
    if (in)
        memset(in, 0x03, bytes); // busy, for ever
    return CM_OK;
}

static enum cm_status any_line(const struct cm_port *port, enum cm_line line, enum cm_level level)
{
    (void)port, (void)line, (void)level;
    return CM_OK;
}

static enum cm_status nobody(const struct cm_port *port, const struct cm_transfer *transfer)
{
    (void)port, (void)transfer;
    return CM_NACK;
}

static enum cm_status busy_read(const struct cm_port *port, uint32_t address, uint8_t *bytes,
                                uint32_t count)
{
    (void)port, (void)address;
    static uint8_t toggle;
    for (uint32_t i = 0; i < count; i++)
        bytes[i] = toggle ^= 0x40;
    return CM_OK;
}

static enum cm_status any_write(const struct cm_port *port, uint32_t address, uint16_t data,
                                const struct cm_pulse *pulse)
{
    (void)port, (void)address, (void)data, (void)pulse;
    return CM_OK;
}

static uint64_t waited_us;

/* A timer of 16 bits that nobody has made wider: each wait longer than that never seemed over. */
static uint32_t wraps_early(const struct cm_port *port)
{
    (void)port;
    return (uint16_t)(waited_us + 60000);
}

static void wait_aside(const struct cm_port *port, uint32_t us)
{
    (void)port;
    waited_us += us;
}

/* Such clocks once made all of these go round for ever, or for minutes: what was waited counts. */
static void polls_end_whatever_the_clock_does(void **state)
{
    static const struct cm_lines STILL = {
        .now_us = stands_still, .wait_us = wait_aside, .line = any_line};
    static const struct cm_lines WRAPS = {
        .now_us = wraps_early, .wait_us = wait_aside, .line = any_line};
    static const struct cm_spi SPI = {.shift = busy_shift};
    static const struct cm_i2c I2C = {.transfer = nobody};
    static const struct cm_parallel PARALLEL = {.read = busy_read, .write = any_write};
    struct cm_port port = {.spi = &SPI, .i2c = &I2C, .parallel = &PARALLEL};
    static const struct cm_bus *const BUSES[] = {&cm_bus_shift, &cm_bus_spi, &cm_bus_three_wire,
                                                 &cm_bus_i2c, &cm_bus_parallel};
    (void)state;
    static const struct cm_poll POLLS[] = {
        {.timeout_us = 1000},
        {.timeout_us = 20000, .early_us = 5000, .interval_us = 78},
        {.timeout_us = 900000, .early_us = 100000, .interval_us = 1000}};
    for (size_t i = 0; i < 5 * 3 * 2; i++) {
        const struct cm_bus *bus = BUSES[i % 5];
        port.lines = i / 15 ? &WRAPS : &STILL;
        waited_us = 0;
        struct cm_op ops[] = {
            {.kind = CM_OP_POLL, .poll = POLLS[i / 5 % 3]},
            {.kind = CM_OP_EXCHANGE,
             .exchange = {.head = {0x05}, .head_count = 1, .dummies = 1, .mask = 1}}};
        if (bus == &cm_bus_parallel)
            ops[1].exchange = (struct cm_exchange){.data = CM_DATA_DONE};
        struct cm_run run = {.port = &port, .bus = bus, .ops = ops, .op_count = 2};
        assert_int_equal(cm_port_run(&run), CM_TIMED_OUT);
        const struct cm_poll *poll =
            &POLLS[i / 5 % 3]; // without a pause the bus's own waits are left
        assert_true(waited_us <= poll->timeout_us * (poll->interval_us ? 1.2 : 20));
    }
}

/* --- ports that say nothing -------------------------------------------------------------- */

static enum cm_status fails_without_a_word(struct cm_run *run)
{
    (void)run;
    return CM_CONTACT_LOST;
}

/* What lies on the stack is no address and no byte that was found. */
static void spoil_stack(void)
{
    volatile uint8_t bytes[4096];
    for (size_t i = 0; i < sizeof bytes; i++)
        bytes[i] = 0xA5;
}

static void a_port_that_says_nothing_of_where_leaves_nothing_unknown(void **state)
{
    uint8_t out[1] = {0x9F}, in[3];
    struct cm_port_state own = {.restarts = 0};
    static const struct cm_lines LINES = {
        .now_us = stands_still, .wait_us = wait_aside, .line = any_line};
    static const struct cm_spi SPI = {.shift = busy_shift};
    static _Alignas(8) uint8_t workspace[64];
    struct cm_session session;
    struct cm_port port = {.lines = &LINES,
                           .spi = &SPI,
                           .state = &own,
                           .traits = {.lines = CM_LINE_BIT(CM_LINE_SELECT)}};
    const struct cm_kit kit = {.family = &cm_nor};
    (void)state;
    assert_int_equal(cm_open(&session, &port, &kit, 1, workspace, sizeof workspace), CM_OK);
    assert_int_equal(cm_raw_begin(&session, 1000000), CM_OK);
    assert_int_equal(cm_raw_frame(&session, NULL, 0, in, sizeof in), CM_OK);
    assert_int_equal(cm_raw_frame(&session, NULL, 0, NULL, 0), CM_OK);
    port.run = fails_without_a_word;
    spoil_stack();
    assert_int_equal(cm_raw_frame(&session, out, 1, in, sizeof in), CM_CONTACT_LOST);
    assert_int_equal(session.failure.address, 0);
    assert_int_equal(session.failure.expected, 0);
    assert_int_equal(session.failure.found, 0);
    cm_close(&session);
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(each_operation_fails_once),
        cmocka_unit_test(each_source_call_fails_once),
        cmocka_unit_test(each_sink_call_fails_once),
        cmocka_unit_test(a_capsule_whose_input_dies_is_not_restored),
        cmocka_unit_test(a_capsule_of_another_kind_is_refused),
        cmocka_unit_test(no_call_jumps_through_null),
        cmocka_unit_test(lines_without_sense_are_refused),
        cmocka_unit_test(a_batch_that_is_too_long_does_not_run),
        cmocka_unit_test(polls_end_whatever_the_clock_does),
        cmocka_unit_test(a_port_that_says_nothing_of_where_leaves_nothing_unknown),
    };
    return cmocka_run_group_tests(tests, NULL, NULL);
}
