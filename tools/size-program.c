/*
 * What is linked to measure the core: the smallest program that identifies one part, puts an image
 * into it, and lets it go. The port and the image are somewhere else (the linker is told where).
 */
#include <coldmint/coldmint.h>

extern const struct cm_port port;
extern uint8_t image[];

static const struct cm_part *const PARTS[] = {&cm_atmega1284p.part};
static const struct cm_kit KIT = {.family = &cm_avr, .parts = PARTS, .part_count = 1};

enum { WORKSPACE = 256 + 64 }; // a page, and a bit for each of 512 pages
struct cm_session ram_session;
uint8_t ram_workspace[WORKSPACE];

int _start(void)
{
    struct cm_memory memory = {image, 131072, 0};
    struct cm_want want = {CM_AVR_FLASH, cm_memory_source(&memory)};
    struct cm_put put = {.wants = &want, .want_count = 1};
    struct cm_report report;
    enum cm_status status = cm_open(&ram_session, &port, &KIT, 1, ram_workspace, WORKSPACE);
    if (!status)
        status = cm_identify(&ram_session, "atmega1284p");
    if (!status)
        status = cm_put(&ram_session, &put, &report);
    cm_close(&ram_session);
    return (int)status;
}
