/*
 * Fuzz target for the reader of capsules: any bytes, and the same with the right checksum behind
 * them, so that what stands in the file is looked at. A capsule that opens is read through all its
 * regions.
 */
#include "../support/crc.h"
#include <coldmint/capsule.h>
#include <stdlib.h>
#include <string.h>

enum { MOST = 1 << 16, MOST_READ = 4096, MARK_BYTES = 18 };

struct bytes {
    const uint8_t *at;
    uint32_t count;
};

static enum cm_status from_bytes(void *context, uint32_t offset, uint8_t *bytes, uint32_t count)
{
    const struct bytes *input = context;
    if (offset > input->count || count > input->count - offset)
        abort(); // the reader was told how many there are
    memcpy(bytes, input->at + offset, count);
    return CM_OK;
}

static void read_regions(const struct cm_capsule *capsule)
{
    for (uint8_t i = 0; i < capsule->region_count; i++) {
        struct cm_capsule_place place;
        struct cm_source source = cm_capsule_source(capsule, i, &place);
        uint32_t start, count;
        uint8_t chunk[256];
        for (uint32_t at = 0; at < MOST_READ && source.extent(source.context, at, &start, &count);
             at += sizeof chunk) {
            count = count < sizeof chunk ? count : (uint32_t)sizeof chunk;
            if (source.read(source.context, at, chunk, count))
                abort();
        }
    }
}

static void try_open(const uint8_t *bytes, size_t count)
{
    struct bytes input = {bytes, (uint32_t)count};
    struct cm_capsule_input callbacks = {&input, from_bytes, (uint32_t)count};
    struct cm_capsule capsule;
    if (cm_capsule_open(&capsule, &callbacks) == CM_OK) {
        struct cm_capsule_seal seal;
        read_regions(&capsule);
        if (cm_capsule_check_seal(&capsule, NULL, NULL, &seal) != CM_OK &&
            capsule.fault == CM_CAPSULE_OK)
            abort();
    } else if (capsule.fault == CM_CAPSULE_OK) {
        abort();
    }
}

int LLVMFuzzerTestOneInput(const uint8_t *data, size_t size);

int LLVMFuzzerTestOneInput(const uint8_t *data, size_t size)
{
    static uint8_t sealed[MOST + MARK_BYTES + 5];
    if (size < 1 || size > MOST)
        return 0;
    try_open(data + 1, size - 1);
    memcpy(sealed,
           "\x0A\x10"
           "coldmint capsule",
           MARK_BYTES);
    size_t count = size - 1;
    if (count >= MARK_BYTES && memcmp(data + 1, sealed, MARK_BYTES) == 0)
        memcpy(sealed, data + 1, count);
    else
        memcpy(sealed + MARK_BYTES, data + 1, count), count += MARK_BYTES;
    if (count > 5 && sealed[count - 5] == 0x3D)
        count -= 5; // a whole capsule: its checksum is made anew
    uint32_t crc = slow_crc(sealed, count);
    sealed[count++] = 0x3D;
    for (int i = 0; i < 4; i++)
        sealed[count++] = (uint8_t)(crc >> 8 * i);
    try_open(sealed, count);
    return 0;
}
