/*
 * The system calls of ports/linux/, played: loaded before the tool (LD_PRELOAD), this stands
 * between it and the kernel, and wires /dev/spidev9.0, /dev/i2c-9, the modem lines of /dev/ttyS9
 * and the lines of "gpiochip9" to a simulated bench. Written from the kernel's documentation
 * (spidev.rst, i2c/dev-interface.rst) and the header of libgpiod.
 *
 *     FAKE_BENCH     the bench
 *     FAKE_TROUBLE   what the system refuses, in a word: see `has_trouble`
 */
#define _GNU_SOURCE
#include <dlfcn.h>
#include <errno.h>
#include <fcntl.h>
#include <gpiod.h>
#include <linux/gpio.h>
#include <linux/i2c-dev.h>
#include <linux/i2c.h>
#include <linux/spi/spidev.h>
#include <sched.h>
#include <sim/sim.h>
#include <stdarg.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/ioctl.h>
#include <termios.h>
#include <time.h>
#include <unistd.h>

enum {
    BUFSIZ_OF_SPIDEV = 4096,
    ALIGNMENT = 8,
    LINES = CM_LINE_END,
    SWITCH = 30 /* the line that switches the supply on */
};

struct gpiod_chip {
    unsigned open;
};
struct gpiod_line {
    bool is_taken;
};

static struct cm_sim *sim;
static const struct cm_port *target;
static int spi = -1, i2c = -1, modem = -1, modem_bits;
static bool has_break;
static uint32_t spi_mode, spi_hz = 500000;
static bool is_selected;
static struct gpiod_chip chip;
static struct gpiod_line lines[LINES];
static uint64_t last_us;

static bool has_trouble(const char *word)
{
    const char *trouble = getenv("FAKE_TROUBLE");
    return trouble && strcmp(trouble, word) == 0;
}

static int refuse(int reason)
{
    errno = reason;
    return -1;
}

/* --- the bench --------------------------------------------------------------------------- */

static void close_bench(void)
{
    if (sim)
        cm_sim_close(sim);
    sim = NULL;
}

static bool has_bench(void)
{
    char error[SIM_ERROR_BYTES];
    const char *path = getenv("FAKE_BENCH");
    if (!sim && path) {
        sim = cm_sim_open(path, error);
        if (!sim)
            fprintf(stderr, "fake kernel: %s\n", error);
        target = sim ? cm_sim_port(sim) : NULL;
        atexit(close_bench);
    }
    return sim;
}

/* The bench's time goes with the computer's. */
static void keep_up(void)
{
    struct timespec now;
    clock_gettime(CLOCK_MONOTONIC, &now);
    uint64_t now_us = (uint64_t)now.tv_sec * 1000000u + (uint64_t)now.tv_nsec / 1000u;
    if (last_us && now_us > last_us)
        target->lines->wait_us(target, (uint32_t)(now_us - last_us));
    last_us = now_us;
}

static void select_chip(bool low)
{
    if (low != is_selected)
        (void)target->lines->line(target, CM_LINE_SELECT, low ? CM_LOW : CM_HIGH);
    is_selected = low;
}

/* --- spidev ------------------------------------------------------------------------------ */

static int spi_message(const struct spi_ioc_transfer *transfers, unsigned count)
{
    uint32_t out = 0, in = 0, real_hz;
    bool uses_select = !(spi_mode & SPI_NO_CS);
    for (unsigned i = 0; i < count; i++) {
        uint32_t bytes = (transfers[i].len + ALIGNMENT - 1) & ~(uint32_t)(ALIGNMENT - 1);
        out += transfers[i].tx_buf ? bytes : 0;
        in += transfers[i].rx_buf ? bytes : 0;
    }
    if (out > BUFSIZ_OF_SPIDEV || in > BUFSIZ_OF_SPIDEV || has_trouble("too-long"))
        return refuse(EMSGSIZE);
    keep_up();
    for (unsigned i = 0; i < count; i++) {
        const uint8_t *from = (const uint8_t *)(uintptr_t)transfers[i].tx_buf;
        uint8_t *to = (uint8_t *)(uintptr_t)transfers[i].rx_buf;
        if (uses_select)
            select_chip(true);
        uint32_t hz = transfers[i].speed_hz && transfers[i].speed_hz < spi_hz
                          ? transfers[i].speed_hz
                          : spi_hz;
        if (target->spi->clock(target, hz, &real_hz) != CM_OK ||
            target->spi->shift(target, from, to, transfers[i].len) != CM_OK)
            return refuse(EIO);
        bool is_last = i + 1 == count, changes = transfers[i].cs_change;
        if (uses_select && is_last != changes)
            select_chip(false);
    }
    return (int)out;
}

static int spi_ioctl(unsigned long request, void *argument)
{
    uint32_t word = 0;
    if (_IOC_NR(request) == 0 && _IOC_TYPE(request) == SPI_IOC_MAGIC)
        return spi_message(argument,
                           (unsigned)(_IOC_SIZE(request) / sizeof(struct spi_ioc_transfer)));
    switch (request) {
    case SPI_IOC_RD_MODE32:
        memcpy(argument, &spi_mode, sizeof spi_mode);
        return 0;
    case SPI_IOC_WR_MODE32:
        memcpy(&word, argument, sizeof word);
        if (has_trouble("no-mode") || (has_trouble("always-selects") && word & SPI_NO_CS))
            return refuse(EINVAL);
        spi_mode = word;
        keep_up();
        select_chip(false);
        return 0;
    case SPI_IOC_WR_BITS_PER_WORD:
        return 0;
    case SPI_IOC_WR_MAX_SPEED_HZ:
        memcpy(&word, argument, sizeof word);
        if (!word || has_trouble("no-clock"))
            return refuse(EINVAL);
        spi_hz = word;
        return 0;
    case SPI_IOC_RD_MAX_SPEED_HZ:
        memcpy(argument, &spi_hz, sizeof spi_hz);
        return 0;
    default:
        return refuse(ENOTTY);
    }
}

/* --- i2c-dev ----------------------------------------------------------------------------- */

static int i2c_transfer(const struct i2c_rdwr_ioctl_data *data)
{
    struct cm_transfer wanted = {.device = (uint8_t)data->msgs[0].addr};
    for (unsigned i = 0; i < data->nmsgs; i++) {
        if (data->msgs[i].len > 8192)
            return refuse(EINVAL);
        if (data->msgs[i].flags & I2C_M_RD) {
            wanted.in = data->msgs[i].buf;
            wanted.in_count = data->msgs[i].len;
        } else {
            wanted.out = data->msgs[i].buf;
            wanted.out_count = data->msgs[i].len;
        }
    }
    if (has_trouble("no-empty") && !wanted.in_count && !wanted.out_count)
        return refuse(EOPNOTSUPP);
    if (has_trouble("arbitration"))
        return refuse(EAGAIN);
    uint32_t real_hz;
    keep_up();
    if (target->i2c->clock(target, 100000, &real_hz) != CM_OK)
        return refuse(EIO);
    return target->i2c->transfer(target, &wanted) == CM_OK ? (int)data->nmsgs : refuse(EREMOTEIO);
}

static int i2c_ioctl(unsigned long request, void *argument)
{
    if (request == I2C_FUNCS) {
        *(unsigned long *)argument =
            has_trouble("smbus-only") ? I2C_FUNC_SMBUS_QUICK : I2C_FUNC_I2C;
        return 0;
    }
    return request == I2C_RDWR ? i2c_transfer(argument) : refuse(ENOTTY);
}

/* --- modem lines of a converter with logic levels: what is asserted is low ------------------- */

static void show_modem(void)
{
    enum { BREAK = 1 << 30 };
    static const struct {
        int bit;
        enum cm_line line;
    } WIRES[] = {{TIOCM_RTS, CM_LINE_SCK}, {TIOCM_DTR, CM_LINE_MOSI}, {BREAK, CM_LINE_RESET}};
    static int shown = -1;
    int now = modem_bits | (has_break ? BREAK : 0);
    keep_up();
    for (int i = 0; i < 3; i++) {
        if (shown < 0 || (now ^ shown) & WIRES[i].bit)
            (void)target->lines->line(target, WIRES[i].line, now & WIRES[i].bit ? CM_LOW : CM_HIGH);
    }
    shown = now;
}

static int modem_ioctl(unsigned long request, void *argument)
{
    uint16_t miso = 0;
    switch (request) {
    case TIOCEXCL:
        return 0;
    case TIOCMGET:
        if (has_trouble("no-modem"))
            return refuse(ENOTTY);
        keep_up();
        (void)target->lines->sense(target, CM_LINE_MISO, &miso);
        *(int *)argument = modem_bits | (miso ? 0 : TIOCM_CTS);
        return 0;
    case TIOCMSET:
        modem_bits = *(int *)argument & (TIOCM_RTS | TIOCM_DTR);
        break;
    case TIOCSBRK:
    case TIOCCBRK:
        has_break = request == TIOCSBRK;
        break;
    default:
        return refuse(ENOTTY);
    }
    show_modem();
    return 0;
}

int tcgetattr(int file, struct termios *settings)
{
    int (*next)(int, struct termios *) = dlsym(RTLD_NEXT, "tcgetattr");
    if (file < 0 || file != modem)
        return next(file, settings);
    memset(settings, 0, sizeof *settings);
    return 0;
}

int tcsetattr(int file, int when, const struct termios *settings)
{
    int (*next)(int, int, const struct termios *) = dlsym(RTLD_NEXT, "tcsetattr");
    return file >= 0 && file == modem ? 0 : next(file, when, settings);
}

/* --- two lines in one request ---------------------------------------------------------------- */

static struct {
    int chip, file;
    enum cm_line lines[2];
    bool is_output[2];
} pair = {-1, -1, {CM_LINE_END, CM_LINE_END}, {false}};

static int set(const struct gpiod_line *line, enum cm_level level);

static int request_pair(struct gpio_v2_line_request *request)
{
    if (has_trouble("old-kernel"))
        return refuse(ENOTTY);
    if (request->num_lines != 2 || request->config.flags != GPIO_V2_LINE_FLAG_INPUT)
        return refuse(EINVAL);
    for (int i = 0; i < 2; i++) {
        pair.lines[i] = (enum cm_line)request->offsets[i];
        if (lines[pair.lines[i]].is_taken)
            return refuse(EBUSY);
        lines[pair.lines[i]].is_taken = true;
    }
    request->fd = pair.file = dup(pair.chip);
    return 0;
}

/* A line that no attribute names stays as it is. */
static int configure_pair(const struct gpio_v2_line_config *config)
{
    for (uint64_t i = 0; i < 2; i++) {
        uint64_t flags = 0, high = 0;
        for (uint32_t n = 0; n < config->num_attrs; n++) {
            const struct gpio_v2_line_attribute *attribute = &config->attrs[n].attr;
            bool is_named = config->attrs[n].mask >> i & 1;
            if (is_named && attribute->id == GPIO_V2_LINE_ATTR_ID_FLAGS)
                flags = attribute->flags;
            else if (is_named && attribute->id == GPIO_V2_LINE_ATTR_ID_OUTPUT_VALUES)
                high = attribute->values >> i & 1;
        }
        if (!flags)
            continue;
        pair.is_output[i] = flags & GPIO_V2_LINE_FLAG_OUTPUT;
        if (set(&lines[pair.lines[i]], !pair.is_output[i] ? CM_RELEASED
                                       : high             ? CM_HIGH
                                                          : CM_LOW) != 0)
            return -1;
    }
    return 0;
}

static int pair_values(unsigned long request, struct gpio_v2_line_values *values)
{
    for (uint64_t i = 0; i < 2; i++) {
        uint16_t value = 0;
        if (!(values->mask >> i & 1))
            continue;
        if (request == GPIO_V2_LINE_GET_VALUES_IOCTL) {
            (void)target->lines->sense(target, pair.lines[i], &value);
            values->bits |= (uint64_t)(value != 0) << i;
        } else if (!pair.is_output[i]) {
            return refuse(EPERM);
        } else if (set(&lines[pair.lines[i]], values->bits >> i & 1 ? CM_HIGH : CM_LOW) != 0) {
            return -1;
        }
    }
    return 0;
}

static int pair_ioctl(unsigned long request, void *argument)
{
    switch (request) {
    case GPIO_V2_GET_LINE_IOCTL:
        return request_pair(argument);
    case GPIO_V2_LINE_SET_CONFIG_IOCTL:
        return configure_pair(argument);
    case GPIO_V2_LINE_SET_VALUES_IOCTL:
    case GPIO_V2_LINE_GET_VALUES_IOCTL:
        return pair_values(request, argument);
    default:
        return refuse(ENOTTY);
    }
}

/* --- system calls ------------------------------------------------------------------------ */

static int open_fake(const char *path)
{
    bool is_spi = strcmp(path, "/dev/spidev9.0") == 0;
    if (has_trouble("no-right"))
        return refuse(EACCES);
    if (!has_bench())
        return refuse(ENODEV);
    int (*next)(const char *, int, ...) = dlsym(RTLD_NEXT, "open");
    int file = next("/dev/null", O_RDWR | O_CLOEXEC);
    if (strcmp(path, "/dev/gpiochip9") == 0) {
        pair.chip = file;
    } else if (strcmp(path, "/dev/ttyS9") == 0) { // opening raises both lines
        modem = file;
        modem_bits = TIOCM_RTS | TIOCM_DTR;
        show_modem();
    } else {
        *(is_spi ? &spi : &i2c) = file;
    }
    return file;
}

static int open_it(const char *name, const char *path, int flags, mode_t mode)
{
    static const char *const FAKES[] = {"/dev/spidev9.0", "/dev/i2c-9", "/dev/ttyS9",
                                        "/dev/gpiochip9"};
    for (int i = 0; i < 4; i++) {
        if (strcmp(path, FAKES[i]) == 0)
            return open_fake(path);
    }
    int (*next)(const char *, int, ...) = dlsym(RTLD_NEXT, name);
    return next(path, flags, mode);
}

int open(const char *path, int flags, ...)
{
    va_list arguments;
    va_start(arguments, flags);
    mode_t mode = flags & (O_CREAT | __O_TMPFILE) ? va_arg(arguments, mode_t) : 0;
    va_end(arguments);
    return open_it("open", path, flags, mode);
}

int ioctl(int file, unsigned long request, ...)
{
    va_list arguments;
    va_start(arguments, request);
    void *argument = va_arg(arguments, void *);
    va_end(arguments);
    if (file >= 0 && file == spi)
        return spi_ioctl(request, argument);
    if (file >= 0 && file == i2c)
        return i2c_ioctl(request, argument);
    if (file >= 0 && file == modem)
        return modem_ioctl(request, argument);
    if (file >= 0 && (file == pair.chip || file == pair.file))
        return pair_ioctl(request, argument);
    int (*next)(int, unsigned long, ...) = dlsym(RTLD_NEXT, "ioctl");
    return next(file, request, argument);
}

/* The real one would slow down everybody else here. */
int sched_setscheduler(pid_t process, int policy, const struct sched_param *wanted)
{
    bool is_real_time = (policy & ~SCHED_RESET_ON_FORK) == SCHED_FIFO;
    (void)process;
    if (has_trouble("no-priority") || (is_real_time && wanted->sched_priority < 1))
        return refuse(EPERM);
    return 0;
}

int flock(int file, int operation)
{
    if (file >= 0 && (file == spi || file == i2c || file == modem))
        return has_trouble("busy") ? refuse(EWOULDBLOCK) : 0;
    int (*next)(int, int) = dlsym(RTLD_NEXT, "flock");
    return next(file, operation);
}

/* --- libgpiod: the lines of gpiochip9, numbered as enum cm_line ------------------------------ */

struct gpiod_chip *gpiod_chip_open_lookup(const char *name)
{
    if (strcmp(name, "gpiochip9") == 0 && has_bench())
        return &chip;
    errno = ENOENT;
    return NULL;
}

void gpiod_chip_close(struct gpiod_chip *closed)
{
    (void)closed;
}

unsigned int gpiod_chip_num_lines(struct gpiod_chip *asked)
{
    (void)asked;
    return LINES;
}

struct gpiod_line *gpiod_chip_get_line(struct gpiod_chip *asked, unsigned int number)
{
    (void)asked;
    return &lines[number];
}

/* One line has a name of its own. */
struct gpiod_line *gpiod_line_find(const char *name)
{
    if (strcmp(name, "BUTTON-RESET") == 0 && has_bench())
        return &lines[CM_LINE_RESET];
    errno = ENOENT;
    return NULL;
}

const char *gpiod_chip_name(struct gpiod_chip *asked)
{
    (void)asked;
    return "gpiochip9";
}

unsigned int gpiod_line_offset(struct gpiod_line *line)
{
    return (unsigned)(line - lines);
}

void gpiod_line_release(struct gpiod_line *line)
{
    line->is_taken = false;
}

struct gpiod_chip *gpiod_line_get_chip(struct gpiod_line *line)
{
    (void)line;
    return &chip;
}

int gpiod_line_request(struct gpiod_line *line, const struct gpiod_line_request_config *config,
                       int value)
{
    (void)value;
    if (config->request_type != GPIOD_LINE_REQUEST_DIRECTION_INPUT)
        return refuse(EINVAL);
    if (line->is_taken || has_trouble("taken"))
        return refuse(EBUSY);
    line->is_taken = true;
    return 0;
}

const char *gpiod_line_consumer(struct gpiod_line *line)
{
    (void)line;
    return "spi0 CS0";
}

static int set(const struct gpiod_line *line, enum cm_level level)
{
    if (has_trouble("line-fails"))
        return refuse(EIO);
    keep_up();
    if (line - lines == SWITCH)
        return target->lines->supply(target, level == CM_HIGH ? 3300 : 0) == CM_OK ? 0
                                                                                   : refuse(EIO);
    return target->lines->line(target, (enum cm_line)(line - lines), level) == CM_OK ? 0
                                                                                     : refuse(EIO);
}

int gpiod_line_set_config(struct gpiod_line *line, int direction, int flags, int value)
{
    (void)flags;
    bool is_output = direction == GPIOD_LINE_REQUEST_DIRECTION_OUTPUT;
    return set(line, !is_output ? CM_RELEASED : value ? CM_HIGH : CM_LOW);
}

int gpiod_line_set_value(struct gpiod_line *line, int value)
{
    return set(line, value ? CM_HIGH : CM_LOW);
}

int gpiod_line_get_value(struct gpiod_line *line)
{
    uint16_t value = 0;
    keep_up();
    return target->lines->sense(target, (enum cm_line)(line - lines), &value) == CM_OK
               ? value
               : refuse(EIO);
}
