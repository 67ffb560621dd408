/*
 * The folder for somebody who knows nothing of all this.
 */
#include "for_others.h"
#include "say.h"
#include "words/fail.h"
#include <ctype.h>
#include <errno.h>
#include <stdio.h>
#include <string.h>
#include <sys/stat.h>

/* "strike node" as a file's name: strike-node. */
static void file_name(const char *title, char *name, size_t room)
{
    size_t used = 0;
    for (; *title && used + 1 < room; title++) {
        bool is_plain = isalnum((unsigned char)*title);
        if (is_plain)
            name[used++] = (char)tolower((unsigned char)*title);
        else if (used && name[used - 1] != '-')
            name[used++] = '-';
    }
    while (used && name[used - 1] == '-')
        used--;
    name[used] = '\0';
    if (!used)
        snprintf(name, room, "unit");
}

enum exit_code for_others_folder(struct tool *tool, const char *folder,
                                 const struct cm_recipe *recipe, char *capsule, size_t room)
{
    char name[64];
    file_name(recipe->title.text, name, sizeof name);
    int length = snprintf(capsule, room, "%s/%s.mint", folder, name);
    if (length < 0 || (size_t)length >= room)
        return tool_fail_as(tool, EXIT_USAGE, "the folder has too long a name", folder,
                            "give a shorter one");
    if (mkdir(folder, 0777) == 0)
        return EXIT_GOOD;
    return tool_fail_as(
        tool, errno == EEXIST ? EXIT_REFUSED : EXIT_BAD_FILE,
        errno == EEXIST ? "refused: the folder is there already" : "the folder cannot be made",
        errno == EEXIST ? folder : strerror(errno), "give the name of a new folder");
}

static enum exit_code write_text(struct tool *tool, const char *folder, const char *name,
                                 const char *text, mode_t mode)
{
    char path[CM_FILE_PATH];
    struct cm_new_file file;
    snprintf(path, sizeof path, "%.4000s/%s", folder, name);
    if (!cm_new_file_open(&tool->host, path, &file))
        return tool_fail_host(tool);
    fputs(text, file.stream);
    if (mode)
        fchmod(fileno(file.stream), mode);
    return host_code(tool, cm_new_file_commit(&tool->host, &file));
}

/* A text of the recipe on one line, without control characters. */
static const char *plain(const char *text, char *out, size_t room)
{
    size_t used = 0;
    for (; text && *text && used + 1 < room; text++)
        out[used++] = iscntrl((unsigned char)*text) ? ' ' : *text;
    out[used] = '\0';
    return out;
}

/* What the recipe says goes into the page alone, never into the script. */
static enum exit_code write_page(struct tool *tool, const char *folder,
                                 const struct cm_recipe *recipe)
{
    char text[2000], title[CM_WORK_TITLE], version[CM_WORK_VERSION], board[CM_WORK_BOARD];
    plain(recipe->title.text, title, sizeof title);
    plain(recipe->version.text, version, sizeof version);
    plain(recipe->board.text, board, sizeof board);
    snprintf(
        text, sizeof text,
        "This folder makes a board a %s%s%s.\n"
        "Connect the programmer to this computer, and the board%s%s to the programmer.\n"
        "Open a terminal in this folder and type ./start, or double-click it.\n"
        "It says what it found, asks once, keeps a copy of what the board holds, and does it.\n"
        "When it says \"done\", take the board away; if it says anything else, send that to "
        "whoever gave you this.\n",
        title, *version ? ", version " : "", version, *board ? " " : "", board);
    return write_text(tool, folder, "README.txt", text, 0);
}

enum exit_code for_others_write(struct tool *tool, const char *folder,
                                const struct cm_recipe *recipe)
{
    char name[64], script[1000];
    file_name(recipe->title.text, name, sizeof name);
    snprintf(script, sizeof script,
             "#!/bin/sh\n"
             "# Makes one board from the capsule beside this file. The programmer is found by "
             "itself; --via names another.\n"
             "cd \"$(dirname \"$0\")\" || exit 1\n"
             "if ! command -v coldmint >/dev/null 2>&1; then\n"
             "    echo \"Cold Mint is not installed on this computer. Install the package "
             "coldmint, and start this again.\" >&2\n"
             "    exit 3\n"
             "fi\n"
             "exec coldmint mint %s.mint \"$@\"\n",
             name);
    enum exit_code code = write_page(tool, folder, recipe);
    return code ? code : write_text(tool, folder, "start", script, 0755);
}
