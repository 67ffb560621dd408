/*
 * An application's settings block in words.
 */
#include "block.h"
#include "begin.h"
#include "say.h"
#include "words/fail.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

/* A block whose checksum is wrong is another one, or damaged. */
static enum exit_code check_sound(struct tool *tool, const struct cm_job *job,
                                  const struct cm_fields *map, const uint8_t *block)
{
    if (cm_fields_is_sound(map, block))
        return EXIT_GOOD;
    if (job->options.anyway) {
        say(tool, "note", "the block's checksum is wrong; it is taken as it is");
        return EXIT_GOOD;
    }
    tool->host.error = (struct cm_error){.kind = CM_ERROR_BLOCK_SUM};
    snprintf(tool->host.error.path, sizeof tool->host.error.path, "%s at 0x%04X", map->memory,
             (unsigned)map->at);
    return tool_fail_host(tool);
}

static void show_fields(struct tool *tool, const struct cm_fields *map, const uint8_t *block)
{
    char value[CM_FIELD_TEXT], choices[CM_FIELD_TEXT];
    json_t *fields = json_object();
    bool is_sound = cm_fields_is_sound(map, block);
    say(tool, "block", "%s: %s 0x%04X to 0x%04X%s", map->title, map->memory, (unsigned)map->at,
        (unsigned)(map->at + map->bytes - 1), is_sound ? "" : "; its checksum is WRONG");
    for (uint32_t i = 0; i < map->count; i++) {
        cm_fields_value(map, i, block, value);
        say(tool, i ? "" : "fields", "%-22s %-20s %s", cm_fields_name(map, i), value,
            cm_fields_choices(map, i, choices));
        json_object_set_new(fields, cm_fields_name(map, i), json_text(value));
    }
    set_json(tool, "fields", fields);
    set_json(tool, "sound", json_boolean(is_sound));
}

/* Each field that differs. */
static void show_changes(struct tool *tool, const struct cm_fields *map, const uint8_t *before,
                         const uint8_t *after)
{
    char from[CM_FIELD_TEXT], to[CM_FIELD_TEXT];
    bool any = false;
    for (uint32_t i = 0; i < map->count; i++) {
        cm_fields_value(map, i, before, from);
        cm_fields_value(map, i, after, to);
        if (strcmp(from, to) == 0)
            continue;
        say(tool, any ? "" : "change", "%-22s %s -> %s", cm_fields_name(map, i), from, to);
        any = true;
    }
}

static enum exit_code change(struct tool *tool, struct cm_job *job, const struct job_options *given,
                             const struct cm_fields *map, const uint8_t *before,
                             const char *const *things)
{
    uint8_t after[CM_FIELDS_BYTES];
    enum exit_code code = check_sound(tool, job, map, before);
    memcpy(after, before, map->bytes);
    for (; *things && !code; things++)
        code = host_code(tool, cm_fields_set(&tool->host, map, after, *things));
    if (code)
        return code;
    cm_fields_seal(map, after);
    show_changes(tool, map, before, after);
    code = host_code(tool, cm_job_want_block(job, map, after));
    if (!code)
        code = job_run(tool, job, given);
    if (!code && given->only_plan)
        say_last(tool, "planned only; %s is unchanged", chip_name(tool));
    else if (!code)
        say_last(tool, "the block of %s has these fields%s", chip_name(tool),
                 job->has_work ? "" : "; it had them before");
    return code;
}

enum exit_code block_tune(struct tool *tool, struct cm_job *job, const struct job_options *given,
                          const char *map_path, const char *const *things)
{
    uint8_t block[CM_FIELDS_BYTES];
    struct cm_fields *map = cm_fields_load(&tool->host, map_path);
    enum exit_code code = host_code(tool, map != NULL);
    if (!code)
        code = tool_begin(tool);
    if (!code)
        code = host_code(tool, cm_fields_read(&tool->host, &tool->session, map, block));
    if (!code && things[0]) {
        code = change(tool, job, given, map, block, things);
    } else if (!code) {
        show_fields(tool, map, block);
        say_last(tool, "nothing was changed");
    }
    cm_fields_free(map);
    return code;
}

/* --- carried over an update -------------------------------------------------------------- */

static enum exit_code carry_by_name(struct tool *tool, struct cm_job *job,
                                    struct block_carry *carry)
{
    char refused[CM_ERROR_TEXT];
    enum exit_code code =
        host_code(tool, cm_job_wanted_block(job, carry->new_map, carry->new_block));
    if (code)
        return code;
    uint32_t taken =
        cm_fields_carry(carry->map, carry->block, carry->new_map, carry->new_block, refused);
    say(tool, "carried", "%u of %u fields of %s, by name", (unsigned)taken,
        (unsigned)carry->new_map->count, carry->new_map->title);
    if (refused[0])
        say(tool, "note", "the new block does not allow %s: these are as they are when new",
            refused);
    return EXIT_GOOD;
}

enum exit_code block_carry(struct tool *tool, struct cm_job *job, struct block_carry *carry,
                           const char *from, const char *to)
{
    carry->map = cm_fields_load(&tool->host, from);
    if (carry->map && to)
        carry->new_map = cm_fields_load(&tool->host, to);
    if (!carry->map || (to && !carry->new_map))
        return tool_fail_host(tool);
    enum exit_code code =
        host_code(tool, cm_fields_read(&tool->host, &tool->session, carry->map, carry->block));
    if (!code)
        code = check_sound(tool, job, carry->map, carry->block);
    if (code)
        return code;
    set_json(tool, "carried", json_boolean(true));
    if (to) {
        code = carry_by_name(tool, job, carry);
        return code ? code
                    : host_code(tool, cm_job_want_block(job, carry->new_map, carry->new_block));
    }
    say(tool, "carried", "%s, as the chip has it", carry->map->title);
    return host_code(tool, cm_job_want_block(job, carry->map, carry->block));
}

void block_carry_free(struct block_carry *carry)
{
    cm_fields_free(carry->map);
    cm_fields_free(carry->new_map);
}
