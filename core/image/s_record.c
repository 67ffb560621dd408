/*
 * Motorola S-record.
 *
 *     Sn  LL  AA..AA  DD...DD  CC
 *     |   |   |       |        one's complement of the sum of all bytes before it
 *     |   |   |       data
 *     |   |   address, most significant byte first, 2 to 4 bytes
 *     |   number of bytes that follow: address, data, checksum
 *     0 header; 1, 2, 3 data; 5, 6 number of data records so far; 7, 8, 9 start address, and
 *         the end
 */
#include "records.h"
#include <string.h>

enum { SHORTEST_ADDRESS = 2 };

// Bytes of the address, by type 0 to 9; 0: reserved.
static const uint8_t ADDRESS_BYTES[10] = {2, 2, 3, 4, 0, 2, 3, 4, 3, 2};

enum cm_status cm_motorola_take(struct cm_record_reader *reader)
{
    uint8_t counted = reader->record[0], address_bytes = ADDRESS_BYTES[reader->type - '0'];
    if (reader->sum != 0xFF) {
        reader->found = reader->record[reader->have - 1];
        reader->expected = (uint8_t)(reader->found - reader->sum + 0xFF);
        return cm_record_fail(reader, CM_RECORD_CHECKSUM);
    }
    bool is_data = reader->type >= '1' && reader->type <= '3', is_header = reader->type == '0';
    if (counted < address_bytes + 1 || (!is_data && !is_header && counted != address_bytes + 1))
        return cm_record_fail(reader, CM_RECORD_TYPE_LENGTH);
    uint32_t address = cm_big_endian(reader->record + 1, address_bytes),
             count = (uint32_t)(counted - address_bytes - 1);
    if (is_header)
        return CM_OK;
    if (is_data) {
        reader->data_records++;
        return cm_record_give(reader, address, reader->record + 1 + address_bytes, count);
    }
    if (reader->type == '5' || reader->type == '6') {
        uint32_t mask = reader->type == '5' ? 0xFFFF : 0xFFFFFF;
        return address == (reader->data_records & mask) ? CM_OK
                                                        : cm_record_fail(reader, CM_RECORD_COUNT);
    }
    reader->start = address;
    reader->has_start = reader->ended = true;
    return CM_OK;
}

static enum cm_status write_record(struct cm_record_writer *writer, char type, uint32_t address,
                                   const uint8_t *bytes, uint8_t count)
{
    char mark[3] = {'S', type, '\0'};
    uint8_t address_bytes = ADDRESS_BYTES[type - '0'];
    uint8_t record[RECORD_BYTES] = {(uint8_t)(address_bytes + count + 1)};
    uint32_t length = 1, sum = 0;
    for (uint8_t i = address_bytes; i > 0; i--)
        record[length++] = (uint8_t)(address >> (8 * (i - 1)));
    if (count)
        memcpy(record + length, bytes, count);
    length += count;
    for (uint32_t i = 0; i < length; i++)
        sum += record[i];
    record[length++] = (uint8_t)~sum;
    return cm_record_line(writer, mark, record, length);
}

enum cm_status cm_motorola_write(struct cm_record_writer *writer, uint32_t address,
                                 const uint8_t *bytes, uint8_t count)
{
    uint8_t address_bytes = address >> 24 ? 4 : address >> 16 ? 3 : 2;
    if (address_bytes > writer->address_bytes)
        writer->address_bytes = address_bytes;
    return write_record(writer, (char)('1' + address_bytes - SHORTEST_ADDRESS), address, bytes,
                        count);
}

/* The number of records, so that a line that is missing shows, where it fits; and the end. */
enum cm_status cm_motorola_write_end(struct cm_record_writer *writer)
{
    uint32_t records = writer->data_records;
    uint8_t address_bytes =
        writer->address_bytes > SHORTEST_ADDRESS ? writer->address_bytes : SHORTEST_ADDRESS;
    enum cm_status status = CM_OK;
    if (records <= 0xFFFFFF)
        status = write_record(writer, records <= 0xFFFF ? '5' : '6', records, NULL, 0);
    return status
               ? status
               : write_record(writer, (char)('9' - (address_bytes - SHORTEST_ADDRESS)), 0, NULL, 0);
}
