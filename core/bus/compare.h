/* How bytes that came are judged against those that are wanted. Shared by the expansions that compare. */
#ifndef CM_BUS_COMPARE_H
#define CM_BUS_COMPARE_H

#include <coldmint/port.h>

/* Compares what came from `address` on; the first byte that does not do is left in `trouble`. */
static inline CM_MUST_CHECK enum cm_status cm_judge(enum cm_each_data data, uint32_t address,
                                                    const uint8_t *wanted, const uint8_t *found,
                                                    uint32_t count, struct cm_trouble *trouble)
{
    for (uint32_t i = 0; i < count; i++) {
        uint8_t matter = data == CM_EACH_FITS ? wanted[i] : 0xFF; // only bits that must be 1
        if ((found[i] & matter) == wanted[i])
            continue;
        trouble->address = address + i;
        trouble->expected = wanted[i];
        trouble->found = found[i];
        return CM_DIFFERS;
    }
    return CM_OK;
}

/* Clock that lines make with the half period that is set, where each bit takes so many calls of
 * `line` or `sense`: measured, by driving a line to where it is already (lines.c). */
uint32_t cm_lines_real_hz(struct cm_port *port, enum cm_line line, enum cm_level level,
                          uint8_t calls);

/* A wait with an end: by the port's clock, and by count where that clock stands still. */
struct cm_deadline {
    uint32_t start, seen, asks;
};

static inline struct cm_deadline cm_deadline_begin(struct cm_port *port)
{
    uint32_t now = port->now_us(port);
    return (struct cm_deadline){now, now, 0};
}

/* Asked behind each asking: is the time up? */
static inline bool cm_deadline_is_over(struct cm_port *port, struct cm_deadline *deadline,
                                       uint32_t timeout_us)
{
    enum {
        MOST_ASKS = 65536
    }; // a tick of 10 ms is longer than so many of the fastest cycles would take
    uint32_t now = port->now_us(port);
    deadline->asks = now == deadline->seen ? deadline->asks + 1 : 0;
    deadline->seen = now;
    return now - deadline->start > timeout_us || deadline->asks > MOST_ASKS;
}

/* Bytes of the next group to be compared: the first one is small, since where memory and image differ they mostly do so in a page's first bytes. */
enum { CM_GROUP_FIRST = 4, CM_GROUP = 64 };

/* Where calls cost, many bytes are compared at once. A build may say how many; a computer has the
 * room. */
#ifndef CM_GROUP_MOST
#if UINTPTR_MAX > 0xFFFFFFFF
#define CM_GROUP_MOST 1024
#else
#define CM_GROUP_MOST 64
#endif
#endif
_Static_assert(CM_GROUP_MOST >= CM_GROUP, "a port without dear calls compares so many");

/* Bytes of the group behind `done`. */
static inline uint32_t cm_group_after(const struct cm_port *port, uint32_t done, uint32_t left)
{
    uint32_t group = port->traits.call_us ? (uint32_t)CM_GROUP_MOST
                     : done               ? (uint32_t)CM_GROUP
                                          : (uint32_t)CM_GROUP_FIRST;
    uint32_t most = port->traits.transfer_max;
    group = most && group > most ? most : group;
    return left < group ? left : group;
}

/* `shift` in calls that are no longer than the port can do. */
static inline CM_MUST_CHECK enum cm_status cm_shift_all(struct cm_port *port, const uint8_t *out,
                                                        uint8_t *in, uint32_t count)
{
    uint32_t most = port->traits.transfer_max ? port->traits.transfer_max : count;
    enum cm_status status = CM_OK;
    for (uint32_t at = 0, part; at < count && !status; at += part) {
        part = count - at < most ? count - at : most;
        status = port->shift(port, out ? out + at : NULL, in ? in + at : NULL, part);
    }
    return status;
}

/* Bytes from address first + at on until a piece ends, or all is done. */
static inline uint32_t cm_piece_left(uint32_t first, uint32_t at, uint32_t count, uint32_t piece)
{
    uint32_t left = count - at, room = piece ? piece - ((first + at) & (piece - 1)) : left;
    return left < room ? left : room;
}

#endif
