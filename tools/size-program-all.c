/*
 * What is linked to measure four families in one program: it identifies one part of them, puts an
 * image into it, and lets it go. See size-program.c.
 */
#include <coldmint/coldmint.h>

extern const struct cm_port port;
extern uint8_t image[];

static const struct cm_part *const AVR_PARTS[] = {&cm_atmega1284p.part};
static const struct cm_part *const NOR_PARTS[] = {&cm_w25q32.part};
static const struct cm_part *const PAR_PARTS[] = {&cm_sst39sf040.part};
static const struct cm_part *const I2C24_PARTS[] = {&cm_24lc256.part};
static const struct cm_kit KITS[] = {{.family = &cm_avr, .parts = AVR_PARTS, .part_count = 1},
                                     {.family = &cm_nor, .parts = NOR_PARTS, .part_count = 1},
                                     {.family = &cm_par, .parts = PAR_PARTS, .part_count = 1},
                                     {.family = &cm_i2c24, .parts = I2C24_PARTS, .part_count = 1}};

enum { WORKSPACE = 256 + 65 };
struct cm_session ram_session;
uint8_t ram_workspace[WORKSPACE];

int _start(void)
{
    struct cm_memory memory = {image, 32768, 0};
    struct cm_want want = {CM_REGION_MAIN, cm_memory_source(&memory)};
    struct cm_put put = {.wants = &want, .want_count = 1};
    struct cm_report report;
    enum cm_status status = cm_open(&ram_session, &port, KITS, 4, ram_workspace, WORKSPACE);
    if (!status)
        status = cm_identify(&ram_session, "w25q32");
    if (!status)
        status = cm_put(&ram_session, &put, &report);
    cm_close(&ram_session);
    return (int)status;
}
