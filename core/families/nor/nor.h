/* Inside of the driver of SPI memories: what its files share, and what the EEPROMs take from it. */
#ifndef CM_NOR_DRIVER_H
#define CM_NOR_DRIVER_H

#include "../../job/batch.h"
#include <coldmint/guard.h>
#include <coldmint/nor.h>

enum {
    CMD_WRITE_STATUS = 0x01,
    CMD_PROGRAM = 0x02,
    CMD_READ = 0x03,
    CMD_WRITE_DISABLE = 0x04,
    CMD_READ_STATUS = 0x05,
    CMD_WRITE_ENABLE = 0x06,
    CMD_WAKE = 0xAB, /* from deep power-down */
    STATUS_BUSY = 0x01,
    STATUS_ENABLED = 0x02,   /* WEL */
    WIDE_FROM = 0x1000000,   /* bytes that three address bytes reach */
    NOR_SUMMARY_BITS = 0x0C, /* of the status of a part with sector locks: none, some, all */
};

/* What the driver remembers of the chip. */
struct cm_nor_state {
    uint8_t id_way; /* which id instruction it answers */
    bool wide;      /* it was switched to 4-byte addresses */
    bool unguarded; /* its protection was lifted, and is lifted again after a power loss */
};

static inline struct cm_nor_state *cm_nor_state(const struct cm_session *session)
{
    return session->state;
}

static inline const struct cm_nor_part *cm_nor_part_of(const struct cm_session *session)
{
    return cm_nor_row(session->part);
}

/* Adds an instruction alone. */
void cm_nor_add(struct cm_session *session, uint8_t opcode);

/* Adds an instruction at the chunk's address: `wide` is the opcode with four address bytes always,
 * for parts that have one. */
struct cm_exchange *cm_nor_add_at(struct cm_session *session, uint8_t opcode, uint8_t wide,
                                  enum cm_data data, const uint8_t *bytes);

/* Reads, by the fast instruction with its dummy byte where the clock is too fast for the plain one.
 */
struct cm_exchange *cm_nor_add_read(struct cm_session *session, enum cm_data data,
                                    const uint8_t *bytes);

/* Adds a comparison of the id: who answers is still who answered before. */
void cm_nor_add_proof(struct cm_session *session);

/* Runs the batch; a mismatch by a chip that is not there any more is CM_CONTACT_LOST. */
CM_MUST_CHECK enum cm_status cm_nor_run(struct cm_session *session);

/* The same with the id behind it. */
CM_MUST_CHECK enum cm_status cm_nor_run_read(struct cm_session *session);

/* The same for a write: a write enable that does not come up is a write that failed. */
CM_MUST_CHECK enum cm_status cm_nor_run_write(struct cm_session *session);

/* What a failure of a batch means: asks whether the chip is still there. */
CM_MUST_CHECK enum cm_status cm_nor_judge(struct cm_session *session, enum cm_status status);

/* Adds write enable, and that its latch is set. */
void cm_nor_add_enable(struct cm_session *session);

/* Adds a reading of the status that must show the write enable latch as `want`, and no write. */
struct cm_exchange *cm_nor_add_latch(struct cm_session *session, uint8_t want);

/* Adds a poll until the chip is ready. */
struct cm_poll *cm_nor_add_ready(struct cm_session *session, uint32_t typical_us,
                                 uint32_t timeout_us);

/* Adds a poll of the status alone, which any such chip has. */
struct cm_poll *cm_nor_add_idle(struct cm_session *session, uint32_t timeout_us);

/* Programs a run in pages of so many bytes, each enabled, waited for and read back. */
CM_MUST_CHECK enum cm_status cm_nor_program_pages(struct cm_session *session, uint32_t address,
                                                  const uint8_t *bytes, uint32_t count,
                                                  uint32_t page_bytes);

/* Begins a batch that programs. */
void cm_nor_begin_program(struct cm_session *session, uint32_t address);

/* A bus clock, but not above what the caller said, nor what went well before. */
uint32_t cm_nor_allowed_hz(const struct cm_session *session, uint32_t hz);

/* The way in. */
void cm_nor_add_lines(struct cm_session *session, uint32_t hz);
CM_MUST_CHECK enum cm_status cm_nor_enter(struct cm_session *session);
CM_MUST_CHECK enum cm_status cm_nor_identify(struct cm_session *session);
CM_MUST_CHECK enum cm_status cm_nor_settle(struct cm_session *session);
void cm_nor_leave(struct cm_session *session);

/* Status registers. `bytes` has room for CM_NOR_REGISTERS; flags read as 0. */
CM_MUST_CHECK enum cm_status cm_nor_read_status(struct cm_session *session, uint8_t *bytes);
CM_MUST_CHECK enum cm_status cm_nor_write_status(struct cm_session *session, const uint8_t *wanted);

/* One frame of registers; not read back. */
CM_MUST_CHECK enum cm_status cm_nor_write_registers(struct cm_session *session, uint8_t opcode,
                                                    const uint8_t *bytes, uint8_t count);

extern const struct cm_guard_rules cm_nor_guard_rules;

/* The number in the protection bits, and the highest there is; and the area that registers mean,
 * into `guard`. */
uint8_t cm_nor_level(const struct cm_nor_guard *rules, const uint8_t *registers, uint8_t *highest);
void cm_nor_find_area(const struct cm_nor_part *part, struct cm_guard *guard);

/* The memories, for both families. */
CM_MUST_CHECK enum cm_status cm_nor_access(struct cm_session *session,
                                           const struct cm_access *access);
bool cm_nor_region(const struct cm_part *part, uint8_t index, struct cm_region *region);
bool cm_nor_erase_unit(const struct cm_part *part, uint8_t region, uint8_t index,
                       struct cm_erase_unit *unit);
CM_MUST_CHECK enum cm_status cm_nor_erase(struct cm_session *session, uint8_t region, uint8_t index,
                                          uint32_t address);
CM_MUST_CHECK enum cm_status cm_nor_sample(struct cm_session *session, uint8_t region,
                                           uint32_t address, uint32_t count, uint32_t piece,
                                           uint8_t *bytes);
uint32_t cm_nor_cost_us(struct cm_session *session, uint8_t region, enum cm_cost cost,
                        uint32_t bytes);

#endif
