/* What the reader of records and the two formats share. */
#ifndef CM_IMAGE_RECORDS_H
#define CM_IMAGE_RECORDS_H

#include <coldmint/records.h>

enum {
    INTEL_AROUND_DATA = 5, /* length, address, type and checksum stand around the counted data */
    MOTOROLA_AROUND_COUNTED = 1, /* the count itself is all that it does not count */
    WRITTEN_BYTES = 16,          /* data bytes in a record that we write */
    RECORD_BYTES = WRITTEN_BYTES + 6
};

CM_MUST_CHECK enum cm_status cm_record_fail(struct cm_record_reader *reader,
                                            enum cm_record_fault fault);
CM_MUST_CHECK enum cm_status cm_record_give(struct cm_record_reader *reader, uint32_t address,
                                            const uint8_t *bytes, uint32_t count);
uint32_t cm_big_endian(const uint8_t *bytes, uint32_t count);

/* Writes a line: the mark, and the bytes as digits. */
CM_MUST_CHECK enum cm_status cm_record_line(struct cm_record_writer *writer, const char *mark,
                                            const uint8_t *bytes, uint32_t count);

/* Takes the record that the reader holds, whole. */
CM_MUST_CHECK enum cm_status cm_intel_take(struct cm_record_reader *reader);
CM_MUST_CHECK enum cm_status cm_motorola_take(struct cm_record_reader *reader);

CM_MUST_CHECK enum cm_status cm_intel_write(struct cm_record_writer *writer, uint32_t address,
                                            const uint8_t *bytes, uint8_t count);
CM_MUST_CHECK enum cm_status cm_intel_write_end(struct cm_record_writer *writer);
CM_MUST_CHECK enum cm_status cm_motorola_write(struct cm_record_writer *writer, uint32_t address,
                                               const uint8_t *bytes, uint8_t count);
CM_MUST_CHECK enum cm_status cm_motorola_write_end(struct cm_record_writer *writer);

#endif
