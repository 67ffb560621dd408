/*
 * The first real job: bring a HEX file into a chip, and know that it is there.
 *
 *     program-a-chip BENCH.yaml FILE.hex
 */
#include <coldmint/coldmint.h>
#include <sim/sim.h>
#include <stdio.h>

enum { BLOCKS = 4096 }; // of 64 bytes: images of up to 256 KiB

static bool read_hex(const char *path, struct cm_image *image)
{
    struct cm_record_reader reader;
    char text[4096];
    size_t got;
    FILE *file = fopen(path, "r");
    if (!file)
        return false;
    cm_record_begin(&reader, cm_record_into_image, image);
    while ((got = fread(text, 1, sizeof text, file)) > 0)
        cm_ignore(cm_record_feed(&reader, text, got)); // the first fault stays, and ends it
    fclose(file);
    if (cm_record_end(&reader) != CM_OK)
        fprintf(stderr, "%s, line %u: %s\n", path, (unsigned)reader.line,
                cm_record_fault_word(reader.fault));
    return reader.fault == CM_RECORD_OK;
}

static enum cm_status program(struct cm_port *port, struct cm_image *image,
                              struct cm_report *report)
{
    static const struct cm_kit kit = {.family = &cm_avr,
                                      .parts = cm_avr_all_parts,
                                      .part_count = CM_AVR_PART_COUNT,
                                      .carrier = &cm_carry_data};
    static uint8_t workspace[512];
    struct cm_want want = {CM_AVR_FLASH, cm_image_source(image)};
    struct cm_put put = {.wants = &want, .want_count = 1};
    struct cm_session session;

    enum cm_status status = cm_open(&session, port, &kit, 1, workspace, sizeof workspace);
    if (!status)
        status = cm_identify(&session, "attiny84a"); // anything else on the wires stops the job
    if (!status)
        status = cm_put(&session, &put,
                        report); // erases only if it must, writes what differs, reads it back
    if (status)
        fprintf(stderr, "%s at 0x%04X\n", cm_status_word(status),
                (unsigned)session.failure.address);
    cm_close(&session);
    return status;
}

int main(int argc, char **argv)
{
    static _Alignas(8) uint8_t memory[CM_IMAGE_MEMORY(BLOCKS)];
    char error[SIM_ERROR_BYTES];
    struct cm_image image;
    struct cm_report report;
    cm_image_init(&image, memory, sizeof memory);
    if (argc != 3 || !read_hex(argv[2], &image))
        return 2;
    struct cm_sim *sim = cm_sim_open(argv[1], error);
    if (!sim) {
        fprintf(stderr, "%s\n", error);
        return 2;
    }
    enum cm_status status = program(cm_sim_port(sim), &image, &report);
    if (!status)
        printf("good: %u of %u pages written in %.2f s\n", (unsigned)report.pages_written,
               (unsigned)report.pages, report.actual_us / 1e6);
    cm_sim_close(sim);
    return status ? 1 : 0;
}
