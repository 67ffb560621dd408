/* The list of the verbs and of the options that several of them have. */
#ifndef CM_CLI_VERBS_H
#define CM_CLI_VERBS_H

#include "tool.h"

extern const struct verb *const verbs[]; /* ended by NULL */
const struct verb *find_verb(const char *name);

/* Options that several verbs have. */
struct common_options {
    struct poptOption *options;
    unsigned heeds; /* enum heeds; 0: for verbs that heed everything */
    bool always;
};
enum { COMMON_COUNT = 4 };
extern const struct common_options common_options[COMMON_COUNT];
bool verb_heeds(const struct verb *verb, int common);

/* The exit codes in words, ended by NULL. */
struct exit_word {
    enum exit_code code;
    const char *word;
};
extern const struct exit_word exit_words[];

extern int wants_help; /* --help was given */

/* help.c: what is printed of them. */
void print_help(void);
void print_verb_help(const struct verb *verb);

/* man.c: the man page, in the man macros; and words for a shell's completion, one a line. */
void print_man_page(void);
void print_words_of(const char *kind, const char *const *arguments);

#endif
