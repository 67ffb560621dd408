/* A put into a memory that is erased by blocks: what survey (blocks_survey.c) and execution
 * (blocks.c) share. */
#ifndef CM_JOB_BLOCKS_H
#define CM_JOB_BLOCKS_H

#include "access.h"

enum { CM_UNITS = 5 };

/* How a sector stands, as two bits of the map. */
enum cm_sector_state { CM_SECTOR_EQUAL, CM_SECTOR_PROGRAM, CM_SECTOR_ERASE };

/* Bytes come first, and what is large last, which makes the code smaller. */
struct cm_blocks {
    uint8_t regions; /* that any image is for: CM_REGION_BIT of each */
    uint8_t cleared; /* that will be blank when the work begins: lifting protection erases them */
    uint8_t index;   /* of the region at hand (cm_each_region) */
    uint8_t first_unit; /* the family's number of the first of its units: smaller ones are left out
                           where the map has no room for them */
    uint8_t unit_count;
    bool has_change;         /* the survey found something to change, */
    uint8_t change_index;    /* in this region; */
    bool has_begun;          /* and it is being changed */
    bool is_wary;            /* a page was taken for blank that was not */
    struct cm_region region; /* the one at hand */
    struct cm_session *session;
    const struct cm_put *put;
    struct cm_report *report;
    uint32_t sector; /* bytes of its smallest unit; of a page where there is none */
    uint8_t *map;    /* two bits a sector */
    uint8_t *buffer; /* for contents */
    uint32_t buffer_bytes;
    uint8_t *samples; /* a byte for each page of the buffer */
    uint32_t
        barred_at; /* its first address that protection keeps from changing; UINT32_MAX: none */
    const struct cm_source *source; /* of the wanted run that was found last */
    uint32_t chunk_start;           /* address of what is in the buffer */
    uint32_t work_bytes;            /* in pages to write, for progress */
    uint32_t done_bytes;
    uint32_t map_total;  /* bytes of all regions' maps */
    uint32_t page_bytes; /* of the largest page */
    uint32_t change;     /* the first address that is to change */
    uint32_t alike; /* wires that led to the very bytes that are wanted there, before anything was
                       changed */
    uint32_t rest;  /* sum of what is beside the images (blocks_rest.c) */
    struct cm_wanted wanted;
    struct cm_erase_unit units[CM_UNITS]; /* of the region at hand, the smallest first */
    struct cm_guard guard;
};

/* What to do with a run of bytes that are not what is wanted, and are in the buffer; the first
 * differs, and it ends where a page does. */
typedef enum cm_status cm_blocks_act_fn(struct cm_blocks *work, uint32_t start, uint32_t count);

/*
 * What is done over protection that costs the contents (blocks_lift.c). The regions that lifting
 * clears are planned as blank, and looked at again when it has been lifted.
 */
struct cm_lifter {
    CM_MUST_CHECK enum cm_status (*plan)(struct cm_blocks *work);
    /* Counts the pages of a chunk in such a region that are not blank. */
    CM_MUST_CHECK enum cm_status (*count)(struct cm_blocks *work, uint32_t start, uint32_t count,
                                          cm_blocks_act_fn *on_write);
};

/* Checks what is wanted, shares the workspace, looks at protection. */
CM_MUST_CHECK enum cm_status cm_begin_blocks(struct cm_blocks *work, struct cm_session *session,
                                             const struct cm_put *put, struct cm_report *report);

/* Acts on every region that images are for, which is then the one at hand. */
typedef enum cm_status cm_region_fn(struct cm_blocks *work);
CM_MUST_CHECK enum cm_status cm_each_region(struct cm_blocks *work, cm_region_fn *act);

/* First run of wanted bytes at or after `from` and before `end`, over all images. */
bool cm_wanted_run(struct cm_blocks *work, uint32_t from, uint32_t end, uint32_t *start,
                   uint32_t *count);

/* Copies bytes of the run that was found last. */
CM_MUST_CHECK enum cm_status cm_load_wanted(struct cm_blocks *work, uint32_t start, uint8_t *bytes,
                                            uint32_t count);

/*
 * Compares `count` wanted bytes, which are in the buffer, with the chip. Runs that can be reached
 * by programming are given to `on_write`; sectors that need an erase are marked, and passed over.
 */
CM_MUST_CHECK enum cm_status cm_examine_chunk(struct cm_blocks *work, uint32_t start,
                                              uint32_t count, cm_blocks_act_fn *on_write);

/* The map. A mark is never weakened but by clearing. */
enum cm_sector_state cm_sector_at(const struct cm_blocks *work, uint32_t address);
void cm_mark_sector(struct cm_blocks *work, uint32_t address, enum cm_sector_state state);

/* Notes that something in this unit is to be changed, if protection covers any of it; and says
 * whether it does. */
bool cm_note_barred(struct cm_blocks *work, uint32_t start, uint32_t bytes);

void cm_clear_sectors(struct cm_blocks *work, uint32_t start, uint32_t bytes);
bool cm_needs_erase(const struct cm_blocks *work, uint32_t start, uint32_t bytes);

/* Compares all images with the chip, and gives runs that can be reached by programming to
 * `on_write`; marks sectors that need an erase. */
CM_MUST_CHECK enum cm_status cm_survey_blocks(struct cm_blocks *work, enum cm_step step,
                                              cm_blocks_act_fn *on_write);

/* Works out what is to be done in all regions, into the report and the map. CM_PROTECTED where
 * protection stands in the way and must not be lifted. */
CM_MUST_CHECK enum cm_status cm_plan_blocks(struct cm_blocks *work);

/* CM_NO_ROOM or CM_REFUSED where what a unit holds beside the images cannot, or may not, be carried
 * over its erase. */
CM_MUST_CHECK enum cm_status cm_check_carry(const struct cm_blocks *work, uint32_t start,
                                            uint32_t bytes);

/* Acts on every unit that is to be erased as a whole, in ascending order. */
typedef enum cm_status cm_erase_fn(struct cm_blocks *work, uint8_t level, uint32_t start);
CM_MUST_CHECK enum cm_status cm_each_erase(struct cm_blocks *work, cm_erase_fn *act);

/* Do the images want every byte of an area? */
bool cm_is_covered(struct cm_blocks *work, uint32_t start, uint32_t bytes);

CM_MUST_CHECK enum cm_status cm_access_bytes(struct cm_blocks *work, enum cm_access_kind kind,
                                             uint32_t start, uint8_t *bytes, uint32_t count);
uint32_t cm_pages_in(const struct cm_blocks *work, uint32_t start, uint32_t count);
CM_MUST_CHECK enum cm_status cm_tell_progress(struct cm_blocks *work, enum cm_step step,
                                              uint32_t done, uint32_t total);

/* Length of the next chunk from `start` that goes through the buffer. */
uint32_t cm_blocks_chunk(const struct cm_blocks *work, uint32_t start, uint32_t end);

bool cm_is_erased(const struct cm_blocks *work, const uint8_t *bytes, uint32_t count);
uint32_t cm_piece_end(uint32_t address, uint32_t piece, uint32_t end);

#endif
