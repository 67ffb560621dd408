/* The amounts that people write: 0x8000, 32768, 64K, 1M. And ranges: A..B, A+SIZE, A.. */
#ifndef CM_CLI_NUMBERS_H
#define CM_CLI_NUMBERS_H

#include <stdbool.h>
#include <stdint.h>

/* What stands behind the number; NULL: there is none. */
const char *read_number(const char *text, uint32_t *value);

bool parse_number(const char *text, uint32_t *value);
bool parse_range(const char *text, uint32_t *first, uint32_t *last);

#endif
