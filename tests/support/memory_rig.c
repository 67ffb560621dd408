#include "memory_rig.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum { LARGEST_IMAGE = 16 << 20 };

static const struct cm_part *find(const char *name)
{
    static const struct cm_kit kits[] = {{.family = &cm_nor,
                                          .parts = cm_nor_all_parts,
                                          .part_count = CM_NOR_PART_COUNT,
                                          .carrier = &cm_carry_sectors},
                                         {.family = &cm_ee25,
                                          .parts = cm_ee25_all_parts,
                                          .part_count = CM_EE25_PART_COUNT,
                                          .carrier = &cm_carry_sectors}};
    return cm_part_by_name(kits, 2, name);
}

void memory_rig_open(struct memory_rig *rig, const char *name, const char *more)
{
    char text[1200], error[SIM_ERROR_BYTES];
    memset(rig, 0, sizeof *rig);
    struct cm_kit all[CM_ALL_KITS];
    const struct cm_part *part = find(name);
    assert_non_null(part);
    snprintf(text, sizeof text, "bench: a test's memory\nchip:\n  part: %s\n  supply_mv: %d\n%s",
             name, (part->supply_min_mv + part->supply_max_mv) / 2, more);
    write_file(rig->path, sizeof rig->path, "memory.yaml", text);
    cm_sim_renew(rig->path);
    rig->sim = cm_sim_open(rig->path, error);
    if (!rig->sim)
        fail_msg("%s", error);
    test_way(rig->sim);
    rig->port = cm_sim_port(rig->sim);
    rig->model = cm_sim_memory(rig->sim);
    cm_all_kits(all, &rig->found);
    for (int k = 0; k < CM_ALL_KITS; k++) {
        if (all[k].family == &cm_nor)
            rig->kits[0] = all[k];
        if (all[k].family == &cm_ee25)
            rig->kits[1] = all[k];
    }
    uint32_t bytes = rig->model->row->bytes;
    rig->image = bytes <= LARGEST_IMAGE ? malloc(bytes) : NULL;
    if (rig->image)
        fill_pattern(rig->image, bytes, 1);
    want_part(rig, 0, rig->image ? bytes : 0);
}

void want_part(struct memory_rig *rig, uint32_t first, uint32_t count)
{
    rig->memory = (struct cm_memory){rig->image ? rig->image + first : NULL, count, first};
    rig->want = (struct cm_want){CM_NOR_FLASH, cm_memory_source(&rig->memory)};
    rig->put.wants = &rig->want;
    rig->put.want_count = 1;
    rig->put.carry.in_memory = true;
}

void memory_rig_close(struct memory_rig *rig)
{
    cm_close(&rig->session);
    cm_sim_close(rig->sim);
    free(rig->image);
}

void memory_rig_identify(struct memory_rig *rig, uint32_t workspace_bytes)
{
    assert_int_equal(
        cm_open(&rig->session, rig->port, rig->kits, 2, rig->workspace, workspace_bytes), CM_OK);
    enum cm_status status = cm_identify(&rig->session, rig->model->row->part.name);
    if (status)
        fail_msg("%s: %s, %02X %02X %02X", rig->model->row->part.name, cm_status_word(status),
                 rig->session.failure.answer[0], rig->session.failure.answer[1],
                 rig->session.failure.answer[2]);
}

void fill_pattern(uint8_t *bytes, uint32_t count, uint32_t seed)
{
    uint32_t state = seed * 2654435761u + 12345;
    for (uint32_t i = 0; i < count; i++) {
        state = state * 1664525u + 1013904223u;
        bytes[i] = (uint8_t)(state >> 24);
        if (i % 8 == 0)
            bytes[i] = (uint8_t)(0x40 | (bytes[i] & 0x3F)); // no page is blank, nor begins so
    }
}

void assert_no_memory_breach(const struct nor_model *model)
{
    for (int i = 0; i < NOR_BREACH_COUNT; i++) {
        if (model->breaches[i])
            fail_msg("%s: %s, %u times", model->row->part.name, nor_breach_words[i],
                     (unsigned)model->breaches[i]);
    }
}

void assert_holds_image(const struct memory_rig *rig)
{
    for (uint32_t i = 0; i < rig->model->row->bytes; i++) {
        if (nor_model_at(rig->model, i) != rig->image[i])
            fail_msg("%s: 0x%06X holds %02X, not %02X", rig->model->row->part.name, (unsigned)i,
                     nor_model_at(rig->model, i), rig->image[i]);
    }
}

void make_file(char *path, const char *name, uint32_t bytes, uint32_t seed)
{
    uint8_t *contents = malloc(bytes);
    snprintf(path, 200, "%s/%s", test_folder(), name);
    fill_pattern(contents, bytes, seed);
    FILE *file = fopen(path, "wb");
    assert_int_equal(fwrite(contents, 1, bytes, file), bytes);
    fclose(file);
    free(contents);
}
