/*
 * YAML files of people, before a parser sees them.
 */
#include "yaml_text.h"
#include <errno.h>
#include <stdbool.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum { MOST_DEPTH = 40 }; // a recipe has three

/* Brackets and braces that are open at once; those within quotes and comments do not count. */
static bool flows_deeply(const char *text, size_t bytes)
{
    unsigned depth = 0;
    char quote = '\0';
    for (size_t i = 0; i < bytes; i++) {
        char c = text[i];
        if (quote) {
            i += c == '\\' && quote == '"';
            quote = c == quote ? '\0' : quote;
        } else if ((c == '"' || c == '\'') && (i == 0 || strchr(" \t\n[{,:", text[i - 1]))) {
            quote = c;
        } else if (c == '#' && (i == 0 || strchr(" \t\n", text[i - 1]))) {
            while (i < bytes && text[i] != '\n')
                i++;
        } else if (c == '[' || c == '{') {
            if (++depth > MOST_DEPTH)
                return true;
        } else if ((c == ']' || c == '}') && depth) {
            depth--;
        }
    }
    return false;
}

/* Lists within lists in one line, "- - - -", and lines that are indented more and more. */
static bool is_indented_deeply(const char *text, size_t bytes)
{
    size_t levels[MOST_DEPTH + 1] = {0};
    unsigned depth = 0;
    for (size_t at = 0; at < bytes;) {
        size_t end = at, column = 0;
        unsigned dashes = 0;
        while (end < bytes && text[end] != '\n')
            end++;
        for (; at + column < end; column++) {
            bool begins = strchr("-?", text[at + column]) && at + column + 1 < end &&
                          text[at + column + 1] == ' ';
            if (!begins && text[at + column] != ' ')
                break;
            dashes += begins;
        }
        if (dashes > MOST_DEPTH)
            return true;
        if (at + column < end && text[at + column] != '#') {
            while (depth && levels[depth] >= column)
                depth--;
            if (++depth > MOST_DEPTH)
                return true;
            levels[depth] = column;
        }
        at = end + 1;
    }
    return false;
}

const char *yaml_refusal(const char *text, size_t bytes)
{
    if (bytes > YAML_BYTES)
        return "it is larger than 1 MiB";
    return flows_deeply(text, bytes) || is_indented_deeply(text, bytes)
               ? "it is nested more than 40 levels deep"
               : NULL;
}

char *yaml_read(const char *path, size_t *bytes, const char **why)
{
    FILE *file = fopen(path, "rb");
    char *text = file ? malloc(YAML_BYTES + 2) : NULL;
    *bytes = 0;
    *why = strerror(errno);
    if (text) {
        *bytes = fread(text, 1, YAML_BYTES + 1, file);
        *why = ferror(file) ? strerror(errno) : yaml_refusal(text, *bytes);
        text[*bytes] = '\0';
    }
    if (file)
        fclose(file);
    if (text && !*why)
        return text;
    free(text);
    return NULL;
}
