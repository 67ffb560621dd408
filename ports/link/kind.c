/*
 * Probes among the kinds of ports: "link:/dev/ttyACM0", "link:/dev/ttyUSB0,115200",
 * "link:tcp:HOST:PORT".
 */
#include "line.h"
#include "link.h"
#include <coldmint/ports.h>
#include <errno.h>
#include <fcntl.h>
#include <glob.h>
#include <holder.h>
#include <stdio.h>
#include <string.h>
#include <unistd.h>

static enum cm_port_opening open_probe(const char *place, struct cm_open_port *port, char *error)
{
    enum cm_port_opening opening;
    int line = line_open(place, &opening, error);
    if (line < 0)
        return opening;
    struct link *link = link_open(line, place, error);
    if (!link)
        return CM_PORT_NOT_OPENED;
    *port = (struct cm_open_port){&cm_port_link, link_port(link), link};
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
    return link_is_gone(port->hardware) ? "the line to the probe is gone: it was unplugged, perhaps"
                                        : NULL;
}

/* Serial devices that there are. Who is at their far end is not asked: opening one may reset it. */
static void list_devices(cm_port_told_fn *told, void *context)
{
    static const char *const PATTERNS[] = {"/dev/ttyACM*", "/dev/ttyUSB*", "/dev/serial/by-id/*"};
    enum { COUNT = sizeof PATTERNS / sizeof PATTERNS[0] };
    for (int i = 0; i < COUNT; i++) {
        glob_t found;
        if (glob(PATTERNS[i], 0, NULL, &found) != 0)
            continue;
        for (size_t k = 0; k < found.gl_pathc; k++) {
            char trouble[LINE_ERROR] = "";
            const char *path = found.gl_pathv[k];
            if (access(path, R_OK | W_OK) != 0)
                line_explain(path, errno, trouble);
            else
                (void)holder_of(path, trouble, sizeof trouble);
            told(context, path, "a serial device", trouble);
        }
        globfree(&found);
    }
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
