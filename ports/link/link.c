/*
 * The computer's side of a link.
 *
 * A batch is cut into pieces (pieces.c), and as many of them as the probe has room for are on their
 * way at once. Results come in order (answers.c).
 */
#include "inside.h"
#include "line.h"
#include <errno.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>
#include <unistd.h>

enum { END_MS = 300 };

/* --- the port's lines: time, and nothing else -------------------------------------------- */

static uint32_t time_us(const struct cm_port *port)
{
    (void)port;
    return link_now_us();
}

static void wait_us(const struct cm_port *port, uint32_t us)
{
    struct timespec left = {us / 1000000u, (long)(us % 1000000u) * 1000};
    (void)port;
    while (nanosleep(&left, &left) != 0 && errno == EINTR)
        continue;
}

static const struct cm_lines LINES = {.wait_us = wait_us, .now_us = time_us};

/* --- batches ----------------------------------------------------------------------------- */

/* The result of the oldest piece on its way. */
static enum cm_status take_result(struct link *link, struct cm_run *run, bool has_failed)
{
    struct sent *sent = link_sent(link, link->acknowledged);
    struct cm_link_result result;
    size_t payload = 0;
    enum cm_status status = link_await_result(link, &payload);
    if (status)
        return status;
    if (!cm_link_get_result(&result, sent->piece.ops, (uint8_t)sent->piece.batch.op_count,
                            link_payload(link), payload))
        return CM_PORT_FAILED;
    link->acknowledged++;
    link->owes_word |= result.data_count != 0;
    if (has_failed) // those behind it have not begun
        return CM_OK;
    link->state.restarts += result.restarts - link->restarts;
    link->restarts = result.restarts;
    const struct cm_link_batch *batch = &sent->piece.batch;
    if (result.status == CM_OK && result.data_count < batch->all - batch->kept)
        return CM_PORT_FAILED; // what did not come would be what was there before
    take_back(run, &sent->piece, &result);
    return result.status;
}

/* Must a piece wait for what one on its way brings? */
static bool must_wait(struct link *link, const struct piece *piece)
{
    for (uint8_t i = link->acknowledged; i != link->next; i++) {
        if (needs_result_of(piece, &link_sent(link, i)->piece))
            return true;
    }
    return false;
}

/* Puts the piece that is cut, or what must travel ahead of it, into the next slot. */
static void take_cut(struct link *link, struct piece *piece)
{
    fill_piece(&link->cut);
    shape_piece(&link->cut, &link->last);
    link->is_announced = link->cut.is_filled && !link->cut.batch.is_same;
    if (link->is_announced) {
        announce_piece(&link->cut, piece);
        shape_piece(piece, &link->last);
        link->cut.batch.continues = true;
        return;
    }
    uint8_t *data = piece->data;
    *piece = link->cut;
    piece->batch.ops = piece->ops;
    piece->batch.at = piece->at;
    link->cut.data = data;
}

/* Sends as many pieces as there is room for. */
static enum cm_status send_pieces(struct link *link, struct pieces *pieces)
{
    while ((uint8_t)(link->next - link->acknowledged) < link->probe.limits.window) {
        enum cm_status status = link->is_cut ? CM_OK : next_piece(pieces, &link->cut);
        link->is_cut = !status && link->cut.batch.op_count;
        bool is_alone =
            pieces->is_careful && link->next != link->acknowledged && !link->is_announced;
        if (!link->is_cut || is_alone || must_wait(link, &link->cut))
            return status;
        take_cut(link, &link_sent(link, link->next)->piece);
        link->is_cut = link->is_announced;
        link->counts.turns += link->next == link->acknowledged;
        if (!link_send_piece(link, link->next++))
            return CM_PORT_FAILED;
        if (pieces->is_careful && !link->is_cut)
            return CM_OK;
    }
    return CM_OK;
}

/* A line that was pulled out, and is in again: a new session, whose probe may be one that has just
 * been switched on. */
static bool rejoin(struct link *link)
{
    enum cm_port_opening opening;
    char error[LINE_ERROR];
    int line = line_open(link->place, &opening, error);
    if (line < 0)
        return false;
    pthread_mutex_lock(&link->writing);
    close(link->line);
    link->line = line;
    link->lost = LINK_FINE;
    link->in_at = link->in_count = 0;
    pthread_mutex_unlock(&link->writing);
    if (!link_find_probe(link, line_baud_of(link->place)))
        link_lose(link, link_is_stopped(link) ? LINK_STOPPED : LINK_SILENT);
    return !link->lost;
}

static enum cm_status run_whole(struct cm_run *run)
{
    struct link *link = run->port->context;
    struct pieces pieces = {.run = run, .limits = &link->probe.limits};
    enum cm_status status = CM_OK;
    bool is_broken = false;
    link->is_cut = link->is_announced = false;
    run->op = run->address = 0; // unless a result tells more
    run->placed = false;
    run->expected = run->found = 0;
    if (!(link->probe.limits.buses >> run->bus->id & 1))
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

/* A line that is gone is contact that is lost, and may come back. The probe releases the target
 * when it hears nobody: that is what the contract has as a restart. Pieces whose results have not
 * come belong to no batch any more: their session is over, too. */
static enum cm_status run_batch(struct cm_run *run)
{
    struct link *link = run->port->context;
    bool is_hopeless = link->lost == LINK_ENDLESS || link_is_stopped(link);
    if (link->lost && (is_hopeless || !rejoin(link))) {
        run->op = run->address = 0;
        run->placed = false;
        return link->lost == LINK_STOPPED ? CM_STOPPED : CM_PORT_FAILED; // nothing was said
    }
    enum cm_status status = run_whole(run);
    if (status == CM_PORT_FAILED && link->next != link->acknowledged)
        link_lose(link, LINK_SILENT);
    if (status != CM_PORT_FAILED || !link->lost || link->lost == LINK_ENDLESS)
        return status;
    link->state.restarts++;
    return link->lost == LINK_STOPPED ? CM_STOPPED : CM_CONTACT_LOST;
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
    uint32_t best = UINT32_MAX;
    size_t payload;
    for (int i = 0; i < TIMES; i++) {
        uint32_t begun = link_now_us();
        if (link_send_frame(link, CM_LINK_ASK, NULL, 0) &&
            link_await(link, CM_LINK_AGAIN, LINK_ASK_MS, &payload)) {
            uint32_t took = link_now_us() - begun;
            best = took < best ? took : best;
        }
    }
    return best;
}

static bool make_room(struct link *link)
{
    const struct cm_link_probe *probe = &link->probe;
    if (probe->version != CM_LINK_VERSION)
        return false;
    link->room = probe->limits.batch_bytes;
    link->payload = malloc(link->room);
    link->cut.data = malloc(probe->limits.batch_bytes);
    link->sent = calloc(probe->limits.window, sizeof *link->sent);
    bool good = link->payload && link->sent && link->cut.data;
    for (uint8_t i = 0; good && i < probe->limits.window; i++) {
        link->sent[i].line = malloc(CM_LINK_LINE_BYTES(link->room));
        link->sent[i].piece.data = malloc(probe->limits.batch_bytes);
        good = link->sent[i].line && link->sent[i].piece.data;
    }
    return good;
}

static void free_all(struct link *link)
{
    for (uint8_t i = 0; link->sent && i < link->probe.limits.window; i++) {
        free(link->sent[i].line);
        free(link->sent[i].piece.data);
    }
    free(link->sent);
    free(link->payload);
    free(link->cut.data);
    free(link->intake.bytes);
    close(link->line);
    pthread_mutex_destroy(&link->writing);
    pthread_cond_destroy(&link->ending);
    free(link);
}

uint32_t link_baud(const struct link *link)
{
    return link->baud;
}

const char *link_trouble(const struct link *link)
{
    static const char *const WORDS[] = {
        [LINK_UNPLUGGED] = "the line to the probe is gone: it was unplugged, perhaps",
        [LINK_SILENT] = "the probe no longer answers",
        [LINK_ENDLESS] = "what is on the line sends without an end, and never the answer",
        [LINK_OTHER] = "another probe answers on the line than at the beginning",
        [LINK_STOPPED] = "the probe did not answer in time to be stopped in an orderly way"};
    return WORDS[link->lost];
}

struct link *link_open(int line, const char *place, const struct cm_open_port *caller, char *error)
{
    struct link *link = calloc(1, sizeof *link);
    if (!link) {
        close(line);
        return NULL;
    }
    link->line = line;
    link->stopped = caller->stopped;
    link->stopped_context = caller->stopped_context;
    snprintf(link->place, sizeof link->place, "%s", place);
    link->intake.room = LINK_MOST_DATA + 1024;
    link->intake.bytes = malloc(link->intake.room);
    pthread_mutex_init(&link->writing, NULL);
    pthread_condattr_t monotonic; // the pulse beats, whatever the clock is set to
    pthread_condattr_init(&monotonic);
    pthread_condattr_setclock(&monotonic, CLOCK_MONOTONIC);
    pthread_cond_init(&link->ending, &monotonic);
    pthread_condattr_destroy(&monotonic);
    bool is_found = link->intake.bytes && link_find_probe(link, line_baud_of(place));
    if (!is_found || !make_room(link)) {
        link_explain(link, is_found, error);
        free_all(link);
        return NULL;
    }
    link->round_us = measure(link);
    link->port = (struct cm_port){.lines = &LINES,
                                  .run = run_batch,
                                  .context = link,
                                  .state = &link->state,
                                  .traits = traits_of(link, link->round_us)};
    link_begin_pulse(link);
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
    size_t payload;
    link_end_pulse(link);
    if ((!link->lost || link->lost == LINK_STOPPED) && link_send_frame(link, CM_LINK_END, NULL, 0))
        (void)link_await(link, CM_LINK_END, END_MS, &payload);
    free_all(link);
}
