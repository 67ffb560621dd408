/* Hardware: simulated benches behind a recorder, as ports of every kind: single calls, packed
 * calls, lines, and ports that take batches whole and have no bus that could be called. */
#include "support/memory_rig.h"
#include "support/rom_rig.h"
#include <record/record.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static struct cm_recorder recorder;
static const struct cm_port *behind;
static char *text; /* of the recording */
static size_t text_bytes;

/* --- ports in between -------------------------------------------------------------------- */

static enum cm_status run_behind(struct cm_run *run)
{
    const struct cm_port *port = run->port;
    run->port = behind;
    enum cm_status status = cm_interpret(run);
    run->port = port;
    return status;
}

static uint32_t now_behind(const struct cm_port *port)
{
    (void)port;
    return behind->lines->now_us(behind);
}

static void wait_behind(const struct cm_port *port, uint32_t us)
{
    (void)port;
    behind->lines->wait_us(behind, us);
}

static enum cm_status transfer_behind(const struct cm_port *port, const struct cm_transfer *wanted)
{
    (void)port;
    return behind->i2c->transfer(behind, wanted);
}

static enum cm_status clock_behind(const struct cm_port *port, uint32_t want_hz, uint32_t *real_hz)
{
    (void)port;
    return behind->i2c->clock(behind, want_hz, real_hz);
}

static const struct cm_lines CLOCK_ONLY = {.wait_us = wait_behind, .now_us = now_behind};
static const struct cm_i2c I2C_BEHIND = {.clock = clock_behind, .transfer = transfer_behind};

/* A port that takes batches whole, and nothing else. */
static struct cm_port whole_port(const struct cm_port *inner)
{
    behind = inner;
    return (struct cm_port){
        .lines = &CLOCK_ONLY, .run = run_behind, .state = inner->state, .traits = inner->traits};
}

static FILE *begin(const struct cm_port *port)
{
    FILE *stream = open_memstream(&text, &text_bytes);
    assert_non_null(stream);
    cm_recorder_begin(&recorder, port, stream);
    return stream;
}

static void end(FILE *stream)
{
    assert_true(cm_recorder_end(&recorder));
    fclose(stream);
}

/* --- what was recorded ------------------------------------------------------------------- */

/* Bytes of MOSI at the rising edges of SCK while SELECT is low; each frame is followed by a mark.
 */
enum { MARK = 0x100, MOST = 100000 };
static uint16_t sent[MOST];
static unsigned sent_count;

static void decode_spi(void)
{
    bool select = true, mosi = false, sck = false;
    unsigned bits = 0, byte = 0;
    uint64_t last = 0;
    sent_count = 0;
    for (char *line = strtok(strstr(text, "#0\n"), "\n"); line; line = strtok(NULL, "\n")) {
        if (line[0] == '#') {
            uint64_t now = strtoull(line + 1, NULL, 10);
            assert_true(now >= last); // time goes on
            last = now;
            continue;
        }
        bool high = line[0] != '0';
        if (line[1] == 'o')
            mosi = high;
        if (line[1] == 's') {
            if (high && !select && sent_count < MOST)
                sent[sent_count++] = MARK;
            select = high;
            bits = byte = 0;
        }
        if (line[1] == 'c' && high && !sck && !select) {
            byte = (byte << 1 | mosi) & 0xFF;
            if (++bits % 8 == 0 && sent_count < MOST)
                sent[sent_count++] = (uint16_t)byte;
        }
        if (line[1] == 'c')
            sck = high;
    }
}

static bool was_sent(const uint16_t *bytes, unsigned count)
{
    for (unsigned i = 0; i + count <= sent_count; i++) {
        if (memcmp(sent + i, bytes, count * sizeof *bytes) == 0)
            return true;
    }
    return false;
}

enum way { SINGLE, PACKED, WHOLE, WAYS };

static void frames_are_recorded_on_every_kind_of_port(void **state)
{
    static struct memory_rig rig;
    (void)state;
    for (enum way way = SINGLE; way < WAYS; way++) {
        memory_rig_open(&rig, "w25x10", "");
        if (way == PACKED)
            cm_sim_pack(rig.sim);
        struct cm_port port =
            way == WHOLE ? whole_port(cm_sim_port(rig.sim)) : *cm_sim_port(rig.sim);
        FILE *stream = begin(&port);
        rig.port = &recorder.port;
        want_part(&rig, 0x1234, 3);
        memory_rig_identify(&rig, RIG_WORKSPACE);
        assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_OK);
        for (uint32_t at = 0x1234; at < 0x1237; at++)
            assert_int_equal(cm_sim_at(rig.sim, at), rig.image[at]);
        cm_close(&rig.session);
        end(stream);
        decode_spi();
        const uint8_t *image = rig.image + 0x1234;
        const uint16_t program[] = {MARK, 0x06, MARK,     0x05,     0x00,     MARK, 0x02, 0x00,
                                    0x12, 0x34, image[0], image[1], image[2], MARK, 0x05};
        const uint16_t answered[] = {0x05, 0x00, MARK};
        assert_true(was_sent(program, sizeof program / sizeof program[0]));
        assert_true(was_sent(answered, 3));
        memory_rig_close(&rig);
        free(text);
    }
}

static void avr_instructions_are_recorded(void **state)
{
    (void)state;
    for (enum way way = SINGLE; way < WAYS; way++) {
        struct rig rig;
        rig_open(&rig, "attiny84a", way == SINGLE ? "port:\n  only_lines: true\n" : "");
        if (way == PACKED)
            cm_sim_pack(rig.sim);
        struct cm_port port = way == WHOLE ? whole_port(rig.port) : *rig.port;
        FILE *stream = begin(&port);
        assert_int_equal(cm_open(&rig.session, &recorder.port, &test_kit, 1, rig.workspace,
                                 sizeof rig.workspace),
                         CM_OK);
        rig_identify(&rig);
        cm_close(&rig.session);
        end(stream);
        assert_non_null(strstr(text, "0r\n")); // RESET falls
        assert_non_null(strstr(text, "1c\n")); // SCK
        assert_int_equal(text[strlen(text) - 1], '\n');
        rig_close(&rig);
        free(text);
    }
}

/* Memories in sockets, and on I2C: by lines, by transfers, and by batches. */
static void other_buses_are_recorded(void **state)
{
    static const char *const PARTS[] = {"sst39sf010a", "24lc64", "93lc66b"};
    static const char *const SEEN[] = {"b101010101010101 a\n", "0d\n", "1s\n"};
    (void)state;
    for (int i = 0; i < 3 * WAYS; i++) {
        static struct rom_rig rig;
        enum way way = (enum way)(i % WAYS);
        rom_rig_open(&rig, PARTS[i / WAYS], "");
        struct cm_port port = way == WHOLE ? whole_port(rig.port) : *rig.port;
        behind = rig.port;
        if (way == PACKED && port.i2c)
            port.i2c = &I2C_BEHIND;
        FILE *stream = begin(&port);
        const struct cm_port *own = rig.port;
        rig.port = &recorder.port;
        assert_int_equal(rom_rig_try(&rig), CM_OK);
        assert_int_equal(rom_rig_put(&rig, 100, 50), CM_OK);
        cm_close(&rig.session);
        end(stream);
        assert_non_null(strstr(text, SEEN[i / WAYS]));
        for (uint32_t at = 100; at < 150; at++)
            assert_int_equal(cm_sim_at(rig.sim, at), rig.image[at]);
        rig.port = own;
        rom_rig_close(&rig);
        free(text);
    }
}

/* A programmer that restarts tells so through a recorder, too. */
static void restarts_are_seen_through_a_recorder(void **state)
{
    struct rig rig;
    (void)state;
    rig_open(&rig, "attiny84a", "faults:\n  restart_every_bytes: 9000\n");
    FILE *stream = begin(rig.port);
    assert_int_equal(
        cm_open(&rig.session, &recorder.port, &test_kit, 1, rig.workspace, sizeof rig.workspace),
        CM_OK);
    rig_identify(&rig);
    fill_image(&rig, 3);
    assert_int_equal(cm_put(&rig.session, &rig.put, &rig.report), CM_OK); // without a doubt
    assert_true(rig.session.recoveries > 0);
    assert_true(recorder.port.state->restarts > 0);
    cm_close(&rig.session);
    end(stream);
    free(text);
    rig_close(&rig);
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(frames_are_recorded_on_every_kind_of_port),
        cmocka_unit_test(avr_instructions_are_recorded),
        cmocka_unit_test(other_buses_are_recorded),
        cmocka_unit_test(restarts_are_seen_through_a_recorder),
    };
    return cmocka_run_group_tests_name("record", tests, NULL, NULL);
}
