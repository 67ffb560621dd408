/* A bench with a memory of any kind on it, and a session there. */
#ifndef CM_TEST_ROM_RIG_H
#define CM_TEST_ROM_RIG_H

#include "support.h"

enum { ROM_WORKSPACE = 256 * 1024, ROM_KITS = 6 };

struct rom_rig {
    char path[200];
    struct cm_sim *sim;
    const struct cm_port *port;
    struct cm_session session;
    struct cm_all_found found;
    struct cm_kit kits[ROM_KITS];
    const char *part;
    uint32_t bytes;
    uint8_t *image; /* as large as the part, without a byte of FF */
    struct cm_memory memory;
    struct cm_want want;
    struct cm_put put;
    struct cm_report report;
    uint8_t workspace[ROM_WORKSPACE];
};

/* Sets a factory-new part on a bench at a supply that suits it; `more` is further YAML of the
 * bench, behind "chip:". */
void rom_rig_open(struct rom_rig *rig, const char *part, const char *more);
void rom_rig_close(struct rom_rig *rig);

/* Opens a session and identifies by name. */
enum cm_status rom_rig_try(struct rom_rig *rig);
void rom_rig_identify(struct rom_rig *rig);

/* Wants `count` bytes of the image from `first` on; and puts them. */
enum cm_status rom_rig_put(struct rom_rig *rig, uint32_t first, uint32_t count);

/* From `first` on the chip holds what the image says; nothing was done against its data sheet. */
void assert_rom_holds(const struct rom_rig *rig, uint32_t first);
void assert_no_rom_breach(struct rom_rig *rig);

#endif
