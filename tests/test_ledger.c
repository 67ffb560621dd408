/* The ledger, through the host library: numbers given out once, units recorded once, whoever is
 * killed and whatever becomes of the server. A SQLite file, and a PostgreSQL server of the test's
 * own. */
#include "support/chance.h"
#include "support/support.h"
#include <coldmint/host.h>
#include <errno.h>
#include <fcntl.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/prctl.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <time.h>
#include <unistd.h>

static struct cm_host host;
static char server_folder[100], server_place[200], own_path[300];

static const struct cm_number_range RANGE = {.series = "node", .first = 1000, .last = 999999};

static struct cm_ledger *open_ledger(const char *place, const char *station)
{
    struct cm_ledger *ledger = cm_ledger_open(&host, place, station);
    if (!ledger)
        fail_msg("kind %d: %s", (int)host.error.kind, host.error.detail);
    return ledger;
}

static uint64_t take(struct cm_ledger *ledger, const struct cm_number_range *range,
                     struct cm_unit_record *unit)
{
    struct cm_unit_facts facts;
    cm_unit_record_begin(unit);
    snprintf(unit->series, sizeof unit->series, "%s", range->series);
    snprintf(unit->recipe, sizeof unit->recipe, "strike node");
    if (!cm_ledger_take(ledger, range, NULL, unit->key, &facts))
        fail_msg("kind %d: %s", (int)host.error.kind, host.error.detail);
    unit->number = facts.number;
    return facts.number;
}

static void record(struct cm_ledger *ledger, struct cm_unit_record *unit, bool passed)
{
    unit->passed = unit->has_number = passed;
    if (!cm_ledger_record(ledger, unit))
        fail_msg("kind %d: %s", (int)host.error.kind, host.error.detail);
}

static char *place_of(const char *name)
{
    static char path[300];
    snprintf(path, sizeof path, "%s/%s", test_folder(), name);
    return path;
}

/* --- numbers ----------------------------------------------------------------------------- */

static void numbers_have_no_gap_and_no_double(const char *place)
{
    struct cm_ledger *ledger = open_ledger(place, "a");
    struct cm_unit_record one, two, three;
    struct cm_number_counts counts;
    assert_int_equal(take(ledger, &RANGE, &one), 1000);
    assert_int_equal(take(ledger, &RANGE, &two), 1001);
    record(ledger, &one, false); // a unit that failed uses no number up
    assert_int_equal(take(ledger, &RANGE, &three), 1000);
    record(ledger, &two, true);
    record(ledger, &two, true); // once, however often
    assert_true(cm_ledger_give_back(ledger, three.key));
    assert_int_equal(take(ledger, &RANGE, &three), 1000);
    cm_ledger_close(ledger);
    ledger = open_ledger(place, "b"); // whoever died over it: nobody else gets that number
    assert_int_equal(take(ledger, &RANGE, &one), 1002);
    assert_true(cm_ledger_numbers(ledger, "node", &counts));
    assert_int_equal(counts.made, 1);
    assert_int_equal(counts.leased, 2);
    cm_ledger_close(ledger);
}

static bool count_own(void *context, const struct cm_unit_record *unit)
{
    assert_string_equal(unit->own, "{\"gain\":\"118\"}");
    ++*(int *)context;
    return true;
}

/* A unit that is made again keeps its number and its history; what another holds is not given. */
static void a_number_may_be_chosen(const char *place)
{
    const struct cm_number_range range = {.series = "chosen", .first = 10, .last = 12};
    struct cm_ledger *ledger = open_ledger(place, "a");
    struct cm_unit_record one, again, other;
    struct cm_unit_facts facts;
    int times = 0;
    assert_int_equal(take(ledger, &range, &one), 10);
    cm_unit_record_begin(&again);
    assert_false(cm_ledger_take_this(ledger, &range, NULL, 10, again.key, &facts));
    assert_int_equal(host.error.kind, CM_ERROR_NUMBER_TAKEN);
    assert_string_equal(host.error.detail, "by a");
    snprintf(one.own, sizeof one.own, "{\"gain\":\"118\"}");
    record(ledger, &one, true);
    again = one;
    cm_unit_record_begin(&other);
    memcpy(again.key, other.key, sizeof again.key);
    assert_true(cm_ledger_take_this(ledger, &range, NULL, 10, again.key, &facts));
    assert_int_equal(facts.number, 10);
    record(ledger, &again, false); // it fails, and stays made
    assert_true(cm_ledger_give_back(ledger, again.key));
    struct cm_ledger_query query = {.series = "chosen", .result = CM_UNIT_PASSED};
    assert_true(cm_ledger_each(ledger, &query, count_own, &times));
    assert_int_equal(times, 1);
    query.result = CM_UNIT_FAILED;
    assert_true(cm_ledger_each(ledger, &query, count_own, &times));
    assert_int_equal(times, 2);
    assert_true(cm_ledger_take_this(ledger, &range, NULL, 11, other.key, &facts));
    assert_true(cm_ledger_take_this(ledger, &range, NULL, 11, other.key, &facts)); // asked again
    assert_int_equal(take(ledger, &range, &one), 12); // the next one passes over both
    assert_false(cm_ledger_take_this(ledger, &range, NULL, 13, again.key, &facts));
    assert_int_equal(host.error.kind, CM_ERROR_NUMBER_RANGE);
    cm_ledger_close(ledger);
}

static void chosen_in_a_file(void **state)
{
    (void)state;
    a_number_may_be_chosen(place_of("chosen.ledger"));
}

static void chosen_on_a_server(void **state)
{
    (void)state;
    a_number_may_be_chosen(server_place);
}

static void in_a_file(void **state)
{
    struct stat facts;
    (void)state;
    numbers_have_no_gap_and_no_double(place_of("numbers.ledger"));
    assert_int_equal(stat(place_of("numbers.ledger"), &facts), 0);
    assert_int_equal(facts.st_mode & 0777, 0600);
}

static void on_a_server(void **state)
{
    (void)state;
    numbers_have_no_gap_and_no_double(server_place);
}

static void a_range_ends(void **state)
{
    struct cm_unit_record unit;
    struct cm_unit_facts facts;
    const struct cm_number_range three = {.series = "few", .first = 7, .last = 9},
                                 wider = {.series = "few", .first = 5, .last = 10};
    (void)state;
    struct cm_ledger *ledger = open_ledger(place_of("range.ledger"), "a");
    for (uint64_t number = 7; number <= 9; number++)
        assert_int_equal(take(ledger, &three, &unit), number);
    cm_unit_record_begin(&unit);
    assert_false(cm_ledger_take(ledger, &three, NULL, unit.key, &facts));
    assert_int_equal(host.error.kind, CM_ERROR_NUMBERS_END);
    assert_int_equal(take(ledger, &wider, &unit), 10);
    cm_ledger_close(ledger);
}

static void a_file_names_the_numbers(void **state)
{
    struct cm_unit_record unit;
    struct cm_unit_facts facts;
    char path[300];
    const struct cm_number_range range = {.series = "sites", .last = INT64_MAX};
    (void)state;
    write_file(path, sizeof path, "numbers.csv",
               "site,number\r\n\"north, upper\",41\r\nsouth,17\r\n");
    struct cm_ledger *ledger = open_ledger(place_of("file.ledger"), "a");
    cm_unit_record_begin(&unit);
    assert_true(cm_ledger_take(ledger, &range, path, unit.key, &facts));
    assert_int_equal(facts.number, 41);
    assert_string_equal(facts.values[0], "north, upper");
    assert_true(cm_ledger_take(ledger, &range, path, unit.key, &facts)); // asked again, the same
    assert_int_equal(facts.number, 41);
    assert_string_equal(facts.values[0], "north, upper");
    cm_unit_record_begin(&unit);
    assert_true(cm_ledger_take(ledger, &range, path, unit.key, &facts));
    assert_int_equal(facts.number, 17);
    cm_unit_record_begin(&unit);
    assert_false(cm_ledger_take(ledger, &range, path, unit.key, &facts));
    assert_int_equal(host.error.kind, CM_ERROR_NUMBERS_END);
    static const char *const BAD[] = {"site\nnorth\n", "number,site\n1\n", "number\nx\n",
                                      "number\n\"1\n", "number\n-5\n",     ""};
    for (size_t i = 0; i < sizeof BAD / sizeof BAD[0]; i++) {
        write_file(path, sizeof path, "bad.csv", BAD[i]);
        assert_false(cm_ledger_take(ledger, &range, path, unit.key, &facts));
        assert_int_not_equal(host.error.kind, CM_ERROR_NUMBERS_END);
    }
    cm_ledger_close(ledger);
}

/* --- what is no ledger ------------------------------------------------------------------- */

static void what_is_no_ledger_is_told(void **state)
{
    char path[300];
    (void)state;
    write_file(path, sizeof path, "text.ledger", "this is a text, and no database at all, no");
    assert_null(cm_ledger_open(&host, path, "a"));
    assert_int_equal(host.error.kind, CM_ERROR_LEDGER);
    char command[400];
    snprintf(command, sizeof command, "sqlite3 %s 'CREATE TABLE mine (a)'",
             place_of("other.ledger"));
    assert_int_equal(system(command), 0);
    assert_null(cm_ledger_open(&host, place_of("other.ledger"), "a"));
    assert_string_equal(host.error.detail, "it is another program's database");
    assert_null(cm_ledger_open(&host, "/no/such/folder/x.ledger", "a"));
    assert_int_equal(host.error.kind, CM_ERROR_LEDGER);
    struct cm_ledger *away =
        cm_ledger_open(&host, "postgresql://maker:secret@/nobody?host=/no/such/folder", "a");
    struct cm_unit_facts facts;
    assert_non_null(away); // it may come yet
    assert_false(cm_ledger_take(away, &RANGE, NULL, "key", &facts));
    assert_int_equal(host.error.kind, CM_ERROR_LEDGER_AWAY);
    assert_null(strstr(host.error.path, "secret"));
    cm_ledger_close(away);
    assert_null(cm_ledger_open_made(&host, place_of("not-there.ledger"), "a"));
    assert_int_equal(host.error.kind, CM_ERROR_FILE_UNREADABLE);
}

static void want_no_ledger(const char *place, const char *station, const char *why)
{
    struct cm_ledger *ledger = cm_ledger_open(&host, place, station);
    if (ledger || !strstr(host.error.detail, why))
        fail_msg("'%s': %s", place, ledger ? "opened" : host.error.detail);
}

/* An unset variable is enough for an empty name; and nobody is asked to wait for a pipe. */
static void what_would_lose_units_is_no_ledger(void **state)
{
    char path[300];
    (void)state;
    want_no_ledger("", "a", "its name is empty");
    want_no_ledger(place_of("named.ledger"), "", "the station's name is empty");
    want_no_ledger(place_of("named.ledger"), "caf\xE9", "no text in UTF-8");
    char station[200];
    memset(station, 'x', sizeof station);
    station[150] = '\0';
    want_no_ledger(place_of("named.ledger"), station, "150 bytes, and 127 are the most");
    write_file(path, sizeof path, "emptied.ledger", "");
    want_no_ledger(path, "a", "it is an empty file");
    assert_int_equal(mkfifo(place_of("pipe.ledger"), 0600), 0);
    want_no_ledger(place_of("pipe.ledger"), "a", "it is no file");
}

/* To SQLite these are no files; each unit would get the first number. */
static void sqlites_spellings_are_names_of_files(void **state)
{
    static const char *const PLACES[] = {":memory:", "file:x?mode=memory", "file::memory:"};
    struct cm_unit_record unit;
    char here[1000];
    (void)state;
    assert_non_null(getcwd(here, sizeof here));
    assert_int_equal(chdir(test_folder()), 0);
    for (size_t i = 0; i < sizeof PLACES / sizeof PLACES[0]; i++) {
        for (uint64_t number = 1000; number < 1003; number++) {
            struct cm_ledger *ledger = open_ledger(PLACES[i], "a");
            assert_int_equal(take(ledger, &RANGE, &unit), number);
            record(ledger, &unit, true);
            cm_ledger_close(ledger);
        }
        assert_int_equal(access(PLACES[i], R_OK), 0);
    }
    assert_int_equal(chdir(here), 0);
}

static bool count_unit(void *context, const struct cm_unit_record *unit)
{
    (void)unit;
    ++*(unsigned *)context;
    return true;
}

/* Wherever it was cut off: refused, or all of it is there, and what is recorded is found again. */
static void a_ledger_that_was_cut_is_refused(void **state)
{
    enum { UNITS = 40 };
    char whole[300], cut[300], command[1400];
    struct cm_unit_record unit;
    struct stat facts;
    unsigned refused = 0;
    (void)state;
    snprintf(whole, sizeof whole, "%s", place_of("whole.ledger"));
    snprintf(cut, sizeof cut, "%s", place_of("cut.ledger"));
    struct cm_ledger *ledger = open_ledger(whole, "a");
    for (int i = 0; i < UNITS; i++) {
        take(ledger, &RANGE, &unit);
        record(ledger, &unit, true);
    }
    cm_ledger_close(ledger);
    assert_int_equal(stat(whole, &facts), 0);
    for (off_t bytes = 512; bytes < facts.st_size; bytes += 512) {
        snprintf(command, sizeof command, "rm -f %s-wal %s-shm; head -c %lld %s > %s", cut, cut,
                 (long long)bytes, whole, cut);
        assert_int_equal(system(command), 0);
        ledger = cm_ledger_open(&host, cut, "a");
        refused += ledger == NULL;
        if (!ledger)
            continue;
        take(ledger, &RANGE, &unit);
        record(ledger, &unit, true);
        unsigned found = 0;
        const struct cm_ledger_query query = {.series = "node"};
        assert_true(cm_ledger_each(ledger, &query, count_unit, &found));
        assert_int_equal(found, UNITS + 1);
        cm_ledger_close(ledger);
    }
    assert_true(refused > 0);
}

/* --- what a record can hold -------------------------------------------------------------- */

/* What does not fit is refused beforehand: in 127 bytes there are no 80 letters of two bytes. */
static void a_text_is_whole_or_refused(void **state)
{
    struct cm_unit_record unit;
    char name[400] = "";
    (void)state;
    struct cm_ledger *ledger = open_ledger(place_of("texts.ledger"), "a");
    take(ledger, &RANGE, &unit);
    for (int i = 0; i < 80; i++)
        strcat(name, "\xC3\xA9");
    assert_false(cm_unit_record_set(&host, "board", unit.board, sizeof unit.board, name));
    assert_int_equal(host.error.kind, CM_ERROR_UNIT_TEXT);
    assert_string_equal(host.error.key, "board");
    unit.has_number = true;
    assert_false(cm_ledger_record(ledger, &unit)); // the letter at its end is cut in two
    assert_int_equal(host.error.kind, CM_ERROR_UNIT_TEXT);
    name[2 * 60] = '\0';
    assert_true(cm_unit_record_set(&host, "board", unit.board, sizeof unit.board, name));
    record(ledger, &unit, true);
    cm_ledger_close(ledger);
}

/* --- the latest, and how many ------------------------------------------------------------ */

struct latest {
    uint64_t numbers[4];
    unsigned count;
};

static bool note_latest(void *context, const struct cm_unit_record *unit)
{
    struct latest *latest = context;
    assert_true(latest->count < 4);
    latest->numbers[latest->count++] = unit->number;
    return true;
}

static void the_latest_are_told(const char *place)
{
    const struct cm_number_range range = {.series = "latest", .first = 50, .last = 99};
    struct cm_ledger_query query = {.series = "latest", .last = 3};
    struct cm_unit_counts counts;
    struct cm_unit_record unit;
    struct latest latest = {.count = 0};
    struct cm_ledger *ledger = open_ledger(place, "a");
    for (int i = 0; i < 7; i++) {
        take(ledger, &range, &unit);
        unit.begun = 1000 * i;
        record(ledger, &unit, i != 2);
    }
    assert_true(cm_ledger_each(ledger, &query, note_latest, &latest));
    assert_int_equal(latest.count, 3);
    assert_int_equal(latest.numbers[2], 55); // one that failed gave its number back
    assert_int_equal(latest.numbers[0], 53);
    assert_true(cm_ledger_count(ledger, &query, &counts));
    assert_int_equal(counts.units, 7);
    assert_int_equal(counts.passed, 6);
    cm_ledger_close(ledger);
}

static void the_latest_of_a_file(void **state)
{
    (void)state;
    the_latest_are_told(place_of("latest.ledger"));
}

static void the_latest_of_a_server(void **state)
{
    (void)state;
    the_latest_are_told(server_place);
}

/* --- four stations ----------------------------------------------------------------------- */

enum { STATIONS = 4, FAILS_EVERY = 9 };

/* A station: makes units until it is killed, and notes each that it was told to be recorded. */
static int be_station(const char *place, const char *name, const char *notes)
{
    struct cm_unit_record unit;
    struct cm_unit_facts facts;
    prctl(PR_SET_PDEATHSIG, SIGKILL);
    cm_host_begin(&host, cm_all_ports);
    int file = open(notes, O_WRONLY | O_CREAT | O_APPEND | O_CLOEXEC, 0600);
    struct cm_ledger *ledger = NULL;
    for (unsigned n = (unsigned)getpid(); file >= 0;) {
        while (!ledger && !(ledger = cm_ledger_open(&host, place, name)))
            usleep(20000);
        cm_unit_record_begin(&unit);
        snprintf(unit.series, sizeof unit.series, "%s", RANGE.series);
        while (!cm_ledger_take(ledger, &RANGE, NULL, unit.key, &facts))
            usleep(20000);
        unit.passed = unit.has_number = n++ % FAILS_EVERY != 0;
        unit.number = facts.number;
        if (cm_ledger_record(ledger, &unit) && dprintf(file, "%s %d %llu\n", unit.key, unit.passed,
                                                       (unsigned long long)unit.number) < 0)
            return 1;
    }
    return 1;
}

static pid_t start_station(const char *place, int which)
{
    char name[20], notes[320];
    snprintf(name, sizeof name, "station-%d", which);
    snprintf(notes, sizeof notes, "%s/notes-%d", test_folder(), which);
    fflush(stdout);
    pid_t child = fork();
    if (child)
        return child;
    execl(own_path, own_path, "station", place, name, notes, (char *)NULL);
    _exit(127);
}

struct tally {
    uint64_t units, passed;
    uint8_t *seen; /* by number, of those that passed */
    size_t numbers;
    bool is_double;
};

static bool tally_unit(void *context, const struct cm_unit_record *unit)
{
    struct tally *tally = context;
    tally->units++;
    if (!unit->passed)
        return true;
    tally->passed++;
    size_t at = (size_t)(unit->number - RANGE.first);
    if (!unit->has_number || at >= tally->numbers || tally->seen[at])
        tally->is_double = true;
    else
        tally->seen[at] = 1;
    return true;
}

struct finding {
    const char *key;
    unsigned found;
};

static bool find_key(void *context, const struct cm_unit_record *unit)
{
    struct finding *finding = context;
    finding->found += strcmp(finding->key, unit->key) == 0;
    return true;
}

/* Each that a station was told to be recorded is there, once. */
static unsigned check_notes(struct cm_ledger *ledger, int which)
{
    char notes[320], key[40];
    int passed;
    unsigned long long number;
    unsigned count = 0;
    snprintf(notes, sizeof notes, "%s/notes-%d", test_folder(), which);
    FILE *file = fopen(notes, "r");
    while (file && fscanf(file, "%39s %d %llu", key, &passed, &number) == 3) {
        struct finding finding = {key, 0};
        const struct cm_ledger_query query = {.has_number = passed != 0, .number = number};
        assert_true(cm_ledger_each(ledger, &query, find_key, &finding));
        if (finding.found != 1)
            fail_msg("%s, number %llu, is there %u times", key, number, finding.found);
        count++;
    }
    if (file)
        fclose(file);
    return count;
}

static uint64_t count_units(struct cm_ledger *ledger)
{
    struct cm_number_counts counts;
    return cm_ledger_numbers(ledger, RANGE.series, &counts) ? counts.made : 0;
}

static void restart_server(void)
{
    char command[400];
    snprintf(command, sizeof command, "%s/tests/ledger/server restart %s", SOURCE_FOLDER,
             server_folder);
    assert_int_equal(system(command), 0);
}

static double now_s(void)
{
    struct timespec now;
    clock_gettime(CLOCK_MONOTONIC, &now);
    return (double)now.tv_sec + (double)now.tv_nsec / 1e9;
}

/* Makes so many units by four stations, of which one is killed again and again: ten times at least
 * for each restart of the server. */
static void run_stations(const char *place, uint64_t wanted, unsigned restarts)
{
    pid_t stations[STATIONS];
    unsigned kills = 0, restarted = 0, noted = 0;
    double begun = now_s();
    struct tally tally = {.numbers = 100000};
    srand(test_seed());
    for (int i = 0; i < STATIONS; i++)
        stations[i] = start_station(place, i);
    struct cm_ledger *ledger = open_ledger(place, "harness");
    for (uint64_t made = 0; made < wanted || kills < 10 * restarts; made = count_units(ledger)) {
        usleep(30000 + (useconds_t)(rand() % 120000));
        int which = rand() % STATIONS;
        kill(stations[which], SIGKILL);
        waitpid(stations[which], NULL, 0);
        stations[which] = start_station(place, which);
        kills++;
        if (restarted < restarts && made > (restarted + 1) * wanted / (restarts + 1)) {
            restart_server();
            restarted++;
        }
    }
    for (int i = 0; i < STATIONS; i++) {
        kill(stations[i], SIGKILL);
        waitpid(stations[i], NULL, 0);
    }
    double took = now_s() - begun;
    for (int i = 0; i < STATIONS; i++) { // what waits in a journal is delivered
        char name[20];
        snprintf(name, sizeof name, "station-%d", i);
        cm_ledger_close(open_ledger(place, name));
        noted += check_notes(ledger, i);
    }
    tally.seen = calloc(tally.numbers, 1);
    const struct cm_ledger_query all = {.has_number = false};
    assert_true(cm_ledger_each(ledger, &all, tally_unit, &tally));
    free(tally.seen);
    cm_ledger_close(ledger);
    assert_false(tally.is_double);
    assert_true(tally.passed >= wanted);
    printf("  %s: %llu units, %llu passed, each number once; %u noted by stations, all there once; "
           "%u stations killed, %u restarts of the server; %.1f s\n",
           strncmp(place, "post", 4) ? "SQLite" : "PostgreSQL", (unsigned long long)tally.units,
           (unsigned long long)tally.passed, noted, kills, restarted, took);
    for (int i = 0; i < STATIONS; i++) {
        char notes[320];
        snprintf(notes, sizeof notes, "%s/notes-%d", test_folder(), i);
        unlink(notes);
    }
}

static void stations_share_a_file(void **state)
{
    (void)state;
    run_stations(place_of("shared.ledger"), 100, 0);
}

static void stations_share_a_server(void **state)
{
    char place[300];
    (void)state;
    snprintf(place, sizeof place, "postgresql:///template1?host=%s&user=maker", server_folder);
    run_stations(place, test_does_all() ? 2000 : 600, test_does_all() ? 20 : 2);
}

/* A server that is away: what was made waits in the journal, and is delivered in order, once. */
static void a_lost_server_loses_nothing(void **state)
{
    char command[400], start[400];
    struct cm_unit_record units[3];
    struct cm_unit_facts facts;
    struct tally tally = {.numbers = 100};
    const struct cm_number_range range = {.series = "away", .first = 1000, .last = 1099};
    (void)state;
    struct cm_ledger *ledger = open_ledger(server_place, "far");
    for (int i = 0; i < 3; i++)
        take(ledger, &range, &units[i]);
    record(ledger, &units[0], true);
    snprintf(command, sizeof command, "%s/tests/ledger/server stop %s", SOURCE_FOLDER,
             server_folder);
    snprintf(start, sizeof start, "%s/tests/ledger/server restart %s", SOURCE_FOLDER,
             server_folder);
    assert_int_equal(system(command), 0);
    record(ledger, &units[1], true);
    record(ledger, &units[2], true);
    assert_int_equal(cm_ledger_facts(ledger).in_journal, 2);
    cm_unit_record_begin(&units[0]);
    assert_false(cm_ledger_take(ledger, &range, NULL, units[0].key, &facts));
    assert_int_equal(host.error.kind, CM_ERROR_LEDGER_AWAY);
    cm_ledger_close(ledger);
    ledger = open_ledger(server_place, "far"); // opened without a server
    assert_int_equal(cm_ledger_facts(ledger).in_journal, 2);
    cm_ledger_close(ledger);
    assert_int_equal(system(start), 0);
    ledger = open_ledger(server_place, "far");
    assert_int_equal(cm_ledger_facts(ledger).in_journal, 0);
    tally.seen = calloc(tally.numbers, 1);
    const struct cm_ledger_query query = {.series = "away"};
    assert_true(cm_ledger_each(ledger, &query, tally_unit, &tally));
    free(tally.seen);
    assert_int_equal(tally.passed, 3);
    assert_false(tally.is_double);
    cm_ledger_close(ledger);
}

static char *journal_of_late(void)
{
    static char path[400];
    char command[500];
    snprintf(command, sizeof command, "ls -t %s/coldmint/ledger/journal-*.jsonl", test_folder());
    FILE *list = popen(command, "r");
    assert_non_null(list);
    if (!fgets(path, sizeof path, list))
        path[0] = '\0';
    pclose(list);
    path[strcspn(path, "\n")] = '\0';
    return path;
}

static void append(const char *path, const char *line)
{
    FILE *file = fopen(path, "a");
    assert_non_null(file);
    fputs(line, file);
    fclose(file);
}

static void want_in_file(const char *path, const char *words)
{
    char *text = read_file(path);
    assert_non_null(text);
    if (!strstr(text, words))
        fail_msg("no '%s' in %s:\n%s", words, path, text);
    free(text);
}

/* Lines that no later try will get in block nobody: they go into a file of their own, each with its
 * reason. */
static void what_the_server_refuses_is_set_aside(void **state)
{
    const struct cm_number_range range = {.series = "aside", .first = 1, .last = 99};
    const struct cm_ledger_query query = {.series = "aside"};
    char path[400], command[1000], line[700];
    struct cm_unit_record unit;
    unsigned found = 0;
    (void)state;
    struct cm_ledger *ledger = open_ledger(server_place, "aside");
    take(ledger, &range, &unit);
    record(ledger, &unit, true); // so there is a journal
    snprintf(path, sizeof path, "%s", journal_of_late());
    snprintf(line, sizeof line, "{\"ledger\":\"%s\",\"key\":\"big\",\"number\":-1}\n",
             server_place);
    append(path, line);
    append(path, "{\"ledger\":\"another\",\"key\":\"foreign\",\"series\":\"aside\"}\n");
    append(path, "{\"ledger\": cut \xE9\n");
    take(ledger, &range, &unit);
    record(ledger, &unit, true);
    struct cm_ledger_facts facts = cm_ledger_facts(ledger);
    assert_int_equal(facts.in_journal, 0);
    assert_int_equal(facts.set_aside, 3);
    assert_true(cm_ledger_each(ledger, &query, count_unit, &found));
    assert_int_equal(found, 2);
    want_in_file(facts.aside, "out of range");
    want_in_file(facts.aside, "it is for another ledger");
    want_in_file(facts.aside, "it is not a whole line");
    cm_ledger_close(ledger);
    snprintf(command, sizeof command, "rm -f %s && mkfifo %s", path, path);
    assert_int_equal(system(command), 0);
    assert_null(cm_ledger_open(&host, server_place, "aside")); // and does not hang
    unlink(path);
}

/* --- the server -------------------------------------------------------------------------- */

static int start_server(void **state)
{
    char command[400];
    (void)state;
    cm_host_begin(&host, cm_all_ports);
    const char *where = getenv("TMPDIR"); // a socket is in it: its path must be short
    snprintf(server_folder, sizeof server_folder, "%.60s/coldmint-pg-%d",
             where && *where ? where : "/tmp", (int)getpid());
    snprintf(server_place, sizeof server_place, "postgresql:///postgres?host=%s&user=maker",
             server_folder);
    snprintf(command, sizeof command, "%s/tests/ledger/server start %s", SOURCE_FOLDER,
             server_folder);
    return system(command);
}

static int stop_server(void **state)
{
    char command[400];
    (void)state;
    snprintf(command, sizeof command, "%s/tests/ledger/server stop %s; rm -rf %s", SOURCE_FOLDER,
             server_folder, server_folder);
    int code = system(command);
    cm_host_end(&host);
    return code;
}

int main(int argc, char **argv)
{
    if (argc == 5 && strcmp(argv[1], "station") == 0)
        return be_station(argv[2], argv[3], argv[4]);
    ssize_t length = readlink("/proc/self/exe", own_path, sizeof own_path - 1);
    own_path[length > 0 ? length : 0] = '\0';
    setenv("XDG_STATE_HOME", test_folder(), 1);
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(in_a_file),
        cmocka_unit_test(on_a_server),
        cmocka_unit_test(chosen_in_a_file),
        cmocka_unit_test(chosen_on_a_server),
        cmocka_unit_test(a_range_ends),
        cmocka_unit_test(a_file_names_the_numbers),
        cmocka_unit_test(what_is_no_ledger_is_told),
        cmocka_unit_test(what_would_lose_units_is_no_ledger),
        cmocka_unit_test(sqlites_spellings_are_names_of_files),
        cmocka_unit_test(a_ledger_that_was_cut_is_refused),
        cmocka_unit_test(a_text_is_whole_or_refused),
        cmocka_unit_test(the_latest_of_a_file),
        cmocka_unit_test(the_latest_of_a_server),
        cmocka_unit_test(what_the_server_refuses_is_set_aside),
        cmocka_unit_test(a_lost_server_loses_nothing),
        cmocka_unit_test(stations_share_a_file),
        cmocka_unit_test(stations_share_a_server),
    };
    return cmocka_run_group_tests_name("ledger", tests, start_server, stop_server);
}
