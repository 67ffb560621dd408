/*
 * An instruction for every item, and a poll, on a simple port.
 *
 * Instructions are shifted in groups of a few, so that a port whose calls are dear (a system call each) is called less often. When data are only compared, the first instruction goes
 * alone: most pages that differ do so in their first byte, and no needless byte shall cross the wire.
 */
#include "compare.h"
#include <string.h>

enum { GROUP_BYTES = 48 }; // eight instructions of 6 bytes, twelve of 4

/* Every answer byte but the first and the last repeats the byte sent before it. */
static bool echo_holds(const uint8_t *out, const uint8_t *in, uint32_t bytes, struct cm_trouble *trouble)
{
    for (uint32_t i = 1; i + 1 < bytes; i++) {
        if (in[i] != out[i - 1]) {
            trouble->expected = out[i - 1];
            trouble->found = in[i];
            return false;
        }
    }
    return true;
}

static void fill_instruction(const struct cm_each *each, uint32_t item, uint8_t *code)
{
    memcpy(code, each->code, each->bytes);
    uint32_t unit = each->first + item;
    uint32_t address = each->toggle ? unit >> 1 : unit;
    if (each->toggle && (unit & 1))
        code[0] ^= each->toggle;
    address &= each->address_mask;
    for (uint8_t i = each->address_bytes; i-- > 0; address >>= 8)
        code[each->address_at + i] = (uint8_t)address;
    if (each->data == CM_EACH_OUT && each->out)
        code[each->data_at] = each->out[item];
}

static bool compares(const struct cm_each *each)
{
    return each->data >= CM_EACH_MATCH; // and CM_EACH_FITS, the last of them
}

static bool data_holds(const struct cm_each *each, uint32_t item, uint8_t found, struct cm_trouble *trouble)
{
    if (each->data == CM_EACH_IN)
        each->in[item] = found;
    if (!compares(each))
        return true;
    uint8_t want = each->out[item];
    bool holds = each->data == CM_EACH_MATCH ? found == want : (found & want) == want;
    if (!holds) {
        trouble->expected = want;
        trouble->found = found;
    }
    return holds;
}

static enum cm_status check_answer(const struct cm_each *each, uint32_t item, const uint8_t *out, const uint8_t *in,
                                   struct cm_trouble *trouble)
{
    trouble->address = each->first + item;
    trouble->placed = each->address_bytes != 0;
    if (each->echo && !echo_holds(out, in, each->bytes, trouble))
        return CM_CONTACT_LOST;
    return data_holds(each, item, in[each->data_at], trouble) ? CM_OK : CM_DIFFERS;
}

/* Group of instructions that go out in one call. */
static uint32_t group_size(const struct cm_each *each, uint32_t item)
{
    uint32_t most =
        each->pause_us || (compares(each) && item == 0) ? 1u : (uint32_t)GROUP_BYTES / each->bytes;
    uint32_t left = each->count - item;
    return left < most ? left : most;
}

enum cm_status cm_expand_each(struct cm_port *port, const struct cm_op *op, struct cm_trouble *trouble)
{
    const struct cm_each *each = &op->each;
    uint8_t out[GROUP_BYTES], in[GROUP_BYTES];
    for (uint32_t item = 0, group; item < each->count; item += group) {
        group = group_size(each, item);
        for (uint32_t i = 0; i < group; i++)
            fill_instruction(each, item + i, out + i * each->bytes);
        enum cm_status status = port->shift(port, out, in, group * each->bytes);
        for (uint32_t i = 0; i < group && !status; i++)
            status =
                check_answer(each, item + i, out + i * each->bytes, in + i * each->bytes, trouble);
        if (status)
            return status;
        if (each->pause_us)
            port->wait_us(port, each->pause_us);
    }
    return CM_OK;
}

enum cm_status cm_expand_poll(struct cm_port *port, const struct cm_op *op, struct cm_trouble *trouble)
{
    const struct cm_poll *poll = &op->poll;
    uint8_t answer[CM_CODE_MAX];
    struct cm_deadline deadline = cm_deadline_begin(port);
    for (bool late = false;;) {
        enum cm_status status = port->shift(port, poll->code, answer, poll->bytes);
        if (status)
            return status;
        if (poll->echo && !echo_holds(poll->code, answer, poll->bytes, trouble))
            return CM_CONTACT_LOST;
        if ((answer[poll->at] & poll->mask) == poll->want)
            return CM_OK;
        if (late) {
            trouble->expected = poll->want;
            trouble->found = answer[poll->at];
            return CM_TIMED_OUT;
        }
        late = cm_deadline_is_over(
            port, &deadline, poll->timeout_us); // then ask once more: we may have been held up
    }
}
