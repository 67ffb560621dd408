/*
 * Simulated benches among the kinds of ports.
 */
#define _DEFAULT_SOURCE /* scandir */

#include "sim.h"
#include <errno.h>
#include <coldmint/ports.h>
#include <dirent.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

_Static_assert((int)CM_PORT_ERROR_BYTES >= (int)SIM_ERROR_BYTES, "an error fits");

static enum cm_port_opening open_bench(const char *place, struct cm_open_port *port, char *error)
{
    struct cm_sim *sim = cm_sim_open(place, error);
    if (!sim)
        return errno == EBUSY ? CM_PORT_BUSY : CM_PORT_NOT_OPENED;
    *port = (struct cm_open_port){&cm_port_sim, cm_sim_port(sim), sim};
    if (cm_sim_grants(sim))
        return CM_PORT_OPENED;
    snprintf(error, SIM_ERROR_BYTES, "the system does not let this user open it");
    return CM_PORT_NO_RIGHT;
}

static bool close_bench(struct cm_open_port *port)
{
    bool saved = cm_sim_close(port->hardware);
    *port = (struct cm_open_port){.kind = NULL};
    return saved;
}

/* The title of a bench; false where the file is none. Only its head is looked at. */
static bool read_title(const char *path, char *title, size_t room)
{
    char head[4096] = "\n"; // so that the key is behind the end of a line
    FILE *file = fopen(path, "re");
    if (!file)
        return false;
    size_t count = fread(head + 1, 1, sizeof head - 2, file);
    fclose(file);
    head[1 + count] = '\0';
    const char *key = strstr(head, "\nbench:");
    if (!key)
        return false;
    key = strchr(key, ':') + 1;
    key += strspn(key, " \t");
    snprintf(title, room, "%.*s", (int)strcspn(key, "\r\n"), key);
    return true;
}

static int is_yaml(const struct dirent *item)
{
    size_t length = strlen(item->d_name);
    return length > 5 && strcmp(item->d_name + length - 5, ".yaml") == 0;
}

/* The benches of the folder that the tool is called in. */
static void list_benches(cm_port_told_fn *told, void *context)
{
    struct dirent **items = NULL;
    int count = scandir(".", &items, is_yaml, alphasort);
    for (int i = 0; i < count; i++) {
        struct stat facts;
        char title[200];
        const char *name = items[i]->d_name;
        bool is_file = stat(name, &facts) == 0 && S_ISREG(facts.st_mode); // a pipe would wait
        if (is_file && access(name, R_OK) != 0)
            told(context, name, "", "permission denied");
        else if (is_file && read_title(name, title, sizeof title))
            told(context, name, title, "");
        free(items[i]);
    }
    free(items);
}

const struct cm_port_kind cm_port_sim = {
    .prefix = "sim",
    .form = "sim:BENCH.yaml",
    .what = "bench",
    .where = "in this folder",
    .hint = "'coldmint bench make FILE --chip NAME' writes a bench to begin with",
    .open = open_bench,
    .list = list_benches,
    .close = close_bench,
};
