/*
 * Files: images in, their format found out from the content; results out, whole or not at all.
 */
#include "image/image.h"
#include "tool.h"
#include <errno.h>
#include <fcntl.h>
#include <dirent.h>
#include <pwd.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <strings.h>
#include <sys/stat.h>
#include <time.h>
#include <unistd.h>

enum { MOST_FILE_BYTES = 256 << 20 };

static enum exit_code fail_file(struct tool *tool, const char *path, const char *what,
                                const char *evidence, const char *advice)
{
    char text[400];
    snprintf(text, sizeof text, "%.300s: %s", path, what);
    return tool_fail_as(tool, EXIT_BAD_FILE, text, evidence, advice);
}

/* --- folders ----------------------------------------------------------------------------- */

const char *stamp_text(char *text)
{
    time_t now = time(NULL);
    struct tm parts;
    strftime(text, SHORT_TEXT, "%Y%m%d-%H%M%S", gmtime_r(&now, &parts));
    return text;
}

/* The user's home, as the environment says it or the system knows it; NULL: neither. */
static const char *home_folder(void)
{
    const char *home = getenv("HOME");
    const struct passwd *user = home && *home ? NULL : getpwuid(getuid());
    return home && *home ? home : user ? user->pw_dir : NULL;
}

enum exit_code state_folder(struct tool *tool, const char *kind, char *folder)
{
    const char *state = getenv("XDG_STATE_HOME"), *home = home_folder();
    bool has_state = state && *state;
    if (!has_state && !home)
        return tool_fail_as(tool, EXIT_REFUSED, "there is no folder for backups",
                            "neither XDG_STATE_HOME nor HOME is set",
                            "set one of them; or --no-backup, if what the chip holds may be lost");
    int length = snprintf(folder, FOLDER_BYTES, "%s%s/coldmint/%s", has_state ? state : home,
                          has_state ? "" : "/.local/state", kind);
    if (length >= 0 && length < FOLDER_BYTES)
        return EXIT_GOOD;
    return tool_fail_as(tool, EXIT_REFUSED, "the folder for backups has too long a name",
                        has_state ? "XDG_STATE_HOME" : "HOME", "2000 characters are the most");
}

void make_folders(char *path)
{
    for (char *slash = strchr(path + 1, '/'); slash; slash = strchr(slash + 1, '/')) {
        *slash = '\0';
        mkdir(path, 0700); // what is kept here is firmware
        *slash = '/';
    }
}

static int compare_newest(const void *one, const void *other)
{
    return strcmp(*(char *const *)other, *(char *const *)one);
}

struct paths paths_in(const char *folder, const char *begin, const char *end)
{
    struct paths paths = {0};
    DIR *list = opendir(folder);
    for (struct dirent *item; list && (item = readdir(list)) != NULL;) {
        size_t length = strlen(item->d_name), first = strlen(begin), last = strlen(end);
        if (length < first + last || strncmp(item->d_name, begin, first) != 0 ||
            strcmp(item->d_name + length - last, end) != 0)
            continue;
        char **grown = realloc(paths.names, (paths.count + 1) * sizeof *grown),
             *path = malloc(strlen(folder) + length + 2);
        paths.names = grown ? grown : paths.names;
        if (!grown || !path) {
            free(path);
            break;
        }
        sprintf(path, "%s/%s", folder, item->d_name);
        paths.names[paths.count++] = path;
    }
    if (list)
        closedir(list);
    if (paths.count)
        qsort(paths.names, paths.count, sizeof *paths.names, compare_newest);
    return paths;
}

void paths_free(struct paths *paths)
{
    while (paths->count)
        free(paths->names[--paths->count]);
    free(paths->names);
    paths->names = NULL;
}

const char *disk_advice(int error)
{
    bool is_full = error == ENOSPC || error == EDQUOT || error == EFBIG;
    return is_full ? "make room on the disk; nothing that was there is lost"
                   : "check the folder and its rights";
}

/* --- names and formats ------------------------------------------------------------------- */

static const struct file_format FORMATS[] = {
    {"hex", {".hex", ".ihx", ".ihex", ".eep"}, CM_RECORDS_INTEL},
    {"srec", {".srec", ".s19", ".s28", ".s37", ".mot"}, CM_RECORDS_MOTOROLA},
    {"raw", {".bin", ".raw", ".rom", ".img"}, CM_RECORDS_UNKNOWN},
};
enum { FORMAT_COUNT = sizeof FORMATS / sizeof FORMATS[0] };

/* The extension of a path, from its dot on; NULL where the file's name has none. */
static const char *extension_of(const char *path)
{
    const char *slash = strrchr(path, '/');
    return strrchr(slash ? slash : path, '.');
}

void name_with_extension(char *path, size_t bytes, const char *asked, const char *extension)
{
    snprintf(path, bytes, "%s%s", asked, extension_of(asked) ? "" : extension);
}

const struct file_format *format_by_name(const char *name)
{
    for (int i = 0; i < FORMAT_COUNT; i++) {
        if (strcmp(FORMATS[i].name, name) == 0)
            return &FORMATS[i];
    }
    return NULL;
}

const struct file_format *format_by_extension(const char *path)
{
    const char *extension = extension_of(path);
    for (int i = 0; extension && i < FORMAT_COUNT; i++) {
        for (int e = 0; e < MOST_EXTENSIONS && FORMATS[i].extensions[e]; e++) {
            if (strcasecmp(FORMATS[i].extensions[e], extension) == 0)
                return &FORMATS[i];
        }
    }
    return NULL;
}

/* --- reading ----------------------------------------------------------------------------- */

enum exit_code file_read_whole(struct tool *tool, const char *path, char **contents, size_t *bytes)
{
    struct stat facts;
    int descriptor = file_open(path);
    FILE *file = descriptor >= 0 ? fdopen(descriptor, "rb") : NULL;
    if (!file && tool_interrupted)
        return tool_fail_as(tool, EXIT_INTERRUPTED, "stopped", path, "nothing was changed");
    if (!file || fstat(fileno(file), &facts) != 0) {
        const char *reason = errno == EISDIR ? "it is a folder" : strerror(errno);
        if (file)
            fclose(file);
        return fail_file(tool, path, "cannot be read", reason, "check the name");
    }
    size_t room = facts.st_size > 0 ? (size_t)facts.st_size + 1 : 65536, got = 0;
    *contents = NULL;
    for (;;) {
        char *grown = room <= MOST_FILE_BYTES ? realloc(*contents, room) : NULL;
        if (!grown)
            break;
        *contents = grown;
        got += fread(*contents + got, 1, room - got, file);
        if (got < room)
            break;
        room *= 2;
    }
    bool failed = ferror(file) || room > MOST_FILE_BYTES || !*contents;
    fclose(file);
    *bytes = got;
    if (!failed && got > 0)
        return EXIT_GOOD;
    free(*contents);
    *contents = NULL;
    return fail_file(tool, path, failed ? "cannot be read whole" : "is empty",
                     failed ? "more than 256 MiB, or a read error" : "0 bytes",
                     "build or copy the file again");
}

static bool is_text(const char *contents, size_t bytes)
{
    for (size_t i = 0; i < bytes && i < 4096; i++) {
        unsigned char c = (unsigned char)contents[i];
        if (c >= 0x7F || (c < ' ' && c != '\n' && c != '\r' && c != '\t'))
            return false;
    }
    return true;
}

static bool begins_as_records(const char *contents, size_t bytes)
{
    size_t i = 0;
    while (i < bytes && (contents[i] == ' ' || contents[i] == '\t' || contents[i] == '\r' ||
                         contents[i] == '\n'))
        i++;
    bool is_motorola = i + 1 < bytes && (contents[i] == 'S' || contents[i] == 's') &&
                       contents[i + 1] >= '0' && contents[i + 1] <= '9';
    return is_motorola || (i < bytes && contents[i] == ':');
}

static void explain_records(const struct cm_record_reader *reader, const struct cm_image *image,
                            char *evidence, size_t bytes)
{
    int used = snprintf(evidence, bytes, "line %u, column %u: %s", (unsigned)reader->line,
                        (unsigned)reader->column, cm_record_fault_word(reader->fault));
    if (used < 0 || (size_t)used >= bytes)
        return;
    if (reader->fault == CM_RECORD_CHECKSUM)
        snprintf(evidence + used, bytes - (size_t)used, ": it says %02X, its bytes need %02X",
                 reader->found, reader->expected);
    else if (reader->fault == CM_RECORD_SINK && reader->sink_status == CM_BAD_IMAGE)
        snprintf(evidence + used, bytes - (size_t)used,
                 ": address 0x%04X is set twice; before that by the bytes from line %u on",
                 (unsigned)image->clash_address, (unsigned)image->clash_line);
}

/* Reads the text into an image of so many blocks. CM_NO_ROOM asks for more. */
static enum cm_status try_records(struct image_file *file, const char *text, size_t bytes,
                                  size_t blocks, struct cm_record_reader *reader)
{
    free(file->memory);
    file->memory = malloc(CM_IMAGE_MEMORY(blocks));
    if (!file->memory)
        return CM_BAD_IMAGE;
    cm_image_init(&file->image, file->memory, CM_IMAGE_MEMORY(blocks));
    cm_record_begin(reader, cm_record_into_image, &file->image);
    cm_ignore(cm_record_feed(reader, text, bytes)); // the first fault stays, and ends it
    if (cm_record_end(reader) == CM_OK)
        return CM_OK;
    return reader->fault == CM_RECORD_SINK ? reader->sink_status : CM_BAD_IMAGE;
}

static enum exit_code load_records(struct tool *tool, struct image_file *file, const char *text,
                                   size_t bytes)
{
    struct cm_record_reader reader;
    char evidence[400];
    size_t blocks = bytes / CM_IMAGE_BLOCK / 2 + 64;
    enum cm_status status;
    while ((status = try_records(file, text, bytes, blocks, &reader)) == CM_NO_ROOM)
        blocks *= 2;
    if (!file->memory)
        return fail_file(tool, file->path, "does not fit into memory", "", "close other programs");
    if (status) {
        explain_records(&reader, &file->image, evidence, sizeof evidence);
        return fail_file(tool, file->path, "is not a whole file of Intel HEX or S-records",
                         evidence, "nothing was changed; build or copy the file again");
    }
    if (file->image.byte_count == 0)
        return fail_file(tool, file->path, "holds no data", "records, but no bytes",
                         "build the file again");
    file->format = reader.format == CM_RECORDS_MOTOROLA ? "S-records" : "Intel HEX";
    file->source = cm_image_source(&file->image);
    file->has_entry = reader.has_start;
    file->entry = reader.start;
    file->bytes = file->image.byte_count;
    cm_image_bounds(&file->image, &file->first, &file->last);
    return EXIT_GOOD;
}

/* Raw bytes are read where they lie: neither records, nor ELF, nor text that has been misnamed. */
static bool load_raw(struct image_file *file, const char *path, bool named_raw, bool named_records)
{
    char head[4096];
    file->reader = file_reader_open(path);
    uint32_t bytes = file->reader ? file_reader_bytes(file->reader) : 0,
             count = bytes < sizeof head ? bytes : (uint32_t)sizeof head;
    bool raw = count && file_reader_read(file->reader, 0, (uint8_t *)head, count) == CM_OK &&
               !named_records && !(count >= 4 && memcmp(head, "\177ELF", 4) == 0) &&
               !begins_as_records(head, count) && (named_raw || !is_text(head, count));
    if (!raw) {
        file_reader_close(file->reader);
        file->reader = NULL;
        return false;
    }
    file->source = file_reader_source(file->reader);
    file->format = "raw bytes";
    file->bytes = bytes;
    file->last = bytes - 1;
    return true;
}

/* A file of records may count from the region's base, as linkers do; an ELF file does. */
static void place(const struct tool *tool, struct image_file *file, const char *region)
{
    const struct cm_session *session = &tool->session;
    int index = session->part ? cm_region_by_name(session, region) : -1;
    if (index < 0)
        return;
    file->source =
        cm_place(&file->placed, file->source, session->family, session->part, (uint8_t)index);
    file->is_placed = file->source.context == &file->placed;
    if (strcmp(file->format, "ELF") == 0 && !file->is_placed)
        file->bytes = 0; // it has nothing for this region
    if (!file->is_placed)
        return;
    uint64_t bytes;
    (void)source_bounds(&file->source, &file->first, &file->last, &bytes);
    file->bytes = (uint32_t)bytes;
}

enum exit_code image_file_load(struct tool *tool, const char *path, const char *region,
                               struct image_file *file)
{
    char *contents = NULL;
    size_t bytes = 0;
    memset(file, 0, sizeof *file);
    file->path = path;
    const struct file_format *format = format_by_extension(path);
    bool named_raw = format && format->records == CM_RECORDS_UNKNOWN,
         named_records = format && !named_raw;
    if (load_raw(file, path, named_raw, named_records))
        return EXIT_GOOD;
    enum exit_code code = file_read_whole(tool, path, &contents, &bytes);
    if (code)
        return code;
    if (bytes >= 4 && memcmp(contents, "\177ELF", 4) == 0)
        code = elf_load(tool, file, contents, bytes, region);
    else if (begins_as_records(contents, bytes) || named_records)
        code = load_records(tool, file, contents, bytes);
    else
        code = fail_file(tool, path, "is text, but neither Intel HEX nor S-records",
                         "its first character is neither ':' nor S",
                         "if these really are the raw bytes, name the file with .bin");
    if (!code)
        place(tool, file, region);
    free(contents);
    return code;
}

void image_file_free(struct image_file *file)
{
    free(file->memory);
    file_reader_close(file->reader);
    file->memory = NULL;
    file->reader = NULL;
}

/* --- writing ----------------------------------------------------------------------------- */

static const char UNFINISHED[] = ".new-";

/* Is this the unfinished file of a process that is gone? */
static bool is_left_over(const char *path)
{
    const char *mark = strstr(path, UNFINISHED);
    for (const char *next = mark; next; next = strstr(next + 1, UNFINISHED))
        mark = next;
    char *end;
    long pid = mark ? strtol(mark + strlen(UNFINISHED), &end, 10) : 0;
    return mark && *end == '\0' && pid > 1 && kill((pid_t)pid, 0) != 0 && errno == ESRCH;
}

void remove_left_over(const char *folder, const char *begin)
{
    struct paths paths = paths_in(folder, begin, "");
    for (size_t i = 0; i < paths.count; i++) {
        if (is_left_over(paths.names[i]))
            unlink(paths.names[i]);
    }
    paths_free(&paths);
}

/* A command that was killed leaves its unfinished file behind: where its process is gone, nobody
 * needs it. */
static void remove_stale(const char *path)
{
    char folder[4200];
    const char *slash = strrchr(path, '/');
    snprintf(folder, sizeof folder, "%.*s", slash ? (int)(slash - path) : 1, slash ? path : ".");
    remove_left_over(slash == path ? "/" : folder, slash ? slash + 1 : path);
}

enum exit_code new_file_open(struct tool *tool, const char *path, struct new_file *file)
{
    char what[400];
    memset(file, 0, sizeof *file);
    file->exclusive = !tool->replace;
    if (strlen(path) > sizeof file->path - 40)
        return fail_file(tool, path, "has too long a name", "4000 characters are the most",
                         "give a shorter one");
    snprintf(file->path, sizeof file->path, "%s", path);
    snprintf(file->temporary, sizeof file->temporary, "%s%s%ld", file->path, UNFINISHED,
             (long)getpid());
    if (!tool->replace && access(path, F_OK) == 0) {
        snprintf(what, sizeof what, "refused: %.300s is there already", path);
        return tool_fail_as(tool, EXIT_REFUSED, what, "nothing is overwritten without being asked",
                            "give another name, or --replace");
    }
    remove_stale(path);
    int descriptor = open(file->temporary, O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC, 0666);
    file->stream = descriptor >= 0 ? fdopen(descriptor, "wb") : NULL;
    return file->stream ? EXIT_GOOD
                        : fail_file(tool, path, "cannot be written", strerror(errno),
                                    "check the folder and its rights");
}

enum cm_status new_file_text(void *stream, const char *text, size_t bytes)
{
    return fwrite(text, 1, bytes, stream) == bytes ? CM_OK : CM_BAD_IMAGE;
}

/* Gives the finished file its name. Two commands at once: one of them gets it, and the other is
 * told (EEXIST). */
static bool take_name(const struct new_file *file)
{
    if (!file->exclusive)
        return rename(file->temporary, file->path) == 0;
    if (link(file->temporary, file->path) == 0) {
        unlink(file->temporary);
        return true;
    }
    if (errno == EEXIST)
        return false;
    // a file system without links
    int place = open(file->path, O_WRONLY | O_CREAT | O_EXCL | O_CLOEXEC, 0666);
    if (place < 0)
        return false;
    close(place);
    return rename(file->temporary, file->path) == 0;
}

static bool finish(struct new_file *file)
{
    bool good = fflush(file->stream) == 0 && fsync(fileno(file->stream)) == 0;
    int error = errno;
    good = fclose(file->stream) == 0 && good;
    file->stream = NULL;
    errno = error;
    return good;
}

static enum exit_code fail_commit(struct tool *tool, struct new_file *file)
{
    char what[400];
    int error = errno;
    unlink(file->temporary);
    snprintf(what, sizeof what, "refused: %.300s is there already", file->path);
    if (error == EEXIST)
        return tool_fail_as(
            tool, EXIT_REFUSED, what,
            "another command has just written it; nothing is overwritten without being asked",
            "give another name, or --replace");
    return fail_file(tool, file->path, "cannot be written whole", strerror(error),
                     disk_advice(error));
}

enum exit_code new_file_commit(struct tool *tool, struct new_file *file)
{
    return finish(file) && take_name(file) ? EXIT_GOOD : fail_commit(tool, file);
}

enum exit_code new_file_commit_as(struct tool *tool, struct new_file *file, const char *stem,
                                  const char *extension)
{
    enum { MOST = 10000 };
    bool good = finish(file);
    file->exclusive = true;
    for (int i = 1; good && i < MOST; i++) {
        if (i == 1)
            snprintf(file->path, sizeof file->path, "%s%s", stem, extension);
        else
            snprintf(file->path, sizeof file->path, "%s-%d%s", stem, i, extension);
        if (take_name(file))
            return EXIT_GOOD;
        good = errno == EEXIST;
    }
    return fail_commit(tool, file);
}

void new_file_drop(struct new_file *file)
{
    if (!file->stream)
        return;
    fclose(file->stream);
    unlink(file->temporary);
    file->stream = NULL;
}
