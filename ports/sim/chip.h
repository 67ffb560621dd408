/*
 * A chip on the bench as the port sees it: one table of functions for each kind.
 */
#ifndef CM_SIM_CHIP_H
#define CM_SIM_CHIP_H

#include "avr_model.h"
#include "i2c24_model.h"
#include "m93_model.h"
#include "nor_model.h"
#include "par_model.h"
#include <stddef.h>

union sim_model {
    struct avr_model avr;
    struct nor_model nor;
    struct par_model par;
    struct i2c24_model i2c24;
    struct m93_model m93;
};

struct sim_bench_chip;
struct sim_faults;

/* A member of a model that its state keeps as a number. */
struct sim_field {
    const char *name;
    void *at;
    uint8_t bytes;
};
enum { SIM_MOST_FIELDS = 16 };

enum sim_bus { SIM_SPI, SIM_PARALLEL, SIM_TWO_WIRE };

struct sim_kind {
    uint32_t lines;    /* CM_LINE_BIT of the lines that lead to such a chip, beside the bus */
    uint32_t rest_low; /* of them, those that are low where nobody drives them */
    enum sim_bus bus;
    uint32_t max_hz; /* of a port that suits it */
    /* where in the model: */
    size_t now_ns, supply_mv, slow_percent, breaches;
    int breach_count;
    const char *const *breach_words;
    void (*supply)(union sim_model *model, uint16_t mv);
    void (*line)(union sim_model *model, enum cm_line line, bool low);
    uint8_t (*byte)(union sim_model *model, uint8_t byte, uint64_t half_ns);
    void (*sck)(union sim_model *model, bool high, bool mosi);
    bool (*miso)(union sim_model *model);
    bool (*in_byte)(const union sim_model *model); /* has it taken a part of a byte? Then it must be
                                                      given the rest by edges. NULL: no matter */
    /* of memories, whose cells are in a file: NULL for an AVR */
    void (*init)(union sim_model *model, const struct cm_part *part, uint8_t *cells);
    void (*settle)(
        union sim_model *model,
        const struct sim_bench_chip *chip); /* as the bench says, when it is new or known again */
    void (*mend)(union sim_model *model,
                 const struct sim_faults *faults); /* what is wrong with it */
    uint8_t (*at)(const union sim_model *model, uint32_t address);
    int (*fields)(
        union sim_model *model,
        struct sim_field *fields); /* beside those that all have; NULL: state.c knows it */
};

static inline uint64_t *sim_now_ns(const struct sim_kind *kind, union sim_model *model)
{
    return (uint64_t *)(void *)((char *)model + kind->now_ns);
}

static inline uint16_t sim_supply_mv(const struct sim_kind *kind, const union sim_model *model)
{
    return *(const uint16_t *)(const void *)((const char *)model + kind->supply_mv);
}

static inline uint32_t *sim_slow_percent(const struct sim_kind *kind, union sim_model *model)
{
    return (uint32_t *)(void *)((char *)model + kind->slow_percent);
}

static inline uint32_t *sim_breaches(const struct sim_kind *kind, union sim_model *model)
{
    return (uint32_t *)(void *)((char *)model + kind->breaches);
}

extern const struct sim_kind sim_avr, sim_nor, sim_par, sim_ee28, sim_eprom, sim_i2c24, sim_m93;

/* Finds a part in the library's tables, and its kind. NULL: there is none of that name. */
const struct cm_part *sim_find_part(const char *name, const struct sim_kind **kind);

/* Bytes of a memory's array. */
uint32_t sim_memory_bytes(const struct cm_part *part, const struct sim_kind *kind);

#endif
