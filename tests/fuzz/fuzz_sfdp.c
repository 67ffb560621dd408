/*
 * Hardware: a chip that says anything at all of itself. The bytes are its SFDP; it must be
 * identified or refused, planned for or not, without a crash, without reading for ever, and without
 * a single instruction that writes.
 */
#include <coldmint/coldmint.h>
#include <stdlib.h>
#include <string.h>

enum { MOST_FRAMES = 40000 };

struct chip {
    const uint8_t *sfdp;
    size_t bytes;
    uint8_t head[8];
    uint32_t sent, frames, answered, time_us;
};

/* Only instructions that read, wake, reset, or switch the address mode (with the enable that some
 * want before it). */
static void check_opcode(uint8_t opcode)
{
    static const uint8_t HARMLESS[] = {0x9F, 0x90, 0xAB, 0x05, 0x5A, 0x03, 0x13,
                                       0xFF, 0x66, 0x99, 0xB7, 0xE9, 0x06, 0x04};
    if (!memchr(HARMLESS, opcode, sizeof HARMLESS))
        abort();
}

static uint8_t answer(const struct chip *chip, uint32_t at)
{
    static const uint8_t ID[] = {0x4A, 0x77, 0x18}; // in no table
    uint32_t address = (uint32_t)chip->head[1] << 16 | (uint32_t)chip->head[2] << 8 | chip->head[3];
    if (chip->head[0] == 0x9F)
        return at < sizeof ID ? ID[at] : 0;
    if (chip->head[0] == 0x5A)
        return address + at < chip->bytes ? chip->sfdp[address + at] : 0xFF;
    return chip->head[0] == 0x05 ? 0x00 : 0xFF;
}

static enum cm_status shift(const struct cm_port *port, const uint8_t *out, uint8_t *in,
                            uint32_t bytes)
{
    struct chip *chip = port->context;
    for (uint32_t i = 0; i < bytes; i++) {
        if (in)
            in[i] = answer(chip, chip->answered++);
        else if (chip->sent < sizeof chip->head)
            chip->head[chip->sent++] = out ? out[i] : 0;
    }
    return CM_OK;
}

static enum cm_status line(const struct cm_port *port, enum cm_line which, enum cm_level level)
{
    struct chip *chip = port->context;
    if (which != CM_LINE_SELECT)
        return CM_OK;
    if (level != CM_LOW && chip->sent)
        check_opcode(chip->head[0]);
    chip->sent = chip->answered = 0;
    if (++chip->frames > MOST_FRAMES)
        abort();
    return CM_OK;
}

static void wait_us(const struct cm_port *port, uint32_t us)
{
    ((struct chip *)port->context)->time_us += us;
}

static uint32_t now_us(const struct cm_port *port)
{
    return ((struct chip *)port->context)->time_us++;
}

int LLVMFuzzerTestOneInput(const uint8_t *data, size_t size);

int LLVMFuzzerTestOneInput(const uint8_t *data, size_t size)
{
    static uint8_t workspace[4096], image[300];
    struct chip chip = {.sfdp = data, .bytes = size};
    static const struct cm_lines lines = {.line = line, .wait_us = wait_us, .now_us = now_us};
    static const struct cm_spi spi = {.shift = shift};
    struct cm_port_state state = {0};
    struct cm_port port = {.context = &chip,
                           .lines = &lines,
                           .spi = &spi,
                           .state = &state,
                           .traits = {.lines = CM_LINE_BIT(CM_LINE_SELECT)}};
    struct cm_nor_found found;
    const struct cm_kit kit = {
        .family = &cm_nor, .found = &found.row.part, .describe = cm_nor_by_sfdp};
    struct cm_session session;
    if (cm_open(&session, &port, &kit, 1, workspace, sizeof workspace) != CM_OK)
        abort(); // nothing would be fuzzed
    if (cm_identify(&session, NULL) == CM_OK) {
        struct cm_memory memory = {image, sizeof image, (uint32_t)(size % 5000)};
        struct cm_want want = {CM_NOR_FLASH, cm_memory_source(&memory)};
        struct cm_put put = {.wants = &want, .want_count = 1};
        struct cm_report report;
        cm_ignore(cm_plan(&session, &put, &report));
    }
    cm_close(&session);
    return 0;
}
