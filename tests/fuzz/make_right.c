/*
 * Makes the sums of a changed job right again, from the last part to the seal: what an attacker
 * does. With OpenSSL's SHA-256, zlib's CRC-32, and a reader of fields that is not the library's.
 */
#include "make_right.h"
#include <openssl/sha.h>
#include <stdbool.h>
#include <string.h>
#include <zlib.h>

enum { MOST_PARTS = 512, REGIONS = 8, MARK_BYTES = 18, SUM_BYTES = 5, LINK_DIGEST = 16 };
enum { REGION = 5, PART = 6, SEAL = 9, BYTES_KIND = 2 };

/* A field of a message, or the message. */
struct field {
    uint8_t *at, *end; /* its bytes; of a number: nothing */
    uint8_t *tag_at;
    uint32_t tag, number;
};

static bool take_number(uint8_t **at, const uint8_t *end, uint32_t *number)
{
    *number = 0;
    for (unsigned shift = 0; *at < end && shift < 35; shift += 7) {
        uint8_t byte = *(*at)++;
        *number |= shift < 32 ? (uint32_t)(byte & 0x7F) << shift : 0;
        if (!(byte & 0x80))
            return true;
    }
    return false;
}

static bool next_field(uint8_t **at, uint8_t *end, struct field *field)
{
    uint32_t head, count = 0;
    *field = (struct field){.tag_at = *at};
    if (!take_number(at, end, &head))
        return false;
    field->tag = head >> 3;
    if ((head & 7) == 0)
        return take_number(at, end, &field->number);
    if ((head & 7) == BYTES_KIND && !take_number(at, end, &count))
        return false;
    count = (head & 7) == 5 ? 4 : (head & 7) == 1 ? 8 : count;
    if (count > (size_t)(end - *at))
        return false;
    field->at = *at;
    field->end = *at += count;
    return true;
}

/* The first field of a message with this tag. */
static bool find(const struct field *message, uint32_t tag, struct field *found)
{
    uint8_t *at = message->at;
    while (at && next_field(&at, message->end, found)) {
        if (found->tag == tag)
            return true;
    }
    return false;
}

/* Where a link in a message (its field `tag`) has its digest. */
static uint8_t *digest_in(const struct field *message, uint32_t tag)
{
    struct field link, digest;
    bool has_one = find(message, tag, &link) && link.at && find(&link, 1, &digest) && digest.at &&
                   digest.end - digest.at == LINK_DIGEST;
    return has_one ? digest.at : NULL;
}

static uint32_t number_in(const struct field *message, uint32_t tag)
{
    struct field field;
    return find(message, tag, &field) ? field.number : 0;
}

static uint32_t sum_of(const uint8_t *bytes, size_t count)
{
    return (uint32_t)crc32(0, bytes, (uInt)count);
}

static void sum_part(const struct field *part)
{
    struct field data, sum;
    uint8_t text[8 + 1024];
    if (!find(part, 3, &data) || !data.at || data.end - data.at > 1024 || !find(part, 4, &sum) ||
        !sum.at || sum.end - sum.at != 4)
        return;
    const uint32_t numbers[2] = {number_in(part, 1), number_in(part, 2)};
    for (int i = 0; i < 8; i++)
        text[i] = (uint8_t)(numbers[i / 4] >> 8 * (i % 4));
    memcpy(text + 8, data.at, (size_t)(data.end - data.at));
    uint32_t crc = sum_of(text, 8 + (size_t)(data.end - data.at));
    for (int i = 0; i < 4; i++)
        sum.at[i] = (uint8_t)(crc >> 8 * i);
}

struct job {
    struct field parts[MOST_PARTS], regions[REGIONS];
    int part_count, region_count;
    uint8_t *head_end; /* the first part, or the seal */
    struct field seal;
};

static void read_job(struct job *job, uint8_t *bytes, uint8_t *end)
{
    struct field field;
    memset(job, 0, sizeof *job);
    for (uint8_t *at = bytes; next_field(&at, end, &field);) {
        if (field.tag == REGION && job->region_count < REGIONS)
            job->regions[job->region_count++] = field;
        if (field.tag == PART && job->part_count < MOST_PARTS)
            job->parts[job->part_count++] = field;
        if (field.tag == SEAL)
            job->seal = field;
        if ((field.tag == PART || field.tag == SEAL) && !job->head_end)
            job->head_end = field.tag_at;
    }
}

/* Where the digest of a part stands: in the one before it of its region, or in the region. */
static uint8_t *link_to(const struct job *job, int number)
{
    uint32_t region = number_in(&job->parts[number], 1);
    for (int i = number - 1; i >= 0; i--) {
        if (number_in(&job->parts[i], 1) == region)
            return digest_in(&job->parts[i], 5);
    }
    return region < (uint32_t)job->region_count ? digest_in(&job->regions[region], 4) : NULL;
}

static void link_parts(const struct job *job)
{
    for (int i = job->part_count; i-- > 0;) {
        uint8_t digest[SHA256_DIGEST_LENGTH], *place = link_to(job, i);
        const struct field *part = &job->parts[i];
        if (place && part->at) {
            SHA256(part->at, (size_t)(part->end - part->at), digest);
            memcpy(place, digest, LINK_DIGEST);
        }
    }
}

size_t make_right(uint8_t *bytes, size_t count, enum make_right how_far)
{
    static struct job job;
    struct field digest;
    if (count < MARK_BYTES + SUM_BYTES)
        return count;
    count -= SUM_BYTES;
    read_job(&job, bytes, bytes + count);
    for (int i = 0; how_far >= RIGHT_PART_SUMS && i < job.part_count; i++) {
        if (job.parts[i].at)
            sum_part(&job.parts[i]);
    }
    if (how_far >= RIGHT_DIGESTS) {
        link_parts(&job);
        if (job.seal.at && job.head_end && find(&job.seal, 1, &digest) && digest.at &&
            digest.end - digest.at == SHA256_DIGEST_LENGTH)
            SHA256(bytes, (size_t)(job.head_end - bytes), digest.at);
    }
    uint32_t crc = sum_of(bytes, count);
    bytes[count++] = 0x3D;
    for (int i = 0; i < 4; i++)
        bytes[count++] = (uint8_t)(crc >> 8 * i);
    return count;
}
