/*
 * ring: rings the bell so many times.
 */
#include <say.h>
#include <words/fail.h>

static struct {
    int times;
} given = {.times = 1};

static enum exit_code run(struct tool *tool, const char *const *things)
{
    if (things[0])
        return tool_fail_as(tool, EXIT_USAGE, "ring takes no things", things[0], "coldmint ring");
    say(tool, "bell", "%d times", given.times);
    set_json(tool, "times", json_integer(given.times));
    say_last(tool, "it was heard");
    return EXIT_GOOD;
}

static const struct poptOption options[] = {
    {"times", 0, POPT_ARG_INT, &given.times, 0, "how often", "N"}, POPT_TABLEEND};

const struct verb verb_ring = {.name = "ring",
                               .things = "[options]",
                               .summary = "ring the bell",
                               .example = "coldmint ring --times 3",
                               .mistake = "ringing it at night",
                               .heeds = HEEDS_NOTHING,
                               .options = options,
                               .run = run};
