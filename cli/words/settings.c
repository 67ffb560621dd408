/*
 * Settings as people see them: each field by its name, with the data sheet's name of its bits
 * beside it, what it stands at in words, and the consequence where there is one.
 */
#include "settings.h"
#include "say.h"
#include "words/fail.h"
#include <stdio.h>
#include <string.h>

enum { NAME_WIDTH = 22, WORD_WIDTH = 26, CHANGE_WIDTH = 38 };

static void bytes_text(const struct cm_words *words, const struct cm_part *part,
                       const uint8_t *bytes, char *text, size_t room)
{
    struct cm_setting_byte byte;
    size_t used = 0;
    text[0] = '\0';
    for (uint8_t i = 0; words->byte(part, i, &byte) && used < room; i++)
        used += (size_t)snprintf(text + used, room - used, "%s%s 0x%02X", i ? ", " : "", byte.name,
                                 bytes[i]);
}

void settings_show(struct tool *tool, const struct cm_part *part, const uint8_t *bytes)
{
    const struct cm_words *words = words_of(tool, part);
    struct cm_setting setting;
    char word[CM_WORD_BYTES], text[200], clock[SHORT_TEXT];
    json_t *in_words = json_object(), *raw = json_object();
    for (uint8_t i = 0; words->setting(part, bytes, i, &setting); i++) {
        uint32_t value = cm_setting_value(&setting, bytes);
        const struct cm_choice *choice = cm_setting_choice(&setting, value);
        cm_setting_word(&setting, value, word);
        say(tool, i ? "" : "settings", "%-*s %-*s %s%-9s  %s%s", NAME_WIDTH, setting.name,
            WORD_WIDTH, word, colour("2"), setting.bits,
            !choice && is_memory(tool, part) ? "quad enable, output drive and the like"
            : !choice                        ? "reserved, or in no sheet at hand"
            : choice->means                  ? choice->means
                                             : "",
            colour("0"));
        json_object_set_new(in_words, setting.name, json_text(word));
    }
    struct cm_setting_byte byte;
    for (uint8_t i = 0; words->byte(part, i, &byte); i++)
        json_object_set_new(raw, byte.name, json_integer(bytes[i]));
    const uint32_t any_board_hz =
        8; // to see whether the clock comes from there; eight, since it may be divided
    uint32_t hz = words->cpu_hz(part, bytes, 0);
    set_json(tool, "settings", in_words);
    set_json(tool, "setting_bytes", raw);
    set_json(tool, "cpu_hz", json_integer(hz));
    bytes_text(words, part, bytes, text, sizeof text);
    bool is_known = hz || words->cpu_hz(part, bytes, any_board_hz);
    if (text[0] && is_memory(tool, part))
        say(tool, "bytes", "%s", text);
    else if (text[0])
        say(tool, "bytes", "%s; the CPU starts at %s%s", text,
            is_known ? clock_text(hz, clock, sizeof clock) : "a clock that is in no table here",
            hz || !is_known ? "" : " clock");
    else if (!is_memory(tool, part))
        say(tool, "settings",
            "this part's fuses and lock bits differ from sheet to sheet, and are not offered");
}

void settings_show_change(struct tool *tool, const struct cm_part *part, const uint8_t *before,
                          const uint8_t *after)
{
    const struct cm_words *words = words_of(tool, part);
    struct cm_setting old, now;
    struct cm_setting_byte byte;
    char from[CM_WORD_BYTES], to[CM_WORD_BYTES], text[100];
    bool first = true;
    json_t *changes = json_array();
    for (uint8_t i = 0;
         words->setting(part, before, i, &old) && words->setting(part, after, i, &now); i++) {
        uint32_t was = cm_setting_value(&old, before), is = cm_setting_value(&now, after);
        cm_setting_word(&old, was, from);
        cm_setting_word(&now, is, to);
        if (was == is && strcmp(from, to) == 0)
            continue;
        const struct cm_choice *choice = cm_setting_choice(&now, is);
        snprintf(text, sizeof text, "%s -> %s", from, to);
        say(tool, first ? "change" : "", "%-*s %-*s %s%s%s", NAME_WIDTH, now.name, CHANGE_WIDTH,
            text, colour("2"), choice && choice->means ? choice->means : "", colour("0"));
        json_array_append_new(
            changes, json_pack("{s:s, s:s, s:s}", "setting", now.name, "from", from, "to", to));
        first = false;
    }
    first = true;
    for (uint8_t i = 0; words->byte(part, i, &byte); i++) {
        if (before[i] == after[i])
            continue;
        say(tool, first ? "bytes" : "", "%-*s 0x%02X -> 0x%02X", NAME_WIDTH, byte.name, before[i],
            after[i]);
        first = false;
    }
    set_json(tool, "changes", changes);
}

/* --- choosing ---------------------------------------------------------------------------- */

/* Words in a row; where there is no room for all of them it says so, and cuts none. */
struct word_list {
    char text[360];
    size_t used;
};

static void list_word(struct word_list *list, const char *word)
{
    static const char MORE[] = ", and more";
    const char *comma = list->used ? ", " : "";
    size_t room = sizeof list->text - list->used;
    if (room <= sizeof MORE)
        return; // it says so already
    if (strlen(comma) + strlen(word) + sizeof MORE < room) {
        list->used += (size_t)snprintf(list->text + list->used, room, "%s%s", comma, word);
        return;
    }
    snprintf(list->text + list->used, room, "%s", MORE);
    list->used = sizeof list->text;
}

static void list_names(const struct cm_words *words, const struct cm_part *part,
                       const uint8_t *bytes, struct word_list *list)
{
    struct cm_setting setting;
    for (uint8_t i = 0; words->setting(part, bytes, i, &setting); i++)
        list_word(list, setting.name);
}

/* Parts share tables; a field of fewer bits has only the rows that fit. */
const struct cm_choice *settings_next_choice(const struct cm_setting *setting,
                                             const struct cm_choice *after)
{
    bool passed = !after;
    for (const struct cm_choice *const *table = setting->choices; table && *table; table++) {
        for (const struct cm_choice *choice = *table; choice->word; choice++) {
            uint8_t width = cm_setting_width(setting);
            if (passed && (width == 32 || choice->value >> width == 0))
                return choice;
            passed = passed || choice == after;
        }
    }
    return NULL;
}

static void list_words(const struct cm_setting *setting, struct word_list *list)
{
    const struct cm_choice *choice = NULL;
    while ((choice = settings_next_choice(setting, choice)))
        list_word(list, choice->word);
}

static enum exit_code fail_name(struct tool *tool, const struct cm_part *part, const uint8_t *bytes,
                                const char *name)
{
    char what[200], advice[400];
    struct word_list known = {.used = 0};
    list_names(words_of(tool, part), part, bytes, &known);
    snprintf(what, sizeof what, "%s has no setting of this name", part->name);
    snprintf(advice, sizeof advice, "one of: %s",
             known.text[0] ? known.text : "none: this part's settings are not offered");
    return tool_fail_as(tool, EXIT_USAGE, what, name, advice);
}

enum exit_code settings_show_choices(struct tool *tool, const struct cm_part *part,
                                     const uint8_t *bytes, const char *name)
{
    const struct cm_words *words = words_of(tool, part);
    struct cm_setting setting;
    if (!cm_setting_by_name(words, part, bytes, name, &setting))
        return fail_name(tool, part, bytes, name);
    json_t *list = json_array();
    uint32_t now = cm_setting_value(&setting, bytes);
    const struct cm_choice *choice = NULL;
    for (bool first = true; (choice = settings_next_choice(&setting, choice)); first = false) {
        say(tool, first ? setting.name : "", "%s %-*s %s%s%s", choice->value == now ? "*" : " ",
            WORD_WIDTH, choice->word, colour("2"), choice->means ? choice->means : "", colour("0"));
        json_array_append_new(list, json_pack("{s:s, s:i, s:b}", "word", choice->word, "value",
                                              (int)choice->value, "now", choice->value == now));
    }
    set_json(tool, "choices", list);
    return EXIT_GOOD;
}

/* --- failures ---------------------------------------------------------------------------- */

static const char *const REASONS[CM_FENCE_COUNT] = {
    [CM_FENCE_ENDS_ACCESS] = "it would end programming over these pins",
    [CM_FENCE_NOT_HERE] = "this fuse cannot be changed over these pins",
    [CM_FENCE_SOURCE] =
        "the clock source may not be there, and without it the chip does not respond",
    [CM_FENCE_LOCKS] = "it would prevent later work on the chip",
    [CM_FENCE_UNNAMED] = "the data sheet gives this value no meaning",
    [CM_FENCE_OPENS] = "lock bits are opened by a chip erase only, which clears the contents",
};

static void fenced_text(const struct cm_fence *fence, char *text, size_t room)
{
    const struct cm_choice *choice = cm_setting_choice(&fence->setting, fence->value);
    char word[CM_WORD_BYTES];
    cm_setting_word(&fence->setting, fence->value, word);
    snprintf(text, room, "%s=%s%s%s", fence->setting.name, word,
             choice && choice->means ? ": " : "", choice && choice->means ? choice->means : "");
}

static void fence_advice(const struct cm_fence *fence, char *text, size_t room)
{
    if (fence->kind == CM_FENCE_OPENS)
        snprintf(text, room,
                 "nothing was changed; 'erase' erases the chip and opens it, 'keep' first");
    else if (fence->kind == CM_FENCE_NOT_HERE)
        snprintf(text, room, "nothing was changed; leave it as it is");
    else
        snprintf(text, room, "nothing was changed; if you mean it, add --allow %s",
                 fence->setting.name);
}

/* The names of the part's settings; or the choices of the one that was meant. */
static void known_text(const struct tool *tool, const struct cm_error *error, bool choices,
                       char *text, size_t room)
{
    const struct cm_words *words = words_of(tool, error->part);
    struct cm_setting setting;
    struct word_list known = {.used = 0};
    char name[64];
    snprintf(name, sizeof name, "%.*s", (int)strcspn(error->text, "="), error->text);
    if (!choices)
        list_names(words, error->part, error->settings, &known);
    else if (cm_setting_by_name(words, error->part, error->settings, name, &setting))
        list_words(&setting, &known);
    snprintf(text, room, "%s",
             known.text[0] ? known.text : "none: this part's settings are not offered");
}

void settings_place_text(const struct tool *tool, const struct cm_error *error, const char *word,
                         char *text, size_t room)
{
    if (strcmp(word, "fence") == 0)
        snprintf(text, room, "%s", REASONS[error->fence.kind]);
    else if (strcmp(word, "fenced") == 0)
        fenced_text(&error->fence, text, room);
    else if (strcmp(word, "fence-try") == 0)
        fence_advice(&error->fence, text, room);
    else if (strcmp(word, "names") == 0 || strcmp(word, "choices") == 0)
        known_text(tool, error, word[0] == 'c', text, room);
    else if (strcmp(word, "setting") == 0)
        snprintf(text, room, "%.*s", (int)strcspn(error->text, "="), error->text);
}
