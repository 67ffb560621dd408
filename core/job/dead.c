/*
 * Readings that dead wires can answer.
 *
 * An EEPROM has no id, and nothing proves contact in the middle of a reading. A wire that is off
 * for the time of one byte reads FF, or 00. Where that is just what is wanted, the one reading says
 * "equal" of a chip that is not. So what lies between the first and the last of such bytes is
 * compared once more, in other portions. (A put compares all of its images once more at its end.)
 */
#include "access.h"

/* The second half first: what disturbs two readings in the same rhythm does not disturb the same
 * bytes. */
enum cm_status cm_match_by_parts(struct cm_session *session, const struct cm_access *whole)
{
    uint32_t half = whole->count / 2 & ~(uint32_t)15;
    struct cm_access part = *whole;
    part.kind = CM_ACCESS_AGAIN;
    part.address += half;
    part.out += half;
    part.count -= half;
    enum cm_status status = cm_access(session, &part);
    part.address = whole->address;
    part.out = whole->out;
    part.count = half;
    return status ? status : cm_access(session, &part);
}

static bool is_dead(uint8_t byte)
{
    return byte == 0x00 || byte == 0xFF;
}

enum cm_status cm_match_dead(struct cm_session *session, uint8_t region, uint32_t address,
                             uint8_t *bytes, uint32_t count)
{
    while (count && !is_dead(bytes[count - 1]))
        count--;
    for (; count && !is_dead(*bytes); count--, bytes++)
        address++;
    struct cm_access run = {CM_ACCESS_MATCH, region, address, {bytes}, count};
    return count ? cm_match_by_parts(session, &run) : CM_OK;
}
