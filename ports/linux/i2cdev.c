/*
 * I2C by the kernel's i2c-dev. Source: Documentation/i2c/dev-interface.rst and
 * i2c-protocol.rst.
 *
 * A transfer is one I2C_RDWR: what goes out, and behind a repeated START what comes in. Where the
 * device does not acknowledge, adapters say ENXIO, EREMOTEIO, EIO or ETIMEDOUT; whether that was
 * its address or a byte they do not tell.
 */
#define _DEFAULT_SOURCE
#include "inside.h"
#include <errno.h>
#include <linux/i2c-dev.h>
#include <linux/i2c.h>
#include <stdio.h>
#include <string.h>
#include <sys/ioctl.h>

static enum cm_status status_of(struct linux_port *linux_port, int reason)
{
    switch (reason) {
    case ENXIO:
    case EREMOTEIO:
    case ETIMEDOUT:
    case EIO:
        return CM_NACK;
    case EAGAIN: // arbitration lost: something else drives the bus
        return CM_CONTACT_LOST;
    default:
        errno = reason;
        return linux_refused(linux_port, "a transfer on I2C");
    }
}

static int send(struct linux_port *linux_port, struct i2c_msg *messages, unsigned count)
{
    struct i2c_rdwr_ioctl_data data = {messages, count};
    linux_port->counts.transfers++;
    return ioctl(linux_port->i2c, I2C_RDWR, &data) >= 0 ? 0 : errno;
}

/* Is the device there? Adapters that refuse an empty message read a byte instead. */
static enum cm_status ask(struct linux_port *linux_port, uint16_t device)
{
    uint8_t any = 0;
    struct i2c_msg empty = {.addr = device}, byte = {device, I2C_M_RD, 1, &any};
    int reason = linux_port->bears_empty ? send(linux_port, &empty, 1) : EOPNOTSUPP;
    if (reason == EOPNOTSUPP || reason == EINVAL) {
        linux_port->bears_empty = false;
        reason = send(linux_port, &byte, 1);
    }
    return reason ? status_of(linux_port, reason) : CM_OK;
}

static enum cm_status transfer(const struct cm_port *port, const struct cm_transfer *wanted)
{
    struct linux_port *linux_port = linux_of(port);
    uint8_t bytes[MOST_I2C_BYTES];
    struct i2c_msg messages[2];
    unsigned count = 0;
    uint32_t out = wanted->head_count + wanted->out_count;
    if (!out && !wanted->in_count)
        return ask(linux_port, wanted->device);
    if (out > sizeof bytes || wanted->in_count > MOST_I2C_BYTES)
        return CM_BAD_ARGUMENT;
    if (out) {
        if (wanted->head_count)
            memcpy(bytes, wanted->head, wanted->head_count);
        if (wanted->out_count)
            memcpy(bytes + wanted->head_count, wanted->out, wanted->out_count);
        messages[count++] = (struct i2c_msg){wanted->device, 0, (uint16_t)out, bytes};
    }
    if (wanted->in_count)
        messages[count++] =
            (struct i2c_msg){wanted->device, I2C_M_RD, (uint16_t)wanted->in_count, wanted->in};
    int reason = send(linux_port, messages, count);
    return reason ? status_of(linux_port, reason) : CM_OK;
}

/* The adapter's clock is the system's. */
static enum cm_status set_clock(const struct cm_port *port, uint32_t want_hz, uint32_t *real_hz)
{
    (void)want_hz;
    *real_hz = linux_of(port)->i2c_hz;
    return CM_OK;
}

/* The least that a call takes: a transfer would be one to somebody. */
static void ask_functions(struct linux_port *linux_port)
{
    unsigned long can;
    (void)ioctl(linux_port->i2c, I2C_FUNCS, &can);
}

uint16_t linux_transfer_us(struct linux_port *linux_port)
{
    return linux_shortest_us(linux_port, ask_functions);
}

const struct cm_i2c linux_i2c = {.clock = set_clock, .transfer = transfer};

bool linux_open_i2c(struct linux_port *linux_port, const char *device, char *error, size_t room)
{
    unsigned long can = 0;
    linux_port->i2c = linux_open(device, 0, error, room);
    if (linux_port->i2c < 0 && errno == ENOENT)
        snprintf(error, room,
                 "there is no %s: is I2C enabled in the device tree, and i2c-dev loaded?", device);
    if (linux_port->i2c < 0)
        return false;
    if (ioctl(linux_port->i2c, I2C_FUNCS, &can) != 0 || !(can & I2C_FUNC_I2C)) {
        snprintf(error, room, "%s is no adapter that can do plain I2C transfers", device);
        return false;
    }
    linux_port->bears_empty = true;
    return true;
}
