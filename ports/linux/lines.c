/*
 * Lines by the kernel's GPIO character device, through libgpiod; and time.
 *
 * A line is taken once, as an input: so it is released. From then on its direction is changed in
 * place (GPIOHANDLE_SET_CONFIG, Linux 5.5), so that nobody else gets it in between.
 */
#define _GNU_SOURCE
#include "inside.h"
#include <errno.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>

/* --- taking lines ------------------------------------------------------------------------ */

/* "gpiochip0 25" is a chip and a number; anything else is a line's own name. */
static struct gpiod_line *find_line(const char *text, struct gpiod_chip **chip)
{
    char name[100];
    unsigned number;
    if (sscanf(text, "%99s %u", name, &number) != 2) {
        struct gpiod_line *line = gpiod_line_find(text);
        *chip = line ? gpiod_line_get_chip(line) : NULL;
        return line;
    }
    *chip = gpiod_chip_open_lookup(name);
    if (!*chip)
        return NULL;
    if (number < gpiod_chip_num_lines(*chip))
        return gpiod_chip_get_line(*chip, number);
    errno = EDOM;
    return NULL;
}

static void explain(const char *text, struct gpiod_line *line, int reason, char *error, size_t room)
{
    const char *user = reason == EBUSY && line ? gpiod_line_consumer(line) : NULL;
    if (reason == EBUSY)
        snprintf(error, room, "line '%s' is taken%s%s%s", text, user ? " by '" : "",
                 user ? user : "", user ? "'" : "");
    else if (reason == EDOM)
        snprintf(error, room, "line '%s': this chip has no line of that number", text);
    else if ((reason == ENOENT || reason == 0) && linux_is_modem_line(text))
        snprintf(error, room, "line '%s' is a serial device's: name that under 'modem'", text);
    else if (reason == ENOENT || reason == 0)
        snprintf(error, room, "there is no line '%s': 'coldmint ports' lists the chips", text);
    else if (reason == EACCES)
        snprintf(error, room,
                 "line '%s': permission denied; the group of /dev/gpiochip* may use it", text);
    else
        snprintf(error, room, "line '%s': %s", text, strerror(reason));
}

bool linux_request_line(struct gpiod_line *line)
{
    const struct gpiod_line_request_config wanted = {
        .consumer = LINUX_CONSUMER, .request_type = GPIOD_LINE_REQUEST_DIRECTION_INPUT};
    return gpiod_line_request(line, &wanted, 0) == 0;
}

bool linux_take_pin(struct linux_port *linux_port, struct pin *pin, const char *text, char *error,
                    size_t room)
{
    static const char NOT[] = "not ";
    bool is_inverted = strncmp(text, NOT, strlen(NOT)) == 0;
    const char *name = text + (is_inverted ? strlen(NOT) : 0);
    struct gpiod_chip *chip = NULL;
    if (linux_take_modem_pin(linux_port, pin, name, is_inverted))
        return true;
    errno = 0;
    struct gpiod_line *line = find_line(name, &chip);
    if (line && linux_request_line(line)) {
        *pin = (struct pin){.is_wired = true,
                            .chip = chip,
                            .line = line,
                            .is_inverted = is_inverted,
                            .level = CM_RELEASED};
        return true;
    }
    int reason = errno;
    explain(text, line, reason, error, room);
    if (chip)
        gpiod_chip_close(chip);
    errno = reason;
    return false;
}

/* As an input, which it stays. */
void linux_give_pin(struct pin *pin)
{
    if (!pin->is_wired || pin->modem)
        return;
    if (!pin->pair && pin->level != CM_RELEASED)
        (void)gpiod_line_set_config(pin->line, GPIOD_LINE_REQUEST_DIRECTION_INPUT, 0, 0);
    gpiod_chip_close(pin->chip);
    pin->is_wired = false;
}

/* --- driving and sensing ----------------------------------------------------------------- */

enum cm_status linux_drive(struct linux_port *linux_port, struct pin *pin, enum cm_level level)
{
    int high = (level == CM_HIGH) != pin->is_inverted, result;
    if (level == pin->level)
        return CM_OK;
    if (pin->modem)
        return linux_drive_modem(linux_port, pin, level);
    linux_port->counts.lines++;
    if (pin->pair)
        result = linux_set_of_pair(pin, level, high);
    else if (level == CM_RELEASED)
        result = gpiod_line_set_config(pin->line, GPIOD_LINE_REQUEST_DIRECTION_INPUT, 0, 0);
    else if (pin->level == CM_RELEASED)
        result = gpiod_line_set_config(pin->line, GPIOD_LINE_REQUEST_DIRECTION_OUTPUT, 0, high);
    else
        result = gpiod_line_set_value(pin->line, high);
    if (result != 0)
        return linux_refused(linux_port, "a line");
    pin->level = (uint8_t)level;
    return CM_OK;
}

enum cm_status linux_drive_both(struct linux_port *linux_port, struct pin *first,
                                enum cm_level first_level, struct pin *second,
                                enum cm_level second_level)
{
    const struct pair *pair = first->pair;
    bool both_change = first->level != first_level && second->level != second_level,
         are_outputs = first->level != CM_RELEASED && second->level != CM_RELEASED,
         are_modem = first->modem && second->modem && first->modem != MODEM_TXD &&
                     second->modem != MODEM_TXD;
    if (both_change && are_modem)
        return linux_drive_modem_pair(linux_port, first, first_level, second, second_level);
    if (both_change && are_outputs && pair && pair->pins[0] == first) {
        const bool high[] = {(first_level == CM_HIGH) != first->is_inverted,
                             (second_level == CM_HIGH) != second->is_inverted};
        linux_port->counts.lines++;
        if (linux_set_pair(pair, high) != 0)
            return linux_refused(linux_port, "two lines");
        first->level = (uint8_t)first_level;
        second->level = (uint8_t)second_level;
        return CM_OK;
    }
    enum cm_status status = linux_drive(linux_port, first, first_level);
    return status ? status : linux_drive(linux_port, second, second_level);
}

enum cm_status linux_drive_again(struct linux_port *linux_port, struct pin *pin)
{
    enum cm_level level = (enum cm_level)pin->level;
    bool high = (level == CM_HIGH) != pin->is_inverted;
    if (pin->modem)
        return linux_drive_modem(linux_port, pin, level);
    int result =
        pin->pair ? linux_set_of_pair(pin, level, high) : gpiod_line_set_value(pin->line, high);
    return result == 0 ? CM_OK : linux_refused(linux_port, "a line");
}

enum cm_status linux_sense(struct linux_port *linux_port, const struct pin *pin, bool *high)
{
    if (pin->modem)
        return linux_sense_modem(linux_port, pin, high);
    int value = pin->pair ? linux_value_of_pair(pin) : gpiod_line_get_value(pin->line);
    linux_port->counts.lines++;
    if (value < 0)
        return linux_refused(linux_port, "reading a line");
    *high = (value != 0) != pin->is_inverted;
    return CM_OK;
}

/* --- time -------------------------------------------------------------------------------- */

uint32_t linux_now_us(const struct cm_port *port)
{
    struct timespec now;
    (void)port;
    clock_gettime(CLOCK_MONOTONIC, &now);
    return (uint32_t)((uint64_t)now.tv_sec * 1000000u + (uint64_t)now.tv_nsec / 1000u);
}

/* The scheduler wakes us late: the last part of a wait is spent looking at the clock. */
void linux_wait_us(const struct cm_port *port, uint32_t us)
{
    enum { GRAIN_US = 200 };
    uint32_t begun = linux_now_us(port);
    if (us > GRAIN_US) {
        uint32_t sleeps_us = us - GRAIN_US;
        struct timespec left = {(time_t)(sleeps_us / 1000000u),
                                (long)(sleeps_us % 1000000u) * 1000};
        while (clock_nanosleep(CLOCK_MONOTONIC, 0, &left, &left) == EINTR)
            continue;
    }
    while (us && linux_now_us(port) - begun <= us)
        continue;
}

uint16_t linux_shortest_us(struct linux_port *linux_port, void (*call)(struct linux_port *))
{
    enum { CALLS = 8, MOST_US = 10000 };
    uint32_t best = MOST_US;
    for (int i = 0; i < CALLS; i++) {
        uint32_t begun = linux_now_us(NULL);
        call(linux_port);
        uint32_t us = linux_now_us(NULL) - begun;
        best = us < best ? us : best;
    }
    return (uint16_t)(best ? best : 1);
}
