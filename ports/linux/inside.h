/* A port on this computer's own pins, from the inside: what the files of ports/linux/ share. */
#ifndef CM_LINUX_INSIDE_H
#define CM_LINUX_INSIDE_H

#include "desk.h"
#include "linux.h"
#include <coldmint/port_kind.h>
#include <gpiod.h>

enum {
    MODEM_TXD = 1 << 30,  /* beside the kernel's TIOCM_ bits: TXD, by a break */
    MOST_I2C_BYTES = 8192 /* of one message: the kernel takes no more */
};

/* A line of a gpiochip, or a modem line. */
struct pin {
    bool is_wired;
    struct gpiod_chip *chip;
    struct gpiod_line *line;
    struct pair *pair; /* that it is one of, instead; NULL: it is alone */
    int modem;         /* its bit; 0: it is a gpiochip's */
    bool is_inverted;  /* by a transistor, or by a converter with logic levels */
    uint8_t level;     /* enum cm_level, as it is driven */
};

/* How this process was scheduled before it asked for a real-time priority. */
struct rank {
    bool was_raised;
    int policy, priority;
};

/* Two lines of one gpiochip, which change in one call. */
struct pair {
    int file; /* -1: there is none */
    struct pin *pins[2];
};

struct linux_port {
    struct cm_port port;
    struct cm_port_state state;
    struct pin pins[CM_LINE_END];
    struct pair pair;
    struct rank rank;
    struct pin power;
    int spi, i2c, modem; /* -1: there is none */
    int modem_bits;      /* as they are set */
    uint32_t speed_hz;
    uint32_t spi_mode; /* as it is set */
    uint32_t bufsiz;   /* bytes of a message, one way */
    bool can_unselect; /* the controller can leave its select alone */
    bool is_selected;  /* it holds its select low between messages */
    bool bears_empty;  /* I2C: a transfer without data is sent */
    uint32_t i2c_hz;
    char measure[200];
    double times;
    struct linux_counts counts;
    char trouble[CM_PORT_ERROR_BYTES]; /* the last refusal of the system; "": there was none */
};

static inline struct linux_port *linux_of(const struct cm_port *port)
{
    return port->context;
}

/* Notes what the system refused, with errno as it is. */
enum cm_status linux_refused(struct linux_port *linux_port, const char *what);

/* Opens a device of a desk, for this process alone; -1: the reason is in `error`, and errno is set.
 */
int linux_open(const char *device, int flags, char *error, size_t room);

/* --- lines.c ----------------------------------------------------------------------------- */

#define LINUX_CONSUMER "coldmint" /* who has the lines, for others that want them */

/* Requests a line as an input; false: errno is set. */
bool linux_request_line(struct gpiod_line *line);

/* Takes a line by its text: "GPIO25", "gpiochip0 25", "not GPIO25". It is released. Else the reason
 * is in `error`, and errno is set. */
bool linux_take_pin(struct linux_port *linux_port, struct pin *pin, const char *text, char *error,
                    size_t room);
void linux_give_pin(struct pin *pin);

enum cm_status linux_drive(struct linux_port *linux_port, struct pin *pin, enum cm_level level);

/* Two lines, at once where they can be. */
enum cm_status linux_drive_both(struct linux_port *linux_port, struct pin *first,
                                enum cm_level first_level, struct pin *second,
                                enum cm_level second_level);
enum cm_status linux_sense(struct linux_port *linux_port, const struct pin *pin, bool *high);

/* Drives a line to where it is, which moves no chip: to measure what that takes. */
enum cm_status linux_drive_again(struct linux_port *linux_port, struct pin *pin);

uint32_t linux_now_us(const struct cm_port *port);
void linux_wait_us(const struct cm_port *port, uint32_t us);

/* The shortest of some calls, in microseconds: the computer does other things, too. */
uint16_t linux_shortest_us(struct linux_port *linux_port, void (*call)(struct linux_port *));

/* --- rank.c ------------------------------------------------------------------------------ */

/* Asks for a real-time priority; false: the reason is in `error`, and errno is set. */
bool linux_raise(struct linux_port *linux_port, unsigned priority, char *error, size_t room);
void linux_lower(struct linux_port *linux_port);

/* --- pair.c ------------------------------------------------------------------------------ */

/* Makes a pair of two lines that were taken, where both are of one gpiochip and the kernel can;
 * else they stay single. They are inputs before and after it. False: somebody else was quicker;
 * errno is set. */
bool linux_pair_up(struct linux_port *linux_port, struct pin *first, struct pin *second);
void linux_unpair(struct linux_port *linux_port);

/* 0, or -1 with errno, as libgpiod's. */
int linux_set_of_pair(const struct pin *pin, enum cm_level level, bool high);
int linux_set_pair(const struct pair *pair, const bool *high);

/* 0 or 1; -1: the system refused. */
int linux_value_of_pair(const struct pin *pin);

/* --- modem.c ----------------------------------------------------------------------------- */

bool linux_open_modem(struct linux_port *linux_port, const char *device, char *error, size_t room);

/* RTS, CTS and so on. */
bool linux_is_modem_line(const char *name);

/* False: it is no modem line's name, or the desk has none. */
bool linux_take_modem_pin(const struct linux_port *linux_port, struct pin *pin, const char *text,
                          bool is_inverted);
enum cm_status linux_drive_modem(struct linux_port *linux_port, struct pin *pin,
                                 enum cm_level level);
enum cm_status linux_drive_modem_pair(struct linux_port *linux_port, struct pin *first,
                                      enum cm_level first_level, struct pin *second,
                                      enum cm_level second_level);
enum cm_status linux_sense_modem(struct linux_port *linux_port, const struct pin *pin, bool *high);

/* --- bits.c, spidev.c, i2cdev.c, supply.c ------------------------------------------------ */

extern const struct cm_spi linux_bits, linux_spi;
extern const struct cm_i2c linux_i2c;

/* Opens the device and sets it; false: the reason is in `error`, and errno is set. */
bool linux_open_spi(struct linux_port *linux_port, const char *device, char *error, size_t room);
bool linux_open_i2c(struct linux_port *linux_port, const char *device, char *error, size_t room);

/* Does the controller drive SELECT, and not a line of ours? */
static inline bool linux_controller_selects(const struct linux_port *linux_port)
{
    return linux_port->spi >= 0 && !linux_port->pins[CM_LINE_SELECT].is_wired;
}

/* What a message takes beside its bytes, in microseconds; and a transfer on I2C. */
uint16_t linux_message_us(struct linux_port *linux_port);
uint16_t linux_transfer_us(struct linux_port *linux_port);

/* Ends a select that the controller holds. */
enum cm_status linux_unselect(struct linux_port *linux_port);

/* The target's supply in millivolts. */
enum cm_status linux_measure(struct linux_port *linux_port, uint16_t *mv);

/* --- list.c, sketch.c -------------------------------------------------------------------- */

void linux_list(cm_port_told_fn *told, void *context);

/* A desk to begin with. */
bool linux_sketch(char *text, size_t room);

#endif
