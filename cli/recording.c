/*
 * --record FILE: what crosses the wires, as a VCD file that comes into being whole when the verb
 * ends, also after a failure.
 */
#include "tool.h"
#include <stdlib.h>

enum exit_code recording_begin(struct tool *tool)
{
    char path[4096];
    if (!tool->record)
        return EXIT_GOOD;
    name_with_extension(path, sizeof path, tool->record, ".vcd");
    struct new_file *file = malloc(sizeof *file);
    if (!file)
        return tool_fail_as(tool, EXIT_BAD_FILE, "not enough memory to record", path,
                            "close other programs");
    enum exit_code code = new_file_open(tool, path, file);
    if (code) {
        free(file);
        return code;
    }
    cm_recorder_begin(&tool->recorder, tool->port, file->stream);
    tool->recording = file;
    tool->port = &tool->recorder.port;
    return EXIT_GOOD;
}

void recording_end(struct tool *tool)
{
    if (!tool->recording)
        return;
    bool whole = cm_recorder_end(&tool->recorder);
    if (!whole && !tool->words.code)
        tool_fail_as(tool, EXIT_BAD_FILE, "the recording cannot be written", tool->recording->path,
                     "make room on the disk");
    if (whole) {
        struct words words = tool->words; // a failure of the verb itself comes first
        if (new_file_commit(tool, tool->recording) == EXIT_GOOD || words.code)
            tool->words = words;
    } else {
        new_file_drop(tool->recording);
    }
    free(tool->recording);
    tool->recording = NULL;
    tool->port = tool->recorder.inner;
}
