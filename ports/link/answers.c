/*
 * Pieces on their way, and the wait for what the probe answers.
 *
 * Where something is lost, the probe is asked: it sends again what we have not acknowledged, and
 * tells which piece it expects (AGAIN); from that one on we send again. Pieces that were on their
 * way behind a lost one make the probe say AGAIN, each once: that is of what we have sent again
 * already. So AGAIN is believed only when the first piece that was sent again can have arrived, or
 * a line that loses bytes would be filled with copies of copies.
 *
 * An answer has one time limit in all, however much is heard meanwhile.
 */
#include "inside.h"
#include "line.h"

enum {
    PATIENCE_US = 4000000, /* no frame of ours, beside the time of what is on its way: it is gone */
    ORDERLY_US = 900000,   /* an answer has so long when the caller wants to end */
    SLOW_BYTE_BITS = 40    /* of the slowest bus clock, for a byte of a batch */
};

/* --- sending ----------------------------------------------------------------------------- */

/* What is acknowledged is told anew. A long piece may need the room of what has come before it:
 * then that is acknowledged first. */
bool link_send_piece(struct link *link, uint8_t sequence)
{
    struct sent *sent = link_sent(link, sequence);
    const struct cm_link_frame frame = {CM_LINK_BATCH, sequence, link->acknowledged, link->session};
    size_t bytes = cm_link_put_batch(&sent->piece.batch, link->payload, link->room);
    bool is_long = bytes + CM_LINK_FRAME > CM_LINK_SHORT;
    if (!bytes || (is_long && link->owes_word && !link_send_frame(link, CM_LINK_TAKEN, NULL, 0)))
        return false;
    sent->bytes = cm_link_encode(&frame, link->payload, bytes, sent->line);
    link->owes_word = false;
    return link_send_bytes(link, sent->line, sent->bytes);
}

static bool send_again(struct link *link, uint8_t from)
{
    uint8_t on_their_way = (uint8_t)(link->next - from),
            most = (uint8_t)(link->next - link->acknowledged);
    bool is_known = (int32_t)(link_now_us() - link->deaf_until) < 0;
    if (on_their_way > most || !on_their_way || is_known) // done; or sent again already
        return true;
    link->owes_word = true; // TAKEN may have been lost, and without it a long piece has no room
    bool good = link_send_piece(link, from);
    link->deaf_until = link->sent_by + link->round_us;
    for (uint8_t i = (uint8_t)(from + 1); good && i != link->next; i++)
        good = link_send_piece(link, i);
    link->counts.resent += on_their_way;
    return good;
}

/* --- waiting ----------------------------------------------------------------------------- */

/* What to do with a frame while a result is waited for. CM_OK: it is the result. CM_DECLINED: go on
 * waiting. */
static enum cm_status take_frame(struct link *link, const struct cm_link_frame *frame)
{
    if (frame->kind == CM_LINK_STRANGER)
        return link_begin_anew(link);
    if (frame->session != link->session)
        return CM_DECLINED;
    bool is_lost = frame->kind == CM_LINK_AGAIN && frame->sequence != frame->acknowledged;
    if (is_lost && !send_again(link, frame->sequence))
        return CM_PORT_FAILED;
    return frame->kind == CM_LINK_RESULT && frame->sequence == link->acknowledged ? CM_OK
                                                                                  : CM_DECLINED;
}

/* How long a probe that works may be silent: the line takes its time for what is on its way, there
 * and back. */
static uint64_t patience_us(struct link *link)
{
    uint64_t bytes = 0;
    for (uint8_t i = link->acknowledged; i != link->next; i++)
        bytes += link_sent(link, i)->bytes + link_sent(link, i)->piece.batch.all;
    return PATIENCE_US + bytes * LINK_BITS * 1000000u / link->baud;
}

/* The longest that a piece can take at the target, by its own waits and time limits. */
static uint64_t longest_run_us(const struct link *link, const struct piece *piece)
{
    uint32_t hz = link->probe.traits.clock_min_hz ? link->probe.traits.clock_min_hz : 1000, end = 0;
    uint64_t us = (uint64_t)piece->batch.all * SLOW_BYTE_BITS * 1000000u / hz, times = 1;
    for (uint32_t i = 0; i < piece->batch.op_count; i++) {
        const struct cm_op *op = &piece->ops[i];
        if (i >= end)
            times = 1;
        if (op->kind == CM_OP_REPEAT) {
            times = cm_repeat_chunks(&op->repeat, op->repeat.count);
            end = i + 1 + op->repeat.ops;
        } else if (op->kind == CM_OP_WAIT) {
            us += times * op->wait.us;
        } else if (op->kind == CM_OP_POLL) {
            us += times * ((uint64_t)op->poll.early_us + op->poll.timeout_us);
        }
        us += times * SLOW_BYTE_BITS * 1000000u / hz;
    }
    return us;
}

/* Is the wait over? Then it is said why. */
static bool has_ended(struct link *link, uint32_t waited_us, uint32_t silent_us)
{
    const uint64_t patience = patience_us(link);
    if (link_is_stopped(link) && waited_us > ORDERLY_US)
        link_lose(link, LINK_STOPPED);
    else if (silent_us > patience)
        link_lose(link, LINK_SILENT);
    else if (waited_us >
             2 * patience + longest_run_us(link, &link_sent(link, link->acknowledged)->piece))
        link_lose(link, LINK_ENDLESS);
    return link->lost != LINK_FINE;
}

/* Silence after which the probe is asked: soon for the first time, when what is on its way may have
 * been answered; then more and more seldom, since it may have to work. */
static int ask_ms(struct link *link, int asks)
{
    enum { SOON_MS = 40, MOST_DOUBLINGS = 4 };
    uint64_t soon = SOON_MS + (patience_us(link) - PATIENCE_US + 2 * link->round_us) / 1000;
    uint64_t ms = soon << (asks < MOST_DOUBLINGS ? asks : MOST_DOUBLINGS);
    return ms < LINK_ASK_MS ? (int)ms : LINK_ASK_MS;
}

/* Nothing came for some time: the probe is asked, if there is still a point in that. CM_DECLINED:
 * go on waiting. */
static enum cm_status ask(struct link *link, uint32_t silent_us)
{
    enum { LONG_US = 4 * LINK_ASK_MS * 1000 };
    if (link->lost)
        return CM_PORT_FAILED;
    if (silent_us > LONG_US && link->baud != link->first_baud)
        return link_begin_anew(link); // it may have restarted, and speak at another rate
    return link_send_frame(link, CM_LINK_ASK, NULL, 0) ? CM_DECLINED : CM_PORT_FAILED;
}

enum cm_status link_await_result(struct link *link, size_t *payload)
{
    struct cm_link_frame frame;
    const uint32_t begun = link_now_us();
    uint32_t heard = begun;
    enum cm_status status = CM_DECLINED;
    for (int asks = 0; status == CM_DECLINED;) {
        if (has_ended(link, link_now_us() - begun, link_now_us() - heard))
            return CM_PORT_FAILED;
        if (!link_next_frame(link, ask_ms(link, asks), &frame, payload)) {
            status = ask(link, link_now_us() - heard);
            asks++;
            continue;
        }
        if (frame.session == link->session) {
            heard = link_now_us();
            asks = 0;
        }
        status = take_frame(link, &frame);
    }
    return status;
}
