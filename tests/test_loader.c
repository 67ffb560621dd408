/* Hardware: none. The demo's boot loader, compiled for this computer on a board of arrays: its
 * protocol, as demo/boot-loader.md tells it. */
#include "support/support.h"
#include <avr/io.h>
#include <stdlib.h>
#include <string.h>
#include <util/crc16.h>

int loader_main(void); // the loader's main, renamed by the build
extern const uint32_t application_end;

uint8_t chip_flash[FLASHEND + 1], chip_eeprom[E2END + 1];
const uint32_t application_end = 0x19C0;

/* The board: what the line brings, what it is answered, the page buffer, and the way out of the
 * loader's endless loop. */
static struct {
    uint8_t line[512], answers[4096];
    size_t count, at, answered;
    uint8_t page[SPM_PAGESIZE];
    unsigned pages_written;
    bool runs;
    jmp_buf out;
} board;

void board_begin(void);
bool board_receive(uint8_t *byte, uint16_t wait_ms);
void board_send(uint8_t byte);
void board_run(void) __attribute__((noreturn));
bool board_has_application(void);
void board_fill(uint32_t address, uint16_t word);
void board_write(uint32_t page);

void board_begin(void) {}

/* The line is silent once all has been sent; a loader that waits for a first request long enough
 * goes on to the application. */
bool board_receive(uint8_t *byte, uint16_t wait_ms)
{
    *byte = 0;
    if (board.at < board.count) {
        *byte = board.line[board.at++];
        return true;
    }
    if (wait_ms >= 1000)
        longjmp(board.out, 1);
    return false;
}

void board_send(uint8_t byte)
{
    board.answers[board.answered++] = byte;
}

void board_run(void)
{
    board.runs = true;
    longjmp(board.out, 1);
}

bool board_has_application(void)
{
    return chip_flash[0] != 0xFF;
}

void board_fill(uint32_t address, uint16_t word)
{
    board.page[address % SPM_PAGESIZE] = (uint8_t)word;
    board.page[address % SPM_PAGESIZE + 1] = (uint8_t)(word >> 8);
}

void board_write(uint32_t page)
{
    memcpy(chip_flash + page, board.page, SPM_PAGESIZE);
    board.pages_written++;
}

static void new_chip(void)
{
    memset(&board, 0, sizeof board);
    memset(chip_flash, 0xFF, sizeof chip_flash);
    memset(chip_eeprom, 0xFF, sizeof chip_eeprom);
}

static void request(char op, const void *payload, uint8_t count)
{
    uint8_t *to = board.line + board.count;
    uint16_t crc = _crc_xmodem_update(_crc_xmodem_update(0, (uint8_t)op), count);
    to[0] = 0xC5;
    to[1] = (uint8_t)op;
    to[2] = count;
    for (uint8_t i = 0; i < count; i++)
        crc = _crc_xmodem_update(crc, to[3 + i] = ((const uint8_t *)payload)[i]);
    to[3 + count] = (uint8_t)(crc >> 8);
    to[4 + count] = (uint8_t)crc;
    board.count += 5u + count;
}

/* Lets the loader work through the line. */
static void serve(void)
{
    if (setjmp(board.out) == 0)
        loader_main();
}

/* The next answer, whole and with a good checksum. */
static const uint8_t *next_answer(size_t *at, char op, uint8_t status, uint8_t count)
{
    const uint8_t *answer = board.answers + *at;
    uint16_t crc = 0;
    assert_true(board.answered >= *at + 6u + count);
    assert_int_equal(answer[0], 0x5C);
    assert_int_equal(answer[1], op);
    assert_int_equal(answer[2], status);
    assert_int_equal(answer[3], count);
    for (int i = 1; i < 6 + count; i++)
        crc = _crc_xmodem_update(crc, answer[i]);
    assert_int_equal(crc, 0); // a checksum over itself
    *at += 6u + count;
    return answer + 4;
}

static void it_says_who_it_is(void **state)
{
    static const uint8_t WANTED[] = {1, 0x1E, 0x93, 0x0C, 0, 64, 0, 0x19, 0xC0};
    size_t at = 0;
    (void)state;
    new_chip();
    request('H', NULL, 0);
    serve();
    assert_memory_equal(next_answer(&at, 'H', 0, sizeof WANTED), WANTED, sizeof WANTED);
    assert_int_equal(board.answered, at);
}

static void it_writes_pages_and_eeprom_and_checks_them(void **state)
{
    uint8_t fill[3 + 64] = {0, 0x01, 0x40}, sum_of[6] = {0, 0x01, 0x40, 0, 0, 64},
                     eeprom[3 + 10] = {0, 0x01, 0xF6};
    size_t at = 0;
    uint16_t crc = 0;
    (void)state;
    new_chip();
    for (uint8_t i = 0; i < 64; i++)
        crc = _crc_xmodem_update(crc, fill[3 + i] = (uint8_t)(i * 7 + 1));
    memcpy(eeprom + 3, "ten bytes!", 10);
    request('F', fill, sizeof fill);
    request('W', fill, 3);
    request('C', sum_of, sizeof sum_of);
    request('E', eeprom, sizeof eeprom);
    serve();
    next_answer(&at, 'F', 0, 0);
    next_answer(&at, 'W', 0, 0);
    const uint8_t *sum = next_answer(&at, 'C', 0, 2);
    assert_int_equal(sum[0] << 8 | sum[1], crc);
    next_answer(&at, 'E', 0, 0);
    assert_memory_equal(chip_flash + 0x140, fill + 3, 64);
    assert_int_equal(chip_flash[0x13F] & chip_flash[0x180], 0xFF);
    assert_memory_equal(chip_eeprom + 0x1F6, "ten bytes!", 10);
}

static void it_keeps_to_the_applications_part(void **state)
{
    static const uint8_t FILL[] = {0, 0x19, 0xBE, 1, 2, 3, 4}, WRITE[] = {0, 0x19, 0xC0},
                         ODD[] = {0, 0, 1, 1, 2}, FAR[] = {0x7F, 0xFF, 0xFE, 1, 2},
                         EEPROM[] = {0, 0x01, 0xFF, 1, 2}, CHECK[] = {0, 0x1F, 0xFF, 0, 0, 2};
    size_t at = 0;
    (void)state;
    new_chip();
    request('F', FILL, sizeof FILL);
    request('W', WRITE, sizeof WRITE);
    request('F', ODD, sizeof ODD);
    request('F', FAR, sizeof FAR);
    request('E', EEPROM, sizeof EEPROM);
    request('C', CHECK, sizeof CHECK);
    request('X', NULL, 0);
    request('G', NULL, 0); // there is no application
    serve();
    static const char OPS[] = "FWFFEC";
    for (const char *op = OPS; *op; op++)
        next_answer(&at, *op, 3, 0);
    next_answer(&at, 'X', 2, 0);
    next_answer(&at, 'G', 2, 0);
    assert_int_equal(board.pages_written, 0);
    assert_false(board.runs);
}

static void what_comes_damaged_has_no_effect(void **state)
{
    uint8_t fill[3 + 64] = {0};
    (void)state;
    new_chip();
    request('F', fill, sizeof fill);
    request('W', fill, 3);
    size_t whole = board.count;
    static uint8_t line[512];
    memcpy(line, board.line, whole);
    for (size_t bit = 0; bit < whole * 8; bit++) {
        new_chip();
        memcpy(board.line, line, whole);
        board.line[bit / 8] ^= (uint8_t)(1u << bit % 8);
        board.count = whole;
        serve();
        assert_true(bit / 8 < 3 + 64 + 5 ||
                    board.pages_written == 0); // the write itself is damaged
        assert_int_equal(chip_flash[64], 0xFF);
    }
    for (board.count = 0; board.count < 72; board.count++) { // cut off within the first request
        board.at = board.answered = 0;
        serve();
        assert_int_equal(board.pages_written, 0);
    }
}

static void it_starts_the_application(void **state)
{
    size_t at = 0;
    (void)state;
    new_chip();
    chip_flash[0] = 0x10;
    request('G', NULL, 0);
    serve();
    next_answer(&at, 'G', 0, 0);
    assert_true(board.runs);
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(it_says_who_it_is),
        cmocka_unit_test(it_writes_pages_and_eeprom_and_checks_them),
        cmocka_unit_test(it_keeps_to_the_applications_part),
        cmocka_unit_test(what_comes_damaged_has_no_effect),
        cmocka_unit_test(it_starts_the_application),
    };
    return cmocka_run_group_tests_name("loader", tests, NULL, NULL);
}
