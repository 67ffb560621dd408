/*
 * The line to a probe. Source: POSIX.1-2017, "General Terminal Interface"; the kernel's tty(4).
 *
 * A device is taken for this process alone (TIOCEXCL, flock). It is set so that closing it does not
 * lower DTR: on many boards that resets the processor, as raising it on opening does, which nobody
 * can keep from happening here.
 */
#define _DEFAULT_SOURCE
#include "../device.h"
#include "line.h"
#include <errno.h>
#include <fcntl.h>
#include <netdb.h>
#include <netinet/in.h>
#include <netinet/tcp.h>
#include <poll.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/file.h>
#include <sys/ioctl.h>
#include <sys/socket.h>
#include <termios.h>
#include <unistd.h>

/* --- serial devices ---------------------------------------------------------------------- */

static const struct {
    uint32_t baud;
    speed_t speed;
} SPEEDS[] = {{9600, B9600},       {19200, B19200},     {38400, B38400},     {57600, B57600},
              {115200, B115200},   {230400, B230400},   {460800, B460800},   {500000, B500000},
              {576000, B576000},   {921600, B921600},   {1000000, B1000000}, {1500000, B1500000},
              {2000000, B2000000}, {3000000, B3000000}, {4000000, B4000000}};

static speed_t speed_of(uint32_t baud)
{
    for (size_t i = 0; i < sizeof SPEEDS / sizeof SPEEDS[0]; i++) {
        if (SPEEDS[i].baud == baud)
            return SPEEDS[i].speed;
    }
    return B0;
}

uint32_t line_fastest_baud(uint32_t most)
{
    uint32_t fastest = 0;
    for (size_t i = 0; i < sizeof SPEEDS / sizeof SPEEDS[0]; i++)
        fastest = SPEEDS[i].baud <= most ? SPEEDS[i].baud : fastest;
    return fastest;
}

bool line_set_baud(int line, uint32_t baud)
{
    struct termios settings;
    speed_t speed = speed_of(baud);
    if (tcgetattr(line, &settings) != 0)
        return true; // no terminal: there is no rate
    cfmakeraw(&settings);
    settings.c_cflag |= CLOCAL | CREAD;
    settings.c_cflag &= ~(tcflag_t)(HUPCL | CRTSCTS | CSTOPB);
    settings.c_cc[VMIN] = 0;
    settings.c_cc[VTIME] = 0;
    if (speed != B0) {
        cfsetispeed(&settings, speed);
        cfsetospeed(&settings, speed);
    }
    return tcsetattr(line, TCSANOW, &settings) == 0 && speed != B0;
}

uint32_t line_baud_of(const char *place)
{
    const char *comma = strrchr(place, ',');
    return comma ? (uint32_t)strtoul(comma + 1, NULL, 10) : 0;
}

void line_explain(const char *path, int reason, char *error)
{
    if (reason == ENOTTY)
        snprintf(error, LINE_ERROR, "it is no serial device");
    else
        device_explain(path, reason, error, LINE_ERROR);
}

static int open_device(const char *place, enum cm_port_opening *opening, char *error)
{
    char path[300];
    uint32_t baud = line_baud_of(place);
    snprintf(path, sizeof path, "%.*s", (int)(baud ? strrchr(place, ',') - place : 299), place);
    if (baud && speed_of(baud) == B0) {
        snprintf(error, LINE_ERROR, "%u is no rate of a serial line", (unsigned)baud);
        return -1;
    }
    int line = open(path, O_RDWR | O_NOCTTY | O_CLOEXEC | O_NONBLOCK);
    int reason = 0;
    if (line < 0)
        reason = errno;
    else if (!isatty(line))
        reason = ENOTTY;
    else if (flock(line, LOCK_EX | LOCK_NB) != 0)
        reason = EBUSY;
    if (!reason) {
        (void)ioctl(line, TIOCEXCL);
        return line;
    }
    if (line >= 0)
        close(line);
    line_explain(path, reason, error);
    *opening = device_opening(reason);
    return -1;
}

/* --- TCP --------------------------------------------------------------------------------- */

static int connect_to(const struct addrinfo *addresses)
{
    int line = -1, on = 1;
    for (; addresses && line < 0; addresses = addresses->ai_next) {
        line = socket(addresses->ai_family, SOCK_STREAM | SOCK_CLOEXEC, 0);
        if (line >= 0 && connect(line, addresses->ai_addr, addresses->ai_addrlen) != 0) {
            int error = errno;
            close(line);
            errno = error;
            line = -1;
        }
    }
    if (line >= 0) {
        (void)setsockopt(line, IPPROTO_TCP, TCP_NODELAY, &on, sizeof on);
        (void)fcntl(line, F_SETFL, O_NONBLOCK);
    }
    return line;
}

/* "HOST:PORT", or "PORT" on this computer. */
static int open_tcp(const char *place, char *error)
{
    const char *colon = strrchr(place, ':');
    char host[200];
    struct addrinfo wanted = {.ai_socktype = SOCK_STREAM}, *found = NULL;
    snprintf(host, sizeof host, "%.*s", colon ? (int)(colon - place) : 9,
             colon ? place : "localhost");
    int failed = getaddrinfo(host, colon ? colon + 1 : place, &wanted, &found);
    int line = failed ? -1 : connect_to(found);
    if (line < 0)
        snprintf(error, LINE_ERROR, "%s", failed ? gai_strerror(failed) : strerror(errno));
    if (found)
        freeaddrinfo(found);
    return line;
}

/* --- all --------------------------------------------------------------------------------- */

int line_open(const char *place, enum cm_port_opening *opening, char *error)
{
    *opening = CM_PORT_NOT_OPENED;
    return strncmp(place, "tcp:", 4) == 0 ? open_tcp(place + 4, error)
                                          : open_device(place, opening, error);
}

bool line_write(int line, const uint8_t *bytes, size_t count)
{
    enum { MOST_MS = 2000 };
    while (count) {
        struct pollfd ready = {line, POLLOUT, 0};
        ssize_t written = write(line, bytes, count);
        if (written > 0) {
            bytes += written;
            count -= (size_t)written;
        } else if (written < 0 && errno != EAGAIN && errno != EINTR) {
            return false;
        } else if (poll(&ready, 1, MOST_MS) == 0) {
            return false;
        }
    }
    return true;
}

int line_read(int line, uint8_t *bytes, size_t room, int timeout_ms)
{
    struct pollfd ready = {line, POLLIN, 0};
    int count = poll(&ready, 1, timeout_ms);
    if (count <= 0)
        return count < 0 && errno != EINTR ? -1 : 0;
    ssize_t got = read(line, bytes, room);
    if (got > 0)
        return (int)got;
    bool is_nothing = got < 0 && (errno == EAGAIN || errno == EINTR);
    return is_nothing && !(ready.revents & (POLLHUP | POLLERR)) ? 0 : -1;
}
