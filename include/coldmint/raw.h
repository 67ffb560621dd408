/**
 * SPI frames by hand, for a chip that is in no table; and what can be done before a chip is known.
 * The bytes are not checked.
 *
 *     status = cm_raw_begin(&session, 1000000);
 *     if (status == CM_OK)
 *         status = cm_raw_frame(&session, (const uint8_t *)"\x9F", 1, id, 3);
 *     cm_close(&session);
 */
#ifndef COLDMINT_RAW_H
#define COLDMINT_RAW_H

#include <coldmint/decls.h>
#include <coldmint/session.h>

CM_DECLS_BEGIN

/**
 * Takes the bus at a clock of `hz` Hz: the chip is deselected; hold and write protect pins are
 * high where the port drives them. Feed the target before, if the port does (cm_feed). Errors:
 * CM_PORT_LACKS (no SELECT line).
 */
CM_MUST_CHECK enum cm_status cm_raw_begin(struct cm_session *session, uint32_t hz);

/**
 * Sends one frame: while the chip is selected, `out_count` bytes go out, then `in_count` bytes come
 * in. Either may be 0. More than 8 bytes out with bytes in need room for all of them in the
 * workspace, and a full-duplex port. Errors: CM_BAD_ARGUMENT (before cm_raw_begin), CM_NO_ROOM.
 */
CM_MUST_CHECK enum cm_status cm_raw_frame(struct cm_session *session, const uint8_t *out,
                                          uint32_t out_count, uint8_t *in, uint32_t in_count);

/** Waits `us` microseconds. */
CM_MUST_CHECK enum cm_status cm_raw_wait(struct cm_session *session, uint32_t us);

/**
 * Counts how often SCK, MOSI and SELECT change during some milliseconds, before any of them is
 * driven. More than 0: something else talks on these wires. Also 0 where the port cannot sense
 * them.
 */
uint32_t cm_listen(struct cm_session *session);

/** I2C addresses that are not reserved. */
enum { CM_SCAN_FIRST = 0x08, CM_SCAN_LAST = 0x77 };

/**
 * Asks every I2C address whether a device acknowledges it. `answers` gets one bit for each, lowest
 * first (16 bytes). Writes nothing. The session must be identified again afterwards. Errors:
 * CM_PORT_LACKS (no I2C), CM_CONTACT_LOST (a line is held low).
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
 * Finds a supply at which the chip's id reads right every time. In circuit the rest of a board
 * starts at some voltage, and talks on the same wires. Tries from the part's highest supply, never
 * above it, down to its lowest in steps of 100 mV; `told` (or NULL) is called for each. The session
 * stays at the first good one, identified: session->supply_mv. Errors: CM_NO_CHIP (none),
 * CM_PORT_LACKS (the port cannot feed in that range), as cm_identify.
 */
CM_MUST_CHECK enum cm_status cm_find_supply(struct cm_session *session, const char *part,
                                            cm_supply_fn *told, void *context);

CM_DECLS_END

#endif
