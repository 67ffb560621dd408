/*
 * Frames on the line.
 *
 * Consistent overhead byte stuffing (Cheshire and Baker, 1999): a frame is cut at its zeros; each
 * piece is sent behind a byte that tells its length plus one, and a piece of 254 bytes has no zero
 * behind it. So a zero on the line ends a frame, whatever came before: a receiver that has lost its
 * place finds it again at the next one.
 *
 *     frame   11 00 22 33           line   02 11 03 22 33 00
 */
#include "../capsule/crc32.h"
#include <coldmint/link.h>

enum { LONGEST = 254 };

/* Stuffing in progress: where the length of the piece at hand goes. */
struct stuffing {
    uint8_t *line;
    uint32_t length_at, at;
};

static void end_piece(struct stuffing *stuffing)
{
    stuffing->line[stuffing->length_at] = (uint8_t)(stuffing->at - stuffing->length_at);
    stuffing->length_at = stuffing->at++;
}

static void stuff(struct stuffing *stuffing, const uint8_t *bytes, uint32_t count)
{
    for (uint32_t i = 0; i < count; i++) {
        if (bytes[i])
            stuffing->line[stuffing->at++] = bytes[i];
        if (!bytes[i] || stuffing->at - stuffing->length_at > LONGEST)
            end_piece(stuffing);
    }
}

uint32_t cm_link_encode(const struct cm_link_frame *frame, const uint8_t *payload, uint32_t bytes,
                        uint8_t *line)
{
    const uint8_t head[CM_LINK_HEAD] = {frame->kind, frame->sequence, frame->acknowledged,
                                        (uint8_t)frame->session, (uint8_t)(frame->session >> 8)};
    struct stuffing stuffing = {.line = line, .at = 1};
    uint32_t crc = cm_crc32(cm_crc32(0, head, sizeof head), payload, bytes);
    const uint8_t tail[CM_LINK_CRC] = {(uint8_t)crc, (uint8_t)(crc >> 8), (uint8_t)(crc >> 16),
                                       (uint8_t)(crc >> 24)};
    stuff(&stuffing, head, sizeof head);
    stuff(&stuffing, payload, bytes);
    stuff(&stuffing, tail, sizeof tail);
    end_piece(&stuffing);
    line[stuffing.at - 1] = 0;
    return stuffing.at;
}

/* The frame in place of the line; 0: it is not one. */
static uint32_t unstuff(uint8_t *line, uint32_t bytes)
{
    uint32_t out = 0;
    for (uint32_t at = 0; at < bytes;) {
        uint32_t length = line[at++];
        if (!length || length - 1 > bytes - at)
            return 0;
        for (uint32_t i = 1; i < length; i++)
            line[out++] = line[at++];
        if (length <= LONGEST && at < bytes)
            line[out++] = 0;
    }
    return out;
}

bool cm_link_decode(uint8_t *line, uint32_t bytes, struct cm_link_frame *frame,
                    uint32_t *payload_bytes)
{
    uint32_t count = unstuff(line, bytes);
    if (count < CM_LINK_FRAME)
        return false;
    const uint8_t *tail = line + count - CM_LINK_CRC;
    uint32_t crc = (uint32_t)tail[0] | (uint32_t)tail[1] << 8 | (uint32_t)tail[2] << 16 |
                   (uint32_t)tail[3] << 24;
    if (cm_crc32(0, line, count - CM_LINK_CRC) != crc)
        return false;
    *frame = (struct cm_link_frame){line[0], line[1], line[2], (uint16_t)(line[3] | line[4] << 8)};
    *payload_bytes = count - CM_LINK_FRAME;
    return true;
}
