/* Amounts as texts. Each returns `text`, which has SHORT_TEXT bytes. */
#ifndef CM_CLI_TEXT_H
#define CM_CLI_TEXT_H

#include <coldmint/coldmint.h>

enum { SHORT_TEXT = 48 };

const char *seconds_text(uint32_t us, char *text, size_t bytes);
const char *amount_text(uint32_t bytes, char *text); /* "64 KiB" */

/* "8 MHz", "128 kHz", or "the board's" for 0. */
const char *clock_text(uint32_t hz, char *text, size_t bytes);

const char *id_text(const struct cm_part *part, char *text); /* "id EF 40 16" */

/* "1 page", "3 pages". */
const char *count_text(uint32_t count, const char *thing, char *text);

/* A moment, in seconds since 1970: "2026-11-23 10:15 UTC", and "2026-11-23 10:15:02". */
const char *minute_text(int64_t seconds, char *text);
const char *second_text(int64_t seconds, char *text);

/* A digest or a key, or the beginning of one: "3f2a9c"; `text` has two characters a byte, and one.
 */
const char *digest_text(const uint8_t *bytes, size_t count, char *text);

/* "attiny84 or attiny84a": all parts that share the id that was read. */
void candidate_names(const struct cm_session *session, char *names, size_t bytes);

#endif
