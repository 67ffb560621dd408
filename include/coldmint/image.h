/**
 * Sparse images: bytes at addresses, with gaps, on memory that the caller brings.
 *
 * An image is filled in any order and read in ascending order. It is a source for jobs
 * (cm_image_source). Contents that need no memory of their own, such as a file or an array, can be
 * a struct cm_source without it (cm_memory_source).
 */
#ifndef COLDMINT_IMAGE_H
#define COLDMINT_IMAGE_H

#include <coldmint/decls.h>
#include <coldmint/source.h>
#include <stddef.h>

CM_DECLS_BEGIN

enum { CM_IMAGE_BLOCK = 64 /**< bytes of an aligned block */ };

/** A block of an image; the image's own business. */
struct cm_image_block {
    uint32_t number; /**< address / CM_IMAGE_BLOCK */
    uint32_t line;   /**< where its first byte came from */
    /** The node of the tree that came with it: what has 0, and 1, in the bit that the node asks. */
    uint32_t branch[2];
    uint8_t present[CM_IMAGE_BLOCK / 8];
    uint8_t bytes[CM_IMAGE_BLOCK];
};

/** A sparse image. After CM_BAD_IMAGE from cm_image_add, the clash_ members tell about the overlap.
 */
struct cm_image {
    struct cm_image_block *blocks;
    uint32_t root; /**< of the tree of blocks, by number */
    uint32_t last; /**< the block with the highest number */
    uint32_t capacity;
    uint32_t count;
    uint32_t byte_count;
    uint32_t clash_address;
    uint32_t clash_line; /**< line that began the block with the byte that was there before */
};

/** Bytes of memory that an image of `blocks` blocks needs. */
#define CM_IMAGE_MEMORY(blocks) ((blocks) * sizeof(struct cm_image_block))

/** Starts an empty image on `memory` (aligned as for uint32_t), which the image uses until the
 * caller drops it. */
void cm_image_init(struct cm_image *image, void *memory, size_t memory_bytes);

/**
 * Adds bytes. line: where they came from, for messages; 0 if nowhere.
 * Errors: CM_BAD_IMAGE where a byte is there already (nothing of this call is kept), CM_NO_ROOM,
 * CM_TOO_LARGE beyond 2^32.
 */
CM_MUST_CHECK enum cm_status cm_image_add(struct cm_image *image, uint32_t address,
                                          const uint8_t *bytes, uint32_t count, uint32_t line);

/** First run of bytes at or after `from`; false where there is none. */
bool cm_image_extent(const struct cm_image *image, uint32_t from, uint32_t *start, uint32_t *bytes);

/** Copies `count` bytes; gaps read as `fill`. */
void cm_image_read(const struct cm_image *image, uint32_t address, uint8_t *bytes, uint32_t count,
                   uint8_t fill);

/** First and last address of an image that is not empty. */
void cm_image_bounds(const struct cm_image *image, uint32_t *first, uint32_t *last);

/** The image as a source. The image must outlive it. */
struct cm_source cm_image_source(struct cm_image *image);

/** Raw bytes at an offset, as a source. */
struct cm_memory {
    const uint8_t *bytes;
    uint32_t count;
    uint32_t offset;
};

/** The memory as a source. It must outlive it. */
struct cm_source cm_memory_source(struct cm_memory *memory);

CM_DECLS_END

#endif
