/**
 * The ledger: what was made, by whom, when and with which result; and the numbers of units, given
 * out once each. It is a SQLite file, or a PostgreSQL database that several stations share.
 *
 *     struct cm_ledger *ledger = cm_ledger_open(&host, "line.ledger", "bench-2");
 *     struct cm_unit_record *unit = ...;              a key of its own: cm_unit_record_begin
 *     cm_ledger_take(ledger, &recipe.range, NULL, unit->key, &facts);
 *     ... make the unit ...
 *     cm_ledger_record(ledger, unit);
 *     cm_ledger_close(ledger);
 *
 * A number is leased to one unit. A unit that passed keeps it; one that failed gives it back. The
 * number of a unit that a station died over is given to nobody else: nobody knows what that unit
 * holds.
 *
 * What cannot be delivered to a server is kept in a journal on this computer, synced to disk, and
 * delivered later, in order, once.
 */
#ifndef COLDMINT_HOST_LEDGER_H
#define COLDMINT_HOST_LEDGER_H

#include <coldmint/decls.h>
#include <coldmint/host/unit.h>

CM_DECLS_BEGIN

enum {
    CM_UNIT_KEY = 33,
    CM_LEDGER_TEXT = 128,
    CM_LEDGER_CAUSE = 1200,
    /** CM_UNIT_COLUMNS names and values, each character six in JSON. */
    CM_LEDGER_OWN = 12288,
    CM_LEDGER_IMAGES = 9216 /**< CM_JOB_FILES names of files, whatever is in them, and digests */
};

/** A unit as the ledger knows it. Texts are UTF-8; those that are not known are empty. */
struct cm_unit_record {
    char key[CM_UNIT_KEY]; /**< 32 hexadecimal digits, at random */
    char series[CM_UNIT_SERIES + 1];
    /** Not of one that failed and gave its number back; of one that was made before, always. */
    bool has_number;
    uint64_t number;
    char recipe[CM_LEDGER_TEXT], version[CM_LEDGER_TEXT], board[CM_LEDGER_TEXT];
    char chip[CM_LEDGER_TEXT], chip_id[CM_LEDGER_TEXT];
    char port[CM_LEDGER_TEXT], station[CM_LEDGER_TEXT];
    /** Files and their SHA-256, a line each. */
    char images[CM_LEDGER_IMAGES];
    /** Setting bytes before and after, in hexadecimal digits. */
    char settings_before[CM_LEDGER_TEXT], settings_after[CM_LEDGER_TEXT];
    bool passed;
    char cause[CM_LEDGER_CAUSE]; /**< of a failure */
    /** Its own values, the columns of the numbers' file: a JSON object of texts, or empty. */
    char own[CM_LEDGER_OWN];
    int64_t begun; /**< milliseconds since 1970, UTC */
    uint32_t took_ms;
};

/** Clears a record and gives it a key. */
void cm_unit_record_begin(struct cm_unit_record *unit);

/**
 * Puts a text into a record's member of `room` bytes, and `name` says which. A record is checked so
 * before its unit is begun: what the ledger cannot hold is found while nothing is changed. Error:
 * CM_ERROR_UNIT_TEXT: it is longer, or no UTF-8.
 */
CM_MUST_CHECK bool cm_unit_record_set(struct cm_host *host, const char *name, char *member,
                                      size_t room, const char *text);

struct cm_ledger;

/** What else is known of it. */
struct cm_ledger_facts {
    uint32_t in_journal; /**< records that wait to be delivered */
    bool is_shared;      /**< a server's */
    /** Lines of the journal that were set aside when it was opened, since the server refuses them
     * for good, or they are not whole; the file where they are, with the reason of each. */
    uint32_t set_aside;
    const char *aside; /**< lives as long as the ledger */
};

/**
 * Opens a ledger, or makes it: the path of a file, or "postgresql://...". `station` is this place's
 * name; NULL: the computer's. What waits in the journal is delivered. A server that does not answer
 * is no error: see cm_ledger_facts. A file that is damaged, or empty, is refused: the numbers that
 * were given out are not in it any more. Errors: CM_ERROR_LEDGER, CM_ERROR_LEDGER_NEWER,
 * CM_ERROR_UNIT_TEXT (the station's name).
 */
CM_MUST_CHECK struct cm_ledger *cm_ledger_open(struct cm_host *host, const char *place,
                                               const char *station);
/** The same for one that is there: nothing is made. Error: CM_ERROR_FILE_UNREADABLE. */
CM_MUST_CHECK struct cm_ledger *cm_ledger_open_made(struct cm_host *host, const char *place,
                                                    const char *station);
void cm_ledger_close(struct cm_ledger *ledger); /**< NULL is allowed */
struct cm_ledger_facts cm_ledger_facts(const struct cm_ledger *ledger);

/**
 * Leases the next number of a series to a unit. `file`: the numbers' file that the series goes by,
 * or NULL. Errors: CM_ERROR_NUMBERS_END, CM_ERROR_NUMBERS_FILE, CM_ERROR_LEDGER,
 * CM_ERROR_LEDGER_AWAY.
 */
CM_MUST_CHECK bool cm_ledger_take(struct cm_ledger *ledger, const struct cm_number_range *range,
                                  const char *file, const char *key, struct cm_unit_facts *facts);

/**
 * The same with a number that is known: of a unit that is made again, or that has its number from
 * elsewhere. One that was made stays so, and the unit is one more record of it; one that nobody has
 * is leased. Errors: those of cm_ledger_take; CM_ERROR_NUMBER_RANGE; CM_ERROR_NUMBER_TAKEN: it is
 * leased to another unit.
 */
CM_MUST_CHECK bool cm_ledger_take_this(struct cm_ledger *ledger,
                                       const struct cm_number_range *range, const char *file,
                                       uint64_t number, const char *key,
                                       struct cm_unit_facts *facts);

/** Gives a unit's number back that was not used. */
CM_MUST_CHECK bool cm_ledger_give_back(struct cm_ledger *ledger, const char *key);

/** Records a unit, once, however often it is called; and settles its number. Where the server does
 * not answer, it is in the journal. Errors: CM_ERROR_LEDGER, CM_ERROR_UNIT_TEXT. */
CM_MUST_CHECK bool cm_ledger_record(struct cm_ledger *ledger, const struct cm_unit_record *unit);

enum cm_unit_result { CM_UNIT_ANY, CM_UNIT_PASSED, CM_UNIT_FAILED };

/** Which units: those members that are set. */
struct cm_ledger_query {
    bool has_number;
    uint64_t number;
    const char *series, *chip_id, *recipe, *version, *station; /**< NULL: any */
    enum cm_unit_result result;
    int64_t from, to; /**< milliseconds; `to` 0: up to now */
    uint32_t last;    /**< only so many, the latest; 0: all */
};

/** Called for each unit, the oldest first; return false to end. One unit at a time is in memory,
 * however many there are. */
typedef bool cm_unit_told_fn(void *context, const struct cm_unit_record *unit);
CM_MUST_CHECK bool cm_ledger_each(struct cm_ledger *ledger, const struct cm_ledger_query *query,
                                  cm_unit_told_fn *told, void *context);

/** How many units there are; the database counts. `query->last` is not looked at. */
struct cm_unit_counts {
    uint64_t units, passed;
};
CM_MUST_CHECK bool cm_ledger_count(struct cm_ledger *ledger, const struct cm_ledger_query *query,
                                   struct cm_unit_counts *counts);

/** Numbers of a series by what became of them. */
struct cm_number_counts {
    uint64_t made, leased, free;
};
CM_MUST_CHECK bool cm_ledger_numbers(struct cm_ledger *ledger, const char *series,
                                     struct cm_number_counts *counts);

CM_DECLS_END

#endif
