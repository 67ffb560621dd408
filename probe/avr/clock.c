/*
 * Time: Timer 1 counts half microseconds, and an interrupt counts its turns of 32.8 ms.
 */
#include "board.h"
#include <avr/interrupt.h>
#include <util/delay_basic.h>

enum { TICKS_US = 2, TURN_US = 0x10000 / TICKS_US };

static volatile uint16_t turns;

ISR(TIMER1_OVF_vect)
{
    turns++;
}

/* A turn that has just ended may not be counted yet. */
uint32_t clock_now_us(const struct cm_port *port)
{
    (void)port;
    uint8_t sreg = SREG;
    cli();
    uint16_t now = TCNT1, count = turns;
    if (TIFR1 & 1 << TOV1 && now < 0x8000)
        count++;
    SREG = sreg;
    return (uint32_t)count << 15 | now / TICKS_US;
}

/* Short ones by counting cycles: four a loop. */
void clock_wait_us(const struct cm_port *port, uint32_t us)
{
    enum { SHORT_US = 200, LOOP = 4 };
    uint32_t begun = us > SHORT_US ? clock_now_us(port) : 0;
    if (us > SHORT_US) {
        while (clock_now_us(port) - begun <= us)
            continue;
    } else if (us) {
        _delay_loop_2((uint16_t)us * (CYCLES_US / LOOP));
    }
}

void clock_begin(void)
{
    _Static_assert(CYCLES_US == 16, "Timer 1 counts eighths of 16 MHz");
    TCCR1A = 0;
    TCCR1B = 1 << CS11; // an eighth
    TIMSK1 = 1 << TOIE1;
}
