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
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

/* Folder of registers while they are lifted, and the beginning of the names of this chip's. */
static enum exit_code lifted_place(struct tool *tool, char *folder, char *begin)
{
    const struct cm_part *part = tool->session.part;
    char key[SHORT_TEXT];
    snprintf(begin, NAME_BYTES, "%s-%02X%02X%02X-%s-", part->name, part->id[0], part->id[1],
             part->id[2], tool_port_key(tool, key));
    return state_folder(tool, "lifted", folder);
}

enum cm_status guard_save(void *context, const struct cm_guard *guard)
{
    struct tool *tool = context;
    struct new_file file;
    struct kept_facts facts;
    char folder[FOLDER_BYTES], begin[NAME_BYTES], stamp[SHORT_TEXT];
    enum exit_code code = lifted_place(tool, folder, begin);
    if (code) {
        tool->hook_code = code;
        return CM_REFUSED;
    }
    snprintf(tool->lifted_path, sizeof tool->lifted_path, "%s/%s%s-%ld.mint", folder, begin,
             stamp_text(stamp), (long)getpid());
    make_folders(tool->lifted_path);
    code = capsule_keep(tool, tool->lifted_path, false, guard->registers,
                        "registers, while protection is lifted", &file, &facts);
    if (!code)
        code = new_file_commit(tool, &file);
    if (code) {
        tool->lifted_path[0] = '\0';
        tool->hook_code = code;
        return CM_REFUSED;
    }
    file_hold(tool->lifted_path);
    say(tool, "guard", "status 0x%02X saved in a file, lifted for the job, and put back after it",
        guard->registers[0]);
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
    char folder[FOLDER_BYTES], begin[NAME_BYTES];
    struct words before = tool->words;
    if (!is_memory(tool->session.part))
        return;
    if (lifted_place(tool, folder, begin)) {
        tool->words = before; // where nothing can be kept, nothing was left
        return;
    }
    struct paths found = paths_in(folder, begin, ".mint");
    if (found.count &&
        !file_is_in_use(found.names[0])) { // else it is of a command that is still at work
        say(tool, "note",
            "an earlier command was cut off with this chip's protection lifted; its registers are "
            "in a file. To put them back:");
        say(tool, "", "coldmint guard --restore %s", found.names[0]);
        set_json(tool, "left_lifted", json_text(found.names[0]));
    }
    paths_free(&found);
}

void guard_forget(struct tool *tool, const char *path)
{
    char folder[FOLDER_BYTES], begin[NAME_BYTES];
    struct words before = tool->words;
    bool is_place = lifted_place(tool, folder, begin) == EXIT_GOOD;
    tool->words = before;
    size_t used = is_place ? strlen(folder) : 0;
    if (is_place && strncmp(path, folder, used) == 0 && path[used] == '/' &&
        strncmp(path + used + 1, begin, strlen(begin)) == 0)
        unlink(path);
}
