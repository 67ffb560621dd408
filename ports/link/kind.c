/*
 * Probes among the kinds of ports: "link:/dev/ttyACM0", "link:/dev/ttyUSB0,115200",
 * "link:tcp:HOST:PORT".
 */
#include "../device.h"
#include "line.h"
#include "link.h"
#include <coldmint/ports.h>
#include <stdio.h>
#include <string.h>

static enum cm_port_opening open_probe(const char *place, struct cm_open_port *port, char *error)
{
    enum cm_port_opening opening;
    int line = line_open(place, &opening, error);
    if (line < 0)
        return opening;
    struct link *link = link_open(line, place, port, error);
    if (!link)
        return CM_PORT_NOT_OPENED;
    port->kind = &cm_port_link;
    port->port = link_port(link);
    port->hardware = link;
    return CM_PORT_OPENED;
}

static bool close_probe(struct cm_open_port *port)
{
    link_close(port->hardware);
    *port = (struct cm_open_port){.kind = NULL};
    return true;
}

static const char *trouble(const struct cm_open_port *port)
{
    return link_trouble(port->hardware);
}

/* Serial devices that there are. Who is at their far end is not asked: opening one may reset it. */
static void list_devices(cm_port_told_fn *told, void *context)
{
    static const char *const PATTERNS[] = {"/dev/ttyACM*", "/dev/ttyUSB*", "/dev/serial/by-id/*"};
    for (size_t i = 0; i < sizeof PATTERNS / sizeof PATTERNS[0]; i++)
        device_list(PATTERNS[i], "a serial device", "", told, context);
}

const struct cm_port_kind cm_port_link = {
    .prefix = "link",
    .form = "link:DEVICE",
    .what = "probe",
    .where = "serial devices of this computer",
    .hint = "is the probe's firmware on the board, and its cable in? 'coldmint bench probe' plays "
            "one",
    .open = open_probe,
    .list = list_devices,
    .close = close_probe,
    .trouble = trouble,
    .cure = "plug it in again and run the same command; 'put' and 'mint' with --wait go on by "
            "themselves",
};
