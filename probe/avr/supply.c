/*
 * The target's supply, halved by two resistors of 10 kOhm, against the board's own 5 V: so it is as
 * exact as that one is.
 */
#include "board.h"

enum { REFERENCE_MV = 5000, HALVED = 2, STEPS = 1024 };

void supply_begin(void)
{
    ADMUX = 1 << REFS0 | SUPPLY_INPUT;                         // AVCC
    ADCSRA = 1 << ADEN | 1 << ADPS2 | 1 << ADPS1 | 1 << ADPS0; // 125 kHz
}

uint16_t supply_mv(void)
{
    ADCSRA |= 1 << ADSC;
    while (ADCSRA & 1 << ADSC)
        continue;
    return (uint16_t)((uint32_t)ADC * REFERENCE_MV * HALVED / STEPS);
}
