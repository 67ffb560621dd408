/*
 * Reads a bench's YAML file by its schema (docs/bench.md lists the keys).
 */
#include "../yaml_load.h"
#include "bench.h"
#include <stdio.h>

static const cyaml_schema_value_t BYTE = {CYAML_VALUE_UINT(CYAML_FLAG_DEFAULT, uint8_t)};

static const cyaml_schema_value_t WIRE = {
    CYAML_VALUE_STRING(CYAML_FLAG_POINTER, char, 1, SIM_WIRE_TEXT - 1)};

static const cyaml_strval_t SEATS[] = {{"right", SIM_SEAT_RIGHT},
                                       {"one-pin-up", SIM_SEAT_UP},
                                       {"one-pin-down", SIM_SEAT_DOWN},
                                       {"turned", SIM_SEAT_TURNED},
                                       {"empty", SIM_SEAT_EMPTY}};

static const cyaml_schema_field_t CHIP_FIELDS[] = {
    CYAML_FIELD_STRING_PTR("part", CYAML_FLAG_POINTER, struct sim_bench_chip, part, 1, 40),
    CYAML_FIELD_UINT("supply_mv", CYAML_FLAG_DEFAULT, struct sim_bench_chip, supply_mv),
    CYAML_FIELD_UINT("board_clock_hz", CYAML_FLAG_OPTIONAL, struct sim_bench_chip, board_clock_hz),
    CYAML_FIELD_SEQUENCE("fuses", CYAML_FLAG_POINTER | CYAML_FLAG_OPTIONAL, struct sim_bench_chip,
                         fuses, &BYTE, 1, 3),
    CYAML_FIELD_UINT_PTR("lock", CYAML_FLAG_POINTER | CYAML_FLAG_OPTIONAL, struct sim_bench_chip,
                         lock),
    CYAML_FIELD_STRING_PTR("flash", CYAML_FLAG_POINTER | CYAML_FLAG_OPTIONAL, struct sim_bench_chip,
                           flash, 1, 4096),
    CYAML_FIELD_STRING_PTR("eeprom", CYAML_FLAG_POINTER | CYAML_FLAG_OPTIONAL,
                           struct sim_bench_chip, eeprom, 1, 4096),
    CYAML_FIELD_STRING_PTR("eprom", CYAML_FLAG_POINTER | CYAML_FLAG_OPTIONAL, struct sim_bench_chip,
                           eprom, 1, 4096),
    CYAML_FIELD_ENUM("seat", CYAML_FLAG_OPTIONAL, struct sim_bench_chip, seat, SEATS,
                     CYAML_ARRAY_LEN(SEATS)),
    CYAML_FIELD_SEQUENCE("status", CYAML_FLAG_POINTER | CYAML_FLAG_OPTIONAL, struct sim_bench_chip,
                         status, &BYTE, 1, 5),
    CYAML_FIELD_BOOL("wp_low", CYAML_FLAG_OPTIONAL, struct sim_bench_chip, wp_low),
    CYAML_FIELD_BOOL("miso_pulled_low", CYAML_FLAG_OPTIONAL, struct sim_bench_chip,
                     miso_pulled_low),
    CYAML_FIELD_UINT("neighbour_from_mv", CYAML_FLAG_OPTIONAL, struct sim_bench_chip,
                     neighbour_from_mv),
    CYAML_FIELD_END,
};

static const cyaml_schema_field_t PORT_FIELDS[] = {
    CYAML_FIELD_UINT("max_clock_hz", CYAML_FLAG_OPTIONAL, struct sim_bench_port, max_clock_hz),
    CYAML_FIELD_UINT("min_clock_hz", CYAML_FLAG_OPTIONAL, struct sim_bench_port, min_clock_hz),
    CYAML_FIELD_UINT("feeds_from_mv", CYAML_FLAG_OPTIONAL, struct sim_bench_port, feeds_from_mv),
    CYAML_FIELD_UINT("feeds_to_mv", CYAML_FLAG_OPTIONAL, struct sim_bench_port, feeds_to_mv),
    CYAML_FIELD_BOOL("measures_supply", CYAML_FLAG_OPTIONAL, struct sim_bench_port,
                     measures_supply),
    CYAML_FIELD_BOOL("drives_wp", CYAML_FLAG_OPTIONAL, struct sim_bench_port, drives_wp),
    CYAML_FIELD_BOOL("drives_hold", CYAML_FLAG_OPTIONAL, struct sim_bench_port, drives_hold),
    CYAML_FIELD_BOOL("registers", CYAML_FLAG_OPTIONAL, struct sim_bench_port, registers),
    CYAML_FIELD_BOOL("raises_a9", CYAML_FLAG_OPTIONAL, struct sim_bench_port, raises_a9),
    CYAML_FIELD_BOOL("raises_vpp", CYAML_FLAG_OPTIONAL, struct sim_bench_port, raises_vpp),
    CYAML_FIELD_UINT("transfer_max", CYAML_FLAG_OPTIONAL, struct sim_bench_port, transfer_max),
    CYAML_FIELD_BOOL("frames", CYAML_FLAG_OPTIONAL, struct sim_bench_port, frames),
    CYAML_FIELD_UINT("call_us", CYAML_FLAG_OPTIONAL, struct sim_bench_port, call_us),
    CYAML_FIELD_UINT("batch_us", CYAML_FLAG_OPTIONAL, struct sim_bench_port, batch_us),
    CYAML_FIELD_BOOL("only_lines", CYAML_FLAG_OPTIONAL, struct sim_bench_port, only_lines),
    CYAML_FIELD_END,
};

static const cyaml_schema_field_t FAULT_FIELDS[] = {
    CYAML_FIELD_UINT("contact_lost_after_bytes", CYAML_FLAG_OPTIONAL, struct sim_faults,
                     contact_lost_after_bytes),
    CYAML_FIELD_UINT("contact_back_after_bytes", CYAML_FLAG_OPTIONAL, struct sim_faults,
                     contact_back_after_bytes),
    CYAML_FIELD_UINT("flip_every_bytes", CYAML_FLAG_OPTIONAL, struct sim_faults, flip_every_bytes),
    CYAML_FIELD_UINT("slow_percent", CYAML_FLAG_OPTIONAL, struct sim_faults, slow_percent),
    CYAML_FIELD_UINT("restart_every_bytes", CYAML_FLAG_OPTIONAL, struct sim_faults,
                     restart_every_bytes),
    CYAML_FIELD_UINT("worn_at", CYAML_FLAG_OPTIONAL, struct sim_faults, worn_at),
    CYAML_FIELD_UINT("stuck_at", CYAML_FLAG_OPTIONAL, struct sim_faults, stuck_at),
    CYAML_FIELD_BOOL("registers_stuck", CYAML_FLAG_OPTIONAL, struct sim_faults, registers_stuck),
    CYAML_FIELD_UINT("stretch_us", CYAML_FLAG_OPTIONAL, struct sim_faults, stretch_us),
    CYAML_FIELD_BOOL("sda_held", CYAML_FLAG_OPTIONAL, struct sim_faults, sda_held),
    CYAML_FIELD_BOOL("reset_held", CYAML_FLAG_OPTIONAL, struct sim_faults, reset_held),
    CYAML_FIELD_BOOL("no_rights", CYAML_FLAG_OPTIONAL, struct sim_faults, no_rights),
    CYAML_FIELD_BOOL("no_power", CYAML_FLAG_OPTIONAL, struct sim_faults, no_power),
    CYAML_FIELD_END,
};

static const cyaml_schema_field_t BENCH_FIELDS[] = {
    CYAML_FIELD_STRING_PTR("bench", CYAML_FLAG_POINTER, struct sim_bench, title, 1, 200),
    CYAML_FIELD_MAPPING("chip", CYAML_FLAG_DEFAULT, struct sim_bench, chip, CHIP_FIELDS),
    CYAML_FIELD_MAPPING("port", CYAML_FLAG_OPTIONAL, struct sim_bench, port, PORT_FIELDS),
    CYAML_FIELD_SEQUENCE("wires", CYAML_FLAG_POINTER | CYAML_FLAG_OPTIONAL, struct sim_bench, wires,
                         &WIRE, 1, SIM_WIRE_FAULTS),
    CYAML_FIELD_MAPPING("faults", CYAML_FLAG_OPTIONAL, struct sim_bench, faults, FAULT_FIELDS),
    CYAML_FIELD_FLOAT("pace", CYAML_FLAG_OPTIONAL, struct sim_bench, pace),
    CYAML_FIELD_END,
};

static const cyaml_schema_value_t BENCH = {
    CYAML_VALUE_MAPPING(CYAML_FLAG_POINTER, struct sim_bench, BENCH_FIELDS)};

/* What is wrong with single wires is written in words of our own. */
static bool take_wires(struct sim_bench *bench, char *error)
{
    for (unsigned i = 0; i < bench->wires_count; i++) {
        if (!sim_wire_parse(bench->wires[i], &bench->faults.wires[i])) {
            snprintf(error, SIM_ERROR_BYTES,
                     "wires: '%s' is no fault of a wire; mosi=low@812+24 is one", bench->wires[i]);
            return false;
        }
        bench->faults.wire_count = (uint8_t)(i + 1);
    }
    return true;
}

struct sim_bench *sim_bench_load(const char *path, char *error)
{
    struct sim_bench *bench = yaml_load(path, &BENCH, error, SIM_ERROR_BYTES);
    if (!bench || take_wires(bench, error))
        return bench;
    sim_bench_free(bench);
    return NULL;
}

void sim_bench_free(struct sim_bench *bench)
{
    yaml_unload(&BENCH, bench);
}
