/*
 * What only older AVR parts need: memories that are written byte by byte and waited for, and the
 * way in of parts that a RESET pulse alone may not bring into step.
 *
 * A file of its own: only rows whose times name these functions carry it (times.c).
 */
#include "avr.h"

/* Flash of the classic parts and EEPROM of those without page access: byte by byte, each waited
 * for. */
enum cm_status cm_avr_program_bytes(struct cm_session *session, uint8_t index, uint32_t address,
                                    const uint8_t *bytes, uint32_t count)
{
    bool flash = index == CM_AVR_FLASH;
    cm_batch_begin(session, CM_STEP_PROGRAM, cm_avr_region_names[index], address);
    cm_batch_repeat(session, address, count, 1, 2);
    cm_avr_add_each(session, flash ? 0x40 : 0xC0, CM_DATA_OUT, bytes);
    cm_batch_wait(session, cm_avr_write_us(session, index));
    cm_batch_verify(session);
    cm_avr_add_run(session, index, CM_DATA_MATCH, address, bytes, count);
    return cm_avr_run(session);
}

/*
 * The oldest parts may be out of step even so: a pulse on SCK moves them by one bit. Each try
 * begins with a reset pulse, so that no part which is enabled, and only does not get through to us,
 * is moved.
 */
static enum cm_status nudge_by(struct cm_session *session, uint8_t pulses)
{
    static const struct cm_line_step PULSE[] = {{CM_LINE_SCK, CM_HIGH, AVR_PULSE_US},
                                                {CM_LINE_SCK, CM_LOW, AVR_PULSE_US}};
    cm_avr_add_reset(session, AVR_FIRST_HZ);
    enum cm_status status = cm_batch_run(session);
    for (; pulses && !status; pulses--) {
        cm_batch_begin(session, CM_STEP_ENTER, NULL, 0);
        cm_batch_lines(session, PULSE, sizeof PULSE / sizeof PULSE[0]);
        status = cm_batch_run(session);
    }
    cm_batch_begin(session, CM_STEP_ENTER, NULL, 0);
    cm_avr_state(session)->was_in_step = true; // one answer is enough: another number has none
    return status ? status : cm_avr_ask(session);
}

enum cm_status cm_avr_nudge(struct cm_session *session)
{
    enum { SCK_PULSES = 32 }; // AT90S sheets: no device after that many
    enum cm_status status = CM_NO_CHIP;
    bool has_sck = session->port->traits.lines & CM_LINE_BIT(CM_LINE_SCK);
    for (uint8_t i = 1; i < SCK_PULSES && status == CM_NO_CHIP && has_sck; i++)
        status = nudge_by(session, i);
    return status;
}
