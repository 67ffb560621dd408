/*
 * Intel HEX.
 *
 *     :  LL  AAAA  TT  DD...DD  CC
 *        |   |     |   |        two's complement of the sum of all bytes before it
 *        |   |     |   LL bytes of data
 *        |   |     00 data, 01 end of file, 02 segment base, 03 CS:IP, 04 upper 16 address bits,
 *        |   |     05 start address
 *        |   address, most significant byte first
 *        number of data bytes
 */
#include "records.h"
#include <string.h>

enum {
    HEAD = 4,
    TYPE_DATA = 0,
    TYPE_END,
    TYPE_SEGMENT,
    TYPE_START_SEGMENT,
    TYPE_LINEAR,
    TYPE_START_LINEAR,
    TYPE_COUNT
};

enum { ANY_LENGTH = 0xFF };
static const uint8_t TYPE_LENGTHS[TYPE_COUNT] = {ANY_LENGTH, 0, 2, 4, 2, 4};

/* Data wraps at the end of its 64 KiB segment, or of the 32-bit address space. */
static enum cm_status give_data(struct cm_record_reader *reader, uint32_t offset,
                                const uint8_t *bytes, uint32_t count)
{
    uint32_t first = count;
    uint32_t start = reader->base + offset;
    if (reader->segmented && offset + count > 0x10000)
        first = 0x10000 - offset;
    else if (!reader->segmented && start > UINT32_MAX - (count ? count - 1 : 0))
        first = UINT32_MAX - start + 1;
    enum cm_status status = cm_record_give(reader, start, bytes, first);
    return status ? status
                  : cm_record_give(reader, reader->segmented ? reader->base : 0, bytes + first,
                                   count - first);
}

enum cm_status cm_intel_take(struct cm_record_reader *reader)
{
    uint8_t length = reader->record[0], type = reader->record[3];
    const uint8_t *data = reader->record + HEAD;
    if (reader->sum != 0) {
        reader->found = data[length];
        reader->expected = (uint8_t)(data[length] - reader->sum);
        return cm_record_fail(reader, CM_RECORD_CHECKSUM);
    }
    if (type >= TYPE_COUNT)
        return cm_record_fail(reader, CM_RECORD_TYPE);
    if (TYPE_LENGTHS[type] != ANY_LENGTH && TYPE_LENGTHS[type] != length)
        return cm_record_fail(reader, CM_RECORD_TYPE_LENGTH);
    switch (type) {
    case TYPE_DATA:
        return give_data(reader, cm_big_endian(reader->record + 1, 2), data, length);
    case TYPE_END:
        reader->ended = true;
        break;
    case TYPE_SEGMENT:
    case TYPE_LINEAR:
        reader->segmented = type == TYPE_SEGMENT;
        reader->base = cm_big_endian(data, 2) << (reader->segmented ? 4 : 16);
        break;
    default:
        reader->start = cm_big_endian(data, 4);
        reader->has_start = true;
        break;
    }
    return CM_OK;
}

static enum cm_status write_record(struct cm_record_writer *writer, uint8_t type, uint16_t offset,
                                   const uint8_t *bytes, uint8_t count)
{
    uint8_t record[RECORD_BYTES] = {count, (uint8_t)(offset >> 8), (uint8_t)offset, type};
    uint32_t length = (uint32_t)(HEAD + count), sum = 0;
    if (count)
        memcpy(record + HEAD, bytes, count);
    for (uint32_t i = 0; i < length; i++)
        sum += record[i];
    record[length++] = (uint8_t)(0u - sum);
    return cm_record_line(writer, ":", record, length);
}

enum cm_status cm_intel_write(struct cm_record_writer *writer, uint32_t address,
                              const uint8_t *bytes, uint8_t count)
{
    enum cm_status status = CM_OK;
    if (address >> 16 != writer->upper) {
        writer->upper = (uint16_t)(address >> 16);
        uint8_t upper[2] = {(uint8_t)(address >> 24), (uint8_t)(address >> 16)};
        status = write_record(writer, TYPE_LINEAR, 0, upper, sizeof upper);
    }
    return status ? status : write_record(writer, TYPE_DATA, (uint16_t)address, bytes, count);
}

enum cm_status cm_intel_write_end(struct cm_record_writer *writer)
{
    return write_record(writer, TYPE_END, 0, NULL, 0);
}
