/**
 * Settings: the named bit fields of a chip (fuses, lock bits), in plain words.
 *
 * A chip's settings are a handful of bytes; cm_read_settings reads them. A *setting* is a field of
 * up to 32 bits in them: it has a name ("clock") and choices ("internal-8MHz"). A value that no
 * table of the data sheet names is written as its bits: "bits-0101"; a wide one as a number.
 *
 *     uint8_t now[CM_SETTING_BYTES], wanted[CM_SETTING_BYTES];
 *     const struct cm_words *words = cm_words_of(&session);
 *     struct cm_fence fence;
 *     status = cm_read_settings(&session, now);
 *     memcpy(wanted, now, sizeof wanted);
 *     if (status == CM_OK)
 *         status = cm_choose(words, session.part, wanted, "clock", "internal-8MHz");
 *     if (status == CM_OK && !cm_next_fence(words, session.part, now, wanted, 0, &fence))
 *         status = cm_tune(&session, wanted, &tuned); // no fence: it cannot lock us out
 *
 * The words belong to a family and are linked only by a kit that names them: struct cm_kit, member
 * `words`. The first group below needs no chip.
 */
#ifndef COLDMINT_SETTINGS_H
#define COLDMINT_SETTINGS_H

#include <coldmint/decls.h>
#include <coldmint/session.h>

CM_DECLS_BEGIN

/** Most setting bytes that a part of any family has. A build for families with fewer may define it
 * smaller, the same for the library and for what uses it: AVR has 4. */
#ifndef CM_SETTING_BYTES
#define CM_SETTING_BYTES 20
#endif

/** Room for a choice's word, with its end. */
enum { CM_WORD_BYTES = 40 };

/** Why a choice is not made without being asked for by the setting's name. */
enum cm_fence_kind {
    CM_FENCE_NONE,
    CM_FENCE_ENDS_ACCESS, /**< the chip can no longer be programmed over these pins */
    CM_FENCE_NOT_HERE,    /**< cannot be changed over these pins at all */
    CM_FENCE_SOURCE,  /**< needs a clock source that may not be on the board; without it the chip is
                         deaf */
    CM_FENCE_LOCKS,   /**< bars later work; only a chip erase opens it */
    CM_FENCE_UNNAMED, /**< a value that the data sheet reserves or does not list */
    CM_FENCE_OPENS,   /**< a lock bit would have to become 1: only a chip erase does that */
    CM_FENCE_COUNT
};

/** What a clock choice needs on the board. */
enum cm_source_kind {
    CM_SOURCE_NONE,
    CM_SOURCE_CLOCK,
    CM_SOURCE_CRYSTAL,
    CM_SOURCE_WATCH_CRYSTAL,
    CM_SOURCE_RC
};

/** One choice of a setting. Tables of choices end with a row whose word is NULL. */
struct cm_choice {
    uint32_t value;    /**< of the setting's bits, the lowest first */
    uint8_t fence;     /**< enum cm_fence_kind */
    uint8_t source;    /**< enum cm_source_kind; choices of the same kind can be changed into each
                          other freely */
    uint8_t start;     /**< clock: which table the start-up bits have; the family's own numbering */
    const char *word;  /**< lower case, without blanks */
    const char *means; /**< the consequence, as a sentence's second half; or NULL */
    uint32_t amount;   /**< clock: Hz, 0 is the board's; brown-out level: mV; boot section: bytes */
};

/** A setting of a part. Texts and tables live as long as the program. */
struct cm_setting {
    const char *name; /**< lower case, without blanks */
    const char *bits; /**< the data sheet's name of the field */
    uint8_t byte;     /**< the setting byte that has its lowest bits */
    uint32_t mask;    /**< its bits in that and the three behind it, the lowest byte first */
    const struct cm_choice *const *choices; /**< tables of choices, ended by NULL */
};

/** Where a setting byte lives. */
struct cm_setting_byte {
    const char *name; /**< "low fuse" */
    uint8_t region;
    uint32_t address;
    uint8_t named;   /**< bits that have a name; the others stay as they are read */
    bool only_falls; /**< bits go from 1 to 0, and back by a chip erase only */
};

/** A family's settings: byte `index` and setting `index` of a part; false beyond the last. */
struct cm_words {
    bool (*byte)(const struct cm_part *part, uint8_t index, struct cm_setting_byte *out);
    /** `bytes` are those that the setting is read from: what start-up bits mean, say, depends on
     * the clock chosen. */
    bool (*setting)(const struct cm_part *part, const uint8_t *bytes, uint8_t index,
                    struct cm_setting *out);
    /** The CPU clock in Hz that the bytes give; where it comes from the board, `board_hz` counts,
     * and 0 is unknown. */
    uint32_t (*cpu_hz)(const struct cm_part *part, const uint8_t *bytes, uint32_t board_hz);
    /** The settings that choose the clock, as masks of each byte. They take effect when the chip
     * leaves programming mode. */
    uint8_t (*clock_mask)(const struct cm_part *part, uint8_t byte);
    /** The supply in mV below which the chip would be held in reset; 0: none. */
    uint16_t (*brown_out_mv)(const struct cm_part *part, const uint8_t *bytes);
    /** Bytes at the end of the main region that the chip runs after reset (a boot section in use);
     * 0: it runs from the start. */
    uint32_t (*boot_bytes)(const struct cm_part *part, const uint8_t *bytes);
    /** Microseconds that writing one setting byte takes. */
    uint32_t (*write_us)(const struct cm_part *part);
    uint32_t reenter_us; /**< and entering programming mode again */
};

/** The words of a family without settings: its kit names these where a program reads settings of
 * chips of all kinds. */
extern const struct cm_words cm_no_words;

/** The words of the session's family, or NULL where its kit names none. */
const struct cm_words *cm_words_of(const struct cm_session *session);

/** The same for a part that is not in a session: `kit` is the one that carries it. Number of
 * setting bytes. */
uint8_t cm_setting_byte_count(const struct cm_words *words, const struct cm_part *part);

/** How many bits a setting has. */
uint8_t cm_setting_width(const struct cm_setting *setting);

/** The value of a setting in the bytes, its bits packed from bit 0 up; and the way back. */
uint32_t cm_setting_value(const struct cm_setting *setting, const uint8_t *bytes);
void cm_set_setting(const struct cm_setting *setting, uint8_t *bytes, uint32_t value);

/** The choice that has this value, or NULL where the data sheet names none. */
const struct cm_choice *cm_setting_choice(const struct cm_setting *setting, uint32_t value);

/** The word for a value; where there is no other "bits-01", and of a setting of more than 8 bits
 * "0x00FF". Returns `text` (CM_WORD_BYTES). */
const char *cm_setting_word(const struct cm_setting *setting, uint32_t value, char *text);

/** A setting by name, or false. */
bool cm_setting_by_name(const struct cm_words *words, const struct cm_part *part,
                        const uint8_t *bytes, const char *name, struct cm_setting *out);

/**
 * Makes a choice in the bytes. Where the meaning of another setting depends on this one (a start-up
 * time on the clock), that one keeps its word, or gets the last of the words it has now, which is
 * the slowest. So choose in the order in which the settings are numbered. CM_BAD_ARGUMENT: no
 * setting of that name, or CM_DIFFERS: the setting has no such choice. Nothing is changed then.
 */
CM_MUST_CHECK enum cm_status cm_choose(const struct cm_words *words, const struct cm_part *part,
                                       uint8_t *bytes, const char *name, const char *word);

/** A change that is fenced. */
struct cm_fence {
    enum cm_fence_kind kind;
    uint8_t index; /**< of the setting */
    struct cm_setting setting;
    uint32_t value; /**< that was wanted */
};

/** The first fenced change between two states at or after setting `from`; false where there is
 * none. */
bool cm_next_fence(const struct cm_words *words, const struct cm_part *part, const uint8_t *before,
                   const uint8_t *after, uint8_t from, struct cm_fence *fence);

/* --- with a chip ------------------------------------------------------------------------- */

/** What cm_tune did. */
struct cm_tune_report {
    uint8_t before[CM_SETTING_BYTES];
    uint8_t after[CM_SETTING_BYTES];
    uint8_t written; /**< bytes that were written */
    bool reentered;  /**< a changed clock was proven by entering programming mode again */
    uint32_t cpu_hz; /**< the clock then; 0: the board's */
};

/** Reads all setting bytes of the chip, each twice. Errors: CM_PORT_LACKS (the kit names no words),
 * CM_CONTACT_LOST. */
CM_MUST_CHECK enum cm_status cm_read_settings(struct cm_session *session, uint8_t *bytes);

/**
 * Makes the chip's settings those bytes: writes what differs (where settings lie in a region with
 * an erase of its own, by a put into that region), reads it back, and where the clock changed
 * enters programming mode again and reads once more. Reserved bits stay as they are. The caller
 * checks fences first (cm_next_fence): this does as it is told.
 *
 * Errors: CM_PROTECTED (lock bits forbid it; nothing changed), CM_REFUSED (other parts with this id
 * have other fuses, and none was asserted; nothing changed), CM_SUPPLY_OUTSIDE, CM_WRITE_FAILED,
 * CM_CONTACT_LOST, CM_NO_CHIP (the new clock does not run), CM_IN_DOUBT (the settings are right,
 * but contact was bad for a moment: the contents may have changed).
 */
CM_MUST_CHECK enum cm_status cm_tune(struct cm_session *session, const uint8_t *wanted,
                                     struct cm_tune_report *report);

/** A boot section that the chip starts in after reset. */
struct cm_boot {
    uint32_t start; /**< in the main region */
    uint32_t bytes;
    bool in_use;   /**< the settings say that the chip starts there, and it is not blank */
    bool readable; /**< false: lock bits bar looking at it */
};

/** Finds a boot loader in use. Reads settings, and as much of the section as is needed to see
 * that it is not blank. */
CM_MUST_CHECK enum cm_status cm_find_boot(struct cm_session *session, struct cm_boot *boot);

/**
 * Learns the chip's own clock from its settings, and enters programming mode again where that
 * makes the bus 1.5 times as fast or more. An internal oscillator is taken to be a tenth slower
 * than its name; a clock from the board is `board_hz`, or stays unknown where that is 0. Where
 * session->cpu_hz is set there is nothing to learn: CM_OK. CM_PORT_LACKS where the kit names no
 * words.
 */
CM_MUST_CHECK enum cm_status cm_learn_clock(struct cm_session *session, uint32_t board_hz);

CM_DECLS_END

#endif
