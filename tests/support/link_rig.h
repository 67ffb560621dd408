/* A probe in a process of its own at the far end of a pseudo terminal, with a simulated bench
 * behind it; and a middleman between the two. */
#ifndef CM_TEST_LINK_RIG_H
#define CM_TEST_LINK_RIG_H

#include "support.h"
#include <coldmint/host.h>
#include <pty/pty.h>
#include <sys/types.h>

enum { LINK_IMAGE = 40000 };

extern struct cm_host link_host;
extern uint8_t link_image[LINK_IMAGE];

enum mischief_kind {
    MISCHIEF_DROP,
    MISCHIEF_FLIP,
    MISCHIEF_REPEAT,
    MISCHIEF_DELAY,
    MISCHIEF_SPLIT,
    MISCHIEF_CUT,
    MISCHIEF_WITHHOLD, /* of all pieces: a probe's answers come whole, but for what it has read */
    MISCHIEF_KINDS
};

/* How often what happens to a piece of what passes, one in so many; 0: never. */
struct mischief {
    unsigned one_in[MISCHIEF_KINDS];
};

/* What the other processes tell. */
struct far_facts {
    volatile bool in_session;
    volatile unsigned long happened[MISCHIEF_KINDS];
};

struct far_end {
    pid_t pid, middle;
    char path[200], device[64], name[100];
    struct far_facts *facts;
    int report,
        wanted; /* until it is plugged in: where it tells its device, and is told to begin */
};

/* For cmocka: the host library, and an image. */
int link_setup(void **state);
int link_teardown(void **state);

/* A probe of this size in front of a part; `name` is the bench's. */
void begin_far_end(struct far_end *far, const char *name, const char *part, unsigned mv,
                   const char *more, struct pty_size size);
void end_far_end(struct far_end *far);

/* The same in two steps, for a probe that is plugged in while a link is open: an open link has a
 * thread, and what is forked beside a thread may hang in the sanitizers' locks. */
void prepare_far_end(struct far_end *far, const char *name, const char *part, unsigned mv,
                     const char *more, struct pty_size size);
void plug_in_far_end(struct far_end *far);

/* The next probe's line has a rate, and a faster one; `is_deaf`: that one does not get through. All
 * zero: none. */
struct link_rates {
    uint32_t first, fastest;
    bool is_deaf;
};
extern struct link_rates link_rates;

/* Stands between the computer and the probe: the device to be opened is another one then. */
void put_between(struct far_end *far, const struct mischief *mischief);

/* Puts the image through the link, and compares it. Returns the first status that is not good. */
enum cm_status put_image(struct far_end *far, const char *part, uint32_t bytes,
                         uint32_t *restarted);

/* What the bench's chip holds, and that nothing on its wires was against the data sheet; behind
 * end_far_end. */
void check_chip(const struct far_end *far, uint32_t bytes);

/* Sends a signal to the probe so many microseconds after its session has begun, however long a slow
 * machine takes for that; from a process of its own. */
pid_t signal_later(const struct far_end *far, int number, int us);

#endif
