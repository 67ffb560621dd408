/**
 * Capsules as files: read where they lie; and written from a chip while it is read, so that one of
 * any size takes the same memory.
 */
#ifndef COLDMINT_HOST_CAPSULE_FILE_H
#define COLDMINT_HOST_CAPSULE_FILE_H

#include <coldmint/capsule.h>
#include <coldmint/decls.h>
#include <coldmint/host/files.h>
#include <coldmint/job.h>

CM_DECLS_BEGIN

/** A capsule's file, open, with a place in each region for its source. `path` is the caller's. */
struct cm_capsule_file {
    struct cm_capsule capsule;
    struct cm_capsule_place places[CM_CAPSULE_REGIONS];
    /** Of a job: as it was checked when the file was opened. */
    struct cm_capsule_seal seal;
    struct cm_file_reader *reader;
    const char *path;
};

/** Does the file begin as a capsule does, or is it called so (.mint)? */
bool cm_capsule_is_file(struct cm_host *host, const char *path);

/** Opens a capsule and checks all of it. Errors: CM_ERROR_FILE_UNREADABLE,
 * CM_ERROR_CAPSULE_DAMAGED. Free it in any case. */
CM_MUST_CHECK bool cm_capsule_file_load(struct cm_host *host, const char *path,
                                        struct cm_capsule_file *file);
void cm_capsule_file_free(struct cm_capsule_file *file);

/** Is it of the kind of chip that is in the session? Error: CM_ERROR_CAPSULE_OTHER_CHIP. */
CM_MUST_CHECK bool cm_capsule_file_is_for(struct cm_host *host, const struct cm_capsule_file *file,
                                          const struct cm_session *session);

/** The setting bytes that it holds, over those in `bytes` (CM_SETTING_BYTES); false where the file
 * can no longer be read. */
CM_MUST_CHECK bool cm_capsule_file_settings(struct cm_capsule_file *file,
                                            const struct cm_session *session, uint8_t *bytes);

/** The setting bytes that a job chooses, over those in `bytes` (CM_SETTING_BYTES), and which bits
 * they are into `chosen`; or NULL. `kit` is the part's, and has words. */
void cm_capsule_file_chosen(const struct cm_capsule_file *file, const struct cm_kit *kit,
                            const struct cm_part *part, uint8_t *bytes, uint8_t *chosen);

/** Do two capsules hold the same? */
bool cm_capsule_file_equal(struct cm_capsule_file *one, struct cm_capsule_file *other);

/** What of a chip is kept. */
struct cm_chip_keep {
    /** False: the settings only. */
    bool memories;
    /** Setting bytes as they were before; NULL: as they are. */
    const uint8_t *settings;
    /** Or NULL; up to 199 bytes. */
    const char *notes;
    /** What made it: "coldmint 0.1.0". NULL: this. */
    const char *tool;
    /** Or NULL. */
    cm_progress_fn *progress;
    void *progress_context;
};

/** What was kept. */
struct cm_chip_kept {
    uint32_t bytes, took_us;
    /** Every memory is blank. */
    bool blank;
    /** Bytes after which the first memory comes again, as a smaller part than its name says shows
     * itself; 0: it does not. */
    uint32_t repeats_every;
    /** The chip bars reading its memories, so those are not among them. */
    bool locked;
};

/**
 * Writes what the chip holds, each byte read twice, into a new capsule. True: the file is whole,
 * and the caller commits or drops it. Errors: CM_ERROR_FILE_..., CM_ERROR_CAPSULE_UNWRITABLE,
 * CM_ERROR_READS_DIFFER, CM_ERROR_SESSION; then there is no file.
 */
CM_MUST_CHECK bool cm_chip_keep(struct cm_host *host, struct cm_session *session, const char *path,
                                const struct cm_chip_keep *how, struct cm_new_file *file,
                                struct cm_chip_kept *kept);

/* --- contents that repeat themselves ----------------------------------------------------- */

/** A part of 8 KiB, read under the name of one of 32 KiB, shows what it holds four times. */
struct cm_repeats {
    uint8_t *bytes; /**< all that was read so far; NULL where there was no memory for it */
    uint32_t size;
};

/** Begins, for a memory of `bytes` bytes; and takes what was read of it, in any order. Only a part
 * without an id could be a smaller one than its name says: of others nothing is taken. */
void cm_repeats_begin(struct cm_repeats *repeats, const struct cm_part *part, uint32_t size);
void cm_repeats_take(struct cm_repeats *repeats, uint32_t address, const uint8_t *bytes,
                     uint32_t count);

/** The smallest power of two, less than the size, after which everything comes again; 0: none does,
 * or all bytes are one value. Frees what was taken. */
uint32_t cm_repeats_end(struct cm_repeats *repeats);

CM_DECLS_END

#endif
