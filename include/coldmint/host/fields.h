/**
 * Field maps: what the bytes of an application's settings block mean, by a YAML file
 * (docs/fields.md), so that single fields are shown and changed in words, and carried over to a
 * newer version by name.
 *
 *     struct cm_fields *map = cm_fields_load(&host, "node-fields.yaml");
 *     ... read map->bytes at map->at of the region map->memory into block ...
 *     cm_fields_set(&host, map, block, "damper=soft");
 *     cm_fields_seal(map, block);
 *     cm_fields_free(map);
 */
#ifndef COLDMINT_HOST_FIELDS_H
#define COLDMINT_HOST_FIELDS_H

#include <coldmint/decls.h>
#include <coldmint/host/job.h>

CM_DECLS_BEGIN

enum { CM_FIELDS_BYTES = 4096, CM_FIELD_TEXT = 200 };

struct cm_fields_file;

/** A map. `block` arguments have `bytes` bytes. */
struct cm_fields {
    const char *path, *title;
    char memory[12]; /**< region's name */
    uint32_t at, bytes;
    uint32_t count;             /**< fields */
    struct cm_fields_file *own; /**< the library's */
};

/** NULL: CM_ERROR_FIELDS (detail), CM_ERROR_FILE_... */
CM_MUST_CHECK struct cm_fields *cm_fields_load(struct cm_host *host, const char *path);
void cm_fields_free(struct cm_fields *map); /**< NULL is allowed */

/** A field's name, and its value in words: "soft", "440 Hz", "22". Returns `text` (CM_FIELD_TEXT).
 */
const char *cm_fields_name(const struct cm_fields *map, uint32_t field);
const char *cm_fields_value(const struct cm_fields *map, uint32_t field, const uint8_t *block,
                            char *text);

/** What a field may be, in words: "off, soft or hard", "1 to 47". Returns `text`. */
const char *cm_fields_choices(const struct cm_fields *map, uint32_t field, char *text);

/** The field of a name; -1: there is none. */
int cm_fields_find(const struct cm_fields *map, const char *name);

/** Sets a field, "NAME=VALUE". Errors: CM_ERROR_FIELD_NAME (text; detail: those that there are),
 * CM_ERROR_FIELD_VALUE (text; detail: what it may be). */
CM_MUST_CHECK bool cm_fields_set(struct cm_host *host, const struct cm_fields *map, uint8_t *block,
                                 const char *choice);

/** Is the block's checksum right? True where the map names none. And makes it so. */
bool cm_fields_is_sound(const struct cm_fields *map, const uint8_t *block);
void cm_fields_seal(const struct cm_fields *map, uint8_t *block);

/**
 * Takes over by name what an old block holds into a new one; fields that are new get their default,
 * where the map names one. Returns how many were taken; `refused`: names of those whose value the
 * new map does not allow (CM_ERROR_TEXT bytes).
 */
uint32_t cm_fields_carry(const struct cm_fields *old_map, const uint8_t *old_block,
                         const struct cm_fields *map, uint8_t *block, char *refused);

/** Reads a map's block from the chip, twice alike. Errors: CM_ERROR_FIELDS (the chip has no such
 * place), CM_ERROR_SESSION. */
CM_MUST_CHECK bool cm_fields_read(struct cm_host *host, struct cm_session *session,
                                  const struct cm_fields *map, uint8_t *block);

/** What the job's files hold at a map's place so far; FF where they hold nothing. Error:
 * CM_ERROR_FIELDS, CM_ERROR_FILE_BROKE_OFF. */
CM_MUST_CHECK bool cm_job_wanted_block(struct cm_job *job, const struct cm_fields *map,
                                       uint8_t *block);

/** Wants a block of the chip, in place of what the job's files have there. `block` outlives the
 * job. Errors: CM_ERROR_FIELDS, CM_ERROR_TOO_MANY_FILES. */
CM_MUST_CHECK bool cm_job_want_block(struct cm_job *job, const struct cm_fields *map,
                                     const uint8_t *block);

CM_DECLS_END

#endif
