/*
 * The list of the families, each with all its parts and everything that a full build has of it.
 */
#include <coldmint/all.h>
#include <coldmint/coldmint.h>
#include <string.h>

void cm_all_kits(struct cm_kit *kits, struct cm_all_found *found)
{
    const struct cm_kit all[CM_ALL_KITS] = {
        {.family = &cm_avr,
         .parts = cm_avr_all_parts,
         .part_count = CM_AVR_PART_COUNT,
         .carrier = &cm_carry_data,
         .strides = &cm_avr_strides,
         .words = &cm_avr_words,
         .about = &cm_avr_about,
         .find_clock = cm_avr_find_clock},
        {.family = &cm_nor,
         .parts = cm_nor_all_parts,
         .part_count = CM_NOR_PART_COUNT,
         .carrier = &cm_carry_sectors,
         .words = &cm_nor_words,
         .about = &cm_nor_about,
         .found = &found->nor.row.part,
         .describe = cm_nor_by_sfdp},
        {.family = &cm_ee25,
         .parts = cm_ee25_all_parts,
         .part_count = CM_EE25_PART_COUNT,
         .carrier = &cm_carry_sectors,
         .words = &cm_nor_words,
         .about = &cm_ee25_about},
        {.family = &cm_par,
         .parts = cm_par_all_parts,
         .part_count = CM_PAR_PART_COUNT,
         .carrier = &cm_carry_sectors,
         .words = &cm_no_words,
         .about = &cm_par_about,
         .found = &found->par.row.part,
         .describe = cm_par_by_cfi},
        {.family = &cm_ee28,
         .parts = cm_ee28_all_parts,
         .part_count = CM_EE28_PART_COUNT,
         .carrier = &cm_carry_sectors,
         .words = &cm_no_words,
         .about = &cm_ee28_about},
        {.family = &cm_eprom,
         .parts = cm_eprom_all_parts,
         .part_count = CM_EPROM_PART_COUNT,
         .carrier = &cm_carry_sectors,
         .words = &cm_no_words,
         .about = &cm_eprom_about},
        {.family = &cm_i2c24,
         .parts = cm_i2c24_all_parts,
         .part_count = CM_I2C24_PART_COUNT,
         .carrier = &cm_carry_sectors,
         .words = &cm_no_words,
         .about = &cm_i2c24_about},
        {.family = &cm_m93,
         .parts = cm_m93_all_parts,
         .part_count = CM_M93_PART_COUNT,
         .carrier = &cm_carry_sectors,
         .words = &cm_no_words,
         .about = &cm_m93_about},
    };
    memcpy(kits, all, sizeof all);
}
