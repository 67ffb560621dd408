/*
 * What the verbs share: the command's options, the port and session behind it, and the answer in
 * the making.
 *
 * A verb is one file with one struct verb. It opens what it needs with tool_begin, says what it
 * finds with say and json_set, and ends with a status; main.c turns that into the last line, the
 * exit code, and the failure's three parts.
 */
#ifndef CM_CLI_TOOL_H
#define CM_CLI_TOOL_H

#include <coldmint/coldmint.h>
#include <jansson.h>
#include <kinds.h>
#include <popt.h>
#include <record/record.h>
#include <signal.h>
#include <sim/sim.h>

#include "shown.h"

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

struct tool {
    const struct verb *verb;
    /* options of all verbs */
    char *via, *chip, *clock, *feed, *record;
    int json;
    /* options of some */
    char *region, *format, *bytes, *notes, *package, *output;
    char **allow; /* settings whose fences are open; ended by NULL */
    int even_blank;
    int anyway, replace, unprotect, lose_data, only_plan, wait_seconds, keep_boot, lose_boot,
        no_backup, settings_too;
    uint8_t device;           /* of a two-wire bus: --chip NAME@52 */
    uint32_t board_hz;        /* a recipe's word for the board's clock; 0: none */
    char lifted_path[4096];   /* registers, while they are lifted */
    enum exit_code hook_code; /* why a hook of the job ended it: told already */
    /* what is behind the port */
    struct open_port opened;
    struct cm_sim *sim; /* where that is a bench */
    const struct cm_port *port;
    struct cm_recorder recorder;
    struct new_file *recording; /* NULL: none */
    struct cm_session session;
    uint8_t *workspace;
    bool open;
    /* progress */
    uint64_t begun_us;
    enum cm_step progress_step;
    const char *progress_region;
    bool progress_shown;
    bool waiting; /* for contact, since */
    uint32_t waiting_since_us;
    bool any_flash;    /* --chip any-flash: a parallel chip may be asked without a name */
    bool searches;     /* --feed search */
    uint16_t feed_mv;  /* --feed with a voltage; 0: the target has its own supply */
    bool reset_held;   /* RESET was low before anybody here drove it */
    bool planned_work; /* put: there is something to do */
    /* the answer */
    json_t *answer;
    struct words words;
    char last_line[400];
    bool was_blank;         /* before this command: so there was nothing to back up */
    char backup_path[4096]; /* of this command, or an older one that holds the same; empty: there is
                               none */
};

/* Which of the common options a verb heeds; the others are refused. 0, as most verbs have it, is
 * all. */
enum heeds { HEEDS_ALL = 0, HEEDS_CHIP = 1, HEEDS_VIA = 2, HEEDS_NOTHING = 4 };

/* A verb of the tool: a row of the table in main.c. */
struct verb {
    const char *name;
    const char *things; /* what goes behind the options */
    const char *summary;
    const char *example;
    const char *mistake;              /* the one that people make */
    unsigned heeds;                   /* enum heeds */
    const struct poptOption *options; /* own ones, or NULL; they write into the_tool */
    enum exit_code (*run)(struct tool *tool, const char *const *things);
};

extern struct tool the_tool; /* popt writes options to fixed places: there is one tool a process */
extern const struct verb verb_look, verb_keep, verb_put, verb_match, verb_erase, verb_guard,
    verb_tune, verb_raw, verb_mint, verb_wires, verb_chips, verb_bench, verb_image, verb_ports;
enum { TOOL_KITS = CM_ALL_KITS + 1 };
extern struct cm_kit tool_kits[TOOL_KITS];
void tool_make_kits(void);
bool is_plain_kit(const struct cm_kit *kit);       /* of chips of which only the size is known */
const struct cm_part *tool_part(const char *name); /* a part of any family by name, or NULL */
const struct cm_kit *kit_of(const struct cm_part *part);     /* the kit that has it */
const struct cm_words *words_of(const struct cm_part *part); /* its settings in words */
bool is_memory(const struct cm_part *part);
bool is_spi_memory(const struct cm_part
                       *part); /* with status registers: SPI flash, and EEPROMs of the 25 series */
bool is_parallel(const struct cm_part *part);
const char *
main_region(const struct tool *tool); /* "flash" or "eeprom": what a file without REGION= is for */

/* --- begin and end of a verb ------------------------------------------------------------- */

/* Opens the port that --via names and identifies the chip, as asserted by --chip. EXIT_GOOD, or the
 * failure is told. */
enum exit_code tool_begin(struct tool *tool);
enum exit_code tool_open_port(struct tool *tool);
enum exit_code tool_open_session(struct tool *tool);  /* the port with a session on it, and the
                                                         supply of --feed; no chip is asked for */
enum exit_code tool_check_options(struct tool *tool); /* --clock and --chip make sense */
uint32_t parse_clock(const char *text);               /* "8MHz" in Hz; 0 where it is none */
uint16_t parse_volts(const char *text);               /* "3.3V" in mV; 0 where it is none */

/* --record: puts a recorder between session and port; and ends it. */
enum exit_code recording_begin(struct tool *tool);
void recording_end(struct tool *tool);
void tool_close(struct tool *tool);
enum cm_status tool_feed(struct tool *tool); /* switches on what --feed asks for */
uint16_t tool_supply_mv(
    struct tool *tool); /* measured at the target; 0: this port cannot, or no port is open */
uint32_t tool_restarts(const struct tool *tool); /* times that the programmer restarted */

/* What tells this port from others, in file names: eight hexadecimal digits. `text` has SHORT_TEXT.
 */
const char *tool_port_key(const struct tool *tool, char *text);

/* Leaves the session's failure as the verb's. */
enum exit_code tool_fail(struct tool *tool, enum cm_status status);

/* Leaves a failure of the tool's own. The three parts are printf-like, separated by calls: what,
 * evidence, try. */
enum exit_code tool_fail_as(struct tool *tool, enum exit_code code, const char *what,
                            const char *evidence, const char *advice);

/* --- saying ------------------------------------------------------------------------------ */

/* A line "label  text" for people; silent with --json. */
void say(const struct tool *tool, const char *label, const char *format, ...)
    __attribute__((format(printf, 3, 4)));
void say_last(struct tool *tool, const char *format, ...) __attribute__((format(printf, 2, 3)));
void say_chip(struct tool *tool);
void candidate_names(const struct cm_session *session, char *names,
                     size_t bytes);                          /* "attiny84 or attiny84a" */
const char *id_text(const struct cm_part *part, char *text); /* "id EF 40 16"; text has 40 bytes */
const char *chip_name(const struct tool *tool); /* the one asked for, or all that share the id */
void set_json(struct tool *tool, const char *key, json_t *value);
json_t *json_report(const struct cm_report *report);
const char *seconds_text(uint32_t us, char *text, size_t bytes);
enum { SHORT_TEXT = 48 };
const char *amount_text(uint32_t bytes, char *text); /* "64 KiB"; text has SHORT_TEXT */

/* Shows progress on a terminal; false once Ctrl-C was pressed. A cm_progress_fn. */
bool tool_progress(void *tool, const struct cm_progress *progress);
void tool_progress_end(struct tool *tool);
extern volatile sig_atomic_t tool_interrupted;

/* --- failures in words ------------------------------------------------------------------- */
void words_for_failure(struct tool *tool, enum cm_status status, struct words *words);
enum exit_code exit_code_for(enum cm_status status);
const char *step_words(enum cm_step step);

/* --- backups ----------------------------------------------------------------------------- */

/*
 * Keeps what the chip holds in a capsule of the user's backup folder, unless it is blank or
 * --no-backup was given. Without `memories` the settings only. settings: as they were before this
 * command; NULL: as they are now. EXIT_GOOD, or the failure is told.
 */
enum exit_code backup_chip(struct tool *tool, bool memories, const uint8_t *settings);
#define NO_BACKUP_OPTION                                                                           \
    {                                                                                              \
        "no-backup", 0, POPT_ARG_NONE, &the_tool.no_backup, 0,                                     \
            "change the chip without a backup of what it holds", NULL                              \
    }

/* Options of the verbs that do a job. */
#define ANYWAY_OPTION                                                                              \
    {                                                                                              \
        "anyway", 0, POPT_ARG_NONE, &the_tool.anyway, 0,                                           \
            "write a program that does not look as if it were for this chip", NULL                 \
    }
#define KEEP_BOOT_OPTION                                                                           \
    {                                                                                              \
        "keep-boot", 0, POPT_ARG_NONE, &the_tool.keep_boot, 0,                                     \
            "carry a boot loader in use over a chip erase", NULL                                   \
    }
#define LOSE_BOOT_OPTION                                                                           \
    {                                                                                              \
        "lose-boot", 0, POPT_ARG_NONE, &the_tool.lose_boot, 0,                                     \
            "a chip erase may take a boot loader in use along", NULL                               \
    }
#define LOSE_DATA_OPTION                                                                           \
    {                                                                                              \
        "lose-data", 0, POPT_ARG_NONE, &the_tool.lose_data, 0,                                     \
            "a chip erase may clear the eeprom, instead of carrying it over", NULL                 \
    }
#define WAIT_OPTION                                                                                \
    {                                                                                              \
        "wait", 0, POPT_ARG_INT, &the_tool.wait_seconds, 0,                                        \
            "if contact is lost, wait so long for it and go on", "SECONDS"                         \
    }

/* --- files ------------------------------------------------------------------------------- */

/* The time now as file names have it: 20261123-101500. Returns `text` (SHORT_TEXT). */
const char *stamp_text(char *text);

/* Folder for what the tool keeps of its own of one kind (FOLDER_BYTES), or why there is none; and
 * the folders above a file, made, for the user alone. */
enum { FOLDER_BYTES = 2000, NAME_BYTES = 200 };
enum exit_code state_folder(struct tool *tool, const char *kind, char *folder);
void make_folders(char *path);

/* Files of a folder whose names begin and end so, the last by name first. Free them. */
struct paths {
    char **names;
    size_t count;
};
struct paths paths_in(const char *folder, const char *begin, const char *end);
void paths_free(struct paths *paths);

/* Removes what killed commands have left unfinished there. */
void remove_left_over(const char *folder, const char *begin);

/* What to try where a file cannot be written, by errno. */
const char *disk_advice(int error);

/*
 * Opens a file to be read, from its beginning; -1 with errno set. A pipe is read whole the first
 * time, and is a file from then on. file_close_pipes forgets those.
 */
int file_open(const char *path);
void file_close_pipes(void);

/* Holds a file for as long as this process lives; and does another process that lives hold it? */
void file_hold(const char *path);
bool file_is_in_use(const char *path);

/* The whole of a file, to be freed. */
enum exit_code file_read_whole(struct tool *tool, const char *path, char **contents, size_t *bytes);

/* A file read where it lies, of up to 2 GiB. NULL: it cannot be opened. Its `read` is that of
 * sources and of capsules. */
struct file_reader;
struct file_reader *file_reader_open(const char *path);
void file_reader_close(struct file_reader *reader); /* NULL will do */
uint32_t file_reader_bytes(const struct file_reader *reader);
enum cm_status file_reader_read(void *reader, uint32_t offset, uint8_t *bytes, uint32_t count);
struct cm_source file_reader_source(struct file_reader *reader);

/* A format of image files; a name without an extension gets the first one. */
enum { MOST_EXTENSIONS = 5 };
struct file_format {
    const char *name;
    const char *extensions[MOST_EXTENSIONS];
    enum cm_record_format records; /* CM_RECORDS_UNKNOWN: the raw bytes */
};
const struct file_format *format_by_name(const char *name); /* NULL: none is called so */
const struct file_format *
format_by_extension(const char *path); /* NULL: no extension, or of no format */

/* The name as asked, with this extension if it has none. */
void name_with_extension(char *path, size_t bytes, const char *asked, const char *extension);

/* An image read from a file. */
struct image_file {
    struct cm_image image;
    struct cm_source source;
    const char *path, *format;
    uint32_t bytes, first, last;
    bool has_entry;
    uint32_t entry; /* where the program begins, as the file says */
    void *memory;
    struct file_reader *reader; /* of raw bytes */
    struct cm_placed placed;    /* where its addresses are a linker's, and */
    bool is_placed;             /* some lie in the region that was asked for */
};

/*
 * Reads a file, its format found out from its content; of an ELF file the part that is for this
 * region, which may be empty. EXIT_GOOD, or the failure is told.
 */
enum exit_code image_file_load(struct tool *tool, const char *path, const char *region,
                               struct image_file *file);
enum exit_code elf_load(struct tool *tool, struct image_file *file, char *contents, size_t bytes,
                        const char *region);
void image_file_free(struct image_file *file);

/* A file that comes into being whole or not at all. */
struct new_file {
    FILE *stream;
    bool exclusive; /* what has come to stand at its path meanwhile is not overwritten */
    char path[4096], temporary[4224];
};
enum exit_code new_file_open(struct tool *tool, const char *path, struct new_file *file);
enum exit_code new_file_commit(struct tool *tool, struct new_file *file);
enum exit_code new_file_commit_as(struct tool *tool, struct new_file *file, const char *stem,
                                  const char *extension); /* the first free of STEM, STEM-2, ... */
void new_file_drop(struct new_file *file);
enum cm_status new_file_text(void *stream, const char *text,
                             size_t bytes); /* a cm_text_fn on the file's stream */

#endif
