/* A probe on this computer: its serial line is a pseudo terminal, its hardware any port. */
#ifndef CM_PROBE_PTY_H
#define CM_PROBE_PTY_H

#include <coldmint/probe.h>

/* A pseudo terminal that passes bytes as they are. */
struct pty_line {
    int line, held; /* our end; and the other, open so that it is never gone */
    char device[64];
};

/* Opens one; `flags` are open's for our end. False with errno set: close it all the same. */
bool pty_line_open(struct pty_line *line, int flags);
void pty_line_close(struct pty_line *line);

/* The rate that its other end is set to; 0: none that we know. */
uint32_t pty_line_baud(const struct pty_line *line);

struct pty_probe;

/* Room in a pretended probe; as small as a real one's, or larger. */
struct pty_size {
    uint32_t batch_bytes;
    uint8_t ops, window;
};

/* Makes a probe around a port. NULL with errno set. */
struct pty_probe *pty_probe_open(const struct cm_port *port, struct pty_size size);

/* The device to be opened: "/dev/pts/3". */
const char *pty_probe_device(const struct pty_probe *probe);

/* From here on the line has a rate, which the probe begins with, and a faster one that it can be
 * asked for. What comes at another rate than its own is garbled, as on a real line; and `is_deaf`
 * plays one on which the faster rate does not get through. */
void pty_probe_set_rates(struct pty_probe *probe, uint32_t first, uint32_t fastest, bool is_deaf);

/* Our end of the line, for who wants to stand in between. */
int pty_probe_line(const struct pty_probe *probe);

/* Takes what has come, runs a batch if one is whole, and waits a moment if nothing has come. */
void pty_probe_step(struct pty_probe *probe);

/* Is a session open? */
bool pty_probe_in_session(const struct pty_probe *probe);

/* As if its processor had started again: it has forgotten everything, and released the target. */
void pty_probe_restart(struct pty_probe *probe);

void pty_probe_close(struct pty_probe *probe);

#endif
