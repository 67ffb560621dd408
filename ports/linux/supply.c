/*
 * The target's supply: measured by a file of the kernel's (Documentation/ABI, sysfs-bus-iio and
 * hwmon), as a desk names it.
 *
 *     hwmon   in1_input           millivolts
 *     iio     in_voltage0_raw     a number: times in_voltage0_scale, or in_voltage_scale,
 * millivolts
 */
#define _DEFAULT_SOURCE
#include "inside.h"
#include <errno.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static bool read_number(const char *path, double *number)
{
    char text[64] = "", *end = text;
    FILE *file = fopen(path, "re");
    if (!file)
        return false;
    if (fgets(text, sizeof text, file))
        *number = strtod(text, &end);
    fclose(file);
    errno = EINVAL;
    return end != text;
}

/* The scale of a channel, or the one of all channels of its kind; 1 where there is none. */
static double scale_of(const char *raw)
{
    char path[300];
    double scale = 1;
    size_t before = strlen(raw) - strlen("_raw");
    snprintf(path, sizeof path, "%.*s_scale", (int)before, raw);
    if (read_number(path, &scale))
        return scale;
    while (before && raw[before - 1] >= '0' && raw[before - 1] <= '9')
        before--;
    snprintf(path, sizeof path, "%.*s_scale", (int)before, raw);
    return read_number(path, &scale) ? scale : 1;
}

enum cm_status linux_measure(struct linux_port *linux_port, uint16_t *mv)
{
    double value = 0;
    const char *path = linux_port->measure;
    if (!path[0])
        return CM_PORT_LACKS;
    if (!read_number(path, &value))
        return linux_refused(linux_port, path);
    size_t length = strlen(path);
    if (length > 4 && strcmp(path + length - 4, "_raw") == 0)
        value *= scale_of(path);
    value *= linux_port->times;
    *mv = value <= 0 ? 0 : value >= UINT16_MAX ? UINT16_MAX : (uint16_t)(value + 0.5);
    return CM_OK;
}
