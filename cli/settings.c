/*
 * Settings as people see them: each field by its name, with the data sheet's name of its bits
 * beside it, what it stands at in words, and the consequence where there is one.
 */
#include "settings.h"
#include <stdio.h>
#include <string.h>

enum { NAME_WIDTH = 22, WORD_WIDTH = 26, CHANGE_WIDTH = 38 };

const char *clock_text(uint32_t hz, char *text, size_t bytes)
{
    if (hz == 0)
        snprintf(text, bytes, "the board's");
    else if (hz >= 1000000)
        snprintf(text, bytes, "%g MHz", hz / 1e6);
    else
        snprintf(text, bytes, "%g kHz", hz / 1e3);
    return text;
}

void settings_as_delivered(const struct cm_part *part, uint8_t *bytes)
{
    const struct cm_avr_part *row = cm_avr_row(part);
    memset(bytes, is_memory(part) ? 0x00 : 0xFF, CM_SETTING_BYTES);
    if (is_memory(part))
        return; // nothing protected
    memcpy(bytes, row->fuse_default, row->fuse_bytes);
}

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
    const struct cm_words *words = words_of(part);
    struct cm_setting setting;
    char word[CM_WORD_BYTES], text[200], clock[SHORT_TEXT];
    json_t *in_words = json_object(), *raw = json_object();
    for (uint8_t i = 0; words->setting(part, bytes, i, &setting); i++) {
        uint32_t value = cm_setting_value(&setting, bytes);
        const struct cm_choice *choice = cm_setting_choice(&setting, value);
        cm_setting_word(&setting, value, word);
        say(tool, i ? "" : "settings", "%-*s %-*s %s%-9s  %s%s", NAME_WIDTH, setting.name,
            WORD_WIDTH, word, colour("2"), setting.bits,
            !choice && is_memory(part) ? "quad enable, output drive and the like"
            : !choice                  ? "reserved, or in no sheet at hand"
            : choice->means            ? choice->means
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
    if (text[0] && is_memory(part))
        say(tool, "bytes", "%s", text);
    else if (text[0])
        say(tool, "bytes", "%s; the CPU starts at %s%s", text,
            is_known ? clock_text(hz, clock, sizeof clock) : "a clock that is in no table here",
            hz || !is_known ? "" : " clock");
    else if (!is_memory(part))
        say(tool, "settings",
            "this part's fuses and lock bits differ from sheet to sheet, and are not offered");
}

void settings_show_change(struct tool *tool, const struct cm_part *part, const uint8_t *before,
                          const uint8_t *after)
{
    const struct cm_words *words = words_of(part);
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

/* There is no such setting, or no such choice of it: tells what there is. */
static enum exit_code fail_choice(struct tool *tool, enum exit_code code, const char *what,
                                  const char *where, const char *choice, const char *known)
{
    char evidence[300], advice[400];
    snprintf(evidence, sizeof evidence, "%s%.200s", where, choice);
    snprintf(advice, sizeof advice, "one of: %s",
             known[0] ? known : "none: this part's settings are not offered");
    return tool_fail_as(tool, code, what, evidence, advice);
}

static enum exit_code fail_name(struct tool *tool, enum exit_code code, const struct cm_part *part,
                                const uint8_t *bytes, const char *where, const char *choice)
{
    char what[200];
    struct word_list known = {.used = 0};
    snprintf(what, sizeof what, "%s has no setting of this name", part->name);
    list_names(words_of(part), part, bytes, &known);
    return fail_choice(tool, code, what, where, choice, known.text);
}

enum exit_code settings_choose(struct tool *tool, const struct cm_part *part, uint8_t *bytes,
                               const char *choice, const char *where, enum exit_code code)
{
    const struct cm_words *words = words_of(part);
    struct cm_setting setting;
    struct word_list known = {.used = 0};
    char name[64], what[200], evidence[300];
    const char *equals = strchr(choice, '=');
    if (!equals) {
        snprintf(evidence, sizeof evidence, "%s'%.100s' has no '='", where, choice);
        return tool_fail_as(tool, code, "not a choice", evidence,
                            "write NAME=WORD, for example clock-divide=by-1");
    }
    snprintf(name, sizeof name, "%.*s", (int)(equals - choice), choice);
    enum cm_status status = cm_choose(words, part, bytes, name, equals + 1);
    if (status == CM_OK)
        return EXIT_GOOD;
    if (status == CM_BAD_ARGUMENT)
        return fail_name(tool, code, part, bytes, where, choice);
    snprintf(what, sizeof what, "%s has no such choice on %s", name, part->name);
    if (cm_setting_by_name(words, part, bytes, name, &setting))
        list_words(&setting, &known);
    return fail_choice(tool, code, what, where, choice, known.text);
}

uint8_t settings_rank(const struct cm_part *part, const uint8_t *bytes, const char *choice)
{
    struct cm_setting setting;
    size_t length = strcspn(choice, "=");
    for (uint8_t i = 0; words_of(part)->setting(part, bytes, i, &setting) && i < RANKS - 1; i++) {
        if (strlen(setting.name) == length && strncmp(setting.name, choice, length) == 0)
            return i;
    }
    return RANKS - 1;
}

enum exit_code settings_show_choices(struct tool *tool, const struct cm_part *part,
                                     const uint8_t *bytes, const char *name)
{
    const struct cm_words *words = words_of(part);
    struct cm_setting setting;
    if (!cm_setting_by_name(words, part, bytes, name, &setting))
        return fail_name(tool, EXIT_USAGE, part, bytes, "", name);
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

/* --- fences ------------------------------------------------------------------------------ */

static const char *const REASONS[CM_FENCE_COUNT] = {
    [CM_FENCE_ENDS_ACCESS] = "it would end programming over these pins",
    [CM_FENCE_NOT_HERE] = "this fuse cannot be changed over these pins",
    [CM_FENCE_SOURCE] = "the clock source may not be there, and without it the chip is deaf",
    [CM_FENCE_LOCKS] = "it would bar later work on the chip",
    [CM_FENCE_UNNAMED] = "the data sheet gives this value no meaning",
    [CM_FENCE_OPENS] = "lock bits are opened by a chip erase only, which takes the contents along",
};

static bool is_allowed(const char *const *allowed, const char *name)
{
    for (; allowed && *allowed; allowed++) {
        if (strcmp(*allowed, name) == 0)
            return true;
    }
    return false;
}

static enum exit_code refuse(struct tool *tool, const struct cm_fence *fence)
{
    const struct cm_choice *choice = cm_setting_choice(&fence->setting, fence->value);
    char what[300], evidence[300], advice[200], word[CM_WORD_BYTES];
    cm_setting_word(&fence->setting, fence->value, word);
    snprintf(what, sizeof what, "refused: %s", REASONS[fence->kind]);
    snprintf(evidence, sizeof evidence, "%s=%s%s%s", fence->setting.name, word,
             choice && choice->means ? ": " : "", choice && choice->means ? choice->means : "");
    if (fence->kind == CM_FENCE_OPENS)
        snprintf(advice, sizeof advice,
                 "nothing was changed; 'erase' erases the chip and opens it, 'keep' first");
    else if (fence->kind == CM_FENCE_NOT_HERE)
        snprintf(advice, sizeof advice, "nothing was changed; leave it as it is");
    else
        snprintf(advice, sizeof advice, "nothing was changed; if you mean it, add --allow %s",
                 fence->setting.name);
    return tool_fail_as(tool, EXIT_REFUSED, what, evidence, advice);
}

/* A level above the supply would hold the chip in reset from now on. */
static enum exit_code check_brown_out(struct tool *tool, const struct cm_part *part,
                                      const uint8_t *before, const uint8_t *after,
                                      const char *const *allowed, uint16_t supply_mv)
{
    const struct cm_words *words = words_of(part);
    uint16_t level = words->brown_out_mv(part, after);
    char evidence[200];
    if (supply_mv == 0 || level <= supply_mv || level == words->brown_out_mv(part, before) ||
        is_allowed(allowed, "brown-out"))
        return EXIT_GOOD;
    snprintf(evidence, sizeof evidence, "the level would be %.1f V; the supply is %.2f V",
             level / 1000.0, supply_mv / 1000.0);
    return tool_fail_as(
        tool, EXIT_REFUSED, "refused: the brown-out detector would hold the chip in reset",
        evidence, "nothing was changed; choose a level below the supply, or add --allow brown-out");
}

enum exit_code settings_check_fences(struct tool *tool, const struct cm_part *part,
                                     const uint8_t *before, const uint8_t *after,
                                     const char *const *allowed, uint16_t supply_mv, unsigned kinds)
{
    const struct cm_words *words = words_of(part);
    struct cm_fence fence;
    for (uint8_t i = 0; cm_next_fence(words, part, before, after, i, &fence);
         i = (uint8_t)(fence.index + 1)) {
        bool can_be_allowed = fence.kind != CM_FENCE_NOT_HERE && fence.kind != CM_FENCE_OPENS;
        if ((kinds >> fence.kind & 1) &&
            (!can_be_allowed || !is_allowed(allowed, fence.setting.name)))
            return refuse(tool, &fence);
    }
    return check_brown_out(tool, part, before, after, allowed, supply_mv);
}

enum exit_code settings_check_allowed(struct tool *tool, const struct cm_part *part)
{
    const uint8_t any[CM_SETTING_BYTES] = {0};
    struct cm_setting setting;
    for (char **name = tool->allow; name && *name; name++) {
        if (!cm_setting_by_name(words_of(part), part, any, *name, &setting))
            return tool_fail_as(tool, EXIT_USAGE, "--allow names no setting of this part", *name,
                                "'coldmint tune' lists them");
    }
    return EXIT_GOOD;
}
