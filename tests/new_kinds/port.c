/*
 * "shelf:NAME": a programmer that lies on a shelf. Its lines are there, and nothing is on them.
 */
#include "kinds.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

struct shelf {
    struct cm_port_state state;
    struct cm_port port;
    uint32_t now_us;
};

static enum cm_status drive(const struct cm_port *port, enum cm_line line, enum cm_level level)
{
    (void)port, (void)line, (void)level;
    return CM_OK;
}

static enum cm_status sense(const struct cm_port *port, enum cm_line line, uint16_t *value)
{
    (void)port, (void)line;
    *value = 1; // it floats high
    return CM_OK;
}

static void wait_us(const struct cm_port *port, uint32_t us)
{
    ((struct shelf *)port->context)->now_us += us;
}

static uint32_t now_us(const struct cm_port *port)
{
    return ((struct shelf *)port->context)->now_us += 1;
}

static const struct cm_lines LINES = {
    .line = drive, .sense = sense, .wait_us = wait_us, .now_us = now_us};

static enum cm_port_opening open_shelf(const char *place, struct cm_open_port *port, char *error)
{
    struct shelf *shelf = strcmp(place, "left") == 0 ? calloc(1, sizeof *shelf) : NULL;
    if (!shelf) {
        snprintf(error, CM_PORT_ERROR_BYTES, "there is no %.100s shelf", place);
        return CM_PORT_NOT_OPENED;
    }
    const uint32_t lines = CM_LINE_BIT(CM_LINE_RESET) | CM_LINE_BIT(CM_LINE_SELECT) |
                           CM_LINE_BIT(CM_LINE_SCK) | CM_LINE_BIT(CM_LINE_MOSI);
    shelf->port = (struct cm_port){.lines = &LINES,
                                   .spi = &cm_spi_by_lines,
                                   .context = shelf,
                                   .state = &shelf->state,
                                   .traits = {.lines = lines,
                                              .senses = CM_LINE_BIT(CM_LINE_MISO),
                                              .clock_min_hz = 1000,
                                              .clock_max_hz = 200000,
                                              .transfer_max = 256}};
    *port = (struct cm_open_port){.kind = &port_shelf, .port = &shelf->port, .hardware = shelf};
    return CM_PORT_OPENED;
}

static bool close_shelf(struct cm_open_port *port)
{
    free(port->hardware);
    *port = (struct cm_open_port){.kind = NULL};
    return true;
}

static void list_shelves(cm_port_told_fn *told, void *context)
{
    told(context, "left", "a shelf", "");
    told(context, "right", "a shelf", "it fell down");
}

const struct cm_port_kind port_shelf = {.prefix = "shelf",
                                        .form = "shelf:SIDE",
                                        .what = "shelf",
                                        .hint = "shelf:left",
                                        .open = open_shelf,
                                        .list = list_shelves,
                                        .close = close_shelf};
