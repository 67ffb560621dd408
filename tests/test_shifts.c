/*
 * Hardware: none. Which instructions of an AVR are harmless when they arrive shifted or cut.
 *
 * A part that is enabled and out of step by n bits reads its instructions from the stream n bits
 * late. What is sent before the state of a part is known must then be no write and no erase; where
 * it could be, it is sent behind a RESET pulse only, since a part that has had one listens to
 * Programming Enable alone.
 */
#include "support/support.h"
#include <stdio.h>
#include <string.h>

/* Does an enabled part change anything by this instruction? Data sheets, "Serial programming
 * instruction set": the first byte, and of AC the second. */
static bool is_harmful(uint32_t instruction)
{
    uint8_t first = (uint8_t)(instruction >> 24), second = (uint8_t)(instruction >> 16);
    switch (first) {
    case 0x40: // load a page, or program a byte of a part without pages
    case 0x48:
    case 0x4C: // write page
    case 0xC0: // write EEPROM
    case 0xC2: // write EEPROM page
        return true;
    case 0xAC: // erase, fuses, lock bits
        return second == 0x80 || second == 0xA0 || second == 0xA4 || second == 0xA8 ||
               (second & 0xE0) == 0xE0;
    default:
        return false;
    }
}

/* A stream of instructions, read from bit `shift` on, as far as it makes whole ones; and how many
 * of them are harmful. */
static unsigned count_harmful(const uint8_t *stream, unsigned bytes, unsigned shift)
{
    unsigned harmful = 0;
    for (unsigned bit = shift; bit + 32 <= 8 * bytes; bit += 32) {
        uint32_t instruction = 0;
        for (unsigned i = 0; i < 32; i++)
            instruction = instruction << 1 | (stream[(bit + i) / 8] >> (7 - (bit + i) % 8) & 1);
        harmful += is_harmful(instruction);
    }
    return harmful;
}

/* The reason for the rule: neither of the two instructions that look for a chip may be said to one
 * that is enabled and out of step. */
static void what_looks_for_a_chip_is_harmful_to_one_out_of_step(void **state)
{
    static const uint8_t ENABLES[] = {0xAC, 0x53, 0, 0, 0xAC, 0x53, 0, 0, 0xAC, 0x53, 0, 0};
    static const uint8_t SIGNATURE[] = {0x30, 0, 0, 0, 0x30, 0, 1, 0, 0x30, 0, 2, 0};
    unsigned enables = 0, signature = 0;
    (void)state;
    for (unsigned shift = 1; shift < 32; shift++) {
        enables += count_harmful(ENABLES, sizeof ENABLES, shift);
        signature += count_harmful(SIGNATURE, sizeof SIGNATURE, shift);
    }
    assert_true(enables > 0);
    assert_true(signature > 0);
    assert_int_equal(count_harmful(ENABLES, sizeof ENABLES, 0), 0);
    assert_int_equal(count_harmful(SIGNATURE, sizeof SIGNATURE, 0), 0);
}

/*
 * A signature byte is asked for by an instruction of its own, and the next goes out when the echo
 * of this one was right. So an enabled part that loses n clocks in it completes one instruction:
 * its first 32 - n bits, and n of the next one. With n of up to 8 that is this instruction with
 * other data; more is seen in the echo.
 */
static void one_signature_byte_at_a_time_is_harmless(void **state)
{
    (void)state;
    for (uint32_t address = 0; address < 3; address++) {
        for (unsigned lost = 1; lost <= 8; lost++) {
            for (unsigned at = 0; at + lost <= 32; at++) {
                uint64_t one = (uint64_t)0x30 << 24 | address << 8, next = (uint64_t)0x30 << 24;
                uint64_t kept_high = one >> (32 - at) << (32 - at),
                         kept_low = one & (((uint64_t)1 << (32 - at - lost)) - 1);
                uint32_t taken = (uint32_t)(kept_high | kept_low << lost | next >> (32 - lost));
                if (at >= 16) // before that the echo of the first two bytes tells
                    assert_false(is_harmful(taken));
            }
        }
    }
}

/* --- what the driver really sends -------------------------------------------------------- */

static enum cm_status (*true_shift)(const struct cm_port *, const uint8_t *, uint8_t *, uint32_t);
static enum cm_status (*true_line)(const struct cm_port *, enum cm_line, enum cm_level);
static unsigned since_reset, longest, after_doubt, beyond;
static bool answers_nothing;

static enum cm_status watched_line(const struct cm_port *port, enum cm_line line,
                                   enum cm_level level)
{
    if (line == CM_LINE_RESET && level == CM_HIGH)
        since_reset = 0;
    return true_line(port, line, level);
}

/* Instructions that go out behind a RESET pulse while nothing comes back: the first is Programming
 * Enable, and there is no second. */
static enum cm_status watched_shift(const struct cm_port *port, const uint8_t *out, uint8_t *in,
                                    uint32_t bytes)
{
    bool is_enable = bytes == 4 && out[0] == 0xAC && out[1] == 0x53;
    since_reset++;
    longest = bytes > longest ? bytes : longest;
    beyond += since_reset == 1 && !is_enable && !(bytes == 4 && out[0] == 0x30);
    after_doubt += since_reset > 1;
    enum cm_status status = true_shift(port, out, in, bytes);
    if (in && answers_nothing)
        memset(in, 0xFF, bytes);
    return status;
}

/* MISO open: the part may be enabled, and nobody can tell. It hears nothing but one Programming
 * Enable behind each RESET pulse. */
static void a_part_that_cannot_be_heard_hears_nothing_that_writes(void **state)
{
    static const char *const PARTS[] = {"attiny13a", "at90s2313", "atmega2560"};
    (void)state;
    for (size_t i = 0; i < 3; i++) {
        struct rig rig;
        rig_open(&rig, PARTS[i], "");
        struct cm_lines lines = *rig.port->lines;
        struct cm_spi spi = *rig.port->spi;
        true_shift = spi.shift;
        true_line = lines.line;
        spi.shift = watched_shift;
        lines.line = watched_line;
        rig.port->lines = &lines;
        rig.port->spi = &spi;
        answers_nothing = true;
        since_reset = longest = after_doubt = beyond = 0;
        assert_int_equal(cm_identify(&rig.session, PARTS[i]), CM_NO_CHIP);
        assert_int_equal(beyond, 0);
        assert_int_equal(longest, 4);
        // blindly, for the one part that says nothing to Programming Enable, its signature is asked
        // for: in step, behind a pulse
        assert_true(after_doubt <= 9);
        assert_int_equal(rig.model->page_writes + rig.model->eeprom_writes + rig.model->erases +
                             rig.model->setting_writes,
                         0);
        answers_nothing = false;
        rig_close(&rig);
    }
}

/* The same on a port of lines: pulses on SCK once moved an enabled part out of step, and its EEPROM
 * was written. */
static void looking_by_lines_writes_nothing(void **state)
{
    static const char *const PARTS[] = {"attiny13a", "attiny2313a", "at90s2313", "at90s8515",
                                        "atmega16"};
    static const char *const BENCHES[] = {"wires: [miso=high]\nport:\n  only_lines: true\n",
                                          "wires: [miso=low]\nport:\n  only_lines: true\n",
                                          "wires: [miso=noise]\nport:\n  only_lines: true\n"};
    (void)state;
    for (size_t i = 0; i < sizeof PARTS / sizeof PARTS[0]; i++) {
        for (size_t b = 0; b < sizeof BENCHES / sizeof BENCHES[0]; b++) {
            for (int asserts = 0; asserts < 2; asserts++) {
                struct rig rig;
                rig_open(&rig, PARTS[i], BENCHES[b]);
                memset(rig.model->eeprom, 0x5A, rig.model->row->eeprom_bytes);
                memset(rig.model->flash, 0x5A, rig.model->row->flash_bytes);
                assert_int_not_equal(cm_identify(&rig.session, asserts ? PARTS[i] : NULL), CM_OK);
                for (uint32_t n = 0; n < rig.model->row->eeprom_bytes; n++)
                    assert_int_equal(rig.model->eeprom[n], 0x5A);
                for (uint32_t n = 0; n < rig.model->row->flash_bytes; n++)
                    assert_int_equal(rig.model->flash[n], 0x5A);
                rig_close(&rig);
            }
        }
    }
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(what_looks_for_a_chip_is_harmful_to_one_out_of_step),
        cmocka_unit_test(one_signature_byte_at_a_time_is_harmless),
        cmocka_unit_test(a_part_that_cannot_be_heard_hears_nothing_that_writes),
        cmocka_unit_test(looking_by_lines_writes_nothing),
    };
    return cmocka_run_group_tests(tests, NULL, NULL);
}
