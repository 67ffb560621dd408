/* Hardware: a port of this file that records what it is asked and answers as it is told. */
#include "support/support.h"
#include <string.h>

struct recorder {
    uint8_t sent[4096];
    uint32_t count, calls;
    uint32_t time_us;
    uint32_t break_at;    /* byte whose answer is wrong; 0: none */
    uint8_t data;         /* answer in the fourth byte */
    uint32_t ready_after; /* calls until a poll sees ready */
    enum cm_level lines[CM_LINE_COUNT];
    uint8_t shifting, bits;
};

/* Answers each byte with the one before it, the fourth of each instruction with data. */
static enum cm_status echo_shift(struct cm_port *port, const uint8_t *out, uint8_t *in, uint32_t bytes)
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

static enum cm_status record_line(struct cm_port *port, enum cm_line line, enum cm_level level)
{
    struct recorder *recorder = port->context;
    if (line == CM_LINE_SCK && level == CM_HIGH && recorder->lines[CM_LINE_SCK] != CM_HIGH) {
        recorder->shifting = (uint8_t)(recorder->shifting << 1 | (recorder->lines[CM_LINE_MOSI] == CM_HIGH));
        if (++recorder->bits % 8 == 0)
            recorder->sent[recorder->count++] = recorder->shifting;
    }
    recorder->lines[line] = level;
    return CM_OK;
}

static enum cm_status sense_mosi(struct cm_port *port, enum cm_line line, uint16_t *value)
{
    struct recorder *recorder = port->context;
    *value = line == CM_LINE_MISO ? recorder->lines[CM_LINE_MOSI] != CM_HIGH : 0; // the inverse comes back
    return CM_OK;
}

static void pass_time(struct cm_port *port, uint32_t us)
{
    ((struct recorder *)port->context)->time_us += us;
}

static uint32_t tell_time(struct cm_port *port)
{
    return ((struct recorder *)port->context)->time_us;
}

static struct cm_port make_port(struct recorder *recorder)
{
    memset(recorder, 0, sizeof *recorder);
    return (struct cm_port){.context = recorder,
                            .traits = {.lines = CM_LINE_BIT(CM_LINE_RESET)},
                            .shift = echo_shift,
                            .line = record_line,
                            .sense = sense_mosi,
                            .wait_us = pass_time,
                            .now_us = tell_time};
}

static struct cm_op loads(const uint8_t *bytes, uint32_t first, uint32_t count)
{
    return (struct cm_op){.kind = CM_OP_EACH,
                          .expand = cm_expand_each,
                          .each = {.code = {0x40},
                                   .bytes = 4,
                                   .toggle = 8,
                                   .address_at = 1,
                                   .address_bytes = 2,
                                   .data_at = 3,
                                   .data = CM_EACH_OUT,
                                   .echo = true,
                                   .address_mask = 0x1F,
                                   .first = first,
                                   .count = count,
                                   .out = bytes}};
}

static void each_counts_words_and_toggles(void **state)
{
    struct recorder recorder;
    struct cm_port port = make_port(&recorder);
    struct cm_trouble trouble;
    const uint8_t bytes[] = {1, 2, 3};
    struct cm_op op = loads(bytes, 0x7D, 3); // odd byte of word 3E: its low five bits are 1E
    (void)state;
    assert_int_equal(cm_port_run(&port, &op, 1, &trouble), CM_OK);
    const uint8_t wanted[] = {0x48, 0x00, 0x1E, 1, 0x40, 0x00, 0x1F, 2, 0x48, 0x00, 0x1F, 3};
    assert_int_equal(recorder.count, sizeof wanted);
    assert_memory_equal(recorder.sent, wanted, sizeof wanted);
    assert_int_equal(recorder.calls, 1); // one group
}

static void each_repeats_its_own_byte_without_data(void **state)
{
    struct recorder recorder;
    struct cm_port port = make_port(&recorder);
    struct cm_trouble trouble;
    struct cm_op op = loads(NULL, 0, 2);
    (void)state;
    op.each.code[3] = 0xFF;
    assert_int_equal(cm_port_run(&port, &op, 1, &trouble), CM_OK);
    assert_int_equal(recorder.sent[3], 0xFF);
    assert_int_equal(recorder.sent[7], 0xFF);
}

/* Breaks the echo at every byte that is checked, and wants the very item named. */
static void a_broken_echo_names_its_item(void **state)
{
    uint8_t bytes[40];
    (void)state;
    memset(bytes, 0x5A, sizeof bytes);
    for (uint32_t at = 1; at < 4 * sizeof bytes; at++) {
        struct recorder recorder;
        struct cm_port port = make_port(&recorder);
        struct cm_trouble trouble;
        struct cm_op ops[] = {{.kind = CM_OP_WAIT, .wait = {5}}, loads(bytes, 0, sizeof bytes)};
        bool checked = at % 4 == 1 || at % 4 == 2;
        recorder.break_at = at;
        assert_int_equal(cm_port_run(&port, ops, 2, &trouble), checked ? CM_CONTACT_LOST : CM_OK);
        if (checked) {
            assert_int_equal(trouble.op, 1);
            assert_int_equal(trouble.address, at / 4);
            assert_int_equal(trouble.found, (uint8_t)~trouble.expected);
        }
    }
}

static void match_sends_one_instruction_before_the_rest(void **state)
{
    struct recorder recorder;
    struct cm_port port = make_port(&recorder);
    struct cm_trouble trouble;
    uint8_t bytes[100];
    struct cm_op op = loads(bytes, 0, sizeof bytes);
    (void)state;
    memset(bytes, 0x11, sizeof bytes);
    op.each.data = CM_EACH_MATCH;
    recorder.data = 0x10;
    assert_int_equal(cm_port_run(&port, &op, 1, &trouble), CM_DIFFERS);
    assert_int_equal(recorder.count, 4);
    assert_int_equal(trouble.expected, 0x11);
    assert_int_equal(trouble.found, 0x10);
    recorder.data = 0xF1;
    op.each.data = CM_EACH_FITS; // all ones of 11 are in F1
    assert_int_equal(cm_port_run(&port, &op, 1, &trouble), CM_OK);
}

static void a_poll_asks_once_more_after_its_deadline(void **state)
{
    struct recorder recorder;
    struct cm_port port = make_port(&recorder);
    struct cm_trouble trouble;
    struct cm_op op = {.kind = CM_OP_POLL,
                       .expand = cm_expand_poll,
                       .poll = {.code = {0xF0}, .bytes = 4, .at = 3, .mask = 1, .want = 0, .timeout_us = 100}};
    (void)state;
    recorder.ready_after = 3; // 40 us a call: the third is late, the fourth is the one more
    assert_int_equal(cm_port_run(&port, &op, 1, &trouble), CM_OK);
    recorder.calls = 0;
    recorder.ready_after = 1000;
    assert_int_equal(cm_port_run(&port, &op, 1, &trouble), CM_TIMED_OUT);
    assert_int_equal(recorder.calls, 4);
}

static void lines_make_spi_mode_0(void **state)
{
    struct recorder recorder;
    struct cm_port port = make_port(&recorder);
    struct cm_trouble trouble;
    const uint8_t out[] = {0xA5, 0x0F};
    uint8_t in[2];
    struct cm_op ops[] = {{.kind = CM_OP_CLOCK, .clock = {.want_hz = 200000}},
                          {.kind = CM_OP_SHIFT, .shift = {.out = out, .in = in, .bytes = 2}}};
    (void)state;
    port.traits.lines |= CM_LINE_BIT(CM_LINE_SCK) | CM_LINE_BIT(CM_LINE_MOSI);
    port.shift = cm_lines_shift;
    port.clock = cm_lines_clock;
    assert_int_equal(cm_port_run(&port, ops, 2, &trouble), CM_OK);
    assert_int_equal(ops[0].clock.real_hz, 166666); // 3 us a half: never faster than asked
    assert_memory_equal(recorder.sent, out, 2);
    assert_int_equal(in[0], 0x5A);
    assert_int_equal(in[1], 0xF0);
    assert_int_equal(recorder.time_us, 16 * 6);
    assert_int_equal(recorder.lines[CM_LINE_SCK], CM_LOW);
    ops[0].clock.want_hz = 0;
    assert_int_equal(cm_port_run(&port, ops, 1, &trouble), CM_OK);
    assert_int_equal(recorder.lines[CM_LINE_SCK], CM_RELEASED);
}

static void what_a_port_lacks_is_said(void **state)
{
    struct recorder recorder;
    struct cm_port port = make_port(&recorder);
    struct cm_session session;
    uint8_t workspace[256];
    struct cm_trouble trouble;
    struct cm_op op = {.kind = CM_OP_SUPPLY, .supply = {3300}};
    (void)state;
    assert_int_equal(cm_port_run(&port, &op, 1, &trouble), CM_PORT_LACKS);
    assert_int_equal(cm_open(&session, &port, &test_kit, 1, workspace, sizeof workspace), CM_OK);
    session.port->traits.lines = 0; // what lines it takes is each family's own
    assert_int_equal(cm_identify(&session, NULL), CM_PORT_LACKS);
    port.now_us = NULL; // no port can do without
    assert_int_equal(cm_open(&session, &port, &test_kit, 1, workspace, sizeof workspace), CM_PORT_LACKS);
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(each_counts_words_and_toggles),
        cmocka_unit_test(each_repeats_its_own_byte_without_data),
        cmocka_unit_test(a_broken_echo_names_its_item),
        cmocka_unit_test(match_sends_one_instruction_before_the_rest),
        cmocka_unit_test(a_poll_asks_once_more_after_its_deadline),
        cmocka_unit_test(lines_make_spi_mode_0),
        cmocka_unit_test(what_a_port_lacks_is_said),
    };
    return cmocka_run_group_tests_name("bus", tests, NULL, NULL);
}
