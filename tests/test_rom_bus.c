/* Hardware: ports that write down what they are asked: the expansions of parallel, two-wire and three-wire operations, cycle by cycle. */
#include "support/support.h"
#include <stdio.h>
#include <string.h>

enum { TEXT = 4096 };

struct recorder {
    char text[TEXT];
    uint8_t memory[256];
    unsigned reads_until_done; /* a write is seen to be done after so many readings */
    uint32_t busy_at;
    uint8_t busy_byte;
    unsigned busy, held_up_at;
    uint32_t time_us;
    unsigned silent; /* a two-wire device that does not answer so many times */
};

static struct recorder recorder;

static void note(const char *format, unsigned a, unsigned b)
{
    size_t used = strlen(recorder.text);
    if (used + 40 < TEXT)
        snprintf(recorder.text + used, TEXT - used, format, a, b);
}

static enum cm_status bus_write(struct cm_port *port, uint32_t address, uint16_t data,
                                uint32_t pulse_ns, uint32_t rest_ns)
{
    (void)port;
    note(pulse_ns || rest_ns ? "P%X=%X " : "%X=%X ", address, data);
    if (address < sizeof recorder.memory && recorder.reads_until_done) {
        recorder.busy = recorder.reads_until_done;
        recorder.busy_byte = (uint8_t)data;
    }
    if (address < sizeof recorder.memory)
        recorder.memory[address] = (uint8_t)data;
    return CM_OK;
}

static enum cm_status bus_read(struct cm_port *port, uint32_t address, uint8_t *bytes, uint32_t count)
{
    (void)port;
    bool held_up = recorder.busy && recorder.busy == recorder.held_up_at;
    recorder.time_us += held_up ? 90 : 1;
    for (uint32_t i = 0; i < count; i++) {
        if (recorder.busy) {
            recorder.busy--;
            bytes[i] = (uint8_t)((~recorder.busy_byte & 0x80) | (recorder.busy % 2 ? 0x40 : 0));
        } else {
            bytes[i] = recorder.memory[(address + i) % sizeof recorder.memory];
        }
    }
    if (held_up)
        recorder.busy = 0; // it was done in the meantime
    note("r%X*%u ", address, count);
    return CM_OK;
}

static enum cm_status two_wire(struct cm_port *port, const struct cm_transfer *transfer)
{
    (void)port;
    recorder.time_us += 100;
    if (recorder.silent) {
        recorder.silent--;
        note("%X? ", transfer->device, 0);
        return CM_NO_CHIP;
    }
    note("%X:", transfer->device, 0);
    for (uint8_t i = 0; i < transfer->head_count; i++)
        note("%02X", transfer->head[i], 0);
    note("w%ur%u ", transfer->out_count, transfer->in_count);
    memset(transfer->in ? transfer->in : recorder.memory, 0x77, transfer->in_count);
    return CM_OK;
}

static enum cm_status line(struct cm_port *port, enum cm_line which, enum cm_level level)
{
    (void)port;
    if (which == CM_LINE_SELECT)
        note(level == CM_HIGH ? "[" : "] ", 0, 0);
    return CM_OK;
}

/* A three-wire part with every word 0x00: data, the 0 before them, and ready. */
static enum cm_status shift(struct cm_port *port, const uint8_t *out, uint8_t *in, uint32_t bytes)
{
    (void)port;
    for (uint32_t i = 0; i < bytes; i++)
        note("%02X", out ? out[i] : 0, 0);
    for (uint32_t i = 0; in && i < bytes; i++)
        in[i] = out ? 0 : 1;
    return CM_OK;
}

static void wait_us(struct cm_port *port, uint32_t us)
{
    (void)port;
    recorder.time_us += us;
}

static uint32_t now_us(struct cm_port *port)
{
    (void)port;
    return recorder.time_us;
}

static struct cm_port port = {.bus_write = bus_write,
                              .bus_read = bus_read,
                              .two_wire = two_wire,
                              .line = line,
                              .shift = shift,
                              .wait_us = wait_us,
                              .now_us = now_us};
static struct cm_trouble trouble;

static enum cm_status run_cycles(struct cm_cycles cycles)
{
    struct cm_op op = {.kind = CM_OP_CYCLES, .expand = cm_expand_cycles, .cycles = cycles};
    recorder.text[0] = '\0';
    return cm_port_run(&port, &op, 1, &trouble);
}

static const struct cm_cycle UNLOCK[] = {{0x5555, 0xAA}, {0x2AAA, 0x55}, {0x5555, 0xA0}};

static void test_units_are_unlocked_one_by_one_and_blank_ones_spared(void **state)
{
    static const uint8_t BYTES[] = {0x12, 0xFF, 0x34};
    (void)state;
    memset(&recorder, 0, sizeof recorder);
    assert_int_equal(run_cycles((struct cm_cycles){.before = UNLOCK,
                                                   .before_count = 3,
                                                   .data = CM_EACH_OUT,
                                                   .first = 0x10,
                                                   .count = 3,
                                                   .piece = 1,
                                                   .sparing = true,
                                                   .out = BYTES}),
                     CM_OK);
    assert_string_equal(recorder.text, "5555=AA 2AAA=55 5555=A0 10=12 5555=AA 2AAA=55 5555=A0 12=34 ");
}

static void test_pages_end_where_they_must_and_are_read_back(void **state)
{
    static const uint8_t BYTES[] = {1, 2, 3, 4, 5};
    (void)state;
    memset(&recorder, 0, sizeof recorder);
    assert_int_equal(
        run_cycles((struct cm_cycles){.data = CM_EACH_OUT, .first = 0x3E, .count = 5, .piece = 0x40, .out = BYTES, .verify = true}),
        CM_OK);
    assert_string_equal(recorder.text, "3E=1 3F=2 r3E*2 40=3 41=4 42=5 r40*3 ");
}

static void test_a_write_is_waited_for_by_its_status(void **state)
{
    static const uint8_t BYTE[] = {0x80};
    (void)state;
    memset(&recorder, 0, sizeof recorder);
    recorder.reads_until_done = 5;
    assert_int_equal(run_cycles((struct cm_cycles){.data = CM_EACH_OUT, .first = 8, .count = 1, .out = BYTE, .timeout_us = 100}),
                     CM_OK);
    assert_string_equal(recorder.text, "8=80 r8*1 r8*1 r8*1 r8*1 r8*1 r8*1 r8*1 ");
    recorder.reads_until_done = 1000;
    assert_int_equal(run_cycles((struct cm_cycles){.data = CM_EACH_OUT, .first = 8, .count = 1, .out = BYTE, .timeout_us = 100}),
                     CM_TIMED_OUT);
    assert_int_equal(trouble.address, 8);
    recorder.busy = recorder.reads_until_done = 0;
}

static void test_differences_name_their_address(void **state)
{
    uint8_t wanted[100];
    (void)state;
    memset(&recorder, 0, sizeof recorder);
    memcpy(wanted, recorder.memory, sizeof wanted);
    wanted[70] = 1;
    assert_int_equal(run_cycles((struct cm_cycles){.data = CM_EACH_MATCH, .first = 0, .count = sizeof wanted, .out = wanted}),
                     CM_DIFFERS);
    assert_int_equal(trouble.address, 70);
    assert_int_equal(trouble.expected, 1);
    assert_string_equal(recorder.text, "r0*4 r4*64 r44*32 "); // small at first
    memset(recorder.memory, 0xFF, sizeof recorder.memory);
    assert_int_equal(run_cycles((struct cm_cycles){.data = CM_EACH_FITS, .first = 0, .count = sizeof wanted, .out = wanted}),
                     CM_OK);
    recorder.memory[70] = 0xFE;
    assert_int_equal(run_cycles((struct cm_cycles){.data = CM_EACH_FITS, .first = 0, .count = sizeof wanted, .out = wanted}),
                     CM_DIFFERS);
}

static void test_wide_buses_carry_two_bytes_a_cycle(void **state)
{
    static const uint8_t BYTES[] = {0x34, 0x12, 0x78, 0x56};
    uint8_t in[2];
    (void)state;
    memset(&recorder, 0, sizeof recorder);
    assert_int_equal(
        run_cycles((struct cm_cycles){.wide = true, .data = CM_EACH_OUT, .first = 0x20, .count = 4, .piece = 2, .out = BYTES}),
        CM_OK);
    assert_string_equal(recorder.text, "10=1234 11=5678 ");
    assert_int_equal(run_cycles((struct cm_cycles){.wide = true, .data = CM_EACH_IN, .first = 0x20, .count = 2, .in = in}), CM_OK);
    assert_string_equal(recorder.text, "r10*1 ");
}

static void test_erases_samples_and_bare_commands(void **state)
{
    uint8_t samples[3];
    (void)state;
    memset(&recorder, 0xFF, sizeof recorder.memory + TEXT);
    recorder.reads_until_done = recorder.busy = recorder.silent = 0;
    assert_int_equal(run_cycles((struct cm_cycles){.data = CM_EACH_OUT, .fill = 0x30, .first = 0x40, .count = 0x80, .piece = 0x40}),
                     CM_OK);
    assert_string_equal(recorder.text, "40=30 80=30 ");
    recorder.memory[0x40] = 7;
    assert_int_equal(
        run_cycles((struct cm_cycles){.data = CM_EACH_IN, .first = 0, .count = 0x90, .piece = 0x40, .sample = 1, .in = samples}),
        CM_OK);
    assert_string_equal(recorder.text, "r0*1 r40*1 r80*1 ");
    assert_int_equal(samples[1], 7);
    assert_int_equal(run_cycles((struct cm_cycles){.before = UNLOCK, .before_count = 2}), CM_OK);
    assert_string_equal(recorder.text, "5555=AA 2AAA=55 ");
    assert_int_equal(
        run_cycles((struct cm_cycles){
            .data = CM_EACH_OUT, .first = 1, .count = 1, .out = samples + 1, .pulse_ns = 100}),
        CM_OK);
    assert_string_equal(recorder.text, "P1=7 ");
}

/* What is spared is read in place of a second reading of all; what was waited for is right already.
 */
static void spared_units_are_compared_in_their_place(void **state)
{
    static const uint8_t BYTES[] = {0x12, 0xFF, 0xFF, 0x34};
    struct cm_cycles cycles = {.data = CM_EACH_OUT,
                               .first = 0x10,
                               .count = 4,
                               .piece = 1,
                               .sparing = true,
                               .verify = true,
                               .out = BYTES,
                               .timeout_us = 10};
    (void)state;
    memset(&recorder, 0, sizeof recorder);
    memset(recorder.memory, 0xFF, sizeof recorder.memory);
    assert_int_equal(run_cycles(cycles), CM_OK);
    assert_string_equal(recorder.text, "10=12 r10*1 r10*1 r11*2 13=34 r13*1 r13*1 ");
    recorder.memory[0x12] = 0xFE;
    assert_int_equal(run_cycles(cycles), CM_DIFFERS);
    assert_int_equal(trouble.address, 0x12);
}

/* The port is held up behind one reading: what it sees then are two readings more, before it gives
 * up. */
static void a_port_that_was_held_up_asks_once_more(void **state)
{
    static const uint8_t BYTE[] = {0x80};
    (void)state;
    for (unsigned reads = 1; reads < 5; reads++) {
        memset(&recorder, 0, sizeof recorder);
        recorder.reads_until_done = 4;
        recorder.held_up_at = reads;
        assert_int_equal(
            run_cycles((struct cm_cycles){
                .data = CM_EACH_OUT, .first = 8, .count = 1, .out = BYTE, .timeout_us = 20}),
            CM_OK);
    }
    recorder.reads_until_done = recorder.held_up_at = 0;
}

/* --- two wires --------------------------------------------------------------------------------------------------------------- */

static enum cm_status run_two(struct cm_two_wire two)
{
    struct cm_op op = {.kind = CM_OP_TWO_WIRE, .expand = cm_expand_two_wire, .two = two};
    recorder.text[0] = '\0';
    return cm_port_run(&port, &op, 1, &trouble);
}

static void test_block_bits_go_into_the_device(void **state)
{
    uint8_t bytes[300];
    (void)state;
    memset(&recorder, 0, sizeof recorder);
    assert_int_equal(
        run_two((struct cm_two_wire){
            .device = 0x50, .address_bytes = 1, .data = CM_EACH_IN, .first = 0x1F0, .count = 32, .piece = 0x100, .in = bytes}),
        CM_OK);
    assert_string_equal(recorder.text, "51:F0w0r16 52:00w0r16 ");
    assert_int_equal(
        run_two((struct cm_two_wire){
            .device = 0x50, .address_bytes = 2, .block_shift = 2, .data = CM_EACH_IN, .first = 0x1FFFF, .count = 1, .in = bytes}),
        CM_OK);
    assert_string_equal(recorder.text, "54:FFFFw0r1 ");
}

static void test_pages_are_written_waited_for_and_read_back(void **state)
{
    uint8_t bytes[24];
    (void)state;
    memset(&recorder, 0, sizeof recorder);
    memset(bytes, 0x77, sizeof bytes);
    assert_int_equal(run_two((struct cm_two_wire){.device = 0x50,
                                                  .address_bytes = 2,
                                                  .data = CM_EACH_OUT,
                                                  .first = 8,
                                                  .count = 24,
                                                  .piece = 16,
                                                  .out = bytes,
                                                  .verify = true,
                                                  .timeout_us = 1000}),
                     CM_OK);
    assert_string_equal(
        recorder.text,
        "50:0008w8r0 50:w0r0 50:0008w0r8 50:0010w16r0 50:w0r0 50:0010w0r16 "); // each with its
                                                                               // address
    recorder.silent = 3;
    assert_int_equal(run_two((struct cm_two_wire){.device = 0x50, .timeout_us = 1000}), CM_OK);
    assert_string_equal(recorder.text, "50? 50? 50? 50:w0r0 ");
    recorder.silent = 100;
    assert_int_equal(run_two((struct cm_two_wire){.device = 0x50, .timeout_us = 1000}), CM_TIMED_OUT);
    recorder.silent = 100;
    assert_int_equal(run_two((struct cm_two_wire){.device = 0x50, .address_bytes = 1, .data = CM_EACH_IN, .count = 1, .in = bytes}),
                     CM_CONTACT_LOST);
}

/* --- three wires -------------------------------------------------------------------------------------------------------------- */

static void test_instructions_are_filled_up_in_front(void **state)
{
    static const uint8_t WORD[] = {0x00, 0x00};
    uint8_t in[2];
    (void)state;
    memset(&recorder, 0, sizeof recorder);
    struct cm_op op = {.kind = CM_OP_THREE_WIRE,
                       .expand = cm_expand_three_wire,
                       .three = {.address_bits = 6, .word_bytes = 2, .data = CM_EACH_IN, .first = 6, .count = 2, .in = in}};
    assert_int_equal(cm_port_run(&port, &op, 1, &trouble), CM_OK);
    assert_string_equal(recorder.text, "[03060000] "); // 000000 1 10 000011 0: the last is the part's 0
    recorder.text[0] = '\0';
    op.three.data = CM_EACH_OUT;
    op.three.out = WORD;
    op.three.timeout_us = 100;
    assert_int_equal(cm_port_run(&port, &op, 1, &trouble), CM_DIFFERS);              // this part reads 0101
    assert_string_equal(recorder.text, "[0130] [01430000] [00] [03060000] [0100] "); // enable, write, ready, read back, disable
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(test_units_are_unlocked_one_by_one_and_blank_ones_spared),
        cmocka_unit_test(test_pages_end_where_they_must_and_are_read_back),
        cmocka_unit_test(test_a_write_is_waited_for_by_its_status),
        cmocka_unit_test(spared_units_are_compared_in_their_place),
        cmocka_unit_test(a_port_that_was_held_up_asks_once_more),
        cmocka_unit_test(test_differences_name_their_address),
        cmocka_unit_test(test_wide_buses_carry_two_bytes_a_cycle),
        cmocka_unit_test(test_erases_samples_and_bare_commands),
        cmocka_unit_test(test_block_bits_go_into_the_device),
        cmocka_unit_test(test_pages_are_written_waited_for_and_read_back),
        cmocka_unit_test(test_instructions_are_filled_up_in_front),
    };
    return cmocka_run_group_tests(tests, NULL, NULL);
}
