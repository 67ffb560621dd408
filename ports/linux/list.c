/*
 * What this computer has to program through: desks of this folder, SPI and I2C devices, and chips
 * of GPIO lines.
 */
#include "../device.h"
#include "../yaml_load.h"
#include "inside.h"

void linux_list(cm_port_told_fn *told, void *context)
{
    yaml_list("desk", told, context);
    device_list("/dev/spidev*", "an SPI device", "", told, context);
    device_list("/dev/i2c-*", "an I2C adapter", "", told, context);
    device_list("/dev/gpiochip*", "GPIO lines", "by themselves; a desk names single ones", told,
                context);
}
