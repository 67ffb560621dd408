/*
 * An AVR as a probe: what its parts share. One board is one header of pins (atmega328p.h,
 * atmega1284p.h); all the rest is the same for both.
 */
#ifndef PROBE_AVR_BOARD_H
#define PROBE_AVR_BOARD_H

#include <avr/io.h>
#include <avr/pgmspace.h>
#include <coldmint/probe.h>

/* A struct pin: bit 3 of port B is PIN_OF(B, 3). */
#define PIN_OF(letter, number)                                                                     \
    {                                                                                              \
        &PIN##letter, 1 << (number)                                                                \
    }

#ifdef __AVR_ATmega328P__
#include "atmega328p.h"
#else
#include "atmega1284p.h"
#endif

enum { CYCLES_US = F_CPU / 1000000 };

/* A pin: the registers of its port, of which PINx is the first, and its bit. */
struct pin {
    volatile uint8_t *in;
    uint8_t bit;
};

/* From a table in flash, which has room for more. */
static inline struct pin pin_from(const struct pin *table)
{
    return (struct pin){(volatile uint8_t *)pgm_read_word(&table->in), pgm_read_byte(&table->bit)};
}

static inline bool pin_get(struct pin pin)
{
    return pin.in[0] & pin.bit;
}

static inline __attribute__((always_inline)) void pin_low(struct pin pin)
{
    pin.in[2] &= (uint8_t)~pin.bit;
    pin.in[1] |= pin.bit;
}

static inline __attribute__((always_inline)) void pin_high(struct pin pin)
{
    pin.in[2] |= pin.bit;
    pin.in[1] |= pin.bit;
}

/* An input without pull-up. */
static inline void pin_release(struct pin pin)
{
    pin.in[1] &= (uint8_t)~pin.bit;
    pin.in[2] &= (uint8_t)~pin.bit;
}

/* --- uart.c: the serial line ------------------------------------------------------------- */

void uart_begin(void);
uint8_t uart_receive(void *context, uint8_t *bytes, uint8_t most);
void uart_send(void *context, const uint8_t *bytes, size_t count);

/* --- clock.c: time ----------------------------------------------------------------------- */

void clock_begin(void);
uint32_t clock_now_us(const struct cm_port *port);
void clock_wait_us(const struct cm_port *port, uint32_t us);

/* --- supply.c: the target's supply, by the ADC ------------------------------------------- */

void supply_begin(void);
uint16_t supply_mv(void);

/* --- port.c: lines ----------------------------------------------------------------------- */

extern const struct cm_port board_port;

/* --- spi.c ------------------------------------------------------------------------------- */

extern const struct cm_spi board_spi;

/* --- i2c.c ------------------------------------------------------------------------------- */

extern const struct cm_i2c board_i2c;

/* --- parallel.c, of boards that have such a bus ------------------------------------------- */

void parallel_begin(void);
extern const struct cm_parallel board_parallel;

/* --- main.c: a look at the serial line; false: the batch shall end ----------------------- */

bool board_look(void);

#endif
