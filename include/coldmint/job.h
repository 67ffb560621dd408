/**
 * Jobs: the caller says what the chip shall hold; the engine finds the cheapest safe way there.
 *
 * "Program this image" is cm_put. It reads first, erases only if a page needs it, leaves equal
 * pages alone, reads back what it wrote, and may be run again after any interruption. cm_compare,
 * cm_blank and cm_keep are the other whole jobs.
 */
#ifndef COLDMINT_JOB_H
#define COLDMINT_JOB_H

#include <coldmint/decls.h>
#include <coldmint/guard.h>
#include <coldmint/session.h>
#include <coldmint/source.h>

CM_DECLS_BEGIN

/** "This region shall hold that." */
struct cm_want {
    uint8_t region;
    struct cm_source source;
};

/** How far a job is; bytes of the step at hand. */
struct cm_progress {
    enum cm_step step;
    const char *region;
    uint32_t done;
    uint32_t total;
};

/** Called about once a page. Return false to stop the job cleanly (CM_STOPPED). */
typedef bool cm_progress_fn(void *context, const struct cm_progress *progress);

/**
 * What an erase would take along beyond the images, saved and put back by cm_put: the data region
 * of a chip that is erased as a whole; of a memory, the rest of a sector that an image covers in
 * part; of page flash, the page. The code for it is linked only where the kit names it (struct
 * cm_kit, `carrier`).
 */
struct cm_carry {
    /** The caller's, as large as the region; NULL: a job that would lose data is refused. A
     * memory's go through the workspace. */
    uint8_t *bytes;
    uint32_t size;
    /** Called with the saved bytes, read twice, before the erase. Keep them safe; anything but
     * CM_OK ends the job. NULL: a job that must carry is refused, unless: */
    enum cm_status (*saved)(void *context, uint8_t region, uint32_t address, const uint8_t *bytes,
                            uint32_t count);
    void *context;
    /** What is carried may be in memory alone: a job that is cut off then loses it. */
    bool in_memory;
};

struct cm_report;

/** What cm_put and cm_plan are asked. Zeroed members are the careful choice. */
struct cm_put {
    const struct cm_want *wants;
    uint8_t want_count;
    bool unprotect; /**< a locked chip may be erased to get at it, and what cannot be read is lost;
                       the lock byte is put back last. A memory's protection is lifted and put back,
                       and nothing is lost */
    bool lose_data; /**< a chip erase may take the data region along; say so too where all of it is
                       wanted anew */
    struct cm_carry carry;
    cm_progress_fn *progress; /**< or NULL */
    void *progress_context;
    /** Told the plan before anything is changed, and once more where an erase turns out to be
     * needed in the midst of it; NULL, or return false to leave it at that (CM_STOPPED). It may
     * read the chip, but must leave the session's workspace alone: the findings are there.
     * cm_read_twice does; cm_keep does not. */
    bool (*planned)(void *context, const struct cm_report *report);
    void *planned_context;
    /** Before a memory's protection is lifted: its registers. Keep them safe; anything but CM_OK
     * ends the job. NULL: not told. */
    enum cm_status (*lifting)(void *context, const struct cm_guard *guard);
    void *lifting_context;
};

/** What a job found and did. */
struct cm_report {
    /** Contact was bad for a moment; so all images were compared once more at the end. */
    bool doubted;
    bool erase;      /**< a chip erase is needed / was done; of a memory, any erase */
    bool carried;    /**< data were carried over an erase */
    bool relocked;   /**< the lock byte, or a memory's protection, was put back */
    bool unlocked;   /**< an erase lifted the lock byte, and it is not back: the job ended before */
    uint8_t lock;    /**< the lock byte that stood there before an erase; of a memory, its status
                        register */
    bool lifts;      /**< of a memory: protection stands in the way, and is lifted for the job */
    uint32_t erases; /**< of a memory: erase instructions */
    uint32_t erased_bytes;  /**< in them */
    uint32_t carried_bytes; /**< beside the images, saved and put back */
    uint32_t pages;         /**< pages that the images touch */
    uint32_t pages_equal;   /**< of them, already right */
    uint32_t pages_blank;   /**< of them, right by being blank after the erase */
    uint32_t pages_written; /**< planned by cm_plan, done by cm_put */
    uint32_t bytes;         /**< bytes in the images */
    uint32_t bytes_written;
    /** CM_IN_DOUBT: bytes that no image wants, and that may have changed; the failure names the
     * first. */
    uint32_t doubtful_bytes;
    uint32_t differences;  /**< cm_compare: bytes that differ */
    uint32_t predicted_us; /**< from the plan on, without the survey that made it */
    uint32_t actual_us;    /**< the same stretch, by the port's clock */
    uint32_t survey_us;    /**< reading that made the plan */
};

/**
 * The engines behind cm_plan and cm_put, one for chips that are erased as a whole and one for
 * memories that are erased by blocks. A family names its own, so that a build carries no other.
 */
CM_MUST_CHECK enum cm_status cm_put_by_chip(struct cm_session *session, const struct cm_put *put,
                                            struct cm_report *report, enum cm_put_aim aim);
CM_MUST_CHECK enum cm_status cm_put_by_blocks(struct cm_session *session, const struct cm_put *put,
                                              struct cm_report *report, enum cm_put_aim aim);

/** CM_OK where the session has a part; one that was lost is looked for again. CM_BAD_ARGUMENT
 * before cm_identify. */
CM_MUST_CHECK enum cm_status cm_require(struct cm_session *session);

/** Works out what cm_put would do. Changes nothing. Errors as cm_put's, found as early as reading
 * can. */
static inline CM_MUST_CHECK enum cm_status
cm_plan(struct cm_session *session, const struct cm_put *put, struct cm_report *report)
{
    enum cm_status status = cm_require(session);
    return status ? status : session->family->put(session, put, report, CM_PUT_PLAN);
}

/**
 * Makes the chip hold what is wanted, and proves it.
 *
 * Errors: CM_TOO_LARGE, CM_PROTECTED (nothing changed), CM_REFUSED (an erase would lose data;
 * nothing changed), CM_NO_ROOM (the workspace is too small: for a page, or for what else is in a
 * sector; nothing changed), CM_SUPPLY_OUTSIDE, CM_WRITE_FAILED, CM_CONTACT_LOST (address of the
 * page; run again when contact is back), CM_TIMED_OUT, CM_STOPPED; CM_BAD_ARGUMENT before
 * cm_identify; CM_IN_DOUBT.
 *
 * CM_OK means that every wanted byte is right and that no other byte has changed. Where contact was
 * bad meanwhile, a chip may have misread an instruction and written elsewhere. So all images are
 * compared once more then; and if there are bytes that no image wants, and that no erase has
 * blanked, the job ends with CM_IN_DOUBT: what was wanted is right, compare the rest with a backup.
 * Run again with good contact, it ends with CM_OK.
 *
 * The workspace: a page of the largest memory, and for a chip that is erased as a whole one bit a
 * page (page + pages / 8 bytes); more is of no use. A memory wants room for what is carried, which
 * is its smallest erase unit, and a hundredth more.
 */
static inline CM_MUST_CHECK enum cm_status
cm_put(struct cm_session *session, const struct cm_put *put, struct cm_report *report)
{
    enum cm_status status = cm_require(session);
    return status ? status : session->family->put(session, put, report, CM_PUT_DO);
}

/** Called for each byte that differs. Return false to stop looking. */
typedef bool cm_difference_fn(void *context, uint32_t address, uint8_t wanted, uint8_t found);

/** Compares a region with an image; CM_DIFFERS if any byte does. `on_difference` and `progress` may
 * be NULL. */
CM_MUST_CHECK enum cm_status cm_compare(struct cm_session *session, const struct cm_want *want,
                                        cm_difference_fn *on_difference, cm_progress_fn *progress,
                                        void *context, struct cm_report *report);

/** How a chip is blanked. Zeroed members are the careful choice. */
struct cm_blank {
    bool unprotect; /**< a locked or protected chip may be opened for it */
    cm_progress_fn *progress;
    void *progress_context;
};

/**
 * Erases the chip unless all that the erase clears is blank already, and proves it blank.
 * `report->erase` says whether it had to. A region that outlives the erase by the chip's own
 * setting (EESAVE) is not touched. A locked or protected chip is opened only with `unprotect`, else
 * CM_PROTECTED; an erase opens the lock for good, a memory's protection is put back. Errors: as
 * cm_put's.
 */
CM_MUST_CHECK enum cm_status cm_blank(struct cm_session *session, const struct cm_blank *how,
                                      struct cm_report *report);

/** An area of blank bytes, as a source: to put it is to erase that area, and no more. */
struct cm_blank_area {
    uint32_t first, count;
    uint8_t erased; /**< value of a blank byte */
};
struct cm_source cm_blank_source(struct cm_blank_area *area);

/** CM_OK if `region` is blank, CM_DIFFERS (with the first byte that is not) else. Changes nothing.
 */
CM_MUST_CHECK enum cm_status cm_is_blank(struct cm_session *session, uint8_t region,
                                         cm_progress_fn *progress, void *context);

/**
 * Reads `count` bytes and compares them with a second reading, also over a moment without contact.
 * CM_DIFFERS where they do not agree. Does not use the workspace, so it may be called from cm_put's
 * `planned`.
 */
CM_MUST_CHECK enum cm_status cm_read_twice(struct cm_session *session, uint8_t region,
                                           uint32_t address, uint8_t *bytes, uint32_t count);

/** Takes `count` bytes of a backup at `address`. */
typedef enum cm_status cm_sink_fn(void *context, uint32_t address, const uint8_t *bytes,
                                  uint32_t count);

/**
 * Reads a whole region, every part of it twice, into `sink`, in ascending order. CM_DIFFERS where
 * the two reads do not agree; CM_PROTECTED where the chip does not let its contents be read (it
 * would answer, and it would not be the truth).
 */
CM_MUST_CHECK enum cm_status cm_keep(struct cm_session *session, uint8_t region, cm_sink_fn *sink,
                                     cm_progress_fn *progress, void *context,
                                     struct cm_report *report);

CM_DECLS_END

#endif
