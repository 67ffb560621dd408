/*
 * A person's YAML file, read by a schema: what is wrong with it is one line of words.
 */
#ifndef CM_PORTS_YAML_LOAD_H
#define CM_PORTS_YAML_LOAD_H

#include <cyaml/cyaml.h>
#include <stdbool.h>

/* What the file says; free it with yaml_unload. NULL: `error`, of so many bytes, tells why. */
void *yaml_load(const char *path, const cyaml_schema_value_t *schema, char *error, size_t room);
void yaml_unload(const cyaml_schema_value_t *schema, void *data);

/* The text behind a key that begins a line near the file's head: its title. False: there is none.
 */
bool yaml_title(const char *path, const char *key, char *title, size_t room);

/* Calls `told` for each YAML file of the folder that this process is in whose head has the key:
 * with its title and "", or with what keeps us from reading it. */
void yaml_list(const char *key,
               void (*told)(void *context, const char *path, const char *title,
                            const char *trouble),
               void *context);

#endif
