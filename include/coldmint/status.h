/**
 * What can come out of a call, and the record that a failure leaves.
 *
 * Every call of the library that can fail returns an enum cm_status. The first failure of a session
 * is kept whole in struct cm_failure: where it was, what was expected and what was found. The core
 * makes no words of it; the command-line tool has tables of them (cli/words/).
 */
#ifndef COLDMINT_STATUS_H
#define COLDMINT_STATUS_H

#include <coldmint/decls.h>
#include <stdbool.h>
#include <stdint.h>

CM_DECLS_BEGIN

/**
 * A status that nobody looks at is a failure that nobody hears of: the compiler warns where one is
 * dropped. cm_ignore says that it is meant to be.
 */
#if defined(__GNUC__)
#define CM_MUST_CHECK __attribute__((warn_unused_result))
#else
#define CM_MUST_CHECK
#endif

enum cm_status {
    CM_OK = 0,
    CM_DIFFERS,        /**< chip and image differ */
    CM_BAD_ARGUMENT,   /**< the call asks for something that does not exist: a region, an address
                          beyond its end */
    CM_PORT_FAILED,    /**< the port reported a failure of its own */
    CM_PORT_LACKS,     /**< the port cannot do what is needed */
    CM_NO_POWER,       /**< the port measures no supply at the target */
    CM_NO_CHIP,        /**< nothing answers, in any of the ways that were tried */
    CM_UNKNOWN_CHIP,   /**< something answers, and its id is in none of the tables given */
    CM_WRONG_CHIP,     /**< the id is not that of the part that was asserted */
    CM_PROTECTED,      /**< lock bits or protection forbid it */
    CM_WRITE_FAILED,   /**< written, read back, and not what was written */
    CM_TIMED_OUT,      /**< the chip stayed busy longer than its data sheet allows */
    CM_CONTACT_LOST,   /**< the answers stopped making sense in the middle of the work */
    CM_BAD_IMAGE,      /**< a file is not what it should be */
    CM_TOO_LARGE,      /**< an image reaches beyond the region it is for */
    CM_NO_ROOM,        /**< the memory that the caller gave is too small */
    CM_REFUSED,        /**< would lose something, and the caller did not allow that */
    CM_SUPPLY_OUTSIDE, /**< the supply measured at the target is outside the part's range */
    CM_STOPPED,        /**< the caller's progress function asked to stop */
    CM_IN_DOUBT, /**< contact was bad during the job: what was wanted is right, but other bytes may
                    have changed */
    /** Inside of batches; a session never shows them: */
    CM_BAD_ANSWER, /**< an answer fails its check */
    CM_NACK,       /**< an I2C device does not acknowledge its address */
    CM_DECLINED,   /**< a port's `run` does not take this batch, and has done nothing of it */
    CM_STATUS_COUNT
};

/** Drops a status on purpose, such as that of releasing the target after a failure. */
static inline void cm_ignore(enum cm_status status)
{
    (void)status;
}

/** What the session was doing when it failed. */
enum cm_step {
    CM_STEP_NONE,
    CM_STEP_OPEN,
    CM_STEP_ENTER,
    CM_STEP_IDENTIFY,
    CM_STEP_READ,
    CM_STEP_COMPARE,
    CM_STEP_ERASE,
    CM_STEP_PROGRAM,
    CM_STEP_VERIFY,
    CM_STEP_SETTINGS,
    CM_STEP_CARRY, /**< saving what a chip erase would clear, or putting it back */
    CM_STEP_LEAVE,
    CM_STEP_COUNT
};

/** The evidence of a failure. Members are only meaningful where the flag beside them says so. */
struct cm_failure {
    enum cm_status status;
    enum cm_step step;
    const char *region; /**< name of the region at work, or NULL */
    uint32_t address;   /**< within the region */
    bool has_address;
    bool has_bytes;
    uint8_t expected;  /**< the byte wanted there */
    uint8_t found;     /**< the byte that came */
    uint8_t answer[4]; /**< while entering or identifying: the last answer from the wires */
    uint16_t measured_mv;
};

/** One or two words for a status, in lower case, e.g. "contact lost". Never NULL. */
const char *cm_status_word(enum cm_status status);

CM_DECLS_END

#endif
