/*
 * Programming by words, for the parts without pages ("auto address increment"): a file of its own,
 * that only rows which name it carry.
 *
 *     06, AD address two bytes, AD two bytes, ..., 04          the address counts by itself;
 *                                                              between two words the status is all
 *                                                              that may be asked for
 */
#include "nor.h"

enum { CMD_PROGRAM_WORDS = 0xAD };

static enum cm_status program_words(struct cm_session *session, uint32_t address,
                                    const uint8_t *bytes, uint32_t count)
{
    enum { WORD = 2, OPS = 3 };
    const struct cm_nor_times *times = cm_nor_part_of(session)->times;
    cm_nor_begin_program(session, address);
    cm_nor_add_enable(session);
    cm_batch_repeat(session, address, count, WORD, OPS);
    cm_nor_add_at(session, CMD_PROGRAM_WORDS, 0, CM_DATA_OUT | CM_CHAIN, bytes);
    cm_nor_add_ready(session, times->program_us, times->program_max_us);
    cm_nor_add(session, CMD_WRITE_DISABLE);
    cm_batch_verify(session);
    cm_batch_repeat(session, address, count, 0, 1);
    cm_nor_add_read(session, CM_DATA_MATCH, bytes);
    session->batch.unanswered = CM_WRITE_FAILED;
    enum cm_status status = cm_batch_run(session);
    if (!status)
        return CM_OK;
    cm_batch_begin(session, CM_STEP_NONE, NULL, 0);
    cm_nor_add(session,
               CMD_WRITE_DISABLE); // the chip may still be in this mode, and hears little else
    cm_ignore(cm_batch_try(session));
    return cm_nor_judge(session, status);
}

/* Words begin at an even address; a byte before and a byte behind go by themselves. */
enum cm_status cm_nor_program_words(struct cm_session *session, uint32_t address,
                                    const uint8_t *bytes, uint32_t count)
{
    uint32_t before = address & 1, words = (count - before) & ~1u, after = count - before - words;
    enum cm_status status = CM_OK;
    if (before)
        status = cm_nor_program_pages(session, address, bytes, 1, 1);
    if (!status && words)
        status = program_words(session, address + before, bytes + before, words);
    if (!status && after)
        status =
            cm_nor_program_pages(session, address + before + words, bytes + before + words, 1, 1);
    return status;
}
