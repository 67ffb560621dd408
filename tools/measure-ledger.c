/*
 * A large ledger: what the verb takes to answer from it. The units are put in by the database's own
 * program, in one statement.
 */
#include "measure.h"
#include <coldmint/host.h>
#include <coldmint/host/ledger.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

enum { UNITS = 1000000 };

static bool make_ledger(const char *path)
{
    static const char FILL[] =
        "sqlite3 %s \"WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < %d) "
        "INSERT INTO units SELECT printf('%%032x', i), 'strike-node', i, 'strike node', '1.5', "
        "'C', 'attiny84a', '1E930C', 'sim:node.yaml', 'bench-' || (i %% 4), 'strike-node-1.5.hex ' "
        "|| printf('%%064x', i), '62DFFFFF', 'E2DFFEFF', i %% 20 <> 0, CASE WHEN i %% 20 = 0 THEN "
        "'contact with the chip was lost while writing' ELSE '' END, 1764600000000 + i * 5000, "
        "1500 + i %% 700 FROM n\"";
    static struct cm_host host;
    char command[1200];
    unlink(path);
    cm_host_begin(&host, NULL);
    struct cm_ledger *ledger = cm_ledger_open(&host, path, "measure");
    cm_ledger_close(ledger);
    cm_host_end(&host);
    snprintf(command, sizeof command, FILL, path, UNITS);
    return ledger && system(command) == 0;
}

static void tell(const char *label, const char *const *arguments)
{
    struct run_cost cost = run_cost_of(1, arguments);
    printf("  %-50s %8.3f s                 %6ld KiB of memory\n", label, cost.seconds, cost.kib);
}

void measure_ledger(const char *folder)
{
    char path[300], out[320];
    static const char *const ENDINGS[] = {"csv", "json", "svg"};
    snprintf(path, sizeof path, "%s/million.ledger", folder);
    if (!make_ledger(path)) {
        printf("\nno ledger to measure: it wants the program sqlite3\n");
        return;
    }
    printf("\na ledger of %d units, host\n", UNITS);
    tell("the latest 20", (const char *const[]){TOOL_PATH, "ledger", path, NULL});
    tell("one by its number", (const char *const[]){TOOL_PATH, "ledger", path, "765432", NULL});
    for (int i = 0; i < 3; i++) {
        char label[60];
        snprintf(out, sizeof out, "%s/million.%s", folder, ENDINGS[i]);
        snprintf(label, sizeof label, "all of them as .%s", ENDINGS[i]);
        tell(label, (const char *const[]){TOOL_PATH, "ledger", path, "-o", out, "--replace", NULL});
        unlink(out);
    }
    unlink(path);
}
