/*
 * CRC-32 as in core/capsule/crc32.c, with its tables in flash, and both nibbles of a byte at once:
 * the table of a byte is the sum of those of its nibbles.
 */
#include "../../core/capsule/crc32.h"
#include <avr/pgmspace.h>

static const uint32_t LOW[16] PROGMEM = {
    0x00000000, 0x77073096, 0xEE0E612C, 0x990951BA, 0x076DC419, 0x706AF48F, 0xE963A535, 0x9E6495A3,
    0x0EDB8832, 0x79DCB8A4, 0xE0D5E91E, 0x97D2D988, 0x09B64C2B, 0x7EB17CBD, 0xE7B82D07, 0x90BF1D91};
static const uint32_t HIGH[16] PROGMEM = {
    0x00000000, 0x1DB71064, 0x3B6E20C8, 0x26D930AC, 0x76DC4190, 0x6B6B51F4, 0x4DB26158, 0x5005713C,
    0xEDB88320, 0xF00F9344, 0xD6D6A3E8, 0xCB61B38C, 0x9B64C2B0, 0x86D3D2D4, 0xA00AE278, 0xBDBDF21C};

uint32_t cm_crc32(uint32_t crc, const uint8_t *bytes, size_t count)
{
    crc = ~crc;
    for (; count; count--, bytes++) {
        uint8_t index = (uint8_t)((uint8_t)crc ^ *bytes);
        crc = crc >> 8 ^ pgm_read_dword(&LOW[index & 15]) ^ pgm_read_dword(&HIGH[index >> 4]);
    }
    return ~crc;
}
