/*
 * Settings worked out before there is a chip: which bits a recipe chooses, which of them make the
 * chip faster and come before the contents, and which must wait.
 */
#include "pack_settings.h"
#include <coldmint/host/settings.h>
#include <string.h>

/* The settings of a part, as they are worked out. */
struct working {
    struct cm_job *job;
    const struct cm_recipe *recipe;
    const struct cm_words *words;
    const struct cm_part *part;
    uint8_t delivered[CM_SETTING_BYTES], wanted[CM_SETTING_BYTES];
    uint8_t chosen[CM_SETTING_BYTES], early[CM_SETTING_BYTES];
};

/* --- which bits are chosen ---------------------------------------------------------------- */

static const char *setting_at(const struct working *working, uint8_t byte, uint8_t bit)
{
    struct cm_setting setting;
    for (uint8_t i = 0; working->words->setting(working->part, working->wanted, i, &setting); i++) {
        uint8_t bits[CM_SETTING_BYTES + 4] = {0};
        cm_set_setting(&setting, bits, UINT32_MAX);
        if (bits[byte] & bit)
            return setting.name;
    }
    return "a reserved bit";
}

static bool fail_open(struct working *working, uint8_t byte, uint8_t bit)
{
    struct cm_error *error =
        host_error(working->job->host, CM_ERROR_PACK_SETTING, working->recipe->path);
    HOST_COPY(error->key, setting_at(working, byte, bit));
    return false;
}

/* A bit is chosen where the recipe gives it whatever it was before. What the recipe makes of the
 * other bits must not depend on one that it leaves open. */
static bool find_chosen(struct working *working)
{
    struct cm_setting_byte byte;
    for (uint8_t i = 0; working->words->byte(working->part, i, &byte); i++) {
        for (uint8_t bit = 1; bit; bit = (uint8_t)(bit << 1)) {
            uint8_t other[CM_SETTING_BYTES];
            if (!(byte.named & bit))
                continue;
            memcpy(other, working->delivered, sizeof other);
            other[i] ^= bit;
            if (!cm_recipe_choose(working->job->host, working->recipe, other))
                return fail_open(working, i, bit);
            bool is_chosen = ((other[i] ^ working->wanted[i]) & bit) == 0;
            other[i] = (uint8_t)((other[i] & ~bit) | (working->wanted[i] & bit));
            if (memcmp(other, working->wanted, sizeof other) != 0)
                return fail_open(working, i, bit);
            working->chosen[i] |= is_chosen ? bit : 0;
        }
    }
    return true;
}

/* --- which bits come early ---------------------------------------------------------------- */

/* As cm_mint does: what ends access waits, and what locks; without a clock to gain nothing is
 * early, and a slower clock waits, too. */
static void find_early(struct working *working, struct pack_settings *out)
{
    const struct cm_words *words = working->words;
    struct cm_setting_byte byte;
    struct cm_fence fence;
    uint8_t state[CM_SETTING_BYTES], clocks = 0;
    memcpy(working->early, working->chosen, sizeof working->early);
    for (uint8_t i = 0;
         cm_next_fence(words, working->part, working->delivered, working->wanted, i, &fence);
         i = (uint8_t)(fence.index + 1)) {
        if (fence.kind != CM_FENCE_ENDS_ACCESS)
            continue;
        cm_set_setting(&fence.setting, working->early, 0);
        out->closes = true;
    }
    for (uint8_t i = 0; words->byte(working->part, i, &byte); i++) {
        clocks |= words->clock_mask(working->part, i);
        if (byte.only_falls)
            working->early[i] = 0;
    }
    if (!clocks)
        memset(working->early, 0, sizeof working->early);
    uint32_t now = words->cpu_hz(working->part, working->delivered, working->recipe->board_hz);
    uint32_t then = words->cpu_hz(working->part, working->wanted, working->recipe->board_hz);
    for (uint8_t i = 0; then && then < now && i < CM_SETTING_BYTES; i++)
        working->early[i] &= (uint8_t)~words->clock_mask(working->part, i);
    for (uint8_t i = 0; i < CM_SETTING_BYTES; i++)
        state[i] = (uint8_t)((working->delivered[i] & ~working->early[i]) |
                             (working->wanted[i] & working->early[i]));
    bool is_known = clocks != 0; // of every chip: the recipe chooses all of it
    for (uint8_t i = 0; i < cm_setting_byte_count(words, working->part); i++)
        is_known &= (words->clock_mask(working->part, i) & ~working->early[i]) == 0;
    out->then_hz = is_known ? words->cpu_hz(working->part, state, working->recipe->board_hz) : 0;
}

/* --- as a list --------------------------------------------------------------------------- */

static bool is_erasable(const struct cm_session *session, uint8_t region)
{
    struct cm_erase_unit unit;
    return cm_erase_unit(session, region, 0, &unit);
}

/* Bytes with the clock come behind the others. */
static bool list(struct working *working, struct pack_settings *out)
{
    struct cm_setting_byte byte;
    for (uint8_t pass = 0; pass < 2; pass++) {
        for (uint8_t i = 0; working->words->byte(working->part, i, &byte); i++) {
            bool has_clock = working->words->clock_mask(working->part, i) != 0;
            if (!working->chosen[i] || has_clock != (pass == 1))
                continue;
            if (is_erasable(working->job->session, byte.region)) {
                HOST_COPY(
                    host_error(working->job->host, CM_ERROR_PACK_REGION, working->recipe->path)
                        ->text,
                    byte.name);
                return false;
            }
            out->list[out->count++] = (struct cm_work_setting){
                .region = byte.region,
                .address = byte.address,
                .value = (uint8_t)(working->wanted[i] & working->chosen[i]),
                .chosen = working->chosen[i],
                .early = working->early[i],
                .locks = byte.only_falls};
        }
    }
    return true;
}

/* The level must be safe on every board that the recipe is for. */
static bool check_brown_out(struct working *working)
{
    uint16_t level = working->words->brown_out_mv(working->part, working->wanted);
    bool is_chosen = level != working->words->brown_out_mv(working->part, working->delivered);
    return !level || !is_chosen || working->recipe->supply_from_mv ||
           host_fail(working->job->host, CM_ERROR_PACK_SUPPLY, working->recipe->path);
}

bool pack_settings(struct cm_job *job, const struct cm_recipe *recipe, struct pack_settings *out)
{
    struct working working = {
        .job = job, .recipe = recipe, .words = cm_words_of(job->session), .part = recipe->part};
    memset(out, 0, sizeof *out);
    if (!recipe->choice_count)
        return true;
    cm_settings_as_delivered(job->host, recipe->part, working.delivered);
    memcpy(working.wanted, working.delivered, sizeof working.wanted);
    if (!cm_recipe_choose(job->host, recipe, working.wanted) || !find_chosen(&working) ||
        !check_brown_out(&working))
        return false;
    memcpy(job->settings, working.wanted, sizeof job->settings);
    if (!recipe_check_fences(job, recipe, working.delivered, recipe->supply_from_mv))
        return false;
    find_early(&working, out);
    return list(&working, out);
}
