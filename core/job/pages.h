/* A put in progress, and the pages of its images: what put.c works on, and pages.c goes through. */
#ifndef CM_JOB_PAGES_H
#define CM_JOB_PAGES_H

#include "access.h"
#include <coldmint/image.h>

enum { CM_PUT_SETTINGS = 8 };

/* The page that is looked at. */
struct cm_page_place {
    struct cm_region region;
    uint8_t index; // of the region
    bool whole;    // all of it counts, not only the wanted bytes: what is beside them must be blank
    uint32_t page;
    uint32_t end; // of the page
};

/* A put in progress. Bytes come first, as in struct cm_session. */
struct cm_put_work {
    bool all_dirty;             // after an erase: nothing of the survey holds
    bool must_erase;            // the next thing to do
    bool erased;                // in this job: what no image wants is blank now
    bool is_narrow;             // something went wrong in several pages at once: no more of that
    uint8_t phase;              // enum cm_put_phase
    bool looks_again;           // after doubt: what an erase has cleared is looked at, too
    uint8_t agreed;             // to: 0 nothing, 1 writing, 2 an erase as well
    bool secured;               // what is carried has been read;
    bool carried_in_doubt;      // but contact had been bad before
    struct cm_page_place place; // the page at hand
    struct cm_session *session;
    const struct cm_put *put;
    struct cm_report *report;
    struct cm_wanted wanted;         // by the images
    struct cm_wanted of_data;        // of the data region: the same, or `carry_want`
    uint8_t *page;                   // contents wanted in the page at hand
    uint8_t *map;                    // a bit a page: it needs writing
    uint32_t map_pages;              // that the map has room for
    uint32_t page_bytes;             // of the largest page
    uint32_t stride_pages;           // that are compared next at once
    uint32_t ordinal;                // of the page at hand, over all regions
    uint32_t work_bytes;             // bytes in pages that need writing, for progress
    uint32_t pages_done, bytes_done; // written so far
    struct cm_memory carried;
    struct cm_guard guard;
    uint8_t settings[CM_PUT_SETTINGS]; // fuses, as they were at the beginning
    struct cm_want
        carry_want; // stands in for the data region's wants, which have been laid over it
};

/* What goes through the pages now. */
enum cm_put_phase { CM_PUT_COUNTS, CM_PUT_SURVEYS, CM_PUT_EXECUTES };

/* What is done with a page; its wanted contents are loaded. */
typedef enum cm_status cm_page_fn(struct cm_put_work *work);

/* First run of bytes that count, at or after `from`, in the page at hand. */
bool cm_run_in_page(const struct cm_put_work *work, uint32_t from, uint32_t *start,
                    uint32_t *count);

/* Acts on every page that counts, region after region; stops at the first failure. */
CM_MUST_CHECK enum cm_status cm_each_page(struct cm_put_work *work, cm_page_fn *act);

/* How a page stands to what is wanted in it. */
enum cm_page_state { CM_PAGE_EQUAL, CM_PAGE_REACHABLE, CM_PAGE_NEEDS_ERASE };

/* Compares all pages with the chip, and plans what is to be done about them. */
CM_MUST_CHECK enum cm_status cm_put_survey(struct cm_put_work *work);

/* The plan where the chip must be erased. */
CM_MUST_CHECK enum cm_status cm_put_plan_erase(struct cm_put_work *work);

/* Does what is planned, and looks again after doubt, until there is none. */
CM_MUST_CHECK enum cm_status cm_put_execute(struct cm_put_work *work);

/* Reads the settings that a put does not change, or compares them with what they were. */
CM_MUST_CHECK enum cm_status cm_put_access_settings(struct cm_put_work *work,
                                                    enum cm_access_kind kind);

/* Of the page at hand: one access; one to each of its runs from `from` on; what stands between it
 * and what is wanted in it. */
CM_MUST_CHECK enum cm_status cm_put_access(struct cm_put_work *work, enum cm_access_kind kind,
                                           uint32_t start, uint32_t count);
CM_MUST_CHECK enum cm_status cm_put_over_runs(struct cm_put_work *work, enum cm_access_kind kind,
                                              uint32_t from);
CM_MUST_CHECK enum cm_status cm_put_examine(struct cm_put_work *work, enum cm_page_state *state);

/* What is wanted of the region at hand. */
const struct cm_wanted *cm_wanted_here(const struct cm_put_work *work);

/* Notes that the page at hand is to be written. */
void cm_put_must_write(struct cm_put_work *work);

/* Does it need no writing after an erase? Does it stay as it is over one? */
bool cm_is_wanted_blank(const struct cm_put_work *work);
bool cm_outlives_erase(const struct cm_put_work *work);

/* Tells the caller how far the job is. */
CM_MUST_CHECK enum cm_status cm_put_tell(struct cm_put_work *work, enum cm_step step, uint32_t done,
                                         uint32_t total);

/* The same for the bytes that are written. */
CM_MUST_CHECK enum cm_status cm_put_show_progress(struct cm_put_work *work);

/* Has an erase in this job cleared the region at hand? */
bool cm_is_cleared(const struct cm_put_work *work);

#endif
