/*
 * The computer's side of a link.
 *
 * A batch is cut into pieces (pieces.c), and as many of them as the probe has room for are on their
 * way at once. Results come in order. Where something is lost, the probe is asked: it sends again
 * what we have not acknowledged, and tells which piece it expects; from that one on we send again.
 *
 * A thread tells the probe several times a second that we are here. When it no longer does, since
 * this process was killed or stopped, the probe releases the target.
 */
#include "link.h"
#include "line.h"
#include "pieces.h"
#include <errno.h>
#include <pthread.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/random.h>
#include <time.h>
#include <unistd.h>

enum {
    PULSE_MS = 200,     /* the probe waits for a second */
    ASK_MS = 400,       /* nothing has come for so long: something was lost */
    PATIENCE_MS = 4000, /* and then, and the time of what is on its way, the probe is gone */
    BITS = 10,          /* of a byte on the line */
    HELLO_MS = 300,
    MOST_DATA = 1 << 20,
    READ_BYTES = 4096
};

/* A piece on its way. */
struct sent {
    struct piece piece;
    uint8_t *line;
    uint32_t bytes;
};

struct link {
    struct cm_port port;
    struct cm_port_state state;
    struct cm_link_probe probe;
    int line;
    uint32_t baud;
    _Atomic bool is_gone; // the pulse may find that out, too
    pthread_t pulse;
    pthread_mutex_t writing;
    pthread_cond_t ending;
    bool is_ending, has_pulse;
    uint16_t session;
    uint8_t next, acknowledged; /* piece to be sent; result that is due */
    struct sent *sent;          /* of each piece on its way, by its sequence */
    bool is_cut;                /* the next piece is, and waits for a result */
    uint8_t *payload;
    uint32_t room; /* of a payload */
    /* a frame coming in */
    uint8_t *frame;
    uint32_t frame_bytes, frame_room;
    uint8_t in[READ_BYTES];
    uint32_t in_at, in_count;
    uint32_t restarts; /* of the port behind the probe */
    struct link_counts counts;
};

/* --- time -------------------------------------------------------------------------------- */

static uint32_t time_us(const struct cm_port *port)
{
    struct timespec now;
    (void)port;
    clock_gettime(CLOCK_MONOTONIC, &now);
    return (uint32_t)((uint64_t)now.tv_sec * 1000000u + (uint64_t)now.tv_nsec / 1000u);
}

static void wait_us(const struct cm_port *port, uint32_t us)
{
    struct timespec left = {us / 1000000u, (long)(us % 1000000u) * 1000};
    (void)port;
    while (nanosleep(&left, &left) != 0 && errno == EINTR)
        continue;
}

static const struct cm_lines LINES = {.wait_us = wait_us, .now_us = time_us};

/* --- sending ----------------------------------------------------------------------------- */

static bool send_bytes(struct link *link, const uint8_t *bytes, uint32_t count)
{
    pthread_mutex_lock(&link->writing);
    bool good = !link->is_gone && line_write(link->line, bytes, count);
    if (!good)
        link->is_gone = true;
    link->counts.out += count;
    pthread_mutex_unlock(&link->writing);
    return good;
}

static bool send_short(struct link *link, enum cm_link_kind kind)
{
    uint8_t line[CM_LINK_LINE_BYTES(0)];
    const struct cm_link_frame frame = {(uint8_t)kind, link->next, link->acknowledged,
                                        link->session};
    return send_bytes(link, line, cm_link_encode(&frame, NULL, 0, line));
}

/* A lone zero between two frames says that we are here. */
static void *pulse(void *context)
{
    static const uint8_t ZERO = 0;
    struct link *link = context;
    pthread_mutex_lock(&link->writing);
    while (!link->is_ending) {
        struct timespec until;
        clock_gettime(CLOCK_REALTIME, &until);
        until.tv_nsec += PULSE_MS * 1000000L;
        until.tv_sec += until.tv_nsec / 1000000000L;
        until.tv_nsec %= 1000000000L;
        pthread_cond_timedwait(&link->ending, &link->writing, &until);
        if (!link->is_ending && !link->is_gone)
            link->is_gone = !line_write(link->line, &ZERO, 1);
    }
    pthread_mutex_unlock(&link->writing);
    return NULL;
}

static struct sent *sent_of(struct link *link, uint8_t sequence)
{
    return &link->sent[sequence % link->probe.window];
}

/* Sends a piece, for the first time or again: what is acknowledged is told anew. */
static bool send_piece(struct link *link, uint8_t sequence)
{
    struct sent *sent = sent_of(link, sequence);
    const struct cm_link_frame frame = {CM_LINK_BATCH, sequence, link->acknowledged, link->session};
    uint32_t bytes = cm_link_put_batch(&sent->piece.batch, link->payload, link->room);
    if (!bytes)
        return false;
    sent->bytes = cm_link_encode(&frame, link->payload, bytes, sent->line);
    return send_bytes(link, sent->line, sent->bytes);
}

static bool send_again(struct link *link, uint8_t from)
{
    uint8_t on_their_way = (uint8_t)(link->next - from),
            most = (uint8_t)(link->next - link->acknowledged);
    bool good = true;
    if (on_their_way > most) // one that we know to be done
        return true;
    for (uint8_t i = from; good && i != link->next; i++, link->counts.resent++)
        good = send_piece(link, i);
    return good;
}

/* --- receiving --------------------------------------------------------------------------- */

/* One byte into the frame at hand; true: it is whole, and not damaged. */
static bool take_byte(struct link *link, uint8_t byte, struct cm_link_frame *frame,
                      uint32_t *payload)
{
    if (byte) {
        if (link->frame_bytes < link->frame_room)
            link->frame[link->frame_bytes] = byte;
        link->frame_bytes++;
        return false;
    }
    uint32_t bytes = link->frame_bytes;
    link->frame_bytes = 0;
    return bytes && bytes <= link->frame_room && cm_link_decode(link->frame, bytes, frame, payload);
}

/* The next whole frame; false: none came in time, or the line is gone. */
static bool next_frame(struct link *link, int timeout_ms, struct cm_link_frame *frame,
                       uint32_t *payload)
{
    for (;;) {
        while (link->in_at < link->in_count) {
            if (take_byte(link, link->in[link->in_at++], frame, payload))
                return true;
        }
        int got = link->is_gone ? -1 : line_read(link->line, link->in, sizeof link->in, timeout_ms);
        if (got < 0)
            link->is_gone = true;
        link->in_at = 0;
        link->in_count = got > 0 ? (uint32_t)got : 0;
        link->counts.in += link->in_count;
        if (got <= 0)
            return false;
    }
}

/* --- sessions ---------------------------------------------------------------------------- */

static uint16_t new_session(void)
{
    uint16_t session = 0;
    if (getrandom(&session, sizeof session, GRND_NONBLOCK) != sizeof session)
        session = (uint16_t)(time_us(NULL) ^ (uint32_t)getpid());
    return session ? session : 1;
}

/* Says hello until the probe answers. */
static bool say_hello(struct link *link, int tries)
{
    struct cm_link_frame frame;
    uint32_t payload;
    link->session = new_session();
    link->next = link->acknowledged = 0;
    link->restarts = 0;
    while (tries-- > 0 && !link->is_gone) {
        static const uint8_t ZERO = 0; // ends whatever the probe has of a frame
        if (!send_bytes(link, &ZERO, 1) || !send_short(link, CM_LINK_HELLO))
            return false;
        while (next_frame(link, HELLO_MS, &frame, &payload)) {
            if (frame.kind == CM_LINK_HELLO && frame.session == link->session)
                return cm_link_get_probe(&link->probe, link->frame + CM_LINK_HEAD, payload);
        }
    }
    return false;
}

/* The probe has restarted, or given us up: a new session, in which nothing of the old one counts.
 */
static enum cm_status begin_anew(struct link *link)
{
    enum { TRIES = 10 };
    struct cm_link_probe before = link->probe;
    link->state.restarts++;
    if (!say_hello(link, TRIES))
        return CM_PORT_FAILED;
    bool is_same = link->probe.data_bytes == before.data_bytes && link->probe.ops == before.ops &&
                   link->probe.window == before.window;
    return is_same ? CM_CONTACT_LOST : CM_PORT_FAILED;
}

/* --- batches ----------------------------------------------------------------------------- */

/* What to do with a frame while a result is waited for. CM_OK: it is the result. CM_DECLINED: go on
 * waiting. */
static enum cm_status take_frame(struct link *link, const struct cm_link_frame *frame)
{
    if (frame->kind == CM_LINK_STRANGER)
        return begin_anew(link);
    if (frame->session != link->session)
        return CM_DECLINED;
    bool is_lost = frame->kind == CM_LINK_AGAIN && frame->sequence != frame->acknowledged;
    if (is_lost && !send_again(link, frame->sequence))
        return CM_PORT_FAILED;
    return frame->kind == CM_LINK_RESULT && frame->sequence == link->acknowledged ? CM_OK
                                                                                  : CM_DECLINED;
}

/* How long a probe that works may be silent: the line takes its time for what is on its way. */
static uint32_t patience_us(struct link *link)
{
    uint64_t bytes = 0;
    for (uint8_t i = link->acknowledged; i != link->next; i++)
        bytes += sent_of(link, i)->bytes;
    return PATIENCE_MS * 1000u + (uint32_t)(bytes * BITS * 1000000u / link->baud);
}

/* Waits for the result that is due. */
static enum cm_status await_result(struct link *link, uint32_t *payload)
{
    struct cm_link_frame frame;
    uint32_t heard = time_us(NULL);
    for (;;) {
        if (next_frame(link, ASK_MS, &frame, payload)) {
            heard = time_us(NULL);
            enum cm_status status = take_frame(link, &frame);
            if (status != CM_DECLINED)
                return status;
        } else if (link->is_gone || time_us(NULL) - heard > patience_us(link)) {
            return CM_PORT_FAILED;
        } else if (!send_short(link, CM_LINK_ASK)) {
            return CM_PORT_FAILED;
        }
    }
}

/* The result of the oldest piece on its way. */
static enum cm_status take_result(struct link *link, struct cm_run *run, bool has_failed)
{
    struct sent *sent = sent_of(link, link->acknowledged);
    struct cm_link_result result;
    uint32_t payload = 0;
    enum cm_status status = await_result(link, &payload);
    if (status)
        return status;
    if (!cm_link_get_result(&result, sent->piece.ops, (uint8_t)sent->piece.batch.op_count,
                            link->frame + CM_LINK_HEAD, payload))
        return CM_PORT_FAILED;
    link->acknowledged++;
    if (has_failed) // those behind it have not begun
        return CM_OK;
    link->state.restarts += result.restarts - link->restarts;
    link->restarts = result.restarts;
    take_back(run, &sent->piece, &result);
    return result.status;
}

/* Must a piece wait for what one on its way brings? */
static bool must_wait(struct link *link, const struct piece *piece)
{
    for (uint8_t i = link->acknowledged; i != link->next; i++) {
        if (needs_result_of(piece, &sent_of(link, i)->piece))
            return true;
    }
    return false;
}

/* Sends as many pieces as there is room for. */
static enum cm_status send_pieces(struct link *link, struct pieces *pieces)
{
    while ((uint8_t)(link->next - link->acknowledged) < link->probe.window) {
        struct piece *piece = &sent_of(link, link->next)->piece;
        enum cm_status status = link->is_cut ? CM_OK : next_piece(pieces, piece);
        link->is_cut = !status && piece->batch.op_count;
        bool is_alone = pieces->is_careful && link->next != link->acknowledged;
        if (!link->is_cut || is_alone || must_wait(link, piece))
            return status;
        fill_piece(piece);
        link->is_cut = false;
        link->counts.turns += link->next == link->acknowledged;
        if (!send_piece(link, link->next++))
            return CM_PORT_FAILED;
        if (pieces->is_careful)
            return CM_OK;
    }
    return CM_OK;
}

static enum cm_status run_batch(struct cm_run *run)
{
    struct link *link = run->port->context;
    struct pieces pieces = {.run = run, .probe = &link->probe};
    enum cm_status status = CM_OK;
    bool is_broken = false;
    link->is_cut = false;
    run->op = run->address = 0; // unless a result tells more
    run->placed = false;
    run->expected = run->found = 0;
    if (!(link->probe.buses >> run->bus->id & 1))
        return CM_PORT_LACKS;
    while (!is_broken) {
        enum cm_status sending = status ? CM_OK : send_pieces(link, &pieces);
        if (sending == CM_DECLINED) // it cannot be cut so small
            status = CM_PORT_LACKS;
        else if (sending)
            return sending;
        if (link->next == link->acknowledged)
            return status;
        uint8_t due = link->acknowledged;
        enum cm_status result = take_result(link, run, status != CM_OK);
        is_broken = result && link->acknowledged == due; // no result came
        status = status ? status : result;
    }
    return status;
}

/* --- open and close ---------------------------------------------------------------------- */

static struct cm_traits traits_of(const struct link *link, uint32_t call_us)
{
    struct cm_traits traits = link->probe.traits;
    traits.packs = true;
    traits.call_us = (uint16_t)(call_us < 60000 ? call_us : 60000);
    return traits;
}

/* What a round trip takes, as the shortest of a few. */
static uint32_t measure(struct link *link)
{
    enum { TIMES = 3 };
    struct cm_link_frame frame;
    uint32_t best = UINT32_MAX, payload;
    for (int i = 0; i < TIMES; i++) {
        uint32_t begun = time_us(NULL);
        if (send_short(link, CM_LINK_ASK) && next_frame(link, HELLO_MS, &frame, &payload)) {
            uint32_t took = time_us(NULL) - begun;
            best = took < best ? took : best;
        }
    }
    return best;
}

static bool make_room(struct link *link)
{
    const struct cm_link_probe *probe = &link->probe;
    if (probe->version != CM_LINK_VERSION || probe->data_bytes > MOST_DATA)
        return false;
    link->room = probe->data_bytes + PIECE_OPS * 300u;
    link->payload = malloc(link->room);
    link->sent = calloc(probe->window, sizeof *link->sent);
    bool good = link->payload && link->sent;
    for (uint8_t i = 0; good && i < probe->window; i++) {
        link->sent[i].line = malloc(CM_LINK_LINE_BYTES(link->room));
        link->sent[i].piece.data = malloc(probe->data_bytes);
        good = link->sent[i].line && link->sent[i].piece.data;
    }
    return good;
}

static void free_all(struct link *link)
{
    for (uint8_t i = 0; link->sent && i < link->probe.window; i++) {
        free(link->sent[i].line);
        free(link->sent[i].piece.data);
    }
    free(link->sent);
    free(link->payload);
    free(link->frame);
    close(link->line);
    pthread_mutex_destroy(&link->writing);
    pthread_cond_destroy(&link->ending);
    free(link);
}

static void set_baud(struct link *link, uint32_t baud)
{
    link->baud = baud;
    (void)line_set_baud(link->line, baud);
}

/* The rate that was named, or each of the usual ones, until a probe answers. */
static bool find_probe(struct link *link, uint32_t baud)
{
    static const uint32_t USUAL[] = {1000000, 500000, 115200, 57600, 38400, 19200, 9600};
    enum { FIRST_TRIES = 8, TRIES = 3 };
    bool is_terminal = isatty(link->line);
    if (baud || !is_terminal) {
        set_baud(link, baud ? baud : USUAL[0]);
        return say_hello(link, FIRST_TRIES);
    }
    for (size_t i = 0; i < sizeof USUAL / sizeof USUAL[0]; i++) {
        set_baud(link, USUAL[i]);
        if (say_hello(link, i ? TRIES : FIRST_TRIES))
            return true;
    }
    return false;
}

struct link *link_open(int line, uint32_t baud, char *error)
{
    struct link *link = calloc(1, sizeof *link);
    if (!link) {
        close(line);
        return NULL;
    }
    link->line = line;
    link->frame_room = CM_LINK_LINE_BYTES(MOST_DATA);
    link->frame = malloc(link->frame_room);
    pthread_mutex_init(&link->writing, NULL);
    pthread_cond_init(&link->ending, NULL);
    bool is_found = link->frame && find_probe(link, baud);
    if (!is_found || !make_room(link)) {
        snprintf(error, LINE_ERROR, "%s",
                 is_found ? "the probe there speaks another version of the protocol"
                          : "no probe answers there");
        free_all(link);
        return NULL;
    }
    link->port = (struct cm_port){.lines = &LINES,
                                  .run = run_batch,
                                  .context = link,
                                  .state = &link->state,
                                  .traits = traits_of(link, measure(link))};
    link->has_pulse = pthread_create(&link->pulse, NULL, pulse, link) == 0;
    return link;
}

struct cm_port *link_port(struct link *link)
{
    return &link->port;
}

const struct cm_link_probe *link_probe(const struct link *link)
{
    return &link->probe;
}

struct link_counts link_counts(const struct link *link)
{
    return link->counts;
}

void link_close(struct link *link)
{
    struct cm_link_frame frame;
    uint32_t payload;
    pthread_mutex_lock(&link->writing);
    link->is_ending = true;
    pthread_cond_signal(&link->ending);
    pthread_mutex_unlock(&link->writing);
    if (link->has_pulse)
        pthread_join(link->pulse, NULL);
    if (!link->is_gone && send_short(link, CM_LINK_END)) {
        while (next_frame(link, HELLO_MS, &frame, &payload) && frame.kind != CM_LINK_END)
            continue;
    }
    free_all(link);
}
