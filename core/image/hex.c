/*
 * Intel HEX: a line is a record.
 *
 *     :  LL  AAAA  TT  DD...DD  CC        two digits a byte
 *        |   |     |   |        two's complement of the sum of all bytes before it
 *        |   |     |   LL bytes of data
 *        |   |     00 data, 01 end of file, 02 segment base, 03 CS:IP, 04 upper 16 address bits, 05 start address
 *        |   address, most significant byte first
 *        number of data bytes
 *
 * The reader is fed pieces of text and keeps one record. It names line and column of the first fault and then stands still.
 */
#include <coldmint/hex.h>
#include <string.h>

enum { HEAD = 4, TYPE_DATA = 0, TYPE_END, TYPE_SEGMENT, TYPE_START_SEGMENT, TYPE_LINEAR, TYPE_START_LINEAR, TYPE_COUNT };

enum { ANY_LENGTH = 0xFF };
static const uint8_t TYPE_LENGTHS[TYPE_COUNT] = {ANY_LENGTH, 0, 2, 4, 2, 4};

void cm_hex_begin(struct cm_hex_reader *reader, cm_hex_data_fn *data, void *context)
{
    memset(reader, 0, sizeof *reader);
    reader->data = data;
    reader->context = context;
    reader->line = 1;
}

static enum cm_status fail(struct cm_hex_reader *reader, enum cm_hex_fault fault)
{
    reader->fault = fault;
    return CM_BAD_IMAGE;
}

static uint32_t big_endian(const uint8_t *bytes, uint32_t count)
{
    uint32_t value = 0;
    while (count--)
        value = value << 8 | *bytes++;
    return value;
}

static enum cm_status give(struct cm_hex_reader *reader, uint32_t address, const uint8_t *bytes, uint32_t count)
{
    if (count == 0)
        return CM_OK;
    reader->sink_status = reader->data(reader->context, address, bytes, count, reader->line);
    return reader->sink_status ? fail(reader, CM_HEX_SINK) : CM_OK;
}

/* Data wraps at the end of its 64 KiB segment, or of the 32-bit address space. */
static enum cm_status give_data(struct cm_hex_reader *reader, uint32_t offset, const uint8_t *bytes, uint32_t count)
{
    uint32_t first = count;
    uint32_t start = reader->base + offset;
    if (reader->segmented && offset + count > 0x10000)
        first = 0x10000 - offset;
    else if (!reader->segmented && start > UINT32_MAX - (count ? count - 1 : 0))
        first = UINT32_MAX - start + 1;
    enum cm_status status = give(reader, start, bytes, first);
    return status ? status : give(reader, reader->segmented ? reader->base : 0, bytes + first, count - first);
}

static enum cm_status take_record(struct cm_hex_reader *reader)
{
    uint8_t length = reader->record[0], type = reader->record[3];
    const uint8_t *data = reader->record + HEAD;
    if (reader->sum != 0) {
        reader->found = data[length];
        reader->expected = (uint8_t)(data[length] - reader->sum);
        return fail(reader, CM_HEX_CHECKSUM);
    }
    if (type >= TYPE_COUNT)
        return fail(reader, CM_HEX_TYPE);
    if (TYPE_LENGTHS[type] != ANY_LENGTH && TYPE_LENGTHS[type] != length)
        return fail(reader, CM_HEX_TYPE_LENGTH);
    switch (type) {
    case TYPE_DATA:
        return give_data(reader, big_endian(reader->record + 1, 2), data, length);
    case TYPE_END:
        reader->ended = true;
        break;
    case TYPE_SEGMENT:
    case TYPE_LINEAR:
        reader->segmented = type == TYPE_SEGMENT;
        reader->base = big_endian(data, 2) << (reader->segmented ? 4 : 16);
        break;
    default:
        reader->start = big_endian(data, 4);
        reader->has_start = true;
        break;
    }
    return CM_OK;
}

static int digit_value(char c)
{
    unsigned digit = (unsigned char)c - (unsigned)'0', letter = ((unsigned char)c | 0x20u) - (unsigned)'a';
    return digit < 10 ? (int)digit : letter < 6 ? (int)letter + 10 : -1;
}

static enum cm_status take_byte(struct cm_hex_reader *reader, uint8_t byte)
{
    reader->record[reader->have++] = byte;
    reader->sum = (uint8_t)(reader->sum + byte);
    if (reader->have < HEAD || reader->have < (uint16_t)(reader->record[0] + HEAD + 1))
        return CM_OK;
    reader->in_record = false;
    reader->after_record = true;
    return take_record(reader);
}

static enum cm_status take_digit(struct cm_hex_reader *reader, char c)
{
    int value = digit_value(c);
    if (value < 0)
        return fail(reader, CM_HEX_NOT_A_DIGIT);
    reader->half = !reader->half;
    if (!reader->half)
        return take_byte(reader, (uint8_t)(reader->record[reader->have] | value));
    reader->record[reader->have] = (uint8_t)(value << 4);
    return CM_OK;
}

/* Most of a file is pairs of digits: takes as many as there are, and leaves all else to take_character. */
static size_t take_pairs(struct cm_hex_reader *reader, const char *text, size_t bytes, enum cm_status *status)
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

static enum cm_status end_line(struct cm_hex_reader *reader)
{
    if (reader->in_record)
        return fail(reader, CM_HEX_TOO_SHORT);
    reader->after_record = false;
    reader->line++;
    reader->column = 0;
    return CM_OK;
}

static enum cm_status begin_record(struct cm_hex_reader *reader, char c)
{
    if (c != ':')
        return fail(reader, CM_HEX_NO_COLON);
    if (reader->ended)
        return fail(reader, CM_HEX_AFTER_END);
    reader->in_record = true;
    reader->have = 0;
    reader->sum = 0;
    return CM_OK;
}

static enum cm_status take_character(struct cm_hex_reader *reader, char c)
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
    if (c == ' ' || c == '\t')
        return CM_OK;
    return reader->after_record ? fail(reader, CM_HEX_TOO_LONG) : begin_record(reader, c);
}

enum cm_status cm_hex_feed(struct cm_hex_reader *reader, const char *text, size_t bytes)
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

enum cm_status cm_hex_end(struct cm_hex_reader *reader)
{
    if (reader->fault)
        return CM_BAD_IMAGE;
    if (reader->in_record)
        return fail(reader, CM_HEX_TOO_SHORT);
    return reader->ended ? CM_OK : fail(reader, CM_HEX_NO_END);
}

static const char *const FAULT_WORDS[CM_HEX_FAULT_COUNT] = {
    [CM_HEX_FINE] = "no fault",
    [CM_HEX_NO_COLON] = "a record must begin with ':'",
    [CM_HEX_NOT_A_DIGIT] = "not a hexadecimal digit",
    [CM_HEX_TOO_SHORT] = "the line ends before its record does",
    [CM_HEX_TOO_LONG] = "more on the line than its record holds",
    [CM_HEX_CHECKSUM] = "the checksum is wrong",
    [CM_HEX_TYPE] = "no such record type",
    [CM_HEX_TYPE_LENGTH] = "wrong length for its record type",
    [CM_HEX_AFTER_END] = "a record behind the end-of-file record",
    [CM_HEX_NO_END] = "the end-of-file record is missing",
    [CM_HEX_SINK] = "the data cannot be taken",
};

const char *cm_hex_fault_word(enum cm_hex_fault fault)
{
    return fault < CM_HEX_FAULT_COUNT ? FAULT_WORDS[fault] : "unknown fault";
}

enum cm_status cm_hex_into_image(void *image, uint32_t address, const uint8_t *bytes, uint32_t count, uint32_t line)
{
    return cm_image_add(image, address, bytes, count, line);
}

void cm_hex_write_begin(struct cm_hex_writer *writer, cm_text_fn *text, void *context)
{
    *writer = (struct cm_hex_writer){.text = text, .context = context};
}

enum { WRITTEN_BYTES = 16 };

static enum cm_status write_record(struct cm_hex_writer *writer, uint8_t type, uint16_t offset, const uint8_t *bytes, uint8_t count)
{
    static const char DIGITS[] = "0123456789ABCDEF";
    uint8_t record[HEAD + WRITTEN_BYTES + 1] = {count, (uint8_t)(offset >> 8), (uint8_t)offset, type};
    char text[1 + 2 * sizeof record + 1] = ":";
    if (count)
        memcpy(record + HEAD, bytes, count);
    uint32_t length = (uint32_t)(HEAD + count), sum = 0;
    for (uint32_t i = 0; i < length; i++)
        sum += record[i];
    record[length++] = (uint8_t)(0u - sum);
    for (uint32_t i = 0; i < length; i++) {
        text[1 + 2 * i] = DIGITS[record[i] >> 4];
        text[2 + 2 * i] = DIGITS[record[i] & 15];
    }
    text[1 + 2 * length] = '\n';
    return writer->text(writer->context, text, 2 + 2 * length);
}

enum cm_status cm_hex_write(struct cm_hex_writer *writer, uint32_t address, const uint8_t *bytes, uint32_t count)
{
    enum cm_status status = CM_OK;
    for (uint32_t done = 0; done < count && !status;) {
        uint32_t at = address + done, part = WRITTEN_BYTES - at % WRITTEN_BYTES;
        if (part > count - done)
            part = count - done;
        if (at >> 16 != writer->upper) {
            writer->upper = (uint16_t)(at >> 16);
            uint8_t upper[2] = {(uint8_t)(at >> 24), (uint8_t)(at >> 16)};
            status = write_record(writer, TYPE_LINEAR, 0, upper, sizeof upper);
        }
        if (!status)
            status = write_record(writer, TYPE_DATA, (uint16_t)at, bytes + done, (uint8_t)part);
        done += part;
    }
    return status;
}

enum cm_status cm_hex_write_end(struct cm_hex_writer *writer)
{
    return write_record(writer, TYPE_END, 0, NULL, 0);
}
