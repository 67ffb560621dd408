/* The options that several verbs have, and the exit codes. */
#ifndef CM_CLI_OPTIONS_H
#define CM_CLI_OPTIONS_H

#include "tool.h"

/* Options that several verbs have. */
struct common_options {
    struct poptOption *options;
    unsigned heeds; /* enum heeds; 0: for verbs that heed everything */
    bool always;
};
enum { COMMON_COUNT = 4 };
extern const struct common_options common_options[COMMON_COUNT];
bool verb_heeds(const struct verb *verb, int common);

/* The act of this name, or NULL; and does it heed an option of its verb? */
const struct act *find_act(const struct verb *verb, const char *name);
bool act_heeds(const struct act *act, const char *option);

/* The exit codes in words, ended by NULL. */
struct exit_word {
    enum exit_code code;
    const char *word;
};
extern const struct exit_word exit_words[];

/* popt writes to fixed places: here, and into each verb's own struct. */
extern struct common common_given;
extern int wants_help; /* --help was given */

#endif
