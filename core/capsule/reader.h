/* What the files that read capsules share. */
#ifndef CM_CAPSULE_READER_H
#define CM_CAPSULE_READER_H

#include "fields.h"
#include "wire.h"

/* Leaves a fault near this offset. */
enum cm_status cm_capsule_fail(struct cm_capsule *capsule, uint32_t offset,
                               enum cm_capsule_fault fault);

/* A part, without its data. */
struct cm_capsule_part {
    uint32_t region, address, count;
    uint32_t crc, true_crc; /* what it says, and what it is */
    struct cm_capsule_link next;
};

/* Bytes of a chip that are wanted. */
struct cm_capsule_window {
    uint32_t from, behind;
    uint8_t *bytes;
};

/* Reads a part once, front to back; false: it is damaged. With a window, whose bytes are all in the
 * part that begins at `part->address`, they are taken along, and the checksum is not looked at. */
bool cm_capsule_read_part(const struct cm_wire *wire, const struct cm_wire_field *field,
                          const struct cm_capsule_window *window, struct cm_capsule_part *part);

/* Rows of a struct cm_capsule_part, and of a struct cm_capsule_link. */
extern const struct cm_wire_row cm_capsule_part_rows[PART_CRC32];
extern const struct cm_wire_row cm_capsule_link_rows[LINK_BYTES];

/* A region of a job as a source: cm_capsule_source for who has no backups. */
struct cm_source cm_capsule_job_source(const struct cm_capsule *capsule, uint8_t region,
                                       struct cm_capsule_place *place);

/* Reads what shall be done; false: it is damaged. */
bool cm_capsule_read_work(const struct cm_wire *wire, const struct cm_wire_field *field,
                          struct cm_capsule *capsule);

#endif
