/**
 * Intel HEX, in and out, as streams: text in pieces of any size, data out by callback, no memory but the struct.
 *
 * Source: Intel, "Hexadecimal Object File Format Specification", revision A, 1988. All six record types are read; in 16-bit
 * segments data wraps at the segment's end, in the linear form at 2^32, as the specification says.
 */
#ifndef COLDMINT_HEX_H
#define COLDMINT_HEX_H

#include <coldmint/image.h>

enum cm_hex_fault {
    CM_HEX_FINE,
    CM_HEX_NO_COLON,    /**< a line that does not begin with ':' */
    CM_HEX_NOT_A_DIGIT, /**< a character that is no hexadecimal digit */
    CM_HEX_TOO_SHORT,   /**< the line ends before the record does */
    CM_HEX_TOO_LONG,    /**< the line goes on behind the record's end */
    CM_HEX_CHECKSUM,    /**< expected and found are in the reader */
    CM_HEX_TYPE,        /**< no such record type */
    CM_HEX_TYPE_LENGTH, /**< wrong length for this record type */
    CM_HEX_AFTER_END,   /**< a record behind the end-of-file record */
    CM_HEX_NO_END,      /**< the file ends without an end-of-file record */
    CM_HEX_SINK,        /**< the data's taker refused; its status is in the reader */
    CM_HEX_FAULT_COUNT
};

/** Takes data of a record. Anything but CM_OK ends the reading. */
typedef enum cm_status cm_hex_data_fn(void *context, uint32_t address, const uint8_t *bytes, uint32_t count, uint32_t line);

/** A reader in mid-stream. Read `fault`, `line`, `column` (both from 1) after a failure; `start` if has_start. */
struct cm_hex_reader {
    cm_hex_data_fn *data;
    void *context;
    enum cm_hex_fault fault;
    enum cm_status sink_status;
    uint32_t line;
    uint32_t column;
    uint8_t expected; /**< checksum that the record needs */
    uint8_t found;
    uint32_t base;
    uint32_t start; /**< start address of a type 03 (CS:IP) or 05 record */
    bool has_start;
    bool segmented; /**< base comes from a type 02 record */
    bool ended;
    bool in_record;
    bool after_record;
    bool half;    /**< one digit of a byte has been read */
    bool last_cr; /**< so that CR LF counts as one line end */
    uint8_t sum;
    uint16_t have;
    uint8_t record[260]; /**< length, address (2), type, up to 255 data, checksum */
};

/** Starts reading. */
void cm_hex_begin(struct cm_hex_reader *reader, cm_hex_data_fn *data, void *context);

/** Reads on. CM_BAD_IMAGE at the first fault; then the reader says which and where, and feeding more changes nothing. */
enum cm_status cm_hex_feed(struct cm_hex_reader *reader, const char *text, size_t bytes);

/** Ends the reading: CM_BAD_IMAGE if the file was not whole. */
enum cm_status cm_hex_end(struct cm_hex_reader *reader);

/** What a fault is, in a few words; never NULL. */
const char *cm_hex_fault_word(enum cm_hex_fault fault);

/** A cm_hex_data_fn whose context is a struct cm_image. */
enum cm_status cm_hex_into_image(void *image, uint32_t address, const uint8_t *bytes, uint32_t count, uint32_t line);

/** Takes a piece of text, without a terminating zero. */
typedef enum cm_status cm_text_fn(void *context, const char *text, size_t bytes);

/** A writer in mid-stream. */
struct cm_hex_writer {
    cm_text_fn *text;
    void *context;
    uint16_t upper;
};

/** Starts writing. */
void cm_hex_write_begin(struct cm_hex_writer *writer, cm_text_fn *text, void *context);

/** Writes bytes in records of 16, a type 04 record where the upper 16 address bits change. */
enum cm_status cm_hex_write(struct cm_hex_writer *writer, uint32_t address, const uint8_t *bytes, uint32_t count);

/** Writes the end-of-file record. */
enum cm_status cm_hex_write_end(struct cm_hex_writer *writer);

#endif
