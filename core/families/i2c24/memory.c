/*
 * Serial EEPROMs on an I2C bus: the way in, the memory, and the family's table of functions.
 * The transfers are core/bus/i2c.c.
 *
 *     device address   1 0 1 0 | pins or block bits        small parts have address bits 8 to 10
 *                                                          there, large ones 16 and 17
 *
 * Every transfer is acknowledged byte by byte as far as it goes out, so a loose wire shows at once.
 * What comes in is not; the device is asked once more behind each reading. A reading that turns
 * into a write (a bit of the device address, a START that is not seen) keeps it busy, so it shows,
 * and what is beside an image need not be summed (cm_sum_rest).
 *
 * The write protect pin bars writing while it is HIGH: it is driven low for the session where it is
 * wired. A part that bars a write acknowledges nothing behind the address, or takes all and writes
 * nothing.
 */
#include "../../job/batch.h"
#include <coldmint/i2c24.h>
#include <coldmint/job.h>

enum { FIRST_HZ = 100000, DEVICES = 8, MARGIN = 2 };
static const char NAME[] = "eeprom";

static const struct cm_i2c24_part *part_of(const struct cm_session *session)
{
    return cm_i2c24_row(session->part);
}

/* What the driver remembers of the chip: its address on the bus. */
struct cm_i2c24_state {
    uint8_t device;
};

static struct cm_i2c24_state *state_of(const struct cm_session *session)
{
    return session->state;
}

/* Bits of a device address that are bits of the memory's address: its base has them low. */
static uint8_t block_bits(const struct cm_session *session)
{
    const struct cm_part *any = cm_likely_part(session);
    const struct cm_i2c24_part *part = any ? cm_i2c24_row(any) : NULL;
    if (!part)
        return 0;
    uint32_t blocks = (part->bytes - 1) >> 8 * part->address_bytes;
    return (uint8_t)(blocks << part->block_shift);
}

/* Adds a transfer at the chunk's address. */
static struct cm_exchange *add(struct cm_session *session, enum cm_data data, const uint8_t *bytes)
{
    const struct cm_i2c24_part *part = part_of(session);
    struct cm_exchange *exchange =
        cm_batch_exchange(session, state_of(session)->device, 1, data, bytes);
    exchange->address_bytes = part->address_bytes;
    exchange->head_count = (uint8_t)(1 + part->address_bytes);
    exchange->fold_turn = (uint8_t)(8 * part->address_bytes - part->block_shift);
    exchange->fold_mask = block_bits(session);
    return exchange;
}

/* Adds asking the device to acknowledge its address, for so long. It does not while it writes. */
static void add_ask(struct cm_session *session, uint32_t timeout_us)
{
    cm_batch_add(session, CM_OP_POLL)->poll.timeout_us = timeout_us;
    if (!session->part) {
        cm_batch_exchange(session, state_of(session)->device, 1, CM_DATA_NONE, NULL);
        return;
    }
    struct cm_exchange *exchange = add(session, CM_DATA_NONE, NULL);
    exchange->address_bytes = 0;
    exchange->head_count = 1;
}

static void add_lines(struct cm_session *session, uint32_t hz, enum cm_level level)
{
    if (session->cpu_hz && hz > session->cpu_hz)
        hz = session->cpu_hz;
    cm_batch_clock(session, hz);
    if (!(session->port->traits.lines & CM_LINE_BIT(CM_LINE_WP)))
        return;
    struct cm_op *op = cm_batch_add(session, CM_OP_LINE);
    op->line.line = CM_LINE_WP;
    op->line.level = (uint8_t)level;
}

/* Asks one device after the other, each for so long. CM_TIMED_OUT where none answers. */
static enum cm_status search(struct cm_session *session, uint8_t first, uint8_t last,
                             uint32_t timeout_us)
{
    enum cm_status status = CM_TIMED_OUT;
    for (uint8_t device = first; device <= last && status == CM_TIMED_OUT; device++) {
        if (device != first && (device & block_bits(session)))
            continue;
        state_of(session)->device = device;
        cm_batch_begin(session, CM_STEP_ENTER, NULL, 0);
        add_ask(session, timeout_us);
        session->tries++;
        status = cm_batch_run(session);
    }
    return status;
}

/*
 * The first device that answers, or the one that was named, or found before. A write may be under
 * way: then none does for a while. Where it is not the first that was asked, those before it are
 * asked once more, for as long as a write takes: another chip, or another block of this one, must
 * not be taken for it because of one bad moment.
 */
static enum cm_status enter(struct cm_session *session)
{
    enum { BUSY_US = 20000 }; // twice the longest write
    cm_fail(session, CM_OK, CM_STEP_ENTER);
    if (session->device & block_bits(session)) // a block of such a part is no device of its own
        return cm_fail(session, CM_BAD_ARGUMENT, CM_STEP_ENTER);
    session->tries = 0;
    session->entered = true; // lines are driven from here on
    cm_batch_begin(session, CM_STEP_ENTER, NULL, 0);
    add_lines(session, FIRST_HZ, CM_LOW);
    enum cm_status status = cm_batch_run(session);
    session->clock_hz = session->batch.ops[0].clock.real_hz;
    uint8_t known = session->part ? state_of(session)->device : session->device;
    uint8_t first = known ? known : CM_I2C24_DEVICE,
            last = known ? known : CM_I2C24_DEVICE + DEVICES - 1;
    if (!status)
        status = search(session, first, last, 0);
    if (status == CM_TIMED_OUT)
        status = search(session, first, last, BUSY_US);
    uint8_t found = state_of(session)->device;
    if (!status && found > first) {
        status = search(session, first, (uint8_t)(found - 1), BUSY_US);
        if (status == CM_TIMED_OUT) {
            state_of(session)->device = found;
            status = cm_fail(session, CM_OK, CM_STEP_ENTER);
        }
    }
    if (!status)
        return CM_OK;
    session->family->leave(session);
    session->failure.step = CM_STEP_ENTER;
    return cm_refine(session, status == CM_TIMED_OUT ? CM_NO_CHIP : status);
}

static enum cm_status settle(struct cm_session *session)
{
    uint8_t byte;
    cm_batch_begin(session, CM_STEP_IDENTIFY, NAME, 0);
    add_lines(session, part_of(session)->clock_hz, CM_LOW);
    add(session, CM_DATA_IN, &byte)->count = 1; // at that clock, once
    enum cm_status status = cm_batch_run(session);
    session->clock_hz = session->batch.ops[0].clock.real_hz;
    return status == CM_CONTACT_LOST ? cm_refine(session, CM_NO_CHIP) : status;
}

static void leave(struct cm_session *session)
{
    static const uint8_t LINES[] = {CM_LINE_SDA, CM_LINE_SCL, CM_LINE_WP};
    if (!session->entered)
        return;
    session->entered = false;
    cm_batch_release(session, LINES, sizeof LINES);
}

static bool region(const struct cm_part *any, uint8_t index, struct cm_region *out)
{
    const struct cm_i2c24_part *part = cm_i2c24_row(any);
    if (index != CM_REGION_MAIN)
        return false;
    *out = (struct cm_region){
        NAME, 0, part->bytes, part->page_bytes, 0xFF, CM_REGION_WRITABLE | CM_REGION_REWRITES};
    return true;
}

/* Where a transfer must end: small parts do not count from one block into the next. */
static uint32_t block_of(const struct cm_i2c24_part *part)
{
    return part->address_bytes == 1 ? 0x100 : 0x10000;
}

static enum cm_status write_pages(struct cm_session *session, uint32_t address,
                                  const uint8_t *bytes, uint32_t count)
{
    enum { OPS = 4, HEAD = 2 };
    const struct cm_i2c24_part *part = part_of(session);
    cm_batch_begin(session, CM_STEP_PROGRAM, NAME, address);
    cm_batch_repeat(session, address, count, cm_batch_chunk(session, part->page_bytes, HEAD), OPS);
    add(session, CM_DATA_OUT, bytes);
    add_ask(session, MARGIN * (uint32_t)part->write_us);
    cm_batch_verify(session);
    add(session, CM_DATA_MATCH, bytes);
    return cm_batch_run(session);
}

/* Without a record: does the device acknowledge, at once? */
static bool acknowledges(struct cm_session *session)
{
    cm_batch_begin(session, CM_STEP_NONE, NULL, 0);
    add_ask(session, 0);
    return cm_batch_try(session) == CM_OK;
}

/* Without a record: is the device back at once behind a byte that was written? Then it has not
 * written it. */
static bool writes_nothing(struct cm_session *session, uint32_t address, const uint8_t *byte)
{
    cm_batch_begin(session, CM_STEP_NONE, NULL, 0);
    cm_batch_repeat(session, address, 1, 0, 3);
    add(session, CM_DATA_OUT, byte);
    add_ask(session, 0);
    return cm_batch_try(session) == CM_OK;
}

/*
 * A part that bars writing does not acknowledge data, but is there; or it takes all, and does not
 * write. That a slip of the wires does too: so it means that only where it happens again.
 */
static enum cm_status program(struct cm_session *session, uint32_t address, const uint8_t *bytes,
                              uint32_t count)
{
    enum { TRIES = 3 };
    enum cm_status status = CM_CONTACT_LOST;
    bool is_barred = true;
    for (uint8_t i = 0;
         i < TRIES && is_barred && (status == CM_CONTACT_LOST || status == CM_WRITE_FAILED); i++) {
        status = write_pages(session, address, bytes, count);
        struct cm_failure record = session->failure;
        if (status == CM_CONTACT_LOST)
            is_barred = acknowledges(session);
        else if (status == CM_WRITE_FAILED && record.address - address < count)
            is_barred = writes_nothing(session, record.address, bytes + (record.address - address));
        session->failure = record;
    }
    if (status == CM_TIMED_OUT)
        return cm_refine(session, CM_CONTACT_LOST); // it does not acknowledge any more
    bool failed = status == CM_CONTACT_LOST || status == CM_WRITE_FAILED;
    return failed && is_barred ? cm_refine(session, CM_PROTECTED) : status;
}

static enum cm_status read(struct cm_session *session, enum cm_access_kind kind, uint32_t address,
                           uint8_t *bytes, uint32_t count, uint32_t piece, uint8_t sample)
{
    cm_batch_begin(session, kind == CM_ACCESS_READ ? CM_STEP_READ : CM_STEP_COMPARE, NAME, address);
    cm_batch_repeat(session, address, count, piece, 1);
    add(session, (enum cm_data)kind, bytes)->count = sample;
    add_ask(session, 0);
    enum cm_status status = cm_batch_run(session);
    return status == CM_TIMED_OUT ? cm_refine(session, CM_CONTACT_LOST) : status;
}

static enum cm_status access(struct cm_session *session, const struct cm_access *access)
{
    if (access->kind == CM_ACCESS_PROGRAM)
        return program(session, access->address, access->out, access->count);
    return read(session, (enum cm_access_kind)access->kind, access->address, access->in,
                access->count, block_of(part_of(session)), 0);
}

static enum cm_status sample(struct cm_session *session, uint8_t region, uint32_t address,
                             uint32_t count, uint32_t piece, uint8_t *bytes)
{
    (void)region;
    return read(session, CM_ACCESS_READ, address, bytes, count, piece, 1);
}

static uint32_t cost_us(struct cm_session *session, uint8_t index, enum cm_cost cost,
                        uint32_t bytes)
{
    enum {
        BITS = 9,
        HEAD = 7
    }; // device and address to write; device, address, device to read back
    const struct cm_i2c24_part *part = part_of(session);
    uint32_t pages = (bytes + part->page_bytes - 1) / part->page_bytes;
    (void)index;
    if (cost == CM_COST_READ)
        return cm_bits_us(session, BITS * bytes) + cm_whole_us(session, cm_compare_calls(bytes));
    return cm_whole_us(session, 4 * pages) + pages * part->write_us +
           cm_bits_us(session, BITS * (HEAD * pages + 2 * bytes));
}

static const struct cm_blocks_rules BLOCKS = {.sample = sample,
                                              .match_dead = cm_match_dead,
                                              .before_change = cm_try_first,
                                              .obeys_reads = true};

const struct cm_family cm_i2c24 = {
    .name = "i2c24",
    .bus = &cm_bus_i2c,
    .lines = CM_LINE_BIT(CM_LINE_SDA) | CM_LINE_BIT(CM_LINE_SCL),
    .state_bytes = sizeof(struct cm_i2c24_state),
    .enter = enter,
    .identify = cm_identify_by_name,
    .settle = settle,
    .leave = leave,
    .region = region,
    .access = access,
    .cost_us = cost_us,
    .put = cm_put_by_blocks,
    .blocks = &BLOCKS,
};
