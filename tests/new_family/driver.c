/*
 * The driver of the made-up family, as a driver in core/families/ would be. The frames are in
 * model.c.
 *
 * Each reading has a sum behind it, and each instruction an answer: so contact shows at once, and
 * what arrives shifted, cut or changed does nothing. A change names the key that the chip gave with
 * its id.
 */
#include "../../core/bus/run.h"
#include "../../core/job/batch.h"
#include "../../core/job/no_words.h"
#include "chime.h"
#include <string.h>

/* --- the bus ----------------------------------------------------------------------------- */

enum { HEAD = 5, ACCEPTED = 0xC3, CHIME_BUS = 0x43 };

static uint8_t sum_of(const uint8_t *bytes, uint32_t count)
{
    uint8_t sum = 0x5A;
    while (count)
        sum = (uint8_t)(sum + bytes[--count]);
    return sum;
}

static enum cm_status ask_answer(struct cm_run *run)
{
    uint8_t answer = 0;
    enum cm_status status = run->port->spi->shift(run->port, NULL, &answer, 1);
    run->expected = ACCEPTED;
    run->found = answer;
    return status || answer == ACCEPTED ? status : CM_BAD_ANSWER;
}

static enum cm_status move_head(struct cm_run *run, uint8_t count)
{
    uint8_t head[CM_HEAD_BYTES + 1];
    cm_run_head(run, head);
    head[HEAD - 1] = count;
    head[HEAD] = sum_of(head, HEAD);
    enum cm_status status = run->port->spi->shift(run->port, head, NULL, HEAD + 1);
    return status ? status : ask_answer(run);
}

static enum cm_status move_out(struct cm_run *run)
{
    uint8_t sum = sum_of(run->bytes, run->count);
    enum cm_status status = run->port->spi->shift(run->port, run->bytes, NULL, run->count);
    if (!status)
        status = run->port->spi->shift(run->port, &sum, NULL, 1);
    return status ? status : ask_answer(run);
}

static enum cm_status move_in(struct cm_run *run)
{
    uint8_t bytes[CHIME_PAGE], sum;
    enum cm_status status = run->port->spi->shift(run->port, NULL, bytes, run->count);
    if (!status)
        status = run->port->spi->shift(run->port, NULL, &sum, 1);
    if (!status && sum != sum_of(bytes, run->count))
        status = CM_BAD_ANSWER;
    if (status)
        return status;
    if (run->exchange->mask)
        return cm_run_check(run, bytes[0]);
    if (cm_is_compared(run->exchange))
        return cm_run_judge(run, 0, bytes, run->count);
    memcpy(run->bytes, bytes, run->count);
    return CM_OK;
}

static enum cm_status chime_exchange(struct cm_run *run)
{
    const struct cm_port *port = run->port;
    uint8_t data = cm_data_of(run->exchange);
    uint8_t count = data ? (uint8_t)run->count : run->exchange->mask != 0;
    if (count > CHIME_PAGE)
        return CM_BAD_ARGUMENT;
    run->count = count;
    enum cm_status status = port->lines->line(port, CM_LINE_SELECT, CM_LOW);
    if (!status)
        status = move_head(run, count);
    if (!status && count)
        status = data == CM_DATA_OUT ? move_out(run) : move_in(run);
    enum cm_status high = port->lines->line(port, CM_LINE_SELECT, CM_HIGH);
    return status ? status : high;
}

static const struct cm_bus BUS = {
    .id = CHIME_BUS, .clock = cm_spi_clock, .exchange = chime_exchange};

/* --- instructions ------------------------------------------------------------------------ */

enum {
    HELLO = 0x01,
    STATUS = 0x02,
    READ = 0x10,
    PROGRAM = 0x20,
    ERASE = 0x30,
    MASS_ERASE = 0x3F,
    BUSY = 0x01,
    ID_BYTES = 3,
    BUS_HZ = 8000000,
    T_PROGRAM_US = 60,
    T_ERASE_US = 4000,
    T_MASS_ERASE_US = 16000,
    MARGIN = 4
};

static const char *const NAMES[CHIME_REGIONS] = {"flash", "", "options", "level"};

struct chime_state {
    uint8_t key; /* that the chip gave with its id */
};

static struct chime_state *state_of(const struct cm_session *session)
{
    return session->state;
}

static struct cm_exchange *add(struct cm_session *session, uint8_t opcode, enum cm_data data,
                               const uint8_t *bytes)
{
    struct cm_exchange *exchange = cm_batch_exchange(session, opcode, HEAD - 1, data, bytes);
    exchange->head[1] = state_of(session)->key;
    exchange->address_bytes = 2;
    return exchange;
}

static void add_ready(struct cm_session *session, uint32_t typical_us)
{
    struct cm_poll *poll = &cm_batch_add(session, CM_OP_POLL)->poll;
    poll->early_us = typical_us;
    poll->interval_us = typical_us / 16;
    poll->timeout_us = MARGIN * typical_us;
    struct cm_exchange *exchange = cm_batch_exchange(session, STATUS, HEAD - 1, CM_DATA_NONE, NULL);
    exchange->mask = BUSY;
}

/* An instruction that arrives changed does nothing: so lost contact leaves no doubt about what the
 * chip holds. */
static enum cm_status run_batch(struct cm_session *session)
{
    uint8_t doubts = session->doubts;
    enum cm_status status = cm_batch_run(session);
    if (status == CM_CONTACT_LOST)
        session->doubts = doubts;
    return status;
}

/* --- the way in -------------------------------------------------------------------------- */

static enum cm_status enter(struct cm_session *session)
{
    cm_fail(session, CM_OK, CM_STEP_ENTER);
    session->entered = true;
    session->tries = 1;
    cm_batch_begin(session, CM_STEP_ENTER, NULL, 0);
    cm_batch_clock(session, BUS_HZ);
    cm_batch_memory_lines(session, CM_HIGH);
    if (session->part) // a change may be under way
        cm_batch_wait(session, MARGIN * T_MASS_ERASE_US);
    enum cm_status status = run_batch(session);
    session->clock_hz = session->batch.ops[0].clock.real_hz;
    return status;
}

static enum cm_status identify(struct cm_session *session)
{
    uint8_t hello[ID_BYTES + 1];
    cm_batch_begin(session, CM_STEP_IDENTIFY, "id", 0);
    session->batch.unanswered = session->part ? CM_CONTACT_LOST : CM_NO_CHIP;
    for (uint8_t i = 0; i < 2; i++) {
        struct cm_exchange *exchange =
            cm_batch_exchange(session, HELLO, HEAD - 1, i ? CM_DATA_MATCH : CM_DATA_IN, hello);
        exchange->count = sizeof hello;
    }
    enum cm_status status = run_batch(session);
    if (status == CM_DIFFERS || (!status && session->part && memcmp(session->id, hello, ID_BYTES)))
        return cm_fail(session, CM_CONTACT_LOST, CM_STEP_IDENTIFY);
    if (status)
        return status;
    memcpy(session->id, hello, ID_BYTES);
    state_of(session)->key = hello[ID_BYTES];
    return CM_OK;
}

static void leave(struct cm_session *session)
{
    static const uint8_t LINES[] = {CM_LINE_SELECT};
    if (session->entered)
        cm_batch_release(session, LINES, sizeof LINES);
    session->entered = false;
}

/* --- regions ----------------------------------------------------------------------------- */

static bool region(const struct cm_part *part, uint8_t index, struct cm_region *out)
{
    static const struct cm_region REGIONS[CHIME_REGIONS] = {
        {"flash", 0x08000000, CHIME_FLASH_BYTES, CHIME_PAGE, 0xFF, CM_REGION_WRITABLE},
        {"", 0, 0, 1, 0xFF, 0},
        {"options", 0x1FFFF800, CHIME_OPTION_BYTES, CHIME_OPTION_BYTES, 0xFF,
         CM_REGION_WRITABLE | CM_REGION_SETTINGS},
        {"level", 0x1FFFF900, 1, 1, 0xFF, CM_REGION_WRITABLE | CM_REGION_SETTINGS}};
    (void)part;
    if (index < CHIME_REGIONS)
        *out = REGIONS[index];
    return index < CHIME_REGIONS;
}

enum { CLEARED = CM_REGION_BIT(CHIME_FLASH) | CM_REGION_BIT(CHIME_LEVEL) };

static bool erase_unit(const struct cm_part *part, uint8_t index, uint8_t unit,
                       struct cm_erase_unit *out)
{
    static const struct cm_erase_unit UNITS[] = {
        {CHIME_UNIT, T_ERASE_US, CM_REGION_BIT(CHIME_FLASH)},
        {CHIME_FLASH_BYTES, T_MASS_ERASE_US, CLEARED}};
    (void)part;
    if (index == CHIME_FLASH && unit < 2)
        *out = UNITS[unit];
    else if (index == CHIME_OPTIONS && unit == 0)
        *out = (struct cm_erase_unit){CHIME_OPTION_BYTES, T_ERASE_US, CM_REGION_BIT(CHIME_OPTIONS)};
    else
        return false;
    return true;
}

static enum cm_status read(struct cm_session *session, const struct cm_access *access)
{
    cm_batch_begin(session, access->kind == CM_ACCESS_READ ? CM_STEP_READ : CM_STEP_COMPARE,
                   NAMES[access->region], access->address);
    cm_batch_repeat(session, access->address, access->count, CHIME_PAGE, 1);
    add(session, (uint8_t)(READ + access->region), (enum cm_data)access->kind, access->out);
    return run_batch(session);
}

static enum cm_status access(struct cm_session *session, const struct cm_access *access)
{
    uint8_t index = access->region;
    if (access->kind != CM_ACCESS_PROGRAM)
        return read(session, access);
    cm_batch_begin(session, CM_STEP_PROGRAM, NAMES[index], access->address);
    cm_batch_repeat(session, access->address, access->count, CHIME_PAGE, 4);
    add(session, (uint8_t)(PROGRAM + index), CM_DATA_OUT, access->out);
    add_ready(session, T_PROGRAM_US);
    cm_batch_verify(session);
    add(session, (uint8_t)(READ + index), CM_DATA_MATCH, access->out);
    return run_batch(session);
}

static enum cm_status erase(struct cm_session *session, uint8_t index, uint8_t unit,
                            uint32_t address)
{
    bool whole = index == CHIME_FLASH && unit == 1;
    cm_batch_begin(session, CM_STEP_ERASE, NAMES[index], address);
    cm_batch_repeat(session, address, 1, 0, 3);
    add(session, whole ? MASS_ERASE : (uint8_t)(ERASE + index), CM_DATA_NONE, NULL);
    add_ready(session, whole ? T_MASS_ERASE_US : T_ERASE_US);
    return run_batch(session);
}

static enum cm_status sample(struct cm_session *session, uint8_t index, uint32_t address,
                             uint32_t count, uint32_t piece, uint8_t *bytes)
{
    cm_batch_begin(session, CM_STEP_COMPARE, NAMES[index], address);
    cm_batch_repeat(session, address, count, piece, 1);
    add(session, (uint8_t)(READ + index), CM_DATA_IN, bytes)->count = 1;
    return run_batch(session);
}

static uint32_t cost_us(struct cm_session *session, uint8_t index, enum cm_cost cost,
                        uint32_t bytes)
{
    enum { AROUND = 9 };
    uint32_t pages = (bytes + CHIME_PAGE - 1) / CHIME_PAGE;
    uint32_t read_us = cm_bits_us(session, 8 * (bytes + AROUND * pages));
    (void)index;
    return cost == CM_COST_READ ? read_us : 2 * read_us + pages * T_PROGRAM_US;
}

/* --- protection -------------------------------------------------------------------------- */

static enum cm_status look(struct cm_session *session, struct cm_guard *guard)
{
    uint8_t level = 0;
    struct cm_access access = {CM_ACCESS_READ, CHIME_LEVEL, 0, {.in = &level}, 1};
    enum cm_status status = read(session, &access);
    access.kind = CM_ACCESS_MATCH;
    if (!status)
        status = read(session, &access);
    if (status)
        return status;
    *guard = (struct cm_guard){.registers = {level},
                               .count = 1,
                               .cost = CM_LIFT_CONTENTS,
                               .open = CHIME_LEVEL_OPEN,
                               .clears = CLEARED};
    if (!(level & 1))
        guard->bars_reading = CM_REGION_BIT(CHIME_FLASH);
    if ((level & 3) != 3)
        guard->bars_writing = CM_REGION_BIT(CHIME_FLASH);
    return CM_OK;
}

static enum cm_status lift(struct cm_session *session, struct cm_guard *guard)
{
    if (guard->cost != CM_LIFT_CONTENTS) // it is not from `look`
        return cm_fail(session, CM_BAD_ARGUMENT, CM_STEP_SETTINGS);
    return erase(session, CHIME_FLASH, 1, 0);
}

static enum cm_status restore(struct cm_session *session, struct cm_guard *guard)
{
    return access(session,
                  &(struct cm_access){CM_ACCESS_PROGRAM, CHIME_LEVEL, 0, {guard->registers}, 1});
}

static const struct cm_guard_rules GUARD = {.look = look,
                                            .lift = lift,
                                            .restore = restore,
                                            .hides_contents = true,
                                            .lifter = &cm_put_over_lift};

static const struct cm_blocks_rules BLOCKS = {.sample = sample};

const struct cm_family chime = {
    .name = "chime",
    .bus = &BUS,
    .lines = CM_LINE_BIT(CM_LINE_SELECT),
    .state_bytes = sizeof(struct chime_state),
    .enter = enter,
    .identify = identify,
    .leave = leave,
    .region = region,
    .erase_unit = erase_unit,
    .access = access,
    .erase = erase,
    .cost_us = cost_us,
    .guard = &GUARD,
    .put = cm_put_by_blocks,
    .blocks = &BLOCKS,
};

const struct cm_part chime_part = {
    .name = "chime16",
    .id = {0xC4, 0x1E, 0x07},
    .id_bytes = ID_BYTES,
    .supply_min_mv = 2000,
    .supply_max_mv = 3600,
};

/* --- settings in words ------------------------------------------------------------------- */

static const struct cm_choice WATCHDOG[] = {
    {.value = 0, .word = "hardware"}, {.value = 1, .word = "software"}, {.word = NULL}};
static const struct cm_choice LEVELS[] = {
    {.value = 0, .word = "closed", .fence = CM_FENCE_LOCKS, .means = "only a mass erase opens it"},
    {.value = 1, .word = "open"},
    {.word = NULL}};
static const struct cm_choice *const WATCHDOG_CHOICES[] = {WATCHDOG, NULL};
static const struct cm_choice *const LEVEL_CHOICES[] = {LEVELS, NULL};

static bool setting_byte(const struct cm_part *part, uint8_t index, struct cm_setting_byte *out)
{
    (void)part;
    if (index < CHIME_OPTION_BYTES)
        *out = (struct cm_setting_byte){"option", CHIME_OPTIONS, index, 0xFF, false};
    else if (index == CHIME_OPTION_BYTES)
        *out = (struct cm_setting_byte){"level", CHIME_LEVEL, 0, 0x03, true};
    return index <= CHIME_OPTION_BYTES;
}

static bool setting(const struct cm_part *part, const uint8_t *bytes, uint8_t index,
                    struct cm_setting *out)
{
    static const struct cm_setting SETTINGS[] = {
        {"watchdog", "WDG_SW", 0, 0x00000001, WATCHDOG_CHOICES},
        {"boot-address", "BOOT_ADD", 4, 0xFFFFFFFF, NULL},
        {"write-groups", "WRP", 8, 0x00FFFF00, NULL},
        {"read-out", "RDP", CHIME_OPTION_BYTES, 0x01, LEVEL_CHOICES},
        {"write-in", "WRP_ALL", CHIME_OPTION_BYTES, 0x02, LEVEL_CHOICES}};
    (void)part, (void)bytes;
    if (index < sizeof SETTINGS / sizeof SETTINGS[0])
        *out = SETTINGS[index];
    return index < sizeof SETTINGS / sizeof SETTINGS[0];
}

static uint32_t write_us(const struct cm_part *part)
{
    (void)part;
    return T_PROGRAM_US;
}

const struct cm_words chime_words = {
    .byte = setting_byte,
    .setting = setting,
    .cpu_hz = cm_no_cpu_hz,
    .clock_mask = cm_no_clock_mask,
    .brown_out_mv = cm_no_brown_out_mv,
    .boot_bytes = cm_no_boot_bytes,
    .write_us = write_us,
};

static const struct cm_pinout PINOUT = {"SOIC-8", CM_PACKAGE_DUAL, 8,
                                        "VCC CS/SELECT DO/MISO NC GND CLK/SCK DI/MOSI NC", ""};

static const struct cm_pinout *pinout(const struct cm_part *part, uint8_t number)
{
    (void)part;
    return number == 0 ? &PINOUT : NULL;
}

const struct cm_about chime_about = {
    .kind = "bell controller", .program = "Chime", .pinout = pinout};
