/* Inside of the driver of parallel memories: what its files share. */
#ifndef CM_PAR_DRIVER_H
#define CM_PAR_DRIVER_H

#include "../../job/access.h"
#include "../../job/batch.h"
#include "../../job/simple.h"
#include <coldmint/guard.h>
#include <coldmint/par.h>

/* Command cycles. Parts that decode fewer address lines take the same addresses: 5555 is 555 to
 * them, 2AAA is 2AA (or 2AA, AAA of 13 lines). */
enum { UNLOCK_1 = 0x5555, UNLOCK_2 = 0x2AAA };
enum { CM_PAR_LATE_US = 1 }; /* behind the end of a write, before all data lines are right */

/* How pages are written: plainly, or behind unlock cycles. */
enum { CM_PAR_PLAIN = 0, CM_PAR_UNLOCKED = 1 };

/* What the driver remembers of the chip. */
struct cm_par_state {
    struct cm_word_state word;
    uint8_t way;    /* how pages are written */
    bool unguarded; /* pages may be written in spite of software data protection */
    bool is_open;   /* a plain page was written: there is none */
};

static inline struct cm_par_state *cm_par_state(const struct cm_session *session)
{
    return session->state;
}

static inline const struct cm_par_part *cm_par_part_of(const struct cm_session *session)
{
    return cm_par_row(session->part);
}

static inline bool cm_par_has(const struct cm_session *session, uint8_t trait)
{
    return (cm_par_part_of(session)->traits & trait) != 0;
}

static inline uint8_t cm_par_unit(const struct cm_session *session)
{
    return session->port->traits.data_lines == 16 ? 2 : 1;
}

/* Adds command cycles alone. */
void cm_par_command(struct cm_session *session, const struct cm_cycle *cycles, uint8_t count);

/* Adds an exchange: command cycles, or none, and data; the address is the chunk's. */
struct cm_exchange *cm_par_exchange(struct cm_session *session, enum cm_data data,
                                    const uint8_t *bytes, const struct cm_cycle *cycles,
                                    uint8_t cycle_count);

/* Adds a reading of an area, or a comparison of it. */
void cm_par_add_read(struct cm_session *session, enum cm_data data, uint32_t first,
                     const uint8_t *bytes, uint32_t count);

/* Adds what waits until the chunk's last unit is written, or its first erased. */
struct cm_poll *cm_par_add_done(struct cm_session *session, const uint8_t *bytes,
                                uint32_t timeout_us);

/* Adds clock and resting levels of all lines. */
void cm_par_add_lines(struct cm_session *session, uint32_t cycle_ns);
CM_MUST_CHECK enum cm_status cm_par_enter(struct cm_session *session);
CM_MUST_CHECK enum cm_status cm_par_identify(struct cm_session *session);
CM_MUST_CHECK enum cm_status cm_par_settle(struct cm_session *session);
void cm_par_leave(struct cm_session *session);

/* The part's own cycle, or what the caller said; CM_PORT_LACKS where the bus is of another width.
 */
CM_MUST_CHECK enum cm_status cm_par_choose_cycle(struct cm_session *session, uint32_t *ns);

/* The same for parts that are not asked who they are. */
CM_MUST_CHECK enum cm_status cm_ee28_enter(struct cm_session *session);
CM_MUST_CHECK enum cm_status cm_ee28_settle(struct cm_session *session);

/* The id mode: into it, and out of it again. */
void cm_par_add_id_mode(struct cm_session *session);
void cm_par_add_read_mode(struct cm_session *session);

/* Adds a write cycle that no chip takes for anything, not even one that waits for data to be
 * programmed; nothing at all where the part may load pages. */
void cm_par_add_nothing(struct cm_session *session);

/* In id mode: adds a comparison of the device's code. */
void cm_par_add_device(struct cm_session *session);

/* Adds a comparison of the id, where that takes no time to speak of: who answers is still who
 * answered before. */
void cm_par_add_proof(struct cm_session *session);

/* Asked after a failure: does the part still show its id? Parts without one cannot be asked. Leaves
 * the record as it is. */
bool cm_par_is_there(struct cm_session *session);

/* A page ends where 150 us pass without a byte. Does a cycle of this port take as long? Then a
 * command is several pages of one byte to a part that loads pages. */
bool cm_par_is_slow(const struct cm_session *session);

/* Bytes that are written at once: a slow port writes byte by byte. */
uint32_t cm_par_piece(const struct cm_session *session);

/* The array of all three families. */
bool cm_par_region_of(const struct cm_part *part, uint8_t index, struct cm_region *region,
                      const char *name, uint8_t traits);
CM_MUST_CHECK enum cm_status cm_par_read(struct cm_session *session, enum cm_access_kind kind,
                                         uint32_t address, uint8_t *bytes, uint32_t count);
CM_MUST_CHECK enum cm_status cm_par_sample(struct cm_session *session, uint8_t region,
                                           uint32_t address, uint32_t count, uint32_t piece,
                                           uint8_t *bytes);
uint32_t cm_par_cost_us(struct cm_session *session, uint8_t region, enum cm_cost cost,
                        uint32_t bytes);

/* A look along the address lines (struct cm_family, `prove`). */
CM_MUST_CHECK enum cm_status cm_par_prove(struct cm_session *session, uint32_t address,
                                          const uint8_t *bytes, uint32_t count, uint32_t *alike);

/* Accesses of a part that knows words only, or of any other: by `access`, with odd bytes made even
 * where that is needed. */
CM_MUST_CHECK enum cm_status cm_par_by_units(struct cm_session *session, cm_par_access_fn *access,
                                             enum cm_access_kind kind, uint32_t address,
                                             uint8_t *bytes, uint32_t count);

/* Bytes of the sector that begins at an address: a unit, or a part of one at the end that is cut
 * up. */
uint32_t cm_par_sector_at(const struct cm_par_part *part, uint32_t address);

/* Waits for a write or an erase whose status toggles; CM_TIMED_OUT where it never ends. */
CM_MUST_CHECK enum cm_status cm_par_wait_while_busy(struct cm_session *session);

/* `words` of the rows of parts of 16 bits. */
extern const struct cm_par_words cm_par_words;

/* For `can_program`: is the port fast enough for parts that take whole pages alone? */
CM_MUST_CHECK enum cm_status cm_par_can_program(struct cm_session *session);

/* Writes pages, whatever software data protection says. */
CM_MUST_CHECK enum cm_status cm_par_write_pages(struct cm_session *session, uint32_t address,
                                                uint8_t *bytes, uint32_t count);

extern const struct cm_guard_rules cm_par_guard_rules;
extern const struct cm_guard_rules cm_par_page_guard_rules;

#endif
