/**
 * Jobs: the caller says what the chip shall hold; the engine finds the cheapest safe way.
 *
 * "Program this image" is cm_put. It reads first, erases only where that is needed, leaves equal
 * pages alone, reads back what it wrote, and can be run again after any interruption. cm_compare,
 * cm_blank and cm_keep are the other whole jobs.
 *
 *     struct cm_memory memory = {bytes, sizeof bytes, 0};
 *     struct cm_want want = {CM_REGION_MAIN, cm_memory_source(&memory)};
 *     struct cm_put put = {.wants = &want, .want_count = 1};
 *     status = cm_put(&session, &put, &report);
 */
#ifndef COLDMINT_JOB_H
#define COLDMINT_JOB_H

#include <coldmint/decls.h>
#include <coldmint/guard.h>
#include <coldmint/session.h>
#include <coldmint/source.h>

CM_DECLS_BEGIN

/** Contents that a region shall hold. */
struct cm_want {
    uint8_t region;
    struct cm_source source;
};

/** Progress of a job: bytes of the current step. */
struct cm_progress {
    enum cm_step step;
    const char *region;
    uint32_t done;
    uint32_t total;
};

/** Called about once a page. Return false to cancel: the job ends with CM_STOPPED. */
typedef bool cm_progress_fn(void *context, const struct cm_progress *progress);

/**
 * Where cm_put keeps the bytes that an erase would lose although no image covers them: the data
 * region of a chip that is erased as a whole; in a memory, the rest of a sector or page. They are
 * written back behind the erase. Only a kit with a `carrier` (struct cm_kit) can do that.
 */
struct cm_carry {
    /** For a chip that is erased as a whole: memory as large as its data region. NULL: a job that
     * would lose data is refused. A memory uses the workspace instead. */
    uint8_t *bytes;
    uint32_t size;
    /** Called before the erase, with the bytes that were read twice. Store them where a power loss
     * does not reach them; anything but CM_OK ends the job. NULL: see `in_memory`. */
    enum cm_status (*saved)(void *context, uint8_t region, uint32_t address, const uint8_t *bytes,
                            uint32_t count);
    void *context;
    /** With `saved` NULL: true allows to keep the bytes in memory only, where a job that is cut off
     * loses them; false refuses such a job. */
    bool in_memory;
};

struct cm_report;

/** What cm_put and cm_plan shall do. A member that is zero is the careful choice. */
struct cm_put {
    const struct cm_want *wants;
    uint8_t want_count;
    /** Protection may be lifted; it is restored at the end. Where only an erase lifts it (lock
     * bits, a read-out level), the chip is erased, and what cannot be read is lost. */
    bool unprotect;
    /** An erase of the whole chip may clear what no image covers, and it is not kept: the data
     * region; with `unprotect`, all that is cleared by the erase that lifts the protection. */
    bool lose_data;
    struct cm_carry carry;
    /** Or NULL. */
    cm_progress_fn *progress;
    void *progress_context;
    /** Called with the plan before anything is changed, and again if an erase turns out to be
     * needed later. Return false to cancel (CM_STOPPED). It may read the chip with cm_read_twice,
     * but must not use the session's workspace, as cm_keep does. NULL: not called. */
    bool (*planned)(void *context, const struct cm_report *report);
    void *planned_context;
    /** Called with the protection of a chip with erase units, or with none, before it is lifted.
     * Store its registers; anything but CM_OK ends the job. NULL: not called. */
    enum cm_status (*lifting)(void *context, const struct cm_guard *guard);
    void *lifting_context;
};

/** What a job found and did. */
struct cm_report {
    /** Contact was bad for a moment, so all images were compared again at the end. */
    bool doubted;
    /** A chip erase is needed, or was done; of a memory, any erase. */
    bool erase;
    /** Bytes were carried over an erase. */
    bool carried;
    /** The lock byte, or a memory's protection, was written back. */
    bool relocked;
    /** An erase cleared the lock byte, and the job ended before it was written back. */
    bool unlocked;
    /** The lock byte before the job; of a memory, its status register. */
    uint8_t lock;
    /** A memory's protection must be lifted for the job. */
    bool lifts;
    /** Of a memory: erase instructions, and the bytes that they erase. */
    uint32_t erases;
    uint32_t erased_bytes;
    /** Bytes beside the images that were saved and written back. */
    uint32_t carried_bytes;
    /** Pages that the images touch; of them: equal already, blank after the erase, written. */
    uint32_t pages;
    uint32_t pages_equal;
    uint32_t pages_blank;
    uint32_t pages_written;
    /** Bytes in the images, and bytes written. */
    uint32_t bytes;
    uint32_t bytes_written;
    /** With CM_IN_DOUBT: bytes beside the images that may have changed. The failure has the address
     * of the first. */
    uint32_t doubtful_bytes;
    /** cm_compare: bytes that differ. */
    uint32_t differences;
    /** Time in microseconds without the survey, as predicted, and as it was. */
    uint32_t predicted_us;
    uint32_t actual_us;
    /** Time of the survey: the reading that made the plan. */
    uint32_t survey_us;
};

/**
 * The engines of cm_plan and cm_put: for chips of which one unit is erased, all of it; and for
 * chips with many erase units, or with none. Both put into any region, and both ask protection. A
 * family names its engine, so that the other is not linked.
 */
CM_MUST_CHECK enum cm_status cm_put_by_chip(struct cm_session *session, const struct cm_put *put,
                                            struct cm_report *report, enum cm_put_aim aim);
CM_MUST_CHECK enum cm_status cm_put_by_blocks(struct cm_session *session, const struct cm_put *put,
                                              struct cm_report *report, enum cm_put_aim aim);

/** For struct cm_guard_rules: puts over protection that only an erase lifts. A file of its own, so
 * that only families with such protection carry it. */
extern const struct cm_lifter cm_put_over_lift;

/** Checks that a part is known; one that was lost is looked for again. CM_BAD_ARGUMENT before
 * cm_identify. */
CM_MUST_CHECK enum cm_status cm_require(struct cm_session *session);

/** Plans what cm_put would do, and changes nothing. Errors: as cm_put, as far as reading finds
 * them. */
static inline CM_MUST_CHECK enum cm_status
cm_plan(struct cm_session *session, const struct cm_put *put, struct cm_report *report)
{
    enum cm_status status = cm_require(session);
    return status ? status : session->family->put(session, put, report, CM_PUT_PLAN);
}

/**
 * Makes the chip hold what the images say, and verifies it.
 *
 * CM_OK means that every byte of the images is right and that no other byte has changed.
 *
 * Errors after which nothing has changed: CM_TOO_LARGE (an image ends beyond its region),
 * CM_PROTECTED, CM_REFUSED (an erase would lose data), CM_NO_ROOM (the workspace is too small),
 * CM_SUPPLY_OUTSIDE, CM_BAD_ARGUMENT (before cm_identify).
 *
 * Errors after which the job can be run again: CM_CONTACT_LOST (the failure has the address),
 * CM_WRITE_FAILED, CM_TIMED_OUT, CM_STOPPED. With the first three contact was bad while the chip
 * was written: bytes that no image covers may have changed, too, and the job that is run again does
 * not know of it. Compare them with a backup.
 *
 * CM_IN_DOUBT: contact was bad for a moment. A chip that misread an instruction may have written
 * elsewhere, so all images were compared again, and they are right; but bytes that no image covers,
 * and that no erase has blanked, may have changed: compare them with a backup. With good contact
 * the next run ends with CM_OK.
 *
 * Workspace, behind the family's own state: a page of the largest region; for a chip that is erased
 * as a whole also one bit a page (page + pages / 8 bytes; more is not used). A chip with erase
 * units needs room for what is carried: its smallest erase unit, and one part in a hundred more.
 */
static inline CM_MUST_CHECK enum cm_status
cm_put(struct cm_session *session, const struct cm_put *put, struct cm_report *report)
{
    enum cm_status status = cm_require(session);
    return status ? status : session->family->put(session, put, report, CM_PUT_DO);
}

/** Called for each byte that differs. Return false to stop. */
typedef bool cm_difference_fn(void *context, uint32_t address, uint8_t wanted, uint8_t found);

/**
 * Compares a region with an image. CM_DIFFERS if any byte differs. `on_difference` and `progress`
 * may be NULL; both get `context`.
 *
 * CM_IN_DOUBT: the image is equal, but contact was bad for a moment, and a chip that can obey a
 * misread reading holds more than the image. `report->doubtful_bytes` are those.
 */
CM_MUST_CHECK enum cm_status cm_compare(struct cm_session *session, const struct cm_want *want,
                                        cm_difference_fn *on_difference, cm_progress_fn *progress,
                                        void *context, struct cm_report *report);

/** How a chip is erased. A member that is zero is the careful choice. */
struct cm_blank {
    /** A locked or protected chip may be unlocked for it. */
    bool unprotect;
    /** Or NULL. */
    cm_progress_fn *progress;
    void *progress_context;
};

/**
 * Erases the chip and checks that it is blank. Does not erase where everything is blank already:
 * `report->erase` tells. A region that the chip's own setting keeps over an erase (EESAVE) is not
 * touched. Without `unprotect` a locked or protected chip is CM_PROTECTED; with it, an erase opens
 * the lock, and a memory's protection is restored. Errors: as cm_put.
 */
CM_MUST_CHECK enum cm_status cm_blank(struct cm_session *session, const struct cm_blank *how,
                                      struct cm_report *report);

/** An area of blank bytes as a source: to put it is to erase that area, and nothing else. */
struct cm_blank_area {
    uint32_t first, count;
    /** Value of a blank byte. */
    uint8_t erased;
};
struct cm_source cm_blank_source(struct cm_blank_area *area);

/** Checks that a region is blank. CM_DIFFERS: the failure has the first byte that is not.
 * CM_IN_DOUBT: as cm_compare. */
CM_MUST_CHECK enum cm_status cm_is_blank(struct cm_session *session, uint8_t region,
                                         cm_progress_fn *progress, void *context);

/**
 * Reads `count` bytes and compares them with a second reading. CM_DIFFERS where the two are not
 * equal. Goes on after a moment without contact. Does not use the workspace, so cm_put's `planned`
 * may call it.
 */
CM_MUST_CHECK enum cm_status cm_read_twice(struct cm_session *session, uint8_t region,
                                           uint32_t address, uint8_t *bytes, uint32_t count);

/** Takes `count` bytes of a backup. Anything but CM_OK ends the reading. */
typedef enum cm_status cm_sink_fn(void *context, uint32_t address, const uint8_t *bytes,
                                  uint32_t count);

/**
 * Reads a whole region, each part of it twice, into `sink`, in ascending order. Errors: CM_DIFFERS
 * (the two readings are not equal), CM_PROTECTED (the chip does not give its contents; what it
 * would answer is not the truth), CM_IN_DOUBT (contact was bad for a moment, and on this bus a
 * reading that is misread may write: what was read may come from that), the sink's own.
 */
CM_MUST_CHECK enum cm_status cm_keep(struct cm_session *session, uint8_t region, cm_sink_fn *sink,
                                     cm_progress_fn *progress, void *context,
                                     struct cm_report *report);

CM_DECLS_END

#endif
