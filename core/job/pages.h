/* A put in progress, and the pages of its images: what put.c works on, and pages.c goes through. */
#ifndef CM_JOB_PAGES_H
#define CM_JOB_PAGES_H

#include "access.h"
#include <coldmint/image.h>

/* A page of a want, and the run of wanted bytes within it that is looked at. */
struct cm_page_place {
    const struct cm_want *want;
    struct cm_region region;
    uint32_t page;
    uint32_t end; // of the page
};

enum { CM_PUT_SETTINGS = 8 };

/* A put in progress. */
struct cm_put_work {
    struct cm_session *session;
    const struct cm_put *put;
    struct cm_report *report;
    struct cm_protection protection;
    uint8_t *page;              // contents wanted in the page at hand
    uint32_t page_bytes;        // of the largest page
    uint8_t *map;               // a bit a page: it needs writing
    uint32_t map_pages;         // that the map has room for
    struct cm_page_place place; // the page at hand
    uint32_t ordinal;           // of the page at hand, over all wants
    uint32_t work_bytes;        // bytes in pages that need writing, for progress
    uint32_t done_pages, done_bytes; // over all rounds
    bool all_dirty;             // after an erase: nothing of the survey holds
    bool must_erase;            // the next thing to do
    bool erased;                // in this job: what no image wants is blank now
    bool has_agreed, has_agreed_to_erase; // the caller
    bool secured;               // what is carried has been read;
    bool carried_in_doubt;      // but contact had been bad before
    uint8_t settings[CM_PUT_SETTINGS]; // fuses, as they were at the beginning
    struct cm_memory carried;
    struct cm_want carry_want;
};

/* What is done with a page; its wanted contents are loaded. */
typedef enum cm_status cm_page_fn(struct cm_put_work *work);

/* First run of wanted bytes at or after `from` that lies in the page at hand. */
bool cm_run_in_page(const struct cm_put_work *work, uint32_t from, uint32_t *start, uint32_t *count);

/* Acts on every page that an image touches, image after image; stops at the first failure. */
CM_MUST_CHECK enum cm_status cm_each_page(struct cm_put_work *work, cm_page_fn *act);

#endif
