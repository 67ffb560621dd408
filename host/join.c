/*
 * Loader and application joined by the word at reset, on parts without a boot section.
 *
 * The word leads into the loader; the application's own jump stands before the loader, which ends
 * by going there. A recipe asks for that (`enter: reset-vector`). Later nothing but the chip tells
 * that it is so: its word at reset leads to the beginning of a page in the upper half of flash,
 * which is not blank, and before it there is a jump to below. A linker puts no program's start
 * there.
 */
#include "join.h"
#include "flat.h"
#include <stdlib.h>
#include <string.h>

static uint16_t word_at(const uint8_t *bytes)
{
    return (uint16_t)(bytes[0] | bytes[1] << 8);
}

static void set_word(struct flat *joined, uint32_t at, uint16_t word)
{
    joined->bytes[at] = (uint8_t)word;
    joined->bytes[at + 1] = (uint8_t)(word >> 8);
    joined->present[at] = joined->present[at + 1] = true;
}

static bool has_word(const struct flat *joined, uint32_t at)
{
    return joined->present[at] || joined->present[at + 1];
}

/* An image stands in for all that the job wants of flash. */
static void replace_wants(struct cm_job *job)
{
    uint8_t left = 0;
    const char *name = NULL;
    for (uint8_t i = 0; i < job->want_count; i++) {
        bool is_flash = job->wants[i].region == CM_REGION_MAIN;
        name = is_flash && !name ? job->want_names[i] : name;
        if (is_flash)
            continue;
        job->want_names[left] = job->want_names[i];
        job->wants[left++] = job->wants[i];
    }
    job->want_names[left] = name;
    job->wants[left++] = (struct cm_want){CM_REGION_MAIN, cm_image_source(&job->joined)};
    job->want_count = left;
}

static bool make_image(struct cm_job *job, const struct flat *joined)
{
    size_t memory = CM_IMAGE_MEMORY(joined->count / CM_IMAGE_BLOCK + 1);
    job->joined_memory = malloc(memory);
    if (!job->joined_memory)
        return host_fail(job->host, CM_ERROR_NO_MEMORY, NULL);
    cm_image_init(&job->joined, job->joined_memory, memory);
    for (uint32_t at = 0; at < joined->count; at++) {
        if (joined->present[at] &&
            cm_image_add(&job->joined, at, &joined->bytes[at], 1, 0) != CM_OK)
            return host_fail(job->host, CM_ERROR_NO_MEMORY, NULL);
    }
    return true;
}

static bool fail(struct cm_job *job, enum cm_error_kind kind, uint32_t loader, uint16_t first)
{
    struct cm_error *error = host_error(job->host, kind, NULL);
    error->address = loader;
    error->found = first;
    return false;
}

/* The application's jump goes before the loader, and the loader's to reset. */
static bool join_words(struct cm_job *job, struct flat *joined, uint32_t loader)
{
    const struct cm_about *about = job->session->kit->about;
    const uint16_t first = word_at(joined->bytes);
    uint16_t vector = first, own_jump;
    if (!joined->present[0] || !joined->present[1] || !about->lead_reset_to ||
        !about->lead_reset_to(job->session->part, loader, &vector, &own_jump))
        return fail(job, CM_ERROR_JOIN_VECTOR, loader, first);
    if (has_word(joined, loader - 2))
        return fail(job, CM_ERROR_JOIN_JUMP, loader, first);
    set_word(joined, 0, vector);
    set_word(joined, loader - 2, own_jump);
    job_tell(job, &(struct cm_note){.kind = CM_NOTE_JOINED, .first = loader, .last = loader - 2});
    return true;
}

/* `words`, where the job wants no word at reset: those that the chip has there and before the
 * loader. */
static bool join(struct cm_job *job, uint32_t loader, const uint16_t *words)
{
    struct cm_region region;
    struct flat joined;
    cm_region(job->session, CM_REGION_MAIN, &region);
    bool good = flat_begin(&joined, region.bytes) ? flat_lay_wants(&joined, job, CM_REGION_MAIN)
                                                  : host_fail(job->host, CM_ERROR_NO_MEMORY, NULL);
    if (good && words && !has_word(&joined, 0)) {
        set_word(&joined, 0, words[0]);
        set_word(&joined, loader - 2, words[1]);
    } else if (good) {
        good = join_words(job, &joined, loader);
    }
    good = good && make_image(job, &joined);
    flat_free(&joined);
    if (good)
        replace_wants(job);
    return good;
}

bool join_recipe(struct cm_job *job)
{
    return join(job, job->parts[0].first, NULL);
}

/* --- in the chip ------------------------------------------------------------------------- */

static bool read_word(struct cm_job *job, uint32_t at, uint16_t *word)
{
    uint8_t bytes[2];
    enum cm_status status = cm_read_twice(job->session, CM_REGION_MAIN, at, bytes, sizeof bytes);
    *word = word_at(bytes);
    return !status || host_fail_session(job->host, status);
}

static bool wants_flash(const struct cm_job *job)
{
    bool does = false;
    for (uint8_t i = 0; i < job->want_count; i++)
        does |= job->wants[i].region == CM_REGION_MAIN;
    return does;
}

bool join_find(struct cm_job *job)
{
    const struct cm_session *session = job->session;
    const struct cm_about *about = session->kit->about;
    struct cm_region region;
    struct cm_guard guard;
    uint16_t word, jump, at_loader;
    uint32_t loader, below;
    if (job->boot.in_use || !about || !about->reset_leads_to || !wants_flash(job))
        return true;
    enum cm_status status = cm_guard_look(job->session, &guard);
    if (status)
        return host_fail_session(job->host, status);
    cm_region(session, CM_REGION_MAIN, &region);
    if (guard.bars_reading & CM_REGION_BIT(CM_REGION_MAIN)) // nobody can tell
        return true;
    if (!read_word(job, 0, &word))
        return false;
    if (!about->reset_leads_to(session->part, word, &loader) || loader < region.bytes / 2 ||
        loader % region.page_bytes)
        return true;
    if (!read_word(job, loader - 2, &jump) || !read_word(job, loader, &at_loader))
        return false;
    // the jump is counted from where it stands
    if (at_loader == 0xFFFF || !about->reset_leads_to(session->part, jump, &below) ||
        (below + loader - 2) % region.bytes >= loader)
        return true;
    job->boot = (struct cm_boot){
        .start = loader, .bytes = region.bytes - loader, .in_use = true, .readable = true};
    job->boot_vector[0] = word;
    job->boot_vector[1] = jump;
    return true;
}

bool join_changes_reset(const struct cm_job *job)
{
    uint32_t start, count;
    for (uint8_t i = 0; i < job->want_count && job->boot_vector[0]; i++) {
        const struct cm_source *source = &job->wants[i].source;
        uint8_t bytes[2] = {0, 0};
        if (job->wants[i].region == CM_REGION_MAIN &&
            source->extent(source->context, 0, &start, &count) && start == 0 && count > 1)
            return source->read(source->context, 0, bytes, sizeof bytes) != CM_OK ||
                   word_at(bytes) != job->boot_vector[0];
    }
    return false;
}

bool join_kept(struct cm_job *job)
{
    return !job->boot_vector[0] || join(job, job->boot.start, job->boot_vector);
}
