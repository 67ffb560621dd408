/*
 * A signature verified: Ed25519, RFC 8032, section 5.1.7.
 */
#include "ref10/ed25519.h"
#include <coldmint/player.h>

/* The second half of a signature is a number below the order of the group (RFC 8032, section 5.1),
 * least significant byte first; a larger one would be another signature of the same. */
static bool is_below_order(const uint8_t *number)
{
    static const uint8_t ORDER[] = {0xED, 0xD3, 0xF5, 0x5C, 0x1A, 0x63, 0x12, 0x58,
                                    0xD6, 0x9C, 0xF7, 0xA2, 0xDE, 0xF9, 0xDE, 0x14,
                                    0,    0,    0,    0,    0,    0,    0,    0,
                                    0,    0,    0,    0,    0,    0,    0,    0x10};
    for (uint8_t i = sizeof ORDER; i > 0;) {
        i--;
        if (number[i] != ORDER[i])
            return number[i] < ORDER[i];
    }
    return false;
}

bool cm_ed25519_verify(const uint8_t *key, const uint8_t *signature, const uint8_t *message,
                       uint32_t bytes)
{
    return is_below_order(signature + CM_SIGNATURE_BYTES / 2) &&
           crypto_sign_verify(signature, message, bytes, key) == 0;
}
