/*
 * Help, from the tables of the verbs.
 */
#include "help.h"
#include "list.h"
#include "options.h"
#include <stdio.h>
#include <string.h>

static void print_option(const struct poptOption *option)
{
    char name[60];
    snprintf(name, sizeof name, "--%s%s%s", option->longName, option->argDescrip ? " " : "",
             option->argDescrip ? option->argDescrip : "");
    printf("  %-18s %s\n", name, option->descrip);
    for (int i = 0; strcmp(option->longName, "via") == 0 && cm_all_ports[i]; i++)
        printf("  %-18s %s, a %s\n", "", cm_all_ports[i]->form, cm_all_ports[i]->what);
}

static void print_options(const struct poptOption *options)
{
    for (; options && (options->longName || options->shortName); options++)
        print_option(options);
}

static void print_common(const struct verb *verb)
{
    for (int i = 0; i < COMMON_COUNT; i++) {
        if (!verb || verb_heeds(verb, i))
            print_options(common_options[i].options);
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
    print_common(NULL);
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
    for (const struct act *act = verb->acts; act && act->name; act++)
        printf("  %-18s %s\n", act->name, act->summary);
    if (verb->acts)
        printf("\n'coldmint %s %s --help' tells more of one of them.\n\n", verb->name,
               verb->acts->name);
    print_options(verb->options);
    print_common(verb);
    if (verb->print_more)
        verb->print_more();
    printf("\nexample:\n  %s\n\nthe usual mistake:\n  %s\n", verb->example, verb->mistake);
}

void print_act_help(const struct verb *verb, const struct act *act)
{
    printf("coldmint %s %s %s\n\n%s.\n\n", verb->name, act->name, act->things, act->summary);
    for (const struct poptOption *own = verb->options; own && own->longName; own++) {
        if (act_heeds(act, own->longName))
            print_option(own);
    }
    print_common(verb);
    if (verb->print_more && act->prints_more)
        verb->print_more();
    printf("\nexample:\n  %s\n", act->example);
}
