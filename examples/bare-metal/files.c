/*
 * Files of the computer on which an emulated board runs, by Arm semihosting: a capsule to read, and
 * a player's store. A board of one's own has flash chips there.
 */
#include "files.h"
#include <string.h>

enum { OPEN = 0x01, WRITE = 0x05, READ = 0x06, SEEK = 0x0A, LENGTH = 0x0C };
enum { READ_BINARY = 1, UPDATE_BINARY = 3, NEW_BINARY = 7 };

static int open_file(const char *name, int mode)
{
    const uint32_t block[3] = {(uint32_t)(uintptr_t)name, (uint32_t)mode, (uint32_t)strlen(name)};
    return call_host(OPEN, block);
}

/* Semihosting returns how many bytes were not moved. */
static enum cm_status move(int operation, int file, uint32_t offset, const void *bytes,
                           uint32_t count)
{
    const uint32_t place[2] = {(uint32_t)file, offset};
    const uint32_t block[3] = {(uint32_t)file, (uint32_t)(uintptr_t)bytes, count};
    bool good = call_host(SEEK, place) == 0 && call_host(operation, block) == 0;
    return good ? CM_OK : CM_PORT_FAILED;
}

/* --- the capsule ------------------------------------------------------------------------- */

static enum cm_status read_capsule(void *context, uint32_t offset, uint8_t *bytes, uint32_t count)
{
    return move(READ, *(int *)context, offset, bytes, count);
}

bool files_capsule(const char *name, struct cm_capsule_input *input)
{
    static int file;
    file = open_file(name, READ_BINARY);
    const uint32_t block[1] = {(uint32_t)file};
    *input = (struct cm_capsule_input){&file, read_capsule,
                                       file < 0 ? 0 : (uint32_t)call_host(LENGTH, block)};
    return file >= 0;
}

/* --- the store --------------------------------------------------------------------------- */

enum { HALF = 512 };
static int store_file;

static enum cm_status read_store(void *context, uint32_t offset, uint8_t *bytes, uint32_t count)
{
    (void)context;
    return move(READ, store_file, offset, bytes, count);
}

static enum cm_status write_store(void *context, uint32_t offset, const uint8_t *bytes,
                                  uint32_t count)
{
    (void)context;
    return move(WRITE, store_file, offset, bytes, count);
}

static enum cm_status erase_store(void *context, uint8_t half)
{
    uint8_t blank[HALF];
    memset(blank, 0xFF, sizeof blank);
    return write_store(context, (uint32_t)half * HALF, blank, sizeof blank);
}

const struct cm_store *files_store(const char *name)
{
    static const struct cm_store STORE = {NULL, read_store, write_store, erase_store, HALF};
    store_file = open_file(name, UPDATE_BINARY);
    if (store_file >= 0)
        return &STORE;
    store_file = open_file(name, NEW_BINARY);
    bool is_new = store_file >= 0 && erase_store(NULL, 0) == CM_OK && erase_store(NULL, 1) == CM_OK;
    return is_new ? &STORE : NULL;
}
