/* What words say of chips that have no clock, no brown-out and no boot section. */
#ifndef CM_JOB_NO_WORDS_H
#define CM_JOB_NO_WORDS_H

#include <coldmint/settings.h>

uint32_t cm_no_cpu_hz(const struct cm_part *part, const uint8_t *bytes, uint32_t board_hz);
uint8_t cm_no_clock_mask(const struct cm_part *part, uint8_t byte);
uint16_t cm_no_brown_out_mv(const struct cm_part *part, const uint8_t *bytes);
uint32_t cm_no_boot_bytes(const struct cm_part *part, const uint8_t *bytes);

#endif
