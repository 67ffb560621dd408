/* What the tests share: benches in a temporary folder, and sessions on them. */
#ifndef CM_TEST_SUPPORT_H
#define CM_TEST_SUPPORT_H

#include <setjmp.h>
#include <stdarg.h>
#include <stddef.h>
#include <stdint.h>

#include <cmocka.h>
#include <coldmint/coldmint.h>
#include <sim/sim.h>

/* A bench with its session; `image` is the size of the part's flash, filled by fill_image. */
struct rig {
    char path[200];
    struct cm_sim *sim;
    struct cm_port *port;
    struct avr_model *model;
    struct cm_session session;
    uint8_t *image;
    struct cm_memory memory;
    struct cm_want want;
    struct cm_put put;
    struct cm_report report;
    uint8_t workspace[512];
};

extern const struct cm_kit test_kit;

/* Folder of this test program, made on first use; removed at exit. */
const char *test_folder(void);

/* Path of a new file in it, with this text. */
void write_file(char *path, size_t bytes, const char *name, const char *text);
char *read_file(const char *path); /* to be freed; NULL if there is none */

/* Makes the bench's port one of those that all families are tested on: as it is; with calls that
 * are packed; or one that takes batches whole. The environment variable TEST_WAY says which. */
void test_way(struct cm_sim *sim);
bool test_is_plain_way(void); /* as it is */
bool test_is_packed_way(void);

/* Is this part's turn? Without sanitizers, and on a port of single calls, it is every part's; else
 * one of three's each day, so that in three days all have run with sanitizers and in each way. */
bool test_takes_part(uint32_t number);

/* The same for places of a fault: the first of a row, and how far the next is. */
unsigned test_first_place(void);
unsigned test_place_step(void);

/* A byte of what the family's driver remembers of the chip, which is its own business: of an AVR,
 * byte 0 says that it echoes; of an I2C memory, its address. */
static inline uint8_t family_state(const struct cm_session *session, uint8_t at)
{
    return ((const uint8_t *)session->state)[at];
}

/* Sets a factory-new part on a bench; `more` is further YAML. */
void rig_open(struct rig *rig, const char *part, const char *more);
void rig_close(struct rig *rig);

/* Fills the image with made-up contents that have no blank page, and wants all of it. */
void fill_image(struct rig *rig, uint32_t seed);

/* Identifies, and asserts that it works. */
void rig_identify(struct rig *rig);

void assert_no_breach(const struct avr_model *model);

/* A bench file of this name at 5 V, and the --via that names it; `path` has 200 bytes, `via` 220.
 */
void make_bench(const char *name, const char *part, const char *more, char *path, char *via);

/* Fails, and shows the text, where it does not have the words. */
void assert_says(const char *text, const char *wanted);

#endif
