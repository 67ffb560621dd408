/**
 * Capsules: all that a chip holds, or shall hold, in one file (.mint). Reading needs no heap and no
 * copy: the file stays where it is, behind a callback, and its regions are sources for jobs.
 *
 *     struct cm_capsule capsule;
 *     if (cm_capsule_open(&capsule, &input) == CM_OK)         // looks at every checksum
 *         want.source = cm_capsule_source(&capsule, 0, &place); // is read as the job needs it
 *
 * The file is a protocol-buffers message: core/capsule/capsule.proto, read and written with nanopb.
 * This is a library of its own (coldmint-capsule), so that a build without capsules carries none of
 * it.
 */
#ifndef COLDMINT_CAPSULE_H
#define COLDMINT_CAPSULE_H

#include <coldmint/decls.h>
#include <coldmint/records.h>
#include <coldmint/source.h>

CM_DECLS_BEGIN

enum {
    CM_CAPSULE_REGIONS = 8,
    CM_CAPSULE_NAME = 16,
    CM_CAPSULE_TOOL = 32,
    CM_CAPSULE_NOTES = 200,
    CM_CAPSULE_PART = 1024 /**< most data bytes that the writer puts into a part */
};

/** Where a capsule is read from: a file, a memory, a flash chip. `read` copies bytes that lie
 * within `bytes`. */
struct cm_capsule_input {
    void *context;
    enum cm_status (*read)(void *context, uint32_t offset, uint8_t *bytes, uint32_t count);
    uint32_t bytes;
};

/** What is wrong with a capsule. */
enum cm_capsule_fault {
    CM_CAPSULE_OK,
    CM_CAPSULE_UNREADABLE, /**< the input failed */
    CM_CAPSULE_FOREIGN,    /**< not a capsule */
    CM_CAPSULE_VERSION,    /**< of a later version */
    CM_CAPSULE_CUT,        /**< ends too early, or its last field is not the checksum */
    CM_CAPSULE_CHECKSUM,   /**< of the file */
    CM_CAPSULE_PART_SUM,   /**< of a part */
    CM_CAPSULE_MALFORMED,  /**< a field is not what the schema says */
    CM_CAPSULE_BOUNDS, /**< a part lies outside its region, or before the part that it follows */
    CM_CAPSULE_FAULT_COUNT
};

/** A fault in words, lower case. */
const char *cm_capsule_fault_word(enum cm_capsule_fault fault);

/** Chip and origin, as the writer of the capsule gave them. Texts end with a zero. */
struct cm_capsule_facts {
    char chip[CM_CAPSULE_NAME];
    char family[CM_CAPSULE_NAME];
    uint8_t id[8];
    uint8_t id_bytes;
    uint16_t supply_mv; /**< 0: not measured */
    int64_t time;       /**< seconds since 1970 */
    char tool[CM_CAPSULE_TOOL];
    char notes[CM_CAPSULE_NOTES];
};

struct cm_capsule_region {
    char name[CM_CAPSULE_NAME];
    uint32_t bytes;
    uint8_t erased;
};

/** A capsule that is open. The input must outlive it. */
struct cm_capsule {
    struct cm_capsule_input input;
    struct cm_capsule_facts facts;
    struct cm_capsule_region regions[CM_CAPSULE_REGIONS];
    uint8_t region_count;
    uint32_t first_part; /**< offset of its tag */
    enum cm_capsule_fault fault;
    uint32_t fault_offset; /**< about where, in the file */
};

/** Reads the facts, and checks every checksum, bound and order. CM_BAD_IMAGE with `fault`
 * otherwise. */
CM_MUST_CHECK enum cm_status cm_capsule_open(struct cm_capsule *capsule,
                                             const struct cm_capsule_input *input);

/** Index of a region by name, or -1. */
int cm_capsule_region(const struct cm_capsule *capsule, const char *name);

/** Where a source stands in its capsule. */
struct cm_capsule_place {
    const struct cm_capsule *capsule;
    uint8_t region;
    uint32_t offset;  /**< of the tag of the part that is read now */
    uint32_t address; /**< bytes before it are in earlier parts */
};

/** A region as a source: whole, bytes that no part holds read as erased. `place` must outlive it.
 */
struct cm_source cm_capsule_source(const struct cm_capsule *capsule, uint8_t region,
                                   struct cm_capsule_place *place);

/** Writes a capsule, front to back. */
struct cm_capsule_writer {
    cm_text_fn *sink;
    void *context;
    uint32_t crc;
    enum cm_status status; /**< the first failure of the sink */
};

/** Begins with the facts and all regions (CM_CAPSULE_REGIONS at most). */
CM_MUST_CHECK enum cm_status cm_capsule_write_begin(struct cm_capsule_writer *writer,
                                                    const struct cm_capsule_facts *facts,
                                                    const struct cm_capsule_region *regions,
                                                    uint8_t count, cm_text_fn *sink, void *context);

/** Bytes of a region, in ascending order; those that are erased are left out. */
CM_MUST_CHECK enum cm_status cm_capsule_write(struct cm_capsule_writer *writer,
                                              const struct cm_capsule_region *regions,
                                              uint8_t region, uint32_t address,
                                              const uint8_t *bytes, uint32_t count);

/** Ends with the checksum. */
CM_MUST_CHECK enum cm_status cm_capsule_write_end(struct cm_capsule_writer *writer);

CM_DECLS_END

#endif
