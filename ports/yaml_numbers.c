/*
 * Numbers in YAML files of people. The parser takes 010 for 8, as YAML 1.1 does; YAML 1.2 and most
 * people take it for 10: it is refused. In step with the schema, since a text may begin with zeros.
 */
#include "yaml_numbers.h"
#include <stdio.h>
#include <string.h>
#include <yaml.h>

struct look {
    yaml_parser_t parser;
    yaml_event_t event;
    unsigned long line;
    char found[40];
};

/* The next event, which replaces the last one; false: the text is no YAML, as the parser will say.
 */
static bool advance(struct look *look)
{
    yaml_event_delete(&look->event);
    return yaml_parser_parse(&look->parser, &look->event) == 1;
}

static bool is_unclear(const yaml_event_t *event)
{
    const char *text = (const char *)event->data.scalar.value;
    text += *text == '-' || *text == '+';
    size_t digits = strspn(text, "0123456789");
    return event->data.scalar.style == YAML_PLAIN_SCALAR_STYLE && digits > 1 && text[0] == '0' &&
           !text[digits];
}

static const cyaml_schema_value_t *value_of_key(const cyaml_schema_value_t *schema, const char *key)
{
    if (!schema || schema->type != CYAML_MAPPING)
        return NULL;
    for (const cyaml_schema_field_t *field = schema->mapping.fields; field->key; field++) {
        if (strcmp(field->key, key) == 0)
            return &field->value;
    }
    return NULL;
}

static const cyaml_schema_value_t *value_of_entry(const cyaml_schema_value_t *schema)
{
    bool is_list =
        schema && (schema->type == CYAML_SEQUENCE || schema->type == CYAML_SEQUENCE_FIXED);
    return is_list ? schema->sequence.entry : NULL;
}

static bool look_at(struct look *look, const cyaml_schema_value_t *schema);

/* NOLINTBEGIN(misc-no-recursion): as deep as the file, which is 40 at most */
static bool look_at_mapping(struct look *look, const cyaml_schema_value_t *schema)
{
    while (advance(look) && look->event.type == YAML_SCALAR_EVENT) {
        const cyaml_schema_value_t *value =
            value_of_key(schema, (const char *)look->event.data.scalar.value);
        if (!advance(look) || !look_at(look, value))
            return false;
    }
    return look->event.type == YAML_MAPPING_END_EVENT;
}

static bool look_at_list(struct look *look, const cyaml_schema_value_t *schema)
{
    while (advance(look) && look->event.type != YAML_SEQUENCE_END_EVENT) {
        if (!look_at(look, value_of_entry(schema)))
            return false;
    }
    return look->event.type == YAML_SEQUENCE_END_EVENT;
}

/* A value, whose first event is at hand. False: there is nothing more to be looked at. */
static bool look_at(struct look *look, const cyaml_schema_value_t *schema)
{
    if (look->event.type == YAML_MAPPING_START_EVENT)
        return look_at_mapping(look, schema);
    if (look->event.type == YAML_SEQUENCE_START_EVENT)
        return look_at_list(look, schema);
    bool is_number = schema && (schema->type == CYAML_INT || schema->type == CYAML_UINT);
    if (look->event.type != YAML_SCALAR_EVENT || !is_number || !is_unclear(&look->event))
        return look->event.type == YAML_SCALAR_EVENT;
    look->line = look->event.start_mark.line + 1;
    snprintf(look->found, sizeof look->found, "%s", (const char *)look->event.data.scalar.value);
    return false;
}
/* NOLINTEND(misc-no-recursion) */

bool yaml_numbers_are_clear(const char *text, size_t bytes, const cyaml_schema_value_t *schema,
                            char *error, size_t room)
{
    struct look look = {.line = 0};
    if (!yaml_parser_initialize(&look.parser))
        return true;
    yaml_parser_set_input_string(&look.parser, (const unsigned char *)text, bytes);
    bool goes_on = true;
    while (goes_on && advance(&look) && look.event.type != YAML_STREAM_END_EVENT) {
        bool is_document = look.event.type == YAML_STREAM_START_EVENT ||
                           look.event.type == YAML_DOCUMENT_START_EVENT ||
                           look.event.type == YAML_DOCUMENT_END_EVENT;
        goes_on = is_document || look_at(&look, schema);
    }
    yaml_event_delete(&look.event);
    yaml_parser_delete(&look.parser);
    if (look.line)
        snprintf(error, room, "near line %lu: %s: a number does not begin with a zero", look.line,
                 look.found);
    return !look.line;
}
