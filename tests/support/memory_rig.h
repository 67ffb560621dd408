/* A bench with an SPI memory on it, and a session there. */
#ifndef CM_TEST_MEMORY_RIG_H
#define CM_TEST_MEMORY_RIG_H

#include "support.h"

enum { RIG_WORKSPACE = 400 * 1024 };

struct memory_rig {
    char path[200];
    struct cm_sim *sim;
    const struct cm_port *port;
    struct nor_model *model;
    struct cm_session session;
    struct cm_all_found found;
    struct cm_kit kits[2];
    uint8_t *image; /* as large as the part; NULL: that is more than 16 MiB */
    struct cm_memory memory;
    struct cm_want want;
    struct cm_put put;
    struct cm_report report;
    uint8_t workspace[RIG_WORKSPACE];
};

/* Sets a factory-new part on a bench at a supply that suits it; `more` is further YAML of the
 * bench. */
void memory_rig_open(struct memory_rig *rig, const char *part, const char *more);
void memory_rig_close(struct memory_rig *rig);

/* Opens the session on a workspace of so many bytes and identifies; asserts that it works. */
void memory_rig_identify(struct memory_rig *rig, uint32_t workspace_bytes);

/* Contents without blank pages, other ones for each seed. */
void fill_pattern(uint8_t *bytes, uint32_t count, uint32_t seed);

/* A file of such contents in the test's folder; `path` has 200 bytes. */
void make_file(char *path, const char *name, uint32_t bytes, uint32_t seed);

/* The chip holds what the image says, and nothing was done against its data sheet. */
void assert_holds_image(const struct memory_rig *rig);
void assert_no_memory_breach(const struct nor_model *model);

/* Wants `count` bytes of the image from `first` on. */
void want_part(struct memory_rig *rig, uint32_t first, uint32_t count);

#endif
