/*
 * Makes the contents of the tune store: sixty tunes for eight bells, each a method of change
 * ringing that goes on until its room is full. And of the older melody ROM: eight banks, a tune
 * each.
 *
 *     demo-tunes first  > store.bin           the store as it hangs in the tower
 *     demo-tunes second > store-2.bin         the same with one tune rewritten: "evening"
 *     demo-tunes melody > melody.bin          the melody ROM, 512 KiB
 *     demo-tunes harvest > harvest.bin        a new tune for one of its banks
 *
 * Format of the store, ours: at 0 "LARKSPUR TUNES", a version and a count; then 32 bytes a tune:
 * name (20), offset (4), bytes (4), tempo (4), least significant byte first. A tune is a row of
 * notes of four bytes: pause in hundredths of a second (2), bell, force. A bank of the melody ROM
 * has "LARKSPUR MELODY" and a name (16 each), and then its notes.
 */
#include <stdint.h>
#include <stdio.h>
#include <string.h>

enum {
    BELLS = 8,
    TUNES = 60,
    ROOM = 65536,
    TUNE_BYTES = 40960,
    STORE_BYTES = 4 << 20,
    ENTRY = 32,
    CHANGED = 37,
    BANKS = 8,
    MELODY_BYTES = BANKS * ROOM,
    HEAD = 32
};

static uint8_t store[STORE_BYTES];

static void put_number(uint8_t *at, uint32_t value)
{
    for (int i = 0; i < 4; i++)
        at[i] = (uint8_t)(value >> 8 * i);
}

/* Plain hunt: neighbours change places, pair by pair, from the first bell and from the second in
 * turn; every so many rows the tune's number swaps two more. */
static void change_rows(uint8_t *row, unsigned count, unsigned tune)
{
    for (unsigned i = count % 2; i + 1 < BELLS; i += 2) {
        uint8_t bell = row[i];
        row[i] = row[i + 1];
        row[i + 1] = bell;
    }
    if (count % (2 * BELLS) == 2 * BELLS - 1) {
        unsigned a = (tune + count) % (BELLS - 1);
        uint8_t bell = row[a];
        row[a] = row[a + 1];
        row[a + 1] = bell;
    }
}

static void make_tune(uint8_t *tune, unsigned number, unsigned edition, uint32_t bytes)
{
    uint8_t row[BELLS];
    uint32_t at = 0;
    for (unsigned i = 0; i < BELLS; i++)
        row[i] = (uint8_t)(i + 1);
    for (unsigned count = 0; at + 4 * BELLS <= bytes; count++) {
        for (unsigned i = 0; i < BELLS; i++, at += 4) {
            unsigned pause = (i == 0 ? 40 : 20) + number % 7 + edition;
            tune[at] = (uint8_t)pause;
            tune[at + 1] = (uint8_t)(pause >> 8);
            tune[at + 2] = row[i];
            tune[at + 3] = (uint8_t)(90 + (count * 5 + i * 3 + number + 11 * edition) % 60);
        }
        change_rows(row, count, number + edition);
    }
}

/* A bank of the melody ROM. Returns how much of it is used. */
static uint32_t make_bank(uint8_t *bank, unsigned number, const char *name)
{
    uint32_t bytes = 12288 + number * 6144;
    memset(bank, 0, HEAD);
    memcpy(bank, "LARKSPUR MELODY", 15);
    memcpy(bank + 16, name, strlen(name));
    make_tune(bank + HEAD, 3 * number + 1, 0, bytes);
    return HEAD + bytes;
}

static int write_all(uint32_t bytes)
{
    return fwrite(store, 1, bytes, stdout) == bytes ? 0 : 1;
}

static int make_melody(void)
{
    static const char *const NAMES[BANKS] = {"the hours",   "candlemas", "may morning", "midsummer",
                                             "all hallows", "advent",    "new year",    ""};
    memset(store, 0xFF, MELODY_BYTES);
    for (unsigned i = 0; i < BANKS && NAMES[i][0]; i++)
        make_bank(store + i * ROOM, i, NAMES[i]);
    return write_all(MELODY_BYTES);
}

int main(int argc, char **argv)
{
    if (argc > 1 && strcmp(argv[1], "melody") == 0)
        return make_melody();
    if (argc > 1 && strcmp(argv[1], "harvest") == 0)
        return write_all(make_bank(store, BANKS, "harvest home"));
    unsigned edition = argc > 1 && strcmp(argv[1], "second") == 0;
    memset(store, 0xFF, sizeof store);
    memcpy(store, "LARKSPUR TUNES\0\1", 16);
    put_number(store + 16, TUNES);
    for (unsigned i = 0; i < TUNES; i++) {
        uint8_t *entry = store + ENTRY * (i + 1);
        memset(entry, 0, ENTRY);
        snprintf((char *)entry, 20, i == CHANGED ? "evening" : "method %u", i + 1);
        put_number(entry + 20, ROOM * (i + 1));
        put_number(entry + 24, TUNE_BYTES);
        put_number(entry + 28, 180 + i);
        make_tune(store + ROOM * (i + 1), i, i == CHANGED ? edition : 0, TUNE_BYTES);
    }
    return write_all(sizeof store);
}
