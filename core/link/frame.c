/*
 * Frames on the line.
 *
 * Consistent overhead byte stuffing (Cheshire and Baker, 1999): a frame is cut at its zeros; each
 * piece is sent behind a byte that tells its length plus one, and a piece of 254 bytes has no zero
 * behind it. So a zero on the line ends a frame, whatever came before: a receiver that has lost its
 * place finds it again at the next one.
 *
 *     frame   11 00 22 33           line   02 11 03 22 33 00
 *
 * Both ways go byte by byte, so that neither end needs memory for the line beside the frame.
 */
#include "../capsule/crc32.h"
#include <coldmint/link.h>
#include <string.h>

enum { LONGEST = 254, SPANS = 4 };

/* --- out --------------------------------------------------------------------------------- */

/* A frame in parts, and how far it has been sent. */
struct sending {
    const struct cm_link_span *span, *end;
    size_t at; /* in the span */
};

/* Goes on to a span that has bytes left; false behind the last. */
static bool has_more(struct sending *sending)
{
    while (sending->span != sending->end && sending->at == sending->span->count) {
        sending->span++;
        sending->at = 0;
    }
    return sending->span != sending->end;
}

/* Bytes before the next zero, LONGEST at most. */
static uint8_t length_of_piece(struct sending ahead)
{
    uint8_t length = 0;
    while (length < LONGEST && has_more(&ahead) && ahead.span->bytes[ahead.at]) {
        ahead.at++;
        length++;
    }
    return length;
}

static void send_piece(struct sending *sending, uint8_t length, cm_link_send_fn *send,
                       void *context)
{
    const uint8_t code = (uint8_t)(length + 1);
    send(context, &code, 1);
    while (length && has_more(sending)) {
        size_t left = sending->span->count - sending->at;
        uint8_t part = left < length ? (uint8_t)left : length;
        send(context, sending->span->bytes + sending->at, part);
        sending->at += part;
        length = (uint8_t)(length - part);
    }
}

void cm_link_send(const struct cm_link_frame *frame, const struct cm_link_span payload[2],
                  cm_link_send_fn *send, void *context)
{
    const uint8_t head[CM_LINK_HEAD] = {frame->kind, frame->sequence, frame->acknowledged,
                                        (uint8_t)frame->session, (uint8_t)(frame->session >> 8)};
    static const uint8_t ZERO = 0;
    uint8_t tail[CM_LINK_CRC];
    const struct cm_link_span spans[SPANS] = {
        {head, sizeof head}, payload[0], payload[1], {tail, sizeof tail}};
    uint32_t crc = 0;
    for (uint8_t i = 0; i < SPANS - 1; i++)
        crc = cm_crc32(crc, spans[i].bytes, spans[i].count);
    for (uint8_t i = 0; i < CM_LINK_CRC; i++, crc >>= 8)
        tail[i] = (uint8_t)crc;
    struct sending sending = {spans, spans + SPANS, 0};
    bool is_cut = true; // by a zero, which needs a piece behind it, even an empty one
    while (is_cut || has_more(&sending)) {
        uint8_t length = length_of_piece(sending);
        send_piece(&sending, length, send, context);
        is_cut = length < LONGEST && has_more(&sending);
        sending.at += is_cut;
    }
    send(context, &ZERO, 1);
}

static void send_to_memory(void *context, const uint8_t *bytes, size_t count)
{
    uint8_t **end = context;
    memcpy(*end, bytes, count);
    *end += count;
}

size_t cm_link_encode(const struct cm_link_frame *frame, const uint8_t *payload, size_t count,
                      uint8_t *line)
{
    const struct cm_link_span spans[2] = {{payload, count}, {NULL, 0}};
    uint8_t *end = line;
    cm_link_send(frame, spans, send_to_memory, &end);
    return (size_t)(end - line);
}

/* --- in ---------------------------------------------------------------------------------- */

static enum cm_link_taken end_frame(struct cm_link_intake *intake)
{
    bool is_whole = !intake->is_damaged && intake->left == 0;
    enum cm_link_taken taken = CM_LINK_MORE;
    if (intake->has_begun)
        taken = is_whole ? CM_LINK_WHOLE : CM_LINK_DAMAGED;
    intake->has_begun = intake->owes_zero = intake->is_damaged = false;
    intake->left = 0;
    return taken;
}

static enum cm_link_taken take_byte(struct cm_link_intake *intake, uint8_t byte)
{
    if (!byte)
        return end_frame(intake);
    if (!intake->has_begun) {
        intake->has_begun = true;
        intake->count = intake->summed = 0;
        intake->crc = 0;
    }
    if (intake->is_damaged)
        return CM_LINK_MORE;
    bool is_code = intake->left == 0;
    if (!is_code || intake->owes_zero) {
        if (intake->count == intake->room)
            return CM_LINK_FULL;
        intake->bytes[intake->count++] = is_code ? 0 : byte;
    }
    if (is_code) {
        intake->left = (uint8_t)(byte - 1);
        intake->owes_zero = byte <= LONGEST;
    } else {
        intake->left--;
    }
    return CM_LINK_MORE;
}

size_t cm_link_take(struct cm_link_intake *intake, const uint8_t *bytes, size_t count,
                    enum cm_link_taken *taken)
{
    size_t at = 0;
    *taken = CM_LINK_MORE;
    while (at < count && *taken == CM_LINK_MORE)
        *taken = take_byte(intake, bytes[at++]);
    at -= *taken == CM_LINK_FULL;
    intake->crc =
        cm_crc32(intake->crc, intake->bytes + intake->summed, intake->count - intake->summed);
    intake->summed = intake->count;
    return at;
}

/* The CRC of a message with its own CRC behind it is always the same (IEEE 802.3, clause 3.2.9). */
bool cm_link_open(const struct cm_link_intake *intake, struct cm_link_frame *frame,
                  size_t *payload_bytes)
{
    enum { RIGHT = 0x2144DF1C };
    const uint8_t *bytes = intake->bytes;
    if (intake->count < CM_LINK_FRAME || intake->crc != RIGHT)
        return false;
    *frame =
        (struct cm_link_frame){bytes[0], bytes[1], bytes[2], (uint16_t)(bytes[3] | bytes[4] << 8)};
    *payload_bytes = intake->count - CM_LINK_FRAME;
    return true;
}
