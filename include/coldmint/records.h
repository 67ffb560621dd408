/**
 * Images as text: Intel HEX and Motorola S-record, in and out, as streams: text in pieces of any
 * size, data out by callback, no memory but the struct. The reader finds out from the first record
 * which of the two it reads.
 *
 * Sources: Intel, "Hexadecimal Object File Format Specification", revision A, 1988: all six record
 * types; in 16-bit segments data wraps at the segment's end, in the linear form at 2^32. Motorola,
 * "M68000 Family Programmer's Reference Manual", appendix "S-record output format": S0 to S9 but
 * for the reserved S4; the count in an S5 or S6 record is checked.
 */
#ifndef COLDMINT_RECORDS_H
#define COLDMINT_RECORDS_H

#include <coldmint/decls.h>
#include <coldmint/image.h>

CM_DECLS_BEGIN

enum cm_record_format { CM_RECORDS_UNKNOWN, CM_RECORDS_INTEL, CM_RECORDS_MOTOROLA };

enum cm_record_fault {
    CM_RECORD_OK,
    CM_RECORD_NO_MARK, /**< a line that does not begin with ':', or with 'S' in a file of S-records
                        */
    CM_RECORD_NOT_A_DIGIT, /**< a character that is no hexadecimal digit */
    CM_RECORD_TOO_SHORT, /**< the line ends before the record does, or its length leaves no room for
                            what it must hold */
    CM_RECORD_TOO_LONG,  /**< the line goes on behind the record's end */
    CM_RECORD_CHECKSUM,  /**< expected and found are in the reader */
    CM_RECORD_TYPE,      /**< no such record type */
    CM_RECORD_TYPE_LENGTH, /**< wrong length for this record type */
    CM_RECORD_COUNT,       /**< an S5 or S6 record counts other than there were */
    CM_RECORD_AFTER_END,   /**< a record behind the one that ends the file */
    CM_RECORD_NO_END,      /**< the file ends without a record that ends it */
    CM_RECORD_SINK,        /**< the data callback failed; its status is in the reader */
    CM_RECORD_FAULT_COUNT
};

/** Takes data of a record. Anything but CM_OK ends the reading. */
typedef enum cm_status cm_record_data_fn(void *context, uint32_t address, const uint8_t *bytes,
                                         uint32_t count, uint32_t line);

/** A reader in mid-stream. Read `fault`, `line`, `column` (both from 1) after a failure; `start` if
 * has_start. */
struct cm_record_reader {
    cm_record_data_fn *data;
    void *context;
    enum cm_record_format format; /**< known from the first record on */
    enum cm_record_fault fault;
    enum cm_status sink_status;
    uint32_t line;
    uint32_t column;
    uint8_t expected; /**< checksum that the record needs */
    uint8_t found;
    uint32_t base;
    uint32_t start; /**< start address, or CS:IP */
    uint32_t data_records;
    bool has_start;
    bool segmented; /**< base comes from a type 02 record */
    bool ended;
    bool wants_type; /**< the S of an S-record has been read, its digit not yet */
    bool in_record;
    bool after_record;
    bool half;    /**< one digit of a byte has been read */
    bool last_cr; /**< so that CR LF counts as one line end */
    char type;    /**< of an S-record */
    uint8_t sum;
    uint16_t have;
    uint8_t record[260]; /**< the record's bytes, the checksum last */
};

/** Starts reading. */
void cm_record_begin(struct cm_record_reader *reader, cm_record_data_fn *data, void *context);

/** Reads on. CM_BAD_IMAGE at the first fault; then the reader says which and where, and feeding
 * more changes nothing. */
CM_MUST_CHECK enum cm_status cm_record_feed(struct cm_record_reader *reader, const char *text,
                                            size_t bytes);

/** Ends the reading: CM_BAD_IMAGE if the file was not whole. */
CM_MUST_CHECK enum cm_status cm_record_end(struct cm_record_reader *reader);

/** What a fault is, in a few words; never NULL. */
const char *cm_record_fault_word(enum cm_record_fault fault);

/** A cm_record_data_fn whose context is a struct cm_image. */
CM_MUST_CHECK enum cm_status cm_record_into_image(void *image, uint32_t address,
                                                  const uint8_t *bytes, uint32_t count,
                                                  uint32_t line);

/** Takes a piece of text, without a terminating zero. */
typedef enum cm_status cm_text_fn(void *context, const char *text, size_t bytes);

/** A writer in mid-stream. */
struct cm_record_writer {
    cm_text_fn *text;
    void *context;
    enum cm_record_format format;
    uint32_t data_records;
    uint16_t upper;        /**< Intel HEX: upper 16 address bits in force */
    uint8_t address_bytes; /**< S-record: the longest address so far */
};

/** Starts writing in a format. */
void cm_record_write_begin(struct cm_record_writer *writer, enum cm_record_format format,
                           cm_text_fn *text, void *context);

/**
 * Writes bytes in records of 16. Intel HEX: a type 04 record where the upper 16 address bits
 * change. S-record: S1, S2 or S3, whichever the address needs.
 */
CM_MUST_CHECK enum cm_status cm_record_write(struct cm_record_writer *writer, uint32_t address,
                                             const uint8_t *bytes, uint32_t count);

/** Writes the records that end the file. */
CM_MUST_CHECK enum cm_status cm_record_write_end(struct cm_record_writer *writer);

CM_DECLS_END

#endif
