/**
 * Image files: Intel HEX, S-records, ELF, raw bytes. The format is found out from the content; a
 * file is parsed once, for all regions of a chip.
 *
 *     struct cm_image_file file;
 *     struct cm_image_part part;
 *     if (cm_image_file_load(&host, "node.elf", &file) &&
 *         cm_image_file_part(&host, &file, &session, CM_REGION_MAIN, &part))
 *         want = (struct cm_want){CM_REGION_MAIN, part.source};
 *     ...
 *     cm_image_file_free(&file);
 *
 * To add a format: a file with its row, and the row in cm_all_formats.
 */
#ifndef COLDMINT_HOST_IMAGE_FILE_H
#define COLDMINT_HOST_IMAGE_FILE_H

#include <coldmint/decls.h>
#include <coldmint/host/files.h>
#include <coldmint/image.h>
#include <coldmint/place.h>

CM_DECLS_BEGIN

struct cm_image_file;
struct cm_image_writer;

enum { CM_FORMAT_EXTENSIONS = 5 };

/** A format of image files. */
struct cm_file_format {
    /** As it is asked for: "hex". */
    const char *name;
    /** For people: "Intel HEX". */
    const char *title;
    /** With their dots, the usual one first; the rest NULL. */
    const char *extensions[CM_FORMAT_EXTENSIONS];
    /** Does a file that begins so have this format? NULL: nothing tells. */
    bool (*is_one)(const char *head, size_t bytes);
    /** Fills in `file` from the whole contents. NULL: the bytes are read where they lie. */
    bool (*read)(struct cm_host *host, struct cm_image_file *file, char *contents, size_t bytes);
    /** Writes bytes in ascending order; and the end. NULL: this format is only read. */
    enum cm_status (*write)(struct cm_image_writer *writer, uint32_t address, const uint8_t *bytes,
                            uint32_t count);
    enum cm_status (*write_end)(struct cm_image_writer *writer);
    /** Its addresses are always a linker's: what is not at a region's address is not for it. */
    bool always_placed;
};

/** All formats, ended by NULL. What none of the others is, and no text, is raw bytes:
 * cm_format_raw. */
extern const struct cm_file_format *const cm_all_formats[];
extern const struct cm_file_format cm_format_hex, cm_format_srec, cm_format_elf, cm_format_raw;

/** A format by its name, or by the extension of a path; NULL: there is none. */
const struct cm_file_format *cm_format_by_name(const struct cm_host *host, const char *name);
const struct cm_file_format *cm_format_by_extension(const struct cm_host *host, const char *path);

/** `asked` into `path`, with the extension if it has none. */
void cm_name_with_extension(char *path, size_t bytes, const char *asked, const char *extension);

/** A file that was read. `path` is the caller's. */
struct cm_image_file {
    const char *path;
    const struct cm_file_format *format;
    /** All that is in it, at its own addresses. */
    struct cm_source source;
    /** Where the program begins, as the file says. */
    bool has_entry;
    uint32_t entry;
    /** Of an ELF file: its processor (System V ABI, e_machine). */
    uint16_t machine;
    /** The id of the chip that it was made for, if it carries one; 0 bytes: none. */
    uint8_t id[CM_ID_BYTES];
    uint8_t id_bytes;
    /** SHA-256 (FIPS 180-4) of a file that was parsed; see cm_image_file_digest. */
    uint8_t digest[CM_DIGEST_BYTES];
    /* What stands behind the source; NULL where it is not that. */
    struct cm_image image;
    void *memory;
    struct cm_file_reader *reader;
};

/** What a file holds for one region. */
struct cm_image_part {
    /** Addresses count from 0. */
    struct cm_source source;
    uint32_t first, last;
    /** 0: nothing; the source is empty then. */
    uint32_t bytes;
    /** The addresses in the file are a linker's, and some lie in the region. */
    bool is_placed;
    struct cm_placed placed;
};

/** Reads a file. Errors: CM_ERROR_FILE_... Free `file` in any case. */
CM_MUST_CHECK bool cm_image_file_load(struct cm_host *host, const char *path,
                                      struct cm_image_file *file);
void cm_image_file_free(struct cm_image_file *file);

/** SHA-256 of the whole file as it was when it was loaded (CM_DIGEST_BYTES). False: it has changed
 * since then, or cannot be read. */
CM_MUST_CHECK bool cm_image_file_digest(const struct cm_image_file *file, uint8_t *digest);

/**
 * What the file holds for a region of the session's part. `part` and `file` outlive the source.
 * Errors: CM_ERROR_FILE_OTHER_CHIP (it carries another chip's id), CM_ERROR_FILE_PROCESSOR.
 */
CM_MUST_CHECK bool cm_image_file_part(struct cm_host *host, struct cm_image_file *file,
                                      const struct cm_session *session, uint8_t region,
                                      struct cm_image_part *part);

/**
 * The same without a chip, by the region's name: of an ELF file by the addresses that the family of
 * its processor has. Of other files, and other processors' main region: all that is in it.
 */
void cm_image_file_part_by_name(const struct cm_host *host, struct cm_image_file *file,
                                const char *region, struct cm_image_part *part);

/** First and last address of a source, and how many bytes it has; false where it is empty. */
bool cm_source_bounds(const struct cm_source *source, uint32_t *first, uint32_t *last,
                      uint64_t *bytes);

/** Are there bytes at addresses of other regions, beside those of this part? */
bool cm_image_file_has_more(const struct cm_image_file *file, const struct cm_image_part *part);

/**
 * Why an image cannot be a program for a part, as far as its first words tell: vectors of another
 * processor, or of a larger or smaller part. `misfit` is CM_FITS where nothing speaks against it.
 */
void cm_program_misfit(const struct cm_source *source, const struct cm_kit *kit,
                       const struct cm_part *part, struct cm_misfit *misfit);

/** What an image's own bytes say about it. */
struct cm_image_traits {
    /** Bytes from address 0 on. */
    uint64_t reaches;
    bool is_avr, is_arm;
    /** Words of each vector, 1 or 2; 0: does not show. */
    uint8_t vector_words;
    /** Address that the reset vector leads to. */
    uint32_t target;
    uint8_t id[CM_ID_BYTES], id_bytes;
};
void cm_image_look(const struct cm_image_file *file, const struct cm_source *source,
                   struct cm_image_traits *traits);

/** The same question for everything that is known of an image: its size and its id, too. */
void cm_image_misfit(const struct cm_image_traits *traits, const struct cm_kit *kit,
                     const struct cm_part *part, struct cm_misfit *misfit);

/* --- to write ---------------------------------------------------------------------------- */

/** An image file in the making. */
struct cm_image_writer {
    const struct cm_file_format *format;
    FILE *stream;
    struct cm_record_writer records;
    /** Address behind the last byte; of raw bytes, gaps are filled with FF from there. */
    uint32_t at;
    bool has_begun;
};

/** Begins to write in a format that can be written. */
void cm_image_write_begin(struct cm_image_writer *writer, const struct cm_file_format *format,
                          FILE *stream);

/** Bytes in ascending order. CM_BAD_IMAGE: the stream does not take them (errno). */
CM_MUST_CHECK enum cm_status cm_image_write(struct cm_image_writer *writer, uint32_t address,
                                            const uint8_t *bytes, uint32_t count);
CM_MUST_CHECK enum cm_status cm_image_write_end(struct cm_image_writer *writer);

CM_DECLS_END

#endif
