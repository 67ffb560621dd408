/*
 * Programming by words, for the parts without pages ("auto address increment"): a file of its own, that only rows which name it carry.
 *
 *     06, AD address two bytes, AD two bytes, ..., 04          the address counts by itself; between two words the status is all that may be asked for
 */
#include "nor.h"

enum { CMD_PROGRAM_WORDS = 0xAD };

/* Words by auto address increment, which begins at an even address; a byte before and a byte behind go by themselves. */
void cm_nor_add_words(struct cm_session *session, uint32_t address, uint8_t *bytes, uint32_t count, const struct cm_poll *polls)
{
    uint32_t before = address & 1, words = (count - before) & ~1u, after = count - before - words;
    if (before)
        cm_nor_add_program(session, CMD_PROGRAM, 0, address, bytes, 1, polls);
    if (words) {
        struct cm_frames *frames =
            cm_nor_add_program(session, CMD_PROGRAM_WORDS, 0, address + before, bytes + before, words, polls);
        frames->piece = 2;
        frames->chained = true;
        frames->finish = CMD_WRITE_DISABLE;
    }
    if (after)
        cm_nor_add_program(session, CMD_PROGRAM, 0, address + before + words, bytes + before + words, 1, polls);
    cm_batch_verify(session);
    struct cm_frames *frames = cm_nor_add_at(session, CMD_READ, 0, address, count);
    frames->data = CM_EACH_MATCH;
    frames->out = bytes;
}
