/*
 * Fuzz target for both ends of the link: any bytes on the line of a probe, and any payloads for the
 * computer's readers. The first byte says where the rest goes, and how wide the probe's parallel
 * bus is. A probe that was sent nonsense still says hello.
 */
#include <coldmint/probe.h>
#include <stdlib.h>
#include <string.h>

enum {
    DATA = 300,
    OPS = 16,
    WINDOW = 2,
    PAYLOAD = DATA + OPS * 40,
    BUFFER = PAYLOAD + CM_LINK_FRAME
};

/* --- a port with nothing on its wires ---------------------------------------------------- */

static uint32_t now;

static enum cm_status set_line(const struct cm_port *port, enum cm_line line, enum cm_level level)
{
    (void)port, (void)line, (void)level;
    return CM_OK;
}

static enum cm_status sense(const struct cm_port *port, enum cm_line line, uint16_t *value)
{
    (void)port, (void)line;
    *value = now >> 3 & 1;
    return CM_OK;
}

static void wait_us(const struct cm_port *port, uint32_t us)
{
    (void)port;
    now += us;
}

static uint32_t now_us(const struct cm_port *port)
{
    (void)port;
    return now += 200; // so that long polls come to an end
}

static enum cm_status shift(const struct cm_port *port, const uint8_t *out, uint8_t *in,
                            uint32_t bytes)
{
    (void)port;
    for (uint32_t i = 0; i < bytes; i++) {
        now += out ? out[i] : 1u; // every byte is read,
        if (in)
            in[i] = (uint8_t)now; // and written
    }
    return CM_OK;
}

static enum cm_status set_clock(const struct cm_port *port, uint32_t want_hz, uint32_t *real_hz)
{
    (void)port;
    *real_hz = want_hz;
    return CM_OK;
}

static enum cm_status write_cycle(const struct cm_port *port, uint32_t address, uint16_t data,
                                  const struct cm_pulse *pulse)
{
    (void)port;
    now += (address ^ data ^ pulse->low_ns) & 1;
    return CM_OK;
}

static enum cm_status read_cycles(const struct cm_port *port, uint32_t address, uint8_t *bytes,
                                  uint32_t count)
{
    memset(bytes, (int)(address & 0xFF), (size_t)count * port->traits.data_lines / 8);
    return CM_OK;
}

static enum cm_status transfer(const struct cm_port *port, const struct cm_transfer *what)
{
    (void)port;
    for (uint32_t i = 0; i < what->out_count; i++)
        now += what->out[i];
    if (what->in_count)
        memset(what->in, 0x5A, what->in_count);
    return CM_OK;
}

/* --- a probe on it ----------------------------------------------------------------------- */

static const uint8_t *line_bytes;
static size_t line_left, sent;

static uint8_t receive(void *context, uint8_t *bytes, uint8_t most)
{
    uint8_t count = 0;
    (void)context;
    for (; count < most && line_left; line_left--)
        bytes[count++] = *line_bytes++;
    return count;
}

static void send_bytes(void *context, const uint8_t *bytes, size_t count)
{
    (void)context;
    for (size_t i = 0; i < count; i++)
        now += bytes[i] & 1;
    sent += count;
}

static void feed(struct cm_probe *probe, const uint8_t *bytes, size_t count)
{
    line_bytes = bytes;
    line_left = count;
    for (size_t i = 0; i < count + 8; i++)
        cm_probe_step(probe);
}

/* What a batch is good for: as the payload of a frame that is whole. */
static void feed_batch(struct cm_probe *probe, const uint8_t *payload, uint32_t count)
{
    uint8_t line[CM_LINK_LINE_BYTES(PAYLOAD)];
    struct cm_link_frame frame = {CM_LINK_HELLO, 0, 0, 7};
    feed(probe, line, cm_link_encode(&frame, NULL, 0, line));
    frame.kind = CM_LINK_BATCH;
    if (count <= PAYLOAD)
        feed(probe, line, cm_link_encode(&frame, payload, count, line));
}

static void play(const uint8_t *data, size_t size, bool is_payload, uint8_t data_lines)
{
    static const struct cm_lines LINES = {
        .line = set_line, .sense = sense, .wait_us = wait_us, .now_us = now_us};
    static const struct cm_spi SPI = {.clock = set_clock, .shift = shift};
    static const struct cm_parallel PARALLEL = {
        .clock = set_clock, .write = write_cycle, .read = read_cycles};
    static const struct cm_i2c I2C = {.clock = set_clock, .transfer = transfer};
    struct cm_port_state state = {0};
    struct cm_cycle cycles[4];
    struct cm_pulse pulses[4];
    struct cm_op ops[OPS];
    struct cm_probe_slot slots[WINDOW] = {{0}};
    for (int i = 0; i < WINDOW; i++)
        slots[i].bytes = calloc(1, BUFFER); // allocations, so that a byte too many shows
    const struct cm_port port = {
        .lines = &LINES,
        .spi = &SPI,
        .parallel = &PARALLEL,
        .i2c = &I2C,
        .state = &state,
        .traits = {.lines = 0x3F, .data_lines = data_lines, .transfer_max = 64}};
    const struct cm_probe_board board = {.name = "fuzzed",
                                         .port = &port,
                                         .buses = 0x1F,
                                         .window = WINDOW,
                                         .receive = receive,
                                         .send = send_bytes,
                                         .buffer_bytes = BUFFER,
                                         .slots = slots};
    struct cm_probe probe = {.board = &board,
                             .store = {.ops = ops,
                                       .most_ops = OPS,
                                       .cycles = cycles,
                                       .pulses = pulses,
                                       .most_cycles = 4,
                                       .most_pulses = 4}};
    uint8_t hello[CM_LINK_LINE_BYTES(0)];
    const struct cm_link_frame frame = {CM_LINK_HELLO, 0, 0, 9};
    cm_probe_begin(&probe);
    if (is_payload)
        feed_batch(&probe, data, (uint32_t)size);
    else
        feed(&probe, data, size);
    static const uint8_t ZERO[] = {0};
    feed(&probe, ZERO, 1);
    sent = 0;
    feed(&probe, hello, cm_link_encode(&frame, NULL, 0, hello));
    if (!sent || probe.session != 9)
        abort();
    for (int i = 0; i < WINDOW; i++)
        free(slots[i].bytes);
}

/* --- the computer's side ----------------------------------------------------------------- */

static void read_answers(const uint8_t *data, size_t size)
{
    struct cm_link_probe probe;
    struct cm_link_result result;
    struct cm_op ops[3] = {{.kind = CM_OP_CLOCK}, {.kind = CM_OP_EXCHANGE}, {.kind = CM_OP_SENSE}};
    (void)cm_link_get_probe(&probe, data, (uint32_t)size);
    if (cm_link_get_result(&result, ops, 3, data, (uint32_t)size)) {
        for (uint32_t i = 0; i < result.data_count; i++)
            now += result.data[i];
    }
}

int LLVMFuzzerTestOneInput(const uint8_t *data, size_t size);

int LLVMFuzzerTestOneInput(const uint8_t *data, size_t size)
{
    if (size < 1)
        return 0;
    uint8_t *copy = malloc(size);
    if (!copy)
        return 0;
    memcpy(copy, data + 1, size - 1);
    uint8_t data_lines = data[0] & 0x80 ? 16 : 8;
    if (data[0] % 3 == 0)
        play(copy, size - 1, false, data_lines);
    else if (data[0] % 3 == 1)
        play(copy, size - 1, true, data_lines);
    else
        read_answers(copy, size - 1);
    free(copy);
    return 0;
}
