/* The report of a day, or of any span: what a ledger holds of it, on one page. */
#ifndef CM_CLI_DAY_PAPER_H
#define CM_CLI_DAY_PAPER_H

#include "tool.h"

enum { DAY_CAUSES = 6, DAY_STATIONS = 8, DAY_NAME = 80, DAY_HOURS = 24 };

/* A unit as the page needs it. */
struct day_unit {
    int64_t begun;
    uint32_t took_ms;
    bool passed;
};

struct day_amount {
    char name[DAY_NAME];
    int passed, failed;
};

struct day {
    char title[200], span[80];
    struct day_unit *units;
    size_t count;
    int passed, failed;
    int64_t from, to; /* of the first and the last unit */
    struct day_amount causes[DAY_CAUSES], stations[DAY_STATIONS];
    int cause_count, station_count;
    bool has_numbers;
    uint64_t first_number, last_number;
};

enum exit_code day_on_paper(struct tool *tool, const struct day *day, const char *path);

#endif
