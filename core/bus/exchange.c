/*
 * What all buses share of an exchange: its head with the address in it, its check, and the
 * comparison of its data.
 */
#include "run.h"
#include <string.h>

/* Bits that leave at the right come in at the left; by 31 at most. A build for a processor that
 * shifts by single bits may say so: then it goes the shorter way round. */
#ifdef CM_SHIFTS_ARE_SLOW
static uint32_t rotate(uint32_t value, uint8_t right)
{
    enum { HALF = 16, ALL = 32 };
    for (; right && right <= HALF; right--)
        value = value >> 1 | value << (ALL - 1);
    for (; right && right < ALL; right++)
        value = value << 1 | value >> (ALL - 1);
    return value;
}
#else
static uint32_t rotate(uint32_t value, uint8_t right)
{
    return value >> right | value << (-right & 31);
}
#endif

uint8_t cm_run_head(const struct cm_run *run, uint8_t *head)
{
    const struct cm_exchange *exchange = run->exchange;
    uint32_t address =
        rotate(run->address, exchange->address_turn) & ~(uint32_t)exchange->address_less;
    uint8_t at = exchange->head_count;
    memcpy(head, exchange->head, sizeof exchange->head);
    head[0] |= (uint8_t)(rotate(run->address, exchange->fold_turn) & exchange->fold_mask);
    for (uint8_t i = exchange->address_bytes; i; i--, address >>= 8)
        head[--at] |= (uint8_t)address;
    return (uint8_t)(exchange->head_count + exchange->dummies);
}

enum cm_status cm_run_check(struct cm_run *run, uint8_t answer)
{
    const struct cm_exchange *exchange = run->exchange;
    run->expected = exchange->want;
    run->found = answer;
    return (answer & exchange->mask) == exchange->want ? CM_OK : CM_BAD_ANSWER;
}

enum cm_status cm_run_judge(struct cm_run *run, uint32_t at, const uint8_t *found, uint32_t count)
{
    bool fits = cm_data_of(run->exchange) == CM_DATA_FITS;
    const uint8_t *wanted = run->bytes + at;
    for (uint32_t i = 0; i < count; i++) {
        uint8_t matter = fits ? wanted[i] : 0xFF; // only bits that must be 1
        if ((found[i] & matter) == wanted[i])
            continue;
        run->address += at + i;
        run->expected = wanted[i];
        run->found = found[i];
        return CM_DIFFERS;
    }
    return CM_OK;
}

/* With expensive calls the first group grows: bytes are cheaper than one call more. Behind a write
 * the bytes are expected to be equal, so there is no small one; nor where they are read again. */
enum cm_status cm_run_compare(struct cm_run *run, cm_read_fn *read, uint8_t *group,
                              uint32_t group_bytes)
{
    enum { FIRST_BYTES = 4, BYTES_A_US = 2 };
    const struct cm_traits *traits = &run->port->traits;
    uint32_t most = traits->transfer_max && traits->transfer_max < group_bytes
                        ? traits->transfer_max
                        : group_bytes;
    bool is_proof = run->exchange->data & CM_AGAIN || (run->repeat && run->repeat->ops > 1);
    uint32_t part = is_proof ? most : FIRST_BYTES + BYTES_A_US * (uint32_t)traits->call_us;
    enum cm_status status = CM_OK;
    for (uint32_t at = 0; !status && at < run->count; at += part, part = most) {
        part = part < most ? part : most;
        part = run->count - at < part ? run->count - at : part;
        status = read(run, at, group, part);
        if (!status)
            status = cm_run_judge(run, at, group, part);
    }
    return status;
}
