/*
 * The two kinds of chip behind the port's one table.
 */
#include "chip.h"

static uint64_t *avr_now_ns(union sim_model *model)
{
    return &model->avr.now_ns;
}

static void avr_supply(union sim_model *model, uint16_t mv)
{
    avr_model_supply(&model->avr, mv);
}

static uint16_t avr_supply_mv(const union sim_model *model)
{
    return model->avr.supply_mv;
}

static void avr_line(union sim_model *model, enum cm_line line, bool low)
{
    if (line == CM_LINE_RESET)
        avr_model_reset(&model->avr, low);
}

static uint8_t avr_byte(union sim_model *model, uint8_t byte, uint64_t half_ns)
{
    return avr_model_byte(&model->avr, byte, half_ns);
}

static void avr_sck(union sim_model *model, bool high, bool mosi)
{
    avr_model_sck(&model->avr, high, mosi);
}

static bool avr_miso(const union sim_model *model)
{
    return avr_model_miso(&model->avr);
}

static uint32_t *avr_slow_percent(union sim_model *model)
{
    return &model->avr.slow_percent;
}

const struct sim_kind sim_avr = {
    CM_LINE_BIT(CM_LINE_RESET), avr_now_ns, avr_supply, avr_supply_mv, avr_line, avr_byte, avr_sck, avr_miso, avr_slow_percent};

static uint64_t *nor_now_ns(union sim_model *model)
{
    return &model->nor.now_ns;
}

static void nor_supply(union sim_model *model, uint16_t mv)
{
    nor_model_supply(&model->nor, mv);
}

static uint16_t nor_supply_mv(const union sim_model *model)
{
    return model->nor.supply_mv;
}

static void nor_line(union sim_model *model, enum cm_line line, bool low)
{
    if (line == CM_LINE_SELECT)
        nor_model_select(&model->nor, low);
    else if (line == CM_LINE_WP)
        model->nor.wp_low = low;
    else if (line == CM_LINE_HOLD)
        model->nor.hold_low = low;
}

static uint8_t nor_byte(union sim_model *model, uint8_t byte, uint64_t half_ns)
{
    return nor_model_byte(&model->nor, byte, half_ns);
}

static void nor_sck(union sim_model *model, bool high, bool mosi)
{
    nor_model_sck(&model->nor, high, mosi);
}

static bool nor_miso(const union sim_model *model)
{
    return nor_model_miso(&model->nor);
}

static uint32_t *nor_slow_percent(union sim_model *model)
{
    return &model->nor.slow_percent;
}

const struct sim_kind sim_nor = {
    CM_LINE_BIT(CM_LINE_SELECT), nor_now_ns, nor_supply, nor_supply_mv, nor_line, nor_byte, nor_sck, nor_miso, nor_slow_percent};
