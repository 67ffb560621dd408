/* Inside of the AVR driver: what the way in (enter.c) and the memories (memory.c) share. */
#ifndef CM_AVR_DRIVER_H
#define CM_AVR_DRIVER_H

#include "../../job/batch.h"
#include "parts.h"

enum {
    AVR_FIRST_HZ = 200000 /* tried first of all */,
    AVR_VENDOR = 0x1E /* first byte of every signature */
};
enum {
    AVR_PULSE_US = 600, /* two cycles of the slowest clock: an oscillator of 32 kHz divided by
                           eight, and a fifth more */
};
enum { AVR_SEGMENT_BYTES = 0x20000 }; /* that two address bytes reach, of words */
enum { INSTRUCTION = 4, SIGNATURE_BYTES = 3, READ_SIGNATURE = 0x30 };

extern const char *const cm_avr_region_names[CM_AVR_REGION_COUNT];

/* What the driver remembers of the chip. */
struct cm_avr_state {
    bool echoes;        /* the part echoes each byte, so each instruction proves the contact */
    bool blind;         /* also try parts that do not answer Programming Enable */
    bool was_in_step;   /* Programming Enable has had its answer the last time */
    bool segment_known; /* the extended address byte that the chip holds is: */
    uint8_t segment;
    uint32_t asked_hz, made_hz; /* clock that was asked for, and what the port made of it */
};

static inline struct cm_avr_state *cm_avr_state(const struct cm_session *session)
{
    return session->state;
}

/* The row of the session's part. */
static inline const struct cm_avr_part *cm_avr_part_of(const struct cm_session *session)
{
    return cm_avr_row(session->part);
}

/* Adds one instruction of four bytes; of those with data the fourth is the data's. */
struct cm_exchange *cm_avr_add_instruction(struct cm_session *session, uint8_t first,
                                           uint8_t second, uint8_t third, uint8_t fourth);

/* Adds one that reads a byte, or compares one; the address is in its second and third. */
struct cm_exchange *cm_avr_add_read(struct cm_session *session, uint8_t first, uint8_t second,
                                    uint8_t third, enum cm_data data, uint8_t *byte);

/* Adds, to a repeat, an instruction for each byte of the chunk: opcode, address (2), data. Of a
 * flash opcode there are two, for the low and the high byte of a word. */
struct cm_exchange *cm_avr_add_each(struct cm_session *session, uint8_t opcode, enum cm_data data,
                                    const uint8_t *bytes);

/* The same for a read of each byte, or a comparison, by the region's opcode. */
void cm_avr_add_reads(struct cm_session *session, uint8_t region, enum cm_data data,
                      const uint8_t *bytes);

/* Adds a repeat of reads, or comparisons, of each byte of a run. */
void cm_avr_add_run(struct cm_session *session, uint8_t region, enum cm_data data, uint32_t address,
                    const uint8_t *bytes, uint32_t count);

/* Adds what loads the extended address byte for a flash address, if the chip does not hold it
 * already. */
void cm_avr_add_segment(struct cm_session *session, uint32_t address);

/* Longest time of a write to flash or EEPROM, t_WD. */
uint32_t cm_avr_write_us(const struct cm_session *session, uint8_t region);

/* Adds what ends a write: Poll RDY/BSY where the part has it, else the data sheet's wait. */
void cm_avr_add_ready(struct cm_session *session, uint32_t t_wd_us);

/* Adds a comparison of the signature: who answers is still who answered before. */
void cm_avr_add_proof(struct cm_session *session);

/* Runs the batch; leaves a failure with its place in the session. */
CM_MUST_CHECK enum cm_status cm_avr_run(struct cm_session *session);

/* Steps of the way in: begins a batch with a reset pulse at a clock; runs it, with Programming
 * Enable behind it, and keeps the answer; both, as often as it takes. */
void cm_avr_add_reset(struct cm_session *session, uint32_t hz);
CM_MUST_CHECK enum cm_status cm_avr_enable(struct cm_session *session, uint8_t *answer);
CM_MUST_CHECK enum cm_status cm_avr_ask(struct cm_session *session);
CM_MUST_CHECK enum cm_status cm_avr_try_clock(struct cm_session *session, uint32_t hz);

/* Of older parts (classic.c), for the rows of times. */
CM_MUST_CHECK enum cm_status cm_avr_program_bytes(struct cm_session *session, uint8_t region,
                                                  uint32_t address, const uint8_t *bytes,
                                                  uint32_t count);
CM_MUST_CHECK enum cm_status cm_avr_nudge(struct cm_session *session);

CM_MUST_CHECK enum cm_status cm_avr_enter(struct cm_session *session);
CM_MUST_CHECK enum cm_status cm_avr_identify(struct cm_session *session);
void cm_avr_leave(struct cm_session *session);

#endif
