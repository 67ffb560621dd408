/*
 * What the verbs share: the port and session behind a command, and the answer in the making.
 *
 * A verb is one file with one struct verb and the options of its own. It opens what it needs with
 * tool_begin (begin.h), says what it finds with say and set_json (say.h), and ends with an exit
 * code; main.c turns that into the last line and the failure's three parts.
 */
#ifndef CM_CLI_TOOL_H
#define CM_CLI_TOOL_H

#include <coldmint/host.h>
#include <jansson.h>
#include <popt.h>
#include <record/record.h>
#include <signal.h>

enum exit_code {
    EXIT_GOOD = 0,
    EXIT_DIFFERS = 1,
    EXIT_USAGE = 2,
    EXIT_NO_PORT = 3,
    EXIT_NO_CHIP = 4,
    EXIT_WRONG_CHIP = 5,
    EXIT_PROTECTED = 6,
    EXIT_WRITE_FAILED = 7,
    EXIT_CONTACT_LOST = 8,
    EXIT_BAD_FILE = 9,
    EXIT_REFUSED = 10,
    EXIT_INTERRUPTED = 130
};

/* A failure in words: what happened, the evidence, what to try. */
struct words {
    enum exit_code code;
    char what[400];
    char evidence[600];
    char try[400];
};

/* The options that most verbs have; texts are NULL where they are not given. */
struct common {
    char **vias; /* ended by NULL; or NULL */
    char *chip, *clock, *feed, *record;
    int json;
};

/* What is shown of a job's progress. */
struct progress {
    uint64_t begun_us;
    enum cm_step step;
    const char *region;
    bool is_shown;
};

/* Bytes of a session's workspace: the largest sector there is, and the map of the largest memory.
 */
enum { TOOL_WORKSPACE = 1 << 20 };

enum { TOOL_MORE_PORTS = 31 };

struct tool {
    const struct verb *verb;
    struct common given;
    struct cm_host host;
    /* what is behind the port */
    const char *port_name; /* "sim:node.yaml" */
    const char
        *more_ports[TOOL_MORE_PORTS + 1]; /* of a verb that works at several; ended by NULL */
    struct cm_open_port opened;
    const struct cm_port *port; /* that one, or the recorder around it */
    struct cm_recorder recorder;
    struct cm_new_file *recording; /* NULL: none */
    struct cm_session session;
    uint8_t *workspace;
    bool open;
    /* how the chip is asked */
    uint8_t device;    /* of an I2C bus: --chip NAME@52 */
    uint32_t board_hz; /* a recipe's word for the board's clock; 0: none */
    bool any_flash;    /* --chip any-flash: a parallel chip may be asked without a name */
    bool searches;     /* --feed search */
    uint16_t feed_mv;  /* --feed with a voltage; 0: the target has its own supply */
    uint16_t wish_mv;  /* a recipe's wish to feed the board, where the port can */
    bool wish_cycle;   /* and to switch the supply off for a moment first */
    bool reset_held;   /* RESET was low before anybody here drove it */
    struct progress progress;
    /* the answer */
    json_t *answer;
    struct words words;
    char last_line[400];
};

/* Which of the common options a verb heeds; the others are refused. 0, as most verbs have it, is
 * all. */
enum heeds { HEEDS_ALL = 0, HEEDS_CHIP = 1, HEEDS_VIA = 2, HEEDS_NOTHING = 4 };

/* One thing that a verb of several does: a row of its table, which an empty name ends. */
struct act {
    const char *name;
    const char *things; /* what goes behind the options */
    const char *summary;
    const char *example;
    const char
        *options; /* those of the verb that it heeds, between blanks; the others are refused */
    enum exit_code (*run)(struct tool *tool,
                          const char *const *things); /* where the verb uses it */
    bool prints_more;                                 /* the verb's print_more belongs to it */
};

/* A verb of the tool: a row of the list in list.c. */
struct verb {
    const char *name;
    const char *things; /* what goes behind the options */
    const char *summary;
    const char *example;
    const char *mistake;              /* the one that people make */
    unsigned heeds;                   /* enum heeds */
    bool shows_denied;                /* works on a port that the system does not let us use */
    bool sends_frames;                /* puts frames on the wires by hand */
    bool takes_ports;                 /* --via may be given several times */
    const struct poptOption *options; /* own ones, or NULL; they write into the verb's own struct */
    const struct act *acts;           /* or NULL */
    void (*print_more)(void);         /* more of its help, or NULL */
    enum exit_code (*run)(struct tool *tool, const char *const *things);
};

/* Ctrl-C was pressed. */
extern volatile sig_atomic_t tool_interrupted;

#endif
