/* What the files that read capsules share. */
#ifndef CM_CAPSULE_READER_H
#define CM_CAPSULE_READER_H

#include "fields.h"
#include "wire.h"

/* Leaves a fault near this offset; an input that failed is the fault then. */
enum cm_status cm_capsule_fail(struct cm_capsule *capsule, const struct cm_wire *wire,
                               enum cm_capsule_fault fault);

/* The fields of the file from an offset on, up to its checksum. */
struct cm_wire cm_capsule_fields(const struct cm_capsule_input *input, uint32_t offset);

/* A part's frame: what it says, and where its data lie. */
struct cm_capsule_part {
    uint32_t region, address, crc;
    struct cm_wire_span data;
};

/* Reads a part's frame; false: it is damaged. */
bool cm_capsule_read_part(const struct cm_wire *wire, const struct cm_wire_field *field,
                          struct cm_capsule_part *part);

/* Reads what shall be done; false: it is damaged. */
bool cm_capsule_read_work(const struct cm_wire *wire, const struct cm_wire_field *field,
                          struct cm_capsule *capsule);

#endif
