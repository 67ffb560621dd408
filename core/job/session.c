/*
 * A session: power, the way in, the id against the tables, bounds for every access, and the way
 * out.
 */
#include "batch.h"
#include <coldmint/job.h>
#include <string.h>

enum {
    NO_POWER_BELOW_MV = 1536,
    ANY_MV = 16384
}; // no part of any table runs on less; what is measured then leaks in through signal lines

/* The state of a family at the start, aligned for any member; the rest for everybody. */
static bool share_workspace(struct cm_session *session, uint8_t *workspace, uint32_t bytes)
{
    uint32_t skipped = (uint32_t)(-(uintptr_t)workspace % sizeof(uint32_t)), taken = skipped;
    for (uint8_t k = 0; k < session->kit_count; k++) {
        uint32_t with_state = skipped + session->kits[k].family->state_bytes;
        taken = with_state > taken ? with_state : taken;
    }
    session->state = workspace + skipped;
    session->workspace = workspace + taken;
    session->workspace_bytes = bytes - taken;
    return bytes > taken;
}

enum cm_status cm_open(struct cm_session *session, const struct cm_port *port,
                       const struct cm_kit *kits, uint8_t kit_count, void *workspace,
                       uint32_t workspace_bytes)
{
    memset(session, 0, sizeof *session);
    session->port = port;
    session->kits = kits;
    session->kit_count = kit_count;
    if (kit_count == 0)
        return cm_fail(session, CM_BAD_ARGUMENT, CM_STEP_OPEN);
    session->family = kits->family; // until one is found
    if (!share_workspace(session, workspace, workspace_bytes)) {
        session->kit_count = 0; // so that nothing is written to it
        return cm_fail(session, CM_NO_ROOM, CM_STEP_OPEN);
    }
    bool has_all =
        port->lines && port->lines->now_us && port->state; // the rest goes with each family
    return has_all ? CM_OK : cm_fail(session, CM_PORT_LACKS, CM_STEP_OPEN);
}

const struct cm_part *cm_part_by_name(const struct cm_kit *kits, uint8_t kit_count,
                                      const char *name)
{
    for (uint8_t k = 0; k < kit_count; k++) {
        for (uint16_t i = 0; i < kits[k].part_count; i++) {
            if (cm_is_same_text(kits[k].parts[i]->name, name))
                return kits[k].parts[i];
        }
    }
    return NULL;
}

const struct cm_part *cm_candidate(const struct cm_session *session, uint16_t number)
{
    const struct cm_kit *kit = session->kit;
    for (uint16_t i = 0; kit && i < kit->part_count; i++) {
        const struct cm_part *part = kit->parts[i];
        if (part->id_bytes && memcmp(part->id, session->id, part->id_bytes) == 0 && number-- == 0)
            return part;
    }
    return NULL;
}

enum cm_status cm_sense(struct cm_session *session, enum cm_line line, uint16_t *value)
{
    *value = 0;
    if (line >= CM_LINE_COUNT || !(session->port->traits.senses & CM_LINE_BIT(line)))
        return cm_fail(session, CM_PORT_LACKS, CM_STEP_OPEN);
    cm_batch_begin(session, CM_STEP_OPEN, NULL, 0);
    struct cm_op *op = cm_batch_add(session, CM_OP_SENSE);
    op->sense.line = (uint8_t)line;
    enum cm_status status = cm_batch_run(session);
    *value = op->sense.value; // 0 where it failed
    return status;
}

/* Fails where the supply is measured, and outside a range. */
static enum cm_status check_range(struct cm_session *session, uint16_t least, uint16_t most,
                                  enum cm_status failure)
{
    uint16_t mv;
    enum cm_status status = cm_sense(session, CM_LINE_SUPPLY, &mv);
    if (status == CM_PORT_LACKS)
        return cm_fail(session, CM_OK, CM_STEP_NONE); // nothing measured, nothing known
    if (status || (mv >= least && mv <= most))
        return status;
    cm_fail(session, failure, CM_STEP_OPEN);
    session->failure.measured_mv = mv;
    return failure;
}

enum cm_status cm_check_supply(struct cm_session *session)
{
    if (!session->part)
        return cm_fail(session, CM_BAD_ARGUMENT, CM_STEP_OPEN);
    return check_range(session, session->part->supply_min_mv, session->part->supply_max_mv,
                       CM_SUPPLY_OUTSIDE);
}

static bool has_lines(const struct cm_session *session, const struct cm_family *family)
{
    return !(family->lines & ~session->port->traits.lines);
}

enum cm_status cm_feed(struct cm_session *session, uint16_t mv)
{
    enum { IDLE_HZ = 65536, SETTLE_US = 5000 };
    for (uint8_t k = 0; !session->kit && k < session->kit_count; k++) {
        session->family = session->kits[k].family; // of them, one whose bus the port has
        if (has_lines(session, session->family))
            break;
    }
    session->supply_mv = mv;
    session->entered = true; // lines are driven from here on
    cm_batch_begin(session, CM_STEP_OPEN, NULL, 0);
    cm_batch_clock(session, IDLE_HZ);
    if (session->port->traits.lines & CM_LINE_BIT(CM_LINE_RESET))
        cm_batch_add(session, CM_OP_LINE); // CM_LINE_RESET to CM_LOW, which are both 0
    cm_batch_add(session, CM_OP_SUPPLY)->supply.mv = mv;
    cm_batch_wait(session, SETTLE_US);
    return cm_batch_run(session);
}

uint32_t cm_now_us(const struct cm_session *session)
{
    return session->port->lines->now_us(session->port);
}

enum cm_status cm_find_chip(struct cm_session *session)
{
    enum { TRIES = 3 };
    enum cm_status status = CM_CONTACT_LOST;
    for (uint8_t i = 0; i < TRIES && status == CM_CONTACT_LOST; i++) {
        status = session->family->enter(session);
        if (!status)
            status = session->family->identify(session);
    }
    return status;
}

/* The kits whose lines the port has, one after the other; where a part is asserted, only the kit
 * that has it. */
static enum cm_status find_family(struct cm_session *session)
{
    const struct cm_part *asserted = session->asserted;
    enum cm_status status = CM_NO_CHIP;
    for (uint8_t k = 0; k < session->kit_count && status == CM_NO_CHIP; k++) {
        const struct cm_kit *kit = &session->kits[k];
        bool is_other = asserted && cm_part_by_name(kit, 1, asserted->name) != asserted;
        if (is_other || !has_lines(session, kit->family))
            continue;
        session->kit = kit;
        session->family = kit->family;
        memset(session->state, 0, kit->family->state_bytes);
        status = cm_find_chip(session);
    }
    return session->kit ? status : cm_fail(session, CM_PORT_LACKS, CM_STEP_IDENTIFY);
}

enum cm_status cm_identify(struct cm_session *session, const char *asserted)
{
    cm_fail(session, CM_OK, CM_STEP_NONE);
    session->part = NULL;
    session->kit = NULL;
    session->doubts = 0;
    session->asserted =
        asserted ? cm_part_by_name(session->kits, session->kit_count, asserted) : NULL;
    const struct cm_part *wanted = session->asserted;
    if (asserted && !wanted)
        return cm_fail(session, CM_BAD_ARGUMENT, CM_STEP_IDENTIFY);
    enum cm_status status = check_range(session, NO_POWER_BELOW_MV, ANY_MV, CM_NO_POWER);
    if (!status)
        status = find_family(session);
    if (status)
        return status;
    if (wanted && memcmp(wanted->id, session->id, wanted->id_bytes) != 0)
        return cm_fail(session, CM_WRONG_CHIP, CM_STEP_IDENTIFY);
    if (!session->part) // else the chip has told of itself
        session->part = wanted ? wanted : cm_candidate(session, 0);
    if (!session->part)
        return cm_fail(session, CM_UNKNOWN_CHIP, CM_STEP_IDENTIFY);
    return session->family->settle ? session->family->settle(session) : CM_OK;
}

enum cm_status cm_require_part(struct cm_session *session, enum cm_step step)
{
    cm_fail(session, CM_OK, CM_STEP_NONE);
    if (!session->part)
        return cm_fail(session, CM_BAD_ARGUMENT, step);
    return session->entered ? CM_OK : cm_recover(session);
}

enum cm_status cm_require(struct cm_session *session)
{
    return cm_require_part(session, CM_STEP_OPEN);
}

enum cm_status cm_recover(struct cm_session *session)
{
    if (!session->part)
        return cm_fail(session, CM_BAD_ARGUMENT, CM_STEP_ENTER);
    enum cm_status status = cm_find_chip(session);
    if (!status)
        session->recoveries++;
    return status;
}

void cm_close(struct cm_session *session)
{
    if (!session->family)
        return; // it was never opened
    session->family->leave(session);
    if (session->supply_mv) {
        cm_batch_begin(session, CM_STEP_LEAVE, NULL, 0);
        cm_batch_add(session, CM_OP_SUPPLY); // 0 mV
        cm_ignore(cm_batch_try(session));
    }
    session->supply_mv = 0;
    session->part = NULL;
    session->family = session->kits->family;
}

bool cm_region(const struct cm_session *session, uint8_t index, struct cm_region *region)
{
    return session->part && session->family->region(session->part, index, region);
}

bool cm_erase_unit(const struct cm_session *session, uint8_t region, uint8_t index,
                   struct cm_erase_unit *unit)
{
    const struct cm_family *family = session->family;
    return session->part && family->erase_unit &&
           family->erase_unit(session->part, region, index, unit);
}

int cm_region_by_name(const struct cm_session *session, const char *name)
{
    struct cm_region region;
    for (uint8_t i = 0; cm_region(session, i, &region); i++) {
        if (region.bytes && cm_is_same_text(region.name, name))
            return i;
    }
    return -1;
}

enum cm_status cm_checked(struct cm_session *session, const struct cm_access *access)
{
    struct cm_access part = *access;
    struct cm_region region;
    bool programs = access->kind == CM_ACCESS_PROGRAM;
    enum cm_step step = programs                         ? CM_STEP_PROGRAM
                        : access->kind == CM_ACCESS_READ ? CM_STEP_READ
                                                         : CM_STEP_COMPARE;
    uint32_t left = access->count;
    enum cm_status status = cm_require_part(session, step);
    if (status)
        return status;
    if (!cm_region(session, access->region, &region) || left > region.bytes ||
        access->address > region.bytes - left ||
        (programs && !(region.traits & CM_REGION_WRITABLE)))
        return cm_fail(session, CM_BAD_ARGUMENT, step);
    for (; left && !status; left -= part.count) {
        uint32_t room = region.page_bytes - (part.address & (region.page_bytes - 1));
        part.count = programs && left > room ? room : left;
        status = session->family->access(session, &part);
        part.address += part.count;
        part.out += part.count;
    }
    return status;
}

enum cm_status cm_read(struct cm_session *session, uint8_t index, uint32_t address, uint8_t *bytes,
                       uint32_t count)
{
    return cm_checked(session,
                      &(struct cm_access){CM_ACCESS_READ, index, address, {.in = bytes}, count});
}

enum cm_status cm_match(struct cm_session *session, uint8_t index, uint32_t address,
                        const uint8_t *bytes, uint32_t count)
{
    return cm_checked(session,
                      &(struct cm_access){CM_ACCESS_MATCH, index, address, {bytes}, count});
}

enum cm_status cm_program(struct cm_session *session, uint8_t index, uint32_t address,
                          const uint8_t *bytes, uint32_t count)
{
    return cm_checked(session,
                      &(struct cm_access){CM_ACCESS_PROGRAM, index, address, {bytes}, count});
}

enum cm_status cm_erase(struct cm_session *session)
{
    struct cm_region region;
    struct cm_erase_unit unit;
    enum cm_status status = cm_require_part(session, CM_STEP_ERASE);
    if (status)
        return status;
    cm_region(session, CM_REGION_MAIN, &region);
    for (uint8_t i = 0; cm_erase_unit(session, CM_REGION_MAIN, i, &unit); i++) {
        if (unit.bytes == region.bytes)
            return session->family->erase(session, CM_REGION_MAIN, i, 0);
    }
    return cm_fail(session, CM_BAD_ARGUMENT, CM_STEP_ERASE);
}
