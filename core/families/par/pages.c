/*
 * Memories that are written by pages: EEPROMs of the 28 series, and page flash of the 29 series.
 *
 *     a page      all its bytes one after the other, each within 150 us of the one before; the
 *                 write begins when no more come
 *     protected   5555 <- AA, 2AAA <- 55, 5555 <- A0 before each page   (software data protection)
 *     its end     5555 <- AA, 2AAA <- 55, 5555 <- 80, 5555 <- AA, 2AAA <- 55, 5555 <- 20
 *
 * Whether the protection is on cannot be read. A part that has it on takes a plain page and does
 * nothing: so pages are written plainly first. Where that does nothing, and the caller has allowed
 * it, the unlock cycles go before each page, which leaves the protection as it is. Where it is off
 * those cycles would switch it on.
 *
 * Page flash clears the bytes of a page that it is not given: they are read before, and the caller
 * is given them to keep safe.
 */
#include "par.h"
#include <coldmint/job.h>
#include <string.h>

enum {
    MOST_PAGE = 256,
    T_BYTE_LOAD_US = 300,
    MARGIN = 2,
    PLAIN_TRIES = 3,
};

static const struct cm_cycle UNLOCK[] = {{UNLOCK_1, 0xAA}, {UNLOCK_2, 0x55}, {UNLOCK_1, 0xA0}};
static const struct cm_cycle END[] = {{UNLOCK_1, 0xAA}, {UNLOCK_2, 0x55}, {UNLOCK_1, 0x80},
                                      {UNLOCK_1, 0xAA}, {UNLOCK_2, 0x55}, {UNLOCK_1, 0x20}};

enum cm_status cm_par_can_program(struct cm_session *session)
{
    bool is_cut = cm_par_piece(session) < cm_par_part_of(session)->page_bytes;
    return is_cut && cm_par_has(session, CM_PAR_WHOLE_PAGES)
               ? cm_fail(session, CM_PORT_LACKS, CM_STEP_PROGRAM)
               : CM_OK;
}

static enum cm_status write_way(struct cm_session *session, uint8_t way, uint32_t address,
                                const uint8_t *bytes, uint32_t count)
{
    enum { OPS = 3 };
    const struct cm_par_part *part = cm_par_part_of(session);
    uint32_t piece = cm_par_piece(session);
    struct cm_region region;
    if (piece < part->page_bytes &&
        (way == CM_PAR_UNLOCKED || cm_par_has(session, CM_PAR_WHOLE_PAGES)))
        return cm_fail(session, CM_PORT_LACKS, CM_STEP_PROGRAM);
    session->family->region(session->part, CM_REGION_MAIN, &region);
    cm_batch_begin(session, CM_STEP_PROGRAM, region.name, address);
    bool is_page = piece > cm_par_unit(session); // a unit is compared when it is done
    cm_batch_repeat(session, address, count, piece, (uint8_t)(OPS + is_page));
    cm_par_exchange(session, CM_DATA_OUT, bytes, UNLOCK, way == CM_PAR_UNLOCKED ? 3 : 0);
    cm_batch_verify(session);
    struct cm_poll *poll = cm_par_add_done(session, bytes, MARGIN * part->times->program_max_us);
    poll->early_us = part->times->program_us / 2;
    poll->interval_us = part->times->program_us / 128;
    if (is_page)
        cm_par_exchange(session, CM_DATA_MATCH, bytes, NULL, 0);
    return cm_batch_run(session);
}

/* So many readings that what is off for a moment is over. */
static enum cm_status read_aside(struct cm_session *session)
{
    enum { READINGS = 8, AT_ONCE = 64 };
    uint8_t any[AT_ONCE];
    cm_batch_begin(session, CM_STEP_NONE, NULL, 0);
    for (uint8_t i = 0; i < READINGS; i++)
        cm_par_exchange(session, CM_DATA_IN, any, NULL, 0)->count = AT_ONCE;
    return cm_batch_run(session);
}

static bool has_failed(enum cm_status status)
{
    return status == CM_WRITE_FAILED || status == CM_TIMED_OUT;
}

/* The same once more, later. */
static enum cm_status write_later(struct cm_session *session, uint8_t way, uint32_t address,
                                  const uint8_t *bytes, uint32_t count)
{
    enum cm_status status = read_aside(session);
    return status ? status : write_way(session, way, address, bytes, count);
}

/*
 * One page, or less. That a plain page does nothing means protection only where none was ever
 * written, and it does nothing three times: one that a bad wire has sent elsewhere must not be
 * taken for it, for the unlock cycles would switch on what is off.
 */
static enum cm_status write_page(struct cm_session *session, uint32_t address, const uint8_t *bytes,
                                 uint32_t count)
{
    uint8_t way = cm_par_state(session)->unguarded
                      ? cm_par_state(session)->way
                      : CM_PAR_PLAIN; // what one job was allowed another is not
    uint8_t doubts = session->doubts;
    enum cm_status status = write_way(session, way, address, bytes, count);
    bool has_sdp = cm_par_has(session, CM_PAR_SDP) && way == CM_PAR_PLAIN;
    for (uint8_t i = 1; i < PLAIN_TRIES && has_sdp && has_failed(status); i++)
        status = write_later(session, way, address, bytes, count);
    cm_par_state(session)->is_open |= has_sdp && status == CM_OK;
    has_sdp &= !cm_par_state(session)->is_open;
    if (!has_failed(status))
        return status;
    if (!cm_par_is_there(session))
        return cm_refine(session, CM_CONTACT_LOST);
    if (!has_sdp)
        return status;
    if (!cm_par_state(session)->unguarded) {
        session->doubts = doubts;
        return cm_refine(session, CM_PROTECTED);
    }
    status = write_way(session, CM_PAR_UNLOCKED, address, bytes, count);
    if (!status) {
        cm_par_state(session)->way = CM_PAR_UNLOCKED;
        session->doubts = doubts;
    }
    return status;
}

/* Do two readings of a page agree, the second later, and in other portions? */
static enum cm_status read_alike(struct cm_session *session, uint32_t start, uint8_t *whole,
                                 uint32_t page)
{
    enum { TRIES = 3 };
    enum cm_status status = CM_DIFFERS;
    for (uint8_t i = 0; i < TRIES && status == CM_DIFFERS; i++) {
        status = cm_par_read(session, CM_ACCESS_READ, start, whole, page);
        if (!status)
            status = read_aside(session);
        if (!status)
            status =
                cm_par_read(session, CM_ACCESS_AGAIN, start + page / 2, whole + page / 2, page / 2);
        if (!status)
            status = cm_par_read(session, CM_ACCESS_AGAIN, start, whole, page / 2);
    }
    return status == CM_DIFFERS ? cm_refine(session, CM_CONTACT_LOST) : status;
}

/* A bus that is dead shows one value everywhere. So, where a page does, some other byte is looked
 * for; `shows` says whether there is one. */
static enum cm_status look_elsewhere(struct cm_session *session, uint8_t value, bool *shows)
{
    const struct cm_par_part *part = cm_par_part_of(session);
    enum cm_status status = CM_OK;
    *shows = false;
    for (uint32_t at = 0; !status && !*shows && at < part->bytes; at += part->page_bytes) {
        uint8_t byte;
        status = cm_par_read(session, CM_ACCESS_READ, at, &byte, 1);
        *shows = !status && byte != value;
    }
    return status;
}

/*
 * A part that still shows its id, since it has missed the command that ends that, gets it again;
 * the first time it may take it for the rest of the one before. Contents that begin like the id
 * stay what they are.
 */
static enum cm_status end_id_mode(struct cm_session *session)
{
    enum { TRIES = 3 };
    enum cm_status status = CM_OK;
    for (uint8_t i = 0; i < TRIES && !status; i++) {
        uint8_t first[2] = {0};
        cm_batch_begin(session, CM_STEP_READ, NULL, 0);
        if (i > 0)
            cm_par_add_read_mode(session);
        cm_par_add_read(session, CM_DATA_IN, 0, first, sizeof first);
        status = cm_batch_run(session);
        if (status || memcmp(first, session->id, sizeof first) != 0) {
            session->doubts |= i > 0 ? CM_DOUBT_CONTACT : 0;
            break;
        }
    }
    return status;
}

/* What is beside the wanted bytes of a page is written back as it reads. */
static enum cm_status read_rest(struct cm_session *session, uint32_t start, uint8_t *whole,
                                uint32_t page)
{
    bool shows = false;
    enum cm_status status = end_id_mode(session);
    if (!status)
        status = read_alike(session, start, whole, page);
    if (status || memcmp(whole, whole + 1, page - 1) != 0)
        return status;
    status = look_elsewhere(session, whole[0], &shows);
    return status || !shows ? status
                            : read_alike(session, start, whole, page); // contact was there just now
}

/* What is beside the images in a page is handed to the caller, to keep it safe. */
static enum cm_status save_rest(struct cm_session *session, uint32_t page_start,
                                const uint8_t *whole, uint32_t page)
{
    const struct cm_put *put = session->put;
    if (!put || !put->carry.saved)
        return CM_OK;
    struct cm_wanted wanted = cm_wanted_of(put);
    uint32_t end = page_start + page, start, count;
    for (uint32_t at = page_start;
         cm_next_unwanted(&wanted, CM_REGION_MAIN, at, end, &start, &count); at = start + count) {
        if (put->carry.saved(put->carry.context, CM_REGION_MAIN, start,
                             whole + (start - page_start), count) != CM_OK)
            return cm_fail_at(session, CM_REFUSED, CM_STEP_CARRY, "flash", start);
    }
    return CM_OK;
}

/* A page of which only a part is wanted, on a part that writes whole pages. */
static enum cm_status write_merged(struct cm_session *session, uint32_t address,
                                   const uint8_t *bytes, uint32_t count)
{
    uint8_t whole[MOST_PAGE];
    uint32_t page = cm_par_part_of(session)->page_bytes, start = address & ~(page - 1);
    enum cm_status status = read_rest(session, start, whole, page);
    if (!status)
        status = save_rest(session, start, whole, page);
    if (status)
        return status;
    memcpy(whole + (address - start), bytes, count);
    return write_page(session, start, whole, page);
}

enum cm_status cm_par_write_pages(struct cm_session *session, uint32_t address, uint8_t *bytes,
                                  uint32_t count)
{
    uint32_t page = cm_par_part_of(session)->page_bytes;
    enum cm_status status = CM_OK;
    for (uint32_t part; count && !status; address += part, bytes += part, count -= part) {
        uint32_t room = page > 1 ? page - (address & (page - 1)) : count;
        part = count < room ? count : room;
        bool merges = part < page && cm_par_has(session, CM_PAR_WHOLE_PAGES);
        status = merges ? write_merged(session, address, bytes, part)
                        : write_page(session, address, bytes, part);
    }
    return status;
}

static enum cm_status command(struct cm_session *session, const struct cm_cycle *cycles,
                              uint8_t count)
{
    bool has_sdp = session->part && cm_par_has(session, CM_PAR_SDP);
    if (!has_sdp || cm_par_is_slow(session))
        return cm_fail(session, has_sdp ? CM_PORT_LACKS : CM_BAD_ARGUMENT, CM_STEP_SETTINGS);
    cm_batch_begin(session, CM_STEP_SETTINGS, NULL, 0);
    cm_par_command(session, cycles, count);
    cm_batch_wait(session,
                  T_BYTE_LOAD_US + MARGIN * cm_par_part_of(session)->times->program_max_us);
    return cm_batch_run(session);
}

enum cm_status cm_par_protect(struct cm_session *session)
{
    cm_par_state(session)->way = CM_PAR_PLAIN;
    cm_par_state(session)->is_open = false;
    return command(session, UNLOCK, 3);
}

enum cm_status cm_par_unprotect(struct cm_session *session)
{
    cm_par_state(session)->way = CM_PAR_PLAIN;
    return command(session, END, 6);
}
