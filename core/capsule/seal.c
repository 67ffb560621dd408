/*
 * The seal of a capsule: the digest of what comes before the first part, on which all parts hang,
 * and the maker's signature.
 */
#include "reader.h"
#include <stddef.h>
#include <string.h>

void cm_capsule_signed_text(const uint8_t *digest, uint8_t *text)
{
    memcpy(text, FORMAT_TEXT, CM_SEALED_BYTES - CM_DIGEST_BYTES);
    memcpy(text + CM_SEALED_BYTES - CM_DIGEST_BYTES, digest, CM_DIGEST_BYTES);
}

static enum cm_status fail(struct cm_capsule *capsule, enum cm_capsule_fault fault)
{
    return cm_capsule_fail(capsule, capsule->sealed, fault);
}

/*
 * The seal has no digest of its own, so it has one form alone; any other would be the same capsule
 * in another file:
 *
 *     4A length | 0A 20 digest | 12 20 key | 1A 40 signature        or the digest alone
 */
struct seal_field {
    uint8_t head[2];
    uint8_t at, count;
};
#define FIELD(tag, member)                                                                         \
    {                                                                                              \
        {(tag) << 3 | CM_WIRE_BYTES, sizeof(((struct cm_capsule_seal *)0)->member)},               \
            offsetof(struct cm_capsule_seal, member),                                              \
            sizeof(((struct cm_capsule_seal *)0)->member)                                          \
    }
static const struct seal_field FIELDS[] = {FIELD(SEAL_SHA256, digest), FIELD(SEAL_KEY, key),
                                           FIELD(SEAL_SIGNATURE, signature)};
enum {
    HEAD = 2,
    UNSIGNED_BYTES = HEAD + CM_DIGEST_BYTES,
    SIGNED_BYTES = UNSIGNED_BYTES + HEAD + CM_KEY_BYTES + HEAD + CM_SIGNATURE_BYTES
};

/* Reads what must be these two bytes. */
static bool has_head(struct cm_capsule *capsule, uint32_t at, uint8_t first, uint8_t second)
{
    const struct cm_capsule_input *input = &capsule->input;
    uint8_t head[HEAD] = {0, 0};
    return input->read(input->context, at, head, HEAD) == CM_OK && head[0] == first &&
           head[1] == second;
}

/* What the file says. A key and a signature, or neither. */
static enum cm_status read_seal(struct cm_capsule *capsule, struct cm_capsule_seal *seal)
{
    const struct cm_capsule_input *input = &capsule->input;
    const uint32_t end = input->bytes - CRC_FIELD_BYTES, whole = end - capsule->sealed;
    // a length of 128 and more takes two bytes, of which the second is 1
    bool is_signed = whole == HEAD + 1 + SIGNED_BYTES,
         good = is_signed || whole == HEAD + UNSIGNED_BYTES;
    uint32_t at = capsule->sealed + HEAD + is_signed;
    memset(seal, 0, sizeof *seal);
    seal->is_signed = is_signed;
    good = good && has_head(capsule, capsule->sealed, CAPSULE_SEAL << 3 | CM_WIRE_BYTES,
                            is_signed ? SIGNED_BYTES : UNSIGNED_BYTES);
    good = good && (!is_signed || has_head(capsule, at - 1, 1, FIELDS[0].head[0]));
    for (uint8_t i = 0; good && i < (is_signed ? 3 : 1); i++) {
        const struct seal_field *field = &FIELDS[i];
        good = has_head(capsule, at, field->head[0], field->head[1]) &&
               input->read(input->context, at + HEAD, (uint8_t *)seal + field->at, field->count) ==
                   CM_OK;
        at += HEAD + (uint32_t)field->count;
    }
    return good ? CM_OK : fail(capsule, CM_CAPSULE_MALFORMED);
}

/*
 * The eight points of small order have no secret: whoever likes signs with them. Their second
 * coordinates are 0, 1, -1, Y and -Y modulo p = 2^255 - 19, least significant byte first. Of 0, 1
 * and -1 the larger spellings are refused, too, and with them some others beyond p, which are
 * nobody's.
 */
bool cm_key_is_weak(const uint8_t *key)
{
    static const uint8_t Y[CM_KEY_BYTES] = {0x26, 0xE8, 0x95, 0x8F, 0xC2, 0xB2, 0x27, 0xB0,
                                            0x45, 0xC3, 0xF4, 0x89, 0xF2, 0xEF, 0x98, 0xF0,
                                            0xD5, 0xDF, 0xAC, 0x05, 0xD3, 0xC6, 0x33, 0x39,
                                            0xB1, 0x38, 0x02, 0x88, 0x6D, 0x53, 0xFC, 0x05};
    enum { LAST = CM_KEY_BYTES - 1, NEAR_P = 0xEC };
    bool is_y = true, is_minus_y = true, is_low = key[0] <= 1, is_high = key[0] >= NEAR_P;
    for (uint8_t i = 0; i < CM_KEY_BYTES; i++) {
        uint8_t byte = i == LAST ? key[i] & 0x7F : key[i]; // its highest bit is a sign
        uint8_t of_p = i == 0 ? 0xED : i == LAST ? 0x7F : 0xFF;
        is_y &= byte == Y[i];
        is_minus_y &= byte == of_p - Y[i];
        is_low &= i == 0 || byte == 0;
        is_high &= i == 0 || byte == of_p;
    }
    return is_y || is_minus_y || is_low || is_high;
}

static enum cm_status check_signature(struct cm_capsule *capsule, const uint8_t *maker,
                                      cm_verify_fn *verify, const struct cm_capsule_seal *seal)
{
    uint8_t text[CM_SEALED_BYTES];
    if (!seal->is_signed)
        return maker ? fail(capsule, CM_CAPSULE_UNSIGNED) : CM_OK;
    if (maker && memcmp(maker, seal->key, CM_KEY_BYTES) != 0)
        return fail(capsule, CM_CAPSULE_OTHER_MAKER);
    if (cm_key_is_weak(seal->key))
        return fail(capsule, CM_CAPSULE_SIGNATURE);
    cm_capsule_signed_text(seal->digest, text);
    bool good = verify ? verify(seal->key, seal->signature, text, sizeof text) : !maker;
    return good ? CM_OK : fail(capsule, CM_CAPSULE_SIGNATURE);
}

enum cm_status cm_capsule_check_seal(struct cm_capsule *capsule, const uint8_t *maker,
                                     cm_verify_fn *verify, struct cm_capsule_seal *seal)
{
    if (!capsule->is_sealed)
        return fail(capsule, CM_CAPSULE_UNSEALED);
    enum cm_status status = read_seal(capsule, seal);
    if (!status && memcmp(seal->digest, capsule->digest, CM_DIGEST_BYTES) != 0)
        status = fail(capsule, CM_CAPSULE_DIGEST);
    return status ? status : check_signature(capsule, maker, verify, seal);
}
