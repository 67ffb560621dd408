/*
 * Text that is shown, and not obeyed.
 *
 * Colours of our own travel within such texts as marks, which carry a number that is drawn anew for
 * each process: a file name cannot guess it.
 */
#include "shown.h"
#include <stdbool.h>
#include <stdint.h>
#include <stdlib.h>
#include <string.h>
#include <sys/random.h>
#include <unistd.h>

enum { MARK_BYTES = 10, MARK_BEGIN = 1, MARK_END = 2, MOST_SHOWN = 8 };

static const char *mark(void)
{
    static char text[MARK_BYTES];
    uint32_t number = 0;
    if (!text[0]) {
        if (getrandom(&number, sizeof number, GRND_NONBLOCK) != sizeof number)
            number = (uint32_t)getpid() * 2654435761u;
        snprintf(text, sizeof text, "%c%08X", MARK_BEGIN, (unsigned)number);
    }
    return text;
}

static bool is_plain(void)
{
    const char *no_colour = getenv("NO_COLOR"), *terminal = getenv("TERM");
    return (no_colour && *no_colour) || !terminal || !*terminal || strcmp(terminal, "dumb") == 0 ||
           !isatty(STDOUT_FILENO);
}

enum { CODES = 16, CODE_BYTES = 24 };

/* A few codes are asked for again and again; each has its text once. */
static const char *wrapped(char texts[CODES][CODE_BYTES], const char *before, const char *code,
                           const char *behind)
{
    char text[CODE_BYTES];
    snprintf(text, sizeof text, "%s%s%s", before, code, behind);
    for (int i = 0; i < CODES; i++) {
        if (!texts[i][0])
            memcpy(texts[i], text, sizeof text);
        if (strcmp(texts[i], text) == 0)
            return texts[i];
    }
    return "";
}

const char *colour(const char *code)
{
    static char texts[CODES][CODE_BYTES];
    static const char end[] = {MARK_END, '\0'};
    return is_plain() || !*code ? "" : wrapped(texts, mark(), code, end);
}

const char *ink(const char *code)
{
    static char texts[CODES][CODE_BYTES];
    return is_plain() || !*code ? "" : wrapped(texts, "\033[", code, "m");
}

/* Bytes of the UTF-8 character that begins here (RFC 3629); 0: none does. */
static size_t character(const unsigned char *text, uint32_t *value)
{
    static const uint32_t LEAST[] = {0, 0, 0x80, 0x800, 0x10000};
    size_t count = text[0] < 0x80       ? 1
                   : text[0] >> 5 == 6  ? 2
                   : text[0] >> 4 == 14 ? 3
                   : text[0] >> 3 == 30 ? 4
                                        : 0;
    *value = count == 1 ? text[0] : text[0] & (0x7Fu >> count);
    for (size_t i = 1; i < count; i++) {
        if (text[i] >> 6 != 2)
            return 0;
        *value = *value << 6 | (text[i] & 0x3Fu);
    }
    bool whole = count && *value >= LEAST[count] && *value <= 0x10FFFF &&
                 !(*value >= 0xD800 && *value < 0xE000);
    return whole ? count : 0;
}

/* C0 and C1 controls, and what turns the direction of a line round. */
static bool is_obeyed(uint32_t value)
{
    return value < 0x20 || (value >= 0x7F && value < 0xA0) ||
           (value >= 0x202A && value <= 0x202E) || (value >= 0x2066 && value <= 0x2069) ||
           value == 0x2028 || value == 0x2029;
}

/* What is shown for the character that begins here, at most MOST_SHOWN bytes; returns how many
 * bytes of the text it stands for. */
static size_t show(const char *text, char *out)
{
    uint32_t value;
    size_t count = character((const unsigned char *)text, &value);
    if (count && !is_obeyed(value)) {
        memcpy(out, text, count);
        out[count] = '\0';
    } else if (count && value > 0xFF) {
        snprintf(out, MOST_SHOWN + 1, "\\u%04X", (unsigned)value & 0xFFFF);
    } else if (count && value == '\n') {
        snprintf(out, MOST_SHOWN + 1, "\\n");
    } else {
        snprintf(out, MOST_SHOWN + 1, "\\x%02X",
                 (unsigned)(count ? value : (unsigned char)*text) & 0xFF);
    }
    return count ? count : 1;
}

void print_shown(FILE *stream, const char *text)
{
    char out[MOST_SHOWN + 1];
    const char *marked = mark();
    while (*text) {
        const char *end =
            strncmp(text, marked, MARK_BYTES - 1) == 0 ? strchr(text, MARK_END) : NULL;
        if (end) {
            fprintf(stream, "\033[%.*sm", (int)(end - text) - (MARK_BYTES - 1),
                    text + MARK_BYTES - 1);
            text = end + 1;
            continue;
        }
        text += show(text, out);
        fputs(out, stream);
    }
}

const char *shown_text(const char *text, char *out, size_t bytes)
{
    size_t used = 0;
    char one[MOST_SHOWN + 1];
    out[0] = '\0';
    while (*text) {
        text += show(text, one);
        if (used + strlen(one) >= bytes)
            break;
        memcpy(out + used, one, strlen(one) + 1);
        used += strlen(one);
    }
    return out;
}

json_t *json_text(const char *text)
{
    json_t *exact = json_string(text); // controls are escaped by JSON itself
    if (exact)
        return exact;
    size_t bytes = MOST_SHOWN * strlen(text) + 1;
    char *shown = malloc(bytes);
    json_t *string = shown ? json_string(shown_text(text, shown, bytes)) : NULL;
    free(shown);
    return string ? string : json_null();
}

void json_print(const json_t *value)
{
    char *text = json_dumps(value, JSON_INDENT(2) | JSON_SORT_KEYS | JSON_ENSURE_ASCII);
    for (const char *c = text; c && *c; c++) {
        if (*c == 0x7F)
            fputs("\\u007F", stdout);
        else
            putchar(*c);
    }
    putchar('\n');
    free(text);
}
