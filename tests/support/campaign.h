/* One bad wire, for a while, in a job: what came of it, by the cells of the chip's own model. */
#ifndef CM_TEST_CAMPAIGN_H
#define CM_TEST_CAMPAIGN_H

#include "support.h"

/* A part, and the job that is done with it. */
struct subject {
    const char *part;
    const char *more;      /* further YAML of its bench */
    uint32_t first, count; /* wanted bytes of the main region */
    uint32_t data_count;   /* of an AVR: wanted bytes of the EEPROM, from 8 on */
    uint32_t workspace;
    bool keeps_old;    /* what is wanted can be programmed over what is there: no erase */
    bool once_only;    /* an EPROM: a bit that was programmed stays so */
    bool obeys_reads;  /* flash without pages: what reads a byte programs one when it arrives a bit
                          late, and once in a hundred times nothing shows it */
    bool takes_pieces; /* page flash whose protection is off: a piece of the command that asks for
                          its id is data to it */
};

struct tally {
    unsigned jobs, good, wrong, untold, stuck; /* stuck: not finished by running again */
};

struct campaign {
    const struct subject *subject;
    struct cm_sim *sim;
    union sim_model *model, saved;
    const struct cm_part *row;
    uint8_t *cells, *saved_cells, *wanted, *wanted_data,
        *saved_data; /* of an AVR: flash, and EEPROM */
    uint32_t bytes, data_bytes;
    uint8_t *workspace, *carry;
    uint64_t clocks, keep_clocks, match_clocks; /* of each with good wires */
    struct cm_all_found found;
    struct cm_report report;
    struct cm_port *port;      /* in place of the bench's own */
    struct cm_source *source;  /* in place of the first wanted image */
    struct cm_failure failure; /* that the last job left */
    uint8_t doubts;            /* after the last look */
    uint32_t kept_wrong;       /* bytes of the last keep that are not the chip's */
};

void campaign_open(struct campaign *campaign, const struct subject *subject);
void campaign_close(struct campaign *campaign);

/* The chip as it was before. */
void campaign_restore(struct campaign *campaign);

/* Does the job once with a fault, and adds what came of it. */
typedef void campaign_fn(struct campaign *campaign, const struct sim_wire_fault *fault,
                         struct tally *tally);
campaign_fn campaign_job;

/* Keeps the chip with a fault: a good end has the contents as they are, and nothing on the chip has
 * changed but where that is told as CM_IN_DOUBT. */
campaign_fn campaign_keep;

/* Compares the chip with what it holds, with a fault: where it ends with "equal", nothing on the
 * chip has changed. */
campaign_fn campaign_match;

/* Looks for the chip with a fault; true where nothing at all has changed. */
bool campaign_look(struct campaign *campaign, const struct sim_wire_fault *fault,
                   const char *asserted);

/* Clocks of a look with good wires. */
uint64_t campaign_look_clocks(struct campaign *campaign);

/* The job once more as it stands, or the same with cm_compare or cm_keep in place of cm_put; what
 * it ends with. */
enum campaign_act { CAMPAIGN_PUT, CAMPAIGN_COMPARE, CAMPAIGN_KEEP };
enum cm_status campaign_act(struct campaign *campaign, enum campaign_act act, cm_sink_fn *sink,
                            void *context);

/* How much more than in an ordinary run: COLDMINT_CAMPAIGN, 1 by default. */
unsigned campaign_size(void);

#endif
