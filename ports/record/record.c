/*
 * Records what crosses the wires.
 *
 *     $timescale 1 ns $end              then changes, in the order of time:
 *     $var wire 1 r RESET $end             #20360000      nanoseconds
 *     ...                                  1c             SCK is high
 *     $enddefinitions $end                 0o             MOSI is low
 */
#include "record.h"
#include <coldmint/batch.h>
#include <string.h>

static const struct {
    char code;
    const char *name;
} WIRES[CM_LINE_COUNT] = {[CM_LINE_RESET] = {'r', "RESET"},   [CM_LINE_SCK] = {'c', "SCK"},
                          [CM_LINE_MOSI] = {'o', "MOSI"},     [CM_LINE_MISO] = {'i', "MISO"},
                          [CM_LINE_SELECT] = {'s', "SELECT"}, [CM_LINE_WP] = {'w', "WP"},
                          [CM_LINE_HOLD] = {'h', "HOLD"},     [CM_LINE_CE] = {'e', "CE"},
                          [CM_LINE_OE] = {'u', "OE"},         [CM_LINE_WE] = {'p', "WE"},
                          [CM_LINE_SDA] = {'d', "SDA"},       [CM_LINE_SCL] = {'l', "SCL"}};

enum { SUPPLY_CODE = 'v', ADDRESS_CODE = 'a', DATA_CODE = 'b', PIECE = 64 };

/* --- changes ----------------------------------------------------------------------------- */

static void update_clock(struct cm_recorder *recorder)
{
    uint32_t now_us = recorder->inner->lines->now_us(recorder->inner);
    recorder->clock_ns += (uint64_t)(uint32_t)(now_us - recorder->last_us) * 1000;
    recorder->last_us = now_us;
    if (recorder->inner->state)
        recorder->state.restarts = recorder->inner->state->restarts;
}

static void write_time(struct cm_recorder *recorder, uint64_t time_ns)
{
    if (time_ns > recorder->time_ns) {
        fprintf(recorder->stream, "#%llu\n", (unsigned long long)time_ns);
        recorder->time_ns = time_ns;
    }
}

static void change(struct cm_recorder *recorder, enum cm_line line, char level, uint64_t time_ns)
{
    if (recorder->levels[line] == level)
        return;
    recorder->levels[line] = level;
    write_time(recorder, time_ns);
    fprintf(recorder->stream, "%c%c\n", level, WIRES[line].code);
}

static void write_header(struct cm_recorder *recorder)
{
    fprintf(recorder->stream, "$timescale 1 ns $end\n$scope module target $end\n");
    for (int i = 0; i < CM_LINE_COUNT; i++) {
        if (WIRES[i].code)
            fprintf(recorder->stream, "$var wire 1 %c %s $end\n", WIRES[i].code, WIRES[i].name);
    }
    if (recorder->inner->traits.data_lines)
        fprintf(recorder->stream, "$var wire 32 %c ADDRESS $end\n$var wire 16 %c DATA $end\n",
                ADDRESS_CODE, DATA_CODE);
    fprintf(recorder->stream,
            "$var real 64 %c SUPPLY_MV $end\n$upscope $end\n$enddefinitions $end\n#0\n",
            SUPPLY_CODE);
    for (int i = 0; i < CM_LINE_COUNT; i++) {
        if (WIRES[i].code)
            change(recorder, (enum cm_line)i, 'z', 0);
    }
}

static struct cm_recorder *recorder_of(const struct cm_port *port)
{
    return port->context;
}

/* Runs operations on the inner port: for one that takes batches and has no such interface. */
static enum cm_status run_inner(const struct cm_recorder *recorder, const struct cm_bus *bus,
                                struct cm_op *ops, uint32_t count)
{
    struct cm_run run = {.port = recorder->inner, .bus = bus, .ops = ops, .op_count = count};
    return cm_port_run(&run);
}

/* --- SPI --------------------------------------------------------------------------------- */

/* SPI mode 0, most significant bit first: data stand for the whole bit, SCK is high in its second
 * half. */
static void write_byte(struct cm_recorder *recorder, uint8_t out, uint8_t in, uint64_t begin_ns,
                       uint64_t bit_ns)
{
    for (int bit = 7; bit >= 0; bit--, begin_ns += bit_ns) {
        change(recorder, CM_LINE_SCK, '0', begin_ns);
        change(recorder, CM_LINE_MOSI, out >> bit & 1 ? '1' : '0', begin_ns);
        change(recorder, CM_LINE_MISO, in >> bit & 1 ? '1' : '0', begin_ns);
        change(recorder, CM_LINE_SCK, '1', begin_ns + bit_ns / 2);
    }
}

/* Bytes of either direction, NULL where nothing is known of it. */
static void write_bytes(struct cm_recorder *recorder, const uint8_t *out, const uint8_t *in,
                        uint32_t bytes, uint64_t begin_ns, uint64_t bit_ns)
{
    for (uint32_t i = 0; i < bytes; i++)
        write_byte(recorder, out ? out[i] : 0, in ? in[i] : 0xFF, begin_ns + i * 8 * bit_ns,
                   bit_ns);
    change(recorder, CM_LINE_SCK, '0', begin_ns + bytes * 8 * bit_ns);
}

static enum cm_status shift_inner(const struct cm_recorder *recorder, const uint8_t *out,
                                  uint8_t *in, uint32_t bytes)
{
    const struct cm_port *inner = recorder->inner;
    if (inner->spi)
        return inner->spi->shift(inner, out, in, bytes);
    struct cm_op ops[] = {{.kind = CM_OP_REPEAT, .repeat = {.count = bytes, .ops = 1}},
                          {.kind = CM_OP_EXCHANGE, .exchange = {.data = CM_DATA_BOTH}}};
    uint8_t both[PIECE] = {0};
    if (out)
        memcpy(both, out, bytes);
    ops[1].exchange.in = both;
    enum cm_status status = run_inner(recorder, &cm_bus_shift, ops, 2);
    if (!status && in)
        memcpy(in, both, bytes);
    return status;
}

static enum cm_status record_shift(const struct cm_port *port, const uint8_t *out, uint8_t *in,
                                   uint32_t bytes)
{
    struct cm_recorder *recorder = recorder_of(port);
    uint8_t sent[PIECE];
    for (uint32_t done = 0, part; done < bytes; done += part) {
        part = bytes - done < PIECE ? bytes - done : PIECE;
        uint8_t *came = in ? in + done : NULL;
        if (out)
            memcpy(sent, out + done, part); // `in` may be the same place
        update_clock(recorder);
        uint64_t begin_ns = recorder->clock_ns;
        enum cm_status status = shift_inner(recorder, out ? sent : NULL, came, part);
        update_clock(recorder); // and restarts, which a failure may be
        if (status)
            return status;
        uint64_t bit_ns = (recorder->clock_ns - begin_ns) / (part * 8);
        write_bytes(recorder, out ? sent : NULL, came, part, begin_ns, bit_ns);
        change(recorder, CM_LINE_SCK, '0', recorder->clock_ns);
    }
    return CM_OK;
}

/* Frames of one call share its time by their bytes. Of data that are exchanged both ways only those
 * that came are known afterwards. */
static enum cm_status record_frames(const struct cm_port *port, const struct cm_frame *frames,
                                    uint8_t count)
{
    struct cm_recorder *recorder = recorder_of(port);
    const struct cm_port *inner = recorder->inner;
    uint32_t bytes = count; // one more for each: SELECT goes high between them
    update_clock(recorder);
    uint64_t at_ns = recorder->clock_ns;
    enum cm_status status = inner->spi->frames(inner, frames, count);
    update_clock(recorder);
    for (uint8_t i = 0; i < count; i++)
        bytes += frames[i].head_count + frames[i].count;
    uint64_t bit_ns = (recorder->clock_ns - at_ns) / (bytes * 8 + 1);
    for (uint8_t i = 0; i < count; i++) {
        const struct cm_frame *frame = &frames[i];
        change(recorder, CM_LINE_SELECT, '0', at_ns);
        write_bytes(recorder, frame->head, NULL, frame->head_count, at_ns, bit_ns);
        at_ns += frame->head_count * 8 * bit_ns;
        write_bytes(recorder, frame->in ? NULL : frame->out, frame->in, frame->count, at_ns,
                    bit_ns);
        at_ns += frame->count * 8 * bit_ns;
        change(recorder, CM_LINE_SELECT, '1', at_ns);
        at_ns += 8 * bit_ns;
    }
    return status;
}

/* --- a parallel bus ---------------------------------------------------------------------- */

/* A number on several lines. */
static void write_number(struct cm_recorder *recorder, uint32_t value, char code)
{
    char digits[33];
    for (int i = 0; i < 32; i++)
        digits[i] = value >> (31 - i) & 1 ? '1' : '0';
    digits[32] = '\0';
    fprintf(recorder->stream, "b%s %c\n", value ? strchr(digits, '1') : "0", code);
}

/* One cycle: address first, the strobe in its middle. */
static void write_cycle(struct cm_recorder *recorder, uint32_t address, uint16_t data,
                        enum cm_line strobe, uint64_t begin_ns, uint64_t cycle_ns)
{
    write_time(recorder, begin_ns);
    write_number(recorder, address, ADDRESS_CODE);
    change(recorder, CM_LINE_CE, '0', begin_ns + cycle_ns / 4);
    change(recorder, strobe, '0', begin_ns + cycle_ns / 4);
    write_number(recorder, data, DATA_CODE);
    change(recorder, strobe, '1', begin_ns + cycle_ns * 3 / 4);
    change(recorder, CM_LINE_CE, '1', begin_ns + cycle_ns * 3 / 4);
}

static enum cm_status record_bus_write(const struct cm_port *port, uint32_t address, uint16_t data,
                                       const struct cm_pulse *pulse)
{
    struct cm_recorder *recorder = recorder_of(port);
    const struct cm_port *inner = recorder->inner;
    const struct cm_cycle cycle = {address, data};
    struct cm_op op = {.kind = CM_OP_EXCHANGE, .exchange = {.head_count = 1}};
    op.exchange.cycles = (struct cm_cycles){&cycle, pulse};
    update_clock(recorder);
    uint64_t begin_ns = recorder->clock_ns;
    enum cm_status status = inner->parallel ? inner->parallel->write(inner, address, data, pulse)
                                            : run_inner(recorder, &cm_bus_parallel, &op, 1);
    update_clock(recorder);
    write_cycle(recorder, address, data, CM_LINE_WE, begin_ns, recorder->clock_ns - begin_ns);
    return status;
}

static enum cm_status read_inner(const struct cm_recorder *recorder, uint32_t address,
                                 uint8_t *bytes, uint32_t count)
{
    const struct cm_port *inner = recorder->inner;
    if (inner->parallel)
        return inner->parallel->read(inner, address, bytes, count);
    uint32_t unit = inner->traits.data_lines / 8;
    struct cm_op ops[] = {{.kind = CM_OP_REPEAT,
                           .repeat = {.first = address * unit, .count = count * unit, .ops = 1}},
                          {.kind = CM_OP_EXCHANGE, .exchange = {.data = CM_DATA_IN}}};
    ops[1].exchange.in = bytes;
    return run_inner(recorder, &cm_bus_parallel, ops, 2);
}

static enum cm_status record_bus_read(const struct cm_port *port, uint32_t address, uint8_t *bytes,
                                      uint32_t count)
{
    struct cm_recorder *recorder = recorder_of(port);
    bool wide = port->traits.data_lines == 16;
    update_clock(recorder);
    uint64_t begin_ns = recorder->clock_ns;
    enum cm_status status = read_inner(recorder, address, bytes, count);
    update_clock(recorder);
    uint64_t cycle_ns = count ? (recorder->clock_ns - begin_ns) / count : 0;
    for (uint32_t i = 0; i < count && !status; i++) {
        uint16_t data = bytes[wide ? 2 * i : i];
        if (wide)
            data = (uint16_t)(data | bytes[2 * i + 1] << 8);
        write_cycle(recorder, address + i, data, CM_LINE_OE, begin_ns + i * cycle_ns, cycle_ns);
    }
    return status;
}

/* --- I2C --------------------------------------------------------------------------------- */

/* Nine clocks: a byte and its acknowledge bit, which is low where it is acknowledged. */
static uint64_t write_i2c_byte(struct cm_recorder *recorder, uint8_t byte, bool ack, uint64_t at_ns,
                               uint64_t bit_ns)
{
    for (int bit = 8; bit >= 0; bit--, at_ns += bit_ns) {
        bool high = bit ? byte >> (bit - 1) & 1 : !ack;
        change(recorder, CM_LINE_SDA, high ? 'z' : '0', at_ns);
        change(recorder, CM_LINE_SCL, 'z', at_ns + bit_ns / 2);
        change(recorder, CM_LINE_SCL, '0', at_ns + bit_ns);
    }
    return at_ns;
}

/* START, address and bytes; two bits of time for the START. */
static uint64_t write_half(struct cm_recorder *recorder, uint8_t first, bool ack,
                           const uint8_t *bytes, uint32_t count, uint64_t at_ns, uint64_t bit_ns)
{
    change(recorder, CM_LINE_SDA, 'z', at_ns);
    change(recorder, CM_LINE_SCL, 'z', at_ns + bit_ns / 2);
    change(recorder, CM_LINE_SDA, '0', at_ns + bit_ns);
    change(recorder, CM_LINE_SCL, '0', at_ns + bit_ns * 3 / 2);
    at_ns = write_i2c_byte(recorder, first, ack, at_ns + 2 * bit_ns, bit_ns);
    for (uint32_t i = 0; ack && i < count; i++)
        at_ns = write_i2c_byte(recorder, bytes[i], true, at_ns, bit_ns);
    return at_ns;
}

static enum cm_status transfer_inner(const struct cm_recorder *recorder,
                                     const struct cm_transfer *wanted)
{
    const struct cm_port *inner = recorder->inner;
    if (inner->i2c)
        return inner->i2c->transfer(inner, wanted);
    struct cm_exchange exchange = {.head = {wanted->device}, .data = CM_DATA_NONE};
    if (wanted->head_count >= sizeof exchange.head || (wanted->in_count && wanted->out_count))
        return CM_PORT_LACKS;
    memcpy(exchange.head + 1, wanted->head, wanted->head_count);
    exchange.head_count = (uint8_t)(1 + wanted->head_count);
    exchange.out = wanted->out_count ? wanted->out : wanted->in;
    exchange.data = wanted->out_count ? CM_DATA_OUT : wanted->in_count ? CM_DATA_IN : CM_DATA_NONE;
    uint32_t count = wanted->out_count + wanted->in_count;
    struct cm_op ops[] = {{.kind = CM_OP_REPEAT, .repeat = {.count = count ? count : 1, .ops = 1}},
                          {.kind = CM_OP_EXCHANGE, .exchange = exchange}};
    return run_inner(recorder, &cm_bus_i2c, ops, 2);
}

/* A transfer's bits share its time: what stretching there was is not seen. */
static enum cm_status record_transfer(const struct cm_port *port, const struct cm_transfer *wanted)
{
    struct cm_recorder *recorder = recorder_of(port);
    update_clock(recorder);
    uint64_t at_ns = recorder->clock_ns;
    enum cm_status status = transfer_inner(recorder, wanted);
    update_clock(recorder);
    bool writes = wanted->head_count || wanted->out_count || !wanted->in_count,
         ack = status != CM_NACK;
    uint32_t bytes = 2 + wanted->head_count + wanted->out_count + wanted->in_count;
    uint64_t bit_ns = (recorder->clock_ns - at_ns) / (9 * bytes + 6);
    uint8_t first = (uint8_t)(wanted->device << 1);
    if (writes) {
        at_ns = write_half(recorder, first, ack, wanted->head, wanted->head_count, at_ns, bit_ns);
        for (uint32_t i = 0; ack && i < wanted->out_count; i++)
            at_ns = write_i2c_byte(recorder, wanted->out[i], true, at_ns, bit_ns);
    }
    if (ack && wanted->in_count)
        at_ns = write_half(recorder, first | 1, ack, wanted->in, wanted->in_count, at_ns, bit_ns);
    change(recorder, CM_LINE_SDA, '0', at_ns);
    change(recorder, CM_LINE_SCL, 'z', at_ns + bit_ns / 2);
    change(recorder, CM_LINE_SDA, 'z', at_ns + bit_ns);
    return status;
}

/* --- lines, supply and time -------------------------------------------------------------- */

static enum cm_status record_line(const struct cm_port *port, enum cm_line line,
                                  enum cm_level level)
{
    struct cm_recorder *recorder = recorder_of(port);
    const struct cm_port *inner = recorder->inner;
    struct cm_op op = {.kind = CM_OP_LINE, .line = {(uint8_t)line, (uint8_t)level}};
    update_clock(recorder);
    if (line < CM_LINE_COUNT && WIRES[line].code)
        change(recorder, line,
               level == CM_LOW    ? '0'
               : level == CM_HIGH ? '1'
                                  : 'z',
               recorder->clock_ns);
    return inner->lines->line ? inner->lines->line(inner, line, level)
                              : run_inner(recorder, NULL, &op, 1);
}

static enum cm_status record_sense(const struct cm_port *port, enum cm_line line, uint16_t *value)
{
    struct cm_recorder *recorder = recorder_of(port);
    struct cm_op op = {.kind = CM_OP_SENSE, .sense = {.line = (uint8_t)line}};
    enum cm_status status = run_inner(recorder, NULL, &op, 1);
    *value = op.sense.value;
    update_clock(recorder);
    if (!status && line == CM_LINE_SUPPLY) {
        write_time(recorder, recorder->clock_ns);
        fprintf(recorder->stream, "r%u %c\n", (unsigned)*value, SUPPLY_CODE);
    } else if (!status && line < CM_LINE_COUNT && WIRES[line].code) {
        change(recorder, line, *value ? '1' : '0', recorder->clock_ns);
    }
    return status;
}

static enum cm_status record_supply(const struct cm_port *port, uint16_t mv)
{
    struct cm_recorder *recorder = recorder_of(port);
    struct cm_op op = {.kind = CM_OP_SUPPLY, .supply = {mv}};
    update_clock(recorder);
    write_time(recorder, recorder->clock_ns);
    fprintf(recorder->stream, "r%u %c\n", (unsigned)mv, SUPPLY_CODE);
    return run_inner(recorder, NULL, &op, 1);
}

static void record_wait_us(const struct cm_port *port, uint32_t us)
{
    const struct cm_port *inner = recorder_of(port)->inner;
    inner->lines->wait_us(inner, us);
}

static uint32_t record_now_us(const struct cm_port *port)
{
    const struct cm_port *inner = recorder_of(port)->inner;
    return inner->lines->now_us(inner);
}

static enum cm_status clock_on(const struct cm_port *port, const struct cm_bus *bus,
                               uint32_t want_hz, uint32_t *real_hz)
{
    struct cm_op op = {.kind = CM_OP_CLOCK, .clock = {.want_hz = want_hz}};
    enum cm_status status = run_inner(recorder_of(port), bus, &op, 1);
    if (real_hz)
        *real_hz = op.clock.real_hz;
    return status;
}

static enum cm_status record_spi_clock(const struct cm_port *port, uint32_t want_hz,
                                       uint32_t *real_hz)
{
    struct cm_recorder *recorder = recorder_of(port);
    enum cm_status status = clock_on(port, &cm_bus_spi, want_hz, real_hz);
    update_clock(recorder);
    change(recorder, CM_LINE_SCK, '0', recorder->clock_ns); // "brings the bus to idle"
    return status;
}

static enum cm_status record_cycle_clock(const struct cm_port *port, uint32_t want_hz,
                                         uint32_t *real_hz)
{
    return clock_on(port, &cm_bus_parallel, want_hz, real_hz);
}

static enum cm_status record_i2c_clock(const struct cm_port *port, uint32_t want_hz,
                                       uint32_t *real_hz)
{
    return clock_on(port, &cm_bus_i2c, want_hz, real_hz);
}

static enum cm_status record_release(const struct cm_port *port)
{
    return clock_on(port, &cm_bus_parallel, 0, NULL);
}

/* --- setting up -------------------------------------------------------------------------- */

static const struct cm_lines LINES = {.line = record_line,
                                      .sense = record_sense,
                                      .supply = record_supply,
                                      .wait_us = record_wait_us,
                                      .now_us = record_now_us};
static const struct cm_spi SPI = {.clock = record_spi_clock, .shift = record_shift};
static const struct cm_spi SPI_FRAMES = {.clock = record_spi_clock,
                                         .shift = record_shift,
                                         .frames = record_frames,
                                         .packed = cm_spi_packed,
                                         .packed_shift = cm_shift_packed};
static const struct cm_parallel PARALLEL = {.clock = record_cycle_clock,
                                            .write = record_bus_write,
                                            .read = record_bus_read,
                                            .release = record_release};
static const struct cm_i2c I2C = {.clock = record_i2c_clock, .transfer = record_transfer};

/* Buses that the inner port makes from lines are made from ours: then each edge is seen. A port
 * that takes batches whole gets small ones, so it need not have the interfaces. */
static void choose_buses(struct cm_port *port, const struct cm_port *inner)
{
    bool any = inner->run != NULL;
    if (inner->spi == &cm_spi_by_lines)
        port->spi = inner->spi;
    else if (inner->spi || any)
        port->spi = inner->spi && inner->spi->frames ? &SPI_FRAMES : &SPI;
    if (inner->i2c == &cm_i2c_by_lines)
        port->i2c = inner->i2c;
    else if (inner->i2c || any)
        port->i2c = &I2C;
    if (inner->parallel || (any && inner->traits.data_lines))
        port->parallel = &PARALLEL;
}

void cm_recorder_begin(struct cm_recorder *recorder, const struct cm_port *inner, FILE *stream)
{
    memset(recorder, 0, sizeof *recorder);
    recorder->inner = inner;
    recorder->stream = stream;
    recorder->last_us = inner->lines->now_us(inner);
    recorder->port = (struct cm_port){
        .lines = &LINES, .context = recorder, .state = &recorder->state, .traits = inner->traits};
    choose_buses(&recorder->port, inner);
    write_header(recorder);
}

bool cm_recorder_end(struct cm_recorder *recorder)
{
    update_clock(recorder);
    fprintf(recorder->stream, "#%llu\n", (unsigned long long)(recorder->clock_ns + 1));
    return fflush(recorder->stream) == 0 && !ferror(recorder->stream);
}
