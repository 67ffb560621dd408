/* count linux:PLACE [PART]: how many calls of the kernel ports/linux/ makes, and how many were
 * predicted. Writes to the part and reads it. Without a part: pages of an SPI memory, and 2 MiB
 * read; the chip there is programmed by words, and for this it passes as one with pages, which its
 * emulation bears. */
#include <coldmint/all.h>
#include <coldmint/coldmint.h>
#include <coldmint/nor.h>
#include <coldmint/ports.h>
#include <linux/linux.h>
#include <stdio.h>
#include <string.h>

enum { BYTES = 2097152, PAGE = 256, PAGES = 256, WORKSPACE = 1 << 18, STEPS = 64 };

static uint8_t workspace[WORKSPACE], image[PAGES * PAGE], all[BYTES];
static struct cm_nor_found found;
static uint64_t of_step[STEPS], seen; /* calls */

static uint64_t calls(const struct cm_open_port *port)
{
    struct linux_counts counts = linux_counts(port->hardware);
    return counts.messages + counts.transfers + counts.lines;
}

/* Calls since the last progress belong to its step. */
static bool note(void *context, const struct cm_progress *progress)
{
    uint64_t now = calls(context);
    of_step[progress->step] += now - seen;
    seen = now;
    return true;
}

/* What is planned where a call costs a millisecond, less what is planned where it costs nothing. */
static double predicted_calls(struct cm_session *session, struct cm_port *priced,
                              const struct cm_put *put)
{
    enum { CALL_US = 1000 };
    struct cm_report dear, cheap;
    uint16_t call_us = priced->traits.call_us;
    priced->traits.call_us = CALL_US;
    enum cm_status status = cm_plan(session, put, &dear);
    priced->traits.call_us = 0;
    status = status ? status : cm_plan(session, put, &cheap);
    priced->traits.call_us = call_us;
    return status ? 0 : (double)(dear.predicted_us - cheap.predicted_us) / CALL_US;
}

/* Puts the image and reads it. */
static int count_put(struct cm_session *session, struct cm_port *priced, struct cm_open_port *port,
                     uint32_t at, uint32_t bytes)
{
    struct cm_report report;
    struct cm_memory memory = {image, bytes, at};
    struct cm_want want = {CM_REGION_MAIN, cm_memory_source(&memory)};
    struct cm_put put = {.wants = &want, .want_count = 1};
    double predicted = predicted_calls(session, priced, &put);
    uint64_t before = calls(port);
    enum cm_status status = cm_plan(session, &put, &report);
    uint64_t looked = calls(port) - before;
    put.progress = note;
    put.progress_context = port;
    before = seen = calls(port);
    status = status ? status : cm_put(session, &put, &report);
    if (status) {
        printf("put: %s\n", cm_status_word(status));
        return 1;
    }
    double made = (double)(calls(port) - before - looked), ratio = predicted / made;
    printf("%u pages written and read back: %.0f calls, %.0f predicted, ratio %.2f%s\n",
           (unsigned)report.pages_written, made, predicted, ratio,
           ratio < 0.8 || ratio > 1.2 ? ": NOT AS IT SHOULD BE" : "");
    before = calls(port);
    status = cm_read(session, CM_REGION_MAIN, at, all, bytes);
    printf("%u bytes read once: %u calls\n", (unsigned)bytes, (unsigned)(calls(port) - before));
    return status || memcmp(all, image, bytes) != 0 || ratio < 0.8 || ratio > 1.2;
}

static enum cm_status open_pages(struct cm_session *session, const struct cm_port *port)
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

static enum cm_status open_part(struct cm_session *session, const struct cm_port *port,
                                const char *name)
{
    static struct cm_kit kits[CM_ALL_KITS];
    static struct cm_all_found kinds;
    cm_all_kits(kits, &kinds);
    enum cm_status status = cm_open(session, port, kits, CM_ALL_KITS, workspace, sizeof workspace);
    return status ? status : cm_identify(session, name);
}

static int count_pages(struct cm_session *session, struct cm_port *priced,
                       struct cm_open_port *port)
{
    int code = count_put(session, priced, port, 0, sizeof image);
    uint64_t look = of_step[CM_STEP_COMPARE], every = 0;
    for (unsigned step = 0; step < STEPS; step++)
        every += of_step[step];
    printf("messages a page: %.2f; %.2f to look at it, %.2f to program it and read it back\n",
           (double)every / PAGES, (double)look / PAGES, (double)(every - 2 * look) / PAGES);
    uint64_t before = calls(port);
    enum cm_status status = CM_OK;
    for (uint32_t at = 0; at < BYTES && !status; at += BYTES / 2)
        status = cm_read_twice(session, CM_REGION_MAIN, at, all + at, BYTES / 2);
    printf("messages for 2 MiB, read twice: %u\n", (unsigned)(calls(port) - before));
    return code || status;
}

/* An instruction brings a byte. Its bits are two changes each, and a reading: so they are
 * predicted. */
static int count_instructions(struct cm_session *session, const struct cm_open_port *port)
{
    enum { INSTRUCTIONS = 64, BITS = 32, ANSWER = 8 };
    uint64_t before = calls(port);
    enum cm_status status = cm_read(session, CM_REGION_MAIN, 0, all, INSTRUCTIONS);
    double made = (double)(calls(port) - before) / INSTRUCTIONS, ratio = 3 * BITS / made;
    printf("calls a byte read: %.1f; %u predicted, ratio %.2f; %u where the echo, which proves "
           "contact, were not read\n",
           made, 3 * BITS, ratio, (unsigned)(2 * BITS + ANSWER));
    return status || ratio < 0.8 || ratio > 1.2;
}

int main(int argc, char **argv)
{
    static const char PREFIX[] = "linux:";
    enum { PLACE = 0x100000, FEW = 4096 };
    struct cm_open_port port;
    struct cm_session session;
    char error[CM_PORT_ERROR_BYTES];
    const char *part = argc > 2 ? argv[2] : NULL;
    if (argc < 2 || strncmp(argv[1], PREFIX, strlen(PREFIX)) != 0)
        return 2;
    if (cm_port_linux.open(argv[1] + strlen(PREFIX), &port, error) != CM_PORT_OPENED) {
        printf("%s\n", error);
        return 2;
    }
    struct cm_port priced = *port.port;
    for (size_t i = 0; i < sizeof image; i++)
        image[i] = (uint8_t)(i * 7 + i / PAGE);
    enum cm_status status =
        part ? open_part(&session, &priced, part) : open_pages(&session, &priced);
    int code = 1;
    if (status)
        printf("%s\n", cm_status_word(status));
    else if (!part)
        code = count_pages(&session, &priced, &port);
    else if (priced.spi && !priced.traits.packs)
        code = count_instructions(&session, &port);
    else
        code = count_put(&session, &priced, &port, priced.i2c ? 0 : PLACE, FEW);
    cm_close(&session);
    cm_port_linux.close(&port);
    return code;
}
