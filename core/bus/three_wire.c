/*
 * A three-wire memory on a simple port with SPI.
 *
 *     SELECT __/~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~~\__     high is selected
 *     MOSI   0 0 0 0 0 0 1 | op | address     0 0 0 0 ...
 *     MISO                              0 | D15 ... D0            a 0 comes before the data
 *
 * Zeros before the start bit count for nothing, so every instruction is filled up in front until its data begin with a byte: an SPI port will do. The part puts a bit out behind
 * the rising edge of SCK, so it is taken with the next one; the leading 0 is what a loose wire, pulled up, does not show.
 *
 * A write begins when SELECT falls. Selected again, MISO is low until it is done.
 */
#include "compare.h"
#include <string.h>

enum {
    START = 4,
    OP_SPECIAL = 0,
    OP_WRITE = 1,
    OP_READ = 2,
    SPECIAL_DISABLE = 0,
    SPECIAL_ENABLE = 3,
    FRAME_BYTES = 5,
    T_CS_LOW_US = 1
};

static enum cm_status select(struct cm_port *port)
{
    return port->line(port, CM_LINE_SELECT, CM_HIGH);
}

static enum cm_status deselect(struct cm_port *port, enum cm_status status)
{
    enum cm_status low = port->line(port, CM_LINE_SELECT, CM_LOW);
    port->wait_us(port, T_CS_LOW_US);
    return status ? status : low;
}

/* Start bit, opcode and address, and `behind` bits more; as many whole bytes as that fills. */
static enum cm_status send(struct cm_port *port, const struct cm_three_wire *three, uint8_t opcode, uint32_t address,
                           uint32_t behind, uint8_t behind_bits, uint8_t *last_in)
{
    uint8_t out[FRAME_BYTES], in[FRAME_BYTES], bits = (uint8_t)(3 + three->address_bits + behind_bits),
                                               count = (uint8_t)((bits + 7) / 8);
    uint64_t frame = ((uint64_t)(START | opcode) << three->address_bits | address) << behind_bits | behind;
    for (uint8_t i = 0; i < count; i++)
        out[i] = (uint8_t)(frame >> 8 * (count - 1 - i));
    enum cm_status status = port->shift(port, out, in, count);
    *last_in = in[count - 1];
    return status;
}

static enum cm_status special(struct cm_port *port, const struct cm_three_wire *three, uint32_t which)
{
    uint8_t unused;
    enum cm_status status = select(port);
    if (!status)
        status = send(port, three, OP_SPECIAL, which << (three->address_bits - 2), 0, 0, &unused);
    return deselect(port, status);
}

static enum cm_status read_word(struct cm_port *port, const struct cm_three_wire *three, uint32_t address, uint8_t *word,
                                struct cm_trouble *trouble)
{
    uint8_t came[2], lead = 0;
    enum cm_status status = select(port);
    if (!status)
        status = send(port, three, OP_READ, address / three->word_bytes, 0, 1, &lead);
    if (!status)
        status = port->shift(port, NULL, came, three->word_bytes);
    status = deselect(port, status);
    for (uint8_t i = 0; i < three->word_bytes; i++)
        word[i] = came[three->word_bytes - 1 - i];
    trouble->address = address;
    trouble->found = lead;
    return status ? status : lead & 1 ? CM_CONTACT_LOST : CM_OK;
}

static enum cm_status wait_ready(struct cm_port *port, const struct cm_three_wire *three)
{
    uint8_t answer = 0;
    struct cm_deadline deadline = cm_deadline_begin(port);
    enum cm_status status = select(port);
    for (bool late = false; !status;) {
        status = port->shift(port, NULL, &answer, 1);
        if (status || answer & 1)
            break;
        if (late)
            status = CM_TIMED_OUT;
        late = cm_deadline_is_over(port, &deadline, three->timeout_us);
    }
    return deselect(port, status);
}

static enum cm_status write_word(struct cm_port *port, const struct cm_three_wire *three, uint32_t address, const uint8_t *word,
                                 struct cm_trouble *trouble)
{
    uint8_t unused, found[2];
    uint32_t data = three->word_bytes == 2 ? word[0] | (uint32_t)word[1] << 8 : word[0];
    enum cm_status status = select(port);
    if (!status)
        status = send(port, three, OP_WRITE, address / three->word_bytes, data, (uint8_t)(8 * three->word_bytes), &unused);
    status = deselect(port, status);
    if (!status)
        status = wait_ready(port, three);
    if (!status)
        status = read_word(port, three, address, found, trouble);
    return status ? status : cm_judge(CM_EACH_MATCH, address, word, found, three->word_bytes, trouble);
}

static enum cm_status run_word(struct cm_port *port, const struct cm_three_wire *three, uint32_t at, struct cm_trouble *trouble)
{
    uint8_t found[2];
    trouble->address = three->first + at;
    trouble->placed = true;
    if (three->data == CM_EACH_OUT)
        return write_word(port, three, three->first + at, three->out + at, trouble);
    enum cm_status status = read_word(port, three, three->first + at, found, trouble);
    if (status || three->data != CM_EACH_IN)
        return status ? status : cm_judge(three->data, three->first + at, three->out + at, found, three->word_bytes, trouble);
    memcpy(three->in + at, found, three->word_bytes);
    return CM_OK;
}

enum cm_status cm_expand_three_wire(struct cm_port *port, const struct cm_op *op, struct cm_trouble *trouble)
{
    const struct cm_three_wire *three = &op->three;
    bool writes = three->data == CM_EACH_OUT;
    if (!three->count)
        return writes ? special(port, three, SPECIAL_DISABLE) : wait_ready(port, three);
    enum cm_status status = writes ? special(port, three, SPECIAL_ENABLE) : CM_OK;
    for (uint32_t at = 0; !status && at < three->count; at += three->word_bytes)
        status = run_word(port, three, at, trouble);
    enum cm_status disabled = writes ? special(port, three, SPECIAL_DISABLE) : CM_OK;
    return status ? status : disabled;
}
