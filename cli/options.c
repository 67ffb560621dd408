/*
 * The options that several verbs have, and the exit codes in words.
 */
#include "options.h"
#include "list.h"
#include <string.h>

const struct exit_word exit_words[] = {{EXIT_GOOD, "good"},
                                       {EXIT_DIFFERS, "chip and file differ"},
                                       {EXIT_USAGE, "usage"},
                                       {EXIT_NO_PORT, "no port"},
                                       {EXIT_NO_CHIP, "no chip"},
                                       {EXIT_WRONG_CHIP, "wrong chip"},
                                       {EXIT_PROTECTED, "protected"},
                                       {EXIT_WRITE_FAILED, "failed to write or verify"},
                                       {EXIT_CONTACT_LOST, "contact lost"},
                                       {EXIT_BAD_FILE, "bad file"},
                                       {EXIT_REFUSED, "refused for safety"},
                                       {EXIT_INTERRUPTED, "interrupted"},
                                       {EXIT_GOOD, NULL}};

struct common common_given;
int wants_help;

/* A list, though one verb alone takes more than one. */
static struct poptOption via_option[] = {{"via", 'v', POPT_ARG_ARGV, &common_given.vias, 0,
                                          "through what ('coldmint ports' lists what is here), or "
                                          "a name from the configuration file; COLDMINT_VIA:",
                                          "PORT"},
                                         POPT_TABLEEND};
static struct poptOption chip_option[] = {{"chip", 'c', POPT_ARG_STRING, &common_given.chip, 0,
                                           "the chip that must be there; anything else stops the "
                                           "job. Of several on an I2C bus: NAME@52",
                                           "NAME"},
                                          POPT_TABLEEND};
static struct poptOption work_options[] = {
    {"clock", 0, POPT_ARG_STRING, &common_given.clock, 0,
     "the chip's own clock, if you know it: goes as fast as that allows; of a memory, the fastest "
     "for the bus",
     "HZ"},
    {"feed", 0, POPT_ARG_STRING, &common_given.feed, 0,
     "feed the target with this voltage, if it has no supply of its own; 'search' finds one, in "
     "circuit",
     "VOLTS"},
    {"record", 0, POPT_ARG_STRING, &common_given.record, 0,
     "write what crosses the wires to a VCD file, for a waveform viewer", "FILE"},
    POPT_TABLEEND};
static struct poptOption every_option[] = {
    {"json", 0, POPT_ARG_NONE, &common_given.json, 0, "one JSON object on stdout, for machines",
     NULL},
    {"help", 'h', POPT_ARG_NONE, &wants_help, 0, "this help", NULL},
    POPT_TABLEEND};

/* The common options, and for which verbs they are. */
const struct common_options common_options[COMMON_COUNT] = {{via_option, HEEDS_VIA, false},
                                                            {chip_option, HEEDS_CHIP, false},
                                                            {work_options, 0, false},
                                                            {every_option, 0, true}};
bool verb_heeds(const struct verb *verb, int common)
{
    return common_options[common].always || verb->heeds == HEEDS_ALL ||
           (verb->heeds & common_options[common].heeds);
}

const struct act *find_act(const struct verb *verb, const char *name)
{
    for (const struct act *act = verb->acts; act && act->name && name; act++) {
        if (strcmp(act->name, name) == 0)
            return act;
    }
    return NULL;
}

bool act_heeds(const struct act *act, const char *option)
{
    const size_t length = strlen(option);
    for (const char *at = act->options; at && (at = strstr(at, option)) != NULL; at += length) {
        bool begins = at == act->options || at[-1] == ' ';
        if (begins && (at[length] == ' ' || !at[length]))
            return true;
    }
    return false;
}

const struct verb *find_verb(const char *name)
{
    for (int i = 0; verbs[i]; i++) {
        if (strcmp(verbs[i]->name, name) == 0)
            return verbs[i];
    }
    return NULL;
}
