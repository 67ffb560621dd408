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

static enum exit_code run(struct tool *tool, const char *const *things)
{
    struct listing listing = {tool, json_array(), NULL, 0};
    if (things[0]) {
        json_decref(listing.rows);
        return tool_fail_as(tool, EXIT_USAGE, "ports takes no things", things[0], "coldmint ports");
    }
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
    .things = "",
    .summary = "what there is to program through",
    .example = "coldmint ports",
    .heeds = HEEDS_NOTHING,
    .mistake = "looking for a bench that is in another folder: --via takes a path, too",
    .run = run,
};
