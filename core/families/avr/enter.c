/*
 * The way in: reset, Programming Enable, signature; and the instructions that all batches are made
 * of.
 *
 * Data sheets, "Serial programming algorithm", steps 1 to 3:
 *
 *     RESET ~~~~~\_______/~~\______________________________
 *     SCK   _________________________________/~\_/~\_ ...
 *                        |  |<-- 20 ms or more -->| AC 53 00 00, and 53 comes back with
 *                        |                                       the third byte
 *                        >= 2 CPU cycles, with SCK low
 *
 * Without the 53, RESET gets another pulse and Programming Enable goes again; the oldest parts may
 * have to be brought into step by single pulses on SCK as well. SCK must be low and high for more
 * than 2 CPU cycles each (3 from 12 MHz on), and the CPU may run on anything from 32 kHz to 20 MHz:
 * so a slow clock is tried when the usual one gets no answer, and a fast one when it does.
 *
 * Which instructions are safe. A part that has just had a RESET pulse listens to Programming Enable
 * and nothing else, so whatever it misreads of that one does nothing. An enabled part obeys what it
 * reads. Out of step by 2 bits it takes 30 00 04 for C0 00 10, "write EEPROM"; by 10 bits, AC 53 00
 * 00 for 4C 00 00 00, "write page". tests/test_shifts.c has them all. So nothing is ever sent to a
 * part whose state is not known but Programming Enable behind a RESET pulse.
 *
 * Every part but the AT90S1200 repeats each byte while the next is sent. The sheets promise that
 * for 53 only, so we look whether a part does it for other instructions too, and use it if so: a
 * loose wire shows in the very instruction. A clock that is lost, or comes twice, does not: the
 * echo is what went in eight bits before, in step or not. An answer does, where it is known. So
 *
 *     the signature's first byte comes first: 1E, or what it was. Late, its instruction is not
 *     complete when that is judged, and a RESET pulse ends it
 *     behind an answer that is not known comes a RESET pulse, or one that is known
 *     what is read is believed when the signature behind it is right
 *
 * Parts without pages of flash obey a read that is one bit late (40 for 20, "program a byte"): each
 * read has a signature byte behind it there. What is lost between the last bit of one and the first
 * of the other nothing shows.
 */
#include "avr.h"
#include <string.h>

enum {
    RESET_LOW_US = 100, // t_RST is 2.5 us at most
    RESET_PULSE_US = AVR_PULSE_US,
    ENTER_WAIT_US = 20000, // "wait for at least 20 ms"
    TRIES = 3,             // reset pulses at each clock
    SLACK =
        1024, // a half of SCK must be longer than two cycles, not as long: one part in 1024 slower
    FAST_CPU_HZ = 12000000, // from here on a half takes three cycles
    AT90S1200_ID = 0x90,    // and the second of this one
    TIMEOUT_FACTOR = 4, // a busy part gets so many times its data sheet's time before we give up
};

// 200 kHz suits 1 MHz less the 10 % that a factory-trimmed oscillator may be off; 25 kHz the 128
// kHz oscillator, 6 kHz a watch crystal, 3 kHz and 0.9 kHz the same two divided by eight. Last of
// all the first one again, blindly, for the AT90S1200.
static const uint16_t SCK_LADDER_100_HZ[] = {2000, 250, 60, 30, 9, 2000};
enum { RUNGS = sizeof SCK_LADDER_100_HZ / sizeof SCK_LADDER_100_HZ[0] };

/* --- batches ----------------------------------------------------------------------------- */

struct cm_exchange *cm_avr_add_instruction(struct cm_session *session, uint8_t first,
                                           uint8_t second, uint8_t third, uint8_t fourth)
{
    struct cm_exchange *exchange = &cm_batch_add(session, CM_OP_EXCHANGE)->exchange;
    exchange->head_count = INSTRUCTION;
    exchange->data = cm_avr_state(session)->echoes ? CM_ECHO : CM_DATA_NONE;
    exchange->head[0] = first;
    exchange->head[1] = second;
    exchange->head[2] = third;
    exchange->head[3] = fourth;
    return exchange;
}

struct cm_exchange *cm_avr_add_read(struct cm_session *session, uint8_t first, uint8_t second,
                                    uint8_t third, enum cm_data data, uint8_t *byte)
{
    struct cm_exchange *exchange = cm_avr_add_instruction(session, first, second, third, 0);
    exchange->head_count = INSTRUCTION - 1;
    exchange->data |= (uint8_t)data;
    exchange->in = byte;
    return exchange;
}

/* Flash opcodes with bit 3 are for the high byte of a word: the address's lowest bit goes there. */
struct cm_exchange *cm_avr_add_each(struct cm_session *session, uint8_t opcode, enum cm_data data,
                                    const uint8_t *bytes)
{
    enum { NO_FLASH = 0x98, HIGH_BYTE = 0x08, BIT_0_TO_3 = 32 - 3 };
    struct cm_exchange *exchange =
        cm_avr_add_read(session, opcode, 0, 0, data, (uint8_t *)(uintptr_t)bytes);
    exchange->address_bytes = 2;
    if (!(opcode & NO_FLASH)) {
        exchange->address_turn = 1;
        exchange->fold_turn = BIT_0_TO_3;
        exchange->fold_mask = HIGH_BYTE;
    }
    return exchange;
}

void cm_avr_add_ready(struct cm_session *session, uint32_t t_wd_us)
{
    if (cm_avr_part_of(session)->generation != CM_AVR_POLLED) {
        cm_batch_wait(session, t_wd_us);
        return;
    }
    cm_batch_add(session, CM_OP_POLL)->poll.timeout_us = TIMEOUT_FACTOR * t_wd_us;
    cm_avr_add_instruction(session, 0xF0, 0, 0, 0)->mask = 0x01; // 1 in the fourth byte while busy
}

/* Byte by byte, each an operation of its own: the echo of one is looked at before the next goes
 * out. */
static void add_signature(struct cm_session *session, enum cm_data data, uint8_t *id)
{
    for (uint8_t i = 0; i < SIGNATURE_BYTES; i++)
        cm_avr_add_read(session, READ_SIGNATURE, 0, i, data, id + i);
}

void cm_avr_add_proof(struct cm_session *session)
{
    add_signature(session, CM_DATA_MATCH, session->id);
}

/*
 * Runs the batch. A port that restarts releases RESET first: the part leaves its
 * programming mode, and has misread nothing. That is lost contact without a doubt.
 */
static enum cm_status run_batch(struct cm_session *session)
{
    uint8_t doubts = session->doubts;
    uint32_t restarts = cm_restarts(session);
    enum cm_status status = cm_batch_run(session);
    if (cm_restarts(session) != restarts)
        session->doubts = doubts;
    return status;
}

/* Is the part there, and in step? Where flash has no pages, only a RESET pulse makes it safe to
 * ask: then it is. The record stays as it is. */
static bool is_still_there(struct cm_session *session)
{
    struct cm_failure record = session->failure;
    uint8_t doubts = session->doubts;
    bool is_paged = cm_avr_part_of(session)->flash_page_bytes;
    bool there = (is_paged || cm_avr_enter(session) == CM_OK) && cm_avr_identify(session) == CM_OK;
    session->failure = record;
    session->doubts = doubts;
    return there;
}

/*
 * A write that failed may have been one by a part out of step, which an echo does not always show:
 * then contact was lost. So it is with any doubt, of a part that does not echo.
 */
enum cm_status cm_avr_run(struct cm_session *session)
{
    enum cm_status status = run_batch(session);
    if (!status)
        return CM_OK;
    cm_avr_state(session)->segment_known = false;
    bool doubtful = status == CM_WRITE_FAILED || (!cm_avr_state(session)->echoes &&
                                                  (status == CM_DIFFERS || status == CM_TIMED_OUT));
    if (doubtful && session->part && !is_still_there(session))
        return cm_refine(session, CM_CONTACT_LOST);
    return status;
}

/* --- the way in -------------------------------------------------------------------------- */

/* Clock that suits the CPU clock that we were told; 0 where we were not. */
static uint32_t told_clock(const struct cm_session *session)
{
    uint32_t hz = session->cpu_hz / (session->cpu_hz < FAST_CPU_HZ ? 4 : 6);
    return hz - hz / SLACK;
}

/* Runs a batch that ends with Programming Enable, and keeps what came back. */
enum cm_status cm_avr_enable(struct cm_session *session, uint8_t *answer)
{
    enum { ENABLE_1 = 0xAC, ENABLE_2 = 0x53 }; // Programming Enable, and two bytes of 0
    answer[0] = ENABLE_1;
    answer[1] = ENABLE_2;
    answer[2] = answer[3] = 0;
    struct cm_exchange *exchange = &cm_batch_add(session, CM_OP_EXCHANGE)->exchange;
    exchange->data = CM_DATA_BOTH;
    exchange->count = INSTRUCTION;
    exchange->in = answer;
    enum cm_status status = cm_avr_run(session);
    if (session->batch.ops[0].kind == CM_OP_CLOCK)
        session->clock_hz = cm_avr_state(session)->made_hz = session->batch.ops[0].clock.real_hz;
    memcpy(session->failure.answer, answer, INSTRUCTION);
    cm_avr_state(session)->echoes = !status && answer[1] == ENABLE_1 && answer[2] == ENABLE_2;
    return status;
}

/*
 * The AT90S1200 says nothing to Programming Enable and is asked for its signature all the same, but
 * only when nothing else is left to try: other parts must hear no other instruction before that
 * one. CM_NO_CHIP where there is no answer, or one that is not sure yet: a part that a pulse did
 * not reach, and that is out of step, repeats the 53 as well. So behind a try that failed, two in a
 * row must answer.
 */
enum cm_status cm_avr_ask(struct cm_session *session)
{
    uint8_t answer[INSTRUCTION] = {0}, id[SIGNATURE_BYTES] = {0};
    struct cm_avr_state *state = cm_avr_state(session);
    enum cm_status status = cm_avr_enable(session, answer);
    bool is_in_step = answer[2] == 0x53, is_plain = session->tries == 1 && state->echoes,
         is_sure = is_in_step && (is_plain || state->was_in_step);
    state->was_in_step = is_in_step;
    if (!status && !is_sure && !state->blind)
        return CM_NO_CHIP;
    if (status || state->echoes)
        return status;
    // 53 alone, or nothing at all: a part that does not echo, or no part. Its signature tells.
    cm_batch_begin(session, CM_STEP_ENTER, NULL, 0);
    add_signature(session, CM_DATA_IN, id);
    status = cm_batch_run(session);
    if (!status && (id[0] != AVR_VENDOR || (!is_in_step && id[1] != AT90S1200_ID)))
        status = CM_NO_CHIP;
    return status;
}

/* Begins a batch with a reset pulse at a clock. A part that may be in the middle of a write, by an
 * instruction that it misread, gets the time to end it: else it would be cut off. */
void cm_avr_add_reset(struct cm_session *session, uint32_t hz)
{
    static const struct cm_line_step PULSE[] = {{CM_LINE_RESET, CM_LOW, RESET_LOW_US},
                                                {CM_LINE_RESET, CM_HIGH, RESET_PULSE_US},
                                                {CM_LINE_RESET, CM_LOW, ENTER_WAIT_US}};
    cm_avr_state(session)->asked_hz = hz;
    cm_batch_begin(session, CM_STEP_ENTER, NULL, 0);
    cm_batch_clock(session, hz);
    if (session->part && session->doubts && session->tries == 0)
        cm_batch_wait(session, cm_avr_part_of(session)->times->t_wd_erase_us);
    cm_batch_lines(session, PULSE, sizeof PULSE / sizeof PULSE[0]);
    session->tries++;
}

enum cm_status cm_avr_try_clock(struct cm_session *session, uint32_t hz)
{
    enum cm_status status = CM_NO_CHIP;
    if (hz == 0 || hz < session->port->traits.clock_min_hz)
        return status;
    for (uint8_t i = 0; i < TRIES && status == CM_NO_CHIP; i++) {
        cm_avr_add_reset(session, hz);
        status = cm_avr_ask(session);
    }
    const struct cm_part *part = cm_likely_part(session);
    bool may_nudge =
        status == CM_NO_CHIP && hz == AVR_FIRST_HZ && part && cm_avr_row(part)->times->nudge;
    return may_nudge ? cm_avr_row(part)->times->nudge(session) : status;
}

enum cm_status cm_avr_enter(struct cm_session *session)
{
    uint32_t known = session->clock_hz ? session->clock_hz : told_clock(session);
    if (known == cm_avr_state(session)->made_hz) // out of what was asked for; out of that the port
        known = cm_avr_state(session)->asked_hz; // would make still less
    bool is_silent = session->part && !cm_avr_state(session)->echoes;
    cm_fail(session, CM_OK, CM_STEP_ENTER);
    session->tries = 0;
    cm_avr_state(session)->segment_known = false;
    session->entered = true; // lines are driven from here on
    cm_avr_state(session)->blind = is_silent;
    enum cm_status status = cm_avr_try_clock(session, known);
    for (uint8_t rung = 0; rung < RUNGS && status == CM_NO_CHIP; rung++) {
        cm_avr_state(session)->blind = is_silent || rung == RUNGS - 1;
        status = cm_avr_try_clock(session, SCK_LADDER_100_HZ[rung] * 100u);
        bool is_plain = rung == 0 && cm_avr_state(session)->echoes &&
                        session->tries <= TRIES; // a reset pulse alone brings it into step
        if (!status && is_plain && !known && session->kit->find_clock)
            status = session->kit->find_clock(session);
    }
    if (!status)
        return CM_OK;
    cm_avr_leave(session);
    session->clock_hz = known;
    session->failure.step = CM_STEP_ENTER; // the last answer stays in the record
    return cm_refine(session, status);
}

/*
 * Reads the signature of a chip that is not known. Two bits late, 30 is C0, "write EEPROM", and the
 * first bits of whatever comes next complete it. So where the answer does not tell that the part is
 * in step, what comes next is a RESET pulse.
 */
static enum cm_status read_signature(struct cm_session *session)
{
    enum cm_status status = CM_OK;
    uint8_t *id = session->id;
    for (uint8_t i = 0; i < SIGNATURE_BYTES && !status; i++, id++) {
        cm_batch_begin(session, CM_STEP_IDENTIFY, "signature", 0);
        cm_avr_add_read(session, READ_SIGNATURE, 0, i, CM_DATA_IN, id);
        status = run_batch(session);
        if (!status && *id != AVR_VENDOR && cm_avr_state(session)->echoes)
            status = cm_avr_enter(session);
    }
    return status;
}

/*
 * Reads the signature, and compares it with a second reading; for a chip that is known already,
 * compares it with what it was. A part whose 53 came, but which does not repeat the bytes of this
 * instruction, is taken for one that does not echo.
 */
enum cm_status cm_avr_identify(struct cm_session *session)
{
    for (;;) {
        const uint8_t *id = session->id;
        uint8_t doubts = session->doubts;
        enum cm_status status = session->part ? CM_OK : read_signature(session);
        cm_batch_begin(session, CM_STEP_IDENTIFY, "signature", 0);
        cm_avr_add_proof(session);
        if (!status)
            status = run_batch(session);
        bool is_dead = !status && id[0] == id[1] &&
                       id[1] == id[2]; // a wire that nobody drives, whatever it reads
        if (status == CM_DIFFERS || is_dead)
            return cm_refine(session, CM_CONTACT_LOST);
        if (status != CM_CONTACT_LOST || !cm_avr_state(session)->echoes || session->part)
            return status;
        status = cm_avr_enter(session); // it may be out of step
        if (status)
            return status;
        cm_avr_state(session)->echoes = false;
        session->doubts = doubts;
    }
}

void cm_avr_leave(struct cm_session *session)
{
    static const struct cm_line_step LET_GO[] = {
        {CM_LINE_RESET, CM_RELEASED, RESET_PULSE_US}}; // seen by the slowest part
    if (!session->entered)
        return;
    session->entered = false;
    // The bus first: while RESET is low the target's own pins are inputs. In one batch, so that
    // SCK is not left to itself for long; should it fail, RESET alone.
    for (uint8_t with_bus = 2; with_bus--;) {
        cm_batch_begin(session, CM_STEP_LEAVE, NULL, 0);
        if (with_bus)
            cm_batch_add(session, CM_OP_CLOCK);
        cm_batch_lines(session, LET_GO, 1);
        if (cm_batch_try(session) == CM_OK)
            return;
    }
}
