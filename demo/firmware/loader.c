/*
 * The Larkspur loader: takes firmware over the carillon's own serial line and writes it into the
 * chip. See ../boot-loader.md.
 *
 * A request is  C5 op n payload[n] crc crc,  an answer  5C op status n payload[n] crc crc.  The
 * checksum is CRC-16/XMODEM (polynomial 1021, begun with 0), high byte first, over everything
 * between the first byte and itself. What arrives damaged is answered with status 1 and has no
 * effect.
 */
#include "loader.h"
#include <avr/boot.h>
#include <avr/eeprom.h>
#include <avr/io.h>
#include <avr/pgmspace.h>
#include <util/crc16.h>

enum { REQUEST = 0xC5, ANSWER = 0x5C, MOST_PAYLOAD = 68, FIRST_WAIT_MS = 1000, BYTE_WAIT_MS = 50 };
enum { GOOD, DAMAGED, NOT_KNOWN, OUT_OF_BOUNDS };

static uint8_t payload[MOST_PAYLOAD];
static uint16_t crc;

static bool take(uint8_t *byte)
{
    bool came = board_receive(byte, BYTE_WAIT_MS);
    crc = _crc_xmodem_update(crc, *byte);
    return came;
}

static void give(uint8_t byte)
{
    crc = _crc_xmodem_update(crc, byte);
    board_send(byte);
}

static void answer(uint8_t op, uint8_t status, uint8_t count)
{
    board_send(ANSWER);
    crc = 0;
    give(op);
    give(status);
    give(count);
    for (uint8_t i = 0; i < count; i++)
        give(payload[i]);
    uint16_t sum = crc;
    board_send((uint8_t)(sum >> 8));
    board_send((uint8_t)sum);
}

/* Reads what follows a request's first byte. */
static bool take_request(uint8_t *op, uint8_t *count)
{
    uint8_t byte;
    crc = 0;
    if (!take(op) || !take(count) || *count > MOST_PAYLOAD)
        return false;
    for (uint8_t i = 0; i < *count; i++) {
        if (!take(&payload[i]))
            return false;
    }
    return take(&byte) && take(&byte) && crc == 0;
}

static uint32_t number_at(uint8_t at)
{
    return (uint32_t)payload[at] << 16 | (uint16_t)(payload[at + 1] << 8) | payload[at + 2];
}

/* H: version, signature (3), page size (2), first byte that is the loader's (3). */
static uint8_t hello(uint8_t op)
{
    payload[0] = LOADER_VERSION;
    payload[1] = SIGNATURE_0;
    payload[2] = SIGNATURE_1;
    payload[3] = SIGNATURE_2;
    payload[4] = (uint8_t)(SPM_PAGESIZE >> 8);
    payload[5] = (uint8_t)SPM_PAGESIZE;
    payload[6] = (uint8_t)(application_end >> 16);
    payload[7] = (uint8_t)(application_end >> 8);
    payload[8] = (uint8_t)application_end;
    answer(op, GOOD, 9);
    return GOOD;
}

/* F: address (3), then an even number of bytes for the page buffer. */
static uint8_t fill(uint8_t count)
{
    uint32_t address = number_at(0);
    if (count < 5 || !(count & 1) || address & 1 || address + count - 3 > application_end)
        return OUT_OF_BOUNDS;
    eeprom_busy_wait(); // no SPM while the EEPROM is being written
    for (uint8_t i = 3; i < count; i += 2, address += 2)
        board_fill(address, (uint16_t)(payload[i] | payload[i + 1] << 8));
    return GOOD;
}

/* W: address (3) of a page that has been filled. */
static uint8_t write(uint8_t count)
{
    uint32_t page = number_at(0) & ~(uint32_t)(SPM_PAGESIZE - 1);
    if (count != 3 || page >= application_end)
        return OUT_OF_BOUNDS;
    eeprom_busy_wait();
    board_write(page);
    return GOOD;
}

/* E: address (3), then bytes for the EEPROM. */
static uint8_t write_eeprom(uint8_t count)
{
    uint32_t address = number_at(0);
    if (count < 4 || address + count - 3 > E2END + 1UL)
        return OUT_OF_BOUNDS;
    eeprom_update_block(&payload[3], (void *)(uintptr_t)address, (uint8_t)(count - 3));
    return GOOD;
}

/* C: address (3), count (3); answers the checksum of so much flash. */
static uint8_t check(uint8_t op, uint8_t count)
{
    uint32_t address = number_at(0), end = address + number_at(3);
    uint16_t sum = 0;
    if (count != 6 || end > FLASHEND + 1UL || end < address)
        return OUT_OF_BOUNDS;
    for (; address < end; address++) {
#if FLASHEND > 0xFFFF
        sum = _crc_xmodem_update(sum, pgm_read_byte_far(address));
#else
        sum = _crc_xmodem_update(sum, pgm_read_byte((uint16_t)address));
#endif
    }
    payload[0] = (uint8_t)(sum >> 8);
    payload[1] = (uint8_t)sum;
    answer(op, GOOD, 2);
    return GOOD;
}

static void serve(void)
{
    uint8_t op = 0, count = 0, status = NOT_KNOWN;
    if (!take_request(&op, &count))
        status = DAMAGED;
    else if (op == 'H' && hello(op) == GOOD)
        return;
    else if (op == 'C' && (status = check(op, count)) == GOOD)
        return;
    else if (op == 'F')
        status = fill(count);
    else if (op == 'W')
        status = write(count);
    else if (op == 'E')
        status = write_eeprom(count);
    else if (op == 'G' && board_has_application())
        status = GOOD;
    answer(op, status, 0);
    if (op == 'G' && status == GOOD)
        board_run();
}

int main(void)
{
    uint8_t byte;
    board_begin();
    uint16_t wait_ms = FIRST_WAIT_MS;
    for (;;) {
        if (board_receive(&byte, wait_ms)) {
            if (byte == REQUEST) {
                serve();
                wait_ms = 60000; // somebody is there: no hurry
            }
        } else if (board_has_application()) {
            board_run();
        }
    }
}
