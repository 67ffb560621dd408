/*
 * The wires of a bench, each with what is wrong with it: open and floating, noisy, shorted to
 * another, or with an edge that counts twice. Faults are counted in clocks of the bus, so that they
 * can begin in the middle of a byte, a frame, or a sequence of cycles.
 *
 * The chip is never told of a fault. It sees levels and edges, and obeys them.
 */
#include "wires.h"
#include "inside.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

/* --- as text ----------------------------------------------------------------------------- */

static const struct {
    const char *name;
    uint8_t wire;
} NAMES[] = {{"reset", CM_LINE_RESET}, {"sck", CM_LINE_SCK},       {"mosi", CM_LINE_MOSI},
             {"miso", CM_LINE_MISO},   {"select", CM_LINE_SELECT}, {"wp", CM_LINE_WP},
             {"hold", CM_LINE_HOLD},   {"supply", CM_LINE_SUPPLY}, {"ce", CM_LINE_CE},
             {"oe", CM_LINE_OE},       {"we", CM_LINE_WE},         {"vpp", CM_LINE_VPP},
             {"sda", CM_LINE_SDA},     {"scl", CM_LINE_SCL},       {"all", SIM_WIRE_ALL}};
enum { NAME_COUNT = sizeof NAMES / sizeof NAMES[0] };

static const char *const READS[] = {"low", "high", "noise", "twice", "ground"};

const char *sim_wire_name(uint8_t wire, char *text)
{
    for (int i = 0; i < NAME_COUNT; i++) {
        if (NAMES[i].wire == wire)
            return NAMES[i].name;
    }
    bool is_data = wire >= CM_LINE_D0 && wire < CM_LINE_A0;
    snprintf(text, 8, "%c%u", is_data ? 'd' : 'a',
             (unsigned)(wire - (is_data ? CM_LINE_D0 : CM_LINE_A0)) % 32);
    return text;
}

/* The wire that a text begins with; `end` goes behind its name. */
static bool parse_wire(const char *text, uint8_t *wire, const char **end)
{
    size_t length = strspn(text, "abcdefghijklmnopqrstuvwxyz0123456789");
    char unused[8];
    for (unsigned line = 0; length && line <= SIM_WIRE_ALL; line++) {
        bool exists = line < CM_LINE_COUNT || (line >= CM_LINE_D0 && line < CM_LINE_D0 + 16) ||
                      (line >= CM_LINE_A0 && line < CM_LINE_END) || line == SIM_WIRE_ALL;
        const char *name = sim_wire_name((uint8_t)line, unused);
        if (!exists || strlen(name) != length || strncmp(text, name, length) != 0)
            continue;
        *wire = (uint8_t)line;
        *end = text + length;
        return true;
    }
    return false;
}

/* A number behind a sign, if that is what comes next. */
static bool parse_number(const char **text, char sign, uint32_t *value)
{
    if (**text != sign)
        return true;
    char *end;
    const char *digits = *text + 1;
    unsigned long number = strtoul(digits, &end, 10);
    bool good = *digits >= '0' && *digits <= '9' && number <= UINT32_MAX;
    *value = (uint32_t)number;
    *text = end;
    return good;
}

bool sim_wire_parse(const char *text, struct sim_wire_fault *fault)
{
    const char *at;
    memset(fault, 0, sizeof *fault);
    if (!parse_wire(text, &fault->wire, &at) || *at++ != '=')
        return false;
    size_t length = strspn(at, "abcdefghijklmnopqrstuvwxyz0123456789");
    fault->reads = SIM_READS_OTHER;
    for (uint8_t i = 0; i < SIM_READS_OTHER; i++) {
        if (strlen(READS[i]) == length && strncmp(at, READS[i], length) == 0)
            fault->reads = i;
    }
    if (fault->reads == SIM_READS_OTHER) {
        bool is_single = parse_wire(at, &fault->other, &at) && fault->other != SIM_WIRE_ALL &&
                         fault->wire != SIM_WIRE_ALL;
        if (!is_single || fault->other == fault->wire)
            return false;
    } else {
        at += length;
    }
    bool is_clock = fault->wire == CM_LINE_SCK || fault->wire == CM_LINE_SCL;
    if (fault->reads == SIM_READS_TWICE && !is_clock)
        return false;
    return parse_number(&at, '@', &fault->from) && parse_number(&at, '+', &fault->count) &&
           parse_number(&at, '/', &fault->one_in) && *at == '\0';
}

void sim_wire_print(const struct sim_wire_fault *fault, char *text)
{
    char one[8], other[8], from[16] = "", count[16] = "", rate[16] = "";
    if (fault->from)
        snprintf(from, sizeof from, "@%u", (unsigned)fault->from);
    if (fault->count)
        snprintf(count, sizeof count, "+%u", (unsigned)fault->count);
    if (fault->one_in)
        snprintf(rate, sizeof rate, "/%u", (unsigned)fault->one_in);
    const char *reads =
        fault->reads == SIM_READS_OTHER ? sim_wire_name(fault->other, other) : READS[fault->reads];
    snprintf(text, SIM_WIRE_TEXT, "%s=%s%s%s%s", sim_wire_name(fault->wire, one), reads, from,
             count, rate);
}

/* --- in time ----------------------------------------------------------------------------- */

static bool is_due(const struct sim_wire_fault *fault, uint64_t clock)
{
    return clock >= fault->from && (fault->count == 0 || clock - fault->from < fault->count);
}

bool sim_wires_rest(const struct cm_sim *sim, uint64_t clocks)
{
    for (uint8_t i = 0; i < sim->faults.wire_count; i++) {
        const struct sim_wire_fault *fault = &sim->faults.wires[i];
        bool over = fault->count && sim->fault_clocks >= (uint64_t)fault->from + fault->count;
        if (sim->wires[i].active || !(over || sim->fault_clocks + clocks <= fault->from))
            return false;
    }
    return true;
}

void sim_wires_pass(struct cm_sim *sim, uint64_t clocks)
{
    sim->fault_clocks += clocks;
}

static uint32_t draw(struct cm_sim *sim)
{
    sim->noise = sim->noise * 1664525u + 1013904223u;
    return sim->noise >> 8;
}

/* How each faulty wire stands at this clock; whether that is a change. */
static bool settle(struct cm_sim *sim)
{
    bool changes = false;
    for (uint8_t i = 0; i < sim->faults.wire_count; i++) {
        const struct sim_wire_fault *fault = &sim->faults.wires[i];
        struct sim_wire *wire = &sim->wires[i];
        struct sim_wire before = *wire;
        wire->active = is_due(fault, sim->fault_clocks) &&
                       (fault->one_in == 0 || draw(sim) % fault->one_in == 0);
        wire->high = fault->reads == SIM_READS_HIGH ||
                     (fault->reads == SIM_READS_NOISE && (draw(sim) >> 7 & 1));
        changes |= wire->active != before.active || (wire->active && wire->high != before.high);
    }
    return changes;
}

void sim_wires_begin(struct cm_sim *sim)
{
    memset(sim->wires, 0, sizeof sim->wires);
    (void)settle(sim);
}

void sim_wires_tick(struct cm_sim *sim)
{
    bool changes = settle(sim);
    sim->fault_clocks++;
    if (changes)
        sim_drive_chip(sim);
}

bool sim_wire_far(const struct cm_sim *sim, unsigned line, bool near)
{
    for (uint8_t i = 0; i < sim->faults.wire_count; i++) {
        const struct sim_wire_fault *fault = &sim->faults.wires[i];
        if (!sim->wires[i].active || fault->reads == SIM_READS_TWICE)
            continue;
        bool shorted = fault->reads == SIM_READS_OTHER;
        if (shorted && (fault->wire == line || fault->other == line))
            return near && sim_near(sim, fault->wire == line ? fault->other : fault->wire);
        if (!shorted && (fault->wire == line || fault->wire == SIM_WIRE_ALL))
            return sim->wires[i].high;
    }
    return near;
}

bool sim_wire_is_open(const struct cm_sim *sim, unsigned line)
{
    for (uint8_t i = 0; i < sim->faults.wire_count; i++) {
        const struct sim_wire_fault *fault = &sim->faults.wires[i];
        bool is_meant =
            fault->wire == line || (fault->wire == SIM_WIRE_ALL && line != CM_LINE_SUPPLY);
        if (sim->wires[i].active && is_meant && fault->reads < SIM_READS_TWICE)
            return true;
    }
    return false;
}

bool sim_wire_doubles(const struct cm_sim *sim, unsigned line)
{
    for (uint8_t i = 0; i < sim->faults.wire_count; i++) {
        const struct sim_wire_fault *fault = &sim->faults.wires[i];
        if (sim->wires[i].active && fault->wire == line && fault->reads == SIM_READS_TWICE)
            return true;
    }
    return false;
}

static void pulse(struct cm_sim *sim)
{
    sim->lines[CM_LINE_SCK] = CM_HIGH;
    sim_drive_clock(sim);
    *sim->now_ns += sim->half_ns;
    sim->lines[CM_LINE_SCK] = CM_LOW;
    sim_drive_clock(sim);
}

uint8_t sim_wires_byte(struct cm_sim *sim, uint8_t out)
{
    uint8_t in = 0;
    for (uint8_t mask = 0x80; mask; mask >>= 1) {
        sim->lines[CM_LINE_MOSI] = out & mask ? CM_HIGH : CM_LOW;
        sim_wires_tick(sim);
        *sim->now_ns += sim->half_ns;
        in = (uint8_t)(in << 1 | sim_wire_far(sim, CM_LINE_MISO, sim_near(sim, CM_LINE_MISO)));
        pulse(sim);
        if (sim_wire_doubles(sim, CM_LINE_SCK)) {
            *sim->now_ns += sim->half_ns;
            pulse(sim);
        }
    }
    return in;
}
