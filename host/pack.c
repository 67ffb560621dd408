/*
 * A recipe and its images, sealed.
 */
#include "maker.h"
#include "pack_pieces.h"
#include "pack_settings.h"
#include <errno.h>
#include <openssl/evp.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>

/* A capsule in the making. */
struct packing {
    struct cm_host *host;
    struct cm_pack *pack;
    const struct cm_recipe *recipe;
    struct cm_session session; // of the part; there is no port
    struct cm_job *job;
    struct cm_capsule_work work;
    struct cm_capsule_region regions[CM_CAPSULE_REGIONS];
    uint8_t indices[CM_CAPSULE_REGIONS], region_count; // the chip's region of each
    struct pack_pieces pieces[CM_CAPSULE_REGIONS];
    EVP_MD_CTX *sum; // of the head: what comes before the first part
    bool in_head;
    FILE *stream;
};

/* --- what shall be done ------------------------------------------------------------------ */

static bool take_text(struct packing *packing, const char *key, const struct cm_recipe_text *text,
                      char *out, size_t room)
{
    const char *from = text->text ? text->text : "";
    if (strlen(from) < room) {
        host_copy(out, room, from);
        return true;
    }
    struct cm_error *error = host_error(packing->host, CM_ERROR_PACK_LONG, packing->recipe->path);
    HOST_COPY(error->key, key);
    HOST_COPY(error->text, from);
    error->limit = (uint32_t)room - 1;
    return false;
}

/* The capsule's number of a region; it is added where it is not there. */
static uint8_t add_region(struct packing *packing, uint8_t index)
{
    struct cm_region region;
    uint8_t i = 0;
    while (i < packing->region_count && packing->indices[i] != index)
        i++;
    if (i < packing->region_count)
        return i;
    cm_region(&packing->session, index, &region);
    packing->indices[i] = index;
    packing->regions[i].bytes = region.bytes;
    packing->regions[i].erased = region.erased;
    HOST_COPY(packing->regions[i].name, region.name);
    packing->region_count++;
    return i;
}

/* Memories first: the parts of a capsule ascend by region. */
static void add_regions(struct packing *packing)
{
    struct cm_region region;
    for (uint8_t index = 0; cm_region(&packing->session, index, &region); index++) {
        for (uint8_t i = 0; i < packing->job->want_count; i++) {
            if (packing->job->wants[i].region == index)
                add_region(packing, index);
        }
    }
}

static bool take_settings(struct packing *packing)
{
    struct pack_settings settings;
    if (!pack_settings(packing->job, packing->recipe, &settings))
        return false;
    packing->work.closes = settings.closes;
    packing->work.then_hz = settings.then_hz;
    packing->work.setting_count = settings.count;
    for (uint8_t i = 0; i < settings.count; i++) {
        packing->work.settings[i] = settings.list[i];
        packing->work.settings[i].region = add_region(packing, settings.list[i].region);
    }
    return true;
}

static bool take_work(struct packing *packing)
{
    const struct cm_recipe *recipe = packing->recipe;
    struct cm_capsule_work *work = &packing->work;
    if (!take_text(packing, "recipe", &recipe->title, work->title, sizeof work->title) ||
        !take_text(packing, "board", &recipe->board, work->board, sizeof work->board) ||
        !take_text(packing, "version", &recipe->version, work->version, sizeof work->version))
        return false;
    work->supply_from_mv = recipe->supply_from_mv;
    work->supply_to_mv = recipe->supply_to_mv;
    work->feed_mv = recipe->feed_mv;
    work->power_cycle = recipe->has_power_cycle;
    work->board_hz = recipe->board_hz;
    work->units = packing->pack->units;
    work->unprotect = packing->pack->unprotect;
    work->lose_data = packing->pack->lose_data;
    if (recipe->marker.text) {
        int index = cm_region_by_name(&packing->session, recipe->marker_region);
        work->marker_region = add_region(packing, (uint8_t)index);
        work->marker_at = recipe->marker_at;
        work->marker_bytes = (uint8_t)strlen(recipe->marker_text);
    }
    return take_settings(packing);
}

/* --- writing ----------------------------------------------------------------------------- */

static enum cm_status sink(void *context, const char *bytes, size_t count)
{
    struct packing *packing = context;
    if (packing->in_head && EVP_DigestUpdate(packing->sum, bytes, count) != 1)
        return CM_NO_ROOM;
    return cm_new_file_text(packing->stream, bytes, count);
}

static bool write_pieces(const struct packing *packing, struct cm_capsule_writer *writer)
{
    for (uint8_t i = 0; i < packing->region_count; i++) {
        const struct pack_pieces *pieces = &packing->pieces[i];
        for (size_t k = 0; k < pieces->count; k++) {
            if (cm_capsule_write_piece(writer, &pieces->list[k]) != CM_OK)
                return false;
        }
    }
    return true;
}

static bool seal(struct packing *packing, struct cm_capsule_writer *writer)
{
    struct cm_capsule_seal *own = &packing->pack->seal;
    const struct cm_maker *maker = &packing->pack->maker;
    uint8_t text[CM_SEALED_BYTES];
    unsigned bytes = 0;
    memset(own, 0, sizeof *own);
    bool good =
        EVP_DigestFinal_ex(packing->sum, own->digest, &bytes) == 1 && bytes == sizeof own->digest;
    if (good && maker->can_sign) {
        cm_capsule_signed_text(own->digest, text);
        memcpy(own->key, maker->key, sizeof own->key);
        own->is_signed = good = maker_sign(maker, text, sizeof text, own->signature);
    }
    if (!good)
        return host_fail(packing->host, CM_ERROR_NO_MEMORY, packing->recipe->path);
    return cm_capsule_write_seal(writer, own) == CM_OK && cm_capsule_write_end(writer) == CM_OK;
}

static void describe(const struct packing *packing, struct cm_capsule_facts *facts)
{
    const struct cm_part *part = packing->session.part;
    memset(facts, 0, sizeof *facts);
    HOST_COPY(facts->chip, part->name);
    HOST_COPY(facts->family, packing->session.family->name);
    memcpy(facts->id, part->id, part->id_bytes);
    facts->id_bytes = part->id_bytes;
    facts->time = (int64_t)time(NULL);
    HOST_COPY(facts->tool, "coldmint " CM_VERSION);
}

static bool write_capsule(struct packing *packing, struct cm_new_file *file)
{
    struct cm_capsule_facts facts;
    struct cm_capsule_writer writer;
    describe(packing, &facts);
    packing->stream = file->stream;
    packing->sum = EVP_MD_CTX_new();
    bool good = packing->sum && EVP_DigestInit_ex(packing->sum, EVP_sha256(), NULL) == 1;
    if (!good)
        return host_fail(packing->host, CM_ERROR_NO_MEMORY, packing->recipe->path);
    packing->in_head = true;
    good = cm_capsule_write_work(&writer, &facts, &packing->work, packing->regions,
                                 packing->region_count, sink, packing) == CM_OK;
    if (!good)
        return host_fail_system(packing->host, CM_ERROR_CAPSULE_UNWRITABLE, file->path, errno);
    packing->in_head = false;
    if (write_pieces(packing, &writer) && seal(packing, &writer))
        return true;
    return writer.status
               ? host_fail_system(packing->host, CM_ERROR_CAPSULE_UNWRITABLE, file->path, errno)
               : false;
}

static bool write_file(struct packing *packing, const char *path)
{
    struct cm_new_file file;
    if (!cm_new_file_open(packing->host, path, &file))
        return false;
    bool good = write_capsule(packing, &file);
    EVP_MD_CTX_free(packing->sum);
    if (good)
        return cm_new_file_commit(packing->host, &file);
    cm_new_file_drop(&file);
    return false;
}

/* --- all together ------------------------------------------------------------------------ */

static bool refuse_unit(struct packing *packing)
{
    const struct cm_recipe_text *entry = &packing->recipe->unit[0];
    struct cm_error *error = host_error(packing->host, CM_ERROR_PACK_UNIT, packing->recipe->path);
    error->line = entry->line;
    HOST_COPY(error->text, entry->text);
    return false;
}

static bool pack_job(struct packing *packing, const char *path)
{
    struct cm_job *job = packing->job;
    job->options.anyway = packing->pack->anyway;
    job->options.allow = packing->pack->allow;
    if (!cm_job_want_contents(job, packing->recipe))
        return false;
    add_regions(packing);
    bool good = take_work(packing);
    for (uint8_t i = 0; good && i < packing->region_count; i++)
        good = pack_pieces_make(&packing->pieces[i], job, packing->indices[i], i);
    for (uint8_t i = 0; good && i < packing->region_count; i++) {
        if (packing->pieces[i].count)
            packing->regions[i].first = packing->pieces[i].links[0];
    }
    good = good && write_file(packing, path);
    for (uint8_t i = 0; i < packing->region_count; i++)
        pack_pieces_free(&packing->pieces[i]);
    return good;
}

bool cm_pack(struct cm_host *host, const struct cm_recipe *recipe, struct cm_pack *pack,
             const char *path)
{
    struct packing packing = {.host = host, .pack = pack, .recipe = recipe};
    const struct cm_kit *kit = cm_host_kit_of(host, recipe->part);
    packing.session = (struct cm_session){.kits = host->kits,
                                          .kit_count = host->kit_count,
                                          .kit = kit,
                                          .family = kit->family,
                                          .part = recipe->part,
                                          .asserted = recipe->part};
    if (recipe->unit_count)
        return refuse_unit(&packing);
    packing.job = cm_job_new(host, &packing.session, "no port");
    bool good = packing.job && pack_job(&packing, path);
    cm_job_free(packing.job);
    return good;
}
