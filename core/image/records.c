/*
 * The reader of images as text: lines of hexadecimal digits, a record each.
 *
 *     :  LL  AAAA  TT  DD...DD  CC        Intel HEX (intel_hex.c says what the bytes mean)
 *     Sn LL  AA..AA    DD...DD  CC        Motorola S-record (s_record.c)
 *        |
 *        how many bytes follow, in a way of each format's own
 *
 * The reader is fed pieces of text and keeps one record. It names line and column of the first
 * fault and then stands still.
 */
#include "records.h"
#include <string.h>

void cm_record_begin(struct cm_record_reader *reader, cm_record_data_fn *data, void *context)
{
    memset(reader, 0, sizeof *reader);
    reader->data = data;
    reader->context = context;
    reader->line = 1;
}

enum cm_status cm_record_fail(struct cm_record_reader *reader, enum cm_record_fault fault)
{
    reader->fault = fault;
    return CM_BAD_IMAGE;
}

uint32_t cm_big_endian(const uint8_t *bytes, uint32_t count)
{
    uint32_t value = 0;
    while (count--)
        value = value << 8 | *bytes++;
    return value;
}

enum cm_status cm_record_give(struct cm_record_reader *reader, uint32_t address,
                              const uint8_t *bytes, uint32_t count)
{
    if (count == 0)
        return CM_OK;
    reader->sink_status = reader->data(reader->context, address, bytes, count, reader->line);
    return reader->sink_status ? cm_record_fail(reader, CM_RECORD_SINK) : CM_OK;
}

static int digit_value(char c)
{
    unsigned digit = (unsigned char)c - (unsigned)'0',
             letter = ((unsigned char)c | 0x20u) - (unsigned)'a';
    return digit < 10 ? (int)digit : letter < 6 ? (int)letter + 10 : -1;
}

/* Bytes that the record at hand has, from its first one. */
static uint16_t record_length(const struct cm_record_reader *reader)
{
    uint16_t around =
        reader->format == CM_RECORDS_INTEL ? INTEL_AROUND_DATA : MOTOROLA_AROUND_COUNTED;
    return (uint16_t)(reader->record[0] + around);
}

static enum cm_status take_byte(struct cm_record_reader *reader, uint8_t byte)
{
    reader->record[reader->have++] = byte;
    reader->sum = (uint8_t)(reader->sum + byte);
    if (reader->have < record_length(reader))
        return CM_OK;
    reader->in_record = false;
    reader->after_record = true;
    return reader->format == CM_RECORDS_INTEL ? cm_intel_take(reader) : cm_motorola_take(reader);
}

static enum cm_status take_digit(struct cm_record_reader *reader, char c)
{
    int value = digit_value(c);
    if (value < 0)
        return cm_record_fail(reader, CM_RECORD_NOT_A_DIGIT);
    reader->half = !reader->half;
    if (!reader->half)
        return take_byte(reader, (uint8_t)(reader->record[reader->have] | value));
    reader->record[reader->have] = (uint8_t)(value << 4);
    return CM_OK;
}

/* Most of a file is pairs of digits: takes as many as there are, and leaves all else to
 * take_character. */
static size_t take_pairs(struct cm_record_reader *reader, const char *text, size_t bytes,
                         enum cm_status *status)
{
    size_t at = 0;
    for (; at + 2 <= bytes && reader->in_record && !*status; at += 2) {
        int high = digit_value(text[at]), low = digit_value(text[at + 1]);
        if ((high | low) < 0)
            break;
        reader->column += 2;
        *status = take_byte(reader, (uint8_t)(high << 4 | low));
    }
    return at;
}

static enum cm_status end_line(struct cm_record_reader *reader)
{
    if (reader->in_record || reader->wants_type)
        return cm_record_fail(reader, CM_RECORD_TOO_SHORT);
    reader->after_record = false;
    reader->line++;
    reader->column = 0;
    return CM_OK;
}

static enum cm_status begin_record(struct cm_record_reader *reader, char c)
{
    enum cm_record_format format = c == ':'               ? CM_RECORDS_INTEL
                                   : c == 'S' || c == 's' ? CM_RECORDS_MOTOROLA
                                                          : CM_RECORDS_UNKNOWN;
    if (reader->format == CM_RECORDS_UNKNOWN)
        reader->format = format;
    if (format == CM_RECORDS_UNKNOWN || format != reader->format)
        return cm_record_fail(reader, CM_RECORD_NO_MARK);
    if (reader->ended)
        return cm_record_fail(reader, CM_RECORD_AFTER_END);
    reader->wants_type = format == CM_RECORDS_MOTOROLA;
    reader->in_record = !reader->wants_type;
    reader->have = 0;
    reader->sum = 0;
    return CM_OK;
}

static enum cm_status take_type(struct cm_record_reader *reader, char c)
{
    if (c < '0' || c > '9' || c == '4')
        return cm_record_fail(reader, CM_RECORD_TYPE);
    reader->type = c;
    reader->wants_type = false;
    reader->in_record = true;
    return CM_OK;
}

static enum cm_status take_character(struct cm_record_reader *reader, char c)
{
    bool second_half = c == '\n' && reader->last_cr;
    reader->last_cr = c == '\r';
    if (second_half)
        return CM_OK;
    reader->column++;
    if (c == '\r' || c == '\n')
        return end_line(reader);
    if (reader->in_record)
        return take_digit(reader, c);
    if (reader->wants_type)
        return take_type(reader, c);
    if (c == ' ' || c == '\t')
        return CM_OK;
    return reader->after_record ? cm_record_fail(reader, CM_RECORD_TOO_LONG)
                                : begin_record(reader, c);
}

enum cm_status cm_record_feed(struct cm_record_reader *reader, const char *text, size_t bytes)
{
    enum cm_status status = reader->fault ? CM_BAD_IMAGE : CM_OK;
    for (size_t i = 0; i < bytes && !status;) {
        if (reader->in_record && !reader->half)
            i += take_pairs(reader, text + i, bytes - i, &status);
        if (i < bytes && !status)
            status = take_character(reader, text[i++]);
    }
    return status;
}

enum cm_status cm_record_end(struct cm_record_reader *reader)
{
    if (reader->fault)
        return CM_BAD_IMAGE;
    if (reader->in_record || reader->wants_type)
        return cm_record_fail(reader, CM_RECORD_TOO_SHORT);
    return reader->ended ? CM_OK : cm_record_fail(reader, CM_RECORD_NO_END);
}

static const char *const FAULT_WORDS[CM_RECORD_FAULT_COUNT] = {
    [CM_RECORD_OK] = "no fault",
    [CM_RECORD_NO_MARK] = "a record must begin with ':', or with S in a file of S-records",
    [CM_RECORD_NOT_A_DIGIT] = "not a hexadecimal digit",
    [CM_RECORD_TOO_SHORT] = "the line ends before its record does",
    [CM_RECORD_TOO_LONG] = "more on the line than its record holds",
    [CM_RECORD_CHECKSUM] = "the checksum is wrong",
    [CM_RECORD_TYPE] = "no such record type",
    [CM_RECORD_TYPE_LENGTH] = "wrong length for its record type",
    [CM_RECORD_COUNT] = "it counts other than the data records that there are",
    [CM_RECORD_AFTER_END] = "a record behind the one that ends the file",
    [CM_RECORD_NO_END] = "the record that ends the file is missing",
    [CM_RECORD_SINK] = "the data cannot be taken",
};

const char *cm_record_fault_word(enum cm_record_fault fault)
{
    return fault < CM_RECORD_FAULT_COUNT ? FAULT_WORDS[fault] : "unknown fault";
}

enum cm_status cm_record_into_image(void *image, uint32_t address, const uint8_t *bytes,
                                    uint32_t count, uint32_t line)
{
    return cm_image_add(image, address, bytes, count, line);
}

/* --- writing ----------------------------------------------------------------------------- */

enum cm_status cm_record_line(struct cm_record_writer *writer, const char *mark,
                              const uint8_t *bytes, uint32_t count)
{
    static const char DIGITS[] = "0123456789ABCDEF";
    char text[2 + 2 * RECORD_BYTES + 1];
    size_t length = strlen(mark);
    memcpy(text, mark, length);
    for (uint32_t i = 0; i < count; i++) {
        text[length++] = DIGITS[bytes[i] >> 4];
        text[length++] = DIGITS[bytes[i] & 15];
    }
    text[length++] = '\n';
    return writer->text(writer->context, text, length);
}

void cm_record_write_begin(struct cm_record_writer *writer, enum cm_record_format format,
                           cm_text_fn *text, void *context)
{
    *writer = (struct cm_record_writer){.text = text, .context = context, .format = format};
}

enum cm_status cm_record_write(struct cm_record_writer *writer, uint32_t address,
                               const uint8_t *bytes, uint32_t count)
{
    enum cm_status status = CM_OK;
    for (uint32_t done = 0; done < count && !status;) {
        uint32_t at = address + done, part = WRITTEN_BYTES - at % WRITTEN_BYTES;
        if (part > count - done)
            part = count - done;
        status = writer->format == CM_RECORDS_MOTOROLA
                     ? cm_motorola_write(writer, at, bytes + done, (uint8_t)part)
                     : cm_intel_write(writer, at, bytes + done, (uint8_t)part);
        writer->data_records++;
        done += part;
    }
    return status;
}

enum cm_status cm_record_write_end(struct cm_record_writer *writer)
{
    return writer->format == CM_RECORDS_MOTOROLA ? cm_motorola_write_end(writer)
                                                 : cm_intel_write_end(writer);
}
