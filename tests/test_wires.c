/*
 * Hardware: a chip of each family on a simulated bench, with one wire that is open, noisy or
 * shorted for a while, or with clocks that are lost or come twice.
 *
 * The law: CM_OK means that every wanted byte is right and that no other byte has changed; what is
 * kept is what there was; what compares equal is as it was; and looking changes nothing. Each
 * wire fails at many places of the job and for several lengths; the chip's own cells are looked at
 * then. The places are others each day (support/chance.h). COLDMINT_CAMPAIGN=100 does a hundred
 * times as many jobs, COLDMINT_CAMPAIGN_SHOW=1 names those that break the law.
 */
#include "support/campaign.h"
#include "support/chance.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

#ifdef __SANITIZE_ADDRESS__
enum { ON_THE_PLAIN_WAY = 1, ON_ANOTHER = 1 }; // what the sanitizers see; the law is proven without
#else
enum { ON_THE_PLAIN_WAY = 6, ON_ANOTHER = 2 };
#endif

/* Places of a fault of one length. */
static unsigned places(void)
{
    return (test_is_plain_way() ? ON_THE_PLAIN_WAY : ON_ANOTHER) * campaign_size();
}

struct wiring {
    struct subject subject;
    const char *wires;  /* names, separated by a blank */
    const char *shorts; /* pairs, likewise: "mosi=sck" */
};

#define SPI_WIRES  "mosi miso sck select supply all"
#define ONLY_LINES "port:\n  only_lines: true\n"

static const struct wiring WIRINGS[] = {
    {{.part = "attiny13a",
      .more = "",
      .first = 96,
      .count = 160,
      .data_count = 8,
      .workspace = 512},
     "mosi miso sck reset supply all",
     "mosi=miso mosi=sck"},
    {{.part = "attiny2313a",
      .more = "",
      .first = 64,
      .count = 192,
      .data_count = 0,
      .workspace = 256,
      .keeps_old = true},
     "mosi miso sck reset all",
     "mosi=sck"},
    {{.part = "atmega16",
      .more = "",
      .first = 256,
      .count = 256,
      .data_count = 6,
      .workspace = 512,
      .keeps_old = true},
     "mosi miso sck reset all",
     ""},
    {{.part = "at90s2313",
      .more = "",
      .first = 32,
      .count = 48,
      .data_count = 0,
      .workspace = 128,
      .keeps_old = true,
      .obeys_reads = true},
     "mosi miso sck reset all",
     ""},
    {{.part = "attiny84a",
      .more = ONLY_LINES,
      .first = 0,
      .count = 128,
      .data_count = 0,
      .workspace = 256,
      .keeps_old = true},
     "mosi miso sck",
     ""},
    {{.part = "mx25l512", .more = "", .first = 4096 + 700, .count = 900, .workspace = 8192},
     SPI_WIRES,
     "mosi=miso mosi=sck"},
    {{.part = "sst25vf020b", .more = "", .first = 4096 + 10, .count = 60, .workspace = 8192},
     SPI_WIRES,
     ""},
    {{.part = "25lc640a", .more = "", .first = 100, .count = 200, .workspace = 1024},
     SPI_WIRES,
     "mosi=miso"},
    {{.part = "24lc16b", .more = "", .first = 200, .count = 150, .workspace = 512},
     "sda scl supply all",
     "sda=scl"},
    {{.part = "24lc256", .more = "", .first = 200, .count = 300, .workspace = 512},
     "sda scl supply all",
     "sda=scl"},
    {{.part = "93lc56b", .more = "", .first = 31, .count = 40, .workspace = 256}, SPI_WIRES, ""},
    {{.part = "am29f010b", .more = "", .first = 16384 + 3000, .count = 300, .workspace = 40000},
     "ce oe we a0 a3 a14 d0 d5 d7 supply all",
     "a1=a2 d0=a0 d3=d4"},
    {{.part = "sst39sf010a", .more = "", .first = 4096 + 1000, .count = 200, .workspace = 12000},
     "ce oe we a0 a5 a12 d0 d3 d7 supply all",
     "a1=a2"},
    {{.part = "at29c256",
      .more = "",
      .first = 1000,
      .count = 300,
      .workspace = 1024,
      .takes_pieces = true},
     "ce oe we a0 a7 d0 d7 supply all",
     "a1=a2"},
    {{.part = "at28c64b", .more = "", .first = 1000, .count = 300, .workspace = 1024},
     "ce oe we a0 a7 d0 d7 supply all",
     "a1=a2"},
    {{.part = "at28c16", .more = "", .first = 500, .count = 60, .workspace = 512},
     "ce oe we a0 a7 d0 d7 supply all",
     "a1=a2"},
    {{.part = "m27c256b",
      .more = "port:\n  feeds_from_mv: 1800\n  feeds_to_mv: 6500\n  raises_vpp: true\n",
      .first = 500,
      .count = 40,
      .workspace = 512,
      .keeps_old = true,
      .once_only = true},
     "ce oe we a0 a7 d0 d7",
     "a1=a2"},
};

/* Lengths of a fault in clocks; 0 is for ever. */
static const uint32_t LENGTHS[] = {1, 3, 8, 24, 64, 0};
enum { LENGTH_COUNT = sizeof LENGTHS / sizeof LENGTHS[0] };

/* Clocks that are lost, or come twice, on the clock of a serial bus: so many at most. */
static const char *const SLIPS[] = {"low", "twice"};
enum { MOST_SLIPS = 9 };

static const char *clock_of(const struct wiring *wiring)
{
    return strstr(wiring->wires, "sck") ? "sck" : strstr(wiring->wires, "scl") ? "scl" : NULL;
}

/* One fault at places all over the job: each at a random clock of its share. */
static void at_all_places(struct campaign *campaign, struct sim_wire_fault fault, uint32_t *seed,
                          campaign_fn *act, struct tally *tally)
{
    unsigned count = places();
    uint64_t clocks = act == campaign_keep    ? campaign->keep_clocks
                      : act == campaign_match ? campaign->match_clocks
                                              : campaign->clocks;
    uint32_t share = (uint32_t)(clocks / count) + 1;
    for (unsigned i = 0; i < count; i++) {
        fault.from = i * share + test_draw(seed, share);
        act(campaign, &fault, tally);
    }
}

static void with_wire(struct campaign *campaign, const char *text, struct tally *tally)
{
    struct sim_wire_fault fault;
    uint32_t seed = ((uint32_t)strlen(text) * 77 + (uint32_t)text[0]) ^ test_seed() * 2654435761u;
    assert_true(sim_wire_parse(text, &fault));
    for (unsigned i = 0; i < LENGTH_COUNT; i++) {
        fault.count = LENGTHS[i];
        at_all_places(campaign, fault, &seed, campaign_job, tally);
    }
}

/* One fault in the middle of comparing the chip with what it holds. */
static void match_with_wire(struct campaign *campaign, const char *text, struct tally *tally)
{
    struct sim_wire_fault fault;
    uint32_t seed = test_seed() ^ 0x3A7Cu;
    assert_true(sim_wire_parse(text, &fault));
    for (unsigned i = 0; i < LENGTH_COUNT; i++) {
        fault.count = LENGTHS[i];
        at_all_places(campaign, fault, &seed, campaign_match, tally);
    }
}

/* Noise all the time, of a rate that lets some jobs end well. */
static void with_noise(struct campaign *campaign, const char *wire, struct tally *tally)
{
    char text[SIM_WIRE_TEXT];
    struct sim_wire_fault fault;
    uint32_t seed = test_seed();
    for (unsigned i = 0; i < places(); i++) {
        snprintf(text, sizeof text, "%s=noise/%u", wire,
                 (unsigned)(campaign->clocks / 2 + 100 * i));
        assert_true(sim_wire_parse(text, &fault));
        fault.from = i + test_draw(&seed, 1000); // so that the same clocks are not hit each time
        campaign_job(campaign, &fault, tally);
    }
}

/* The argument K/N: of the parts, the Kth of N shares. Under sanitizers a third of the parts each
 * day. */
static unsigned share = 1, shares = 1;

static bool is_of_share(size_t part)
{
    const char *only = getenv("COLDMINT_CAMPAIGN_PART");
    if (only)
        return strcmp(only, WIRINGS[part].subject.part) == 0;
#ifdef __SANITIZE_ADDRESS__
    if (!test_takes_part((uint32_t)part))
        return false;
#endif
    return part % shares == share - 1;
}

static void print_row(const char *part, const char *wire, const struct tally *tally)
{
    printf("  %-12s %-8s %6u %6u %6u %6u %6u\n", part, wire, tally->jobs, tally->good, tally->wrong,
           tally->untold, tally->stuck);
}

static void add(struct tally *sum, const struct tally *more)
{
    sum->jobs += more->jobs;
    sum->good += more->good;
    sum->wrong += more->wrong;
    sum->untold += more->untold;
    sum->stuck += more->stuck;
}

static void run_wire(struct campaign *campaign, const char *wire, struct tally *sum)
{
    static const char *const READS[] = {"low", "high", "noise", "ground"};
    struct tally tally = {0};
    char text[SIM_WIRE_TEXT];
    bool shorted = strchr(wire, '=') != NULL, is_shared = strcmp(wire, "sda") == 0;
    for (int i = 0; i < (shorted ? 1 : is_shared ? 4 : 3); i++) {
        snprintf(text, sizeof text, shorted ? "%s" : "%s=%s", wire, READS[i]);
        with_wire(campaign, text, &tally);
        match_with_wire(campaign, text, &tally);
    }
    if (!shorted && strcmp(wire, "supply") != 0)
        with_noise(campaign, wire, &tally);
    print_row(campaign->subject->part, wire, &tally);
    add(sum, &tally);
}

/* Clocks that are lost, or come twice, at any place: from there on the chip is at another bit. */
static void with_slips(struct campaign *campaign, const char *wire, struct tally *sum)
{
    struct tally puts = {0}, keeps = {0};
    uint32_t seed = test_seed() ^ 0x511Bu;
    char text[SIM_WIRE_TEXT];
    struct sim_wire_fault fault;
    for (unsigned i = 0; i < 2 * MOST_SLIPS; i++) {
        snprintf(text, sizeof text, "%s=%s", wire, SLIPS[i % 2]);
        assert_true(sim_wire_parse(text, &fault));
        fault.count = 1 + i / 2;
        at_all_places(campaign, fault, &seed, campaign_job, &puts);
        at_all_places(campaign, fault, &seed, campaign_keep, &keeps);
    }
    if (campaign->subject->obeys_reads)
        keeps.wrong = keeps.untold = 0;
    print_row(campaign->subject->part, "slip", &puts);
    print_row(campaign->subject->part, "slip+", &keeps);
    add(sum, &puts);
    add(sum, &keeps);
}

static void run_words(struct campaign *campaign, const char *words, struct tally *sum)
{
    char copy[120], *place;
    snprintf(copy, sizeof copy, "%s", words);
    for (char *word = strtok_r(copy, " ", &place); word; word = strtok_r(NULL, " ", &place))
        run_wire(campaign, word, sum);
}

static void a_good_end_is_right_whatever_one_wire_does(void **state)
{
    struct tally sum = {0};
    (void)state;
    printf("  %-12s %-8s %6s %6s %6s %6s %6s\n", "part", "wire", "jobs", "good", "wrong", "untold",
           "stuck");
    for (size_t i = 0; i < sizeof WIRINGS / sizeof WIRINGS[0]; i++) {
        static struct campaign campaign;
        if (!is_of_share(i))
            continue;
        campaign_open(&campaign, &WIRINGS[i].subject);
        run_words(&campaign, WIRINGS[i].wires, &sum);
        run_words(&campaign, WIRINGS[i].shorts, &sum);
        const char *clock = clock_of(&WIRINGS[i]);
        if (clock)
            with_slips(&campaign, clock, &sum);
        campaign_close(&campaign);
    }
    print_row("all", "", &sum);
    assert_int_equal(sum.wrong, 0);
    assert_int_equal(sum.untold, 0);
    assert_int_equal(sum.stuck, 0);
}

/* Slips at many places of a look; how many of them changed something. */
static unsigned look_with_slips(struct campaign *campaign, const char *wire, unsigned *looks)
{
    unsigned changed = 0;
    uint32_t seed = test_seed() ^ 0x100Cu;
    uint64_t clocks = campaign_look_clocks(campaign);
    char text[SIM_WIRE_TEXT];
    for (unsigned i = 0; i < 2 * MOST_SLIPS * places(); i++) {
        struct sim_wire_fault fault;
        snprintf(text, sizeof text, "%s=%s@%u+%u", wire, SLIPS[i % 2],
                 (unsigned)test_draw(&seed, (uint32_t)clocks), 1 + i / 2 % MOST_SLIPS);
        assert_true(sim_wire_parse(text, &fault));
        changed += !campaign_look(campaign, &fault, i % 4 < 2 ? campaign->subject->part : NULL);
        (*looks)++;
    }
    return changed;
}

/*
 * Looking for a chip, with each wire off: all of the time, or from some clock on. A page flash
 * whose protection is off is the exception that its sheet leaves no way around: a piece of the
 * command that asks for its id is data to it. Then the look fails, or leaves a doubt behind.
 */
static void looking_changes_nothing(void **state)
{
    static const char *const READS[] = {"low", "high"};
    unsigned looks = 0, changed = 0;
    (void)state;
    for (size_t i = 0; i < sizeof WIRINGS / sizeof WIRINGS[0]; i++) {
        static struct campaign campaign;
        char copy[120], *place, text[SIM_WIRE_TEXT];
        if (!is_of_share(i))
            continue;
        campaign_open(&campaign, &WIRINGS[i].subject);
        snprintf(copy, sizeof copy, "%s", WIRINGS[i].wires);
        for (char *word = strtok_r(copy, " ", &place); word; word = strtok_r(NULL, " ", &place)) {
            for (unsigned j = 0; j < 2 * places(); j++) {
                struct sim_wire_fault fault;
                snprintf(text, sizeof text, "%s=%s@%u", word, READS[j % 2], j / 2 * 13);
                assert_true(sim_wire_parse(text, &fault));
                changed += !campaign_look(&campaign, &fault, WIRINGS[i].subject.part);
                fault.count = 8 + j;
                changed += !campaign_look(&campaign, &fault, WIRINGS[i].subject.part);
                looks += 2;
            }
        }
        const char *clock = clock_of(&WIRINGS[i]);
        changed += clock ? look_with_slips(&campaign, clock, &looks) : 0;
        campaign_close(&campaign);
    }
    printf("  looked %u times, %u times something changed\n", looks, changed);
    assert_int_equal(changed, 0);
}

int main(int argc, char **argv)
{
    if (argc > 1 && sscanf(argv[1], "%u/%u", &share, &shares) != 2)
        return 2;
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(looking_changes_nothing),
        cmocka_unit_test(a_good_end_is_right_whatever_one_wire_does),
    };
    return cmocka_run_group_tests(tests, NULL, NULL);
}
