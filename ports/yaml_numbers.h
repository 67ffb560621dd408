/* Numbers in YAML files of people that others would read as other numbers. */
#ifndef CM_PORTS_YAML_NUMBERS_H
#define CM_PORTS_YAML_NUMBERS_H

#include <cyaml/cyaml.h>
#include <stdbool.h>
#include <stddef.h>

/* False: where the schema has a number, one begins with a zero, as 010; `error`, of so many bytes,
 * says which. */
bool yaml_numbers_are_clear(const char *text, size_t bytes, const cyaml_schema_value_t *schema,
                            char *error, size_t room);

#endif
