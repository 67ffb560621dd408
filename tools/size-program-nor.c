/*
 * What is linked to measure the core with SPI flash: the smallest program that identifies one part,
 * and puts an image into it with its protection lifted and put back.
 */
#include <coldmint/coldmint.h>

extern const struct cm_port port;
extern uint8_t image[];

static const struct cm_part *const PARTS[] = {&cm_w25q32.part};
static const struct cm_kit KIT = {.family = &cm_nor, .parts = PARTS, .part_count = 1};

enum { WORKSPACE = 256 + 1 + 64 }; // a page, its sample, and the map by 64 KiB blocks
struct cm_session ram_session;
uint8_t ram_workspace[WORKSPACE];

int _start(void)
{
    struct cm_memory memory = {image, 131072, 0};
    struct cm_want want = {CM_NOR_FLASH, cm_memory_source(&memory)};
    struct cm_put put = {.wants = &want, .want_count = 1, .unprotect = true};
    struct cm_report report;
    enum cm_status status = cm_open(&ram_session, &port, &KIT, 1, ram_workspace, WORKSPACE);
    if (!status)
        status = cm_identify(&ram_session, "w25q32");
    if (!status)
        status = cm_put(&ram_session, &put, &report);
    cm_close(&ram_session);
    return (int)status;
}
