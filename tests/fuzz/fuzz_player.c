/*
 * Fuzz target for the player: a sealed job, changed at places that the input says, with its sums
 * made right again as far as it says, is opened and played on a chip that nobody makes.
 *
 * With the signature looked at, only the job itself opens. With a look that always says yes any job
 * may: then the chip holds what it says, or the unit is not good; and nothing is against the chip's
 * data sheet. One that does not open changes nothing.
 */
#include "../new_family/chime.h"
#include "make_right.h"
#include <coldmint/player.h>
#include <openssl/evp.h>
#include <stdlib.h>
#include <string.h>

enum { MOST = 8192, WORKSPACE = 2048, PARTS = 9, PART_BYTES = 64 };

static const struct cm_part *const CHIPS[] = {&chime_part};
static const struct cm_kit KIT = {.family = &chime,
                                  .parts = CHIPS,
                                  .part_count = 1,
                                  .carrier = &cm_carry_sectors,
                                  .words = &chime_words,
                                  .about = &chime_about};

static struct {
    uint8_t bytes[MOST];
    size_t count;
    uint8_t key[CM_KEY_BYTES];
} job;

static void must(bool good)
{
    if (!good)
        abort();
}

/* --- the job itself ---------------------------------------------------------------------- */

static enum cm_status sink(void *context, const char *bytes, size_t count)
{
    (void)context;
    must(count <= MOST - job.count);
    memcpy(job.bytes + job.count, bytes, count);
    job.count += count;
    return CM_OK;
}

static void sign(struct cm_capsule_seal *seal, const uint8_t *head, size_t count)
{
    static const uint8_t SECRET[32] = {7};
    uint8_t text[CM_SEALED_BYTES];
    unsigned bytes = CM_DIGEST_BYTES;
    size_t key_bytes = CM_KEY_BYTES, signature_bytes = CM_SIGNATURE_BYTES;
    EVP_PKEY *key = EVP_PKEY_new_raw_private_key(EVP_PKEY_ED25519, NULL, SECRET, sizeof SECRET);
    EVP_MD_CTX *signing = EVP_MD_CTX_new();
    must(EVP_Digest(head, count, seal->digest, &bytes, EVP_sha256(), NULL) == 1);
    cm_capsule_signed_text(seal->digest, text);
    must(EVP_DigestSignInit(signing, NULL, NULL, NULL, key) == 1);
    must(EVP_DigestSign(signing, seal->signature, &signature_bytes, text, sizeof text) == 1);
    must(EVP_PKEY_get_raw_public_key(key, seal->key, &key_bytes) == 1);
    seal->is_signed = true;
    memcpy(job.key, seal->key, sizeof job.key);
    EVP_MD_CTX_free(signing);
    EVP_PKEY_free(key);
}

/* Two runs of flash, and a marker in the first. */
static void make_job(void)
{
    static const struct cm_capsule_facts FACTS = {
        .chip = "chime16", .family = "chime", .id = {0xC4, 0x1E, 0x07}, .id_bytes = 3};
    static const struct cm_capsule_work WORK = {
        .title = "a job", .marker_bytes = 4, .marker_at = 60, .lose_data = true};
    struct cm_capsule_region region = {"flash", CHIME_FLASH_BYTES, 0xFF, {0}};
    struct cm_capsule_piece pieces[PARTS];
    struct cm_capsule_link links[PARTS];
    struct cm_capsule_seal seal;
    struct cm_capsule_writer writer;
    uint8_t bytes[PARTS * PART_BYTES];
    for (size_t i = 0; i < sizeof bytes; i++)
        bytes[i] = (uint8_t)(i * 5 + i / 64);
    for (int i = PARTS; i-- > 0;) {
        uint32_t at = (uint32_t)(i < PARTS / 2 ? i : i + 100) * PART_BYTES;
        pieces[i] = (struct cm_capsule_piece){0, at, PART_BYTES, bytes + i * PART_BYTES,
                                              i + 1 < PARTS ? &links[i + 1] : NULL};
        must(cm_capsule_link_to(&pieces[i], &links[i]) == CM_OK);
    }
    region.first = links[0];
    must(cm_capsule_write_work(&writer, &FACTS, &WORK, &region, 1, sink, NULL) == CM_OK);
    const size_t head = job.count;
    for (int i = 0; i < PARTS; i++)
        must(cm_capsule_write_piece(&writer, &pieces[i]) == CM_OK);
    sign(&seal, job.bytes, head);
    must(cm_capsule_write_seal(&writer, &seal) == CM_OK);
    must(cm_capsule_write_end(&writer) == CM_OK);
}

/* --- changes ----------------------------------------------------------------------------- */

struct bytes {
    uint8_t at[MOST];
    size_t count;
};

/* Four bytes of the input are a change: where, what, and how much of it. */
static void change(struct bytes *file, const uint8_t *edit)
{
    size_t at = (size_t)(edit[0] | edit[1] << 8) % file->count, span = edit[3] >> 2;
    span = span < file->count - at ? span : file->count - at;
    switch (edit[3] & 3) {
    case 0:
        file->at[at] = edit[2];
        break;
    case 1:
        file->at[at] ^= (uint8_t)(1u << (edit[2] & 7));
        break;
    case 2: // cut
        if (file->count - span < 64)
            break;
        memmove(file->at + at, file->at + at + span, file->count - at - span);
        file->count -= span;
        break;
    default: // double
        if (file->count + span > MOST)
            break;
        memmove(file->at + at + span, file->at + at, file->count - at);
        file->count += span;
    }
}

/* --- playing ----------------------------------------------------------------------------- */

static enum cm_status from_file(void *context, uint32_t offset, uint8_t *bytes, uint32_t count)
{
    const struct bytes *file = context;
    must(offset <= file->count && count <= file->count - offset);
    memcpy(bytes, file->at + offset, count);
    return CM_OK;
}

static bool always(const uint8_t *key, const uint8_t *signature, const uint8_t *message,
                   uint32_t bytes)
{
    (void)key, (void)signature, (void)message, (void)bytes;
    return true;
}

/* The chip's flash against what the job says. */
static void check_flash(const struct cm_player *player, const struct chime_model *model)
{
    int index = cm_capsule_region(&player->capsule, "flash");
    struct cm_capsule_place place;
    uint8_t chunk[CHIME_FLASH_BYTES];
    uint32_t start, count;
    if (index < 0)
        return;
    struct cm_source source = cm_capsule_source(&player->capsule, (uint8_t)index, &place);
    for (uint32_t at = 0; source.extent(source.context, at, &start, &count); at = start + count) {
        must(start + count <= sizeof chunk);
        must(source.read(source.context, start, chunk, count) == CM_OK);
        must(memcmp(chunk, model->flash + start, count) == 0);
    }
}

static void play(struct bytes *file, bool looks_at_signature)
{
    static struct chime_model model;
    static uint8_t workspace[WORKSPACE];
    struct cm_player player = {.port = &model.port,
                               .kits = &KIT,
                               .kit_count = 1,
                               .workspace = workspace,
                               .workspace_bytes = sizeof workspace,
                               .maker = job.key,
                               .verify = looks_at_signature ? cm_ed25519_verify : always,
                               .input = {file, from_file, (uint32_t)file->count}};
    chime_model_begin(&model);
    enum cm_status status = cm_player_open(&player);
    if (status) {
        must(player.fault != CM_PLAYER_GOOD);
        must(player.fault != CM_PLAYER_CAPSULE || player.capsule.fault != CM_CAPSULE_OK);
        return;
    }
    if (looks_at_signature)
        must(file->count == job.count && memcmp(file->at, job.bytes, job.count) == 0);
    status = cm_player_play(&player);
    must(model.breaches == 0);
    if (status == CM_OK)
        check_flash(&player, &model);
    else
        must(player.fault != CM_PLAYER_GOOD);
}

int LLVMFuzzerTestOneInput(const uint8_t *data, size_t size);

int LLVMFuzzerTestOneInput(const uint8_t *data, size_t size)
{
    enum { EDIT = 4, MOST_EDITS = 32, SIGNED_IN = 64 };
    static struct bytes file;
    if (!job.count)
        make_job();
    if (size < 1)
        return 0;
    memcpy(file.at, job.bytes, job.count);
    file.count = job.count;
    for (size_t i = 1; i + EDIT <= size && i < EDIT * MOST_EDITS; i += EDIT)
        change(&file, data + i);
    file.count = make_right(file.at, file.count, (enum make_right)(data[0] % (RIGHT_DIGESTS + 1)));
    play(&file, data[0] / 4 % SIGNED_IN == 0);
    return 0;
}
