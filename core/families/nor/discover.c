/*
 * A row from what a chip tells of itself (SFDP), for a chip in no table, and for rows that are
 * silent about erases.
 *
 * JESD216 says size, page, erases, times and addresses. It says nothing of block protection: for a
 * chip in no table any of bits 2 to 5 of the status is taken to protect all of it.
 */
#include "nor.h"
#include <coldmint/sfdp.h>
#include <string.h>

enum {
    CMD_READ_SFDP = 0x5A,
    SAFE_HZ = 20000000, // JESD216 wants 50 MHz of every part for 5A; plain reads may be slower
    DEFAULT_ERASE_MAX_US = 4000000,
};

static const struct cm_nor_status PLAIN_STATUS = {.count = 1,
                                                  .enable = CMD_WRITE_ENABLE,
                                                  .read = {CMD_READ_STATUS},
                                                  .write = {CMD_WRITE_STATUS},
                                                  .kept = {0xFC}};
static const struct cm_nor_guard PLAIN_GUARD = {
    .bp = {0x04, 0x08, 0x10, 0x20}, .vague = true, .lock_mask = 0x80};
static const struct cm_nor_times PLAIN_TIMES = {
    .program_us = 800, .program_max_us = 5000, .status_max_us = 100000};
static const struct cm_nor_erases PLAIN_ERASES = {
    .units = {{4096, 60000, 800000, 0x20, 0x21}, {65536, 300000, 4000000, 0xD8, 0xDC}},
    .chip_opcode = 0xC7,
    .chip_ms_per_mib = 5000};

static enum cm_status read_sfdp(void *context, uint32_t address, uint8_t *bytes, uint32_t count)
{
    struct cm_session *session = context;
    cm_batch_begin(session, CM_STEP_IDENTIFY, "sfdp", address);
    cm_batch_repeat(session, address, count, 0, 1);
    struct cm_exchange *exchange = cm_batch_exchange(session, CMD_READ_SFDP, 4, CM_DATA_IN, bytes);
    exchange->address_bytes = 3;
    exchange->dummies = 1;
    return cm_batch_run(session);
}

static void name_after_id(struct cm_part *part)
{
    static const char DIGITS[] = "0123456789abcdef", HEAD[] = "sfdp-";
    uint8_t at = sizeof HEAD - 1;
    memcpy(part->name, HEAD, at);
    for (uint8_t i = 0; i < 3; i++) {
        part->name[at++] = DIGITS[part->id[i] >> 4];
        part->name[at++] = DIGITS[part->id[i] & 15];
    }
    part->name[at] = '\0';
}

void cm_nor_describe_plain(struct cm_nor_found *found, uint32_t bytes)
{
    memset(found, 0, sizeof *found);
    found->row.bytes = bytes;
    found->row.page_bytes = 256;
    found->row.address_bytes = 3;
    found->row.wide = bytes > WIDE_FROM ? CM_NOR_B7 : CM_NOR_NARROW;
    found->row.clock_hz = SAFE_HZ;
    found->row.erases = &found->erases;
    found->row.times = &found->times;
    found->row.status = &PLAIN_STATUS;
    found->row.guard = &PLAIN_GUARD;
    found->row.part.supply_min_mv = 1650;
    found->row.part.supply_max_mv = 3600;
    found->erases = PLAIN_ERASES;
    found->times = PLAIN_TIMES;
}

static void take_erases(const struct cm_sfdp *sfdp, struct cm_nor_found *found)
{
    memset(found->erases.units, 0, sizeof found->erases.units);
    for (uint8_t i = 0; i < CM_SFDP_ERASES; i++) {
        const struct cm_sfdp_erase *erase = &sfdp->erases[i];
        if (!erase->bytes)
            break;
        found->erases.units[i] = (struct cm_nor_erase){
            erase->bytes, erase->typical_us ? erase->typical_us : PLAIN_ERASES.units[i > 0].us,
            erase->max_us ? erase->max_us : DEFAULT_ERASE_MAX_US, erase->opcode, erase->opcode_4};
    }
    if (sfdp->chip_erase_us)
        found->erases.chip_ms_per_mib =
            sfdp->chip_erase_us / 1000 / (sfdp->bytes >> 20 ? sfdp->bytes >> 20 : 1);
}

/* How addresses beyond 16 MiB are reached: own opcodes where all that is needed has one, else a
 * mode. */
static bool take_addresses(const struct cm_sfdp *sfdp, struct cm_nor_part *row)
{
    row->wide = CM_NOR_NARROW;
    if (sfdp->bytes <= WIDE_FROM)
        return sfdp->addresses != CM_SFDP_ADDRESS_4;
    bool has_opcodes = sfdp->read_4 && sfdp->program_4;
    for (uint8_t i = 0; i < CM_SFDP_ERASES && sfdp->erases[i].bytes; i++)
        has_opcodes = has_opcodes && sfdp->erases[i].opcode_4;
    bool is_silent =
        !sfdp->enter_4 &&
        sfdp->addresses ==
            CM_SFDP_ADDRESS_3_OR_4; // revision 1.0 says that there is a way, and not which
    if (has_opcodes)
        row->wide = CM_NOR_OPCODES_4;
    else if (sfdp->enter_4 & CM_SFDP_B7)
        row->wide = CM_NOR_B7;
    else if (sfdp->enter_4 & CM_SFDP_WREN_B7 ||
             is_silent) // with the enable before it B7 is heard by all
        row->wide = CM_NOR_WREN_B7;
    return row->wide != CM_NOR_NARROW;
}

enum cm_status cm_nor_by_sfdp(struct cm_session *session)
{
    struct cm_nor_found *found = (struct cm_nor_found *)(void *)session->kit->found;
    const struct cm_nor_part *known = session->part ? cm_nor_part_of(session) : NULL;
    struct cm_sfdp sfdp;
    enum cm_sfdp_fault fault;
    enum cm_status status = cm_sfdp_parse(read_sfdp, session, &sfdp, &fault);
    struct cm_nor_part row = known ? *known : (struct cm_nor_part){.bytes = 0};
    if (!status) {
        cm_nor_describe_plain(found, sfdp.bytes);
        take_erases(&sfdp, found);
    }
    if (status || !take_addresses(&sfdp, &found->row) || (known && known->bytes != sfdp.bytes))
        return fault == CM_SFDP_UNREAD ? status
                                       : cm_fail(session, CM_UNKNOWN_CHIP, CM_STEP_IDENTIFY);
    found->row.page_bytes = sfdp.page_bytes;
    if (sfdp.program_us) {
        found->times.program_us = (uint16_t)sfdp.program_us;
        found->times.program_max_us =
            (uint16_t)(sfdp.program_max_us < UINT16_MAX ? sfdp.program_max_us : UINT16_MAX);
    }
    memcpy(found->row.part.id, session->id, CM_ID_BYTES);
    found->row.part.id_bytes = 3;
    name_after_id(&found->row.part);
    if (known) { // the row is right in all that it says
        row.erases = &found->erases;
        found->row = row;
    }
    session->part = &found->row.part;
    return CM_OK;
}
