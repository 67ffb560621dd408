/*
 * A sparse image as aligned blocks of 64 bytes, each with a mask of the bytes that are there.
 *
 * Blocks lie in the order in which they came. A tree finds them by number: each node asks one bit,
 * the highest in which the blocks below it differ, so a way down has 26 nodes at most, and files in
 * any order of addresses cost the same. Each block but the first brings a node along. A link has
 * the index of a block, or of a node and above it the bit that it asks:
 *
 *     |1|     |  block  |        |0| bit |  node  |
 *      31  30    25             31 30  26 25
 *
 * Mostly the next bytes are for the last block, or behind it: then nothing is searched. A byte that
 * is set twice is found when it comes.
 */
#include <coldmint/image.h>
#include <string.h>

#define LEAF  UINT32_C(0x80000000)
#define INDEX UINT32_C(0x03FFFFFF)
enum { BIT_SHIFT = 26, BIT = 31 };

static bool is_present(const struct cm_image_block *block, uint32_t at)
{
    return block->present[at / 8] & (1u << (at % 8));
}

void cm_image_init(struct cm_image *image, void *memory, size_t memory_bytes)
{
    memset(image, 0, sizeof *image);
    image->capacity =
        (uint32_t)(memory_bytes / CM_IMAGE_MEMORY(1)); // 2^26 blocks are the whole address space
    image->blocks = memory;
}

/* --- the tree ---------------------------------------------------------------------------- */

static uint8_t bit_of(uint32_t link)
{
    return (uint8_t)(link >> BIT_SHIFT & BIT);
}

/* The way that a number goes at a node. */
static uint32_t *way_at(const struct cm_image *image, uint32_t link, uint32_t number)
{
    return &image->blocks[link & INDEX].branch[number >> bit_of(link) & 1];
}

/* The one block that can have this number; of an image that is not empty. */
static struct cm_image_block *likely(const struct cm_image *image, uint32_t number)
{
    uint32_t link = image->root;
    while (!(link & LEAF))
        link = *way_at(image, link, number);
    return &image->blocks[link & INDEX];
}

static struct cm_image_block *find(const struct cm_image *image, uint32_t number)
{
    if (!image->count || number > image->blocks[image->last].number)
        return NULL;
    struct cm_image_block *last = &image->blocks[image->last];
    struct cm_image_block *block = number == last->number ? last : likely(image, number);
    return block->number == number ? block : NULL;
}

/* The highest bit in which two numbers differ. */
static uint8_t highest_bit(uint32_t one, uint32_t other)
{
    uint8_t bit = 0;
    for (uint32_t differs = one ^ other; differs >>= 1;)
        bit++;
    return bit;
}

/* The block with the lowest number from `number` on; NULL: there is none. */
static struct cm_image_block *find_from(const struct cm_image *image, uint32_t number)
{
    if (!image->count || number > image->blocks[image->last].number)
        return NULL;
    struct cm_image_block *block = likely(image, number);
    if (block->number == number)
        return block;
    const uint8_t bit = highest_bit(block->number, number);
    uint32_t link = image->root, right = 0; // the last link to higher numbers that was passed by
    while (!(link & LEAF) && bit_of(link) > bit) {
        const uint32_t *branch = image->blocks[link & INDEX].branch;
        bool is_high = number >> bit_of(link) & 1;
        right = is_high ? right : branch[1];
        link = branch[is_high];
    }
    link = number >> bit & 1 ? right : link; // all that is below it is lower, or all is higher
    while (!(link & LEAF))
        link = image->blocks[link & INDEX].branch[0];
    return &image->blocks[link & INDEX];
}

/* Puts the newest block into the tree. */
static void hang(struct cm_image *image, uint32_t number)
{
    uint32_t index = image->count - 1, *link = &image->root;
    struct cm_image_block *block = &image->blocks[index];
    if (!index) {
        image->root = LEAF;
        return;
    }
    // one behind the last has most of its high bits in common with that
    const uint32_t last = image->blocks[image->last].number;
    bool is_last = number > last;
    const uint8_t bit = highest_bit(is_last ? last : likely(image, number)->number, number);
    while (!(*link & LEAF) && bit_of(*link) > bit)
        link = way_at(image, *link, number);
    block->branch[number >> bit & 1] = LEAF | index;
    block->branch[~number >> bit & 1] = *link;
    *link = index | (uint32_t)bit << BIT_SHIFT;
    image->last = is_last ? index : image->last;
}

static struct cm_image_block *find_or_add(struct cm_image *image, uint32_t number, uint32_t line)
{
    struct cm_image_block *block = find(image, number);
    if (block || image->count == image->capacity)
        return block;
    block = &image->blocks[image->count++];
    memset(block, 0, sizeof *block);
    block->number = number;
    block->line = line;
    hang(image, number);
    return block;
}

/* --- bytes ------------------------------------------------------------------------------- */

static uint32_t part_in_block(uint32_t address, uint32_t count)
{
    uint32_t room = CM_IMAGE_BLOCK - address % CM_IMAGE_BLOCK;
    return count < room ? count : room;
}

static enum cm_status check_free(struct cm_image *image, uint32_t address, uint32_t count)
{
    for (uint32_t done = 0, part; done < count; done += part) {
        uint32_t at = address + done;
        part = part_in_block(at, count - done);
        const struct cm_image_block *block = find(image, at / CM_IMAGE_BLOCK);
        if (!block)
            continue;
        for (uint32_t i = at % CM_IMAGE_BLOCK; i < at % CM_IMAGE_BLOCK + part; i++) {
            if (i % 8 == 0 && block->present[i / 8] == 0) {
                i += 7; // eight free ones at once
            } else if (is_present(block, i)) {
                image->clash_address = at - at % CM_IMAGE_BLOCK + i;
                image->clash_line = block->line;
                return CM_BAD_IMAGE;
            }
        }
    }
    return CM_OK;
}

static void set_bytes(struct cm_image *image, struct cm_image_block *block, uint32_t at,
                      const uint8_t *bytes, uint32_t count)
{
    memcpy(block->bytes + at, bytes, count);
    for (uint32_t i = at; i < at + count; i++)
        block->present[i / 8] |= (uint8_t)(1u << (i % 8));
    image->byte_count += count;
}

enum cm_status cm_image_add(struct cm_image *image, uint32_t address, const uint8_t *bytes,
                            uint32_t count, uint32_t line)
{
    if (count && address > UINT32_MAX - (count - 1))
        return CM_TOO_LARGE;
    enum cm_status status = check_free(image, address, count);
    for (uint32_t done = 0, part; done < count && !status; done += part) {
        uint32_t at = address + done;
        part = part_in_block(at, count - done);
        struct cm_image_block *block = find_or_add(image, at / CM_IMAGE_BLOCK, line);
        if (!block)
            return CM_NO_ROOM;
        set_bytes(image, block, at % CM_IMAGE_BLOCK, bytes + done, part);
    }
    return status;
}

/* First byte of a block at or behind `from` whose presence is `wanted`; its end where there is
 * none.
 */
static uint32_t scan(const struct cm_image_block *block, uint32_t from, bool wanted)
{
    uint32_t at = from;
    while (at < CM_IMAGE_BLOCK && is_present(block, at) != wanted)
        at++;
    return at;
}

/* Length of the run that begins at byte `at` of a block, over as many touching blocks as there are.
 */
static uint32_t run_length(const struct cm_image *image, const struct cm_image_block *block,
                           uint32_t at)
{
    uint32_t length = 0;
    for (uint32_t number = block->number; block; block = find(image, ++number), at = 0) {
        uint32_t end = scan(block, at, false);
        length += end - at;
        if (end < CM_IMAGE_BLOCK)
            break;
    }
    return length;
}

bool cm_image_extent(const struct cm_image *image, uint32_t from, uint32_t *start, uint32_t *bytes)
{
    const uint32_t number = from / CM_IMAGE_BLOCK;
    for (const struct cm_image_block *block = find_from(image, number); block;
         block = find_from(image, block->number + 1)) {
        uint32_t at = scan(block, block->number == number ? from % CM_IMAGE_BLOCK : 0, true);
        if (at < CM_IMAGE_BLOCK) {
            *start = block->number * CM_IMAGE_BLOCK + at;
            *bytes = run_length(image, block, at);
            return true;
        }
    }
    return false;
}

void cm_image_read(const struct cm_image *image, uint32_t address, uint8_t *bytes, uint32_t count,
                   uint8_t fill)
{
    memset(bytes, fill, count);
    for (uint32_t done = 0, part; done < count; done += part) {
        uint32_t at = (address + done) % CM_IMAGE_BLOCK;
        part = part_in_block(at, count - done);
        const struct cm_image_block *block = find(image, (address + done) / CM_IMAGE_BLOCK);
        for (uint32_t i = 0; block && i < part; i++) {
            if (is_present(block, at + i))
                bytes[done + i] = block->bytes[at + i];
        }
    }
}

void cm_image_bounds(const struct cm_image *image, uint32_t *first, uint32_t *last)
{
    *first = *last = 0;
    if (image->count == 0)
        return;
    uint32_t bytes, end = CM_IMAGE_BLOCK - 1;
    cm_image_extent(image, 0, first, &bytes);
    const struct cm_image_block *block = &image->blocks[image->last];
    while (!is_present(block, end))
        end--;
    *last = block->number * CM_IMAGE_BLOCK + end;
}

static bool image_extent(void *context, uint32_t from, uint32_t *start, uint32_t *bytes)
{
    return cm_image_extent(context, from, start, bytes);
}

static enum cm_status image_read(void *context, uint32_t address, uint8_t *bytes, uint32_t count)
{
    cm_image_read(context, address, bytes, count, 0xFF);
    return CM_OK;
}

struct cm_source cm_image_source(struct cm_image *image)
{
    return (struct cm_source){.context = image, .extent = image_extent, .read = image_read};
}

static bool memory_extent(void *context, uint32_t from, uint32_t *start, uint32_t *bytes)
{
    const struct cm_memory *memory = context;
    *start = from > memory->offset ? from : memory->offset;
    uint32_t gone = *start - memory->offset;
    *bytes = gone < memory->count ? memory->count - gone : 0;
    return *bytes > 0;
}

static enum cm_status memory_read(void *context, uint32_t address, uint8_t *bytes, uint32_t count)
{
    const struct cm_memory *memory = context;
    memcpy(bytes, memory->bytes + (address - memory->offset), count);
    return CM_OK;
}

struct cm_source cm_memory_source(struct cm_memory *memory)
{
    return (struct cm_source){.context = memory, .extent = memory_extent, .read = memory_read};
}
