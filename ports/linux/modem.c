/*
 * The modem lines of a serial device, and its TXD held by a break: three outputs and four inputs.
 * Source: the kernel's tty_ioctl(2).
 *
 * - Opening the device raises DTR and RTS, before anybody can act. So a line is wired where that is
 *   harmless: SCK to one that is low then, RESET to TXD, which opening does not move.
 * - The lines cannot be released. What a line shows after opening is what it shows when it is
 *   "released".
 * - One call sets RTS and DTR together.
 * - On a converter with logic levels an asserted line is low: a desk says "not RTS".
 */
#define _DEFAULT_SOURCE
#include "inside.h"
#include <fcntl.h>
#include <stdio.h>
#include <string.h>
#include <sys/ioctl.h>
#include <termios.h>

static const struct {
    const char *name;
    int bit;
} LINES[] = {{"RTS", TIOCM_RTS}, {"DTR", TIOCM_DTR}, {"TXD", MODEM_TXD}, {"CTS", TIOCM_CTS},
             {"DSR", TIOCM_DSR}, {"RI", TIOCM_RI},   {"DCD", TIOCM_CAR}};

bool linux_is_modem_line(const char *name)
{
    bool is_one = false;
    for (size_t i = 0; i < sizeof LINES / sizeof LINES[0]; i++)
        is_one |= strcmp(LINES[i].name, name) == 0;
    return is_one;
}

bool linux_take_modem_pin(const struct linux_port *linux_port, struct pin *pin, const char *text,
                          bool is_inverted)
{
    if (linux_port->modem < 0)
        return false;
    for (size_t i = 0; i < sizeof LINES / sizeof LINES[0]; i++) {
        if (strcmp(LINES[i].name, text) != 0)
            continue;
        *pin = (struct pin){.is_wired = true,
                            .modem = LINES[i].bit,
                            .is_inverted = is_inverted,
                            .level = CM_RELEASED};
        return true;
    }
    return false;
}

/* Is the line asserted at this level? TXD is high while there is no break. */
static bool is_asserted(const struct pin *pin, enum cm_level level)
{
    if (level == CM_RELEASED)
        return true;
    return (level == CM_HIGH) != pin->is_inverted;
}

static bool set_bits(struct linux_port *linux_port, int bits)
{
    linux_port->counts.lines++;
    if (ioctl(linux_port->modem, TIOCMSET, &bits) != 0)
        return false;
    linux_port->modem_bits = bits;
    return true;
}

static int with(int bits, const struct pin *pin, enum cm_level level)
{
    return is_asserted(pin, level) ? bits | pin->modem : bits & ~pin->modem;
}

enum cm_status linux_drive_modem(struct linux_port *linux_port, struct pin *pin,
                                 enum cm_level level)
{
    bool good;
    if (pin->modem == MODEM_TXD) {
        linux_port->counts.lines++;
        good = ioctl(linux_port->modem, is_asserted(pin, level) ? TIOCCBRK : TIOCSBRK) == 0;
    } else {
        good = set_bits(linux_port, with(linux_port->modem_bits, pin, level));
    }
    if (!good)
        return linux_refused(linux_port, "a modem line");
    pin->level = (uint8_t)level;
    return CM_OK;
}

enum cm_status linux_drive_modem_pair(struct linux_port *linux_port, struct pin *first,
                                      enum cm_level first_level, struct pin *second,
                                      enum cm_level second_level)
{
    int bits = with(with(linux_port->modem_bits, first, first_level), second, second_level);
    if (!set_bits(linux_port, bits))
        return linux_refused(linux_port, "a modem line");
    first->level = (uint8_t)first_level;
    second->level = (uint8_t)second_level;
    return CM_OK;
}

enum cm_status linux_sense_modem(struct linux_port *linux_port, const struct pin *pin, bool *high)
{
    int bits = 0;
    linux_port->counts.lines++;
    if (ioctl(linux_port->modem, TIOCMGET, &bits) != 0)
        return linux_refused(linux_port, "reading the modem lines");
    *high = ((bits & pin->modem) != 0) != pin->is_inverted;
    return CM_OK;
}

/* The lines stay as they are when the device is closed. */
static void set_terminal(int tty)
{
    struct termios settings;
    if (tcgetattr(tty, &settings) != 0)
        return;
    cfmakeraw(&settings);
    settings.c_cflag |= CLOCAL;
    settings.c_cflag &= ~(tcflag_t)(HUPCL | CRTSCTS);
    (void)tcsetattr(tty, TCSANOW, &settings);
}

bool linux_open_modem(struct linux_port *linux_port, const char *device, char *error, size_t room)
{
    linux_port->modem = linux_open(device, O_NOCTTY | O_NONBLOCK, error, room);
    if (linux_port->modem < 0)
        return false;
    (void)ioctl(linux_port->modem, TIOCEXCL);
    set_terminal(linux_port->modem);
    // as opening leaves them; a terminal without such lines refuses
    if (ioctl(linux_port->modem, TIOCMGET, &linux_port->modem_bits) == 0 &&
        set_bits(linux_port, TIOCM_RTS | TIOCM_DTR))
        return true;
    snprintf(error, room, "%s has no modem lines", device);
    return false;
}
