/*
 * SPI by the kernel's spidev. Source: Documentation/spi/spidev.rst and drivers/spi/spidev.c.
 *
 *     message    06 | 05 ? | 02 address data | 05 ?       several frames, deselected in between
 *                   ^      ^                 ^            (cs_change), in one call
 *
 * - A message may have `bufsiz` bytes each way, where each transfer's length is rounded up to the
 *   kernel's allocation alignment first.
 * - cs_change on the last transfer of a message keeps the select low: so a frame goes on in the
 *   next message. What a process leaves like that when it dies stays so; setting the mode ends it.
 * - Mode and word size survive closing. All is set at open, and read back: some drivers drop mode
 *   bits without a word.
 */
#define _DEFAULT_SOURCE
#include "inside.h"
#include <errno.h>
#include <linux/spi/spidev.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/ioctl.h>
#include <unistd.h>

enum {
    MOST_TRANSFERS = 32,
    ALIGNMENT = 128, /* of the kernel's allocations, at the most */
    WORD_BITS = 8
};

/* A message in the making. */
struct message {
    struct spi_ioc_transfer transfers[MOST_TRANSFERS];
    unsigned count;
    uint32_t out, in; /* bytes each way, rounded */
    bool is_open;     /* in the middle of a frame */
};

static uint32_t rounded(uint32_t bytes)
{
    return (bytes + ALIGNMENT - 1) & ~(uint32_t)(ALIGNMENT - 1);
}

/* --- mode -------------------------------------------------------------------------------- */

/* Sets it even where it is so already: that ends a select that is held. */
static bool set_mode(struct linux_port *linux_port, uint32_t mode)
{
    uint32_t seen = 0;
    if (ioctl(linux_port->spi, SPI_IOC_WR_MODE32, &mode) != 0 ||
        ioctl(linux_port->spi, SPI_IOC_RD_MODE32, &seen) != 0)
        return false;
    linux_port->spi_mode = seen;
    linux_port->is_selected = false;
    if ((seen & (SPI_MODE_X_MASK | SPI_LSB_FIRST | SPI_NO_CS)) == mode)
        return true;
    errno = EOPNOTSUPP;
    return false;
}

enum cm_status linux_unselect(struct linux_port *linux_port)
{
    if (!linux_port->is_selected)
        return CM_OK;
    return set_mode(linux_port, linux_port->spi_mode) ? CM_OK
                                                      : linux_refused(linux_port, "the SPI mode");
}

/* With or without the controller's own select. */
static enum cm_status use_select(struct linux_port *linux_port, bool used)
{
    uint32_t mode = used || !linux_port->can_unselect ? SPI_MODE_0 : SPI_MODE_0 | SPI_NO_CS;
    if (linux_port->spi_mode == mode)
        return CM_OK;
    return set_mode(linux_port, mode) ? CM_OK : linux_refused(linux_port, "the SPI mode");
}

/* --- messages ---------------------------------------------------------------------------- */

/* Sends it. In the middle of a frame the select stays low. */
static enum cm_status flush(struct linux_port *linux_port, struct message *message)
{
    if (!message->count)
        return CM_OK;
    message->transfers[message->count - 1].cs_change = message->is_open;
    int result = ioctl(linux_port->spi, SPI_IOC_MESSAGE(message->count), message->transfers);
    linux_port->counts.messages++;
    linux_port->is_selected = message->is_open;
    message->count = 0;
    message->out = message->in = 0;
    return result >= 0 ? CM_OK : linux_refused(linux_port, "a message on SPI");
}

/* Bytes of the frame that is open. What does not fit any more goes on in the next message. */
static enum cm_status add(struct linux_port *linux_port, struct message *message,
                          const uint8_t *out, uint8_t *in, uint32_t bytes)
{
    enum cm_status status = CM_OK;
    while (bytes && !status) {
        uint32_t part = bytes < linux_port->bufsiz ? bytes : linux_port->bufsiz,
                 more_out = out ? rounded(part) : 0, more_in = in ? rounded(part) : 0;
        if (message->count == MOST_TRANSFERS || message->out + more_out > linux_port->bufsiz ||
            message->in + more_in > linux_port->bufsiz)
            status = flush(linux_port, message);
        message->transfers[message->count++] =
            (struct spi_ioc_transfer){.tx_buf = (uintptr_t)out,
                                      .rx_buf = (uintptr_t)in,
                                      .len = part,
                                      .speed_hz = linux_port->speed_hz,
                                      .bits_per_word = WORD_BITS};
        message->out += more_out;
        message->in += more_in;
        out = out ? out + part : NULL;
        in = in ? in + part : NULL;
        bytes -= part;
    }
    return status;
}

static enum cm_status add_frame(struct linux_port *linux_port, struct message *message,
                                const struct cm_frame *frame)
{
    message->is_open = true;
    enum cm_status status = add(linux_port, message, frame->head, NULL, frame->head_count);
    if (!status)
        status = add(linux_port, message, frame->out, frame->in, frame->count);
    message->is_open = false;
    if (message->count) // deselect before the next one
        message->transfers[message->count - 1].cs_change = true;
    return status;
}

/* Does the whole frame fit behind what is there? If not, that goes out first, so that the frame is
 * in one message. */
static bool fits(const struct linux_port *linux_port, const struct message *message,
                 const struct cm_frame *frame)
{
    uint32_t out = rounded(frame->head_count) + (frame->out ? rounded(frame->count) : 0),
             in = frame->in ? rounded(frame->count) : 0;
    return message->count + 2 <= MOST_TRANSFERS && message->out + out <= linux_port->bufsiz &&
           message->in + in <= linux_port->bufsiz;
}

/* With a select of our own a frame is a message, and a change of the line before and behind it. */
static enum cm_status frame_by_line(struct linux_port *linux_port, const struct cm_frame *frame)
{
    struct message message = {.count = 0};
    struct pin *select = &linux_port->pins[CM_LINE_SELECT];
    enum cm_status status = linux_drive(linux_port, select, CM_LOW);
    if (!status)
        status = add_frame(linux_port, &message, frame);
    if (!status)
        status = flush(linux_port, &message);
    enum cm_status ended = linux_drive(linux_port, select, CM_HIGH);
    return status ? status : ended;
}

static enum cm_status send_frames(const struct cm_port *port, const struct cm_frame *frames,
                                  uint8_t count)
{
    struct linux_port *linux_port = linux_of(port);
    struct message message = {.count = 0};
    bool by_line = linux_port->pins[CM_LINE_SELECT].is_wired;
    enum cm_status status = use_select(linux_port, !by_line);
    for (uint8_t i = 0; i < count && !status; i++) {
        if (by_line) {
            status = frame_by_line(linux_port, &frames[i]);
            continue;
        }
        if (!fits(linux_port, &message, &frames[i]))
            status = flush(linux_port, &message);
        if (!status)
            status = add_frame(linux_port, &message, &frames[i]);
    }
    return status ? status : flush(linux_port, &message);
}

/* Single calls: between them the select stays as the line SELECT was set. */
static enum cm_status shift(const struct cm_port *port, const uint8_t *out, uint8_t *in,
                            uint32_t bytes)
{
    struct linux_port *linux_port = linux_of(port);
    bool is_low =
        linux_controller_selects(linux_port) && linux_port->pins[CM_LINE_SELECT].level == CM_LOW;
    struct message message = {.is_open = is_low};
    enum cm_status status = use_select(linux_port, is_low);
    if (!status)
        status = add(linux_port, &message, out, in, bytes);
    return status ? status : flush(linux_port, &message);
}

static enum cm_status set_clock(const struct cm_port *port, uint32_t want_hz, uint32_t *real_hz)
{
    struct linux_port *linux_port = linux_of(port);
    uint32_t most_hz = port->traits.clock_max_hz,
             hz = most_hz && want_hz > most_hz ? most_hz : want_hz;
    if (ioctl(linux_port->spi, SPI_IOC_WR_MAX_SPEED_HZ, &hz) != 0 ||
        ioctl(linux_port->spi, SPI_IOC_RD_MAX_SPEED_HZ, &hz) != 0)
        return linux_refused(linux_port, "the SPI clock");
    linux_port->speed_hz = hz < want_hz ? hz : want_hz; // what it really makes nobody tells
    *real_hz = linux_port->speed_hz;
    return linux_unselect(linux_port);
}

/* A message without a byte moves neither SCK nor a select, where the select can be left alone. */
static void send_nothing(struct linux_port *linux_port)
{
    struct spi_ioc_transfer nothing = {.speed_hz = linux_port->speed_hz,
                                       .bits_per_word = WORD_BITS};
    (void)ioctl(linux_port->spi, SPI_IOC_MESSAGE(1), &nothing);
}

static void ask_mode(struct linux_port *linux_port)
{
    uint32_t mode;
    (void)ioctl(linux_port->spi, SPI_IOC_RD_MODE32, &mode);
}

uint16_t linux_message_us(struct linux_port *linux_port)
{
    bool is_whole = linux_port->can_unselect && use_select(linux_port, false) == CM_OK;
    return linux_shortest_us(linux_port, is_whole ? send_nothing : ask_mode);
}

const struct cm_spi linux_spi = {.clock = set_clock,
                                 .shift = shift,
                                 .frames = send_frames,
                                 .packed = cm_spi_packed,
                                 .packed_shift = cm_shift_packed};

/* --- opening ----------------------------------------------------------------------------- */

static uint32_t read_bufsiz(void)
{
    enum { USUAL = 4096 };
    char text[32] = "";
    FILE *file = fopen("/sys/module/spidev/parameters/bufsiz", "re");
    if (!file)
        return USUAL;
    uint32_t bytes = fgets(text, sizeof text, file) ? (uint32_t)strtoul(text, NULL, 10) : 0;
    fclose(file);
    return bytes >= ALIGNMENT ? bytes & ~(uint32_t)(ALIGNMENT - 1) : USUAL;
}

/* A device that is not there: has the system any controller? */
static void explain_absence(const char *device, char *error, size_t room)
{
    bool has_controllers = access("/sys/class/spi_master", F_OK) == 0;
    snprintf(error, room, "there is no %s: %s", device,
             has_controllers ? "the device tree names no such device, or its driver is not loaded "
                               "(spidev)"
                             : "SPI is not enabled in the device tree of this system");
}

bool linux_open_spi(struct linux_port *linux_port, const char *device, char *error, size_t room)
{
    uint8_t bits = WORD_BITS;
    linux_port->spi = linux_open(device, 0, error, room);
    if (linux_port->spi < 0 && errno == ENOENT)
        explain_absence(device, error, room);
    if (linux_port->spi < 0)
        return false;
    linux_port->bufsiz = read_bufsiz();
    if (ioctl(linux_port->spi, SPI_IOC_RD_MODE32, &linux_port->spi_mode) != 0) {
        snprintf(error, room, "%s is no SPI device of the kernel's (spidev)", device);
        return false;
    }
    if (!set_mode(linux_port, SPI_MODE_0) ||
        ioctl(linux_port->spi, SPI_IOC_WR_BITS_PER_WORD, &bits) != 0) {
        snprintf(error, room, "%s: its controller cannot do SPI mode 0 in bytes: %s", device,
                 strerror(errno));
        return false;
    }
    // asked for while nothing is sent: does the controller leave its select alone?
    linux_port->can_unselect = set_mode(linux_port, SPI_MODE_0 | SPI_NO_CS);
    return set_mode(linux_port, SPI_MODE_0);
}
