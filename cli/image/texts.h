/*
 * Texts that a file holds: runs of printable characters, plain or in UTF-16, and how likely each is
 * meant to be read.
 */
#ifndef CM_CLI_IMAGE_TEXTS_H
#define CM_CLI_IMAGE_TEXTS_H

#include <stdbool.h>
#include <stddef.h>
#include <stdint.h>

enum { TEXT_ROOM = 60, TEXTS_LEAST = 8 };

struct text {
    uint32_t at, length; /* in characters; `text` has the first TEXT_ROOM */
    int score;           /* the higher, the likelier */
    bool is_wide;        /* UTF-16 */
    char text[TEXT_ROOM + 1];
};

/* A text in the making: plain ones, and those whose every second byte is 0. */
struct text_run {
    struct text text;
    bool wants_0; /* of a wide one: a zero comes next */
    bool had_0;   /* and one came before its first character */
};

/* Told of each text that ends. */
typedef void text_found_fn(void *context, const struct text *text);

struct texts {
    uint32_t least; /* characters */
    text_found_fn *found;
    void *context;
    struct text_run plain, wide;
    uint64_t next; /* the address that follows */
    bool was_0;    /* the last byte */
};

/* Takes bytes in the order of their addresses; and the end. */
void texts_take(struct texts *texts, uint32_t address, const uint8_t *bytes, uint32_t count);
void texts_end(struct texts *texts);

/* The likeliest of them, in that order. Of two that are alike the earlier one comes first. */
struct text_list {
    struct text *texts;
    unsigned room, count;
    uint64_t left_out;
};
void text_list_add(struct text_list *list, const struct text *text);

#endif
