/*
 * Help, from the tables of the verbs.
 */
#include "help.h"
#include "list.h"
#include "options.h"
#include <stdio.h>

static void print_options(const struct poptOption *options)
{
    for (; options && (options->longName || options->shortName); options++) {
        char name[60];
        snprintf(name, sizeof name, "--%s%s%s", options->longName, options->argDescrip ? " " : "",
                 options->argDescrip ? options->argDescrip : "");
        printf("  %-18s %s\n", name, options->descrip);
    }
}

void print_help(void)
{
    enum { BREAK_BEFORE = 7 };
    printf("coldmint %s: programs chips in place\n\nusage: coldmint VERB [options] [things]\n\n",
           CM_VERSION);
    for (int i = 0; verbs[i]; i++)
        printf("  %-18s %s\n", verbs[i]->name, verbs[i]->summary);
    printf("\noptions of most verbs:\n");
    for (int i = 0; i < COMMON_COUNT; i++)
        print_options(common_options[i].options);
    printf("\nexit codes:");
    for (int i = 0; exit_words[i].word; i++)
        printf("%s%s%d %s", i ? "," : "", i == BREAK_BEFORE ? "\n" : " ", (int)exit_words[i].code,
               exit_words[i].word);
    printf(
        "\n\n'coldmint VERB --help' tells more. Begin with: coldmint look --via sim:BENCH.yaml\n");
}

void print_verb_help(const struct verb *verb)
{
    printf("coldmint %s %s\n\n%s.\n\n", verb->name, verb->things, verb->summary);
    print_options(verb->options);
    for (int i = 0; i < COMMON_COUNT; i++) {
        if (verb_heeds(verb, i))
            print_options(common_options[i].options);
    }
    printf("\nexample:\n  %s\n\nthe usual mistake:\n  %s\n", verb->example, verb->mistake);
}
