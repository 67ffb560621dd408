/**
 * A port around a port, which writes what crosses the wires as a VCD file (value change dump, IEEE
 * 1364-2005, clause 18) for any waveform viewer: RESET, SCK, MOSI, MISO, and the supply where the
 * port feeds it.
 *
 *     cm_recorder_begin(&recorder, &port, stream);   then use &recorder.port in place of &port
 *     cm_recorder_end(&recorder);
 *
 * Time is the inner port's. It tells microseconds; the edges within a transfer are spread evenly
 * over the time that it took.
 */
#ifndef CM_RECORD_RECORD_H
#define CM_RECORD_RECORD_H

#include <coldmint/port.h>
#include <stdio.h>

/** A recording in progress. The caller's; so are the inner port and the stream. */
struct cm_recorder {
    struct cm_port_state state;
    struct cm_port port; /**< to be used in place of the inner one */
    const struct cm_port *inner;
    FILE *stream;
    uint64_t time_ns;  /**< of the last change written */
    uint64_t clock_ns; /**< now; the inner port's microseconds, unwrapped */
    uint32_t last_us;
    char levels[CM_LINE_COUNT]; /**< '0', '1', 'z', or 0 where nothing has been written yet */
};

/** Starts recording. A port that takes batches whole gets small ones, and is slower by that. */
void cm_recorder_begin(struct cm_recorder *recorder, const struct cm_port *inner, FILE *stream);

/** Ends it; false where the stream could not take everything. */
bool cm_recorder_end(struct cm_recorder *recorder);

#endif
