/*
 * Two lines of one gpiochip that change in one call, by the kernel's GPIO interface, version 2
 * (linux/gpio.h, Linux 5.10). libgpiod's first version has one direction for all lines of a
 * request; here each has its own, and one that is not named stays as it is.
 */
#define _GNU_SOURCE
#include "inside.h"
#include <fcntl.h>
#include <linux/gpio.h>
#include <stdio.h>
#include <string.h>
#include <sys/ioctl.h>
#include <unistd.h>

static bool are_of_one_chip(const struct pin *first, const struct pin *second)
{
    return first->is_wired && second->is_wired && !first->modem && !second->modem &&
           strcmp(gpiod_chip_name(first->chip), gpiod_chip_name(second->chip)) == 0;
}

/* The request's file; -1 where the kernel has no such call. */
static int request_both(struct pin *const *pins)
{
    char path[64];
    struct gpio_v2_line_request request = {.consumer = LINUX_CONSUMER,
                                           .config.flags = GPIO_V2_LINE_FLAG_INPUT,
                                           .num_lines = 2,
                                           .fd = -1};
    for (int i = 0; i < 2; i++)
        request.offsets[i] = gpiod_line_offset(pins[i]->line);
    snprintf(path, sizeof path, "/dev/%.50s", gpiod_chip_name(pins[0]->chip));
    int chip = open(path, O_RDWR | O_CLOEXEC);
    if (chip < 0)
        return -1;
    int result = ioctl(chip, GPIO_V2_GET_LINE_IOCTL, &request);
    close(chip);
    return result == 0 ? request.fd : -1;
}

bool linux_pair_up(struct linux_port *linux_port, struct pin *first, struct pin *second)
{
    struct pair *pair = &linux_port->pair;
    if (!are_of_one_chip(first, second))
        return true;
    *pair = (struct pair){-1, {first, second}};
    gpiod_line_release(first->line);
    gpiod_line_release(second->line);
    pair->file = request_both(pair->pins);
    if (pair->file < 0)
        return linux_request_line(first->line) && linux_request_line(second->line);
    first->pair = second->pair = pair;
    return true;
}

void linux_unpair(struct linux_port *linux_port)
{
    struct pair *pair = &linux_port->pair;
    if (pair->file < 0)
        return;
    for (int i = 0; i < 2; i++) {
        if (pair->pins[i]->level != CM_RELEASED)
            (void)linux_set_of_pair(pair->pins[i], CM_RELEASED, false);
    }
    close(pair->file);
    pair->file = -1;
}

/* --- driving ----------------------------------------------------------------------------- */

static int set_direction(int file, uint64_t bit, bool is_output, bool high)
{
    struct gpio_v2_line_config config = {.num_attrs = is_output ? 2 : 1};
    config.attrs[0] = (struct gpio_v2_line_config_attribute){
        .attr = {.id = GPIO_V2_LINE_ATTR_ID_FLAGS,
                 .flags = is_output ? GPIO_V2_LINE_FLAG_OUTPUT : GPIO_V2_LINE_FLAG_INPUT},
        .mask = bit};
    config.attrs[1] = (struct gpio_v2_line_config_attribute){
        .attr = {.id = GPIO_V2_LINE_ATTR_ID_OUTPUT_VALUES, .values = high ? bit : 0}, .mask = bit};
    return ioctl(file, GPIO_V2_LINE_SET_CONFIG_IOCTL, &config);
}

static int set_values(int file, uint64_t bits, uint64_t mask)
{
    struct gpio_v2_line_values values = {bits, mask};
    return ioctl(file, GPIO_V2_LINE_SET_VALUES_IOCTL, &values);
}

static uint64_t bit_of(const struct pin *pin)
{
    return pin == pin->pair->pins[0] ? 1 : 2;
}

int linux_set_of_pair(const struct pin *pin, enum cm_level level, bool high)
{
    uint64_t bit = bit_of(pin);
    if (level != CM_RELEASED && pin->level != CM_RELEASED)
        return set_values(pin->pair->file, high ? bit : 0, bit);
    return set_direction(pin->pair->file, bit, level != CM_RELEASED, high);
}

int linux_set_pair(const struct pair *pair, const bool *high)
{
    return set_values(pair->file, (high[0] ? 1u : 0u) | (high[1] ? 2u : 0u), 3);
}

int linux_value_of_pair(const struct pin *pin)
{
    struct gpio_v2_line_values values = {0, bit_of(pin)};
    if (ioctl(pin->pair->file, GPIO_V2_LINE_GET_VALUES_IOCTL, &values) != 0)
        return -1;
    return (values.bits & values.mask) != 0;
}
