/*
 * The report of a day: yield, times, failures by cause.
 */
#include "draw/day_paper.h"
#include "ledger.h"
#include "say.h"
#include "words/fail.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

static struct day_amount *amount_of(struct day_amount *amounts, int *count, int most,
                                    const char *name)
{
    for (int i = 0; i < *count; i++) {
        if (strncmp(amounts[i].name, name, DAY_NAME - 1) == 0)
            return &amounts[i];
    }
    if (*count == most) { // what there is no room for
        snprintf(amounts[most - 1].name, DAY_NAME, "others");
        return &amounts[most - 1];
    }
    snprintf(amounts[*count].name, DAY_NAME, "%.79s", name);
    return &amounts[(*count)++];
}

/* A cause without where it happened: "contact with the chip was lost". */
static const char *kind_of(const struct cm_unit_record *unit, char *cause)
{
    const char *where = strstr(unit->cause, " while ");
    snprintf(cause, DAY_NAME, "%.*s", where ? (int)(where - unit->cause) : DAY_NAME - 1,
             unit->cause);
    return cause;
}

static void add_number(struct day *day, uint64_t number)
{
    bool is_first = !day->has_numbers;
    day->first_number = is_first || number < day->first_number ? number : day->first_number;
    day->last_number = is_first || number > day->last_number ? number : day->last_number;
    day->has_numbers = true;
}

static void add_to_day(struct day *day, const struct cm_unit_record *unit)
{
    char cause[DAY_NAME];
    struct day_amount *station =
        amount_of(day->stations, &day->station_count, DAY_STATIONS, unit->station);
    day->units[day->count++] = (struct day_unit){unit->begun, unit->took_ms, unit->passed};
    if (unit->passed) {
        day->passed++;
        station->passed++;
    } else {
        day->failed++;
        station->failed++;
        amount_of(day->causes, &day->cause_count, DAY_CAUSES, kind_of(unit, cause))->failed++;
    }
    if (unit->passed && unit->has_number)
        add_number(day, unit->number);
}

struct reporting {
    struct day day;
    size_t room;
    char recipe[CM_LEDGER_TEXT];
    bool has_others; /* of other recipes */
};

/* Units that were added since they were counted are left for the next report. */
static bool report_unit(void *context, const struct cm_unit_record *unit)
{
    struct reporting *reporting = context;
    if (reporting->day.count == reporting->room)
        return false;
    if (!reporting->day.count)
        snprintf(reporting->recipe, sizeof reporting->recipe, "%s", unit->recipe);
    reporting->has_others |= strcmp(reporting->recipe, unit->recipe) != 0;
    add_to_day(&reporting->day, unit);
    return true;
}

static void title_day(struct reporting *reporting)
{
    char from[SHORT_TEXT], to[SHORT_TEXT];
    struct day *day = &reporting->day;
    snprintf(day->title, sizeof day->title, "%s%s", day->count ? reporting->recipe : "no units",
             reporting->has_others ? " and others" : "");
    if (day->count)
        snprintf(day->span, sizeof day->span, "%s to %s UTC",
                 second_text(day->units[0].begun / 1000, from),
                 second_text(day->units[day->count - 1].begun / 1000, to));
}

enum exit_code ledger_report(struct asking *asking)
{
    struct reporting reporting = {.room = (size_t)asking->counts.units};
    reporting.day.units = calloc(reporting.room + 1, sizeof *reporting.day.units);
    if (!reporting.day.units)
        return tool_fail_memory(asking->tool);
    enum exit_code code = host_code(
        asking->tool, cm_ledger_each(asking->ledger, &asking->query, report_unit, &reporting));
    title_day(&reporting);
    if (!code)
        code = day_on_paper(asking->tool, &reporting.day, asking->out);
    free(reporting.day.units);
    return code;
}
