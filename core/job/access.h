/* Accesses that survive a moment without contact, and the pages of a source. Shared by the jobs. */
#ifndef CM_JOB_ACCESS_H
#define CM_JOB_ACCESS_H

#include <coldmint/job.h>

#include "session.h"

/*
 * Does the access. Where contact is lost it finds the chip again and repeats, a few times; where
 * that fails the first failure is left, which names the address.
 */
CM_MUST_CHECK enum cm_status cm_access(struct cm_session *session, const struct cm_access *access);

/* The same for anything that may be done again. */
typedef enum cm_status cm_act_fn(struct cm_session *session, void *argument);
CM_MUST_CHECK enum cm_status cm_steadily(struct cm_session *session, cm_act_fn *act,
                                         void *argument);

/* And for the erase of a chip that is erased at once. */
CM_MUST_CHECK enum cm_status cm_erase_steadily(struct cm_session *session);

/* CM_PROTECTED by lock bits or a read-out level. */
CM_MUST_CHECK enum cm_status cm_fail_locked(struct cm_session *session,
                                            const struct cm_guard *guard);

/* Time of the erase that lifts protection: the largest of the main region's. */
uint32_t cm_lift_us(const struct cm_session *session);

/* Reads protection, where it may bar reading; else `guard` says that there is none. */
CM_MUST_CHECK enum cm_status cm_look_if_hidden(struct cm_session *session, struct cm_guard *guard);

/* Whether erased bytes are all there is; the first other one is left in the session's failure. Uses
 * the workspace. */
CM_MUST_CHECK enum cm_status cm_check_blank(struct cm_session *session, uint8_t region,
                                            cm_progress_fn *progress, void *context);

/* The images of a put. */
struct cm_wanted {
    const struct cm_want *wants;
    uint8_t count;
};

static inline struct cm_wanted cm_wanted_of(const struct cm_put *put)
{
    return (struct cm_wanted){put->wants, put->want_count};
}

/* First run of wanted bytes of a region at or after `from` and before `end`, over all images: its
 * source; NULL, and `end` as its start, where there is none. */
const struct cm_source *cm_next_wanted(const struct cm_wanted *wanted, uint8_t region,
                                       uint32_t from, uint32_t end, uint32_t *start,
                                       uint32_t *count);

/* Regions that a put can tell apart: a bit of a byte each. */
enum { CM_PUT_REGIONS = 8 };

/* Checks an image before anything is read: its region, which can be written, and its bounds. Adds
 * its bytes to the report's. CM_BAD_ARGUMENT, CM_TOO_LARGE. */
CM_MUST_CHECK enum cm_status cm_check_want(struct cm_session *session, const struct cm_want *want,
                                           struct cm_region *region, struct cm_report *report);

/* First run of bytes that no image wants; false where there is none. */
bool cm_next_unwanted(const struct cm_wanted *wanted, uint8_t region, uint32_t from, uint32_t end,
                      uint32_t *start, uint32_t *count);

/* CM_IN_DOUBT, where any byte of a region is wanted by no image: nobody knows what it was. */
CM_MUST_CHECK enum cm_status cm_doubt_unwanted(struct cm_session *session,
                                               const struct cm_wanted *wanted, uint8_t region,
                                               struct cm_report *report);

/* The same for all regions, but registers that are written over. */
CM_MUST_CHECK enum cm_status cm_doubt_all_unwanted(struct cm_session *session,
                                                   const struct cm_wanted *wanted,
                                                   struct cm_report *report);

/* Compares a second time, in other portions: the second half first, so that what disturbs two
 * readings in the same rhythm does not disturb the same bytes. */
CM_MUST_CHECK enum cm_status cm_match_by_parts(struct cm_session *session,
                                               const struct cm_access *whole);

/* Is what is carried kept safe, or may it be in memory alone? */
static inline bool cm_may_carry(const struct cm_put *put)
{
    return put->carry.saved || put->carry.in_memory;
}

/* Asks the chip for its id; finds it again where contact is lost. */
CM_MUST_CHECK enum cm_status cm_prove_steadily(struct cm_session *session);

/* Reports progress; CM_STOPPED where the caller wants to stop. */
CM_MUST_CHECK enum cm_status cm_report_progress(struct cm_session *session,
                                                cm_progress_fn *progress, void *context,
                                                const struct cm_progress *at);

/* Does an extent of an image lie within its region? And the failure where it does not:
 * CM_TOO_LARGE, with the first address that is beyond. */
static inline bool cm_extent_fits(const struct cm_region *region, uint32_t start, uint32_t count)
{
    return count <= region->bytes && start <= region->bytes - count;
}

static inline CM_MUST_CHECK enum cm_status cm_fail_beyond(struct cm_session *session,
                                                          enum cm_step step,
                                                          const struct cm_region *region,
                                                          uint32_t start)
{
    return cm_fail_at(session, CM_TOO_LARGE, step, region->name,
                      start < region->bytes ? region->bytes : start);
}

/* Length of the next chunk of a region that goes through the workspace. */
uint32_t cm_chunk(const struct cm_session *session, const struct cm_region *region,
                  uint32_t address, uint32_t end);

#endif
