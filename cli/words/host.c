/*
 * Failures of the host library in words: a row for each kind. In the texts a word in braces stands
 * for a field of the record.
 */
#include "fail.h"
#include "fill.h"
#include "misfit.h"
#include "settings.h"
#include "say.h"
#include <errno.h>
#include <stdio.h>
#include <string.h>

struct row {
    enum exit_code code;
    const char *what, *evidence, *advice;
};

#define AGAIN   "build or copy the file again"
#define NO_ELF  "{path}: is not an ELF file that can be used"
#define ELF_TRY "nothing was changed; build the file again for this chip"
#define JOIN    "the loader begins at {address}; the application's first word is {found4}"
#define LINE    "line {line}: "
#define KEY     "line {line}, key '{key}': {text}"

static const struct row ROWS[CM_ERROR_COUNT] = {
    [CM_ERROR_NO_MEMORY] = {EXIT_BAD_FILE, "there is not enough memory", "{path}",
                            "close other programs"},
    [CM_ERROR_STOPPED] = {EXIT_INTERRUPTED, "stopped", "{path}", "nothing was changed"},

    [CM_ERROR_PORT_KIND] = {EXIT_NO_PORT, "no such kind of port", "{path}",
                            "this build has {kinds}"},
    [CM_ERROR_PORT_NAME] = {EXIT_NO_PORT, "no port has this name", "{path}",
                            "the configuration file can name ports; otherwise this build has "
                            "{kinds}"},
    [CM_ERROR_PORT_DENIED] = {EXIT_NO_PORT, "permission denied for the port {path}", "{detail}",
                              "add your user to the device's group, then log in again"},
    [CM_ERROR_PORT_BUSY] = {EXIT_NO_PORT, "the {kind} {path} is in use", "{detail}",
                            "wait until that has ended, or end it"},
    [CM_ERROR_PORT_FAILED] = {EXIT_NO_PORT, "the {kind} {path} cannot be set up", "{detail}",
                              "{hint}"},
    [CM_ERROR_PORT_STATE] = {EXIT_NO_PORT, "the {path}'s state cannot be saved", "{system}",
                             "{disk}"},

    [CM_ERROR_FILE_UNREADABLE] = {EXIT_BAD_FILE, "{path}: cannot be read", "{system}",
                                  "check the name, and that you may read it"},
    [CM_ERROR_FILE_LARGE] = {EXIT_BAD_FILE, "{path}: is too large",
                             "of a raw file 2 GiB are read, of all others, and of pipes, 256 MiB",
                             "check the name, or give the part of it that is meant"},
    [CM_ERROR_FILE_BROKE_OFF] = {EXIT_BAD_FILE, "{path}: cannot be read whole",
                                 "a read error, or it was changed since it was opened", AGAIN},
    [CM_ERROR_FILE_EMPTY] = {EXIT_BAD_FILE, "{path}: is empty", "0 bytes", AGAIN},
    [CM_ERROR_FILE_TEXT] = {EXIT_BAD_FILE, "{path}: is text, but neither Intel HEX nor S-records",
                            "its first character is neither ':' nor S",
                            "if these really are the raw bytes, name the file with .bin"},
    [CM_ERROR_FILE_NO_DATA] = {EXIT_BAD_FILE, "{path}: holds no data", "records, but no bytes",
                               "build the file again"},
    [CM_ERROR_FILE_RECORDS] = {EXIT_BAD_FILE,
                               "{path}: is not a whole file of Intel HEX or S-records", "{record}",
                               "nothing was changed; " AGAIN},
    [CM_ERROR_FILE_ELF_HEADER] = {EXIT_BAD_FILE, NO_ELF, "its header is damaged", ELF_TRY},
    [CM_ERROR_FILE_ELF_SEGMENTS] =
        {EXIT_BAD_FILE, NO_ELF,
         "its program headers point outside the file, or at the same bytes twice", ELF_TRY},
    [CM_ERROR_FILE_PROCESSOR] = {EXIT_BAD_FILE, NO_ELF, "it is for another kind of processor",
                                 ELF_TRY},
    [CM_ERROR_FILE_OTHER_CHIP] = {EXIT_WRONG_CHIP, "{path} is made for another chip",
                                  "it carries the signature {id}; the chip has {id-wanted}",
                                  "build the firmware for this chip, or connect the other board"},
    [CM_ERROR_FILE_EXISTS] = {EXIT_REFUSED, "refused: {path} is there already",
                              "nothing is overwritten without being asked",
                              "give another name, or --replace"},
    [CM_ERROR_FILE_RACED] = {EXIT_REFUSED, "refused: {path} is there already",
                             "another command has just written it; nothing is overwritten without "
                             "being asked",
                             "give another name, or --replace"},
    [CM_ERROR_FILE_NAME] = {EXIT_BAD_FILE, "{path}: has too long a name",
                            "4000 characters are the most", "give a shorter one"},
    [CM_ERROR_FILE_UNWRITABLE] = {EXIT_BAD_FILE, "{path}: cannot be written", "{system}",
                                  "check the folder and its rights"},
    [CM_ERROR_FILE_INCOMPLETE] = {EXIT_BAD_FILE, "{path}: cannot be written whole", "{system}",
                                  "{disk}"},
    [CM_ERROR_NO_STATE_FOLDER] = {EXIT_REFUSED, "there is no folder for backups",
                                  "neither XDG_STATE_HOME nor HOME is set",
                                  "set one of them; or --no-backup, if what the chip holds may be "
                                  "lost"},
    [CM_ERROR_STATE_FOLDER_NAME] = {EXIT_REFUSED, "the folder for backups has too long a name",
                                    "{text}", "2000 characters are the most"},
    [CM_ERROR_CONFIG] = {EXIT_BAD_FILE, "{path}: cannot be used", "{detail}",
                         "mend the file, or take it away"},

    [CM_ERROR_CAPSULE_DAMAGED] = {EXIT_BAD_FILE, "{path}: is not a whole capsule", "{capsule}",
                                  "nothing was changed; copy the file again, or take another "
                                  "one"},
    [CM_ERROR_CAPSULE_OTHER_CHIP] = {EXIT_WRONG_CHIP, "the capsule is of another kind of chip",
                                     "it is of {text}, id {id}; the chip is {chip}, id {id-wanted}",
                                     "connect a chip of its kind, or take another capsule"},
    [CM_ERROR_CAPSULE_UNWRITABLE] = {EXIT_BAD_FILE, "{path}: the capsule cannot be written",
                                     "{system}", "{disk}"},

    [CM_ERROR_CAPSULE_NO_JOB] = {EXIT_BAD_FILE, "{path}: is a backup, not a job",
                                 "it says what a chip held, and nothing of a board",
                                 "coldmint put {path}"},
    [CM_ERROR_CAPSULE_JOB] = {EXIT_BAD_FILE, "{path}: is a job, not a backup",
                              "it says what to do, not what a chip held", "coldmint mint {path}"},
    [CM_ERROR_CAPSULE_LIMIT] = {EXIT_REFUSED, "refused: no more units may be made from {path}",
                                "its maker has allowed {limit}, and they are made",
                                "ask the maker for another capsule"},
    [CM_ERROR_CAPSULE_COUNT] = {EXIT_REFUSED, "the units of {path} cannot be counted", "{text}",
                                "nothing was changed; mend the folder, or its rights"},
    [CM_ERROR_KEY] = {EXIT_BAD_FILE, "{path}: is no key that can be used", "{detail}",
                      "coldmint pack --make-key NAME makes NAME.key and NAME.pub"},
    [CM_ERROR_PACK_LONG] = {EXIT_BAD_FILE, "{path}: the recipe's {key} is too long for a capsule",
                            "{text}", "{limit} characters are the most"},
    [CM_ERROR_PACK_UNIT] = {EXIT_BAD_FILE, "{path}: units with numbers of their own are not sealed",
                            LINE "{text}",
                            "a capsule gives each unit the same; leave 'unit' out, or mint from "
                            "the recipe with --ledger"},
    [CM_ERROR_PACK_SETTING] = {EXIT_BAD_FILE,
                               "{path}: a setting is open that another one depends on", "{key}",
                               "name it in the recipe, too: a capsule cannot choose later"},
    [CM_ERROR_PACK_SUPPLY] = {EXIT_BAD_FILE, "{path}: a brown-out level wants a supply",
                              "a level above the board's supply would hold the chip in reset",
                              "say it in the recipe: supply: 4.5V to 5.5V"},
    [CM_ERROR_PACK_REGION] = {EXIT_BAD_FILE, "{path}: these settings cannot be sealed", "{text}",
                              "they are written with an erase; mint from the recipe"},

    [CM_ERROR_RECIPE_REFUSED] = {EXIT_BAD_FILE, "{path}: is no recipe", "{detail}",
                                 "docs/recipe.md has an example"},
    [CM_ERROR_RECIPE_YAML] = {EXIT_BAD_FILE, "{path}: is not YAML",
                              "line {line}, column {column}: {detail}",
                              "mend that line; docs/recipe.md has an example"},
    [CM_ERROR_RECIPE_NO_KEYS] = {EXIT_BAD_FILE, "{path}: is not a recipe", LINE "it has no keys",
                                 "see docs/recipe.md"},
    [CM_ERROR_RECIPE_KEY] = {EXIT_BAD_FILE, "{path}: no such key", LINE "key '{text}'",
                             "one of: {detail}"},
    [CM_ERROR_RECIPE_KEY_TWICE] = {EXIT_BAD_FILE, "{path}: a key is there twice",
                                   LINE "key '{text}'", "keep one of them"},
    [CM_ERROR_RECIPE_KEY_MISSING] = {EXIT_BAD_FILE, "{path}: is not a whole recipe",
                                     LINE "key '{text}' is missing", "add it; see docs/recipe.md"},
    [CM_ERROR_RECIPE_VALUE] = {EXIT_BAD_FILE, "{path}: a plain value is needed here",
                               LINE "key '{text}'", "for example chip: attiny84a"},
    [CM_ERROR_RECIPE_NAMES] = {EXIT_BAD_FILE, "{path}: names and words are needed here",
                               LINE "{text}", "one a line, for example  clock: internal-8MHz"},
    [CM_ERROR_RECIPE_LIST] = {EXIT_BAD_FILE, "{path}: too many in this list", LINE "{text}",
                              "{limit} at most"},
    [CM_ERROR_RECIPE_SETTINGS] = {EXIT_BAD_FILE, "{path}: too many settings", LINE "{text}",
                                  "{limit} at most"},
    [CM_ERROR_RECIPE_SETTING_TWICE] = {EXIT_BAD_FILE, "{path}: a setting is named twice",
                                       LINE "{text}", "keep one of them"},
    [CM_ERROR_RECIPE_CHIP] = {EXIT_BAD_FILE, "{path}: no such chip is known", KEY,
                              "'coldmint chips' lists them; write the whole name"},
    [CM_ERROR_RECIPE_MARKER] = {EXIT_BAD_FILE, "{path}: is not a memory, a place and a text", KEY,
                                "for example  marker: eeprom 0x1F0 NODE-C"},
    [CM_ERROR_RECIPE_SUPPLY] = {EXIT_BAD_FILE, "{path}: this is no supply", KEY,
                                "for example 5V, or 4.5V to 5.5V"},
    [CM_ERROR_RECIPE_FEED] = {EXIT_BAD_FILE, "{path}: this is no supply to feed a board with", KEY,
                              "for example  feed: 3.3V"},
    [CM_ERROR_RECIPE_POWER_CYCLE] = {EXIT_BAD_FILE, "{path}: the supply cannot be switched off so",
                                     KEY, "yes or no, and with yes the key 'feed', too"},
    [CM_ERROR_RECIPE_CLOCK] = {EXIT_BAD_FILE, "{path}: this is no frequency", KEY,
                               "for example 16MHz"},
    [CM_ERROR_RECIPE_ENTER] = {EXIT_BAD_FILE, "{path}: no such way into a loader", KEY,
                               "one of: reset-vector"},
    [CM_ERROR_RECIPE_KNOWN] = {EXIT_BAD_FILE, "{path}: no such choice for a known unit", KEY,
                               "one of: leave, again, new"},
    [CM_ERROR_RECIPE_ENTER_ALONE] = {EXIT_BAD_FILE,
                                     "{path}: this needs a loader and an application", KEY,
                                     "name both under flash, the loader first"},
    [CM_ERROR_RECIPE_NUMBERS] = {EXIT_BAD_FILE, "{path}: this is no series of numbers", KEY,
                                 "for example  numbers: strike-node 1 to 9999"},
    [CM_ERROR_RECIPE_UNIT] = {EXIT_BAD_FILE,
                              "{path}: is not a memory, a place, a format and a value", KEY,
                              "for example  eeprom 0x1E0 u32-little number; docs/recipe.md has "
                              "all of them"},
    [CM_ERROR_UNIT_NUMBER] = {EXIT_USAGE, "the recipe gives each unit a number", "{where}{text}",
                              "--number N gives one by hand; --ledger FILE gives them out"},
    [CM_ERROR_UNIT_VALUE] = {EXIT_BAD_FILE, "{path}: a value of this unit does not fit",
                             LINE "{text}: '{detail}'", "choose a wider format, or mend the value"},
    [CM_ERROR_UNIT_COLUMN] = {EXIT_BAD_FILE, "{path}: this unit has no value called '{key}'",
                              LINE "{text}; it has {detail}",
                              "name one of these, or give the file of numbers such a column"},
    [CM_ERROR_UNIT_PLACE] =
        {EXIT_BAD_FILE, "{path}: this chip has no such place", LINE "{text}",
         "a memory of the chip, and an address in it or a symbol of an ELF file "
         "of the recipe"},
    [CM_ERROR_UNIT_SUM] = {EXIT_BAD_FILE,
                           "{path}: a checksum over bytes that the recipe does not write",
                           LINE "nothing is written to {address}",
                           "let the sum cover what files and entries of the recipe fill"},
    [CM_ERROR_NUMBERS_FILE] = {EXIT_BAD_FILE, "{path}: is no file of numbers", LINE "{detail}",
                               "a first row with the columns' names, one of them 'number'; then a "
                               "row for each unit"},
    [CM_ERROR_NUMBERS_END] = {EXIT_REFUSED, "all numbers of this series are given out", "{text}",
                              "widen 'numbers' in the recipe"},
    [CM_ERROR_NUMBER_RANGE] = {EXIT_REFUSED, "the series {key} has no number {text}", "{detail}",
                               "another number, or widen 'numbers' in the recipe"},
    [CM_ERROR_NUMBER_TAKEN] =
        {EXIT_REFUSED, "number {text} is being given to a unit", "{detail}",
         "wait for that unit's end; if the station died over it, nobody knows "
         "which unit holds the number: give this one another"},
    [CM_ERROR_LEDGER] = {EXIT_BAD_FILE, "the ledger {path} cannot be used", "{detail}",
                         "--ledger names a file of its own, or postgresql://..."},
    [CM_ERROR_LEDGER_AWAY] = {EXIT_NO_PORT, "the ledger's server does not answer", "{detail}",
                              "see to the network; what was made is kept here until it answers"},
    [CM_ERROR_UNIT_TEXT] = {EXIT_BAD_FILE, "the ledger cannot hold the {key}", "{text}",
                            "{detail}; nothing was changed"},
    [CM_ERROR_LEDGER_NEWER] = {EXIT_BAD_FILE, "the ledger {path} was made by a newer coldmint",
                               "{detail}", "use that one"},
    [CM_ERROR_FIELDS] = {EXIT_BAD_FILE, "{path}: this map of fields cannot be used", "{detail}",
                         "docs/fields.md has an example"},
    [CM_ERROR_FIELD_NAME] = {EXIT_USAGE, "the map has no field of this name", "{text}",
                             "NAME=VALUE, with one of: {detail}"},
    [CM_ERROR_FIELD_VALUE] = {EXIT_USAGE, "the field cannot be that", "{text}", "{detail}"},
    [CM_ERROR_BLOCK_SUM] = {EXIT_REFUSED, "refused: the block on the chip has a wrong checksum",
                            "{path}",
                            "it is another block, or a damaged one; --anyway takes it as it is"},
    [CM_ERROR_RECIPE_ALLOW] = {EXIT_BAD_FILE, "{path}: this part has no such setting", KEY,
                               "'coldmint tune' lists them"},

    [CM_ERROR_SETTING_FORM] = {EXIT_USAGE, "not a choice", "{where}'{text}' has no '='",
                               "write NAME=WORD, for example clock-divide=by-1"},
    [CM_ERROR_SETTING_NAME] = {EXIT_USAGE, "{part} has no setting of this name", "{where}{text}",
                               "one of: {names}"},
    [CM_ERROR_SETTING_CHOICE] = {EXIT_USAGE, "{setting} has no such choice on {part}",
                                 "{where}{text}", "one of: {choices}"},
    [CM_ERROR_FENCE] = {EXIT_REFUSED, "refused: {fence}", "{fenced}", "{fence-try}"},
    [CM_ERROR_BROWN_OUT] = {EXIT_REFUSED,
                            "refused: the brown-out detector would hold the chip in reset",
                            "the level would be {wanted1} V; the supply is {mv} V",
                            "nothing was changed; choose a level below the supply, or add --allow "
                            "brown-out"},

    [CM_ERROR_FOLDER] = {EXIT_BAD_FILE, "this is no folder that can be read", "{path}",
                         "--from FOLDER: with recipes (.yaml) and capsules (.mint)"},
    [CM_ERROR_OTHER_BOARD] = {EXIT_WRONG_CHIP, "this is another board than it is for",
                              "{key} at {hex} reads \"{text}\"; {wanter} wants {detail}",
                              "nothing was changed; 'mint --from FOLDER' lists what is for this "
                              "board. If the marker is wrong, write it again with 'put --region'"},
    [CM_ERROR_WHICH_BOARD] = {EXIT_REFUSED, "which board is this?", "{detail}",
                              "the chip has no marker that tells: --board NAME says it"},
    [CM_ERROR_TITLE] = {EXIT_USAGE, "no recipe has this title", "{text}",
                        "'coldmint mint --from FOLDER' lists what fits"},
    [CM_ERROR_TITLE_NOT_HERE] = {EXIT_USAGE, "there is no such recipe for this chip and board",
                                 "{detail}", "'coldmint mint --from FOLDER' lists what fits"},

    [CM_ERROR_OVERLAP] = {EXIT_BAD_FILE, "two files want the same bytes",
                          "{path} and {other} both have bytes at {address}",
                          "put them one after the other, or join them first"},
    [CM_ERROR_MISFIT] = {EXIT_REFUSED, "refused: {path} cannot be a program for {chip}", "{misfit}",
                         "look for the right file ('coldmint image info' tells which chips one can "
                         "be for); --anyway writes it all the same"},
    [CM_ERROR_TOO_MANY_FILES] = {EXIT_USAGE, "too many files at once", "{path}", "{limit} at most"},
    [CM_ERROR_MARKER_REGION] = {EXIT_BAD_FILE,
                                "the marker is in a memory that this chip does not have", "{text}",
                                "marker: eeprom 0x1F0 TEXT"},
    [CM_ERROR_JOIN_VECTOR] = {EXIT_BAD_FILE, "the reset vector cannot lead into the loader", JOIN,
                              "the loader comes first under 'flash'; the application must begin "
                              "with an rjmp at 0"},
    [CM_ERROR_JOIN_JUMP] = {EXIT_BAD_FILE, "the application reaches into the loader's jump", JOIN,
                            "make it smaller"},
    [CM_ERROR_SUPPLY] = {EXIT_REFUSED, "refused: the supply is not what the board wants",
                         "{mv} V measured; {wanter} wants {wanted} to {limit-mv} V",
                         "nothing was changed; set the supply right"},
    [CM_ERROR_BOOT_UNREADABLE] = {EXIT_PROTECTED, "the boot loader cannot be kept",
                                  "lock bits prevent reading it",
                                  "nothing was changed; --lose-boot gives it up"},
    [CM_ERROR_BOOT_TWICE] = {EXIT_BAD_FILE,
                             "the file holds a boot section, and --keep-boot keeps the chip's",
                             "both want the end of the flash",
                             "leave --keep-boot out, or take a file without it"},
    [CM_ERROR_BOOT_LOST] = {EXIT_REFUSED, "refused: it would erase a boot loader in use",
                            "the boot-reset fuse points to {address}, and {boot}; the pages need a "
                            "chip erase",
                            "nothing was changed; --keep-boot carries it over, --lose-boot gives "
                            "it up"},

    [CM_ERROR_LOADER_LOST] =
        {EXIT_REFUSED, "refused: it would lose a boot loader in use",
         "the word at reset leads to {address}, where a loader is that goes on "
         "to the application",
         "nothing was changed; --keep-boot carries it over and joins the "
         "application to it, --lose-boot gives it up"},
    [CM_ERROR_NO_BACKUP] =
        {EXIT_BAD_FILE, "there is nothing to go back to",
         "no backup of such a chip in {path}; a command that loses nothing keeps nothing",
         "'coldmint undo --list' lists what there is"},
    [CM_ERROR_UNDONE] = {EXIT_REFUSED, "every change on record has been undone already", "{path}",
                         "'coldmint undo --list' lists all backups; 'coldmint put' takes any of "
                         "them"},
    [CM_ERROR_BEFORE_BLANK] = {EXIT_REFUSED, "before the last change the chip was blank",
                               "so there was nothing to keep", "'coldmint erase' makes it blank"},
    [CM_ERROR_OTHER_HANDS] = {EXIT_REFUSED,
                              "refused: the chip is not as the last command on record left it",
                              "{hands}",
                              "nothing was changed; --anyway goes back to the newest backup all "
                              "the same, and keeps what is there now first"},
};

/* --- places in the texts ----------------------------------------------------------------- */

static void list_kinds(const struct tool *tool, char *text, size_t room)
{
    size_t used = 0;
    for (const struct cm_port_kind *const *kind = tool->host.ports; *kind && used < room; kind++)
        used += (size_t)snprintf(text + used, room - used, "%s%s", used ? ", " : "", (*kind)->form);
}

static void explain_records(const struct cm_error *error, char *text, size_t room)
{
    int used = snprintf(text, room, "line %u, column %u: %s", (unsigned)error->line,
                        (unsigned)error->column, cm_record_fault_word(error->record));
    if (used < 0 || (size_t)used >= room)
        return;
    if (error->record == CM_RECORD_CHECKSUM)
        snprintf(text + used, room - (size_t)used, ": it says %02X, its bytes need %02X",
                 (unsigned)error->found, (unsigned)error->expected);
    else if (error->record == CM_RECORD_SINK && error->status == CM_BAD_IMAGE)
        snprintf(text + used, room - (size_t)used,
                 ": address 0x%04X is set twice; before that by the bytes from line %u on",
                 (unsigned)error->address, (unsigned)error->other_line);
}

/* The file and line of a choice, where a recipe makes it. */
static void where_text(const struct cm_error *error, char *text, size_t room)
{
    if (error->path[0])
        snprintf(text, room, "%.180s, line %u: ", error->path, (unsigned)error->line);
}

static void hands_text(const struct cm_error *error, char *text, size_t room)
{
    if (strcmp(error->text, "settings") == 0)
        snprintf(text, room, "its settings are others");
    else if (error->text[0])
        snprintf(text, room, "%.40s differs, first in the bytes from 0x%04X on", error->text,
                 (unsigned)error->address);
    else
        snprintf(text, room, "no command on record has changed such a chip");
}

static void id_in_words(const uint8_t *id, char *text, size_t room)
{
    snprintf(text, room, "%02X %02X %02X", id[0], id[1], id[2]);
}

/* Words that are numbers; false: it is none of these. */
static bool number_text(const struct cm_error *error, const char *word, char *text, size_t room)
{
    const struct {
        const char *word, *format;
        uint32_t value;
    } NUMBERS[] = {{"line", "%u", error->line},           {"column", "%u", error->column},
                   {"address", "0x%04X", error->address}, {"hex", "0x%X", error->address},
                   {"limit", "%u", error->limit},         {"found4", "0x%04X", error->found}};
    for (size_t i = 0; i < sizeof NUMBERS / sizeof NUMBERS[0]; i++) {
        if (strcmp(NUMBERS[i].word, word) != 0)
            continue;
        const char *format = NUMBERS[i].format;
        if (strcmp(format, "%u") == 0)
            snprintf(text, room, "%u", (unsigned)NUMBERS[i].value);
        else if (strcmp(format, "0x%X") == 0)
            snprintf(text, room, "0x%X", (unsigned)NUMBERS[i].value);
        else
            snprintf(text, room, "0x%04X", (unsigned)NUMBERS[i].value);
        return true;
    }
    return false;
}

static bool volts_text(const struct cm_error *error, const char *word, char *text, size_t room)
{
    if (strcmp(word, "mv") == 0)
        snprintf(text, room, "%.2f", error->found_mv / 1000.0);
    else if (strcmp(word, "wanted") == 0)
        snprintf(text, room, "%.2f", error->expected_mv / 1000.0);
    else if (strcmp(word, "wanted1") == 0)
        snprintf(text, room, "%.1f", error->expected_mv / 1000.0);
    else if (strcmp(word, "limit-mv") == 0)
        snprintf(text, room, "%.2f", error->limit_mv / 1000.0);
    else
        return false;
    return true;
}

/* Words that are texts of the record; NULL: it is none of these. */
static const char *own_text(const struct tool *tool, const char *word)
{
    const struct cm_error *error = &tool->host.error;
    const struct {
        const char *word, *text;
    } TEXTS[] = {
        {"path", error->path},
        {"other", error->other_path},
        {"key", error->key},
        {"text", error->text},
        {"detail", error->detail},
        {"system", error->system == EISDIR ? "it is a folder" : strerror(error->system)},
        {"disk", disk_advice(error->system)},
        {"kind", error->port_kind ? error->port_kind->what : ""},
        {"hint", error->port_kind ? error->port_kind->hint : ""},
        {"part", error->part ? error->part->name : ""},
        {"boot", error->readable ? "there is code there" : "lock bits hide what is there"}};
    for (size_t i = 0; i < sizeof TEXTS / sizeof TEXTS[0]; i++) {
        if (strcmp(TEXTS[i].word, word) == 0)
            return TEXTS[i].text;
    }
    return NULL;
}

static void place_text(const void *context, const char *word, char *text, size_t room)
{
    enum { MOST = 300 };
    const struct tool *tool = context;
    const struct cm_error *error = &tool->host.error;
    const char *own = own_text(tool, word);
    if (own)
        snprintf(text, room, "%.*s", MOST, own);
    else if (number_text(error, word, text, room) || volts_text(error, word, text, room))
        return;
    else if (strcmp(word, "id") == 0)
        id_in_words(error->id_found, text, room);
    else if (strcmp(word, "id-wanted") == 0)
        id_in_words(error->id_expected, text, room);
    else if (strcmp(word, "chip") == 0)
        snprintf(text, room, "%s", chip_name(tool));
    else if (strcmp(word, "kinds") == 0)
        list_kinds(tool, text, room);
    else if (strcmp(word, "record") == 0)
        explain_records(error, text, room);
    else if (strcmp(word, "capsule") == 0 && error->capsule == CM_CAPSULE_CHECKSUM)
        snprintf(text, room,
                 "its checksum is wrong, and no part's: the change is beside the "
                 "contents, in what is said of them");
    else if (strcmp(word, "capsule") == 0)
        snprintf(text, room, "%s%s, near byte %u of %u", cm_capsule_fault_word(error->capsule),
                 error->detail, (unsigned)error->address, (unsigned)error->limit);
    else if (strcmp(word, "where") == 0)
        where_text(error, text, room);
    else if (strcmp(word, "wanter") == 0)
        snprintf(text, room, error->line ? "line %u of the recipe" : "the capsule",
                 (unsigned)error->line);
    else if (strcmp(word, "misfit") == 0)
        misfit_text(&error->misfit, text, room);
    else if (strcmp(word, "hands") == 0)
        hands_text(error, text, room);
    else
        settings_place_text(tool, error, word, text, room);
}

/* The code of the row; where a file makes the mistake, or the board is known, another. */
static enum exit_code code_of(const struct cm_error *error, const struct row *row)
{
    bool is_setting =
        error->kind >= CM_ERROR_SETTING_FORM && error->kind <= CM_ERROR_SETTING_CHOICE;
    if (!row->what || (is_setting && error->path[0]))
        return EXIT_BAD_FILE;
    return error->kind == CM_ERROR_TITLE_NOT_HERE && error->key[0] ? EXIT_WRONG_CHIP : row->code;
}

enum exit_code tool_fail_host(struct tool *tool)
{
    const struct cm_error *error = &tool->host.error;
    const struct row *row = &ROWS[error->kind];
    struct words *words = &tool->words;
    if (error->kind == CM_ERROR_SESSION || error->kind == CM_ERROR_READS_DIFFER) {
        enum exit_code code = tool_fail(tool, error->status);
        return error->kind == CM_ERROR_SESSION
                   ? code
                   : tool_fail_as(tool, EXIT_CONTACT_LOST, "two reads of the chip do not agree",
                                  words->evidence,
                                  "nothing was changed; seat the clip again and repeat");
    }
    words->code = code_of(error, row);
    fill_in(row->what ? row->what : "this failed", place_text, tool, words->what,
            sizeof words->what);
    fill_in(row->evidence ? row->evidence : "", place_text, tool, words->evidence,
            sizeof words->evidence);
    fill_in(row->advice ? row->advice : "", place_text, tool, words->try, sizeof words->try);
    return words->code;
}
