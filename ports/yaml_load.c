/*
 * YAML files by a schema, for benches and desks.
 */
#define _DEFAULT_SOURCE /* scandir */

#include "yaml_load.h"
#include "yaml_numbers.h"
#include "yaml_text.h"
#include <dirent.h>
#include <stdarg.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/stat.h>
#include <unistd.h>

enum { MOST_LINES = 1000, HEAD = 4096 };

/* The library complains in several lines; all are kept until the end of the loading. */
static void keep_line(cyaml_log_t level, void *context, const char *format, va_list arguments)
{
    char *lines = context;
    size_t used = strlen(lines);
    if (level >= CYAML_LOG_ERROR && used + 2 < MOST_LINES)
        vsnprintf(lines + used, MOST_LINES - used, format, arguments);
}

/* Of "Load: WHAT\nLoad: Backtrace:\n  in ... (line: N, column: M)..." makes "near line N: WHAT". */
static void make_readable(const char *lines, const char *reason, char *error, size_t room)
{
    char what[200] = "";
    const char *begin = strncmp(lines, "Load: ", 6) == 0 ? lines + 6 : lines,
               *place = strstr(lines, "(line: ");
    snprintf(what, sizeof what, "%.*s", (int)strcspn(begin, "\n"), begin);
    if (place)
        snprintf(error, room, "near line %d: %s", (int)strtol(place + 7, NULL, 10),
                 what[0] ? what : reason);
    else
        snprintf(error, room, "%s%s%s", what, what[0] ? ": " : "", reason);
}

static const cyaml_config_t *config(char *lines, cyaml_config_t *config)
{
    *config = (cyaml_config_t){.log_fn = keep_line,
                               .log_ctx = lines,
                               .mem_fn = cyaml_mem,
                               .log_level = CYAML_LOG_ERROR,
                               .flags = CYAML_CFG_NO_ALIAS};
    return config;
}

void *yaml_load(const char *path, const cyaml_schema_value_t *schema, char *error, size_t room)
{
    cyaml_config_t settings;
    cyaml_data_t *data = NULL;
    char lines[MOST_LINES] = "";
    size_t bytes;
    const char *why;
    char *text = yaml_read(path, &bytes, &why);
    error[0] = '\0';
    if (!text) {
        snprintf(error, room, "%s", why);
        return NULL;
    }
    if (!yaml_numbers_are_clear(text, bytes, schema, error, room)) {
        free(text);
        return NULL;
    }
    cyaml_err_t result = cyaml_load_data((const uint8_t *)text, bytes, config(lines, &settings),
                                         schema, &data, NULL);
    free(text);
    if (result != CYAML_OK)
        make_readable(lines, cyaml_strerror(result), error, room);
    else if (!data) // nothing but comments
        snprintf(error, room, "it says nothing");
    return result == CYAML_OK ? data : NULL;
}

void yaml_unload(const cyaml_schema_value_t *schema, void *data)
{
    char unused[MOST_LINES] = "";
    cyaml_config_t settings;
    if (data)
        cyaml_free(config(unused, &settings), schema, data, 0);
}

/* Only the head of the file is looked at. */
bool yaml_title(const char *path, const char *key, char *title, size_t room)
{
    char head[HEAD] = "\n", wanted[40]; // so that the key is behind the end of a line
    FILE *file = fopen(path, "re");
    if (!file)
        return false;
    size_t count = fread(head + 1, 1, sizeof head - 2, file);
    fclose(file);
    head[1 + count] = '\0';
    snprintf(wanted, sizeof wanted, "\n%s:", key);
    const char *at = strstr(head, wanted);
    if (!at)
        return false;
    at += strlen(wanted);
    at += strspn(at, " \t");
    snprintf(title, room, "%.*s", (int)strcspn(at, "\r\n"), at);
    return true;
}

static int is_yaml(const struct dirent *item)
{
    size_t length = strlen(item->d_name);
    return length > 5 && strcmp(item->d_name + length - 5, ".yaml") == 0;
}

void yaml_list(const char *key,
               void (*told)(void *context, const char *path, const char *title,
                            const char *trouble),
               void *context)
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
        else if (is_file && yaml_title(name, key, title, sizeof title))
            told(context, name, title, "");
        free(items[i]);
    }
    free(items);
}
