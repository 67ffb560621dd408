/* Hardware: ports that write down what they are asked: exchanges on the parallel bus, on I2C, on
 * three wires and on SPI, cycle by cycle. */
#include "support/support.h"
#include <coldmint/batch.h>
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
    unsigned silent; /* an I2C device that does not answer so many times */
};

static struct recorder recorder;

static void note(const char *format, unsigned a, unsigned b)
{
    size_t used = strlen(recorder.text);
    if (used + 40 < TEXT)
        snprintf(recorder.text + used, TEXT - used, format, a, b);
}

static enum cm_status bus_write(const struct cm_port *port, uint32_t address, uint16_t data,
                                const struct cm_pulse *pulse)
{
    (void)port;
    note(pulse ? "P%X=%X " : "%X=%X ", address, data);
    if (address < sizeof recorder.memory && recorder.reads_until_done) {
        recorder.busy = recorder.reads_until_done;
        recorder.busy_byte = (uint8_t)data;
    }
    if (address < sizeof recorder.memory)
        recorder.memory[address] = (uint8_t)data;
    return CM_OK;
}

static enum cm_status bus_read(const struct cm_port *port, uint32_t address, uint8_t *bytes,
                               uint32_t count)
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

static enum cm_status transfer_bytes(const struct cm_port *port, const struct cm_transfer *transfer)
{
    (void)port;
    recorder.time_us += 100;
    if (recorder.silent) {
        recorder.silent--;
        note("%X? ", transfer->device, 0);
        return CM_NACK;
    }
    note("%X:", transfer->device, 0);
    for (uint8_t i = 0; i < transfer->head_count; i++)
        note("%02X", transfer->head[i], 0);
    note("w%ur%u ", transfer->out_count, transfer->in_count);
    memset(transfer->in ? transfer->in : recorder.memory, 0x77, transfer->in_count);
    return CM_OK;
}

static enum cm_status line(const struct cm_port *port, enum cm_line which, enum cm_level level)
{
    (void)port;
    if (which == CM_LINE_SELECT)
        note(level == CM_HIGH ? "[" : "] ", 0, 0);
    return CM_OK;
}

/* A three-wire part with every word 0x00: data, the 0 before them, and ready. */
static enum cm_status shift(const struct cm_port *port, const uint8_t *out, uint8_t *in,
                            uint32_t bytes)
{
    (void)port;
    for (uint32_t i = 0; i < bytes; i++)
        note("%02X", out ? out[i] : 0, 0);
    for (uint32_t i = 0; in && i < bytes; i++)
        in[i] = out ? 0 : 1;
    return CM_OK;
}

static void wait_us(const struct cm_port *port, uint32_t us)
{
    (void)port;
    recorder.time_us += us;
}

static uint32_t now_us(const struct cm_port *port)
{
    (void)port;
    return recorder.time_us;
}

/* A list of frames: each in brackets, with so many bytes in behind its head. */
static enum cm_status send_frames(const struct cm_port *port, const struct cm_frame *frames,
                                  uint8_t count)
{
    (void)port;
    recorder.time_us += 100;
    note("{", 0, 0);
    for (uint8_t i = 0; i < count; i++) {
        note("[", 0, 0);
        for (uint32_t byte = 0; byte < frames[i].head_count; byte++)
            note("%02X", frames[i].head[byte], 0);
        for (uint32_t byte = 0; frames[i].out && byte < frames[i].count; byte++)
            note("%02X", frames[i].out[byte], 0);
        if (frames[i].in) {
            note("r%u", frames[i].count, 0);
            memset(frames[i].in, recorder.silent ? 1 : 2, frames[i].count);
            recorder.silent -= recorder.silent > 0;
        }
        note("]", 0, 0);
    }
    note("} ", 0, 0);
    return CM_OK;
}

static const struct cm_lines LINES = {.line = line, .wait_us = wait_us, .now_us = now_us};
static const struct cm_spi SPI = {.shift = shift};
static const struct cm_spi SPI_PACKED = {
    .shift = shift, .frames = send_frames, .packed = cm_spi_packed};
static const struct cm_parallel PARALLEL = {.write = bus_write, .read = bus_read};
static const struct cm_i2c I2C = {.transfer = transfer_bytes};
static struct cm_port port = {
    .lines = &LINES, .spi = &SPI, .parallel = &PARALLEL, .i2c = &I2C, .traits = {.data_lines = 8}};
static struct cm_run run;

/* Runs operations from a clean record. */
static enum cm_status run_ops(const struct cm_bus *bus, struct cm_op *ops, uint32_t count)
{
    recorder.text[0] = '\0';
    run = (struct cm_run){.port = &port, .bus = bus, .ops = ops, .op_count = count};
    return cm_port_run(&run);
}

static struct cm_op repeat(uint32_t first, uint32_t count, uint32_t chunk, uint8_t ops)
{
    return (struct cm_op){.kind = CM_OP_REPEAT, .repeat = {first, count, chunk, ops}};
}

static struct cm_op poll(uint32_t timeout_us)
{
    return (struct cm_op){.kind = CM_OP_POLL, .poll = {.timeout_us = timeout_us}};
}

/* --- the parallel bus -------------------------------------------------------------------- */

static const struct cm_cycle UNLOCK[] = {{0x5555, 0xAA}, {0x2AAA, 0x55}, {0x5555, 0xA0}};

static struct cm_op cycles(uint8_t data, const uint8_t *bytes, uint8_t unlock_count)
{
    struct cm_op op = {.kind = CM_OP_EXCHANGE, .exchange = {.data = data}};
    op.exchange.out = bytes;
    op.exchange.cycles.list = UNLOCK;
    op.exchange.head_count = unlock_count;
    return op;
}

static void units_are_unlocked_one_by_one_and_blank_ones_spared(void **state)
{
    static const uint8_t BYTES[] = {0x12, 0xFF, 0x34};
    struct cm_op ops[] = {repeat(0x10, 3, 1, 1), cycles(CM_DATA_OUT | CM_SPARE, BYTES, 3)};
    (void)state;
    memset(&recorder, 0, sizeof recorder);
    assert_int_equal(run_ops(&cm_bus_parallel, ops, 2), CM_OK);
    assert_string_equal(recorder.text,
                        "5555=AA 2AAA=55 5555=A0 10=12 5555=AA 2AAA=55 5555=A0 12=34 ");
}

static void pages_end_where_they_must_and_are_read_back(void **state)
{
    static const uint8_t BYTES[] = {1, 2, 3, 4, 5};
    struct cm_op ops[] = {repeat(0x3E, 5, 0x40, 2), cycles(CM_DATA_OUT, BYTES, 0),
                          cycles(CM_DATA_MATCH, BYTES, 0)};
    (void)state;
    memset(&recorder, 0, sizeof recorder);
    assert_int_equal(run_ops(&cm_bus_parallel, ops, 3), CM_OK);
    assert_string_equal(recorder.text, "3E=1 3F=2 r3E*2 40=3 41=4 42=5 r40*3 ");
}

/* Writes 80 to address 8 and waits until it is done. */
static enum cm_status write_and_wait(uint32_t timeout_us)
{
    static const uint8_t BYTE[] = {0x80};
    struct cm_op ops[] = {repeat(8, 1, 0, 3), cycles(CM_DATA_OUT, BYTE, 0), poll(timeout_us),
                          cycles(CM_DATA_DONE, BYTE, 0)};
    return run_ops(&cm_bus_parallel, ops, 4);
}

/* One reading each time, until it is right. */
static void a_write_is_waited_for_by_its_status(void **state)
{
    (void)state;
    memset(&recorder, 0, sizeof recorder);
    recorder.reads_until_done = 5;
    assert_int_equal(write_and_wait(100), CM_OK);
    assert_string_equal(recorder.text, "8=80 r8*1 r8*1 r8*1 r8*1 r8*1 r8*1 ");
    recorder.reads_until_done = 1000;
    assert_int_equal(write_and_wait(100), CM_TIMED_OUT);
    assert_int_equal(run.address, 8);
    assert_int_equal(run.op, 3);
    recorder.busy = recorder.reads_until_done = 0;
}

/* The port is held up behind one reading: what it sees then is one reading more, before it gives
 * up. */
static void a_port_that_was_held_up_asks_once_more(void **state)
{
    (void)state;
    for (unsigned reads = 1; reads < 5; reads++) {
        memset(&recorder, 0, sizeof recorder);
        recorder.reads_until_done = 4;
        recorder.held_up_at = reads;
        assert_int_equal(write_and_wait(20), CM_OK);
    }
    recorder.reads_until_done = recorder.held_up_at = 0;
}

/* A bit that never comes right ends the wait, and is named; it is looked at once more 1 us later.
 */
static void a_unit_that_is_done_and_wrong_differs(void **state)
{
    static const uint8_t BYTE[] = {0x81};
    struct cm_op ops[] = {repeat(8, 1, 0, 2), poll(1000), cycles(CM_DATA_DONE, BYTE, 0)};
    (void)state;
    memset(&recorder, 0, sizeof recorder);
    recorder.memory[8] = 0x80;
    assert_int_equal(run_ops(&cm_bus_parallel, ops, 3), CM_DIFFERS);
    assert_string_equal(recorder.text, "r8*1 r8*1 r8*1 ");
    assert_int_equal(run.expected, 0x81);
    assert_int_equal(run.found, 0x80);
    assert_int_equal(run.address, 8);
}

static void differences_name_their_address(void **state)
{
    uint8_t wanted[100];
    struct cm_op match[] = {repeat(0, sizeof wanted, 0, 1), cycles(CM_DATA_MATCH, wanted, 0)},
                 fits[] = {repeat(0, sizeof wanted, 0, 1), cycles(CM_DATA_FITS, wanted, 0)};
    (void)state;
    memset(&recorder, 0, sizeof recorder);
    memcpy(wanted, recorder.memory, sizeof wanted);
    wanted[70] = 1;
    assert_int_equal(run_ops(&cm_bus_parallel, match, 2), CM_DIFFERS);
    assert_int_equal(run.address, 70);
    assert_int_equal(run.expected, 1);
    assert_string_equal(recorder.text, "r0*4 r4*64 r44*32 "); // small at first
    memset(recorder.memory, 0xFF, sizeof recorder.memory);
    assert_int_equal(run_ops(&cm_bus_parallel, fits, 2), CM_OK);
    recorder.memory[70] = 0xFE;
    assert_int_equal(run_ops(&cm_bus_parallel, fits, 2), CM_DIFFERS);
}

static void wide_buses_carry_two_bytes_a_cycle(void **state)
{
    static const uint8_t BYTES[] = {0x34, 0x12, 0x78, 0x56};
    uint8_t in[2];
    struct cm_op out_ops[] = {repeat(0x20, 4, 2, 1), cycles(CM_DATA_OUT, BYTES, 0)},
                 in_ops[] = {repeat(0x20, 2, 0, 1), cycles(CM_DATA_IN, in, 0)};
    (void)state;
    memset(&recorder, 0, sizeof recorder);
    port.traits.data_lines = 16;
    assert_int_equal(run_ops(&cm_bus_parallel, out_ops, 2), CM_OK);
    assert_string_equal(recorder.text, "10=1234 11=5678 ");
    assert_int_equal(run_ops(&cm_bus_parallel, in_ops, 2), CM_OK);
    assert_string_equal(recorder.text, "r10*1 ");
    port.traits.data_lines = 8;
}

static void erases_samples_and_bare_commands(void **state)
{
    static const struct cm_pulse PULSE = {100, 50};
    uint8_t samples[3];
    struct cm_op erase[] = {repeat(0x40, 0x80, 0x40, 1), cycles(CM_DATA_OUT, NULL, 0)},
                 sample[] = {repeat(0, 0x90, 0x40, 1), cycles(CM_DATA_IN, samples, 0)},
                 command[] = {cycles(CM_DATA_NONE, NULL, 2)},
                 pulse[] = {repeat(1, 1, 0, 1), cycles(CM_DATA_OUT, samples + 1, 0)};
    (void)state;
    memset(&recorder, 0, sizeof recorder);
    erase[1].exchange.want = 0x30;
    assert_int_equal(run_ops(&cm_bus_parallel, erase, 2), CM_OK);
    assert_string_equal(recorder.text, "40=30 80=30 ");
    recorder.memory[0x40] = 7;
    sample[1].exchange.count = 1;
    assert_int_equal(run_ops(&cm_bus_parallel, sample, 2), CM_OK);
    assert_string_equal(recorder.text, "r0*1 r40*1 r80*1 ");
    assert_int_equal(samples[1], 7);
    assert_int_equal(run_ops(&cm_bus_parallel, command, 1), CM_OK);
    assert_string_equal(recorder.text, "5555=AA 2AAA=55 ");
    pulse[1].exchange.cycles.pulse = &PULSE;
    assert_int_equal(run_ops(&cm_bus_parallel, pulse, 2), CM_OK);
    assert_string_equal(recorder.text, "P1=7 ");
}

/* What is spared is read in place of a second reading of all; what was waited for is right already.
 */
static void spared_units_are_compared_in_their_place(void **state)
{
    static const uint8_t BYTES[] = {0x12, 0xFF, 0xFF, 0x34};
    struct cm_op ops[] = {repeat(0x10, 4, 1, 3),
                          cycles(CM_DATA_OUT | CM_SPARE | CM_COMPARE, BYTES, 0), poll(10),
                          cycles(CM_DATA_DONE, BYTES, 0)};
    (void)state;
    memset(&recorder, 0, sizeof recorder);
    memset(recorder.memory, 0xFF, sizeof recorder.memory);
    assert_int_equal(run_ops(&cm_bus_parallel, ops, 4), CM_OK);
    assert_string_equal(recorder.text, "10=12 r10*1 r11*2 13=34 r13*1 ");
    recorder.memory[0x12] = 0xFE;
    assert_int_equal(run_ops(&cm_bus_parallel, ops, 4), CM_DIFFERS);
    assert_int_equal(run.address, 0x12);
}

/* --- I2C --------------------------------------------------------------------------------- */

static struct cm_op transfer(uint8_t address_bytes, uint8_t fold_turn, uint8_t data,
                             const uint8_t *bytes)
{
    struct cm_op op = {.kind = CM_OP_EXCHANGE,
                       .exchange = {.head = {0x50},
                                    .head_count = (uint8_t)(1 + address_bytes),
                                    .address_bytes = address_bytes,
                                    .fold_turn = fold_turn,
                                    .fold_mask = fold_turn ? 7 : 0,
                                    .data = data}};
    op.exchange.out = bytes;
    return op;
}

static void block_bits_go_into_the_device(void **state)
{
    uint8_t bytes[300];
    struct cm_op small[] = {repeat(0x1F0, 32, 0x100, 1), transfer(1, 8, CM_DATA_IN, bytes)},
                 large[] = {repeat(0x1FFFF, 1, 0, 1), transfer(2, 14, CM_DATA_IN, bytes)};
    (void)state;
    memset(&recorder, 0, sizeof recorder);
    assert_int_equal(run_ops(&cm_bus_i2c, small, 2), CM_OK);
    assert_string_equal(recorder.text, "51:F0w0r16 52:00w0r16 ");
    large[1].exchange.fold_mask = 4; // the others are the address's own
    assert_int_equal(run_ops(&cm_bus_i2c, large, 2), CM_OK);
    assert_string_equal(recorder.text, "54:FFFFw0r1 ");
}

static void pages_are_written_waited_for_and_read_back(void **state)
{
    uint8_t bytes[24];
    struct cm_op write[] = {repeat(8, 24, 16, 4), transfer(2, 0, CM_DATA_OUT, bytes), poll(1000),
                            transfer(0, 0, CM_DATA_NONE, NULL),
                            transfer(2, 0, CM_DATA_MATCH, bytes)},
                 ask[] = {poll(1000), transfer(0, 0, CM_DATA_NONE, NULL)},
                 read[] = {repeat(0, 1, 0, 1), transfer(1, 0, CM_DATA_IN, bytes)};
    (void)state;
    memset(&recorder, 0, sizeof recorder);
    memset(bytes, 0x77, sizeof bytes);
    assert_int_equal(run_ops(&cm_bus_i2c, write, 5), CM_OK);
    assert_string_equal( // each with its address
        recorder.text, "50:0008w8r0 50:w0r0 50:0008w0r8 50:0010w16r0 50:w0r0 50:0010w0r16 ");
    recorder.silent = 3;
    assert_int_equal(run_ops(&cm_bus_i2c, ask, 2), CM_OK);
    assert_string_equal(recorder.text, "50? 50? 50? 50:w0r0 ");
    recorder.silent = 100;
    assert_int_equal(run_ops(&cm_bus_i2c, ask, 2), CM_TIMED_OUT);
    recorder.silent = 100;
    // which a session makes lost contact of
    assert_int_equal(run_ops(&cm_bus_i2c, read, 2), CM_NACK);
    recorder.silent = 0;
}

static void long_readings_are_split_each_with_its_address(void **state)
{
    uint8_t bytes[40];
    struct cm_op in[] = {repeat(0x100, 40, 0, 1), transfer(2, 0, CM_DATA_IN, bytes)},
                 match[] = {repeat(0x100, 40, 0, 1), transfer(2, 0, CM_DATA_MATCH, bytes)};
    (void)state;
    memset(&recorder, 0, sizeof recorder);
    port.traits.transfer_max = 16;
    assert_int_equal(run_ops(&cm_bus_i2c, in, 2), CM_OK);
    assert_string_equal(recorder.text, "50:0100w0r16 50:0110w0r16 50:0120w0r8 ");
    assert_int_equal(run_ops(&cm_bus_i2c, match, 2), CM_OK);
    assert_string_equal(recorder.text, "50:0100w0r4 50:0104w0r16 50:0114w0r16 50:0124w0r4 ");
    port.traits.transfer_max = 0;
}

/* --- three wires ------------------------------------------------------------------------- */

static void instructions_are_filled_up_in_front(void **state)
{
    static const uint8_t WORD[] = {0x00, 0x00};
    uint8_t in[2];
    struct cm_op read[] = {repeat(6, 2, 2, 1),
                           {.kind = CM_OP_EXCHANGE,
                            .exchange = {.head = {0x03, 0x00}, // 000000 1 10 aaaaaa 0: the part's 0
                                         .head_count = 2,
                                         .address_bytes = 2,
                                         .mask = 1,
                                         .data = CM_DATA_IN}}},
                 write[] = {repeat(6, 2, 2, 1),
                            {.kind = CM_OP_EXCHANGE,
                             .exchange = {.head = {0x01, 0x40},
                                          .head_count = 2,
                                          .address_bytes = 2,
                                          .address_turn = 1,
                                          .data = CM_DATA_OUT}}},
                 ready[] = {
                     poll(100),
                     {.kind = CM_OP_EXCHANGE, .exchange = {.dummies = 1, .mask = 1, .want = 1}}};
    (void)state;
    memset(&recorder, 0, sizeof recorder);
    read[1].exchange.in = in;
    write[1].exchange.out = WORD;
    assert_int_equal(run_ops(&cm_bus_three_wire, read, 2), CM_OK);
    assert_string_equal(recorder.text, "[03060000] ");
    assert_int_equal(run_ops(&cm_bus_three_wire, write, 2), CM_OK);
    assert_string_equal(recorder.text, "[01430000] ");
    assert_int_equal(run_ops(&cm_bus_three_wire, ready, 2), CM_TIMED_OUT);
    read[1].exchange.want = 1;
    assert_int_equal(run_ops(&cm_bus_three_wire, read, 2), CM_BAD_ANSWER);
}

/* --- SPI --------------------------------------------------------------------------------- */

static struct cm_op frame(uint8_t opcode, uint8_t address_bytes, uint8_t data, const uint8_t *bytes)
{
    struct cm_op op = {.kind = CM_OP_EXCHANGE,
                       .exchange = {.head = {opcode},
                                    .head_count = (uint8_t)(1 + address_bytes),
                                    .address_bytes = address_bytes,
                                    .data = data}};
    op.exchange.out = bytes;
    return op;
}

static struct cm_op status_of(uint8_t mask, uint8_t want, uint8_t data)
{
    struct cm_op op = frame(0x05, 0, data, NULL);
    op.exchange.dummies = 1;
    op.exchange.mask = mask;
    op.exchange.want = want;
    return op;
}

/* A page: enable, latch, page and first look at busy are one call; the answer is 02, not busy. */
static void a_page_is_two_calls_when_packed(void **state)
{
    static const uint8_t BYTES[] = {2, 2, 2};
    struct cm_op ops[] = {repeat(0xFF, 3, 0x100, 6),
                          frame(0x06, 0, CM_DATA_NONE, NULL),
                          status_of(3, 2, CM_LATE),
                          frame(0x02, 3, CM_DATA_OUT, BYTES),
                          poll(1000),
                          status_of(1, 0, CM_DATA_NONE),
                          frame(0x03, 3, CM_DATA_MATCH, BYTES)};
    (void)state;
    memset(&recorder, 0, sizeof recorder);
    port.spi = &SPI_PACKED;
    assert_int_equal(run_ops(&cm_bus_spi, ops, 7), CM_OK);
    assert_string_equal(recorder.text, "{[06][05r1][020000FF02][05r1]} {[030000FFr1]} "
                                       "{[06][05r1][020001000202][05r1]} {[03000100r2]} ");
    ops[4].poll.early_us = 500; // not before
    ops[0].repeat.count = 1;
    assert_int_equal(run_ops(&cm_bus_spi, ops, 7), CM_OK);
    assert_string_equal(recorder.text, "{[06][05r1][020000FF02]} {[05r1]} {[030000FFr1]} ");
    port.spi = &SPI;
}

/* The latch that is judged late fails as it would have; a poll that does not hold at once goes on.
 */
static void packed_checks_fail_in_their_order(void **state)
{
    static const uint8_t BYTES[] = {2};
    struct cm_op ops[] = {repeat(0, 1, 0, 5),
                          frame(0x06, 0, CM_DATA_NONE, NULL),
                          status_of(3, 2, CM_LATE),
                          frame(0x02, 3, CM_DATA_OUT, BYTES),
                          poll(1000),
                          status_of(1, 0, CM_DATA_NONE)};
    (void)state;
    memset(&recorder, 0, sizeof recorder);
    port.spi = &SPI_PACKED;
    recorder.silent = 100; // every answer is 01
    assert_int_equal(run_ops(&cm_bus_spi, ops, 6), CM_BAD_ANSWER);
    assert_int_equal(run.op, 2);
    assert_int_equal(run.found, 1);
    ops[2].exchange.mask = 0;
    recorder.silent = 2; // busy so often
    assert_int_equal(run_ops(&cm_bus_spi, ops, 6), CM_OK);
    assert_string_equal(recorder.text, "{[06][0500][0200000002][05r1]} {[05r1]} {[05r1]} ");
    recorder.silent = 100;
    assert_int_equal(run_ops(&cm_bus_spi, ops, 6), CM_TIMED_OUT);
    assert_int_equal(run.op, 5);
    ops[4].poll.floating = 1; // what only a floating line says: nobody asks again
    assert_int_equal(run_ops(&cm_bus_spi, ops, 6), CM_CONTACT_LOST);
    assert_string_equal(recorder.text, "{[06][0500][0200000002][05r1]} ");
    recorder.silent = 0;
    port.spi = &SPI;
}

/* No call is longer than the port takes: what is too long is split, or goes by single calls. */
static void packed_calls_keep_to_the_longest(void **state)
{
    uint8_t bytes[40];
    struct cm_op read[] = {repeat(0, 40, 0, 1), frame(0x03, 3, CM_DATA_IN, bytes)},
                 write[] = {repeat(0, 40, 0, 1), frame(0x02, 3, CM_DATA_OUT, bytes)},
                 pair[] = {frame(0x06, 0, CM_DATA_NONE, NULL), repeat(0, 18, 0, 1),
                           frame(0x02, 3, CM_DATA_OUT, bytes)};
    (void)state;
    memset(&recorder, 0, sizeof recorder);
    port.spi = &SPI_PACKED;
    port.traits.transfer_max = 28;
    assert_int_equal(run_ops(&cm_bus_spi, read, 2), CM_OK);
    assert_string_equal(recorder.text, "{[03000000r20]} {[03000014r20]} ");
    memset(bytes, 0, sizeof bytes);
    assert_int_equal(run_ops(&cm_bus_spi, write, 2), CM_OK);
    assert_true(strncmp(recorder.text, "] 02000000", 10) == 0); // SELECT low, then by itself
    assert_int_equal(run_ops(&cm_bus_spi, pair, 3), CM_OK);
    assert_true(strncmp(recorder.text, "{[06]} {[02", 11) == 0);
    port.traits.transfer_max = 0;
    port.spi = &SPI;
}

/* Samples of a memory, a few bytes of each chunk, share calls, in which their bytes stay in order.
 */
static void samples_share_calls(void **state)
{
    uint8_t bytes[20];
    struct cm_op ops[] = {repeat(0x80, 0x1300, 0x100, 1), frame(0x03, 3, CM_DATA_IN, bytes)};
    (void)state;
    memset(&recorder, 0, sizeof recorder);
    memset(bytes, 0, sizeof bytes);
    ops[1].exchange.count = 1;
    port.spi = &SPI_PACKED;
    assert_int_equal(run_ops(&cm_bus_spi, ops, 2), CM_OK);
    const char *second = strchr(recorder.text + 1, '{');
    assert_true(strncmp(recorder.text, "{[03000080r1][03000100r1][03000200r1]", 37) == 0);
    assert_string_equal(second, "{[03001000r1][03001100r1][03001200r1][03001300r1]} ");
    for (size_t i = 0; i < sizeof bytes; i++)
        assert_int_equal(bytes[i], 2);
    port.traits.transfer_max = 24; // a head and a byte are five
    ops[0].repeat.count = 0x500;
    assert_int_equal(run_ops(&cm_bus_spi, ops, 2), CM_OK);
    assert_string_equal(recorder.text, "{[03000080r1][03000100r1][03000200r1][03000300r1]} "
                                       "{[03000400r1][03000500r1]} ");
    port.traits.transfer_max = 0;
    port.spi = &SPI;
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(units_are_unlocked_one_by_one_and_blank_ones_spared),
        cmocka_unit_test(pages_end_where_they_must_and_are_read_back),
        cmocka_unit_test(a_write_is_waited_for_by_its_status),
        cmocka_unit_test(a_port_that_was_held_up_asks_once_more),
        cmocka_unit_test(a_unit_that_is_done_and_wrong_differs),
        cmocka_unit_test(differences_name_their_address),
        cmocka_unit_test(wide_buses_carry_two_bytes_a_cycle),
        cmocka_unit_test(erases_samples_and_bare_commands),
        cmocka_unit_test(spared_units_are_compared_in_their_place),
        cmocka_unit_test(block_bits_go_into_the_device),
        cmocka_unit_test(pages_are_written_waited_for_and_read_back),
        cmocka_unit_test(long_readings_are_split_each_with_its_address),
        cmocka_unit_test(instructions_are_filled_up_in_front),
        cmocka_unit_test(a_page_is_two_calls_when_packed),
        cmocka_unit_test(packed_checks_fail_in_their_order),
        cmocka_unit_test(packed_calls_keep_to_the_longest),
        cmocka_unit_test(samples_share_calls),
    };
    return cmocka_run_group_tests(tests, NULL, NULL);
}
