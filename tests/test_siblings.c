/* Hardware: serial EEPROMs that are not what they are called: each part of the tables under the
 * name of each larger one with the same pages and the same address bytes. They have no id; a chip
 * that is smaller does not look at the highest bits of an address, and what goes there replaces
 * other bytes. Written beyond its end, it must be told, and be as it was. */
#include "support/chance.h"
#include "support/rom_rig.h"
#include <coldmint/ee25.h>
#include <coldmint/i2c24.h>
#include <coldmint/m93.h>
#include <stdio.h>
#include <string.h>

static struct rom_rig rig;

/* What siblings share: a name of a larger one then drives the smaller one without a breach. */
struct form {
    const struct cm_family *family;
    uint32_t bytes, page, address;
};

static struct form form_of(const struct cm_kit *kit, const struct cm_part *part)
{
    struct form form = {.family = kit->family};
    if (kit->family == &cm_i2c24) {
        const struct cm_i2c24_part *row = cm_i2c24_row(part);
        form = (struct form){kit->family, row->bytes, row->page_bytes,
                             row->address_bytes | (uint32_t)row->block_shift << 8};
    } else if (kit->family == &cm_m93) {
        const struct cm_m93_part *row = cm_m93_row(part);
        form = (struct form){kit->family, row->bytes, row->word_bytes, row->address_bits};
    } else if (kit->family == &cm_ee25) {
        const struct cm_nor_part *row = cm_nor_row(part);
        form = (struct form){kit->family, row->bytes, row->page_bytes, row->address_bytes};
    }
    return form;
}

static bool are_siblings(const struct form *small, const struct form *large)
{
    return small->bytes && small->bytes < large->bytes && small->page == large->page &&
           small->address == large->address;
}

/* Contents that were there before; then bytes around the smaller one's end are put under the larger
 * one's name. */
static enum cm_status put_beyond(const char *small, const char *large, uint32_t bytes,
                                 bool is_blank)
{
    enum { BESIDE = 20 };
    rom_rig_open(&rig, small, "");
    if (!is_blank) {
        rom_rig_identify(&rig);
        assert_int_equal(rom_rig_put(&rig, 0, 40), CM_OK);
        cm_close(&rig.session);
    }
    uint8_t was[2 * BESIDE];
    for (uint32_t i = 0; i < sizeof was; i++)
        was[i] = cm_sim_at(rig.sim, i);
    for (uint32_t i = 0; i < sizeof was; i++)
        rig.image[i] ^= 0x41;
    rig.part = large;
    if (rom_rig_try(&rig) != CM_OK) { // told before anything is written
        rom_rig_close(&rig);
        return CM_WRONG_CHIP;
    }
    rig.memory = (struct cm_memory){rig.image, 2 * BESIDE, bytes - BESIDE};
    rig.want = (struct cm_want){CM_REGION_MAIN, cm_memory_source(&rig.memory)};
    rig.put = (struct cm_put){.wants = &rig.want, .want_count = 1, .carry.in_memory = true};
    enum cm_status status = cm_put(&rig.session, &rig.put, &rig.report);
    bool is_told = status == CM_WRONG_CHIP || status == CM_CONTACT_LOST;
    for (uint32_t i = 0; is_told && i < sizeof was; i++)
        assert_int_equal(cm_sim_at(rig.sim, i), was[i]);
    if (status == CM_WRONG_CHIP)
        assert_int_equal(rig.session.failure.address, bytes);
    rom_rig_close(&rig);
    return status;
}

static void no_larger_sibling_is_good_and_wrong(void **state)
{
    struct cm_kit kits[CM_ALL_KITS];
    struct cm_all_found found;
    unsigned pairs = 0, tried = 0, number = 0, others = 0, worse = 0;
    (void)state;
    cm_all_kits(kits, &found);
    for (int k = 0; k < CM_ALL_KITS; k++) {
        for (uint32_t i = 0; i < kits[k].part_count; i++) {
            const struct form small = form_of(&kits[k], kits[k].parts[i]);
            for (uint32_t j = 0; j < kits[k].part_count; j++) {
                const struct form large = form_of(&kits[k], kits[k].parts[j]);
                if (!are_siblings(&small, &large))
                    continue;
                pairs++;
                if (!test_takes(number++, 4)) // others each day
                    continue;
                tried++;
                const char *one = kits[k].parts[i]->name, *other = kits[k].parts[j]->name;
                enum cm_status status = put_beyond(one, other, small.bytes, number & 4);
                if (status == CM_OK)
                    fail_msg("a %s called %s: good, and half of it is not there", one, other);
                others += status == CM_CONTACT_LOST; // a block that nobody acknowledges
                worse += status != CM_WRONG_CHIP && status != CM_CONTACT_LOST;
            }
        }
    }
    printf(
        "  %u of %u pairs of siblings: %u told as smaller, %u as not answering, and as they were; "
        "%u told when something was written\n",
        tried, pairs, tried - others - worse, others, worse);
    assert_true(tried > 10 * worse);
}

int main(void)
{
    const struct CMUnitTest tests[] = {cmocka_unit_test(no_larger_sibling_is_good_and_wrong)};
    return cmocka_run_group_tests(tests, NULL, NULL);
}
