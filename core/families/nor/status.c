/*
 * Status registers.
 *
 *     read    05 / 35 / 15  -> byte                     register 0, 1, 2; other opcodes with some makers
 *     write   06, 01 byte [byte]                        or each by its own: 01, 31, 11
 *
 * A chip that lacks a register answers its opcode with nothing: FF. Such a one counts as 0 and is never written. Where makers changed their mind between one
 * generation and the next under the same id (does 01 take one byte or two?), the first way is tried, read back, and then the other.
 */
#include "nor.h"
#include <string.h>

static const uint8_t SINGLE[CM_NOR_REGISTERS] = {CMD_WRITE_STATUS, 0x31, 0x11};

static const struct cm_nor_status *registers_of(const struct cm_session *session)
{
    return cm_nor_part_of(session)->status;
}

/* All registers as they are, read twice; and the bits of each that are settings (none where the register is not there). */
static enum cm_status read_raw(struct cm_session *session, uint8_t *bytes, uint8_t *kept)
{
    const struct cm_nor_status *status_of = registers_of(session);
    uint8_t again[CM_NOR_REGISTERS] = {0};
    memset(bytes, 0, CM_NOR_REGISTERS);
    memset(kept, 0, CM_NOR_REGISTERS);
    cm_batch_begin(session, CM_STEP_SETTINGS, "status", 0);
    for (uint8_t i = 0; i < 2 * status_of->count; i++) {
        struct cm_frames *frames = cm_nor_add_frames(session, status_of->read[i % status_of->count]);
        frames->data = CM_EACH_IN;
        frames->in = i < status_of->count ? bytes + i : again + (i - status_of->count);
        frames->count = 1;
    }
    cm_nor_add_proof(session);
    enum cm_status status = cm_nor_run(session);
    for (uint8_t i = 0; !status && i < status_of->count; i++) {
        bool is_there = i == 0 || bytes[i] != 0xFF;
        kept[i] = is_there ? status_of->kept[i] : 0;
        if ((bytes[i] ^ again[i]) & kept[i])
            return cm_fail_byte(session, CM_CONTACT_LOST, CM_STEP_SETTINGS, "status", i, bytes[i], again[i]);
    }
    return status == CM_DIFFERS ? cm_refine(session, CM_CONTACT_LOST) : status;
}

enum cm_status cm_nor_read_status(struct cm_session *session, uint8_t *bytes)
{
    uint8_t kept[CM_NOR_REGISTERS];
    enum cm_status status = read_raw(session, bytes, kept);
    for (uint8_t i = 0; i < CM_NOR_REGISTERS; i++)
        bytes[i] &= kept[i];
    return status;
}

/* One frame, of `count` registers. */
static enum cm_status write_frame(struct cm_session *session, uint8_t opcode, const uint8_t *bytes, uint8_t count)
{
    struct cm_poll ready;
    cm_nor_set_ready(session, &ready, 0, cm_nor_part_of(session)->times->status_max_us);
    cm_batch_begin(session, CM_STEP_SETTINGS, "status", 0);
    struct cm_frames *frames = cm_nor_add_frames(session, opcode);
    frames->enable = registers_of(session)->enable;
    frames->data = CM_EACH_OUT;
    frames->out = bytes;
    frames->count = count;
    frames->ready = &ready;
    return cm_nor_run(session);
}

/* Registers that go into one frame from `first` on, in the table's way; each alone in the other. */
static uint8_t frame_length(const struct cm_nor_status *status_of, uint8_t first, bool alone)
{
    uint8_t count = 1;
    while (!alone && first + count < status_of->count && status_of->write[first + count] == status_of->write[first])
        count++;
    return count;
}

static enum cm_status write_all(struct cm_session *session, const uint8_t *now, const uint8_t *bytes, bool alone)
{
    const struct cm_nor_status *status_of = registers_of(session);
    enum cm_status status = CM_OK;
    for (uint8_t i = 0, count; !status && i < status_of->count; i = (uint8_t)(i + count)) {
        count = frame_length(status_of, i, alone);
        if (status_of->write[i] && memcmp(now + i, bytes + i, count) != 0)
            status = write_frame(session, alone ? SINGLE[i] : status_of->write[i], bytes + i, count);
    }
    return status;
}

/* Bits that are not settings are written as they are read, flags as 0. */
static void compose(const uint8_t *now, const uint8_t *kept, const uint8_t *wanted, uint8_t *bytes)
{
    for (uint8_t i = 0; i < CM_NOR_REGISTERS; i++)
        bytes[i] = (uint8_t)((now[i] & ~kept[i]) | (wanted[i] & kept[i]));
    bytes[0] &= (uint8_t) ~(STATUS_BUSY | STATUS_ENABLED);
}

/* What was written did not read back: a register that took some of it gets back what it had. The failure is told with what was wanted. */
static enum cm_status put_back(struct cm_session *session, const uint8_t *first, const uint8_t *now, uint8_t at, const uint8_t *wanted)
{
    if (memcmp(first, now, CM_NOR_REGISTERS) != 0)
        (void)write_all(session, now, first, false);
    return cm_fail_byte(session, CM_WRITE_FAILED, CM_STEP_SETTINGS, "status", at, wanted[at], now[at]);
}

enum cm_status cm_nor_write_status(struct cm_session *session, const uint8_t *wanted)
{
    enum { WAYS = 2 };
    uint8_t first[CM_NOR_REGISTERS], now[CM_NOR_REGISTERS], kept[CM_NOR_REGISTERS], bytes[CM_NOR_REGISTERS];
    for (uint8_t way = 0;; way++) {
        enum cm_status status = read_raw(session, now, kept);
        uint8_t at = 0;
        now[0] &= (uint8_t) ~(STATUS_BUSY | STATUS_ENABLED);
        if (way == 0)
            memcpy(first, now, sizeof first);
        while (!status && at < CM_NOR_REGISTERS && !((now[at] ^ wanted[at]) & kept[at]))
            at++;
        if (status || at == CM_NOR_REGISTERS)
            return status;
        if (way == WAYS)
            return put_back(session, first, now, at, wanted);
        compose(now, kept, wanted, bytes);
        status = write_all(session, now, bytes, way > 0);
        if (status)
            return status;
    }
}
