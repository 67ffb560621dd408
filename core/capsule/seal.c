/*
 * The seal of a capsule: the digest of all that comes before it, and the maker's signature.
 */
#include "reader.h"
#include "sha256.h"
#include <string.h>

void cm_capsule_signed_text(const uint8_t *digest, uint8_t *text)
{
    memcpy(text, FORMAT_TEXT, CM_SEALED_BYTES - CM_DIGEST_BYTES);
    memcpy(text + CM_SEALED_BYTES - CM_DIGEST_BYTES, digest, CM_DIGEST_BYTES);
}

static enum cm_status fail(struct cm_capsule *capsule, enum cm_capsule_fault fault)
{
    const struct cm_wire at = {.at = capsule->sealed};
    return cm_capsule_fail(capsule, &at, fault);
}

/* What the file says. A key and a signature, or neither. */
static enum cm_status read_seal(struct cm_capsule *capsule, struct cm_capsule_seal *seal)
{
#define ROW(member) CM_ROW(CM_ROW_EXACT, struct cm_capsule_seal, member)
    static const struct cm_wire_row ROWS[] = {
        [SEAL_SHA256 - 1] = ROW(digest),
        [SEAL_KEY - 1] = ROW(key),
        [SEAL_SIGNATURE - 1] = ROW(signature),
    };
#undef ROW
    enum {
        UNSIGNED = 1 | 1 << SEAL_SHA256,
        SIGNED = UNSIGNED | 1 << SEAL_KEY | 1 << SEAL_SIGNATURE
    };
    struct cm_wire wire = cm_capsule_fields(&capsule->input, capsule->sealed);
    struct cm_wire_field field;
    memset(seal, 0, sizeof *seal);
    uint32_t seen =
        cm_wire_next(&wire, &field) ? cm_wire_read(&wire, &field, ROWS, SEAL_SIGNATURE, seal) : 0;
    seal->is_signed = seen == SIGNED;
    return seen == SIGNED || seen == UNSIGNED ? CM_OK : fail(capsule, CM_CAPSULE_MALFORMED);
}

static enum cm_status check_digest(struct cm_capsule *capsule, const uint8_t *told)
{
    const struct cm_capsule_input *input = &capsule->input;
    struct cm_sha256 sum;
    uint8_t bytes[CM_SHA256_BLOCK];
    cm_sha256_begin(&sum);
    for (uint32_t at = 0, count; at < capsule->sealed; at += count) {
        count = capsule->sealed - at < sizeof bytes ? capsule->sealed - at : (uint32_t)sizeof bytes;
        if (input->read(input->context, at, bytes, count) != CM_OK)
            return fail(capsule, CM_CAPSULE_UNREADABLE);
        cm_sha256_add(&sum, bytes, count);
    }
    cm_sha256_end(&sum, bytes);
    return memcmp(bytes, told, CM_DIGEST_BYTES) == 0 ? CM_OK : fail(capsule, CM_CAPSULE_DIGEST);
}

static enum cm_status check_signature(struct cm_capsule *capsule, const uint8_t *maker,
                                      cm_verify_fn *verify, const struct cm_capsule_seal *seal)
{
    uint8_t text[CM_SEALED_BYTES];
    if (!seal->is_signed)
        return maker ? fail(capsule, CM_CAPSULE_UNSIGNED) : CM_OK;
    if (maker && memcmp(maker, seal->key, CM_KEY_BYTES) != 0)
        return fail(capsule, CM_CAPSULE_OTHER_MAKER);
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
    if (!status)
        status = check_digest(capsule, seal->digest);
    return status ? status : check_signature(capsule, maker, verify, seal);
}
