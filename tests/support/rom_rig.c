#include "rom_rig.h"
#include "memory_rig.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

void rom_rig_open(struct rom_rig *rig, const char *name, const char *more)
{
    char text[1200], error[SIM_ERROR_BYTES];
    const struct sim_kind *kind;
    struct cm_kit all[CM_ALL_KITS];
    int count = 0;
    const struct cm_part *part = sim_find_part(name, &kind);
    assert_non_null(part);
    memset(rig, 0, sizeof *rig);
    rig->part = name;
    snprintf(text, sizeof text, "bench: a test's memory\nchip:\n  part: %s\n  supply_mv: %d\n%s",
             name, (part->supply_min_mv + part->supply_max_mv) / 2, more);
    write_file(rig->path, sizeof rig->path, "rom.yaml", text);
    cm_sim_renew(rig->path);
    rig->sim = cm_sim_open(rig->path, error);
    if (!rig->sim)
        fail_msg("%s: %s", name, error);
    test_way(rig->sim);
    rig->port = cm_sim_port(rig->sim);
    cm_all_kits(all, &rig->found);
    for (int k = 0; k < CM_ALL_KITS; k++) { // memories in sockets first, then EEPROMs on SPI
        bool is_spi = all[k].family->bus == &cm_bus_spi;
        if (!all[k].about->program && !is_spi)
            rig->kits[count++] = all[k];
        if (all[k].family == &cm_ee25)
            rig->kits[ROM_KITS - 1] = all[k];
    }
    assert_int_equal(count, ROM_KITS - 1);
    rig->bytes = sim_memory_bytes(part, kind);
    rig->image = malloc(rig->bytes);
    assert_non_null(rig->image);
    fill_pattern(rig->image, rig->bytes, 1);
    for (uint32_t i = 0; i < rig->bytes; i++)
        rig->image[i] &= 0xF7; // no byte is blank
}

void rom_rig_close(struct rom_rig *rig)
{
    cm_close(&rig->session);
    cm_sim_close(rig->sim);
    free(rig->image);
}

enum cm_status rom_rig_try(struct rom_rig *rig)
{
    assert_int_equal(cm_open(&rig->session, rig->port, rig->kits, ROM_KITS, rig->workspace,
                             sizeof rig->workspace),
                     CM_OK);
    return cm_identify(&rig->session, rig->part);
}

void rom_rig_identify(struct rom_rig *rig)
{
    enum cm_status status = rom_rig_try(rig);
    const uint8_t *answer = rig->session.failure.answer;
    if (status)
        fail_msg("%s: %s, %02X %02X, %02X %02X", rig->part, cm_status_word(status), answer[0],
                 answer[1], answer[2], answer[3]);
}

enum cm_status rom_rig_put(struct rom_rig *rig, uint32_t first, uint32_t count)
{
    rig->memory = (struct cm_memory){rig->image + first, count, first};
    rig->want = (struct cm_want){CM_REGION_MAIN, cm_memory_source(&rig->memory)};
    rig->put.wants = &rig->want;
    rig->put.want_count = 1;
    rig->put.carry.in_memory = true;
    return cm_put(&rig->session, &rig->put, &rig->report);
}

void assert_rom_holds(const struct rom_rig *rig, uint32_t first)
{
    for (uint32_t i = first; i < rig->bytes; i++) {
        if (cm_sim_at(rig->sim, i) != rig->image[i])
            fail_msg("%s: 0x%06X holds %02X, not %02X", rig->part, (unsigned)i,
                     cm_sim_at(rig->sim, i), rig->image[i]);
    }
}

void assert_no_rom_breach(struct rom_rig *rig)
{
    const struct sim_kind *kind = cm_sim_kind(rig->sim);
    for (int i = 0; i < kind->breach_count; i++) {
        if (cm_sim_breaches(rig->sim)[i])
            fail_msg("%s: %s, %u times", rig->part, kind->breach_words[i],
                     (unsigned)cm_sim_breaches(rig->sim)[i]);
    }
}
