/*
 * The EEPROM carried over a chip erase: put on disk before the erase, and taken away again when it is back in the chip.
 */
#include "job.h"
#include <glob.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>
#include <unistd.h>

/* Beginning of the names of this part's saved EEPROMs. */
static void carried_stem(const struct tool *tool, char *stem, size_t bytes)
{
    char folder[2900];
    state_folder(folder, sizeof folder);
    snprintf(stem, bytes, "%s/carried/%s-eeprom-", folder, tool->session.part->name);
}

static void name_carried_file(struct job *job)
{
    char stamp[32], stem[3000];
    time_t now = time(NULL);
    struct tm parts;
    strftime(stamp, sizeof stamp, "%Y%m%d-%H%M%S", gmtime_r(&now, &parts));
    carried_stem(job->tool, stem, sizeof stem);
    snprintf(job->carried_path, sizeof job->carried_path, "%s%s-%ld.hex", stem, stamp, (long)getpid());
    make_folders(job->carried_path);
}

/* An earlier put was cut off between the erase and the end: what it had saved is still there. */
void carry_tell_left_behind(struct tool *tool)
{
    char pattern[3100];
    glob_t found;
    carried_stem(tool, pattern, sizeof pattern - 10);
    strcat(pattern, "*.hex");
    if (glob(pattern, 0, NULL, &found) == 0 && found.gl_pathc > 0)
        say(tool, "note", "an earlier put was cut off; the eeprom it had saved is in %s: add eeprom=THAT-FILE, then remove it",
            found.gl_pathv[found.gl_pathc - 1]);
    globfree(&found);
}

/* The erase is next: what it takes along is put on disk first. */
enum cm_status carry_save(void *context, uint8_t region, const uint8_t *bytes, uint32_t count)
{
    struct job *job = context;
    struct new_file file;
    struct cm_record_writer writer;
    (void)region;
    name_carried_file(job);
    if (new_file_open(job->tool, job->carried_path, &file))
        return CM_REFUSED;
    cm_record_write_begin(&writer, CM_RECORDS_INTEL, new_file_text, file.stream);
    if (cm_record_write(&writer, 0, bytes, count) || cm_record_write_end(&writer)) {
        new_file_drop(&file);
        return CM_REFUSED;
    }
    if (new_file_commit(job->tool, &file))
        return CM_REFUSED;
    say(job->tool, "eeprom", "%u bytes saved, to be carried over the erase", (unsigned)count);
    return CM_OK;
}

void carry_end(struct job *job, enum cm_status status)
{
    if (!job->carried_path[0])
        return;
    if (status == CM_OK) {
        unlink(job->carried_path);
        return;
    }
    struct words *words = &job->tool->words;
    size_t used = strlen(words->try);
    snprintf(words->try + used, sizeof words->try - used, ". The EEPROM's contents are in %.250s: add eeprom=THAT-FILE",
             job->carried_path);
}
