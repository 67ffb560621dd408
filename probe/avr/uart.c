/*
 * The serial line: USART0, with a ring each way that interrupts fill and empty.
 *
 * Data sheet, "USART": with U2X the rate is F_CPU / 8 / (UBRR + 1). At 16 MHz 500 kbaud is exact,
 * and leaves 320 cycles a byte; at 1 Mbaud the half of that would not be enough.
 */
#include "board.h"
#include <avr/interrupt.h>

enum { BAUD = 500000, DIVIDER = 8, OUT = 4 };

/* Indexes of eight bits turn round by themselves, and cannot tell a full ring from an empty one. */
enum { MOST_IN = UART_RING - 1 };
_Static_assert(UART_RING == 256, "in_head and in_tail are its indexes");

static volatile uint8_t in[UART_RING], out[OUT];
static volatile uint8_t in_head, in_tail, out_head, out_tail;

ISR(UART_CAME)
{
    uint8_t byte = UDR0, head = in_head;
    if ((uint8_t)(head - in_tail) == MOST_IN) // it is lost, and will be missed
        return;
    in[head] = byte;
    in_head = (uint8_t)(head + 1);
}

ISR(UART_HAS_ROOM)
{
    uint8_t tail = out_tail;
    UDR0 = out[tail++ % OUT];
    out_tail = tail;
    if (tail == out_head)
        UCSR0B &= (uint8_t) ~(1 << UDRIE0);
}

uint8_t uart_receive(void *context, uint8_t *bytes, uint8_t most)
{
    uint8_t tail = in_tail, count = (uint8_t)(in_head - tail);
    (void)context;
    count = count < most ? count : most;
    for (uint8_t left = count; left; left--)
        *bytes++ = in[tail++];
    in_tail = tail;
    return count;
}

void uart_send(void *context, const uint8_t *bytes, size_t count)
{
    (void)context;
    for (; count; count--, bytes++) {
        uint8_t head = out_head;
        while ((uint8_t)(head - out_tail) == OUT)
            continue;
        out[head % OUT] = *bytes;
        out_head = (uint8_t)(head + 1);
        UCSR0B |= 1 << UDRIE0;
    }
}

void uart_begin(void)
{
    UBRR0 = (uint16_t)(F_CPU / DIVIDER / BAUD - 1);
    UCSR0A = 1 << U2X0;
    UCSR0C = 1 << UCSZ01 | 1 << UCSZ00; // 8 bits, no parity, 1 stop bit
    UCSR0B = 1 << RXEN0 | 1 << TXEN0 | 1 << RXCIE0;
}
