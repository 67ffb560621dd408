/*
 * Records what crosses the wires.
 *
 *     $timescale 1 ns $end              then changes, in the order of time:
 *     $var wire 1 r RESET $end             #20360000      nanoseconds
 *     ...                                  1c             SCK is high
 *     $enddefinitions $end                 0o             MOSI is low
 */
#include "record.h"
#include <string.h>

static const struct {
    char code;
    const char *name;
} WIRES[CM_LINE_COUNT] = {[CM_LINE_RESET] = {'r', "RESET"}, [CM_LINE_SCK] = {'c', "SCK"},       [CM_LINE_MOSI] = {'o', "MOSI"},
                          [CM_LINE_MISO] = {'i', "MISO"},   [CM_LINE_SELECT] = {'s', "SELECT"}, [CM_LINE_WP] = {'w', "WP"},
                          [CM_LINE_HOLD] = {'h', "HOLD"},   [CM_LINE_CE] = {'e', "CE"},         [CM_LINE_OE] = {'u', "OE"},
                          [CM_LINE_WE] = {'p', "WE"},       [CM_LINE_SDA] = {'d', "SDA"},       [CM_LINE_SCL] = {'l', "SCL"}};

enum { SUPPLY_CODE = 'v', ADDRESS_CODE = 'a', DATA_CODE = 'b' };

/* --- changes --------------------------------------------------------------------------------------------------- */

static void update_clock(struct cm_recorder *recorder)
{
    uint32_t now_us = recorder->inner->now_us(recorder->inner);
    recorder->clock_ns += (uint64_t)(uint32_t)(now_us - recorder->last_us) * 1000;
    recorder->last_us = now_us;
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
        fprintf(recorder->stream, "$var wire 32 %c ADDRESS $end\n$var wire 16 %c DATA $end\n", ADDRESS_CODE, DATA_CODE);
    fprintf(recorder->stream, "$var real 64 %c SUPPLY_MV $end\n$upscope $end\n$enddefinitions $end\n#0\n", SUPPLY_CODE);
    for (int i = 0; i < CM_LINE_COUNT; i++) {
        if (WIRES[i].code)
            change(recorder, (enum cm_line)i, 'z', 0);
    }
}

/* --- the port's functions -------------------------------------------------------------------------------------- */

static struct cm_recorder *recorder_of(struct cm_port *port)
{
    return port->context;
}

/* SPI mode 0, most significant bit first: data stands for the whole bit, SCK is high in its second half. */
static void write_byte(struct cm_recorder *recorder, uint8_t out, uint8_t in, uint64_t begin_ns, uint64_t bit_ns)
{
    for (int bit = 7; bit >= 0; bit--, begin_ns += bit_ns) {
        change(recorder, CM_LINE_SCK, '0', begin_ns);
        change(recorder, CM_LINE_MOSI, out >> bit & 1 ? '1' : '0', begin_ns);
        change(recorder, CM_LINE_MISO, in >> bit & 1 ? '1' : '0', begin_ns);
        change(recorder, CM_LINE_SCK, '1', begin_ns + bit_ns / 2);
    }
}

static enum cm_status record_shift(struct cm_port *port, const uint8_t *out, uint8_t *in, uint32_t bytes)
{
    struct cm_recorder *recorder = recorder_of(port);
    enum { PIECE = 64 };
    uint8_t sent[PIECE], came[PIECE];
    for (uint32_t done = 0, part; done < bytes; done += part) {
        part = bytes - done < PIECE ? bytes - done : PIECE;
        memset(sent, 0, sizeof sent);
        if (out)
            memcpy(sent, out + done, part);
        update_clock(recorder);
        uint64_t begin_ns = recorder->clock_ns;
        enum cm_status status = recorder->inner->shift(recorder->inner, sent, came, part);
        if (status)
            return status;
        update_clock(recorder);
        uint64_t bit_ns = (recorder->clock_ns - begin_ns) / (part * 8);
        for (uint32_t i = 0; i < part; i++)
            write_byte(recorder, sent[i], came[i], begin_ns + i * 8 * bit_ns, bit_ns);
        change(recorder, CM_LINE_SCK, '0', recorder->clock_ns);
        if (in)
            memcpy(in + done, came, part);
    }
    return CM_OK;
}

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
static void write_cycle(struct cm_recorder *recorder, uint32_t address, uint16_t data, enum cm_line strobe, uint64_t begin_ns,
                        uint64_t cycle_ns)
{
    write_time(recorder, begin_ns);
    write_number(recorder, address, ADDRESS_CODE);
    change(recorder, CM_LINE_CE, '0', begin_ns + cycle_ns / 4);
    change(recorder, strobe, '0', begin_ns + cycle_ns / 4);
    write_number(recorder, data, DATA_CODE);
    change(recorder, strobe, '1', begin_ns + cycle_ns * 3 / 4);
    change(recorder, CM_LINE_CE, '1', begin_ns + cycle_ns * 3 / 4);
}

static enum cm_status record_bus_write(struct cm_port *port, uint32_t address, uint16_t data,
                                       uint32_t pulse_ns, uint32_t rest_ns)
{
    struct cm_recorder *recorder = recorder_of(port);
    update_clock(recorder);
    uint64_t begin_ns = recorder->clock_ns;
    enum cm_status status =
        recorder->inner->bus_write(recorder->inner, address, data, pulse_ns, rest_ns);
    update_clock(recorder);
    write_cycle(recorder, address, data, CM_LINE_WE, begin_ns, recorder->clock_ns - begin_ns);
    return status;
}

static enum cm_status record_bus_read(struct cm_port *port, uint32_t address, uint8_t *bytes, uint32_t count)
{
    struct cm_recorder *recorder = recorder_of(port);
    bool wide = port->traits.data_lines == 16;
    update_clock(recorder);
    uint64_t begin_ns = recorder->clock_ns;
    enum cm_status status = recorder->inner->bus_read(recorder->inner, address, bytes, count);
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

static enum cm_status record_bus_release(struct cm_port *port)
{
    struct cm_port *inner = recorder_of(port)->inner;
    return inner->bus_release ? inner->bus_release(inner) : CM_OK;
}

static enum cm_status record_line(struct cm_port *port, enum cm_line line, enum cm_level level)
{
    struct cm_recorder *recorder = recorder_of(port);
    update_clock(recorder);
    if (line < CM_LINE_COUNT && WIRES[line].code)
        change(recorder, line, level == CM_LOW ? '0' : level == CM_HIGH ? '1' : 'z', recorder->clock_ns);
    return recorder->inner->line(recorder->inner, line, level);
}

static enum cm_status record_sense(struct cm_port *port, enum cm_line line, uint16_t *value)
{
    struct cm_recorder *recorder = recorder_of(port);
    enum cm_status status = recorder->inner->sense(recorder->inner, line, value);
    update_clock(recorder);
    if (!status && line == CM_LINE_SUPPLY) {
        write_time(recorder, recorder->clock_ns);
        fprintf(recorder->stream, "r%u %c\n", (unsigned)*value, SUPPLY_CODE);
    } else if (!status && WIRES[line].code) {
        change(recorder, line, *value ? '1' : '0', recorder->clock_ns);
    }
    return status;
}

static enum cm_status record_clock(struct cm_port *port, uint32_t want_hz, uint32_t *real_hz)
{
    struct cm_recorder *recorder = recorder_of(port);
    enum cm_status status = recorder->inner->clock(recorder->inner, want_hz, real_hz);
    update_clock(recorder);
    change(recorder, CM_LINE_SCK, '0', recorder->clock_ns); // "brings the bus to idle"
    return status;
}

static enum cm_status record_supply(struct cm_port *port, uint16_t mv)
{
    struct cm_recorder *recorder = recorder_of(port);
    update_clock(recorder);
    write_time(recorder, recorder->clock_ns);
    fprintf(recorder->stream, "r%u %c\n", (unsigned)mv, SUPPLY_CODE);
    return recorder->inner->supply(recorder->inner, mv);
}

static void record_wait_us(struct cm_port *port, uint32_t us)
{
    struct cm_recorder *recorder = recorder_of(port);
    recorder->inner->wait_us(recorder->inner, us);
}

static uint32_t record_now_us(struct cm_port *port)
{
    return recorder_of(port)->inner->now_us(recorder_of(port)->inner);
}

enum cm_status cm_recorder_begin(struct cm_recorder *recorder, struct cm_port *inner, FILE *stream)
{
    memset(recorder, 0, sizeof *recorder);
    bool by_lines = inner->two_wire == cm_lines_two_wire; // then each edge is seen as a line
    if (inner->run || (!inner->shift && !inner->bus_read && !by_lines))
        return CM_PORT_LACKS;
    bool lines_only = inner->shift == cm_lines_shift; // then the core makes the clock from our lines, and each edge is seen there
    recorder->inner = inner;
    recorder->stream = stream;
    recorder->last_us = inner->now_us(inner);
    recorder->port = (struct cm_port){
        .context = recorder,
        .traits = inner->traits,
        .shift = !inner->shift ? NULL
                 : lines_only  ? cm_lines_shift
                               : record_shift,
        .bus_read = inner->bus_read ? record_bus_read : NULL,
        .bus_write = inner->bus_write ? record_bus_write : NULL,
        .bus_release = record_bus_release,
        .two_wire = by_lines ? cm_lines_two_wire : NULL,
        .clock = by_lines       ? cm_lines_two_wire_clock
                 : lines_only   ? cm_lines_clock
                 : inner->clock ? record_clock
                                : NULL,
        .line = record_line,
        .sense = inner->sense ? record_sense : NULL,
        .supply = inner->supply ? record_supply : NULL,
        .wait_us = record_wait_us,
        .now_us = record_now_us,
    };
    write_header(recorder);
    return CM_OK;
}

bool cm_recorder_end(struct cm_recorder *recorder)
{
    update_clock(recorder);
    fprintf(recorder->stream, "#%llu\n", (unsigned long long)(recorder->clock_ns + 1));
    return fflush(recorder->stream) == 0 && !ferror(recorder->stream);
}
