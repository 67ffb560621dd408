/*
 * A board with an ATmega328P at 16 MHz and 5 V: where everything is.
 *
 *     target           pin      board pin       lamps            pin     board pin
 *     RESET            PB0      8               in a session     PB2     10
 *     SELECT           PB1      9               busy             PD2     2
 *     MOSI             PB3      11              error            PD3     3
 *     MISO             PB4      12
 *     SCK              PB5      13              computer
 *     WP               PD4      4               RXD, TXD         PD0, PD1
 *     HOLD             PD5      5
 *     SDA, SCL         PC4, PC5 A4, A5
 *     half its supply  PC0      A0
 *
 * PB2 is the processor's own SS: as an output it keeps the SPI a master.
 */
#ifndef PROBE_AVR_PINS_H
#define PROBE_AVR_PINS_H

#define BOARD_NAME   "ATmega328P"
#define HAS_PARALLEL 0

#define RESET_PIN  PIN_OF(B, 0)
#define SELECT_PIN PIN_OF(B, 1)
#define MOSI_PIN   PIN_OF(B, 3)
#define MISO_PIN   PIN_OF(B, 4)
#define SCK_PIN    PIN_OF(B, 5)
#define WP_PIN     PIN_OF(D, 4)
#define HOLD_PIN   PIN_OF(D, 5)
#define SDA_PIN    PIN_OF(C, 4)
#define SCL_PIN    PIN_OF(C, 5)

#define UART_CAME     USART_RX_vect
#define UART_HAS_ROOM USART_UDRE_vect

#define SESSION_LAMP PIN_OF(B, 2)
#define BUSY_LAMP    PIN_OF(D, 2)
#define ERROR_LAMP   PIN_OF(D, 3)

#define BOARD_LINES                                                                                \
    (CM_LINE_BIT(CM_LINE_RESET) | CM_LINE_BIT(CM_LINE_SCK) | CM_LINE_BIT(CM_LINE_MOSI) |           \
     CM_LINE_BIT(CM_LINE_SELECT) | CM_LINE_BIT(CM_LINE_WP) | CM_LINE_BIT(CM_LINE_HOLD) |           \
     CM_LINE_BIT(CM_LINE_SDA) | CM_LINE_BIT(CM_LINE_SCL))

enum {
    SUPPLY_INPUT = 0, /* ADC0 */
    UART_RING = 256,
    BATCH_BYTES = 256 + 20, /* a page of SPI flash */
    OPS = 7,
    WINDOW = 2,
    BUSES = 1 << CM_BUS_SHIFT | 1 << CM_BUS_SPI | 1 << CM_BUS_THREE_WIRE | 1 << CM_BUS_I2C
};

#endif
