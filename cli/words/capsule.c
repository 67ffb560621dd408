/*
 * Capsules in words.
 */
#include "capsule.h"
#include "say.h"
#include <stdio.h>

void capsule_say(struct tool *tool, const struct cm_capsule_file *file)
{
    const struct cm_capsule_facts *facts = &file->capsule.facts;
    char when[SHORT_TEXT];
    say(tool, "file", "%s, capsule of %s, %s, by %s%s%s", file->path, facts->chip,
        minute_text(facts->time, when), facts->tool, facts->notes[0] ? ": " : "", facts->notes);
    set_json(tool, "capsule",
             json_pack("{s:o, s:o, s:I, s:o, s:o}", "path", json_text(file->path), "chip",
                       json_text(facts->chip), "time", (json_int_t)facts->time, "tool",
                       json_text(facts->tool), "notes", json_text(facts->notes)));
}

void repeats_say(struct tool *tool, uint32_t every)
{
    if (!every)
        return;
    set_json(tool, "repeats_every", json_integer(every));
    say(tool, "note",
        "the contents repeat every %u bytes, as a part of that size does under the name of a "
        "larger one: is the name right?",
        (unsigned)every);
}
