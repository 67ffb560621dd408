/*
 * Registers of a memory while they are lifted: in a capsule of the user's state folder, from before
 * they are written until they are back.
 *
 *     ~/.local/state/coldmint/lifted/w25q32-EF4016-1f0c9a42-20261123-101500-4711.mint
 *     (part, id, port, time, process)
 *
 * A command that is killed in between leaves the file; the next one on such a chip says so.
 */
#include "guard.h"
#include "capsule.h"
#include <glob.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

static void lifted_stem(const struct tool *tool, char *stem, size_t bytes)
{
    const struct cm_part *part = tool->session.part;
    char folder[2900], key[SHORT_TEXT];
    state_folder(folder, sizeof folder);
    snprintf(stem, bytes, "%s/lifted/%s-%02X%02X%02X-%s-", folder, part->name, part->id[0],
             part->id[1], part->id[2], tool_port_key(tool, key));
}

enum cm_status guard_save(void *context, const struct cm_guard *guard)
{
    struct tool *tool = context;
    struct new_file file;
    struct kept_facts facts;
    char stem[3000], stamp[SHORT_TEXT];
    lifted_stem(tool, stem, sizeof stem);
    snprintf(tool->lifted_path, sizeof tool->lifted_path, "%s%s-%ld.mint", stem, stamp_text(stamp), (long)getpid());
    make_folders(tool->lifted_path);
    enum exit_code code =
        capsule_keep(tool, tool->lifted_path, false, guard->registers, "registers, while protection is lifted", &file, &facts);
    if (!code)
        code = new_file_commit(tool, &file);
    if (code) {
        tool->lifted_path[0] = '\0';
        tool->hook_code = code;
        return CM_REFUSED;
    }
    file_hold(tool->lifted_path);
    say(tool, "guard", "status 0x%02X saved in a file, lifted for the job, and put back after it", guard->registers[0]);
    return CM_OK;
}

void guard_saved_end(struct tool *tool, bool are_back)
{
    if (tool->lifted_path[0] && are_back)
        unlink(tool->lifted_path);
    if (are_back)
        tool->lifted_path[0] = '\0';
}

void guard_tell_left_behind(struct tool *tool)
{
    char pattern[3100];
    glob_t found;
    if (!is_memory(tool->session.part))
        return;
    lifted_stem(tool, pattern, sizeof pattern - 10);
    strcat(pattern, "*.mint");
    if (glob(pattern, 0, NULL, &found) != 0)
        return;
    const char *path = found.gl_pathv[found.gl_pathc - 1];
    if (file_is_in_use(path)) { // by a command that is still at work
        globfree(&found);
        return;
    }
    say(tool, "note",
        "an earlier command was cut off with this chip's protection lifted; its registers are in a file. To put them back:");
    say(tool, "", "coldmint guard --restore %s", path);
    set_json(tool, "left_lifted", json_text(path));
    globfree(&found);
}

void guard_forget(struct tool *tool, const char *path)
{
    char stem[3000];
    lifted_stem(tool, stem, sizeof stem);
    if (strncmp(path, stem, strlen(stem)) == 0)
        unlink(path);
}
