/*
 * What this computer has to program through: desks of this folder, SPI and I2C devices, and chips
 * of GPIO lines.
 */
#define _GNU_SOURCE
#include "../device.h"
#include "../holder.h"
#include "../yaml_load.h"
#include "inside.h"
#include <errno.h>
#include <glob.h>
#include <stdio.h>
#include <unistd.h>

/* `alone`: why it is nothing to program through by itself; "": it is. */
static void tell(const char *pattern, const char *what, const char *alone, cm_port_told_fn *told,
                 void *context)
{
    glob_t found;
    if (glob(pattern, 0, NULL, &found) != 0)
        return;
    for (size_t i = 0; i < found.gl_pathc; i++) {
        char trouble[CM_PORT_ERROR_BYTES] = "";
        const char *path = found.gl_pathv[i];
        if (access(path, R_OK | W_OK) != 0)
            device_explain(path, errno, trouble, sizeof trouble);
        else
            (void)holder_of(path, trouble, sizeof trouble);
        if (!trouble[0])
            snprintf(trouble, sizeof trouble, "%s", alone);
        told(context, path, what, trouble);
    }
    globfree(&found);
}

void linux_list(cm_port_told_fn *told, void *context)
{
    yaml_list("desk", told, context);
    tell("/dev/spidev*", "an SPI device", "", told, context);
    tell("/dev/i2c-*", "an I2C adapter", "", told, context);
    tell("/dev/gpiochip*", "GPIO lines", "by themselves; a desk names single ones", told, context);
}
