/*
 * What options do not say: COLDMINT_VIA, then coldmint/config.yaml in the user's configuration
 * folder (XDG base directories):
 *
 *     via: sim:/home/ada/benches/node.yaml
 *     clock: 8MHz
 */
#include "config.h"
#include "tool.h"
#include <cyaml/cyaml.h>
#include <sim/yaml_text.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

struct config {
    char *via, *clock;
};

static const cyaml_schema_field_t FIELDS[] = {
    CYAML_FIELD_STRING_PTR("via", CYAML_FLAG_POINTER | CYAML_FLAG_OPTIONAL, struct config, via, 1,
                           4096),
    CYAML_FIELD_STRING_PTR("clock", CYAML_FLAG_POINTER | CYAML_FLAG_OPTIONAL, struct config, clock,
                           1, 40),
    CYAML_FIELD_END,
};
static const cyaml_schema_value_t CONFIG = {
    CYAML_VALUE_MAPPING(CYAML_FLAG_POINTER, struct config, FIELDS)};
static const cyaml_config_t SETTINGS = {
    .log_fn = NULL, .mem_fn = cyaml_mem, .flags = CYAML_CFG_NO_ALIAS};

static char *copy(const char *text)
{
    return text ? strdup(text) : NULL;
}

static void apply_file(struct tool *tool, const char *path)
{
    struct config *config = NULL;
    size_t bytes = 0;
    const char *why;
    char *text = sim_yaml_read(path, &bytes, &why);
    cyaml_err_t result = text ? cyaml_load_data((const uint8_t *)text, bytes, &SETTINGS, &CONFIG,
                                                (cyaml_data_t **)&config, NULL)
                              : CYAML_OK;
    bool is_read = text != NULL;
    free(text);
    if (!is_read || result != CYAML_OK) {
        fprintf(stderr, "note      ");
        print_shown(stderr, path);
        fprintf(stderr, " is passed over: %s\n", is_read ? cyaml_strerror(result) : why);
        return;
    }
    if (!config)
        return; // empty, or comments alone
    if (!tool->via)
        tool->via = copy(config->via);
    if (!tool->clock)
        tool->clock = copy(config->clock);
    cyaml_free(&SETTINGS, &CONFIG, config, 0);
}

void config_apply(struct tool *tool)
{
    const char *folder = getenv("XDG_CONFIG_HOME"), *home = getenv("HOME"),
               *via = getenv("COLDMINT_VIA");
    char path[4096];
    if (!tool->via && via && *via)
        tool->via = copy(via);
    if (folder && *folder)
        snprintf(path, sizeof path, "%s/coldmint/config.yaml", folder);
    else
        snprintf(path, sizeof path, "%s/.config/coldmint/config.yaml", home ? home : "");
    if (access(path, R_OK) == 0)
        apply_file(tool, path);
}
