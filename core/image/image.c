/*
 * A sparse image as aligned blocks of 64 bytes, each with a mask of the bytes that are there.
 *
 * Blocks lie in the order in which they came; `order` lists them by address. Files mostly come in
 * ascending order, which appends; a file in any other order costs one search and one shift of
 * indices a block. A byte that is set twice is found when it comes.
 */
#include <coldmint/image.h>
#include <string.h>

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
    image->order = (uint32_t *)(void *)(image->blocks + image->capacity);
}

/* Place in `order` of the first block whose number is not below `number`. */
static uint32_t place_of(const struct cm_image *image, uint32_t number)
{
    uint32_t low = 0, high = image->count;
    if (high && image->blocks[image->order[high - 1]].number < number)
        return high;
    while (low < high) {
        uint32_t middle = low + (high - low) / 2;
        if (image->blocks[image->order[middle]].number < number)
            low = middle + 1;
        else
            high = middle;
    }
    return low;
}

static struct cm_image_block *block_at(const struct cm_image *image, uint32_t place,
                                       uint32_t number)
{
    if (place >= image->count)
        return NULL;
    struct cm_image_block *block = &image->blocks[image->order[place]];
    return block->number == number ? block : NULL;
}

static struct cm_image_block *find(const struct cm_image *image, uint32_t number)
{
    return block_at(image, place_of(image, number), number);
}

static struct cm_image_block *find_or_add(struct cm_image *image, uint32_t number, uint32_t line)
{
    uint32_t place = place_of(image, number);
    struct cm_image_block *block = block_at(image, place, number);
    if (block)
        return block;
    if (image->count == image->capacity)
        return NULL;
    for (uint32_t i = image->count; i > place; i--)
        image->order[i] = image->order[i - 1];
    image->order[place] = image->count;
    block = &image->blocks[image->count++];
    memset(block, 0, sizeof *block);
    block->number = number;
    block->line = line;
    return block;
}

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

/* First address at or after `from` whose presence is `wanted`, within the block at `place`; its end
 * where there is none. */
static uint32_t scan(const struct cm_image_block *block, uint32_t from, bool wanted)
{
    uint32_t at = from;
    while (at < CM_IMAGE_BLOCK && is_present(block, at) != wanted)
        at++;
    return at;
}

/* End of the run that begins at byte `at` of the block at `place`, over as many touching blocks as
 * there are. */
static uint32_t run_length(const struct cm_image *image, uint32_t place, uint32_t at)
{
    uint32_t length = 0, number = image->blocks[image->order[place]].number;
    for (; place < image->count; place++, number++, at = 0) {
        const struct cm_image_block *block = &image->blocks[image->order[place]];
        if (block->number != number)
            break;
        uint32_t end = scan(block, at, false);
        length += end - at;
        if (end < CM_IMAGE_BLOCK)
            break;
    }
    return length;
}

bool cm_image_extent(const struct cm_image *image, uint32_t from, uint32_t *start, uint32_t *bytes)
{
    for (uint32_t place = place_of(image, from / CM_IMAGE_BLOCK); place < image->count; place++) {
        const struct cm_image_block *block = &image->blocks[image->order[place]];
        uint32_t first = block->number == from / CM_IMAGE_BLOCK ? from % CM_IMAGE_BLOCK : 0;
        uint32_t at = scan(block, first, true);
        if (at < CM_IMAGE_BLOCK) {
            *start = block->number * CM_IMAGE_BLOCK + at;
            *bytes = run_length(image, place, at);
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
    const struct cm_image_block *block = &image->blocks[image->order[image->count - 1]];
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
