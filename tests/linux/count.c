/* count linux:PLACE [avr]: how many calls of the kernel ports/linux/ makes. Writes pages to an SPI
 * memory and reads 2 MiB; the chip there is programmed by words, and for this it passes as one with
 * pages, which its emulation bears. Or reads from an AVR behind lines. */
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

static enum cm_status open_memory(struct cm_session *session, const struct cm_port *port)
{
    static const uint8_t ID[] = {0xBF, 0x25, 0x41};
    static const struct cm_part *parts[] = {&found.row.part};
    static const struct cm_kit kit = {.family = &cm_nor, .parts = parts, .part_count = 1};
    cm_nor_describe_plain(&found, BYTES);
    snprintf(found.row.part.name, sizeof found.row.part.name, "paged");
    found.row.part.id_bytes = sizeof ID;
    memcpy(found.row.part.id, ID, sizeof ID);
    enum cm_status status = cm_open(session, port, &kit, 1, workspace, sizeof workspace);
    return status ? status : cm_identify(session, "paged");
}

/* An instruction brings a byte. Its bits are two changes each, and a reading. */
static int count_instructions(struct cm_session *session, const struct cm_open_port *port)
{
    enum { INSTRUCTIONS = 64, BITS = 32, ANSWER = 8 };
    uint64_t before = linux_counts(port->hardware).lines;
    enum cm_status status = cm_read(session, CM_REGION_MAIN, 0, all, INSTRUCTIONS);
    double calls = (double)(linux_counts(port->hardware).lines - before) / INSTRUCTIONS;
    printf("calls a byte read: %.1f; %u where the echo, which proves contact, were not read\n",
           calls, (unsigned)(2 * BITS + ANSWER));
    return status != CM_OK;
}

int main(int argc, char **argv)
{
    static const char PREFIX[] = "linux:";
    static const struct cm_part *const avr_parts[] = {&cm_attiny84a.part};
    static const struct cm_kit avr_kit = {.family = &cm_avr, .parts = avr_parts, .part_count = 1};
    struct cm_open_port port;
    struct cm_session session;
    char error[CM_PORT_ERROR_BYTES];
    bool is_avr = argc > 2 && strcmp(argv[2], "avr") == 0;
    if (argc < 2 || strncmp(argv[1], PREFIX, strlen(PREFIX)) != 0)
        return 2;
    if (cm_port_linux.open(argv[1] + strlen(PREFIX), &port, error) != CM_PORT_OPENED) {
        printf("%s\n", error);
        return 2;
    }
    enum cm_status status;
    if (is_avr) {
        status = cm_open(&session, port.port, &avr_kit, 1, workspace, sizeof workspace);
        status = status ? status : cm_identify(&session, "attiny84a");
    } else {
        status = open_memory(&session, port.port);
    }
    int code = status ? 1 : is_avr ? count_instructions(&session, &port) : count(&session, &port);
    if (status)
        printf("%s\n", cm_status_word(status));
    cm_close(&session);
    cm_port_linux.close(&port);
    return code;
}
