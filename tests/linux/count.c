/* count DEVICE: writes pages to an SPI memory through ports/linux/ and reads 2 MiB, and prints how
 * many messages the kernel took. The chip there is programmed by words; for this it passes as one
 * with pages, which its emulation bears. */
#include <coldmint/coldmint.h>
#include <coldmint/nor.h>
#include <coldmint/ports.h>
#include <linux/linux.h>
#include <stdio.h>
#include <string.h>

enum { BYTES = 2097152, PAGE = 256, PAGES = 256, WORKSPACE = 1 << 18, STEPS = 64 };

static uint8_t workspace[WORKSPACE], image[PAGES * PAGE], all[BYTES];
static struct cm_nor_found found;
static uint64_t of_step[STEPS], seen; /* messages */

static uint64_t messages(const struct cm_open_port *port)
{
    return linux_counts(port->hardware).messages;
}

/* Messages since the last progress belong to its step. */
static bool note(void *context, const struct cm_progress *progress)
{
    uint64_t now = messages(context);
    of_step[progress->step] += now - seen;
    seen = now;
    return true;
}

static int count(struct cm_session *session, struct cm_open_port *port)
{
    struct cm_report report;
    struct cm_memory memory = {image, sizeof image, 0};
    struct cm_want want = {CM_REGION_MAIN, cm_memory_source(&memory)};
    struct cm_put put = {
        .wants = &want, .want_count = 1, .progress = note, .progress_context = port};
    seen = messages(port);
    enum cm_status status = cm_put(session, &put, &report);
    if (status) {
        printf("put: %s\n", cm_status_word(status));
        return 1;
    }
    uint64_t all_steps = 0;
    for (unsigned step = 0; step < STEPS; step++)
        all_steps += of_step[step];
    double look = (double)of_step[CM_STEP_COMPARE] / PAGES; // for the plan, and once more before it
    printf("messages a page: %.2f; twice %.2f to look at it, %.2f to program it and read it back\n",
           (double)all_steps / PAGES, look, (double)all_steps / PAGES - 2 * look);
    uint64_t before = messages(port);
    status = cm_read(session, CM_REGION_MAIN, 0, all, BYTES);
    printf("messages for 2 MiB, read once: %u\n", (unsigned)(messages(port) - before));
    return status || memcmp(all, image, sizeof image) != 0;
}

int main(int argc, char **argv)
{
    struct cm_open_port port;
    struct cm_session session;
    char error[CM_PORT_ERROR_BYTES];
    static const uint8_t ID[] = {0xBF, 0x25, 0x41};
    cm_nor_describe_plain(&found, BYTES);
    snprintf(found.row.part.name, sizeof found.row.part.name, "paged");
    found.row.part.id_bytes = sizeof ID;
    memcpy(found.row.part.id, ID, sizeof ID);
    const struct cm_part *const parts[] = {&found.row.part};
    const struct cm_kit kit = {.family = &cm_nor, .parts = parts, .part_count = 1};
    for (uint32_t i = 0; i < sizeof image; i++)
        image[i] = (uint8_t)((i * 7 + i / PAGE) | 1);
    if (argc < 2 || cm_port_linux.open(argv[1], &port, error) != CM_PORT_OPENED) {
        printf("%s\n", argc < 2 ? "which device?" : error);
        return 2;
    }
    enum cm_status status = cm_open(&session, port.port, &kit, 1, workspace, sizeof workspace);
    session.clock_hz = 0;
    if (!status)
        status = cm_identify(&session, "paged");
    int code = status ? 1 : count(&session, &port);
    if (status)
        printf("%s\n", cm_status_word(status));
    cm_close(&session);
    cm_port_linux.close(&port);
    return code;
}
