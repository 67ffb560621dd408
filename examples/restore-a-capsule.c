/*
 * Restores a chip from a capsule that lies in memory, as it would in a programmer's own flash:
 * nothing of it is copied, and there is no heap.
 *
 * Usage: restore-a-capsule BENCH.yaml CAPSULE.mint
 */
#include <coldmint/coldmint.h>
#include <coldmint/restore.h>
#include <sim/sim.h>
#include <stdio.h>
#include <string.h>

static uint8_t capsule_memory[65536]; // in a programmer: an address in its flash
static const struct cm_kit KIT = {.family = &cm_avr,
                                  .parts = cm_avr_all_parts,
                                  .part_count = CM_AVR_PART_COUNT,
                                  .carrier = &cm_carry_data,
                                  .words = &cm_avr_words};

static enum cm_status read_capsule(void *context, uint32_t offset, uint8_t *bytes, uint32_t count)
{
    memcpy(bytes, (const uint8_t *)context + offset, count);
    return CM_OK;
}

int main(int argc, char **argv)
{
    char error[SIM_ERROR_BYTES];
    uint8_t workspace[CM_STATE_BYTES + 320];
    struct cm_session session;
    struct cm_capsule capsule;
    struct cm_mint_report report;
    FILE *file = argc == 3 ? fopen(argv[2], "rb") : NULL;
    struct cm_sim *sim = file ? cm_sim_open(argv[1], error) : NULL;
    if (!sim) {
        fprintf(stderr, "usage: restore-a-capsule BENCH.yaml CAPSULE.mint\n");
        return 2;
    }
    struct cm_capsule_input input = {
        capsule_memory, read_capsule,
        (uint32_t)fread(capsule_memory, 1, sizeof capsule_memory, file)};
    fclose(file);
    enum cm_status status =
        cm_open(&session, cm_sim_port(sim), &KIT, 1, workspace, sizeof workspace);
    if (!status) // every checksum is looked at before the chip is touched
        status = cm_capsule_open(&capsule, &input);
    if (!status)
        status = cm_identify(&session, capsule.facts.chip);
    if (!status)
        status = cm_restore(&session, &capsule, &report);
    printf("%s: %s; %s, %u pages and %u setting bytes written\n", capsule.facts.chip,
           capsule.facts.notes, cm_status_word(status),
           status ? 0 : (unsigned)report.put.pages_written,
           status ? 0 : (unsigned)report.settings_written);
    cm_close(&session);
    cm_sim_close(sim);
    return status != CM_OK;
}
