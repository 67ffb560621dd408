/*
 * The tally. See tally.h for how it survives power cuts.
 *
 * A record: kind (bit 7: a copy, from the half that was full), status, step, fault, sequence, used,
 * the capsule's digest, address, milliseconds, CRC-32 of all that; numbers least significant byte
 * first. The half in use has the newest record that is no copy.
 */
#include "../core/capsule/crc32.h"
#include <coldmint/tally.h>
#include <stddef.h>
#include <string.h>

_Static_assert(offsetof(struct cm_tally_record, used) == 4, "four bytes come before the numbers");

enum {
    COPY = 0x80,
    SEQUENCE_AT = 4,
    USED_AT = 8,
    CAPSULE_AT = 12,
    ADDRESS_AT = 20,
    TIME_AT = 24,
    SUM_AT = 28
};

/* --- records ----------------------------------------------------------------------------- */

static void put_number(uint8_t *bytes, uint32_t number)
{
    for (uint8_t i = 0; i < 4; i++, number >>= 8)
        bytes[i] = (uint8_t)number;
}

static uint32_t get_number(const uint8_t *bytes)
{
    uint32_t number = 0;
    for (uint8_t i = 4; i > 0;)
        number = number << 8 | bytes[--i];
    return number;
}

static void pack(const struct cm_tally_record *record, uint8_t *bytes)
{
    memcpy(bytes, record, SEQUENCE_AT); // the four bytes at its beginning
    put_number(bytes + SEQUENCE_AT, record->sequence);
    put_number(bytes + USED_AT, record->used);
    memcpy(bytes + CAPSULE_AT, record->capsule, CM_TALLY_CAPSULE);
    put_number(bytes + ADDRESS_AT, record->address);
    put_number(bytes + TIME_AT, record->milliseconds);
    put_number(bytes + SUM_AT, cm_crc32(0, bytes, SUM_AT));
}

static void unpack(const uint8_t *bytes, struct cm_tally_record *record)
{
    memcpy(record, bytes, SEQUENCE_AT);
    record->sequence = get_number(bytes + SEQUENCE_AT);
    record->used = get_number(bytes + USED_AT);
    memcpy(record->capsule, bytes + CAPSULE_AT, CM_TALLY_CAPSULE);
    record->address = get_number(bytes + ADDRESS_AT);
    record->milliseconds = get_number(bytes + TIME_AT);
}

static bool is_blank(const uint8_t *bytes)
{
    uint8_t all = 0xFF;
    for (uint8_t i = 0; i < CM_TALLY_BYTES; i++)
        all &= bytes[i];
    return all == 0xFF;
}

static uint32_t slots_of(const struct cm_store *store)
{
    return store->half_bytes / CM_TALLY_BYTES;
}

/* CM_DIFFERS: no whole record, and `blank` says whether there is anything. */
static enum cm_status read_slot(const struct cm_store *store, uint32_t slot,
                                struct cm_tally_record *record, bool *blank)
{
    uint8_t bytes[CM_TALLY_BYTES];
    enum cm_status status =
        store->read(store->context, slot * CM_TALLY_BYTES, bytes, CM_TALLY_BYTES);
    if (status)
        return status;
    *blank = is_blank(bytes);
    if (cm_crc32(0, bytes, SUM_AT) != get_number(bytes + SUM_AT) || !(bytes[0] & ~COPY))
        return CM_DIFFERS;
    unpack(bytes, record);
    return CM_OK;
}

enum cm_status cm_tally_read(const struct cm_store *store, uint32_t slot,
                             struct cm_tally_record *record)
{
    bool blank;
    if (slot >= 2 * slots_of(store))
        return CM_BAD_ARGUMENT;
    enum cm_status status = read_slot(store, slot, record, &blank);
    record->kind &= (uint8_t)~COPY;
    return status;
}

/* --- finding ----------------------------------------------------------------------------- */

/* The half in use, and behind its last record that is not blank the free slot. */
static enum cm_status find_half(struct cm_tally *tally)
{
    const struct cm_store *store = tally->store;
    uint32_t slots = slots_of(store), used[2] = {0, 0}, newest = 0;
    for (uint32_t slot = 0; slot < 2 * slots; slot++) {
        struct cm_tally_record record;
        bool blank;
        enum cm_status status = read_slot(store, slot, &record, &blank);
        if (status && status != CM_DIFFERS)
            return status;
        uint8_t half = slot >= slots;
        if (!blank)
            used[half] = slot - half * slots + 1;
        if (!status && !(record.kind & COPY) && record.sequence > newest) {
            newest = record.sequence;
            tally->half = half;
        }
    }
    tally->sequence = newest;
    tally->slot = used[tally->half];
    return CM_OK;
}

/* The newest record of a capsule in the half in use; kind 0: there is none. */
static enum cm_status find_last(const struct cm_tally *tally, const uint8_t *capsule,
                                struct cm_tally_record *last)
{
    uint32_t slots = slots_of(tally->store);
    memset(last, 0, sizeof *last);
    memcpy(last->capsule, capsule, CM_TALLY_CAPSULE);
    for (uint32_t slot = 0; slot < slots; slot++) {
        struct cm_tally_record record;
        enum cm_status status = cm_tally_read(tally->store, tally->half * slots + slot, &record);
        if (!status && memcmp(record.capsule, capsule, CM_TALLY_CAPSULE) == 0)
            *last = record; // they ascend
        else if (status && status != CM_DIFFERS)
            return status;
    }
    return CM_OK;
}

enum cm_status cm_tally_find(struct cm_tally *tally, const struct cm_store *store,
                             const uint8_t *capsule)
{
    enum { FEWEST = 4 };
    memset(tally, 0, sizeof *tally);
    tally->store = store;
    if (slots_of(store) < FEWEST)
        return CM_BAD_ARGUMENT;
    enum cm_status status = find_half(tally);
    return status ? status : find_last(tally, capsule, &tally->last);
}

/* --- adding ------------------------------------------------------------------------------ */

static enum cm_status append(struct cm_tally *tally, struct cm_tally_record *record)
{
    const struct cm_store *store = tally->store;
    uint8_t bytes[CM_TALLY_BYTES], back[CM_TALLY_BYTES];
    uint32_t at = tally->half * store->half_bytes + tally->slot * CM_TALLY_BYTES;
    record->sequence = tally->sequence + 1;
    pack(record, bytes);
    tally->slot++; // also where it fails: the slot is not blank any more
    enum cm_status status = store->write(store->context, at, bytes, CM_TALLY_BYTES);
    if (!status)
        status = store->read(store->context, at, back, CM_TALLY_BYTES);
    if (!status && memcmp(bytes, back, CM_TALLY_BYTES) != 0)
        status = CM_WRITE_FAILED;
    tally->sequence += status == CM_OK;
    return status;
}

/* Copies the newest record of each capsule from the half that is full. The tally stands in the
 * other one. */
static enum cm_status copy_counts(struct cm_tally *tally, const struct cm_tally *full)
{
    uint32_t slots = slots_of(full->store);
    enum cm_status status = CM_OK;
    for (uint32_t slot = 0; slot < slots && (!status || status == CM_DIFFERS); slot++) {
        struct cm_tally_record record, last;
        status = cm_tally_read(full->store, full->half * slots + slot, &record);
        if (status)
            continue;
        status = find_last(full, record.capsule, &last);
        if (status || last.sequence != record.sequence)
            continue;
        if (tally->slot >= slots / 2)
            return CM_NO_ROOM;
        record.kind |= COPY;
        status = append(tally, &record);
    }
    return status == CM_DIFFERS ? CM_OK : status;
}

/* Begins the other half. Until a record that is no copy is in it, the full one is in use. */
static enum cm_status change_halves(struct cm_tally *tally)
{
    struct cm_tally other = *tally;
    other.half ^= 1;
    other.slot = 0;
    enum cm_status status = other.store->erase(other.store->context, other.half);
    if (!status)
        status = copy_counts(&other, tally);
    if (!status) {
        tally->half = other.half;
        tally->slot = other.slot;
        tally->sequence = other.sequence;
    }
    return status;
}

enum cm_status cm_tally_add(struct cm_tally *tally)
{
    enum cm_status status = CM_OK;
    if (tally->slot >= slots_of(tally->store))
        status = change_halves(tally);
    return status ? status : append(tally, &tally->last);
}

static bool is_begun(const struct cm_tally *tally)
{
    return tally->last.kind == CM_TALLY_BEGUN;
}

uint32_t cm_tally_left(const struct cm_tally *tally, uint32_t most)
{
    const uint32_t used = tally->last.used;
    if (!most)
        return UINT32_MAX;
    return (used < most ? most - used : 0) + is_begun(tally);
}

enum cm_status cm_tally_note(struct cm_tally *tally, enum cm_tally_kind kind)
{
    struct cm_tally_record *last = &tally->last;
    bool is_open = is_begun(tally);
    last->used += kind == CM_TALLY_BEGUN && !is_open;
    last->used -= kind == CM_TALLY_FAILED && is_open;
    last->kind = (uint8_t)kind;
    return cm_tally_add(tally);
}
