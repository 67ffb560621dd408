/*
 * What is linked to measure the core with an EEPROM on two wires: the smallest program that
 * identifies one part, and puts an image into it with its protection lifted and put back.
 */
#include <coldmint/coldmint.h>

extern const struct cm_port port;
extern uint8_t image[];

static const struct cm_part *const PARTS[] = {&cm_24lc256.part};
static const struct cm_kit KIT = {.family = &cm_i2c24, .parts = PARTS, .part_count = 1};

enum {
    WORKSPACE = 256 + 1 + 64
}; // pages of 64 bytes, their samples, and the map by groups of pages
struct cm_session ram_session;
uint8_t ram_workspace[WORKSPACE];

int _start(void)
{
    struct cm_memory memory = {image, 32768, 0};
    struct cm_want want = {CM_REGION_MAIN, cm_memory_source(&memory)};
    struct cm_put put = {.wants = &want, .want_count = 1};
    struct cm_report report;
    enum cm_status status = cm_open(&ram_session, &port, &KIT, 1, ram_workspace, WORKSPACE);
    if (!status)
        status = cm_identify(&ram_session, "24lc256");
    if (!status)
        status = cm_put(&ram_session, &put, &report);
    cm_close(&ram_session);
    return (int)status;
}
