/** Amounts as people write them: numbers, clocks, voltages. */
#ifndef COLDMINT_HOST_AMOUNTS_H
#define COLDMINT_HOST_AMOUNTS_H

#include <coldmint/status.h>
#include <stdbool.h>
#include <stdint.h>

CM_DECLS_BEGIN

/** "32768", "0x8000"; a decimal number may begin with zeros. No sign, no blank before it, at most
 * 64 bits. `text` goes behind it, and stays where there is none: false. */
CM_MUST_CHECK bool cm_parse_number(const char **text, uint64_t *value);

/** Two hexadecimal digits. */
CM_MUST_CHECK bool cm_parse_byte(const char *text, uint8_t *byte);

/** "8MHz", "128 kHz", "1.5M", "32768" in Hz; 0 where it is none of these. */
uint32_t cm_parse_clock(const char *text);

/** "3.3" or "3.3V" in mV; 0 where it is neither, or no supply for a chip. */
uint16_t cm_parse_volts(const char *text);

CM_DECLS_END

#endif
