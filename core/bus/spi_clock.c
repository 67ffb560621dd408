/*
 * The clock of the buses on a port's `spi`, and their release.
 */
#include "run.h"

/* Those of the bus's lines that the port can release. */
static enum cm_status release(const struct cm_port *port)
{
    enum cm_status status = CM_OK;
    for (uint8_t line = CM_LINE_SCK; line <= CM_LINE_MOSI && !status; line++) {
        if (port->traits.lines & CM_LINE_BIT(line))
            status = port->lines->line(port, (enum cm_line)line, CM_RELEASED);
    }
    return status;
}

enum cm_status cm_spi_clock(const struct cm_port *port, uint32_t want_hz, uint32_t *real_hz)
{
    if (!want_hz)
        return release(port);
    if (!port->spi)
        return CM_PORT_LACKS;
    *real_hz = want_hz;
    return port->spi->clock ? port->spi->clock(port, want_hz, real_hz) : CM_OK;
}
