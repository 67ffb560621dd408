/*
 * The whole job on a memory, without an operating system: who is there, keep what it holds, protect
 * it, see that a write is refused, write it all the same with the protection put back, change a
 * little, blank it, and restore what was there.
 *
 * Prints a line a step; the exit code is the number of steps that went wrong.
 */
#include "board.h"
#include <coldmint/coldmint.h>
#include <string.h>

#ifndef WINDOW_KIB
#define WINDOW_KIB 96
#endif
enum {
    WINDOW = WINDOW_KIB * 1024,
    TUNE = 5000
}; // at the end of the chip, so that large ones show all their address bits

static uint8_t workspace[1 << 20];
static uint8_t kept[WINDOW], wanted[WINDOW], found[WINDOW];
static struct cm_session session;
static uint32_t first, bytes;
static int failures;

static void say_hex(uint32_t value, int digits)
{
    char text[9] = {0};
    for (int i = 0; i < digits; i++)
        text[i] = "0123456789ABCDEF"[value >> 4 * (digits - 1 - i) & 15];
    board_say(text);
}

/* One line a step: what, and whether it came out as it should. */
static bool step(const char *what, enum cm_status status, enum cm_status due)
{
    bool good = status == due;
    board_say(good ? "  good   " : "  WRONG  ");
    board_say(what);
    if (!good) {
        board_say(": ");
        board_say(cm_status_word(status));
        board_say(" at 0x");
        say_hex(session.failure.address, 8);
        board_say(", found ");
        say_hex(session.failure.found, 2);
        board_say(" for ");
        say_hex(session.failure.expected, 2);
        failures++;
    }
    board_say("\n");
    return good;
}

static void fill(uint8_t *target, uint32_t count, uint32_t seed)
{
    for (uint32_t i = 0; i < count; i++) {
        seed = seed * 1664525u + 1013904223u;
        target[i] = (uint8_t)(seed >> 24);
    }
}

static enum cm_status put(struct cm_source source, bool unprotect)
{
    struct cm_want want = {CM_REGION_MAIN, source};
    struct cm_put job = {
        .wants = &want, .want_count = 1, .unprotect = unprotect, .carry.in_memory = true};
    struct cm_report report;
    return cm_put(&session, &job, &report);
}

static enum cm_status put_bytes(uint8_t *contents, uint32_t at, uint32_t count, bool unprotect)
{
    struct cm_memory memory = {contents, count, at};
    return put(cm_memory_source(&memory), unprotect);
}

/* Read by another way than the engine's, and compared here. */
static enum cm_status holds(const uint8_t *contents)
{
    enum cm_status status = cm_read(&session, CM_REGION_MAIN, first, found, bytes);
    return status ? status : memcmp(found, contents, bytes) == 0 ? CM_OK : CM_DIFFERS;
}

/* Protection: set, refused, written all the same, found as it was. Chips whose registers do not
 * take it are told so. */
static void try_protection(void)
{
    struct cm_guard before, guarded, now;
    step("registers are read", cm_guard_look(&session, &before), CM_OK);
    guarded = before;
    bool is_spi = session.family->bus == &cm_bus_spi;
    if (is_spi) // a larger area will do as well
        cm_ignore(cm_nor_guard_choose(session.part, &guarded, 0, first + bytes));
    bool set = is_spi && !guarded.by_sector && guarded.bytes &&
               cm_guard_restore(&session, &guarded) == CM_OK;
    board_say(set ? "  good   protected\n" : "  note   this chip takes no protection\n");
    if (set)
        step("a write is refused", put_bytes(wanted, first, bytes, false), CM_PROTECTED);
    step("written, protection lifted for it", put_bytes(wanted, first, bytes, true), CM_OK);
    step("it holds that", holds(wanted), CM_OK);
    if (!set)
        return;
    step("registers are read again", cm_guard_look(&session, &now), CM_OK);
    step("the same bytes are back",
         memcmp(now.registers, guarded.registers, sizeof now.registers) == 0 ? CM_OK : CM_DIFFERS,
         CM_OK);
    step("protection is as it was at first", cm_guard_restore(&session, &before), CM_OK);
}

static void work(void)
{
    struct cm_region region;
    cm_region(&session, CM_REGION_MAIN, &region);
    bytes = region.bytes < WINDOW ? region.bytes : WINDOW;
    first = region.bytes - bytes;
    struct cm_blank_area blank = {first, bytes, region.erased};
    step("kept", cm_read_twice(&session, CM_REGION_MAIN, first, kept, bytes), CM_OK);
    fill(wanted, bytes, 1);
    try_protection();
    fill(wanted + bytes / 3, TUNE, 2);
    step("a tune is changed", put_bytes(wanted + bytes / 3, first + bytes / 3, TUNE, false), CM_OK);
    step("only the tune is other", holds(wanted), CM_OK);
    step("blanked", put(cm_blank_source(&blank), false), CM_OK);
    memset(wanted, region.erased, bytes);
    step("it is blank", holds(wanted), CM_OK);
    step("restored", put_bytes(kept, first, bytes, false), CM_OK);
    step("it is as it was", holds(kept), CM_OK);
}

int main(void)
{
    board_begin();
    enum cm_status status =
        cm_open(&session, &board_port, &board_kit, 1, workspace, sizeof workspace);
    if (!status)
        status = cm_identify(&session, NULL);
    if (step("identified", status, CM_OK)) {
        board_say("  chip   ");
        board_say(session.part->name);
        board_say(", id ");
        for (int i = 0; i < session.part->id_bytes; i++)
            say_hex(session.id[i], 2);
        board_say("\n");
        work();
    } else {
        board_say("  answer ");
        for (int i = 0; i < 4; i++)
            say_hex(session.failure.answer[i], 2);
        say_hex(session.id[0], 2), say_hex(session.id[1], 2), say_hex(session.id[2], 2);
        board_say("\n");
    }
    cm_close(&session);
    return failures;
}
