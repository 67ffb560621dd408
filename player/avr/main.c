/*
 * A player on an AVR board, without a computer: the ATmega1284P of probe/avr/atmega1284p.h, with
 * the same wires to the target, and
 *
 *     button, to ground  PB2       beeper  PB3
 *     lamp "ready"       PB4       lamp "playing"  PB0       lamp "failed"  PB1
 *
 * The capsule is in the processor's flash, behind the program; its count and log are in the EEPROM.
 */
#include "../../probe/avr/board.h"
#include "capsule.h"
#include <avr/eeprom.h>
#include <avr/interrupt.h>
#include <avr/wdt.h>
#include <coldmint/avr.h>
#include <coldmint/player.h>
#include <string.h>

enum { WORKSPACE = 256 + 64 + CM_STATE_BYTES, HALF = 1024 };

static const struct pin READY = PIN_OF(B, 4), PLAYING = PIN_OF(B, 0), FAILED = PIN_OF(B, 1),
                        BUTTON = PIN_OF(B, 2), BEEPER = PIN_OF(B, 3);
static const uint8_t CAPSULE[] PROGMEM = CAPSULE_BYTES;
static const uint8_t MAKER[] = MAKER_KEY;
static const struct cm_part *const PARTS[] = {&CAPSULE_PART};
static const struct cm_kit KITS[] = {
    {.family = &cm_avr, .parts = PARTS, .part_count = 1, .carrier = &cm_carry_data}};
static uint8_t workspace[WORKSPACE];
static struct cm_player player;

/* It lies within the first 64 KiB: the compiler puts such tables before the program. */
static enum cm_status read_capsule(void *context, uint32_t offset, uint8_t *bytes, uint32_t count)
{
    (void)context;
    memcpy_P(bytes, CAPSULE + (uint16_t)offset, (size_t)count);
    return CM_OK;
}

/* --- the store --------------------------------------------------------------------------- */

static enum cm_status read_store(void *context, uint32_t offset, uint8_t *bytes, uint32_t count)
{
    (void)context;
    eeprom_read_block(bytes, (const void *)(uint16_t)offset, (size_t)count);
    return CM_OK;
}

static enum cm_status write_store(void *context, uint32_t offset, const uint8_t *bytes,
                                  uint32_t count)
{
    (void)context;
    eeprom_update_block(bytes, (void *)(uint16_t)offset, (size_t)count);
    return CM_OK;
}

static enum cm_status erase_store(void *context, uint8_t half)
{
    (void)context;
    for (uint16_t at = 0; at < HALF; at++)
        eeprom_update_byte((uint8_t *)(uint16_t)(half * HALF + at), 0xFF);
    return CM_OK;
}

static const struct cm_store STORE = {0, read_store, write_store, erase_store, HALF};

/* --- button, lamps and beeper ------------------------------------------------------------ */

static bool button(void *context)
{
    (void)context;
    return !pin_get(BUTTON);
}

static void light(struct pin pin, bool on)
{
    if (on)
        pin_high(pin);
    else
        pin_low(pin);
}

static void lamp(void *context, enum cm_player_lamp state)
{
    (void)context;
    light(READY, state == CM_LAMP_READY || state == CM_LAMP_PASS);
    light(PLAYING, state == CM_LAMP_PLAYING);
    light(FAILED, state == CM_LAMP_FAIL);
}

/* One long tone, or three short ones. */
static void beep(void *context, bool is_good)
{
    enum { HALF_US = 250, SHORT = 200, LONG = 1600 };
    (void)context;
    for (uint8_t n = is_good ? 1 : 3; n; n--) {
        for (uint16_t i = is_good ? LONG : SHORT; i; i--) {
            light(BEEPER, i & 1);
            clock_wait_us(0, HALF_US);
        }
        clock_wait_us(0, 100000);
    }
}

/* No serial line interrupts what the bus does. */
bool board_look(void)
{
    return true;
}

int main(void)
{
    wdt_disable();
    clock_begin();
    supply_begin();
    sei();
    pin_release(BUTTON);
    BUTTON.in[2] |= BUTTON.bit; // its pull-up
    player = (struct cm_player){.port = &board_port,
                                .kits = KITS,
                                .kit_count = 1,
                                .workspace = workspace,
                                .workspace_bytes = sizeof workspace,
                                .input = {0, read_capsule, sizeof CAPSULE},
                                .maker = MAKER,
                                .verify = cm_ed25519_verify,
                                .store = &STORE,
                                .button = button,
                                .lamp = lamp,
                                .beep = beep};
    lamp(0, CM_LAMP_DARK);
    if (cm_player_open(&player) == CM_OK)
        cm_player_run(&player); // for as long as there is power
    lamp(0, CM_LAMP_FAIL);
    for (;;)
        continue;
}
