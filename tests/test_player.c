/* Hardware: simulated benches. Units from sealed capsules without a computer: whole, counted, and
 * proof against power cuts, damage and the wrong board. */
#include "../core/capsule/sha256.h"
#include "../player/ed25519/sha512.h"
#include "support/crc.h"
#include "support/chance.h"
#include "support/tool.h"
#include <coldmint/host.h>
#include <coldmint/player.h>
#include <openssl/evp.h>
#include <setjmp.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

static struct outcome outcome;

/* --- capsules ---------------------------------------------------------------------------- */

enum { MOST_BYTES = 1 << 16 };
/* Of the steps of a job, and of the bytes of a capsule, one in so many is tried each day. */
enum { ONE_STEP_IN = 4, ONE_BYTE_IN = 2 };

struct sealed {
    uint8_t bytes[MOST_BYTES];
    uint32_t count;
    bool fails;
    uint32_t reads,
        bad_read; /* of more than a few bytes: which one comes with a wrong bit; 0: none */
    uint32_t all_reads, failing_read; /* this one fails; 0: none */
    bool fails_on;                    /* and all behind it */
    const struct sealed *other;       /* another one, which is there instead ... */
    uint32_t exchanged_at;            /* ... from this reading on; 0: never */
    bool comes_back;                  /* at the next one */
};

static enum cm_status from_sealed(void *context, uint32_t offset, uint8_t *bytes, uint32_t count)
{
    struct sealed *sealed = context;
    const uint32_t at = sealed->exchanged_at, reading = sealed->all_reads + 1;
    const bool is_other = at && (sealed->comes_back ? reading == at : reading >= at);
    assert_true(offset <= sealed->count && count <= sealed->count - offset);
    memcpy(bytes, (is_other ? sealed->other : sealed)->bytes + offset, count);
    if (count > 8 && ++sealed->reads == sealed->bad_read)
        bytes[count / 2] ^= 0x10;
    uint32_t number = ++sealed->all_reads, failing = sealed->failing_read;
    bool fails =
        sealed->fails || number == failing || (sealed->fails_on && failing && number > failing);
    return fails ? CM_PORT_FAILED : CM_OK;
}

static void load(struct sealed *sealed, const char *path)
{
    FILE *file = fopen(path, "rb");
    assert_non_null(file);
    sealed->count = (uint32_t)fread(sealed->bytes, 1, MOST_BYTES, file);
    sealed->fails = false;
    fclose(file);
}

static const char *path_of(const char *name)
{
    static char paths[8][300];
    static unsigned at;
    char *path = paths[at++ % 8];
    snprintf(path, sizeof paths[0], "%s/%s", test_folder(), name);
    return path;
}

static uint8_t maker[CM_KEY_BYTES];

/* A new key, once. */
static void make_key(void)
{
    struct cm_host host;
    struct cm_maker key;
    if (access(path_of("carillon.key"), F_OK) == 0)
        return;
    TOOL(0, "pack", "--make-key", path_of("carillon"));
    cm_host_begin(&host, cm_all_ports);
    assert_true(cm_maker_load(&host, path_of("carillon.pub"), &key) && !key.can_sign);
    memcpy(maker, key.key, sizeof maker);
    cm_maker_free(&key);
    cm_host_end(&host);
}

/* A recipe for a small node: a hundred bytes of program, and settings; `more` is further YAML. */
static const char *make_recipe(const char *name, const char *more)
{
    static char path[200];
    char program[200], text[1500], file[60];
    int used = 0;
    for (int at = 0; at < 96; at += 16) {
        uint8_t sum = (uint8_t)(16 + at);
        used += snprintf(text + used, sizeof text - (size_t)used, ":10%04X00", (unsigned)at);
        for (int i = 0; i < 16; i++) {
            uint8_t byte = at + i == 0 ? 0x10 : at + i == 1 ? 0xC0 : (uint8_t)(at * 7 + i * 13);
            sum = (uint8_t)(sum + byte);
            used += snprintf(text + used, sizeof text - (size_t)used, "%02X", byte);
        }
        used += snprintf(text + used, sizeof text - (size_t)used, "%02X\n",
                         (unsigned)(uint8_t)(0x100 - sum));
    }
    snprintf(text + used, sizeof text - (size_t)used, ":00000001FF\n");
    write_file(program, sizeof program, "small.hex", text);
    snprintf(text, sizeof text,
             "recipe: small node\nchip: attiny84a\nboard: S\nversion: \"2\"\nsupply: 4.5V to 5.5V\n"
             "settings:\n  clock: internal-8MHz\n  start-up: 6ck+65ms\n  clock-divide: by-1\n"
             "  brown-out: 2.7V\nflash: small.hex\n%s",
             more);
    snprintf(file, sizeof file, "%s.yaml", name);
    write_file(path, sizeof path, file, text);
    return path;
}

/* Packs by the tool, and loads what it wrote. `units` NULL: without a limit. */
static void pack(struct sealed *sealed, const char *recipe, const char *units)
{
    char path[300];
    make_key();
    snprintf(path, sizeof path, "%s.mint", recipe);
    TOOL(0, "pack", recipe, path, "--key", path_of("carillon.key"), "--replace", "--unprotect",
         units ? "--units" : NULL, units);
    load(sealed, path);
}

/* --- power cuts -------------------------------------------------------------------------- */

/* Each call of the port and each byte that goes into the store is a step. */
static struct {
    jmp_buf out;
    uint32_t step, last; /* the step at which the power goes; 0: it stays */
    struct cm_port *real;
    uint16_t fed_mv; /* most that the port has fed since it was switched on */
} power;

static bool goes_out(void)
{
    return ++power.step == power.last;
}

static void step(void)
{
    if (goes_out())
        longjmp(power.out, 1);
}

static enum cm_status cut_line(const struct cm_port *port, enum cm_line line, enum cm_level level)
{
    (void)port;
    step();
    return power.real->lines->line(power.real, line, level);
}

static enum cm_status cut_sense(const struct cm_port *port, enum cm_line line, uint16_t *value)
{
    (void)port;
    return power.real->lines->sense(power.real, line, value);
}

static enum cm_status cut_supply(const struct cm_port *port, uint16_t mv)
{
    (void)port;
    step();
    power.fed_mv = mv > power.fed_mv ? mv : power.fed_mv;
    return power.real->lines->supply(power.real, mv);
}

static void cut_wait(const struct cm_port *port, uint32_t us)
{
    (void)port;
    power.real->lines->wait_us(power.real, us);
}

static uint32_t cut_now(const struct cm_port *port)
{
    (void)port;
    return power.real->lines->now_us(power.real);
}

static enum cm_status cut_clock(const struct cm_port *port, uint32_t want_hz, uint32_t *real_hz)
{
    (void)port;
    step();
    return power.real->spi->clock(power.real, want_hz, real_hz);
}

/* The power goes in the middle of the bytes. */
static enum cm_status cut_shift(const struct cm_port *port, const uint8_t *out, uint8_t *in,
                                uint32_t bytes)
{
    (void)port;
    if (!goes_out())
        return power.real->spi->shift(power.real, out, in, bytes);
    cm_ignore(power.real->spi->shift(power.real, out, in, bytes / 2));
    longjmp(power.out, 1);
}

static const struct cm_spi CUT_SPI = {.clock = cut_clock, .shift = cut_shift};

/* --- the player's store: flash, whose bits only fall ------------------------------------- */

enum { SLOTS = 4, HALF = SLOTS * CM_TALLY_BYTES };
struct memory {
    uint8_t bytes[2 * HALF];
    bool fails;
};

static enum cm_status read_store(void *context, uint32_t offset, uint8_t *bytes, uint32_t count)
{
    const struct memory *memory = context;
    memcpy(bytes, memory->bytes + offset, count);
    return memory->fails ? CM_PORT_FAILED : CM_OK;
}

static enum cm_status write_store(void *context, uint32_t offset, const uint8_t *bytes,
                                  uint32_t count)
{
    struct memory *memory = context;
    assert_true(offset % CM_TALLY_BYTES == 0 && count == CM_TALLY_BYTES);
    for (uint32_t i = 0; i < count; i++) {
        assert_int_equal(memory->bytes[offset + i], 0xFF); // only what is erased is written
        if (goes_out()) {
            memory->bytes[offset + i] &= bytes[i] | 0xA5; // half of a byte
            longjmp(power.out, 1);
        }
        memory->bytes[offset + i] &= bytes[i];
    }
    return CM_OK;
}

static enum cm_status erase_store(void *context, uint8_t half)
{
    struct memory *memory = context;
    for (uint32_t i = 0; i < HALF; i++) {
        if (i % 16 == 0 && goes_out())
            longjmp(power.out, 1);
        memory->bytes[half * HALF + i] = 0xFF;
    }
    return CM_OK;
}

/* --- a player on a bench ----------------------------------------------------------------- */

struct stand {
    char bench[200];
    struct cm_sim *sim;
    struct cm_port port;
    struct cm_port_state state;
    struct cm_lines lines;
    struct memory memory;
    struct cm_store store;
    struct cm_player player;
    uint8_t workspace[8192];
};

static const struct cm_part *const AVR_PARTS[] = {&cm_attiny84a.part, &cm_atmega328p.part};
static const struct cm_part *const NOR_PARTS[] = {&cm_w25q64.part};
static const struct cm_kit KITS[] = {
    {.family = &cm_avr, .parts = AVR_PARTS, .part_count = 2},
    {.family = &cm_nor, .parts = NOR_PARTS, .part_count = 1, .carrier = &cm_carry_sectors}};

static void make_stand(struct stand *stand, const char *part, const char *more)
{
    static unsigned number;
    char yaml[600], name[40];
    memset(stand, 0, sizeof *stand);
    memset(stand->memory.bytes, 0xFF, sizeof stand->memory.bytes);
    stand->store = (struct cm_store){&stand->memory, read_store, write_store, erase_store, HALF};
    snprintf(yaml, sizeof yaml, "bench: a player's\nchip:\n  part: %s\n  supply_mv: %d\n%s", part,
             strncmp(part, "at", 2) ? 3300 : 5000, more);
    snprintf(name, sizeof name, "stand-%u.yaml", number++);
    write_file(stand->bench, sizeof stand->bench, name, yaml);
}

/* Switches the player on, the target with it. */
static enum cm_status switch_on(struct stand *stand, struct sealed *sealed)
{
    char error[SIM_ERROR_BYTES];
    stand->sim = cm_sim_open(stand->bench, error);
    if (!stand->sim)
        fail_msg("%s", error);
    power.real = cm_sim_port(stand->sim);
    power.step = 0;
    power.fed_mv = 0;
    stand->lines = (struct cm_lines){.line = cut_line,
                                     .sense = power.real->lines->sense ? cut_sense : NULL,
                                     .supply = power.real->lines->supply ? cut_supply : NULL,
                                     .wait_us = cut_wait,
                                     .now_us = cut_now};
    memset(&stand->state, 0, sizeof stand->state);
    stand->port = *power.real;
    stand->port.lines = &stand->lines;
    stand->port.spi = &CUT_SPI;
    stand->port.run = NULL;
    stand->port.traits.packs = false;
    stand->port.state = &stand->state;
    stand->player = (struct cm_player){.port = &stand->port,
                                       .kits = KITS,
                                       .kit_count = 2,
                                       .workspace = stand->workspace,
                                       .workspace_bytes = sizeof stand->workspace,
                                       .maker = maker,
                                       .verify = cm_ed25519_verify,
                                       .store = &stand->store,
                                       .input = {sealed, from_sealed, sealed->count}};
    return cm_player_open(&stand->player);
}

static void switch_off(struct stand *stand)
{
    assert_true(cm_sim_close(stand->sim));
}

/* One unit; false: the power went. */
static bool play(struct stand *stand, struct sealed *sealed, enum cm_status *status)
{
    if (setjmp(power.out))
        return false;
    *status = switch_on(stand, sealed);
    if (*status == CM_OK)
        *status = cm_player_play(&stand->player);
    return true;
}

/* What an AVR holds. */
struct held {
    uint8_t flash[8192], eeprom[512], fuses[3], lock;
};

static void look_into(const struct stand *stand, struct held *held)
{
    const struct avr_model *model = cm_sim_model(stand->sim);
    memcpy(held->flash, model->flash, sizeof held->flash);
    memcpy(held->eeprom, model->eeprom, sizeof held->eeprom);
    memcpy(held->fuses, model->fuses, sizeof held->fuses);
    held->lock = model->lock;
    assert_no_breach(model);
}

static void play_whole(struct stand *stand, struct sealed *sealed, struct held *held)
{
    enum cm_status status;
    power.last = 0;
    assert_true(play(stand, sealed, &status));
    if (status)
        fail_msg("%s, fault %d, check %d, capsule: %s, step %d", cm_status_word(status),
                 stand->player.fault, stand->player.check.fault,
                 cm_capsule_fault_word(stand->player.capsule.fault),
                 stand->player.session.failure.step);
    if (held)
        look_into(stand, held);
    switch_off(stand);
}

/* The next start after a power cut. True: the unit was made, and counted, before the power went. A
 * record is whole before all of its bytes are written where the last of them are FF, as blank ones
 * are. */
static bool finish_unit(struct stand *stand, struct sealed *sealed)
{
    enum cm_status status;
    power.last = 0;
    assert_true(play(stand, sealed, &status));
    bool was_made = status == CM_REFUSED && stand->player.fault == CM_PLAYER_LIMIT;
    if (status && !was_made)
        fail_msg("%s at step %d, fault %d", cm_status_word(status),
                 stand->player.session.failure.step, stand->player.fault);
    return was_made;
}

/* --- tests ------------------------------------------------------------------------------- */

static void player_and_tool_make_the_same(void **state)
{
    static struct sealed sealed;
    static struct held by_player, by_tool, by_recipe;
    static struct stand stand;
    char via[220];
    const char *recipe = SOURCE_FOLDER "/demo/recipes/strike-node.yaml",
               *capsule = path_of("node.mint");
    (void)state;
    make_key();
    setenv("XDG_STATE_HOME", path_of("state"), 1);
    TOOL(0, "pack", recipe, capsule, "--key", path_of("carillon.key"), "--units", "1");
    assert_says(outcome.out, "limit     1 unit");
    load(&sealed, capsule);
    make_stand(&stand, "attiny84a", "");
    play_whole(&stand, &sealed, &by_player);
    assert_int_equal(stand.player.tally.last.used, 1);
    for (int way = 0; way < 2; way++) {
        struct stand other;
        make_stand(&other, "attiny84a", "");
        snprintf(via, sizeof via, "--via=sim:%s", other.bench);
        if (way)
            TOOL(0, "mint", via, recipe);
        else
            TOOL(0, "mint", via, capsule, "--yes", "--maker", path_of("carillon.pub"));
        char error[SIM_ERROR_BYTES];
        other.sim = cm_sim_open(other.bench, error);
        look_into(&other, way ? &by_recipe : &by_tool);
        switch_off(&other);
    }
    assert_memory_equal(&by_player, &by_tool, sizeof by_player);
    assert_memory_equal(&by_player, &by_recipe, sizeof by_player);
    assert_int_equal(by_player.fuses[0], 0xE2);
    TOOL(10, "mint", via, capsule, "--yes");
    assert_says(outcome.err, "no more units may be made");
}

/* The limit is of units, not of looks at them: in the player, and in the tool. */
static void a_board_that_is_right_already_does_not_count(void **state)
{
    static struct sealed sealed;
    static struct stand stand;
    static struct held held;
    char via[220];
    const char *capsule = path_of("again.mint");
    (void)state;
    make_key();
    setenv("XDG_STATE_HOME", path_of("state"), 1);
    TOOL(0, "pack", SOURCE_FOLDER "/demo/recipes/strike-node.yaml", capsule, "--key",
         path_of("carillon.key"), "--units", "2");
    load(&sealed, capsule);
    make_stand(&stand, "attiny84a", "");
    play_whole(&stand, &sealed, &held);
    for (int i = 0; i < 3; i++) {
        enum cm_status status;
        assert_true(play(&stand, &sealed, &status));
        assert_int_equal(status, CM_OK);
        assert_false(stand.player.has_changed);
        assert_int_equal(stand.player.tally.last.used, 1);
        switch_off(&stand);
    }
    snprintf(via, sizeof via, "--via=sim:%s", stand.bench);
    for (int i = 0; i < 3; i++) {
        TOOL(0, "mint", via, capsule, "--yes");
        assert_says(outcome.out, "0 of 2 made"); // the tool has a count of its own
    }
    assert_true(cm_sim_renew(stand.bench));
    TOOL(0, "mint", via, capsule, "--yes");
    assert_says(outcome.out, "1 of 2 made");
}

/* A job wants bits of settings beside bytes of memories: both are compared. */
static void a_job_is_compared_with_its_settings(void **state)
{
    static struct sealed sealed;
    char bench[200], via[220], capsule[300];
    (void)state;
    snprintf(capsule, sizeof capsule, "%s.mint", make_recipe("inspected", ""));
    pack(&sealed, path_of("inspected.yaml"), NULL);
    make_bench("inspected-bench", "attiny84a", "", bench, via);
    TOOL(1, "match", via, capsule);
    assert_says(outcome.err, "bytes differ, the first at 0x0000");
    TOOL(0, "mint", via, capsule, "--yes");
    TOOL(0, "match", via, capsule);
    assert_says(outcome.out, "settings          2 bytes match");
    assert_null(strstr(outcome.out, "fuses"));
    TOOL(0, "tune", via, "brown-out=off");
    TOOL(1, "match", via, capsule);
    assert_says(outcome.out, "off -> 2.7V");
    assert_says(outcome.err, "chip and file differ in settings");
    TOOL(0, "tune", via, "watchdog=always-on"); // which the job leaves alone
    TOOL(0, "tune", via, "brown-out=2.7V");
    TOOL(0, "match", via, capsule);
}

/* With the store as it is after so many records, so that halves change at other places. */
static uint32_t cut_everywhere(struct sealed *sealed, const struct held *wanted, uint32_t before,
                               bool is_last_worn)
{
    static struct stand stand;
    enum cm_status status;
    uint32_t steps = 0;
    bool is_cut = true;
    make_stand(&stand, "attiny84a", "");
    const struct memory blank = stand.memory;
    for (uint32_t last = 1 + test_first(ONE_STEP_IN); is_cut;
         last += test_stride(ONE_STEP_IN), steps++) {
        struct cm_tally tally;
        struct held held;
        stand.memory = blank;
        power.last = 0;
        assert_int_equal(cm_tally_find(&tally, &stand.store, (const uint8_t *)"another."), CM_OK);
        for (uint32_t i = 0; i < before; i++)
            assert_int_equal(cm_tally_note(&tally, i % 2 ? CM_TALLY_MADE : CM_TALLY_BEGUN), CM_OK);
        assert_true(cm_sim_renew(stand.bench));
        power.last = last;
        is_cut = !play(&stand, sealed, &status);
        if (!is_cut)
            assert_int_equal(status, CM_OK);
        switch_off(&stand);
        if (is_cut && is_last_worn) { // and once more, at a place that wanders
            power.last = 1 + last * 7 % 400;
            if (play(&stand, sealed, &status) && stand.player.fault != CM_PLAYER_LIMIT)
                assert_int_equal(status, CM_OK);
            switch_off(&stand);
        }
        bool was_made = finish_unit(&stand, sealed);
        assert_true(is_cut || was_made);
        look_into(&stand, &held);
        assert_memory_equal(&held, wanted, sizeof held);
        assert_int_equal(stand.player.tally.last.used, 1);
        assert_int_equal(cm_player_left(&stand.player), 0);
        assert_int_equal(cm_player_play(&stand.player), CM_REFUSED);
        assert_int_equal(stand.player.fault, CM_PLAYER_LIMIT);
        assert_int_equal(cm_tally_find(&tally, &stand.store, (const uint8_t *)"another."), CM_OK);
        assert_int_equal(tally.last.used, (before + 1) / 2);
        switch_off(&stand);
    }
    return steps;
}

static void a_power_cut_at_any_step_ends_in_a_whole_unit_and_a_right_count(void **state)
{
    static struct sealed sealed;
    static struct stand stand;
    struct held wanted;
    (void)state;
    pack(&sealed, make_recipe("cut", "lock:\n  memory-lock: no-writing-or-reading\n"), "1");
    make_stand(&stand, "attiny84a", "");
    play_whole(&stand, &sealed, &wanted);
    assert_int_not_equal(wanted.lock & 3, 3);
    uint32_t steps = 0;
    steps += cut_everywhere(&sealed, &wanted, 1, true);
    steps += cut_everywhere(&sealed, &wanted, SLOTS - 1, false); // the halves change at the end,
    steps += cut_everywhere(&sealed, &wanted, SLOTS, false);     // and at the beginning
    print_message("  power cut at each of %u steps: a whole unit and a right count each time\n",
                  (unsigned)steps);
}

/* --- damage ------------------------------------------------------------------------------ */

static enum cm_status open_only(struct sealed *sealed, struct cm_player *player)
{
    *player = (struct cm_player){
        .maker = maker, .verify = cm_ed25519_verify, .input = {sealed, from_sealed, sealed->count}};
    return cm_player_open(player);
}

static void put_crc(struct sealed *sealed)
{
    uint32_t at = sealed->count - 4, crc = slow_crc(sealed->bytes, at - 1);
    for (int i = 0; i < 4; i++)
        sealed->bytes[at + (uint32_t)i] = (uint8_t)(crc >> 8 * i);
}

/* With the checksum as it was, and with one that is right again, as somebody would make it who
 * means to. */
static void a_change_of_any_byte_is_found(void **state)
{
    static struct sealed sealed, changed;
    static struct cm_player player;
    struct cm_host host;
    unsigned faults[CM_CAPSULE_FAULT_COUNT] = {0};
    (void)state;
    pack(&sealed, make_recipe("whole", ""), NULL);
    cm_host_begin(&host, cm_all_ports);
    const char *path = path_of("changed.mint");
    for (uint32_t at = test_first(ONE_BYTE_IN); at < sealed.count; at += test_stride(ONE_BYTE_IN)) {
        for (int is_mended = 0; is_mended < 2; is_mended++) {
            changed = sealed;
            changed.bytes[at] ^= (uint8_t)(1 << at % 8);
            if (is_mended && at >= sealed.count - 5)
                continue; // that is the checksum
            if (is_mended)
                put_crc(&changed);
            if (open_only(&changed, &player) != CM_BAD_IMAGE)
                fail_msg("byte %u, %d", (unsigned)at, is_mended);
            assert_int_equal(player.fault, CM_PLAYER_CAPSULE);
            assert_int_not_equal(player.capsule.fault, CM_CAPSULE_OK);
            faults[player.capsule.fault]++;
            static struct cm_capsule_file file;
            FILE *out = fopen(path, "wb");
            fwrite(changed.bytes, 1, changed.count, out);
            fclose(out);
            bool loads = cm_capsule_file_load(&host, path, &file);
            enum cm_capsule_fault fault = file.capsule.fault;
            cm_capsule_file_free(&file);
            bool is_of_key = player.capsule.fault == CM_CAPSULE_OTHER_MAKER;
            if (loads || (!is_of_key && fault != player.capsule.fault))
                fail_msg("the host library at byte %u: %s", (unsigned)at,
                         cm_capsule_fault_word(fault));
        }
    }
    cm_host_end(&host);
    assert_int_equal(open_only(&sealed, &player), CM_OK);
    for (int i = CM_CAPSULE_CHECKSUM; i < CM_CAPSULE_FAULT_COUNT; i++) {
        if (faults[i])
            print_message("  %u times: %s\n", faults[i],
                          cm_capsule_fault_word((enum cm_capsule_fault)i));
    }
    assert_true(faults[CM_CAPSULE_PART_SUM] && faults[CM_CAPSULE_DIGEST] &&
                faults[CM_CAPSULE_SIGNATURE] && faults[CM_CAPSULE_OTHER_MAKER]);
}

/* From 4.5 to 5.5 V: both ends belong to it. */
static void a_supply_at_its_limit_is_right(void **state)
{
    static const struct {
        int mv;
        bool is_right;
    } CASES[] = {{4499, false}, {4500, true}, {5500, true}, {5501, false}};
    static struct sealed sealed;
    static struct stand stand;
    (void)state;
    pack(&sealed, make_recipe("limits", ""), NULL);
    for (size_t i = 0; i < sizeof CASES / sizeof CASES[0]; i++) {
        make_stand(&stand, "attiny84a", "");
        FILE *file = fopen(stand.bench, "w");
        assert_non_null(file);
        fprintf(file,
                "bench: limits\nchip:\n  part: attiny84a\n  supply_mv: %d\nport:\n"
                "  measures_supply: true\n",
                CASES[i].mv);
        fclose(file);
        enum cm_status status;
        assert_true(play(&stand, &sealed, &status));
        if (status != (CASES[i].is_right ? CM_OK : CM_REFUSED))
            fail_msg("%d mV: %s", CASES[i].mv, cm_status_word(status));
        assert_int_equal(stand.player.fault, CASES[i].is_right ? CM_PLAYER_GOOD : CM_PLAYER_BOARD);
        switch_off(&stand);
    }
}

/* Another spelling of a seal is another file with the same signature. */
static void a_seal_has_one_form(void **state)
{
    enum { SEAL = 137, CRC_FIELD = 5, DIGEST = 3, KEY = 37, SIGNATURE = 71 };
    static struct sealed sealed, other;
    static struct cm_player player;
    (void)state;
    pack(&sealed, make_recipe("forms", ""), NULL);
    assert_int_equal(open_only(&sealed, &player), CM_OK);
    const uint32_t end = sealed.count - CRC_FIELD, at = end - SEAL;
    const uint8_t *seal = sealed.bytes + at;
    assert_memory_equal(seal, "\x4A\x86\x01\x0A\x20", 5);
    static const struct {
        const char *what, *head;
        uint8_t parts[4], count; // offsets of fields, as they follow one another
    } FORMS[] = {{"a field twice", "\x4A\xA8\x01", {DIGEST, KEY, KEY, SIGNATURE}, 4},
                 {"another order", "\x4A\x86\x01", {KEY, DIGEST, SIGNATURE}, 3},
                 {"a longer length", "\x4A\x86\x81\x00", {DIGEST, KEY, SIGNATURE}, 3},
                 {"a longer tag", "\xCA\x00\x86\x01", {DIGEST, KEY, SIGNATURE}, 3}};
    for (size_t i = 0; i < sizeof FORMS / sizeof FORMS[0]; i++) {
        const size_t head = i < 2 ? 3 : 4;
        other = sealed;
        uint8_t *to = other.bytes + at;
        memcpy(to, FORMS[i].head, head);
        to += head;
        for (uint8_t k = 0; k < FORMS[i].count; k++) {
            const uint8_t from = FORMS[i].parts[k];
            const size_t bytes = from == SIGNATURE ? 66 : 34;
            memcpy(to, seal + from, bytes);
            to += bytes;
        }
        memcpy(to, sealed.bytes + end, CRC_FIELD);
        other.count = (uint32_t)(to - other.bytes) + CRC_FIELD;
        put_crc(&other);
        if (open_only(&other, &player) != CM_BAD_IMAGE ||
            player.capsule.fault != CM_CAPSULE_MALFORMED)
            fail_msg("%s: %s", FORMS[i].what, cm_capsule_fault_word(player.capsule.fault));
    }
}

/* With a point of small order everybody can sign; both coordinates' signs, and spellings beyond p.
 */
static void keys_of_small_order_are_refused(void **state)
{
    static const struct {
        uint8_t first, middle, last;
        bool is_weak;
    } KEYS[] = {{0x00, 0x00, 0x00, true},  {0x01, 0x00, 0x00, true},  {0x01, 0x00, 0x80, true},
                {0xEC, 0xFF, 0x7F, true},  {0xED, 0xFF, 0x7F, true},  {0xEE, 0xFF, 0xFF, true},
                {0x02, 0x00, 0x00, false}, {0xEB, 0xFF, 0x7F, false}, {0x01, 0x01, 0x00, false}};
    static const uint8_t Y[] = {0xC7, 0x17, 0x6A, 0x70, 0x3D, 0x4D, 0xD8, 0x4F, 0xBA, 0x3C, 0x0B,
                                0x76, 0x0D, 0x10, 0x67, 0x0F, 0x2A, 0x20, 0x53, 0xFA, 0x2C, 0x39,
                                0xCC, 0xC6, 0x4E, 0xC7, 0xFD, 0x77, 0x92, 0xAC, 0x03, 0x7A};
    uint8_t key[CM_KEY_BYTES];
    (void)state;
    for (size_t i = 0; i < sizeof KEYS / sizeof KEYS[0]; i++) {
        memset(key, KEYS[i].middle, sizeof key);
        key[0] = KEYS[i].first;
        key[31] = KEYS[i].last;
        assert_int_equal(cm_key_is_weak(key), KEYS[i].is_weak);
    }
    for (int i = 0; i < 4; i++) {
        for (int k = 0; k < 32; k++)
            key[k] = (uint8_t)(i & 1 ? (k == 0 ? 0xED : k == 31 ? 0x7F : 0xFF) - Y[k] : Y[k]);
        key[31] = (uint8_t)(key[31] | (i & 2 ? 0x80 : 0));
        assert_true(cm_key_is_weak(key));
        key[20] ^= 1;
        assert_false(cm_key_is_weak(key));
    }
}

static void a_damaged_capsule_is_named(void **state)
{
    static struct sealed sealed;
    char path[300];
    (void)state;
    const char *recipe = make_recipe("named", "");
    pack(&sealed, recipe, "5");
    snprintf(path, sizeof path, "%s.mint", recipe);
    uint32_t at = 0;
    while (memcmp(sealed.bytes + at, "\x1A\x40", 2) != 0) // 64 bytes of program
        at++;
    at += 20;
    FILE *file = fopen(path, "r+b");
    fseek(file, at, SEEK_SET);
    fputc(sealed.bytes[at] ^ 1, file);
    fclose(file);
    TOOL(9, "pack", "--show", path);
    assert_says(outcome.err, "is not a whole capsule");
    assert_says(outcome.err, "flash, from 0x0000 on");
    TOOL(9, "mint", path, "--yes");
    assert_says(outcome.err, "is not a whole capsule");
}

/* --- what is not for this player --------------------------------------------------------- */

static void expect(struct stand *stand, struct sealed *sealed, enum cm_status due,
                   enum cm_player_fault fault)
{
    enum cm_status status;
    struct held before, after;
    power.last = 0;
    char error[SIM_ERROR_BYTES];
    stand->sim = cm_sim_open(stand->bench, error);
    bool is_avr = cm_sim_model(stand->sim) != NULL;
    if (is_avr)
        look_into(stand, &before);
    switch_off(stand);
    assert_true(play(stand, sealed, &status));
    if (status != due || stand->player.fault != fault)
        fail_msg("%s, fault %d; %d was due", cm_status_word(status), stand->player.fault, fault);
    if (is_avr) {
        look_into(stand, &after);
        assert_memory_equal(&before, &after, sizeof before);
    }
    switch_off(stand);
}

static void what_is_not_for_this_board_changes_nothing(void **state)
{
    static struct sealed sealed, marked, unsigned_one, backup;
    static struct stand stand;
    char path[300];
    (void)state;
    const char *recipe = make_recipe("ours", "");
    pack(&sealed, recipe, NULL);
    make_stand(&stand, "atmega328p", "");
    expect(&stand, &sealed, CM_WRONG_CHIP, CM_PLAYER_UNIT);
    make_stand(&stand, "attiny84a", "port:\n  measures_supply: true\n");
    FILE *file = fopen(stand.bench, "w");
    fputs("bench: low\nchip:\n  part: attiny84a\n  supply_mv: 3000\nport:\n  measures_supply: "
          "true\n",
          file);
    fclose(file);
    expect(&stand, &sealed, CM_REFUSED, CM_PLAYER_BOARD);
    assert_int_equal(stand.player.check.fault, CM_WORK_SUPPLY);
    assert_int_equal(stand.player.check.mv, 3000);

    pack(&marked, make_recipe("marked", "marker: eeprom 0x1F0 NODE-S\n"), NULL);
    make_stand(&stand, "attiny84a", "");
    char error[SIM_ERROR_BYTES];
    stand.sim = cm_sim_open(stand.bench, error);
    memcpy(cm_sim_model(stand.sim)->eeprom + 0x1F0, "NODE-C", 6);
    switch_off(&stand);
    expect(&stand, &marked, CM_REFUSED, CM_PLAYER_BOARD);
    assert_int_equal(stand.player.check.fault, CM_WORK_OTHER_BOARD);
    assert_memory_equal(stand.player.check.marker, "NODE-C", 6);

    make_stand(&stand, "attiny84a", "");
    snprintf(path, sizeof path, "%s-unsigned.mint", recipe);
    TOOL(0, "pack", recipe, path);
    load(&unsigned_one, path);
    expect(&stand, &unsigned_one, CM_BAD_IMAGE, CM_PLAYER_CAPSULE);
    assert_int_equal(stand.player.capsule.fault, CM_CAPSULE_UNSIGNED);
    load(&backup, SOURCE_FOLDER "/demo/capsules/bell-7.mint");
    expect(&stand, &backup, CM_BAD_IMAGE, CM_PLAYER_CAPSULE);
    assert_int_equal(stand.player.capsule.fault, CM_CAPSULE_UNSEALED);
    sealed.fails = true;
    expect(&stand, &sealed, CM_BAD_IMAGE, CM_PLAYER_CAPSULE);
    assert_int_equal(stand.player.capsule.fault, CM_CAPSULE_UNREADABLE);
    sealed.fails = false;
    stand.memory.fails = true;
    expect(&stand, &sealed, CM_PORT_FAILED, CM_PLAYER_STORE);
}

static void a_limit_without_a_store_is_not_played(void **state)
{
    static struct sealed sealed;
    static struct cm_player player;
    (void)state;
    pack(&sealed, make_recipe("limited", ""), "3");
    assert_int_equal(open_only(&sealed, &player), CM_REFUSED);
    assert_int_equal(player.fault, CM_PLAYER_STORE);
}

/* A locked chip is erased only where the capsule says so. */
static void a_locked_chip_is_left_alone(void **state)
{
    static struct sealed sealed;
    static struct stand stand;
    char path[300], error[SIM_ERROR_BYTES];
    (void)state;
    make_key();
    const char *recipe = make_recipe("locked", "");
    snprintf(path, sizeof path, "%s.mint", recipe);
    TOOL(0, "pack", recipe, path, "--key", path_of("carillon.key"), "--replace");
    load(&sealed, path);
    make_stand(&stand, "attiny84a", "");
    stand.sim = cm_sim_open(stand.bench, error);
    cm_sim_model(stand.sim)->lock = 0xFC;
    switch_off(&stand);
    expect(&stand, &sealed, CM_PROTECTED, CM_PLAYER_UNIT);
    assert_int_equal(stand.player.tally.last.kind, CM_TALLY_FAILED);
    assert_int_equal(stand.player.tally.last.used, 0);
}

static void a_board_without_supply_is_fed(void **state)
{
    static struct sealed sealed;
    static struct stand stand;
    struct held held;
    (void)state;
    pack(&sealed, make_recipe("fed", "feed: 5V\npower-cycle: yes\n"), NULL);
    make_stand(&stand, "attiny84a",
               "  # fed by the port\nport:\n  measures_supply: true\n  feeds_from_mv: 1800\n  "
               "feeds_to_mv: 5500\n");
    FILE *file = fopen(stand.bench, "w");
    fputs("bench: fed\nchip:\n  part: attiny84a\n  supply_mv: 0\nport:\n  measures_supply: true\n"
          "  feeds_from_mv: 1800\n  feeds_to_mv: 5500\n",
          file);
    fclose(file);
    play_whole(&stand, &sealed, &held);
    assert_int_equal(power.fed_mv, 5000);
    char via[220];
    snprintf(via, sizeof via, "--via=sim:%s", stand.bench);
    assert_true(cm_sim_renew(stand.bench));
    char capsule[300];
    snprintf(capsule, sizeof capsule, "%s/fed.yaml.mint", test_folder());
    setenv("XDG_STATE_HOME", path_of("state"), 1);
    TOOL(0, "mint", via, capsule, "--yes");
    // a board with a supply of its own is left to it
    make_stand(&stand, "attiny84a",
               "port:\n  measures_supply: true\n  feeds_from_mv: 1800\n  feeds_to_mv: 5500\n");
    play_whole(&stand, &sealed, &held);
    assert_int_equal(power.fed_mv, 0);
}

/* At a terminal it asks once, and takes no for an answer. */
static void the_question_is_asked_once(void **state)
{
    static struct sealed sealed;
    char bench[200], via[220], command[1200];
    (void)state;
    setenv("XDG_STATE_HOME", path_of("state"), 1);
    pack(&sealed, make_recipe("asked", ""), NULL);
    make_bench("asked-bench", "attiny84a", "", bench, via);
    for (int yes = 0; yes < 2; yes++) {
        snprintf(command, sizeof command,
                 "(sleep 1; echo %c) | script -qec '%s mint %s %s/asked.yaml.mint' /dev/null >%s",
                 yes ? 'y' : 'n', TOOL_PATH, via, test_folder(), path_of("asked.txt"));
        int result = system(command);
        char *said = read_file(path_of("asked.txt"));
        assert_int_equal(result == 0, yes);
        assert_says(said, "Make this board a small node?");
        assert_says(said, yes ? "done: this board is a small node" : "the answer was not yes");
        free(said);
    }
    TOOL(10, "mint", via, path_of("asked.yaml.mint")); // there is nobody to ask
    assert_says(outcome.err, "--yes");
}

/* Whatever reading of the capsule brings a wrong bit, once: no unit ends good over it. */
static void a_wrong_bit_from_the_capsule_makes_no_good_unit(void **state)
{
    static struct sealed sealed;
    static struct stand stand;
    struct held wanted, held;
    unsigned refused = 0, good = 0;
    (void)state;
    pack(&sealed, make_recipe("bits", ""), NULL);
    make_stand(&stand, "attiny84a", "");
    sealed.reads = 0;
    play_whole(&stand, &sealed, &wanted);
    for (uint32_t all = sealed.reads, bad = 1 + test_first(ONE_BYTE_IN); bad <= all;
         bad += test_stride(ONE_BYTE_IN)) {
        enum cm_status status;
        assert_true(cm_sim_renew(stand.bench));
        sealed.reads = 0;
        sealed.bad_read = bad;
        power.last = 0;
        assert_true(play(&stand, &sealed, &status));
        look_into(&stand, &held);
        if (status == CM_OK && memcmp(&held, &wanted, sizeof held) != 0)
            fail_msg("reading %u came wrong, and the unit is good over it", (unsigned)bad);
        good += status == CM_OK;
        refused += status != CM_OK;
        switch_off(&stand);
    }
    sealed.bad_read = 0;
    print_message("  a wrong bit in each of %u readings: %u units refused, %u mended\n",
                  good + refused, refused, good);
    assert_true(refused > 0);
}

/* Whatever reading of the capsule fails, once or from then on: that is no end of the capsule. */
static void a_reading_of_the_capsule_that_fails_makes_no_good_unit(void **state)
{
    static struct sealed sealed;
    static struct stand stand;
    struct held wanted, held;
    (void)state;
    pack(&sealed, make_recipe("fails", ""), NULL);
    make_stand(&stand, "attiny84a", "");
    sealed.all_reads = sealed.failing_read = 0;
    play_whole(&stand, &sealed, &wanted);
    uint32_t all = sealed.all_reads;
    for (uint32_t n = 2 * test_first(ONE_STEP_IN); n < 2 * all; n += test_stride(ONE_STEP_IN)) {
        enum cm_status status;
        assert_true(cm_sim_renew(stand.bench));
        sealed.all_reads = 0;
        sealed.failing_read = 1 + n / 2;
        sealed.fails_on = n & 1;
        power.last = 0;
        assert_true(play(&stand, &sealed, &status));
        look_into(&stand, &held);
        if (status == CM_OK && memcmp(&held, &wanted, sizeof held) != 0)
            fail_msg("reading %u failed, and the unit is good over it", (unsigned)n / 2);
        if (sealed.fails_on && status == CM_OK)
            fail_msg("all readings from %u on failed, and the unit is good", (unsigned)n / 2);
        switch_off(&stand);
    }
    sealed.failing_read = 0;
}

/* --- a memory that is exchanged ---------------------------------------------------------- */

enum { EXCHANGED = 600, LARGE = 200000 };

static uint8_t byte_of_ours(uint32_t at)
{
    return (uint8_t)((at * 7 + at / 64) & 0x7F);
}

/* A capsule of a program of its own, or of a memory's contents; no byte is as in the other. */
static void pack_contents(struct sealed *sealed, const char *name, const char *about, uint8_t mask,
                          uint32_t count)
{
    static uint8_t bytes[LARGE];
    char text[300], file[40], path[300];
    for (uint32_t i = 0; i < count; i++)
        bytes[i] = byte_of_ours(i) ^ mask;
    bytes[0] = 0x10, bytes[1] = 0xC0; // a program begins with a jump
    snprintf(file, sizeof file, "%s.bin", name);
    FILE *stream = fopen(path_of(file), "wb");
    assert_int_equal(fwrite(bytes, 1, count, stream), count);
    fclose(stream);
    snprintf(text, sizeof text, "recipe: exchanged\n%sflash: %s\n", about, file);
    snprintf(file, sizeof file, "%s.yaml", name);
    write_file(path, sizeof path, file, text);
    pack(sealed, path, NULL);
}

static uint8_t chip_at(const struct stand *stand, uint32_t at)
{
    const struct avr_model *avr = cm_sim_model(stand->sim);
    return avr ? avr->flash[at] : cm_sim_at(stand->sim, at);
}

/* How the unit ended; the chip has nothing of the other capsule. */
static bool is_good_with(struct stand *stand, struct sealed *ours, uint32_t exchanged_at)
{
    enum cm_status status;
    unsigned written = 0;
    assert_true(cm_sim_renew(stand->bench));
    ours->all_reads = 0;
    ours->exchanged_at = exchanged_at;
    power.last = 0;
    assert_true(play(stand, ours, &status));
    ours->exchanged_at = 0;
    for (uint32_t at = 2; at < EXCHANGED; at++) {
        uint8_t found = chip_at(stand, at), right = byte_of_ours(at);
        written += found == right;
        if (found != right && found != 0xFF)
            fail_msg("from reading %u on another one: 0x%X of it is in the chip",
                     (unsigned)exchanged_at, (unsigned)at);
    }
    if (status == CM_OK && written < EXCHANGED - 2)
        fail_msg("from reading %u on another one: good, and not whole", (unsigned)exchanged_at);
    switch_off(stand);
    return status == CM_OK;
}

/* The seal is looked at when the capsule is opened. A memory that is another one afterwards, with
 * checksums and a seal that are right, and by the same maker, writes no byte. */
static void a_memory_that_is_exchanged_writes_nothing(void **state)
{
    static const struct {
        const char *part, *about;
    } CASES[] = {{"attiny84a", "chip: attiny84a\nsupply: 4.5V to 5.5V\n"},
                 {"w25q64", "chip: w25q64\nsupply: 2.7V to 3.6V\n"}};
    static struct sealed ours, theirs;
    static struct stand stand;
    (void)state;
    for (size_t i = 0; i < 2; i++) {
        unsigned refused = 0, tries = 0;
        pack_contents(&theirs, "theirs", CASES[i].about, 0x80, EXCHANGED);
        pack_contents(&ours, "ours", CASES[i].about, 0, EXCHANGED);
        assert_int_equal(ours.count, theirs.count);
        ours.other = &theirs;
        make_stand(&stand, CASES[i].part, "");
        assert_true(is_good_with(&stand, &ours, 0));
        const uint32_t all = ours.all_reads;
        ours.all_reads = 0;
        assert_int_equal(switch_on(&stand, &ours), CM_OK);
        switch_off(&stand);
        const uint32_t opened = ours.all_reads;
        for (uint32_t at = opened + 1 + test_first(ONE_BYTE_IN); at <= all;
             at += test_stride(ONE_BYTE_IN), tries++) {
            refused += !is_good_with(&stand, &ours, at);
            ours.comes_back = true; // one that lies in a single reading is found no less
            (void)is_good_with(&stand, &ours, at);
            ours.comes_back = false;
        }
        print_message("  %s: another one from one of %u readings on, %u of %u units refused\n",
                      CASES[i].part, (unsigned)(all - opened), refused, tries);
        assert_true(refused * 2 > tries);
    }
}

/* A file, too: in the time that somebody thinks about the question it becomes another one, with the
 * time of the first. */
static void a_file_that_is_exchanged_writes_nothing(void **state)
{
    static const char ABOUT[] = "chip: w25q64\nsupply: 2.7V to 3.6V\n";
    static struct sealed sealed;
    struct stand stand;
    char bench[200], via[220], command[1600], error[SIM_ERROR_BYTES];
    const char *said_at = path_of("thought.txt");
    (void)state;
    pack_contents(&sealed, "theirs", ABOUT, 0x80, LARGE);
    pack_contents(&sealed, "ours", ABOUT, 0, LARGE);
    make_bench("thinks", "w25q64", "", bench, via);
    remove(said_at);
    snprintf(command, sizeof command,
             "cd %s && (until grep -q 'Make this board' %s 2>/dev/null; do sleep 0.1; done; "
             "touch -r ours.yaml.mint time; cat theirs.yaml.mint >ours.yaml.mint; "
             "touch -r time ours.yaml.mint; echo y) | "
             "script -qefc '%s mint %s ours.yaml.mint' %s >/dev/null",
             test_folder(), said_at, TOOL_PATH, via, said_at);
    assert_int_not_equal(system(command), 0);
    char *said = read_file(said_at);
    assert_says(said, "has changed since it was opened");
    free(said);
    stand.sim = cm_sim_open(bench, error);
    for (uint32_t at = 2; at < LARGE; at++) {
        uint8_t found = chip_at(&stand, at);
        assert_true(found == 0xFF || found == byte_of_ours(at));
    }
    switch_off(&stand);
}

/* --- a memory, and the loop -------------------------------------------------------------- */

static void a_memory_is_filled(void **state)
{
    static struct sealed sealed;
    static struct stand stand;
    char recipe[200], image[200];
    (void)state;
    char *text = calloc(1, 9001);
    for (int i = 0; i < 9000; i++)
        text[i] = (char)('a' + i * 7 % 26);
    write_file(image, sizeof image, "tunes.bin", text);
    write_file(recipe, sizeof recipe, "tunes.yaml",
               "recipe: tune store\nchip: w25q64\nsupply: 2.7V to 3.6V\nflash: tunes.bin\n");
    pack(&sealed, recipe, NULL);
    make_stand(&stand, "w25q64", "");
    play_whole(&stand, &sealed, NULL);
    char error[SIM_ERROR_BYTES];
    stand.sim = cm_sim_open(stand.bench, error);
    for (uint32_t i = 0; i < 9000; i++)
        assert_int_equal(cm_sim_at(stand.sim, i), (uint8_t)text[i]);
    assert_int_equal(cm_sim_at(stand.sim, 9000), 0xFF);
    switch_off(&stand);
    free(text);
}

/* The same on a memory, whose pages and registers are written by other instructions. */
static void a_power_cut_leaves_no_half_of_a_memory(void **state)
{
    static struct sealed sealed;
    static struct stand stand;
    char recipe[200], image[200], error[SIM_ERROR_BYTES];
    enum cm_status status;
    uint32_t steps = 0;
    bool is_cut = true;
    (void)state;
    char *text = calloc(1, 701);
    for (int i = 0; i < 700; i++)
        text[i] = (char)('A' + i * 11 % 26);
    write_file(image, sizeof image, "short.bin", text);
    write_file(recipe, sizeof recipe, "short.yaml",
               "recipe: short store\nchip: w25q64\nflash: short.bin\n");
    pack(&sealed, recipe, "1");
    make_stand(&stand, "w25q64", "");
    const struct memory blank = stand.memory;
    for (uint32_t last = 1 + test_first(ONE_STEP_IN); is_cut;
         last += test_stride(ONE_STEP_IN), steps++) {
        assert_true(cm_sim_renew(stand.bench));
        stand.memory = blank;
        power.last = last;
        is_cut = !play(&stand, &sealed, &status);
        switch_off(&stand);
        if (is_cut) {
            (void)finish_unit(&stand, &sealed);
            switch_off(&stand);
        }
        assert_int_equal(stand.player.tally.last.used, 1);
        stand.sim = cm_sim_open(stand.bench, error);
        for (uint32_t i = 0; i < 1024; i++)
            assert_int_equal(cm_sim_at(stand.sim, i), i < 700 ? (uint8_t)text[i] : 0xFF);
        switch_off(&stand);
    }
    print_message("  power cut at each of %u steps\n", (unsigned)steps);
    free(text);
}

static struct {
    unsigned asked, beeps[2];
    uint8_t lamps[20], lamp_count;
} hands;

/* Pressed twice, for long. */
static bool press(void *context)
{
    (void)context;
    hands.asked++;
    return (hands.asked > 5 && hands.asked < 50) || (hands.asked > 60 && hands.asked < 70);
}

static bool is_over(void *context)
{
    (void)context;
    return hands.asked >= 100;
}

static void show(void *context, enum cm_player_lamp lamp)
{
    (void)context;
    hands.lamps[hands.lamp_count++] = (uint8_t)lamp;
}

static void beep(void *context, bool is_good)
{
    (void)context;
    hands.beeps[is_good]++;
}

static void a_button_makes_a_unit_and_the_lamp_tells(void **state)
{
    static struct sealed sealed;
    static struct stand stand;
    static const uint8_t LAMPS[] = {CM_LAMP_READY,   CM_LAMP_PLAYING, CM_LAMP_PASS,
                                    CM_LAMP_PLAYING, CM_LAMP_FAIL,    CM_LAMP_DARK};
    (void)state;
    pack(&sealed, make_recipe("button", ""), "1");
    make_stand(&stand, "attiny84a", "");
    power.last = 0;
    assert_int_equal(switch_on(&stand, &sealed), CM_OK);
    stand.player.button = press;
    stand.player.stop = is_over;
    stand.player.lamp = show;
    stand.player.beep = beep;
    cm_player_run(&stand.player);
    assert_int_equal(hands.lamp_count, sizeof LAMPS);
    assert_memory_equal(hands.lamps, LAMPS, sizeof LAMPS);
    assert_int_equal(hands.beeps[1], 1);
    assert_int_equal(hands.beeps[0], 1); // the limit
    switch_off(&stand);
    char log[200];
    write_file(log, sizeof log, "player.log", "");
    FILE *file = fopen(log, "wb");
    fwrite(stand.memory.bytes, 1, sizeof stand.memory.bytes, file);
    fclose(file);
    TOOL(0, "pack", "--log", log);
    assert_says(outcome.out, "1 made and 0 failed are on record");
}

/* --- the tally --------------------------------------------------------------------------- */

static uint32_t next_random(void)
{
    static uint32_t seed = 88172645u;
    seed ^= seed << 13;
    seed ^= seed >> 17;
    return seed ^= seed << 5;
}

/* Units of two capsules, with power cuts in between: no record that was told to be written is lost,
 * and none counts twice. */
static void the_tally_forgets_nothing(void **state)
{
    static struct stand stand;
    static struct cm_tally tally;
    static uint32_t used[2];
    static bool is_open[2];
    (void)state;
    make_stand(&stand, "attiny84a", "");
    for (volatile unsigned round = 0; round < 20000; round++) {
        volatile uint32_t which = next_random() % 2;
        const uint8_t *name = (const uint8_t *)(which ? "capsule1" : "capsule0");
        volatile bool is_cut = false;
        power.step = 0;
        power.last = next_random() % 4 ? 0 : 1 + next_random() % 60;
        assert_int_equal(cm_tally_find(&tally, &stand.store, name), CM_OK);
        if (tally.last.used != used[which])
            fail_msg("round %u: %u units, not %u", round, (unsigned)tally.last.used,
                     (unsigned)used[which]);
        volatile enum cm_tally_kind kind =
            is_open[which] ? (next_random() % 3 ? CM_TALLY_MADE : CM_TALLY_FAILED) : CM_TALLY_BEGUN;
        if (setjmp(power.out))
            is_cut = true;
        else
            assert_int_equal(cm_tally_note(&tally, kind), CM_OK);
        power.last = 0;
        struct cm_tally after;
        assert_int_equal(cm_tally_find(&after, &stand.store, name), CM_OK);
        bool is_there = after.last.kind == kind;
        if (!is_cut)
            assert_true(is_there);
        if (!is_there)
            continue;
        used[which] += kind == CM_TALLY_BEGUN;
        used[which] -= kind == CM_TALLY_FAILED;
        is_open[which] = kind == CM_TALLY_BEGUN;
    }
    assert_true(used[0] > 1000 && used[1] > 1000);
}

static void counts_of_too_many_capsules_are_refused(void **state)
{
    static struct stand stand;
    struct cm_tally tally;
    char name[24];
    unsigned refused = 0;
    (void)state;
    make_stand(&stand, "attiny84a", "");
    power.last = 0;
    for (int i = 0; i < 10; i++) {
        snprintf(name, sizeof name, "maker%03d", i);
        assert_int_equal(cm_tally_find(&tally, &stand.store, (const uint8_t *)name), CM_OK);
        refused += cm_tally_note(&tally, CM_TALLY_BEGUN) == CM_NO_ROOM;
    }
    assert_int_equal(refused, 10 - SLOTS);
    assert_int_equal(cm_tally_find(&tally, &stand.store, (const uint8_t *)"maker001"), CM_OK);
    assert_int_equal(tally.last.used, 1);
}

/* --- the signature ----------------------------------------------------------------------- */

static void bytes_of(const char *hex, uint8_t *bytes)
{
    for (unsigned byte; sscanf(hex, "%2x", &byte) == 1; hex += 2)
        *bytes++ = (uint8_t)byte;
}

/* Of every length around the end of a block, the other way of making them says the same. */
static void digests_are_those_of_the_standard(void **state)
{
    uint8_t text[400], mine[EVP_MAX_MD_SIZE], theirs[EVP_MAX_MD_SIZE];
    struct cm_sha256 sum;
    unsigned bytes;
    (void)state;
    for (size_t i = 0; i < sizeof text; i++)
        text[i] = (uint8_t)(i * 37);
    for (size_t count = 0; count < sizeof text; count++) {
        cm_sha256_begin(&sum);
        cm_sha256_add(&sum, text, count / 3);
        cm_sha256_add(&sum, text + count / 3, count - count / 3);
        cm_sha256_end(&sum, mine);
        assert_int_equal(EVP_Digest(text, count, theirs, &bytes, EVP_sha256(), NULL), 1);
        assert_memory_equal(mine, theirs, 32);
        sha512(text, count, mine);
        assert_int_equal(EVP_Digest(text, count, theirs, &bytes, EVP_sha512(), NULL), 1);
        assert_memory_equal(mine, theirs, 64);
    }
}

/* Signatures of the one way are good for the other, and none of them with a bit changed. */
static void both_ways_verify_the_same(void **state)
{
    struct cm_host host;
    struct cm_maker key;
    uint8_t text[CM_SEALED_BYTES], signature[CM_SIGNATURE_BYTES];
    (void)state;
    make_key();
    cm_host_begin(&host, cm_all_ports);
    assert_true(cm_maker_load(&host, path_of("carillon.key"), &key));
    for (unsigned round = 0; round < 60; round++) {
        for (size_t i = 0; i < sizeof text; i++)
            text[i] = (uint8_t)next_random();
        size_t count = sizeof signature;
        EVP_MD_CTX *context = EVP_MD_CTX_new();
        assert_int_equal(EVP_DigestSignInit(context, NULL, NULL, NULL, key.own), 1);
        assert_int_equal(EVP_DigestSign(context, signature, &count, text, sizeof text), 1);
        EVP_MD_CTX_free(context);
        assert_true(cm_ed25519_verify(key.key, signature, text, sizeof text));
        assert_true(cm_maker_verify(key.key, signature, text, sizeof text));
        uint8_t *changed = round % 3 == 0 ? text : round % 3 == 1 ? signature : key.key;
        uint32_t at = next_random() % 32;
        changed[at] ^= (uint8_t)(1 << round % 8);
        assert_false(cm_ed25519_verify(key.key, signature, text, sizeof text));
        assert_false(cm_maker_verify(key.key, signature, text, sizeof text));
        changed[at] ^= (uint8_t)(1 << round % 8);
    }
    cm_maker_free(&key);
    cm_host_end(&host);
}

/* RFC 8032, section 7.1, tests 1 and 3. */
static void signatures_are_those_of_the_standard(void **state)
{
    uint8_t key[32], signature[64], message[2] = {0xAF, 0x82};
    (void)state;
    bytes_of("d75a980182b10ab7d54bfed3c964073a0ee172f3daa62325af021a68f707511a", key);
    bytes_of(
        "e5564300c360ac729086e2cc806e828a84877f1eb8e5d974d873e065224901555fb8821590a33bacc61e39"
        "701cf9b46bd25bf5f0595bbe24655141438e7a100b",
        signature);
    assert_true(cm_ed25519_verify(key, signature, message, 0));
    assert_false(cm_ed25519_verify(key, signature, message, 1));
    bytes_of("fc51cd8e6218a1a38da47ed00230f0580816ed13ba3303ac5deb911548908025", key);
    bytes_of(
        "6291d657deec24024827e69c3abe01a30ce548a284743a445e3680d7db5ac3ac18ff9b538d16f290ae67f7"
        "60984dc6594a7c15e9716ed28dc027beceea1ec40a",
        signature);
    assert_true(cm_ed25519_verify(key, signature, message, 2));
    static const uint8_t ORDER[] = {0xED, 0xD3, 0xF5, 0x5C, 0x1A, 0x63, 0x12, 0x58,
                                    0xD6, 0x9C, 0xF7, 0xA2, 0xDE, 0xF9, 0xDE, 0x14};
    uint8_t carry = 0;
    for (int i = 0; i < 32; i++) { // the same and the order: another number for the same signature
        unsigned sum = signature[32 + i] + carry + (i < 16 ? ORDER[i] : i == 31 ? 0x10u : 0u);
        signature[32 + i] = (uint8_t)sum;
        carry = (uint8_t)(sum >> 8);
    }
    assert_false(cm_ed25519_verify(key, signature, message, 2));
    assert_false(cm_maker_verify(key, signature, message, 2));
}

int main(int argc, char **argv)
{
    (void)argc, (void)argv;
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(player_and_tool_make_the_same),
        cmocka_unit_test(a_board_that_is_right_already_does_not_count),
        cmocka_unit_test(a_power_cut_at_any_step_ends_in_a_whole_unit_and_a_right_count),
        cmocka_unit_test(a_change_of_any_byte_is_found),
        cmocka_unit_test(a_supply_at_its_limit_is_right),
        cmocka_unit_test(a_seal_has_one_form),
        cmocka_unit_test(keys_of_small_order_are_refused),
        cmocka_unit_test(a_job_is_compared_with_its_settings),
        cmocka_unit_test(a_damaged_capsule_is_named),
        cmocka_unit_test(what_is_not_for_this_board_changes_nothing),
        cmocka_unit_test(a_limit_without_a_store_is_not_played),
        cmocka_unit_test(a_locked_chip_is_left_alone),
        cmocka_unit_test(a_board_without_supply_is_fed),
        cmocka_unit_test(the_question_is_asked_once),
        cmocka_unit_test(a_wrong_bit_from_the_capsule_makes_no_good_unit),
        cmocka_unit_test(a_reading_of_the_capsule_that_fails_makes_no_good_unit),
        cmocka_unit_test(a_memory_that_is_exchanged_writes_nothing),
        cmocka_unit_test(a_file_that_is_exchanged_writes_nothing),
        cmocka_unit_test(a_memory_is_filled),
        cmocka_unit_test(a_power_cut_leaves_no_half_of_a_memory),
        cmocka_unit_test(a_button_makes_a_unit_and_the_lamp_tells),
        cmocka_unit_test(the_tally_forgets_nothing),
        cmocka_unit_test(counts_of_too_many_capsules_are_refused),
        cmocka_unit_test(digests_are_those_of_the_standard),
        cmocka_unit_test(both_ways_verify_the_same),
        cmocka_unit_test(signatures_are_those_of_the_standard),
    };
    return cmocka_run_group_tests(tests, NULL, NULL);
}
