/*
 * The ledger's tables, and how an older one becomes a newer one: a row a step, and the count of
 * steps that were taken is the ledger's version.
 */
#include "inside.h"
#include <stdio.h>
#include <stdlib.h>

static const char *const STEPS[] = {
    "CREATE TABLE series (name TEXT PRIMARY KEY, next BIGINT NOT NULL)",
    // state: leased, made, free
    "CREATE TABLE numbers (series TEXT NOT NULL, number BIGINT NOT NULL, state TEXT NOT NULL, "
    "unit_key TEXT NOT NULL, station TEXT NOT NULL, leased_at BIGINT NOT NULL, "
    "PRIMARY KEY (series, number))",
    "CREATE INDEX numbers_by_unit ON numbers (unit_key)",
    "CREATE TABLE units (unit_key TEXT PRIMARY KEY, series TEXT NOT NULL, number BIGINT, "
    "recipe TEXT NOT NULL, version TEXT NOT NULL, board TEXT NOT NULL, chip TEXT NOT NULL, "
    "chip_id TEXT NOT NULL, port TEXT NOT NULL, station TEXT NOT NULL, images TEXT NOT NULL, "
    "settings_before TEXT NOT NULL, settings_after TEXT NOT NULL, passed BIGINT NOT NULL, "
    "cause TEXT NOT NULL, begun BIGINT NOT NULL, took_ms BIGINT NOT NULL)",
    "CREATE INDEX units_by_number ON units (series, number)",
    "CREATE INDEX units_by_time ON units (begun)",
    "CREATE INDEX numbers_by_state ON numbers (series, state, number)",
    "ALTER TABLE units ADD COLUMN own TEXT NOT NULL DEFAULT ''",
};
enum { VERSION = sizeof STEPS / sizeof STEPS[0] };

static bool take_version(void *context, const char *const *columns)
{
    *(unsigned long *)context = strtoul(columns[0], NULL, 10);
    return true;
}

static enum store_status climb(struct cm_ledger *ledger, unsigned long *version)
{
    char text[24];
    const char *const values[] = {text};
    enum store_status status =
        ledger_run(ledger, "CREATE TABLE IF NOT EXISTS ledger_version (version BIGINT NOT NULL)",
                   NULL, 0, NULL, NULL, NULL);
    if (!status)
        status = ledger_run(ledger, "SELECT COALESCE(MAX(version), 0) FROM ledger_version", NULL, 0,
                            take_version, version, NULL);
    bool is_older = *version < VERSION;
    for (unsigned long i = *version; !status && i < VERSION; i++)
        status = ledger_run(ledger, STEPS[i], NULL, 0, NULL, NULL, NULL);
    snprintf(text, sizeof text, "%d", (int)VERSION);
    if (!status && is_older)
        status = ledger_run(ledger, "INSERT INTO ledger_version (version) VALUES ($1)", values, 1,
                            NULL, NULL, NULL);
    return status;
}

bool ledger_migrate(struct cm_ledger *ledger)
{
    unsigned long version = 0;
    enum store_status status = ledger_begin(ledger);
    if (!status)
        status = ledger_end(ledger, climb(ledger, &version));
    if (status)
        return ledger_fail(ledger, status);
    if (version <= VERSION)
        return true;
    struct cm_error *error = host_error(ledger->host, CM_ERROR_LEDGER_NEWER, ledger->shown);
    error->found = (uint32_t)version;
    error->expected = VERSION;
    snprintf(error->detail, sizeof error->detail, "it has version %lu; this one knows %d", version,
             (int)VERSION);
    return false;
}
