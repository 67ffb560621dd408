/* Hardware: a port of this file that records what it is asked and answers as it is told: batches,
 * polls and repeats, and the instructions of the shift bus. */
#include "support/support.h"
#include <coldmint/batch.h>
#include <string.h>

struct recorder {
    uint8_t sent[4096];
    uint32_t count, calls;
    uint32_t time_us;
    uint32_t break_at;    /* byte whose answer is wrong; 0: none */
    uint8_t data;         /* answer in the fourth byte */
    uint32_t ready_after; /* calls until a poll sees ready */
    uint32_t batches;
    enum cm_level lines[CM_LINE_COUNT];
    uint8_t shifting, bits;
};

/* Answers each byte with the one before it, the fourth of each instruction with data. */
static enum cm_status echo_shift(const struct cm_port *port, const uint8_t *out, uint8_t *in,
                                 uint32_t bytes)
{
    struct recorder *recorder = port->context;
    recorder->calls++;
    for (uint32_t i = 0; i < bytes; i++) {
        uint32_t at = recorder->count++ % sizeof recorder->sent;
        recorder->sent[at] = out[i];
        uint8_t answer = at % 4 == 3 ? recorder->data : at ? recorder->sent[at - 1] : 0;
        if (out[0] == 0xF0 && at % 4 == 3)
            answer = recorder->calls <= recorder->ready_after;
        if (in)
            in[i] = recorder->break_at && at == recorder->break_at ? (uint8_t)~answer : answer;
    }
    recorder->time_us += 10 * bytes;
    return CM_OK;
}

static enum cm_status record_line(const struct cm_port *port, enum cm_line line,
                                  enum cm_level level)
{
    struct recorder *recorder = port->context;
    if (line == CM_LINE_SCK && level == CM_HIGH && recorder->lines[CM_LINE_SCK] != CM_HIGH) {
        recorder->shifting =
            (uint8_t)(recorder->shifting << 1 | (recorder->lines[CM_LINE_MOSI] == CM_HIGH));
        if (++recorder->bits % 8 == 0)
            recorder->sent[recorder->count++] = recorder->shifting;
    }
    recorder->lines[line] = level;
    return CM_OK;
}

static enum cm_status sense_mosi(const struct cm_port *port, enum cm_line line, uint16_t *value)
{
    struct recorder *recorder = port->context;
    // the inverse comes back
    *value = line == CM_LINE_MISO ? recorder->lines[CM_LINE_MOSI] != CM_HIGH : 0;
    return CM_OK;
}

static void pass_time(const struct cm_port *port, uint32_t us)
{
    ((struct recorder *)port->context)->time_us += us;
}

static uint32_t tell_time(const struct cm_port *port)
{
    return ((struct recorder *)port->context)->time_us;
}

static const struct cm_lines LINES = {
    .line = record_line, .sense = sense_mosi, .wait_us = pass_time, .now_us = tell_time};
static const struct cm_spi PLAIN = {.shift = echo_shift};
static const struct cm_spi PACKED = {.shift = echo_shift, .packed_shift = cm_shift_packed};
static struct cm_port_state made;

static struct cm_port make_port(struct recorder *recorder)
{
    memset(recorder, 0, sizeof *recorder);
    return (struct cm_port){.lines = &LINES,
                            .spi = &PLAIN,
                            .state = &made,
                            .context = recorder,
                            .traits = {.lines = CM_LINE_BIT(CM_LINE_RESET)}};
}

static struct cm_run run;

static enum cm_status run_ops(const struct cm_port *port, struct cm_op *ops, uint32_t count)
{
    run = (struct cm_run){.port = port, .bus = &cm_bus_shift, .ops = ops, .op_count = count};
    return cm_port_run(&run);
}

/* Loads of a page of 64 bytes: low and high byte of each word, two addresses apart. */
static void make_loads(struct cm_op *ops, const uint8_t *bytes, uint32_t first, uint32_t count)
{
    ops[0] = (struct cm_op){.kind = CM_OP_REPEAT,
                            .repeat = {.first = first, .count = count, .chunk = 0, .ops = 1}};
    ops[1] = (struct cm_op){.kind = CM_OP_EXCHANGE,
                            .exchange = {.head = {0x40},
                                         .head_count = 3,
                                         .address_bytes = 1,
                                         .address_turn = 1,
                                         .address_less = 0xE0,
                                         .fold_turn = 29,
                                         .fold_mask = 8,
                                         .data = CM_DATA_OUT | CM_ECHO}};
    ops[1].exchange.out = bytes;
}

static void addresses_count_words_and_fold(void **state)
{
    struct recorder recorder;
    struct cm_port port = make_port(&recorder);
    const uint8_t bytes[] = {1, 2, 3};
    struct cm_op ops[2];
    (void)state;
    make_loads(ops, bytes, 0x7D, 3); // odd byte of word 3E: its low five bits are 1E
    assert_int_equal(run_ops(&port, ops, 2), CM_OK);
    const uint8_t wanted[] = {0x48, 0x00, 0x1E, 1, 0x40, 0x00, 0x1F, 2, 0x48, 0x00, 0x1F, 3};
    assert_int_equal(recorder.count, sizeof wanted);
    assert_memory_equal(recorder.sent, wanted, sizeof wanted);
    assert_int_equal(recorder.calls, 3);
    port.spi = &PACKED;
    recorder.count = recorder.calls = 0;
    assert_int_equal(run_ops(&port, ops, 2), CM_OK);
    assert_memory_equal(recorder.sent, wanted, sizeof wanted);
    assert_int_equal(recorder.calls, 1);
    port.traits.transfer_max = 9; // room for two instructions
    recorder.count = recorder.calls = 0;
    assert_int_equal(run_ops(&port, ops, 2), CM_OK);
    assert_memory_equal(recorder.sent, wanted, sizeof wanted);
    assert_int_equal(recorder.calls, 2);
}

static void without_data_the_heads_byte_goes_out(void **state)
{
    struct recorder recorder;
    struct cm_port port = make_port(&recorder);
    struct cm_op ops[2];
    (void)state;
    make_loads(ops, NULL, 0, 2);
    ops[0].repeat.chunk = 1; // there is one instruction a chunk
    ops[1].exchange.head[3] = 0xFF;
    assert_int_equal(run_ops(&port, ops, 2), CM_OK);
    assert_int_equal(recorder.sent[3], 0xFF);
    assert_int_equal(recorder.sent[7], 0xFF);
}

/* Breaks the echo at every byte that is checked, and wants the very item named. */
static void a_broken_echo_names_its_item(void **state)
{
    static const struct cm_spi *const WAYS[] = {&PLAIN, &PACKED};
    uint8_t bytes[40];
    (void)state;
    memset(bytes, 0x5A, sizeof bytes);
    for (uint32_t at = 1; at < 2 * 4 * sizeof bytes; at++) {
        struct recorder recorder;
        struct cm_port port = make_port(&recorder);
        struct cm_op ops[3] = {{.kind = CM_OP_WAIT, .wait = {5}}};
        uint32_t byte = at / 2;
        bool checked = byte % 4 == 1 || byte % 4 == 2;
        port.spi = WAYS[at % 2];
        make_loads(ops + 1, bytes, 0, sizeof bytes);
        recorder.break_at = byte;
        assert_int_equal(run_ops(&port, ops, 3), checked ? CM_CONTACT_LOST : CM_OK);
        if (!checked)
            continue;
        assert_int_equal(run.op, 2);
        assert_true(run.placed);
        assert_int_equal(run.address, byte / 4);
        assert_int_equal(run.found, (uint8_t)~run.expected);
    }
}

static void a_difference_stops_before_the_next_instruction(void **state)
{
    static const struct cm_spi *const WAYS[] = {&PLAIN, &PACKED};
    uint8_t bytes[100];
    (void)state;
    memset(bytes, 0x11, sizeof bytes);
    for (int way = 0; way < 2; way++) {
        struct recorder recorder;
        struct cm_port port = make_port(&recorder);
        struct cm_op ops[2];
        port.spi = WAYS[way];
        make_loads(ops, bytes, 0, sizeof bytes);
        ops[1].exchange.data = CM_DATA_MATCH | CM_ECHO;
        recorder.data = 0x10;
        assert_int_equal(run_ops(&port, ops, 2), CM_DIFFERS);
        assert_int_equal(recorder.count, 4);
        assert_int_equal(run.expected, 0x11);
        assert_int_equal(run.found, 0x10);
        recorder.data = 0xF1;
        recorder.count = 0;
        ops[1].exchange.data = CM_DATA_FITS | CM_ECHO;
        assert_int_equal(run_ops(&port, ops, 2), CM_OK); // all ones of 11 are in F1
        assert_int_equal(recorder.count, 400);
    }
}

static const struct cm_op BUSY = {.kind = CM_OP_EXCHANGE,
                                  .exchange = {.head = {0xF0}, .head_count = 4, .mask = 1}};

static void a_poll_asks_once_more_after_its_deadline(void **state)
{
    struct recorder recorder;
    struct cm_port port = make_port(&recorder);
    struct cm_op ops[] = {{.kind = CM_OP_POLL, .poll = {.timeout_us = 100}}, BUSY};
    (void)state;
    recorder.ready_after = 3; // 40 us a call: the third is late, the fourth is the one more
    assert_int_equal(run_ops(&port, ops, 2), CM_OK);
    recorder.calls = 0;
    recorder.ready_after = 1000;
    assert_int_equal(run_ops(&port, ops, 2), CM_TIMED_OUT);
    assert_int_equal(recorder.calls, 4);
    assert_int_equal(run.op, 1);
    assert_int_equal(run.found, 1);
}

static void a_poll_waits_before_and_between(void **state)
{
    struct recorder recorder;
    struct cm_port port = make_port(&recorder);
    struct cm_op ops[] = {
        {.kind = CM_OP_POLL, .poll = {.early_us = 500, .interval_us = 30, .timeout_us = 5000}},
        BUSY};
    (void)state;
    recorder.ready_after = 2;
    assert_int_equal(run_ops(&port, ops, 2), CM_OK);
    assert_int_equal(recorder.time_us, 500 + 3 * 40 + 2 * 30);
}

/* A value that only a floating line gives ends the wait at once, even where it would pass. */
static void a_floating_line_ends_a_poll(void **state)
{
    struct recorder recorder;
    struct cm_port port = make_port(&recorder);
    struct cm_op ops[] = {
        {.kind = CM_OP_POLL, .poll = {.timeout_us = 100000, .floating = 0xFF}},
        {.kind = CM_OP_EXCHANGE, .exchange = {.head = {0x70}, .head_count = 4, .mask = 0x80}}};
    (void)state;
    for (int passes = 0; passes < 2; passes++) {
        recorder.data = 0xFF;
        recorder.calls = recorder.count = 0;
        ops[1].exchange.want = passes ? 0x80 : 0x00;
        assert_int_equal(run_ops(&port, ops, 2), CM_CONTACT_LOST);
        assert_int_equal(recorder.calls, 1);
    }
}

/* Without a poll a check that fails has a status of its own. */
static void a_check_that_fails_is_no_difference(void **state)
{
    struct recorder recorder;
    struct cm_port port = make_port(&recorder);
    struct cm_op ops[] = {BUSY};
    (void)state;
    recorder.ready_after = 1000;
    assert_int_equal(run_ops(&port, ops, 1), CM_BAD_ANSWER);
    assert_false(run.placed);
}

/* A repeat runs its body for each chunk, which ends where the address is a multiple; then the batch
 * goes on behind it. */
static void a_repeat_ends_its_chunks_at_multiples(void **state)
{
    struct recorder recorder;
    struct cm_port port = make_port(&recorder);
    struct cm_op ops[] = {
        {.kind = CM_OP_REPEAT, .repeat = {.first = 0x1E, .count = 0x25, .chunk = 0x10, .ops = 2}},
        {.kind = CM_OP_EXCHANGE, .exchange = {.head = {0x4C}, .head_count = 4, .address_bytes = 2}},
        {.kind = CM_OP_WAIT, .wait = {1000}},
        {.kind = CM_OP_EXCHANGE, .exchange = {.head = {0xAC, 1, 2, 3}, .head_count = 4}},
        {.kind = CM_OP_REPEAT, .repeat = {.first = 5, .count = 0, .ops = 1}},
        {.kind = CM_OP_WAIT, .wait = {1000000}},
    };
    (void)state;
    assert_int_equal(run_ops(&port, ops, 6), CM_OK);
    const uint8_t wanted[] = {0x4C, 0,    0x00, 0x1E, 0x4C, 0,    0x00, 0x20, 0x4C, 0,
                              0x00, 0x30, 0x4C, 0,    0x00, 0x40, 0xAC, 1,    2,    3};
    assert_int_equal(recorder.count, sizeof wanted);
    assert_memory_equal(recorder.sent, wanted, sizeof wanted);
    assert_int_equal(recorder.time_us, 5 * 40 + 4 * 1000); // nothing of the empty one
}

/* What a prefix needs behind it must be there, and a repeat holds no other. */
static void prefixes_without_their_operations_are_refused(void **state)
{
    struct recorder recorder;
    struct cm_port port = make_port(&recorder);
    struct cm_op lone_poll[] = {{.kind = CM_OP_POLL}},
                 poll_of_wait[] = {{.kind = CM_OP_POLL}, {.kind = CM_OP_WAIT}},
                 long_repeat[] = {{.kind = CM_OP_REPEAT, .repeat = {.count = 1, .ops = 2}}, BUSY},
                 nested[] = {{.kind = CM_OP_REPEAT, .repeat = {.count = 1, .ops = 2}},
                             {.kind = CM_OP_REPEAT, .repeat = {.count = 1, .ops = 1}},
                             BUSY},
                 poll_over_end[] = {{.kind = CM_OP_REPEAT, .repeat = {.count = 1, .ops = 1}},
                                    {.kind = CM_OP_POLL},
                                    BUSY},
                 unknown[] = {{.kind = 77}};
    (void)state;
    assert_int_equal(run_ops(&port, lone_poll, 1), CM_BAD_ARGUMENT);
    assert_int_equal(run_ops(&port, poll_of_wait, 2), CM_BAD_ARGUMENT);
    assert_int_equal(run_ops(&port, long_repeat, 2), CM_BAD_ARGUMENT);
    assert_int_equal(run_ops(&port, nested, 3), CM_BAD_ARGUMENT);
    assert_int_equal(run_ops(&port, poll_over_end, 3), CM_BAD_ARGUMENT);
    assert_int_equal(run_ops(&port, unknown, 1), CM_BAD_ARGUMENT);
    assert_int_equal(recorder.calls, 0);
    assert_int_equal(run_ops(&port, NULL, 0), CM_OK);
}

/* --- ports that take batches whole ------------------------------------------------------- */

static enum cm_status decline_long(struct cm_run *whole)
{
    ((struct recorder *)whole->port->context)->batches++;
    return whole->op_count > 1 ? CM_DECLINED : CM_OK;
}

static void what_run_declines_the_core_interprets(void **state)
{
    struct recorder recorder;
    struct cm_port port = make_port(&recorder);
    struct cm_op ops[] = {{.kind = CM_OP_WAIT, .wait = {7}}, {.kind = CM_OP_WAIT, .wait = {8}}};
    (void)state;
    port.run = decline_long;
    assert_int_equal(run_ops(&port, ops, 1), CM_OK);
    assert_int_equal(recorder.time_us, 0); // it took the batch, and did what it pleased
    assert_int_equal(run_ops(&port, ops, 2), CM_OK);
    assert_int_equal(recorder.time_us, 15);
    assert_int_equal(recorder.batches, 2);
}

/* --- buses from lines -------------------------------------------------------------------- */

static void lines_make_spi_mode_0(void **state)
{
    struct recorder recorder;
    struct cm_port port = make_port(&recorder);
    const uint8_t out[] = {0xA5, 0x0F};
    uint8_t both[2];
    struct cm_op ops[] = {{.kind = CM_OP_CLOCK, .clock = {.want_hz = 200000}},
                          {.kind = CM_OP_EXCHANGE, .exchange = {.data = CM_DATA_BOTH, .count = 2}}};
    (void)state;
    memcpy(both, out, 2);
    ops[1].exchange.in = both;
    port.traits.lines |= CM_LINE_BIT(CM_LINE_SCK) | CM_LINE_BIT(CM_LINE_MOSI);
    port.spi = &cm_spi_by_lines;
    assert_int_equal(run_ops(&port, ops, 2), CM_OK);
    assert_int_equal(ops[0].clock.real_hz, 166666); // 3 us a half: never faster than asked
    assert_memory_equal(recorder.sent, out, 2);
    assert_int_equal(both[0], 0x5A);
    assert_int_equal(both[1], 0xF0);
    assert_int_equal(recorder.time_us, 16 * 6);
    assert_int_equal(recorder.lines[CM_LINE_SCK], CM_LOW);
    ops[0].clock.want_hz = 0;
    assert_int_equal(run_ops(&port, ops, 1), CM_OK);
    assert_int_equal(recorder.lines[CM_LINE_SCK], CM_RELEASED);
}

static void what_a_port_lacks_is_said(void **state)
{
    static const struct cm_bus *const BUSES[] = {&cm_bus_shift, &cm_bus_spi, &cm_bus_three_wire,
                                                 &cm_bus_i2c, &cm_bus_parallel};
    static const struct cm_lines NO_TIME = {.line = record_line};
    struct recorder recorder;
    struct cm_port port = make_port(&recorder);
    struct cm_session session;
    uint8_t workspace[256];
    struct cm_op ops[] = {{.kind = CM_OP_SUPPLY, .supply = {3300}}};
    (void)state;
    assert_int_equal(run_ops(&port, ops, 1), CM_PORT_LACKS);
    port.spi = NULL;
    ops[0] = (struct cm_op){.kind = CM_OP_CLOCK, .clock = {.want_hz = 1000}};
    for (size_t i = 0; i < sizeof BUSES / sizeof BUSES[0]; i++) {
        run = (struct cm_run){.port = &port, .bus = BUSES[i], .ops = ops, .op_count = 1};
        assert_int_equal(cm_port_run(&run), CM_PORT_LACKS);
    }
    assert_int_equal(cm_open(&session, &port, &test_kit, 1, workspace, sizeof workspace), CM_OK);
    port.traits.lines = 0; // what lines it takes is each family's own
    assert_int_equal(cm_identify(&session, NULL), CM_PORT_LACKS);
    port.lines = &NO_TIME; // no port can do without
    assert_int_equal(cm_open(&session, &port, &test_kit, 1, workspace, sizeof workspace),
                     CM_PORT_LACKS);
    port.lines = NULL;
    assert_int_equal(cm_open(&session, &port, &test_kit, 1, workspace, sizeof workspace),
                     CM_PORT_LACKS);
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(addresses_count_words_and_fold),
        cmocka_unit_test(without_data_the_heads_byte_goes_out),
        cmocka_unit_test(a_broken_echo_names_its_item),
        cmocka_unit_test(a_difference_stops_before_the_next_instruction),
        cmocka_unit_test(a_poll_asks_once_more_after_its_deadline),
        cmocka_unit_test(a_poll_waits_before_and_between),
        cmocka_unit_test(a_floating_line_ends_a_poll),
        cmocka_unit_test(a_check_that_fails_is_no_difference),
        cmocka_unit_test(a_repeat_ends_its_chunks_at_multiples),
        cmocka_unit_test(prefixes_without_their_operations_are_refused),
        cmocka_unit_test(what_run_declines_the_core_interprets),
        cmocka_unit_test(lines_make_spi_mode_0),
        cmocka_unit_test(what_a_port_lacks_is_said),
    };
    return cmocka_run_group_tests_name("bus", tests, NULL, NULL);
}
