/**
 * Bytes out, bytes back, for an SPI chip that no table knows: frames by hand. Nothing is checked
 * here but the wires.
 *
 *     cm_raw_begin(&session, 1000000);
 *     cm_raw_frame(&session, "\x9F", 1, id, 3);
 *     cm_close(&session);
 */
#ifndef COLDMINT_RAW_H
#define COLDMINT_RAW_H

#include <coldmint/decls.h>
#include <coldmint/session.h>

CM_DECLS_BEGIN

/**
 * Takes the bus at a clock, the chip deselected, hold and write protect pins high where they are
 * wired. Feed the target before, where the port does (cm_feed). CM_PORT_LACKS where the port has no
 * SELECT line; CM_NO_POWER.
 */
CM_MUST_CHECK enum cm_status cm_raw_begin(struct cm_session *session, uint32_t hz);

/** One frame: `out_count` bytes out, then `in_count` bytes in, while the chip is selected. Either
 * may be 0. */
CM_MUST_CHECK enum cm_status cm_raw_frame(struct cm_session *session, const uint8_t *out,
                                          uint32_t out_count, uint8_t *in, uint32_t in_count);

/** Waits so many microseconds. */
CM_MUST_CHECK enum cm_status cm_raw_wait(struct cm_session *session, uint32_t us);

/**
 * Listens, before anybody drives the bus: how often SCK, MOSI and SELECT change over some
 * milliseconds. More than 0: something else talks on these wires. 0 too where the port cannot sense
 * them.
 */
uint32_t cm_listen(struct cm_session *session);

enum {
    CM_SCAN_FIRST = 0x08,
    CM_SCAN_LAST = 0x77 /**< addresses of a two-wire bus that are not reserved */
};

/**
 * Asks every address of a two-wire bus whether anything acknowledges it: `answers` has a bit for
 * each, the lowest first (16 bytes). Nothing is written. CM_PORT_LACKS where the port has no such
 * bus; CM_CONTACT_LOST where a line is held low.
 */
CM_MUST_CHECK enum cm_status cm_scan(struct cm_session *session, uint8_t *answers);

/** One supply that was tried: how many of CM_SUPPLY_ASKS times the id came right. */
struct cm_supply_try {
    uint16_t mv;
    uint8_t good;
};
enum { CM_SUPPLY_ASKS = 32 };
typedef void cm_supply_fn(void *context, const struct cm_supply_try *tried);

/**
 * Finds a supply at which the chip's id reads right every time: in circuit the rest of a board
 * wakes up at some voltage, and talks on the same wires. From the part's highest supply (never
 * above it) down to its lowest, in steps of 100 mV; `told` hears of each. The session stays at the
 * first good one, identified; session->supply_mv is it. CM_NO_CHIP where there is none;
 * CM_PORT_LACKS where the port cannot feed in that range; and cm_identify's errors.
 */
CM_MUST_CHECK enum cm_status cm_find_supply(struct cm_session *session, const char *part,
                                            cm_supply_fn *told, void *context);

CM_DECLS_END

#endif
