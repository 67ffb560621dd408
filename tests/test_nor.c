/* Hardware: simulated SPI memories, each alone on a bench, at 33 MHz or what they stand. */
#include "support/memory_rig.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static struct memory_rig rig;

enum { WINDOW = 20000, CHANGED = 4500 };

/* The end of the chip holds the image. */
static void assert_window(const uint8_t *image, uint32_t first, uint32_t count)
{
    for (uint32_t i = 0; i < count; i++) {
        if (nor_model_at(rig.model, first + i) != image[i])
            fail_msg("%s: 0x%06X holds %02X, not %02X", rig.model->row->part.name, (unsigned)(first + i), nor_model_at(rig.model, first + i), image[i]);
    }
}

static void put_bytes(uint8_t *bytes, uint32_t first, uint32_t count)
{
    rig.memory = (struct cm_memory){bytes, count, first};
    enum cm_status status = cm_put(&rig.session, &rig.put, &rig.report);
    if (status)
        fail_msg("%s: %s at 0x%06X, %02X for %02X", rig.model->row->part.name, cm_status_word(status), (unsigned)rig.session.failure.address,
                 rig.session.failure.found, rig.session.failure.expected);
}

/* Every part of both tables: its end is filled, changed in the middle, and found right; nothing on the wires was against its data sheet. */
static void every_part_is_written_and_changed(void **state)
{
    static uint8_t image[WINDOW];
    (void)state;
    for (int i = 0; i < CM_NOR_PART_COUNT + CM_EE25_PART_COUNT; i++) {
        const struct cm_part *part = i < CM_NOR_PART_COUNT ? cm_nor_all_parts[i] : cm_ee25_all_parts[i - CM_NOR_PART_COUNT];
        uint32_t bytes = cm_nor_row(part)->bytes, count = bytes < WINDOW ? bytes : WINDOW, first = bytes - count;
        memory_rig_open(&rig, part->name, "");
        memory_rig_identify(&rig, RIG_WORKSPACE);
        rig.put.unprotect = true;
        fill_pattern(image, count, 3);
        put_bytes(image, first, count);
        assert_window(image, first, count);
        uint32_t at = count / 3, some = count < 4 * CHANGED ? count / 4 : CHANGED;
        fill_pattern(image + at, some, 7);
        put_bytes(image + at, first + at, some);
        assert_window(image, first, count);
        put_bytes(image, first, count);
        assert_int_equal(rig.report.pages_written, 0);
        assert_no_memory_breach(rig.model);
        memory_rig_close(&rig);
    }
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(every_part_is_written_and_changed),
    };
    return cmocka_run_group_tests_name("nor", tests, NULL, NULL);
}
