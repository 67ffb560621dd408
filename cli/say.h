/* Saying things: aligned lines for people on stdout, one JSON object for machines. */
#ifndef CM_CLI_SAY_H
#define CM_CLI_SAY_H

#include "shown.h"
#include "text.h"
#include "tool.h"

/* A line "label  text" for people; silent with --json. */
void say(const struct tool *tool, const char *label, const char *format, ...)
    __attribute__((format(printf, 3, 4)));

/* The last line, which says plainly whether the chip is good. */
void say_last(struct tool *tool, const char *format, ...) __attribute__((format(printf, 2, 3)));

/* The chip that was found; and its name: the one asked for, or all that share the id. */
void say_chip(struct tool *tool);
const char *chip_name(const struct tool *tool);

void set_json(struct tool *tool, const char *key, json_t *value);
json_t *json_report(const struct cm_report *report);

/* The kit that has a part; and is it of chips that run a program, and have no registers? */
const struct cm_kit *kit_of(const struct tool *tool, const struct cm_part *part);
bool is_memory(const struct tool *tool, const struct cm_part *part);
const struct cm_words *words_of(const struct tool *tool, const struct cm_part *part);

/* "flash" or "eeprom": what a file without a region is for. */
const char *main_region(const struct tool *tool);

#endif
