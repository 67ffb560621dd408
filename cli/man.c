/*
 * The man page and the words for a shell's completion, both from the tables of the verbs, the parts
 * and the settings.
 *
 * Neither is for people to call: the build writes the page by `coldmint --man`, and the completion
 * script (coldmint.bash) asks `coldmint --words KIND ...`.
 */
#include "man.h"
#include "list.h"
#include "options.h"
#include "say.h"
#include "words/settings.h"
#include <stdio.h>
#include <string.h>

/* --- the man page ------------------------------------------------------------------------ */

/* Text for the man macros: a backslash, a hyphen, and a dot or quote that begins a line mean more
 * than themselves there. */
static void print_roff(const char *text)
{
    if (*text == '.' || *text == '\'')
        printf("\\&");
    for (; *text; text++) {
        if (*text == '\\')
            printf("\\e");
        else if (*text == '-')
            printf("\\-");
        else
            putchar(*text);
    }
}

static void print_paragraph(const char *macro, const char *text, const char *end)
{
    printf("%s\n", macro);
    print_roff(text);
    printf("%s\n", end);
}

static void print_option_list(const struct poptOption *options)
{
    for (; options && (options->longName || options->shortName); options++) {
        printf(".TP\n\\fB\\-\\-%s\\fR", options->longName);
        if (options->argDescrip) {
            printf(" \\fI");
            print_roff(options->argDescrip);
            printf("\\fR");
        }
        printf("\n");
        print_roff(options->descrip);
        printf("\n");
    }
}

static void print_verb_section(const struct verb *verb)
{
    printf(".SS ");
    print_roff(verb->name);
    print_paragraph("\n.B", "coldmint ", "");
    print_roff(verb->name);
    printf(" ");
    print_roff(verb->things);
    print_paragraph("\n.PP", verb->summary, ".");
    print_option_list(verb->options);
    print_paragraph(".PP\nExample:\n.RS 4\n.nf", verb->example, "\n.fi\n.RE");
    print_paragraph(".PP\nThe usual mistake:", verb->mistake, ".");
}

void print_man_page(void)
{
    printf(".TH COLDMINT 1 \"\" \"coldmint %s\" \"User Commands\"\n", CM_VERSION);
    printf(".SH NAME\ncoldmint \\- programs chips in place\n");
    printf(".SH SYNOPSIS\n.B coldmint\n.I VERB\n[options] [things]\n");
    printf(".SH DESCRIPTION\n");
    print_roff("Burns boot loaders, writes fuses and lock bits, checks signatures; backs up, "
               "unprotects, erases, writes and verifies SPI flash, EEPROMs and ROM memories. Each "
               "command ends with a line that says whether the chip is good.");
    printf("\n.SH VERBS\n");
    for (int i = 0; verbs[i]; i++)
        print_verb_section(verbs[i]);
    printf(".SH COMMON OPTIONS\nA verb takes those that make sense for it.\n");
    for (int i = 0; i < COMMON_COUNT; i++)
        print_option_list(common_options[i].options);
    printf(".SH EXIT STATUS\n");
    for (const struct exit_word *exit = exit_words; exit->word; exit++)
        printf(".TP\n%d\n%s\n", (int)exit->code, exit->word);
    printf(".SH ENVIRONMENT\n.TP\nCOLDMINT_VIA\nthe port, where no \\-\\-via is given\n"
           ".TP\nNO_COLOR\nno colours, if it is set\n");
}

/* --- words for completion ---------------------------------------------------------------- */

static void list_options(const char *name)
{
    const struct verb *verb = name ? find_verb(name) : NULL;
    for (const struct poptOption *own = verb ? verb->options : NULL;
         own && (own->longName || own->shortName); own++)
        printf("--%s%s\n", own->longName, own->argDescrip ? "=" : "");
    for (int i = 0; verb && i < COMMON_COUNT; i++) {
        for (const struct poptOption *common = common_options[i].options;
             verb_heeds(verb, i) && common->longName; common++)
            printf("--%s%s\n", common->longName, common->argDescrip ? "=" : "");
    }
}

static void list_chips(const struct tool *tool)
{
    for (uint8_t k = 0; k < tool->host.kit_count; k++) {
        for (uint16_t i = 0; i < tool->host.kits[k].part_count; i++)
            printf("%s\n", tool->host.kits[k].parts[i]->name);
    }
}

/* Settings as "name=choice"; of a part that is not known, none. */
static void list_settings(struct tool *tool, const char *chip)
{
    const struct cm_part *part = chip ? cm_host_part(&tool->host, chip) : NULL;
    const struct cm_words *words = part ? words_of(tool, part) : NULL;
    uint8_t bytes[CM_SETTING_BYTES];
    memset(bytes, 0xFF, sizeof bytes);
    struct cm_setting setting;
    for (uint8_t i = 0; words && words->setting(part, bytes, i, &setting); i++) {
        const struct cm_choice *choice = NULL;
        while ((choice = settings_next_choice(&setting, choice)))
            printf("%s=%s\n", setting.name, choice->word);
    }
}

void print_words_of(struct tool *tool, const char *kind, const char *const *arguments)
{
    if (strcmp(kind, "verbs") == 0) {
        for (int i = 0; verbs[i]; i++)
            printf("%s\n", verbs[i]->name);
    } else if (strcmp(kind, "options") == 0) {
        list_options(arguments[0]);
    } else if (strcmp(kind, "chips") == 0) {
        list_chips(tool);
    } else if (strcmp(kind, "settings") == 0) {
        list_settings(tool, arguments[0]);
    }
}
