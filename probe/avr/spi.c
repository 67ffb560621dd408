/*
 * SPI of an AVR board, and instructions of AVR targets on it.
 *
 * Data sheet, "SPI": the clock is F_CPU divided by 2 to 128. Slower targets get a clock that is
 * made here, on the same pins with the SPI switched off.
 *
 * core/bus/shift.c makes each instruction anew. For a processor that shifts bit by bit that takes
 * longer than the wires do, so here an instruction is made of the one before it: where an address
 * goes up by one, always the same bits of the head change for the same lowest bits of the address.
 */
#include "../../core/bus/shift.h"
#include "board.h"

static const struct pin SCK = SCK_PIN, MOSI = MOSI_PIN, MISO = MISO_PIN;

enum { SLOWEST = 7 }; /* F_CPU is divided by 2 to the power of 1 to 7 */

/* Of the clock that is set: for the SPI, or half a period of our own; and how many instructions go
 * by between two looks at the serial line, less one: some 50 bytes may come in that time. */
static uint8_t control, speed, unseen;
static uint16_t half_us;

/* The fastest that is not faster than wanted. */
static enum cm_status set_clock(const struct cm_port *port, uint32_t want_hz, uint32_t *real_hz)
{
    uint8_t power = 1;
    (void)port;
    pin_low(SCK);
    pin_low(MOSI);
    while (power <= SLOWEST && F_CPU >> power > want_hz)
        power++;
    if (power > SLOWEST) {
        half_us = (uint16_t)((500000 + want_hz - 1) / want_hz);
        control = unseen = 0;
        SPCR = 0;
        *real_hz = 500000u / half_us;
        return CM_OK;
    }
    *real_hz = F_CPU >> power;
    // SPR1 SPR0 and SPI2X: 4, 16, 64, 128, and half of each of the first three
    uint8_t rate = (uint8_t)((power - 1) / 2);
    bool is_doubled = power & 1 && power != SLOWEST;
    control = (uint8_t)(1 << SPE | 1 << MSTR | rate);
    speed = is_doubled ? 1 << SPI2X : 0;
    unseen = power < SLOWEST ? 7 : 0;
    return CM_OK;
}

static uint8_t shift_slowly(uint8_t out)
{
    uint8_t in = 0;
    for (uint8_t mask = 0x80; mask; mask >>= 1) {
        if (out & mask)
            pin_high(MOSI);
        else
            pin_low(MOSI);
        clock_wait_us(0, half_us);
        if (pin_get(MISO))
            in |= mask;
        pin_high(SCK);
        clock_wait_us(0, half_us);
        pin_low(SCK);
    }
    return in;
}

static inline uint8_t answer(void)
{
    while (!(SPSR & 1 << SPIF))
        continue;
    return SPDR;
}

static enum cm_status shift(const struct cm_port *port, const uint8_t *out, uint8_t *in,
                            uint32_t bytes)
{
    (void)port;
    SPCR = control;
    SPSR = speed;
    for (uint16_t left = (uint16_t)bytes; left; left--) {
        uint8_t byte = out ? *out++ : 0;
        if (control)
            SPDR = byte;
        byte = control ? answer() : shift_slowly(byte);
        if (in)
            *in++ = byte;
    }
    return CM_OK;
}

/* --- instructions ------------------------------------------------------------------------ */

/* Instructions of four bytes, of which the lowest bits of the address change so. */
enum { WHOLE = 4, STEPS = 4 };

/* What changes in a head where the lowest 1, 2, 3 or 4 bits of the address change. */
static void find_steps(struct cm_run *run, uint8_t (*steps)[WHOLE])
{
    uint8_t before[CM_HEAD_BYTES], head[CM_HEAD_BYTES];
    uint32_t address = run->address;
    run->address = 0;
    cm_run_head(run, before);
    for (uint8_t k = 0; k < STEPS; k++) {
        run->address = run->address << 1 | 1;
        cm_run_head(run, head);
        for (uint8_t i = 0; i < WHOLE; i++)
            steps[k][i] = before[i] ^ head[i];
    }
    run->address = address;
}

/* The head of the next address. */
static inline void step(struct cm_run *run, const uint8_t *out, uint8_t *next,
                        uint8_t (*steps)[WHOLE])
{
    uint8_t low = (uint8_t)run->address++, *change = *steps;
    for (uint8_t k = 0; low & 1; k++, low >>= 1, change += WHOLE) {
        if (k == STEPS - 1) {
            cm_run_head(run, next);
            return;
        }
    }
    next[0] = out[0] ^ change[0];
    next[1] = out[1] ^ change[1];
    next[2] = out[2] ^ change[2];
    next[3] = out[3] ^ change[3];
}

/* One instruction, and meanwhile the next one's head. */
static inline void shift_whole(struct cm_run *run, const uint8_t *out, uint8_t *in, uint8_t *next,
                               uint8_t (*steps)[WHOLE])
{
    SPDR = out[0];
    step(run, out, next, steps);
    in[0] = answer();
    SPDR = out[1];
    in[1] = answer();
    SPDR = out[2];
    in[2] = answer();
    SPDR = out[3];
    in[3] = answer();
}

/* All of an exchange, each judged before the next goes out. */
static enum cm_status shift_instructions(struct cm_run *run)
{
    uint8_t heads[2][CM_SHIFT_BYTES], in[CM_SHIFT_BYTES], steps[STEPS][WHOLE];
    uint8_t *out = heads[0], *next = heads[1];
    const uint8_t data = cm_data_of(run->exchange);
    const uint32_t first = run->address;
    uint16_t left = (uint16_t)cm_shift_count(run);
    SPCR = control;
    SPSR = speed;
    if (left > 1)
        find_steps(run, steps);
    uint8_t bytes = cm_shift_fill(run, out);
    for (;;) {
        if (data == CM_DATA_OUT && run->bytes)
            out[bytes - 1] = *run->bytes;
        if (control && bytes == WHOLE && left > 1) {
            shift_whole(run, out, in, next, steps);
        } else {
            shift(NULL, out, in, bytes);
            run->address++;
            cm_run_head(run, next);
        }
        enum cm_status status = cm_shift_judge(run, out, in, bytes);
        if (!status && !((uint8_t)left & unseen) && !board_look())
            status = CM_PORT_FAILED;
        if (status || --left == 0) {
            run->address = status ? run->address - 1 : first;
            return status;
        }
        run->bytes++;
        uint8_t *last = out;
        out = next;
        next = last;
    }
}

const struct cm_spi board_spi = {
    .clock = set_clock, .shift = shift, .packed_shift = shift_instructions};
