/*
 * A chip on the bench as the port sees it: an AVR or an SPI memory, behind one table of functions each.
 */
#ifndef CM_SIM_CHIP_H
#define CM_SIM_CHIP_H

#include "avr_model.h"
#include "nor_model.h"

union sim_model {
    struct avr_model avr;
    struct nor_model nor;
};

struct sim_kind {
    uint32_t lines; /* CM_LINE_BIT of the lines that lead to such a chip, beside the bus */
    uint64_t *(*now_ns)(union sim_model *model);
    void (*supply)(union sim_model *model, uint16_t mv);
    uint16_t (*supply_mv)(const union sim_model *model);
    void (*line)(union sim_model *model, enum cm_line line, bool low);
    uint8_t (*byte)(union sim_model *model, uint8_t byte, uint64_t half_ns);
    void (*sck)(union sim_model *model, bool high, bool mosi);
    bool (*miso)(const union sim_model *model);
    uint32_t *(*slow_percent)(union sim_model *model);
};

extern const struct sim_kind sim_avr, sim_nor;

#endif
