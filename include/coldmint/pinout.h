/**
 * Pinouts: which pin of which package is what. For drawings and messages; a program that does not
 * ask carries none of it.
 */
#ifndef COLDMINT_PINOUT_H
#define COLDMINT_PINOUT_H

#include <coldmint/decls.h>
#include <coldmint/chip.h>

CM_DECLS_BEGIN

struct cm_guard;
struct cm_session;

enum cm_package_shape {
    CM_PACKAGE_DUAL,        /**< pins along two sides: DIP, SOIC */
    CM_PACKAGE_QUAD,        /**< along all four: QFP */
    CM_PACKAGE_CHIP_CARRIER /**< along all four, more of them on two, and pin 1 in the middle of the
                               upper side: PLCC-32 */
};

/** A package of a group of pin-compatible parts, seen from above. Pin 1 is at the upper left, or
 * where the shape says, counted against the clock. */
struct cm_pinout {
    const char *package; /**< "DIP-14" */
    enum cm_package_shape shape;
    uint8_t pins;
    const char *names; /**< of the pins from 1 on, separated by blanks; "PA6/MOSI" where it has a
                          part in programming */
    const char *parts; /**< names of the parts, separated by blanks */
};

/** What the last answer from the wires looked like (struct cm_failure, `answer`). */
enum cm_answer {
    CM_ANSWER_ANY,
    /** FF FF FF FF. */
    CM_ANSWER_ONES,
    /** 00 00 00 00. */
    CM_ANSWER_ZEROS,
    /** One value four times, with a single bit low. */
    CM_ANSWER_ONE_LOW,
    /** The last two bytes are the first two. */
    CM_ANSWER_TWICE
};

/**
 * A cause of a failure, as people who know the family tell it. Members that are NULL: there is
 * nothing to say beyond what the status says. In the texts {0} to {3} stand for the bytes of the
 * last answer, {tries} for how often was tried, {clocks} for the clocks tried, {device} for the I2C
 * address asked, {address}, {found} and {expected} for the failure's own.
 */
struct cm_cause {
    /** enum cm_status. */
    uint8_t status;
    /** enum cm_answer. */
    uint8_t answer;
    const char *what;
    const char *evidence;
    /** What to try. */
    const char *advice;
};

/** A fact of a part, for people. In the text {0} to {3} stand for the values; {0:k} is a thousandth
 * of one with a place behind the point, {0:kk} with two, and {0:x} is two hexadecimal digits. */
struct cm_fact {
    /** "boot"; "": one more line of the fact before. */
    const char *label;
    const char *text;
    uint32_t values[4];
    /** A text for {t}, or NULL. */
    const char *word;
};

/** A family in words, for people. A program that shows nothing carries none of it. */
struct cm_about {
    /** Kind of chip in words: "SPI flash". */
    const char *kind;
    /** For what processor its programs are: "AVR". NULL: it runs none, it is a memory. */
    const char *program;
    /** That processor's number in ELF files (System V ABI, e_machine); 0: none. */
    uint16_t elf_machine;
    /** The address in ELF files at which its toolchain leaves the id of the chip, last byte first;
     * 0 bytes: it does not. */
    uint32_t elf_id_at;
    uint8_t elf_id_bytes;
    /** Its failures' causes, the first that fits counts; the end has status CM_OK. NULL: none. */
    const struct cm_cause *causes;
    /** Packages of a part: number 0, 1, ...; NULL beyond the last, and at once where none is known.
     */
    const struct cm_pinout *(*pinout)(const struct cm_part *part, uint8_t number);
    /** cm_identify writes to such a chip to ask it for its id. Any other chip in its place would
     * take that for data: so name the chip, unless such a one is there for certain. */
    bool asks_by_writing;
    /** A bus on which nothing answers looks like such a chip: do not look for it without a name. */
    bool looks_like_nothing;
    /** Programmed with a supply and a voltage of their own, where the port has them. */
    bool wants_voltages;
    /** Describes a chip of which only the size is known, in the kit's `found`: so a part whose id
     * cannot be read can be used. NULL: there is no such part. */
    void (*describe_size)(struct cm_part *found, uint32_t bytes);
    /** Of an I2C family: the first of its eight addresses. */
    uint8_t first_device;
    /** For a boot loader on a part without a boot section, as cm_avr_lead_reset_to. NULL: there is
     * no such way. */
    bool (*lead_reset_to)(const struct cm_part *part, uint32_t loader, uint16_t *vector,
                          uint16_t *own_jump);
    /** And where the word at reset leads, as cm_avr_reset_leads_to. NULL as well. */
    bool (*reset_leads_to)(const struct cm_part *part, uint16_t vector, uint32_t *address);
    /** What its data sheet tells beside regions and erase units: number 0, 1, ...; false beyond the
     * last. NULL: nothing. */
    bool (*fact)(const struct cm_part *part, uint8_t number, struct cm_fact *out);
    /** Of a family with wants_voltages: the supply for programming in mV; 0: only read here. */
    uint16_t (*program_mv)(const struct cm_part *part);
    /** Data lines of the part on a parallel bus. */
    uint8_t (*data_lines)(const struct cm_part *part);
    /** Works out the registers that protect just this area, as cm_nor_guard_choose; and what
     * registers mean, as cm_nor_guard_mean. NULL: no area of such a chip can be chosen. */
    enum cm_status (*guard_choose)(const struct cm_part *part, struct cm_guard *guard,
                                   uint32_t first, uint32_t bytes);
    void (*guard_mean)(const struct cm_part *part, struct cm_guard *guard);
    /** Protection of all of the chip by a command that cannot be read back: as cm_par_protect and
     * cm_par_unprotect. NULL: there is none. */
    enum cm_status (*protect_data)(struct cm_session *session);
    enum cm_status (*unprotect_data)(struct cm_session *session);
    /** Sets the setting bytes (CM_SETTING_BYTES, all 00 before) to those of a new part. NULL: 00.
     */
    void (*delivered)(const struct cm_part *part, uint8_t *bytes);
};

/** Is a name one of a list's words? As in `parts` above. */
bool cm_pinout_lists(const char *list, const char *name);

/** All pinouts, for looking through: number 0, 1, ...; NULL beyond the last. */
const struct cm_pinout *cm_avr_pinout_row(uint16_t number);
const struct cm_pinout *cm_par_pinout_row(uint16_t number);

CM_DECLS_END

#endif
