/*
 * Status registers.
 *
 *     read    05 / 35 / 15  -> byte                     register 0, 1, 2; other opcodes with some
 *                                                       makers
 *     write   06, 01 byte [byte]                        or each by its own: 01, 31, 11
 *
 * A chip that lacks a register answers its opcode with nothing: FF. Such a one counts as 0 and is
 * never written. Where makers changed their mind between one generation and the next under the same
 * id (does 01 take one byte or two?), the first way is tried, read back, and then the other.
 */
#include "nor.h"
#include <string.h>

static const uint8_t SINGLE[CM_NOR_REGISTERS] = {CMD_WRITE_STATUS, 0x31, 0x11};

static const struct cm_nor_status *registers_of(const struct cm_session *session)
{
    return cm_nor_part_of(session)->status;
}

static void add_readings(struct cm_session *session, enum cm_data data, uint8_t *bytes)
{
    const struct cm_nor_status *registers = registers_of(session);
    for (uint8_t i = 0; i < registers->count; i++)
        cm_batch_exchange(session, registers->read[i], 1, data, bytes + i)->count = 1;
}

/* Somebody answers: by the id, or by the latch of a part that has none. */
static void add_proof(struct cm_session *session)
{
    if (session->id[0]) {
        cm_nor_add_proof(session);
        return;
    }
    cm_nor_add(session, CMD_WRITE_ENABLE);
    cm_nor_add_latch(session, STATUS_ENABLED);
    cm_nor_add(session, CMD_WRITE_DISABLE);
    cm_nor_add_latch(session, 0);
}

/* All registers as they are; a second reading must agree. The proof is between the two: a wire that
 * fails for a while, and spoils both alike, spoils that as well. */
static enum cm_status read_raw(struct cm_session *session, uint8_t *bytes)
{
    memset(bytes, 0, CM_NOR_REGISTERS);
    cm_batch_begin(session, CM_STEP_SETTINGS, "status", 0);
    add_readings(session, CM_DATA_IN, bytes);
    add_proof(session);
    add_readings(session, CM_DATA_MATCH, bytes);
    enum cm_status status = cm_nor_run(session);
    return status == CM_DIFFERS ? cm_refine(session, CM_CONTACT_LOST) : status;
}

/* The bits of a register that are settings; none where it is not there. */
static uint8_t settings_in(const struct cm_nor_status *registers, const uint8_t *bytes, uint8_t i)
{
    return i > 0 && bytes[i] == 0xFF ? 0 : registers->kept[i];
}

enum cm_status cm_nor_read_status(struct cm_session *session, uint8_t *bytes)
{
    enum cm_status status = read_raw(session, bytes);
    for (uint8_t i = 0; i < CM_NOR_REGISTERS; i++)
        bytes[i] &= settings_in(registers_of(session), bytes, i);
    return status;
}

enum cm_status cm_nor_write_registers(struct cm_session *session, uint8_t opcode,
                                      const uint8_t *bytes, uint8_t count)
{
    cm_batch_begin(session, CM_STEP_SETTINGS, "status", 0);
    cm_nor_add(session, registers_of(session)->enable);
    cm_batch_exchange(session, opcode, 1, CM_DATA_OUT, bytes)->count = count;
    struct cm_poll *poll =
        cm_nor_add_ready(session, 0, cm_nor_part_of(session)->times->status_max_us);
    poll->floating = 0; // with all its bits set a register reads FF while it is written
    return cm_nor_run(session);
}

/* In the table's way some registers share a frame with the one before; in the other each goes
 * alone. Only what changes is written. */
static enum cm_status write_all(struct cm_session *session, const uint8_t *now,
                                const uint8_t *bytes, bool alone)
{
    const struct cm_nor_status *registers = registers_of(session);
    enum cm_status status = CM_OK;
    for (uint8_t i = 0, next; !status && i < registers->count; i = next) {
        next = (uint8_t)(i + 1);
        while (!alone && next < registers->count && registers->write[next] == registers->write[i])
            next++;
        if (registers->write[i] && memcmp(now + i, bytes + i, (size_t)(next - i)) != 0)
            status = cm_nor_write_registers(session, alone ? SINGLE[i] : registers->write[i],
                                            bytes + i, (uint8_t)(next - i));
    }
    return status;
}

/* What does not read back in either way is taken back as well: a register that took some of it gets
 * what it had. */
enum cm_status cm_nor_write_status(struct cm_session *session, const uint8_t *wanted)
{
    enum { FIRST_WAY, OTHER_WAY, BACK };
    const struct cm_nor_status *registers = registers_of(session);
    uint8_t first[CM_NOR_REGISTERS], now[CM_NOR_REGISTERS], bytes[CM_NOR_REGISTERS];
    for (uint8_t way = FIRST_WAY;; way++) {
        enum cm_status status = read_raw(session, now);
        uint8_t wrong = CM_NOR_REGISTERS;
        now[0] &= (uint8_t) ~(STATUS_BUSY | STATUS_ENABLED);
        for (uint8_t i = CM_NOR_REGISTERS;
             i-- > 0;) { // bits that are not settings are written as they are read
            uint8_t differs = (now[i] ^ wanted[i]) & settings_in(registers, now, i);
            bytes[i] = now[i] ^ differs;
            wrong = differs ? i : wrong;
        }
        if (status || wrong == CM_NOR_REGISTERS)
            return status;
        if (way == FIRST_WAY)
            memcpy(first, now, sizeof first);
        if (way == BACK) {
            (void)write_all(session, now, first, false);
            return cm_fail_byte(session, CM_WRITE_FAILED, CM_STEP_SETTINGS, "status", wrong,
                                wanted[wrong], now[wrong]);
        }
        status = write_all(session, now, bytes, way == OTHER_WAY);
        if (status)
            return status;
    }
}
