/*
 * What simple memories share: odd bytes of those that know words only, and that there is no id and
 * nothing to be erased.
 */
#include "simple.h"
#include <string.h>

enum cm_status cm_identify_by_name(struct cm_session *session)
{
    memset(session->id, 0, sizeof session->id);
    return session->part ? session->family->settle(session) : CM_OK;
}

/*
 * The other half of a word is written back as it read: so it is read again, behind others. A wire
 * that is off for a moment is not off in both readings; one that stays off shows in the write.
 */
static enum cm_status read_again(struct cm_session *session, cm_even_fn *access, uint32_t address,
                                 const uint8_t *word)
{
    enum { BETWEEN = 16 };
    uint8_t others[BETWEEN], again[2] = {0};
    uint32_t from = address & ~(uint32_t)(BETWEEN - 1);
    enum cm_status status = access(session, CM_ACCESS_READ, from, others, BETWEEN);
    if (!status)
        status = access(session, CM_ACCESS_READ, address, again, sizeof again);
    if (status || memcmp(word, again, sizeof again) == 0)
        return status;
    return cm_fail(session, CM_CONTACT_LOST, CM_STEP_READ);
}

/*
 * One byte of a word is written: the other one with it, as it was. Where the write does not come
 * right, the word may hold anything; so what the other byte was before is remembered until it does.
 */
static enum cm_status program_byte(struct cm_session *session, cm_even_fn *access, uint32_t address,
                                   uint8_t byte)
{
    struct cm_word_state *state = session->state;
    uint8_t word[2], place = address & 1;
    uint32_t other = address ^ 1;
    enum cm_status status = CM_OK;
    if (!state->is_known || state->at != other) {
        status = access(session, CM_ACCESS_READ, address - place, word, sizeof word);
        if (!status)
            status = read_again(session, access, address - place, word);
        if (status)
            return status;
        state->byte = word[1 - place];
        state->at = other;
        state->is_known = true;
    }
    word[1 - place] = state->byte;
    word[place] = byte;
    status = access(session, CM_ACCESS_PROGRAM, address - place, word, sizeof word);
    state->is_known = status != CM_OK;
    return status;
}

static enum cm_status one_byte(struct cm_session *session, cm_even_fn *access, const char *region,
                               enum cm_access_kind kind, uint32_t address, uint8_t *byte)
{
    uint8_t word[2], place = address & 1;
    if (kind == CM_ACCESS_PROGRAM)
        return program_byte(session, access, address, *byte);
    enum cm_status status = access(session, CM_ACCESS_READ, address - place, word, sizeof word);
    if (status)
        return status;
    uint8_t found = word[place], matter = kind == CM_ACCESS_FITS ? *byte : 0xFF;
    if (kind == CM_ACCESS_READ)
        *byte = found;
    else if ((found & matter) != *byte)
        return cm_fail_byte(session, CM_DIFFERS, CM_STEP_COMPARE, region, address, *byte, found);
    return CM_OK;
}

enum cm_status cm_evened(struct cm_session *session, cm_even_fn *access, const char *region,
                         enum cm_access_kind kind, uint32_t address, uint8_t *bytes, uint32_t count)
{
    struct cm_word_state *state = session->state;
    enum cm_status status = CM_OK;
    if (count && address & 1) {
        status = one_byte(session, access, region, kind, address++, bytes++);
        count--;
    }
    uint32_t even = count & ~1u;
    if (!status && even) {
        status = access(session, kind, address, bytes, even);
        bool writes = kind == CM_ACCESS_PROGRAM && !status;
        state->is_known &= !writes || state->at - address >= even;
    }
    if (!status && count & 1)
        status = one_byte(session, access, region, kind, address + even, bytes + even);
    return status;
}
