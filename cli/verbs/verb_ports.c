/*
 * ports: what there is to program through: the kinds of ports, and what each finds here.
 */
#include <stdio.h>
#include <string.h>
#include "say.h"
#include "words/fail.h"

struct listing {
    struct tool *tool;
    json_t *rows;
    const struct cm_port_kind *kind;
    unsigned count;
};

static void tell(void *context, const char *place, const char *what, const char *trouble)
{
    struct listing *listing = context;
    char name[400];
    snprintf(name, sizeof name, "%s:%.380s", listing->kind->prefix, place);
    say(listing->tool, "", "%-28s  %s%s%s", name, what, *trouble ? "; not usable: " : "", trouble);
    json_array_append_new(listing->rows, json_pack("{s:o, s:s, s:o, s:o}", "name", json_text(name),
                                                   "kind", listing->kind->prefix, "what",
                                                   json_text(what), "trouble", json_text(trouble)));
    listing->count += !*trouble;
}

static void list_kind(struct listing *listing, const struct cm_port_kind *kind)
{
    const size_t before = json_array_size(listing->rows);
    listing->kind = kind;
    say(listing->tool, kind->prefix, "%s, a %s; %s:", kind->form, kind->what, kind->where);
    kind->list(tell, listing);
    if (json_array_size(listing->rows) == before)
        say(listing->tool, "", "none");
}

/* Writes a file that names what this computer has. */
static enum exit_code make(struct tool *tool, const char *asked)
{
    enum { ROOM = 16384 };
    char text[ROOM], path[CM_FILE_PATH];
    struct cm_new_file file;
    const struct cm_port_kind *const *kind = tool->host.ports;
    while (*kind && !((*kind)->sketch && (*kind)->sketch(text, sizeof text)))
        kind++;
    if (!*kind)
        return tool_fail_as(tool, EXIT_NO_PORT, "there is nothing to make a desk of",
                            "no device for one was found; 'coldmint ports' shows what was",
                            "docs/desk.md tells what to enable");
    cm_name_with_extension(path, sizeof path, asked, ".yaml");
    if (!cm_new_file_open(&tool->host, path, &file))
        return tool_fail_host(tool);
    fputs(text, file.stream);
    enum exit_code code = host_code(tool, cm_new_file_commit(&tool->host, &file));
    if (!code)
        say_last(tool, "%s is a %s to begin with: coldmint look --via %s:%s", path, (*kind)->what,
                 (*kind)->prefix, path);
    return code;
}

static enum exit_code run(struct tool *tool, const char *const *things)
{
    bool makes = things[0] && things[1] && !things[2] && strcmp(things[0], "make") == 0;
    if (makes)
        return make(tool, things[1]);
    if (things[0])
        return tool_fail_as(tool, EXIT_USAGE, "what shall ports do?", things[0],
                            "coldmint ports, or coldmint ports make FILE");
    struct listing listing = {tool, json_array(), NULL, 0};
    for (const struct cm_port_kind *const *kind = tool->host.ports; *kind; kind++) {
        list_kind(&listing, *kind);
    }
    set_json(tool, "ports", listing.rows);
    if (listing.count)
        say_last(tool, "%u to program through; name one with --via", listing.count);
    else
        say_last(tool, "there is none here; 'coldmint bench make node --chip attiny84a' makes a "
                       "simulated one");
    return EXIT_GOOD;
}

const struct verb verb_ports = {
    .name = "ports",
    .things = "[make FILE]",
    .summary = "what there is to program through; make FILE writes a desk of this computer's pins",
    .example = "coldmint ports",
    .heeds = HEEDS_NOTHING,
    .mistake = "looking for a bench that is in another folder: --via takes a path, too",
    .run = run,
};
