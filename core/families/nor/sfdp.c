/*
 * SFDP, JESD216 (first edition, and revisions A to F): header, parameter headers, basic flash
 * parameter table, 4-byte address instruction table.
 *
 *     00  "SFDP"  minor  major  headers-1  protocol         the header
 *     08  id  minor  major  dwords  pointer(3)  id          a parameter header, eight bytes each;
 *                                                           the first is the basic table's
 *
 * All numbers have their least significant byte first. A table is a row of 32-bit words that the
 * standard counts from 1: so do we.
 */
#include <coldmint/sfdp.h>
#include <string.h>

enum {
    HEADER_BYTES = 8,
    MOST_HEADERS = 16, // more have not been seen; later ones are makers' own
    BASIC = 0xFF00,    // the two bytes of the id
    ADDRESS_4 = 0xFF84,
    FIRST_BASIC_DWORDS = 9,
    DRAFT_BASIC_DWORDS =
        4, // parts of revision 1.0 have as few: size and the 4 KiB erase are in them
    MOST_DWORDS = 23,
    SMALLEST_SIZE_BITS = 12, // an erase type of 4096 bytes is usual, one of 256 the smallest
    LARGEST_SIZE_BITS = 31,
    DEFAULT_PAGE_BYTES = 256
};

struct table {
    uint32_t pointer;
    uint8_t dwords, major, minor;
};

/* The words of a table; word(1) is the first, and those beyond its end are 0. */
struct words {
    uint32_t values[MOST_DWORDS];
    uint8_t count;
};

static uint32_t word(const struct words *words, uint8_t number)
{
    return number <= words->count ? words->values[number - 1] : 0;
}

/* Bits `last` to `first` of a word, as the standard's tables name them. */
static uint32_t bits(uint32_t value, uint8_t last, uint8_t first)
{
    return value >> first & ((2u << (last - first)) - 1);
}

/* --- header and parameter headers -------------------------------------------------------- */

/* Finds the newest basic table and the 4-byte table; those that are absent have no words. */
static enum cm_sfdp_fault find_tables(cm_sfdp_read_fn *read, void *context, struct table *basic,
                                      struct table *address_4)
{
    uint8_t header[HEADER_BYTES];
    if (read(context, 0, header, HEADER_BYTES) != CM_OK)
        return CM_SFDP_UNREAD;
    if (memcmp(header, "SFDP", 4) != 0)
        return CM_SFDP_ABSENT;
    uint32_t headers = header[6] + 1u;
    bool is_first =
        header[4] ==
        0; // revision 1.0: the first header is the basic table's, and has the maker's id
    for (uint32_t i = 0; i < headers && i < MOST_HEADERS; i++) {
        if (read(context, HEADER_BYTES * (i + 1), header, HEADER_BYTES) != CM_OK)
            return CM_SFDP_UNREAD;
        struct table table = {header[4] | (uint32_t)header[5] << 8 | (uint32_t)header[6] << 16,
                              header[3], header[2], header[1]};
        uint16_t id = (uint16_t)(header[7] << 8 | header[0]);
        bool is_basic =
            id == BASIC ||
            (i == 0 && (is_first || header[0] == 0x00)); // the first edition has no second id byte
        if (table.major != 1)
            continue;
        if (is_basic && (basic->dwords == 0 || table.minor >= basic->minor))
            *basic = table;
        else if (id == ADDRESS_4)
            *address_4 = table;
    }
    uint8_t least = is_first && basic->minor == 0 ? DRAFT_BASIC_DWORDS : FIRST_BASIC_DWORDS;
    if (basic->dwords == 0)
        return CM_SFDP_NO_BASIC;
    return basic->dwords < least ? CM_SFDP_SHORT : CM_SFDP_OK;
}

static enum cm_sfdp_fault read_table(cm_sfdp_read_fn *read, void *context,
                                     const struct table *table, struct words *words)
{
    uint8_t bytes[4];
    words->count = table->dwords < MOST_DWORDS ? table->dwords : MOST_DWORDS;
    for (uint8_t i = 0; i < words->count; i++) {
        if (read(context, table->pointer + 4u * i, bytes, sizeof bytes) != CM_OK)
            return CM_SFDP_UNREAD;
        words->values[i] = bytes[0] | (uint32_t)bytes[1] << 8 | (uint32_t)bytes[2] << 16 |
                           (uint32_t)bytes[3] << 24;
    }
    return CM_SFDP_OK;
}

/* --- the basic table --------------------------------------------------------------------- */

/* DWORD 2: bits less one, or the power of two of the bits. */
static uint32_t size_bytes(uint32_t density)
{
    uint32_t power = density & 0x7FFFFFFF;
    if (!(density >> 31)) {
        uint32_t bytes = density / 8 + 1;
        return (density & 7) == 7 && (bytes & (bytes - 1)) == 0 ? bytes : 0;
    }
    return power >= SMALLEST_SIZE_BITS + 3 && power <= LARGEST_SIZE_BITS + 3 ? 1u << (power - 3)
                                                                             : 0;
}

/* A time as the standard packs it: a count less one, of so many units. */
static uint32_t time_us(uint32_t count, uint32_t unit_us)
{
    return (count + 1) * unit_us;
}

/* DWORD 10, from bit 4 on, seven bits a type; its lowest four tell how much longer the longest
 * takes. */
static void read_erase_times(const struct words *basic, uint8_t type, struct cm_sfdp_erase *erase)
{
    static const uint32_t UNITS_US[] = {1000, 16000, 128000, 1000000};
    uint32_t times = word(basic, 10), own = times >> (4 + 7 * type);
    if (basic->count < 10)
        return;
    erase->typical_us = time_us(bits(own, 4, 0), UNITS_US[bits(own, 6, 5)]);
    erase->max_us = 2 * (bits(times, 3, 0) + 1) * erase->typical_us;
}

/* Puts an erase type among the others, the smallest first. */
static void insert_erase(struct cm_sfdp *sfdp, const struct cm_sfdp_erase *erase)
{
    uint8_t at = 0;
    while (at < CM_SFDP_ERASES - 1 && sfdp->erases[at].bytes &&
           sfdp->erases[at].bytes < erase->bytes)
        at++;
    for (uint8_t i = CM_SFDP_ERASES - 1; i > at; i--)
        sfdp->erases[i] = sfdp->erases[i - 1];
    sfdp->erases[at] = *erase;
}

/* DWORDs 8 and 9: size as a power of two, and opcode, of four types; the second table has opcodes
 * for 4-byte addresses. */
static enum cm_sfdp_fault read_erases(const struct words *basic, const struct words *address_4,
                                      struct cm_sfdp *sfdp)
{
    for (uint8_t type = 0; type < CM_SFDP_ERASES; type++) {
        uint32_t pair = word(basic, (uint8_t)(8 + type / 2)) >> 16 * (type % 2),
                 power = bits(pair, 7, 0);
        struct cm_sfdp_erase erase = {.opcode = (uint8_t)bits(pair, 15, 8)};
        if (power == 0)
            continue;
        if (power > LARGEST_SIZE_BITS || 1u << power > sfdp->bytes || power < 8)
            return CM_SFDP_ERASE_TYPE;
        erase.bytes = 1u << power;
        if (word(address_4, 1) >> (9 + type) & 1)
            erase.opcode_4 =
                (uint8_t)bits(word(address_4, 2), (uint8_t)(7 + 8 * type), (uint8_t)(8 * type));
        read_erase_times(basic, type, &erase);
        insert_erase(sfdp, &erase);
    }
    bool small_only = !sfdp->erases[0].bytes &&
                      bits(word(basic, 1), 1, 0) == 1; // DWORD 1 has the opcode for 4 KiB
    if (small_only)
        sfdp->erases[0] =
            (struct cm_sfdp_erase){.bytes = 4096, .opcode = (uint8_t)bits(word(basic, 1), 15, 8)};
    return sfdp->erases[0].bytes ? CM_SFDP_OK : CM_SFDP_ERASE_TYPE;
}

/* DWORD 11: page size and the times of a page and of the whole chip. */
static void read_program(const struct words *basic, struct cm_sfdp *sfdp)
{
    static const uint32_t CHIP_UNITS_US[] = {16000, 256000, 4000000, 64000000};
    uint32_t times = word(basic, 11), longest = 2 * (bits(times, 3, 0) + 1),
             power = bits(times, 7, 4);
    sfdp->page_bytes = DEFAULT_PAGE_BYTES;
    if (basic->count < 11)
        return;
    if (power >= 3)
        sfdp->page_bytes = (uint16_t)(1u << power);
    sfdp->program_us = time_us(bits(times, 12, 8), bits(times, 13, 13) ? 64 : 8);
    sfdp->program_max_us = longest * sfdp->program_us;
    sfdp->chip_erase_us = time_us(bits(times, 28, 24), CHIP_UNITS_US[bits(times, 30, 29)]);
    uint64_t most_us = (uint64_t)2 * (bits(word(basic, 10), 3, 0) + 1) * sfdp->chip_erase_us;
    sfdp->chip_erase_max_us = most_us < UINT32_MAX ? (uint32_t)most_us : UINT32_MAX;
}

/* DWORDs 1, 14, 15 and 16: status register, busy, addresses, reset. */
static void read_manners(const struct words *basic, struct cm_sfdp *sfdp)
{
    uint32_t first = word(basic, 1), reset = word(basic, 16);
    uint8_t addresses = (uint8_t)bits(first, 18, 17);
    sfdp->addresses = addresses <= CM_SFDP_ADDRESS_4 ? addresses : CM_SFDP_ADDRESS_3;
    sfdp->status_is_volatile = bits(first, 3, 3);
    sfdp->enable_status = bits(first, 4, 4) ? 0x06 : 0x50;
    sfdp->busy_in_flag_status =
        basic->count >= 14 && bits(word(basic, 14), 3, 3) && !bits(word(basic, 14), 2, 2);
    sfdp->quad_enable = (uint8_t)bits(word(basic, 15), 22, 20);
    sfdp->resets_by_66_99 = bits(reset, 12, 12);
    sfdp->enter_4 = (uint8_t)bits(reset, 30, 24);
}

static enum cm_sfdp_fault parse(cm_sfdp_read_fn *read, void *context, struct cm_sfdp *sfdp)
{
    struct table basic_table = {0}, address_table = {0};
    struct words basic, address_4;
    memset(sfdp, 0, sizeof *sfdp);
    enum cm_sfdp_fault fault = find_tables(read, context, &basic_table, &address_table);
    if (!fault)
        fault = read_table(read, context, &basic_table, &basic);
    if (!fault)
        fault = read_table(read, context, &address_table, &address_4);
    if (fault)
        return fault;
    sfdp->major = basic_table.major;
    sfdp->minor = basic_table.minor;
    sfdp->bytes = size_bytes(word(&basic, 2));
    if (sfdp->bytes == 0)
        return CM_SFDP_SIZE;
    read_manners(&basic, sfdp);
    read_program(&basic, sfdp);
    sfdp->read_4 = bits(word(&address_4, 1), 0, 0) ? 0x13 : 0;
    sfdp->program_4 = bits(word(&address_4, 1), 6, 6) ? 0x12 : 0;
    return read_erases(&basic, &address_4, sfdp);
}

enum cm_status cm_sfdp_parse(cm_sfdp_read_fn *read, void *context, struct cm_sfdp *sfdp,
                             enum cm_sfdp_fault *fault)
{
    *fault = parse(read, context, sfdp);
    return *fault ? CM_BAD_IMAGE : CM_OK;
}
