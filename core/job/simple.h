/* Accesses to memories whose unit is a word of two bytes: an odd byte at either end goes with its
 * neighbour. */
#ifndef CM_JOB_SIMPLE_H
#define CM_JOB_SIMPLE_H

#include "session.h"

/* The other byte of a word that was being written, until that write is verified. A family that
 * calls cm_evened has this at the beginning of its state. */
struct cm_word_state {
    uint32_t at;
    uint8_t byte;
    bool is_known;
};

/* Reads, compares or programs whole words. */
typedef enum cm_status cm_even_fn(struct cm_session *session, enum cm_access_kind kind,
                                  uint32_t address, uint8_t *bytes, uint32_t count);

/* The same for any bytes. To program one byte of a word, the other is read before and written as it
 * is. */
CM_MUST_CHECK enum cm_status cm_evened(struct cm_session *session, cm_even_fn *access,
                                       const char *region, enum cm_access_kind kind,
                                       uint32_t address, uint8_t *bytes, uint32_t count);

#endif
