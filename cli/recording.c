/*
 * --record FILE: what crosses the wires, as a VCD file that comes into being whole when the verb
 * ends, also after a failure.
 */
#include "recording.h"
#include "words/fail.h"
#include <stdlib.h>

enum exit_code recording_begin(struct tool *tool)
{
    char path[CM_FILE_PATH];
    if (!tool->given.record)
        return EXIT_GOOD;
    cm_name_with_extension(path, sizeof path, tool->given.record, ".vcd");
    struct cm_new_file *file = malloc(sizeof *file);
    if (!file)
        return tool_fail_memory(tool);
    if (!cm_new_file_open(&tool->host, path, file)) {
        free(file);
        return tool_fail_host(tool);
    }
    cm_recorder_begin(&tool->recorder, tool->port, file->stream);
    tool->recording = file;
    tool->port = &tool->recorder.port;
    return EXIT_GOOD;
}

/* A failure of the verb itself comes first. */
static void commit(struct tool *tool)
{
    if (!cm_new_file_commit(&tool->host, tool->recording) && !tool->words.code)
        tool_fail_host(tool);
}

void recording_end(struct tool *tool)
{
    if (!tool->recording)
        return;
    bool is_whole = cm_recorder_end(&tool->recorder);
    if (!is_whole && !tool->words.code)
        tool_fail_as(tool, EXIT_BAD_FILE, "the recording cannot be written", tool->recording->path,
                     "make room on the disk");
    if (is_whole)
        commit(tool);
    else
        cm_new_file_drop(tool->recording);
    free(tool->recording);
    tool->recording = NULL;
    tool->port = tool->recorder.inner;
}
