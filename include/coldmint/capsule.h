/**
 * Capsules: all that a chip holds, or shall hold, in one file (.mint). Reading needs no heap and no
 * copy: the file stays where it is, behind a callback, and its regions are sources for jobs.
 *
 *     struct cm_capsule capsule;
 *     if (cm_capsule_open(&capsule, &input) == CM_OK)         // looks at every checksum
 *         want.source = cm_capsule_source(&capsule, 0, &place); // is read as the job needs it
 *
 * A capsule is a backup, or, with a *work*, a job: what shall be done with a chip, sealed by who
 * made it (cm_capsule_check_seal), for cm_work_begin (coldmint/restore.h) and the player
 * (coldmint/player.h).
 *
 * The file is a protocol-buffers message: core/capsule/capsule.proto. It is written with nanopb;
 * reading needs nothing beside the C library's memcpy, memset and memcmp. This is a library of its
 * own (coldmint-capsule), so that a build without capsules carries none of it.
 */
#ifndef COLDMINT_CAPSULE_H
#define COLDMINT_CAPSULE_H

#include <coldmint/decls.h>
#include <coldmint/records.h>
#include <coldmint/settings.h>
#include <coldmint/source.h>

CM_DECLS_BEGIN

enum {
    CM_CAPSULE_REGIONS = 8,
    CM_CAPSULE_NAME = 16,
    CM_CAPSULE_TOOL = 32,
    CM_CAPSULE_NOTES = 200,
    CM_WORK_TITLE = 48,
    CM_WORK_BOARD = 32,
    CM_WORK_VERSION = 24,
    CM_WORK_MARKER = 32, /**< most bytes of a marker */
    CM_DIGEST_BYTES = 32,
    CM_KEY_BYTES = 32,
    CM_SIGNATURE_BYTES = 64,
    CM_CAPSULE_PART = 1024, /**< most data bytes that the writer puts into a part of a backup */
    CM_LINK_DIGEST = 16
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
    /* of the seal */
    CM_CAPSULE_UNSEALED,    /**< there is none */
    CM_CAPSULE_DIGEST,      /**< what is sealed has another digest */
    CM_CAPSULE_UNSIGNED,    /**< nobody has signed it */
    CM_CAPSULE_OTHER_MAKER, /**< signed with another key than the maker's */
    CM_CAPSULE_SIGNATURE,   /**< not made with that key, or not for this digest */
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

/** What a part of a job must be: its place, and the beginning of its digest (SHA-256). `bytes` 0:
 * there is none. */
struct cm_capsule_link {
    uint32_t address, bytes;
    uint8_t digest[CM_LINK_DIGEST];
    uint32_t offset; /**< of its tag, in the file; of one that is written: nothing */
};

struct cm_capsule_region {
    char name[CM_CAPSULE_NAME];
    uint32_t bytes;
    uint8_t erased;
    struct cm_capsule_link first; /**< of a job: the part that the others hang on */
};

/** A byte of fuses, lock bits or registers that is wanted. */
struct cm_work_setting {
    uint32_t address;
    uint8_t region; /**< counts the capsule's regions */
    uint8_t value;  /**< of the bits in `chosen`; the others stay */
    uint8_t chosen;
    uint8_t early; /**< of these, the bits that are written before the contents */
    bool locks;    /**< it bars later work: an erase alone makes its bits 1 again */
};

/** What shall be done, beside the contents. Small members come first, which makes the code smaller.
 * Texts end with a zero. */
struct cm_capsule_work {
    /** The supply is off for a moment before the chip is asked for. */
    bool power_cycle;
    /** With the late settings the chip ends access over these pins. */
    bool closes;
    /** A locked chip may be erased; the erase may clear the data memory. */
    bool unprotect, lose_data;
    /** A text on the chip that says which board it is; bytes 0: there is none. `marker_region`
     * counts the capsule's regions. */
    uint8_t marker_region, marker_bytes;
    uint8_t setting_count;
    /** The supply that the board must have; 0: any that the part allows. */
    uint16_t supply_from_mv, supply_to_mv;
    /** The programmer feeds the board so; 0: the board has its own supply. */
    uint16_t feed_mv;
    uint32_t marker_at;
    /** Clock of the board's crystal or oscillator; 0: none. And the chip's clock once the early
     * settings are written; 0: not known. */
    uint32_t board_hz, then_hz;
    /** Most units that may be made; 0: any number. */
    uint32_t units;
    /** In the order in which they are written. */
    struct cm_work_setting settings[CM_SETTING_BYTES];
    char title[CM_WORK_TITLE];
    char board[CM_WORK_BOARD];
    char version[CM_WORK_VERSION];
};

/** The seal at the end of a capsule. */
struct cm_capsule_seal {
    bool is_signed;
    uint8_t digest[CM_DIGEST_BYTES];
    uint8_t key[CM_KEY_BYTES];
    uint8_t signature[CM_SIGNATURE_BYTES];
};

/** A capsule that is open. The input must outlive it. */
struct cm_capsule {
    uint8_t region_count;
    bool has_work; /**< it is a job */
    bool is_sealed;
    /** With CM_CAPSULE_PART_SUM: the part's place on the chip. */
    uint8_t fault_region;
    uint32_t fault_address;
    enum cm_capsule_fault fault;
    uint32_t fault_offset; /**< about where, in the file */
    uint32_t first_part;   /**< offset of its tag */
    uint32_t sealed;       /**< bytes before the seal */
    /** Of all before the first part, or before the seal where there is no part. */
    uint8_t digest[CM_DIGEST_BYTES];
    struct cm_capsule_input input;
    struct cm_capsule_region regions[CM_CAPSULE_REGIONS];
    struct cm_capsule_facts facts;
    struct cm_capsule_work work;
};

/** Reads all of it once, front to back: the facts, and every checksum, bound and order; of a job,
 * too, whether each part has the digest that the one before it tells (CM_CAPSULE_DIGEST).
 * CM_BAD_IMAGE with `fault` otherwise: where the file's checksum is wrong, the part that is
 * damaged, if one is.
 */
CM_MUST_CHECK enum cm_status cm_capsule_open(struct cm_capsule *capsule,
                                             const struct cm_capsule_input *input);

/** Index of a region by name, or -1. */
int cm_capsule_region(const struct cm_capsule *capsule, const char *name);

/** Where a source stands in its capsule. */
struct cm_capsule_place {
    const struct cm_capsule *capsule;
    uint8_t region;
    bool has_failed; /**< a part was not what it must be: the input failed, or has changed */
    bool knows_next;
    uint32_t passed;             /**< bytes before it are in parts before `here` */
    struct cm_capsule_link here; /**< the part that was read last, or is first */
    struct cm_capsule_link next; /**< and the one behind it; of a job */
    /** Of a job: where the last way back ended. From there it goes on, when it goes back again. */
    struct cm_capsule_link mark;
    uint32_t mark_passed;
};

/** Is this signature by this key, of these bytes? Ed25519, RFC 8032. */
typedef bool cm_verify_fn(const uint8_t *key, const uint8_t *signature, const uint8_t *message,
                          uint32_t bytes);

/**
 * Checks the seal: whether its digest is that of what was read when the capsule was opened, and has
 * the signature verified. `maker` (CM_KEY_BYTES): only a capsule signed with this key is good.
 * NULL: any key is, and a capsule that nobody signed. `verify` may be NULL where `maker` is: then
 * the digest alone is checked. `seal` gets what the file says; it has one form, and a seal that is
 * spelled otherwise is refused.
 *
 * What is used later is what was sealed, too, even if the input is another one by then: each part
 * is proven by its digest in the same reading that hands it out.
 *
 * CM_BAD_IMAGE with the capsule's `fault` otherwise.
 */
CM_MUST_CHECK enum cm_status cm_capsule_check_seal(struct cm_capsule *capsule, const uint8_t *maker,
                                                   cm_verify_fn *verify,
                                                   struct cm_capsule_seal *seal);

/** Is this a public key for which everybody can make signatures (a point of small order)? Capsules
 * that are signed with one are refused: CM_CAPSULE_SIGNATURE. */
bool cm_key_is_weak(const uint8_t *key);

/** What is signed: CM_SEALED_BYTES for a digest. */
enum { CM_SEALED_BYTES = 16 + CM_DIGEST_BYTES };
void cm_capsule_signed_text(const uint8_t *digest, uint8_t *text);

/** A region as a source. Of a backup: whole, bytes that no part holds read as erased. Of a job: the
 * parts alone, each proven by its digest whenever it is read (CM_BAD_IMAGE: it is another one than
 * was opened); where one is not what it must be, the rest of the region is a run, and nothing of
 * the region can be read any more. Reading on is quick, going back costs what lies between. `place`
 * must outlive it. */
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

/** The same for a job: what shall be done comes before the regions, and these have links to their
 * first parts (cm_capsule_link_to). */
CM_MUST_CHECK enum cm_status cm_capsule_write_work(struct cm_capsule_writer *writer,
                                                   const struct cm_capsule_facts *facts,
                                                   const struct cm_capsule_work *work,
                                                   const struct cm_capsule_region *regions,
                                                   uint8_t count, cm_text_fn *sink, void *context);

/** Bytes of a backup's region, in ascending order; those that are erased are left out. */
CM_MUST_CHECK enum cm_status cm_capsule_write(struct cm_capsule_writer *writer,
                                              const struct cm_capsule_region *regions,
                                              uint8_t region, uint32_t address,
                                              const uint8_t *bytes, uint32_t count);

/** A part of a job, as it is written: bytes of a region, and the link to the next one in it (NULL:
 * it is the last). */
struct cm_capsule_piece {
    uint8_t region;
    uint32_t address, count;
    const uint8_t *bytes;
    const struct cm_capsule_link *next;
};

/** The link to a part. It needs that of the next one: the last comes first. */
CM_MUST_CHECK enum cm_status cm_capsule_link_to(const struct cm_capsule_piece *piece,
                                                struct cm_capsule_link *link);

/** Writes a part of a job: by region, and in ascending order. */
CM_MUST_CHECK enum cm_status cm_capsule_write_piece(struct cm_capsule_writer *writer,
                                                    const struct cm_capsule_piece *piece);

/** Seals a job, behind its last part. The seal's digest is that of all that the sink was given
 * before the first part (where there is none, until now). */
CM_MUST_CHECK enum cm_status cm_capsule_write_seal(struct cm_capsule_writer *writer,
                                                   const struct cm_capsule_seal *seal);

/** Ends with the checksum. */
CM_MUST_CHECK enum cm_status cm_capsule_write_end(struct cm_capsule_writer *writer);

CM_DECLS_END

#endif
