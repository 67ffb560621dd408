/*
 * A desk to begin with: the first SPI device and I2C adapter that there are, the others as
 * comments, and the lines by their names.
 */
#define _GNU_SOURCE
#include "inside.h"
#include <glob.h>
#include <stdarg.h>
#include <stdio.h>

struct text {
    char *bytes;
    size_t room, used;
};

__attribute__((format(printf, 2, 3))) static void add(struct text *text, const char *format, ...)
{
    va_list arguments;
    va_start(arguments, format);
    int count = vsnprintf(text->bytes + text->used, text->room - text->used, format, arguments);
    va_end(arguments);
    text->used += count > 0 ? (size_t)count : 0;
    text->used = text->used < text->room ? text->used : text->room - 1;
}

/* The first device of a kind, and then the others. False: there is none. */
static bool add_devices(struct text *text, const char *key, const char *pattern)
{
    glob_t found;
    if (glob(pattern, 0, NULL, &found) != 0)
        return false;
    for (size_t i = 0; i < found.gl_pathc; i++)
        add(text, i ? "  # device: %s\n" : "%s%s\n", i ? found.gl_pathv[i] : key,
            i ? "" : found.gl_pathv[i]);
    globfree(&found);
    return true;
}

/* Lines that have names, a chip a line. */
static void add_lines(struct text *text)
{
    enum { MOST_NAMES = 32 };
    struct gpiod_chip_iter *chips = gpiod_chip_iter_new();
    struct gpiod_chip *chip;
    if (!chips)
        return;
    while ((chip = gpiod_chip_iter_next(chips)) != NULL) {
        unsigned names = 0;
        add(text, "#   %s, lines 0 to %u", gpiod_chip_name(chip), gpiod_chip_num_lines(chip) - 1);
        for (unsigned i = 0; i < gpiod_chip_num_lines(chip) && names < MOST_NAMES; i++) {
            struct gpiod_line *line = gpiod_chip_get_line(chip, i);
            const char *name = line ? gpiod_line_name(line) : NULL;
            if (name)
                add(text, "%s%s", names++ ? ", " : ": ", name);
        }
        add(text, "\n");
    }
    gpiod_chip_iter_free(chips);
}

bool linux_sketch(char *bytes, size_t room)
{
    struct text text = {bytes, room, 0};
    add(&text, "# This computer's own pins; docs/desk.md lists all keys.\n"
               "desk: this computer\n");
    bool has_spi = add_devices(&text, "spi:\n  device: ", "/dev/spidev*");
    if (has_spi)
        add(&text, "  # max_clock_hz: 20000000   # what the wires bear\n");
    bool has_i2c = add_devices(&text, "i2c:\n  device: ", "/dev/i2c-*");
    add(&text, "# lines:               # a line by its name, or by chip and number; 'not' before "
               "it where a\n"
               "#   RESET: GPIO25      # transistor turns it round. RESET is for AVR parts; "
               "SELECT, where the\n"
               "#   SELECT: gpiochip0 8   # controller's own is not wired\n"
               "# There are:\n");
    add_lines(&text);
    return has_spi || has_i2c;
}
