/*
 * Texts with places to be filled in.
 */
#include "fill.h"
#include <stdio.h>
#include <string.h>

void fill_in(const char *from, fill_fn *meaning, const void *context, char *text, size_t room)
{
    enum { WORD = 20, MOST = 600 };
    size_t used = 0;
    while (*from && used + 1 < room) {
        const char *end = *from == '{' ? strchr(from, '}') : NULL;
        char word[WORD], means[MOST] = "";
        if (!end || (size_t)(end - from) > sizeof word) {
            text[used++] = *from++;
            continue;
        }
        snprintf(word, sizeof word, "%.*s", (int)(end - from - 1), from + 1);
        meaning(context, word, means, sizeof means);
        used += (size_t)snprintf(text + used, room - used, "%s", means);
        from = end + 1;
    }
    text[used < room ? used : room - 1] = '\0';
}
