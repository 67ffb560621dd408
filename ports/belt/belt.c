/*
 * A belt of simulated units, as a port: it hands all calls to the bench that is on the wires.
 *
 *     unit 1  ____________            ____________  unit 2
 *                         |__________|
 *             stay_ms idle            hand_ms
 *
 * Idle is what is waited while no line is driven: a unit that is worked on is not taken away. The
 * belt's clock goes on from unit to unit.
 */
#include "belt.h"
#include "../yaml_load.h"
#include <coldmint/ports.h>
#include <errno.h>
#include <sim/sim.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum { TEXT = 200, MOST_UNITS = 4096, STAY_MS = 1500, HAND_MS = 400, US = 1000 };

struct belt_file {
    char *title, **units;
    unsigned units_count;
    uint32_t stay_ms, hand_ms;
};

struct belt {
    struct cm_port port;
    struct cm_port_state state;
    struct belt_file *file;
    char *folder; /* that the units' names begin in, with its slash */
    struct cm_sim *sim;
    int unit; /* the one at hand, or that was the last */
    uint8_t levels[CM_LINE_END];
    uint64_t now_us, sim_seen_us, idle_us;
    bool has_failed; /* a unit's state could not be saved, or its bench not be opened */
};

static const cyaml_schema_value_t UNIT = {CYAML_VALUE_STRING(CYAML_FLAG_POINTER, char, 1, TEXT)};
static const cyaml_schema_field_t FIELDS[] = {
    CYAML_FIELD_STRING_PTR("belt", CYAML_FLAG_POINTER, struct belt_file, title, 1, TEXT),
    CYAML_FIELD_SEQUENCE("units", CYAML_FLAG_POINTER, struct belt_file, units, &UNIT, 1,
                         MOST_UNITS),
    CYAML_FIELD_UINT("stay_ms", CYAML_FLAG_OPTIONAL, struct belt_file, stay_ms),
    CYAML_FIELD_UINT("hand_ms", CYAML_FLAG_OPTIONAL, struct belt_file, hand_ms), CYAML_FIELD_END};
static const cyaml_schema_value_t FILE_SCHEMA = {
    CYAML_VALUE_MAPPING(CYAML_FLAG_POINTER, struct belt_file, FIELDS)};

static struct belt *belt_of(const struct cm_port *port)
{
    return port->context;
}

int cm_belt_unit(const struct belt *belt)
{
    return belt->sim ? belt->unit : -1;
}

/* --- units come and go ------------------------------------------------------------------- */

static bool bring(struct belt *belt, char *error)
{
    char path[2 * TEXT + 2000];
    snprintf(path, sizeof path, "%s%s", belt->folder, belt->file->units[belt->unit]);
    belt->sim = cm_sim_open(path, error);
    belt->idle_us = 0;
    belt->sim_seen_us = belt->sim ? cm_sim_time_us(belt->sim) : 0;
    return belt->sim != NULL;
}

static bool take_away(struct belt *belt)
{
    bool saved = !belt->sim || cm_sim_close(belt->sim);
    belt->sim = NULL;
    belt->idle_us = 0;
    return saved;
}

/* The belt's time is that of its units, put together. */
static void catch_up(struct belt *belt)
{
    uint64_t now_us = belt->sim ? cm_sim_time_us(belt->sim) : 0;
    belt->now_us += belt->sim ? now_us - belt->sim_seen_us : 0;
    belt->sim_seen_us = now_us;
}

static bool is_at_rest(const struct belt *belt)
{
    for (int line = 0; line < CM_LINE_END; line++) {
        if (belt->levels[line] != CM_RELEASED)
            return false;
    }
    return true;
}

static void move_on(struct belt *belt, uint32_t us)
{
    char error[SIM_ERROR_BYTES];
    const struct belt_file *file = belt->file;
    if (!is_at_rest(belt))
        return;
    belt->idle_us += us;
    if (belt->sim && belt->idle_us >= (uint64_t)file->stay_ms * US) {
        catch_up(belt);
        belt->has_failed |= !take_away(belt);
    } else if (!belt->sim && belt->unit + 1 < (int)file->units_count &&
               belt->idle_us >= (uint64_t)file->hand_ms * US) {
        belt->unit++;
        belt->has_failed |= !bring(belt, error);
    }
}

/* --- the port's functions ---------------------------------------------------------------- */

static const struct cm_port *inner_of(const struct belt *belt)
{
    return belt->sim ? cm_sim_port(belt->sim) : NULL;
}

static enum cm_status set_line(const struct cm_port *port, enum cm_line line, enum cm_level level)
{
    struct belt *belt = belt_of(port);
    const struct cm_port *inner = inner_of(belt);
    if (belt->has_failed)
        return CM_PORT_FAILED;
    if (line < CM_LINE_END)
        belt->levels[line] = (uint8_t)level;
    return inner ? inner->lines->line(inner, line, level) : CM_OK;
}

/* Without a unit nothing pulls a line up, and there is no supply. */
static enum cm_status sense(const struct cm_port *port, enum cm_line line, uint16_t *value)
{
    const struct cm_port *inner = inner_of(belt_of(port));
    *value = 0;
    return inner ? inner->lines->sense(inner, line, value) : CM_OK;
}

static void wait_us(const struct cm_port *port, uint32_t us)
{
    struct belt *belt = belt_of(port);
    const struct cm_port *inner = inner_of(belt);
    if (inner)
        inner->lines->wait_us(inner, us);
    else
        belt->now_us += us;
    catch_up(belt);
    move_on(belt, us);
}

static uint32_t now_us(const struct cm_port *port)
{
    catch_up(belt_of(port));
    return (uint32_t)belt_of(port)->now_us;
}

static enum cm_status set_clock(const struct cm_port *port, uint32_t want_hz, uint32_t *real_hz)
{
    struct belt *belt = belt_of(port);
    const struct cm_port *inner = inner_of(belt);
    *real_hz = want_hz;
    return inner && inner->spi->clock ? inner->spi->clock(inner, want_hz, real_hz) : CM_OK;
}

/* A wire that ends in the air reads high. */
static enum cm_status shift(const struct cm_port *port, const uint8_t *out, uint8_t *in,
                            uint32_t bytes)
{
    struct belt *belt = belt_of(port);
    const struct cm_port *inner = inner_of(belt);
    if (inner)
        return inner->spi->shift(inner, out, in, bytes);
    if (in)
        memset(in, 0xFF, bytes);
    belt->now_us += bytes;
    return CM_OK;
}

static const struct cm_lines LINES = {
    .line = set_line, .sense = sense, .wait_us = wait_us, .now_us = now_us};
static const struct cm_spi SPI = {.clock = set_clock, .shift = shift};

/* --- opening and closing ----------------------------------------------------------------- */

static void free_belt(struct belt *belt)
{
    yaml_unload(&FILE_SCHEMA, belt->file);
    free(belt->folder);
    free(belt);
}

/* The first unit tells what the port is like: the others hang on the same wires. */
static bool set_up(struct belt *belt, char *error)
{
    struct belt_file *file = belt->file;
    file->stay_ms = file->stay_ms ? file->stay_ms : STAY_MS;
    file->hand_ms = file->hand_ms ? file->hand_ms : HAND_MS;
    memset(belt->levels, CM_RELEASED, sizeof belt->levels);
    if (!bring(belt, error))
        return false;
    const struct cm_port *inner = cm_sim_port(belt->sim);
    if (!inner->spi) {
        snprintf(error, CM_PORT_ERROR_BYTES, "units: a belt is for chips on SPI");
        return take_away(belt) && false;
    }
    belt->port = (struct cm_port){.lines = &LINES,
                                  .spi = &SPI,
                                  .context = belt,
                                  .state = &belt->state,
                                  .traits = inner->traits};
    belt->port.traits.packs = false;
    belt->port.traits.supply_min_mv = belt->port.traits.supply_max_mv = 0;
    return true;
}

static enum cm_port_opening open_belt(const char *place, struct cm_open_port *port, char *error)
{
    struct belt *belt = calloc(1, sizeof *belt);
    const char *slash = strrchr(place, '/');
    if (!belt)
        return CM_PORT_NOT_OPENED;
    errno = 0;
    belt->file = yaml_load(place, &FILE_SCHEMA, error, CM_PORT_ERROR_BYTES);
    belt->folder = strndup(place, slash ? (size_t)(slash - place) + 1 : 0);
    if (belt->file && belt->folder && set_up(belt, error)) {
        *port = (struct cm_open_port){.kind = &cm_port_belt, .port = &belt->port, .hardware = belt};
        return CM_PORT_OPENED;
    }
    enum cm_port_opening opening = errno == EBUSY ? CM_PORT_BUSY : CM_PORT_NOT_OPENED;
    free_belt(belt);
    return opening;
}

static bool close_belt(struct cm_open_port *port)
{
    struct belt *belt = port->hardware;
    bool saved = take_away(belt) && !belt->has_failed;
    free_belt(belt);
    *port = (struct cm_open_port){.kind = NULL};
    return saved;
}

static const char *trouble(const struct cm_open_port *port)
{
    const struct belt *belt = port->hardware;
    return belt->has_failed ? "a unit's bench cannot be opened, or its state not be saved" : NULL;
}

static void list(cm_port_told_fn *told, void *context)
{
    yaml_list("belt", told, context);
}

const struct cm_port_kind cm_port_belt = {
    .prefix = "belt",
    .form = "belt:BELT.yaml",
    .what = "belt",
    .where = "in this folder",
    .hint = "docs/bench.md tells what stands in a belt's file",
    .open = open_belt,
    .list = list,
    .close = close_belt,
    .trouble = trouble,
    .cure = "look at the benches that the belt names",
};
