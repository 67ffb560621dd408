/*
 * This computer's own pins among the kinds of ports: opens what a desk names, and puts a port
 * together from it.
 *
 *     spi: device            the kernel's SPI; without it SCK, MOSI and MISO among the lines
 *     modem: device          modem lines, among the lines by their names
 *     i2c: device            the kernel's I2C; without it SDA and SCL among the lines
 *     data, address, LATCH   a parallel bus from lines
 */
#define _GNU_SOURCE
#include "../device.h"
#include "inside.h"
#include <coldmint/ports.h>
#include <errno.h>
#include <fcntl.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <sys/file.h>
#include <sys/ioctl.h>
#include <unistd.h>

enum { USUAL_I2C_HZ = 100000, REGISTER_LINES = 24, HEAD_BYTES = 8 };

enum cm_status linux_refused(struct linux_port *linux_port, const char *what)
{
    const char *more = errno == EMSGSIZE ? "; the transfer is longer than the system takes" : "";
    snprintf(linux_port->trouble, sizeof linux_port->trouble, "the system refused %s: %s%s", what,
             strerror(errno), more);
    return CM_PORT_FAILED;
}

int linux_open(const char *device, int flags, char *error, size_t room)
{
    char why[CM_PORT_ERROR_BYTES];
    int file = open(device, O_RDWR | O_CLOEXEC | flags), reason = file < 0 ? errno : 0;
    if (!reason && flock(file, LOCK_EX | LOCK_NB) != 0)
        reason = EBUSY;
    if (!reason)
        return file;
    device_explain(device, reason, why, sizeof why);
    snprintf(error, room, "%s: %.400s", device, why);
    if (file >= 0)
        close(file);
    errno = reason;
    return -1;
}

struct linux_counts linux_counts(const struct linux_port *linux_port)
{
    return linux_port->counts;
}

/* --- lines ------------------------------------------------------------------------------- */

static struct pin *pin_of(struct linux_port *linux_port, enum cm_line line)
{
    struct pin *pin = line < CM_LINE_END ? &linux_port->pins[line] : NULL;
    return pin && pin->is_wired ? pin : NULL;
}

static enum cm_status set_line(const struct cm_port *port, enum cm_line line, enum cm_level level)
{
    struct linux_port *linux_port = linux_of(port);
    struct pin *pin = pin_of(linux_port, line);
    if (pin)
        return linux_drive(linux_port, pin, level);
    bool is_i2c = line == CM_LINE_SDA || line == CM_LINE_SCL;
    if (is_i2c && linux_port->i2c >= 0 && level == CM_RELEASED)
        return CM_OK; // between transfers they are
    if (line != CM_LINE_SELECT || !linux_controller_selects(linux_port))
        return CM_PORT_LACKS;
    linux_port->pins[line].level = (uint8_t)level; // it goes low with the next bytes
    return level == CM_LOW ? CM_OK : linux_unselect(linux_port);
}

static enum cm_status sense(const struct cm_port *port, enum cm_line line, uint16_t *value)
{
    struct linux_port *linux_port = linux_of(port);
    const struct pin *pin = pin_of(linux_port, line);
    bool high = true;
    if (line == CM_LINE_SUPPLY)
        return linux_measure(linux_port, value);
    if (!pin)
        return CM_PORT_LACKS;
    enum cm_status status = linux_sense(linux_port, pin, &high);
    *value = high;
    return status;
}

/* There is one voltage. */
static enum cm_status feed(const struct cm_port *port, uint16_t mv)
{
    struct linux_port *linux_port = linux_of(port);
    if (mv && mv != port->traits.supply_max_mv)
        return CM_PORT_LACKS;
    return linux_drive(linux_port, &linux_port->power, mv ? CM_HIGH : CM_LOW);
}

static const struct cm_lines LINES = {
    .line = set_line, .sense = sense, .wait_us = linux_wait_us, .now_us = linux_now_us};
static const struct cm_lines LINES_WITH_SUPPLY = {.line = set_line,
                                                  .sense = sense,
                                                  .supply = feed,
                                                  .wait_us = linux_wait_us,
                                                  .now_us = linux_now_us};

/* --- putting the port together ------------------------------------------------------------- */

static bool has(const struct linux_port *linux_port, enum cm_line line)
{
    return linux_port->pins[line].is_wired;
}

static bool take_lines(struct linux_port *linux_port, char **texts, unsigned count,
                       enum cm_line first, char *error, size_t room)
{
    for (unsigned i = 0; i < count; i++) {
        if (texts[i] &&
            !linux_take_pin(linux_port, &linux_port->pins[first + i], texts[i], error, room))
            return false;
    }
    return true;
}

/* What changes together while bits are shifted. */
static bool pair_up(struct linux_port *linux_port, char *error, size_t room)
{
    if (linux_pair_up(linux_port, &linux_port->pins[CM_LINE_SCK], &linux_port->pins[CM_LINE_MOSI]))
        return true;
    snprintf(error, room, "the line of SCK or MOSI: %s", strerror(errno));
    return false;
}

static bool open_all(struct linux_port *linux_port, struct desk *desk, char *error, size_t room)
{
    if (desk->spi.device && !linux_open_spi(linux_port, desk->spi.device, error, room))
        return false;
    if (desk->modem.device && !linux_open_modem(linux_port, desk->modem.device, error, room))
        return false;
    if (desk->i2c.device && !linux_open_i2c(linux_port, desk->i2c.device, error, room))
        return false;
    return take_lines(linux_port, desk->lines.named, CM_LINE_COUNT, CM_LINE_RESET, error, room) &&
           take_lines(linux_port, desk->data, desk->data_count, CM_LINE_D0, error, room) &&
           take_lines(linux_port, desk->address, desk->address_count, CM_LINE_A0, error, room) &&
           (!desk->supply.power ||
            linux_take_pin(linux_port, &linux_port->power, desk->supply.power, error, room)) &&
           pair_up(linux_port, error, room) &&
           (!desk->priority || linux_raise(linux_port, desk->priority, error, room));
}

static void add_buses(struct linux_port *linux_port)
{
    struct cm_port *port = &linux_port->port;
    struct cm_traits *traits = &port->traits;
    bool spi_lines = has(linux_port, CM_LINE_SCK) && has(linux_port, CM_LINE_MOSI) &&
                     has(linux_port, CM_LINE_MISO),
         i2c_lines = has(linux_port, CM_LINE_SDA) && has(linux_port, CM_LINE_SCL);
    if (linux_port->spi >= 0) {
        port->spi = &linux_spi;
        traits->transfer_max = linux_port->bufsiz + HEAD_BYTES; // the head is budgeted by itself
        traits->call_us = linux_message_us(linux_port);
        traits->packs = true;
        traits->holds |= CM_LINE_BIT(CM_LINE_SCK) | CM_LINE_BIT(CM_LINE_MOSI);
    } else if (spi_lines) {
        port->spi = &linux_bits;
    }
    if (linux_port->i2c >= 0) {
        port->i2c = &linux_i2c;
        traits->lines |= CM_LINE_BIT(CM_LINE_SDA) | CM_LINE_BIT(CM_LINE_SCL);
        if (!traits->transfer_max || traits->transfer_max > MOST_I2C_BYTES - HEAD_BYTES)
            traits->transfer_max = MOST_I2C_BYTES - HEAD_BYTES;
        traits->call_us = traits->call_us ? traits->call_us : linux_transfer_us(linux_port);
    } else if (i2c_lines) {
        port->i2c = &cm_i2c_by_lines;
    }
    if (linux_controller_selects(linux_port)) {
        traits->lines |= CM_LINE_BIT(CM_LINE_SELECT);
        traits->holds |= CM_LINE_BIT(CM_LINE_SELECT);
    }
}

static void add_parallel(struct linux_port *linux_port, const struct desk *desk)
{
    struct cm_port *port = &linux_port->port;
    bool has_registers = has(linux_port, CM_LINE_LATCH);
    if (!has(linux_port, CM_LINE_CE) || desk->data_count < 8)
        return;
    port->parallel = has_registers ? &cm_parallel_by_registers : &cm_parallel_by_lines;
    port->traits.data_lines = desk->data_count == 16 ? 16 : 8;
    port->traits.address_lines = has_registers ? REGISTER_LINES : (uint8_t)desk->address_count;
}

/* Obligation 22: lines of a bus want that bus. */
static const char *what_is_missing(const struct linux_port *linux_port)
{
    const struct cm_port *port = &linux_port->port;
    const uint32_t lines = port->traits.lines;
    const uint32_t of_spi =
        CM_LINE_BIT(CM_LINE_SELECT) | CM_LINE_BIT(CM_LINE_RESET) | CM_LINE_BIT(CM_LINE_LATCH);
    if (lines & of_spi && !port->spi)
        return "RESET, SELECT and LATCH want an SPI device, or the lines SCK, MOSI and MISO";
    if (lines & CM_LINE_BIT(CM_LINE_CE) && !port->parallel)
        return "CE wants 8 or 16 data lines, and address lines or LATCH";
    if (lines & CM_LINE_BIT(CM_LINE_SDA) && !port->i2c)
        return "SDA wants SCL";
    if (linux_port->power.is_wired && !port->traits.supply_max_mv)
        return "the supply's switch wants its voltage: mv";
    return port->spi || port->i2c || port->parallel ? NULL : "it names no bus";
}

/* An output among the modem lines only tells what we made of it. */
static bool can_sense(const struct linux_port *linux_port, int line)
{
    const int outputs = TIOCM_RTS | TIOCM_DTR | MODEM_TXD;
    return !(linux_port->pins[line].modem & outputs);
}

static const char *put_together(struct linux_port *linux_port, const struct desk *desk)
{
    struct cm_port *port = &linux_port->port;
    struct cm_traits *traits = &port->traits;
    port->lines = linux_port->power.is_wired ? &LINES_WITH_SUPPLY : &LINES;
    port->state = &linux_port->state;
    port->context = linux_port;
    for (int line = 0; line < CM_LINE_COUNT; line++) {
        traits->lines |= has(linux_port, (enum cm_line)line) ? CM_LINE_BIT(line) : 0;
        traits->holds |= linux_port->pins[line].modem ? CM_LINE_BIT(line) : 0;
        traits->senses |= has(linux_port, (enum cm_line)line) && can_sense(linux_port, line)
                              ? CM_LINE_BIT(line)
                              : 0;
    }
    traits->clock_max_hz = desk->spi.max_clock_hz;
    linux_port->i2c_hz = desk->i2c.clock_hz ? desk->i2c.clock_hz : USUAL_I2C_HZ;
    linux_port->times = desk->supply.times > 0 ? desk->supply.times : 1;
    if (linux_port->power.is_wired)
        traits->supply_min_mv = traits->supply_max_mv = desk->supply.mv;
    if (desk->supply.measure) {
        snprintf(linux_port->measure, sizeof linux_port->measure, "%s", desk->supply.measure);
        traits->senses |= CM_LINE_BIT(CM_LINE_SUPPLY);
    }
    add_parallel(linux_port, desk);
    add_buses(linux_port);
    return what_is_missing(linux_port);
}

/* --- opening and closing ------------------------------------------------------------------- */

static void free_port(struct linux_port *linux_port)
{
    if (linux_port->spi >= 0) {
        cm_ignore(linux_unselect(linux_port));
        close(linux_port->spi);
    }
    if (linux_port->i2c >= 0)
        close(linux_port->i2c);
    linux_lower(linux_port);
    linux_unpair(linux_port);
    for (int line = 0; line < CM_LINE_END; line++)
        linux_give_pin(&linux_port->pins[line]);
    linux_give_pin(&linux_port->power);
    if (linux_port->modem >= 0)
        close(linux_port->modem);
    free(linux_port);
}

static enum cm_port_opening open_desk(struct desk *desk, struct cm_open_port *port, char *error)
{
    struct linux_port *linux_port = calloc(1, sizeof *linux_port);
    const char *missing = NULL;
    if (!linux_port)
        return CM_PORT_NOT_OPENED;
    linux_port->spi = linux_port->i2c = linux_port->modem = linux_port->pair.file = -1;
    for (int line = 0; line < CM_LINE_END; line++)
        linux_port->pins[line].level = CM_RELEASED;
    errno = 0;
    bool is_open = open_all(linux_port, desk, error, CM_PORT_ERROR_BYTES);
    enum cm_port_opening opening = device_opening(errno);
    if (is_open)
        missing = put_together(linux_port, desk);
    if (is_open && !missing) {
        *port = (struct cm_open_port){
            .kind = &cm_port_linux, .port = &linux_port->port, .hardware = linux_port};
        return CM_PORT_OPENED;
    }
    if (missing)
        snprintf(error, CM_PORT_ERROR_BYTES, "%s", missing);
    free_port(linux_port);
    return is_open ? CM_PORT_NOT_OPENED : opening;
}

/* "/dev/i2c-1", or else an SPI device. */
static enum cm_port_opening open_device(const char *place, struct cm_open_port *port, char *error)
{
    char path[300];
    struct desk desk = {.title = path};
    snprintf(path, sizeof path, "%s", place);
    if (strstr(place, "i2c"))
        desk.i2c.device = path;
    else
        desk.spi.device = path;
    return open_desk(&desk, port, error);
}

/* A desk may lie there, too: /dev/shm is a folder for files. */
static bool is_a_device(const char *place)
{
    struct stat facts;
    return strncmp(place, "/dev/", strlen("/dev/")) == 0 &&
           !(stat(place, &facts) == 0 && S_ISREG(facts.st_mode));
}

static enum cm_port_opening open_place(const char *place, struct cm_open_port *port, char *error)
{
    if (is_a_device(place))
        return open_device(place, port, error);
    struct desk *desk = desk_load(place, error, CM_PORT_ERROR_BYTES);
    if (!desk)
        return CM_PORT_NOT_OPENED;
    enum cm_port_opening opening = open_desk(desk, port, error);
    desk_free(desk);
    return opening;
}

static bool close_port(struct cm_open_port *port)
{
    free_port(port->hardware);
    *port = (struct cm_open_port){.kind = NULL};
    return true;
}

static const char *trouble(const struct cm_open_port *port)
{
    const struct linux_port *linux_port = port->hardware;
    return linux_port->trouble[0] ? linux_port->trouble : NULL;
}

const struct cm_port_kind cm_port_linux = {
    .prefix = "linux",
    .form = "linux:DESK.yaml",
    .what = "desk",
    .where = "in this folder, and devices of this computer",
    .hint = "'coldmint ports' lists what this computer has; docs/desk.md tells how to name it",
    .open = open_place,
    .list = linux_list,
    .close = close_port,
    .trouble = trouble,
    .sketch = linux_sketch,
    .cure = "the desk may want more than the driver can: a slower clock (max_clock_hz), another "
            "device, other lines",
};
