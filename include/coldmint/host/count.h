/**
 * The units that this user has made of a sealed capsule, counted as a player counts them
 * (coldmint/tally.h), in a file of the user's state folder:
 *
 *     ~/.local/state/coldmint/counts/3f2a9c01d4e5f607.tally      (the capsule's digest)
 *
 *     struct cm_count count;
 *     if (cm_count_open(&host, &capsule, &count) && cm_count_note(&host, &count, CM_TALLY_BEGUN))
 *         good = ... make it ... && cm_count_note(&host, &count, CM_TALLY_MADE);
 *     cm_count_close(&count);
 */
#ifndef COLDMINT_HOST_COUNT_H
#define COLDMINT_HOST_COUNT_H

#include <coldmint/decls.h>
#include <coldmint/host/capsule_file.h>
#include <coldmint/tally.h>

CM_DECLS_BEGIN

/** Bytes of each half of a file with a tally: 128 records. */
enum { CM_COUNT_HALF = 4096 };

/** A count. `tally.last.used`: units so far. */
struct cm_count {
    struct cm_store store;
    struct cm_tally tally;
    uint32_t most; /**< 0: any number */
    int file;
    const char *capsule;
    char path[CM_FILE_PATH];
    /* What was read of the file last: records are looked through one by one. */
    uint8_t page[CM_COUNT_HALF];
    uint32_t page_at;
    bool has_page;
};

/** Opens a capsule's count; another process that has it open is waited for. Refused where as many
 * units were made as it allows. Errors: CM_ERROR_CAPSULE_LIMIT, CM_ERROR_CAPSULE_COUNT,
 * CM_ERROR_NO_STATE_FOLDER. */
CM_MUST_CHECK bool cm_count_open(struct cm_host *host, const struct cm_capsule_file *capsule,
                                 struct cm_count *count);
void cm_count_close(struct cm_count *count);

/** A unit begins, is made or has failed. Error: CM_ERROR_CAPSULE_COUNT. */
CM_MUST_CHECK bool cm_count_note(struct cm_host *host, struct cm_count *count,
                                 enum cm_tally_kind kind);

/** A file that holds a player's store, to read its log: two halves of any size. Called for each
 * whole record, oldest first. False: it cannot be read. */
typedef void cm_tally_fn(void *context, const struct cm_tally_record *record);
CM_MUST_CHECK bool cm_tally_file(struct cm_host *host, const char *path, cm_tally_fn *each,
                                 void *context);

CM_DECLS_END

#endif
