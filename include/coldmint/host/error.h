/**
 * Why a call of the host library failed: a record with the evidence as fields. The library prints
 * nothing; the program makes words, a dialogue or a row of a log from the record.
 *
 * Every call that can fail returns false then, and leaves the record in `struct cm_host`, member
 * `error`. It stays until the next call fails.
 */
#ifndef COLDMINT_HOST_ERROR_H
#define COLDMINT_HOST_ERROR_H

#include <coldmint/capsule.h>
#include <coldmint/decls.h>
#include <coldmint/records.h>
#include <coldmint/settings.h>

CM_DECLS_BEGIN

/** What failed. The comment says which fields of the record are set beside `path`. */
enum cm_error_kind {
    CM_ERROR_NONE,
    CM_ERROR_NO_MEMORY, /**< the computer has not enough */
    CM_ERROR_STOPPED, /**< the caller's `stopped` said so, while a pipe or a port was waited for */
    CM_ERROR_SESSION, /**< the chip's side: `status`; the session's failure has the rest */

    /* ports: `path` is what stands behind the colon */
    CM_ERROR_PORT_KIND,   /**< no kind has this prefix; path: the whole name */
    CM_ERROR_PORT_NAME,   /**< no port is named so in the configuration; path: the name */
    CM_ERROR_PORT_DENIED, /**< it is there, and the system does not let us use it; port_kind, detail
                           */
    CM_ERROR_PORT_BUSY,   /**< another process uses it; port_kind, detail */
    CM_ERROR_PORT_FAILED, /**< port_kind, detail */
    CM_ERROR_PORT_STATE,  /**< its state could not be saved; system */

    /* files and folders */
    CM_ERROR_FILE_UNREADABLE, /**< system */
    CM_ERROR_FILE_LARGE,      /**< more than is read of a file of this kind */
    CM_ERROR_FILE_BROKE_OFF,  /**< a read error, or it has changed since it was opened */
    CM_ERROR_FILE_EMPTY,
    CM_ERROR_FILE_TEXT,         /**< is text, but none of the formats */
    CM_ERROR_FILE_NO_DATA,      /**< records, but no bytes */
    CM_ERROR_FILE_RECORDS,      /**< line, column, record; of a checksum found and expected; of
                                     bytes that are set twice address, other_line */
    CM_ERROR_FILE_ELF_HEADER,   /**< is no whole ELF file */
    CM_ERROR_FILE_ELF_SEGMENTS, /**< points outside the file, or at the same bytes twice */
    CM_ERROR_FILE_PROCESSOR,    /**< an ELF file for another kind of processor */
    CM_ERROR_FILE_OTHER_CHIP,   /**< carries another id: id_found, id_expected, id_bytes */
    CM_ERROR_FILE_EXISTS,       /**< nothing is overwritten without being asked */
    CM_ERROR_FILE_RACED,        /**< another process has just written it */
    CM_ERROR_FILE_NAME,         /**< the name is too long */
    CM_ERROR_FILE_UNWRITABLE,   /**< system */
    CM_ERROR_FILE_INCOMPLETE,   /**< could not be written whole: system */
    CM_ERROR_NO_STATE_FOLDER,   /**< neither XDG_STATE_HOME nor HOME is set */
    CM_ERROR_STATE_FOLDER_NAME, /**< text: the variable whose folder has too long a name */
    CM_ERROR_CONFIG,            /**< the configuration file is not read: detail */

    /* capsules */
    CM_ERROR_CAPSULE_DAMAGED,    /**< capsule, address (offset in the file), limit (its bytes) */
    CM_ERROR_CAPSULE_OTHER_CHIP, /**< text: its chip; id_found, id_expected */
    CM_ERROR_CAPSULE_UNWRITABLE, /**< system */
    CM_ERROR_CAPSULE_NO_JOB,     /**< it is a backup */
    CM_ERROR_CAPSULE_JOB,        /**< it is a job, not a backup */
    CM_ERROR_CAPSULE_LIMIT,      /**< so many units were made: limit */
    CM_ERROR_CAPSULE_COUNT,      /**< its count cannot be read or written: text */
    CM_ERROR_KEY,                /**< is no Ed25519 key: detail */
    CM_ERROR_PACK_LONG,          /**< key, text; limit */
    CM_ERROR_PACK_UNIT,          /**< what each unit gets of its own cannot be sealed */
    CM_ERROR_PACK_SETTING,       /**< key: a setting that others depend on is open */
    CM_ERROR_PACK_SUPPLY,        /**< a brown-out level, and no supply */
    CM_ERROR_PACK_REGION,        /**< settings that are put with an erase: text */
    CM_ERROR_READS_DIFFER,       /**< two readings of the chip do not agree: status */

    /* recipes: line; text: the key, or the value */
    CM_ERROR_RECIPE_REFUSED, /**< is not parsed: detail */
    CM_ERROR_RECIPE_YAML,    /**< line, column, detail */
    CM_ERROR_RECIPE_NO_KEYS, /**< no mapping */
    CM_ERROR_RECIPE_KEY,     /**< no such key; detail: those that there are */
    CM_ERROR_RECIPE_KEY_TWICE,
    CM_ERROR_RECIPE_KEY_MISSING,
    CM_ERROR_RECIPE_VALUE,    /**< a plain value is needed */
    CM_ERROR_RECIPE_NAMES,    /**< names and words are needed */
    CM_ERROR_RECIPE_LIST,     /**< too long: limit */
    CM_ERROR_RECIPE_SETTINGS, /**< too many: limit */
    CM_ERROR_RECIPE_SETTING_TWICE,
    CM_ERROR_RECIPE_CHIP, /**< no such chip; key, text: the value */
    CM_ERROR_RECIPE_MARKER,
    CM_ERROR_RECIPE_SUPPLY,
    CM_ERROR_RECIPE_FEED,
    CM_ERROR_RECIPE_POWER_CYCLE, /**< neither yes nor no, or without `feed` */
    CM_ERROR_RECIPE_CLOCK,
    CM_ERROR_RECIPE_ENTER,
    CM_ERROR_RECIPE_ENTER_ALONE, /**< needs a loader and an application */
    CM_ERROR_RECIPE_NUMBERS,
    CM_ERROR_RECIPE_KNOWN,
    CM_ERROR_RECIPE_UNIT,
    CM_ERROR_RECIPE_ALLOW, /**< `allow` names no setting of the part */

    /* settings: part, settings (the bytes that they were chosen in), text: NAME=WORD; of a recipe
       path and line, too */
    CM_ERROR_SETTING_FORM,   /**< no '=' */
    CM_ERROR_SETTING_NAME,   /**< the part has no setting of this name */
    CM_ERROR_SETTING_CHOICE, /**< the setting has no such choice */
    CM_ERROR_FENCE,          /**< a choice that could lock us out: fence */
    CM_ERROR_BROWN_OUT,      /**< level above the supply: expected_mv, found_mv */

    /* catalogues */
    CM_ERROR_FOLDER,         /**< no folder that can be read */
    CM_ERROR_OTHER_BOARD,    /**< the marker is another board's: line, address; text: found; detail:
                                  the marker's region */
    CM_ERROR_WHICH_BOARD,    /**< several boards' recipes have this title: detail */
    CM_ERROR_TITLE,          /**< no recipe of this title: text */
    CM_ERROR_TITLE_NOT_HERE, /**< there are such, but not for this chip and board: detail */

    /* jobs */
    CM_ERROR_OVERLAP,         /**< path and other_path both have bytes at address */
    CM_ERROR_MISFIT,          /**< the image cannot be a program for this chip: misfit */
    CM_ERROR_TOO_MANY_FILES,  /**< limit */
    CM_ERROR_MARKER_REGION,   /**< the chip has no such memory: text */
    CM_ERROR_JOIN_VECTOR,     /**< the reset vector cannot lead into the loader: address, found */
    CM_ERROR_JOIN_JUMP,       /**< the application reaches into the loader's jump: address, found */
    CM_ERROR_SUPPLY,          /**< not what the recipe wants: found_mv, expected_mv to limit_mv */
    CM_ERROR_BOOT_UNREADABLE, /**< the boot loader cannot be kept: lock bits bar reading it */
    CM_ERROR_BOOT_TWICE,      /**< the file holds a boot section, and the chip's is to be kept */
    CM_ERROR_BOOT_LOST,       /**< it would erase a boot loader in use: address, readable */
    CM_ERROR_LOADER_LOST,     /**< so, one that the word at reset leads to: address */

    /* units and ledgers */
    CM_ERROR_UNIT_NUMBER,  /**< the recipe gives each unit a number, and there is none: line */
    CM_ERROR_UNIT_VALUE,   /**< does not fit: line, text; detail: the value */
    CM_ERROR_UNIT_COLUMN,  /**< names no column: line, text; key: the name; detail: those there */
    CM_ERROR_UNIT_PLACE,   /**< no such memory, place or symbol on this chip: line, text */
    CM_ERROR_UNIT_SUM,     /**< a checksum over a byte that nothing is written to: line, address */
    CM_ERROR_NUMBERS_FILE, /**< line, detail */
    CM_ERROR_NUMBERS_END,  /**< all numbers of the series are given out: text, the series */
    CM_ERROR_NUMBER_RANGE, /**< a number that the series does not have: text, number */
    CM_ERROR_NUMBER_TAKEN, /**< leased to a unit whose end is not known: text, number; detail */
    CM_ERROR_LEDGER,       /**< detail: what the database says */
    CM_ERROR_LEDGER_AWAY,  /**< the ledger's server does not answer: detail */
    CM_ERROR_UNIT_TEXT,    /**< a record cannot hold it: key, which text; text; detail */
    CM_ERROR_LEDGER_NEWER, /**< it was made by a newer version: found, expected */

    /* fields of a settings block */
    CM_ERROR_FIELDS,      /**< the map cannot be used: detail */
    CM_ERROR_FIELD_NAME,  /**< the map has no such field: text; detail: those that it has */
    CM_ERROR_FIELD_VALUE, /**< text; detail: what the field may be */
    CM_ERROR_BLOCK_SUM,   /**< the block on the chip has a wrong checksum: path */

    /* undo */
    CM_ERROR_NO_BACKUP,    /**< there is no backup of such a chip: path, the folder */
    CM_ERROR_UNDONE,       /**< every change on record has been undone already */
    CM_ERROR_BEFORE_BLANK, /**< before the last change the chip was blank */
    CM_ERROR_OTHER_HANDS,  /**< the chip is not as any command left it: text: region; address */
    CM_ERROR_COUNT
};

/** Why an image cannot be for a part. */
enum cm_misfit_kind {
    CM_FITS,
    CM_MISFIT_SIZE,          /**< reaches to `address`; the region ends at `limit` */
    CM_MISFIT_MICRO,         /**< carries an id of a microcontroller, the part is a memory */
    CM_MISFIT_ID,            /**< carries another id: found, expected */
    CM_MISFIT_NO_VECTORS,    /**< does not begin as a program for the part's processor does */
    CM_MISFIT_SHORT_VECTORS, /**< vectors of one word, the part's are of two */
    CM_MISFIT_LONG_VECTORS,  /**< vectors of two words, the part's are of one */
    CM_MISFIT_RESET,         /**< the reset vector leads to `address`, beyond the flash */
    CM_MISFIT_ARM            /**< begins as a program for Arm Cortex-M does */
};
struct cm_misfit {
    enum cm_misfit_kind kind;
    uint64_t address;
    uint32_t limit;
    const char *region;
    uint8_t found[3], expected[3];
};

struct cm_port_kind;

enum { CM_ERROR_PATH = 1024, CM_ERROR_TEXT = 256, CM_ERROR_DETAIL = 600 };

/** A failure. Members that the kind does not name are zero. Texts are copies: they may hold
 * anything that a file or a person wrote, control characters too. */
struct cm_error {
    enum cm_error_kind kind;
    char path[CM_ERROR_PATH];
    char other_path[CM_ERROR_PATH];
    char key[40];
    char text[CM_ERROR_TEXT];
    char detail[CM_ERROR_DETAIL];
    /** errno, where the system refused. */
    int system;
    enum cm_status status;
    uint32_t line, column, other_line;
    uint32_t address, limit;
    uint32_t found, expected;
    uint16_t found_mv, expected_mv, limit_mv;
    uint8_t id_found[CM_ID_BYTES], id_expected[CM_ID_BYTES], id_bytes;
    bool readable;
    enum cm_record_fault record;
    enum cm_capsule_fault capsule;
    const struct cm_port_kind *port_kind;
    const struct cm_part *part;
    uint8_t settings[CM_SETTING_BYTES];
    struct cm_fence fence;
    struct cm_misfit misfit;
};

CM_DECLS_END

#endif
