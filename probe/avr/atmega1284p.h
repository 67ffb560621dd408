/*
 * A board with an ATmega1284P at 16 MHz and 5 V, for parallel memories, too: where everything is.
 *
 *     target           pin            parallel memory   pin          lamps, computer  pin
 *     RESET            PA1            D0 to D7          PC0 to PC7   in a session     PB4
 *     SELECT           PA2            CE                PD2          busy             PB0
 *     MOSI             PB5            OE                PD3          error            PB1
 *     MISO             PB6            WE                PD4          RXD, TXD         PD0, PD1
 *     SCK              PB7            LATCH             PD5
 *     WP, HOLD         PA3, PA4       12 V on A9        PD6
 *     SDA, SCL         PA5, PA6       VPP               PD7
 *     half its supply  PA0
 *
 * The address comes from a chain of three shift registers (74HC595): MOSI to the first one's data
 * input, SCK and LATCH to all, the serial output of each to the next. A0 to A7 are the outputs of
 * the first, A8 to A15 of the second, A16 to A23 of the third. PD6 and PD7 switch voltages that the
 * board does not make.
 *
 * PB4 is the processor's own SS: as an output it keeps the SPI a master. PC2 to PC5 are JTAG's
 * until the program ends that.
 */
#ifndef PROBE_AVR_PINS_H
#define PROBE_AVR_PINS_H

#define BOARD_NAME   "ATmega1284P"
#define HAS_PARALLEL 1

#define RESET_PIN  PIN_OF(A, 1)
#define SELECT_PIN PIN_OF(A, 2)
#define MOSI_PIN   PIN_OF(B, 5)
#define MISO_PIN   PIN_OF(B, 6)
#define SCK_PIN    PIN_OF(B, 7)
#define WP_PIN     PIN_OF(A, 3)
#define HOLD_PIN   PIN_OF(A, 4)
#define SDA_PIN    PIN_OF(A, 5)
#define SCL_PIN    PIN_OF(A, 6)

#define CE_PIN    PIN_OF(D, 2)
#define OE_PIN    PIN_OF(D, 3)
#define WE_PIN    PIN_OF(D, 4)
#define LATCH_PIN PIN_OF(D, 5)
#define A9_ID_PIN PIN_OF(D, 6)
#define VPP_PIN   PIN_OF(D, 7)
/* All eight at once. */
#define DATA_IN     PINC
#define DATA_OUT    PORTC
#define DATA_DRIVEN DDRC

#define UART_CAME     USART0_RX_vect
#define UART_HAS_ROOM USART0_UDRE_vect

#define SESSION_LAMP PIN_OF(B, 4)
#define BUSY_LAMP    PIN_OF(B, 0)
#define ERROR_LAMP   PIN_OF(B, 1)

#define BOARD_LINES                                                                                \
    (CM_LINE_BIT(CM_LINE_RESET) | CM_LINE_BIT(CM_LINE_SCK) | CM_LINE_BIT(CM_LINE_MOSI) |           \
     CM_LINE_BIT(CM_LINE_SELECT) | CM_LINE_BIT(CM_LINE_WP) | CM_LINE_BIT(CM_LINE_HOLD) |           \
     CM_LINE_BIT(CM_LINE_SDA) | CM_LINE_BIT(CM_LINE_SCL) | CM_LINE_BIT(CM_LINE_CE) |               \
     CM_LINE_BIT(CM_LINE_OE) | CM_LINE_BIT(CM_LINE_WE) | CM_LINE_BIT(CM_LINE_LATCH) |              \
     CM_LINE_BIT(CM_LINE_A9_ID) | CM_LINE_BIT(CM_LINE_VPP))

enum {
    SUPPLY_INPUT = 0, /* ADC0 */
    UART_RING = 256,
    ADDRESS_LINES = 24,
    BATCH_BYTES = 2048 + 20,
    OPS = 24,
    WINDOW = 4,
    BUSES = 1 << CM_BUS_SHIFT | 1 << CM_BUS_SPI | 1 << CM_BUS_THREE_WIRE | 1 << CM_BUS_I2C |
            1 << CM_BUS_PARALLEL
};

#endif
