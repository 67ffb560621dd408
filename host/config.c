/*
 * The configuration file, read through a schema.
 */
#include "inside.h"
#include <coldmint/host/config.h>
#include <cyaml/cyaml.h>
#include <errno.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>
#include <yaml_text.h>

/* As it stands in the file. */
struct parsed {
    char *via, *clock;
    struct cm_named_port *ports;
    unsigned ports_count;
};

static const cyaml_schema_field_t PORT_FIELDS[] = {
    CYAML_FIELD_STRING_PTR("name", CYAML_FLAG_POINTER, struct cm_named_port, name, 1, 100),
    CYAML_FIELD_STRING_PTR("via", CYAML_FLAG_POINTER, struct cm_named_port, via, 1, 4096),
    CYAML_FIELD_END,
};
static const cyaml_schema_value_t PORT = {
    CYAML_VALUE_MAPPING(CYAML_FLAG_DEFAULT, struct cm_named_port, PORT_FIELDS)};
static const cyaml_schema_field_t FIELDS[] = {
    CYAML_FIELD_STRING_PTR("via", CYAML_FLAG_POINTER | CYAML_FLAG_OPTIONAL, struct parsed, via, 1,
                           4096),
    CYAML_FIELD_STRING_PTR("clock", CYAML_FLAG_POINTER | CYAML_FLAG_OPTIONAL, struct parsed, clock,
                           1, 40),
    CYAML_FIELD_SEQUENCE("ports", CYAML_FLAG_POINTER | CYAML_FLAG_OPTIONAL, struct parsed, ports,
                         &PORT, 0, 100),
    CYAML_FIELD_END,
};
static const cyaml_schema_value_t CONFIG = {
    CYAML_VALUE_MAPPING(CYAML_FLAG_POINTER, struct parsed, FIELDS)};
static const cyaml_config_t SETTINGS = {
    .log_fn = NULL, .mem_fn = cyaml_mem, .flags = CYAML_CFG_NO_ALIAS};

static bool fail(struct cm_host *host, const char *path, const char *why)
{
    HOST_COPY(host_error(host, CM_ERROR_CONFIG, path)->detail, why);
    return false;
}

static bool parse(struct cm_host *host, const char *path, struct cm_config *config)
{
    struct parsed *parsed = NULL;
    size_t bytes = 0;
    const char *why;
    char *text = yaml_read(path, &bytes, &why);
    if (!text)
        return fail(host, path, why);
    cyaml_err_t result = cyaml_load_data((const uint8_t *)text, bytes, &SETTINGS, &CONFIG,
                                         (cyaml_data_t **)&parsed, NULL);
    free(text);
    if (result != CYAML_OK)
        return fail(host, path, cyaml_strerror(result));
    if (parsed) // not empty, or comments alone
        *config = (struct cm_config){parsed->via, parsed->clock, parsed->ports, parsed->ports_count,
                                     parsed};
    return true;
}

bool cm_config_read(struct cm_host *host, struct cm_config *config)
{
    const char *folder = getenv("XDG_CONFIG_HOME"), *home = home_folder();
    char path[CM_FILE_PATH];
    memset(config, 0, sizeof *config);
    if (folder && *folder)
        snprintf(path, sizeof path, "%s/coldmint/config.yaml", folder);
    else
        snprintf(path, sizeof path, "%s/.config/coldmint/config.yaml", home ? home : "");
    return access(path, R_OK) != 0 || parse(host, path, config);
}

void cm_config_free(struct cm_config *config)
{
    if (config->parsed)
        cyaml_free(&SETTINGS, &CONFIG, config->parsed, 0);
    memset(config, 0, sizeof *config);
}

const char *cm_config_port(const struct cm_config *config, const char *name)
{
    for (unsigned i = 0; i < config->ports_count; i++) {
        if (strcmp(config->ports[i].name, name) == 0)
            return config->ports[i].via;
    }
    return name;
}
