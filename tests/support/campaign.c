#include "campaign.h"
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

enum { DATA_FIRST = 8, CARRY_BYTES = 65536 };

unsigned campaign_size(void)
{
    const char *text = getenv("COLDMINT_CAMPAIGN");
    long size = text ? strtol(text, NULL, 10) : 1;
    return size > 0 ? (unsigned)size : 1;
}

static uint8_t pattern(uint32_t at, uint32_t seed)
{
    uint32_t state = (at + 1) * 2654435761u ^ seed * 40503u;
    state = state * 1664525u + 1013904223u;
    return (uint8_t)(state >> 24);
}

static void find_model(struct campaign *campaign)
{
    struct cm_sim *sim = campaign->sim;
    void *models[] = {cm_sim_model(sim), cm_sim_memory(sim), cm_sim_parallel(sim), cm_sim_i2c(sim),
                      cm_sim_three_wire(sim)};
    for (size_t i = 0; i < sizeof models / sizeof models[0]; i++)
        campaign->model = models[i] ? models[i] : campaign->model;
    union sim_model *model = campaign->model;
    campaign->cells = cm_sim_model(sim)      ? model->avr.flash
                      : cm_sim_memory(sim)   ? model->nor.memory
                      : cm_sim_parallel(sim) ? model->par.memory
                      : cm_sim_i2c(sim)      ? model->i2c24.memory
                                             : model->m93.memory;
    campaign->bytes = cm_sim_model(sim) ? model->avr.row->flash_bytes
                                        : sim_memory_bytes(campaign->row, cm_sim_kind(sim));
    campaign->data_bytes = cm_sim_model(sim) ? model->avr.row->eeprom_bytes : 0;
}

static uint8_t cell(const struct campaign *campaign, uint32_t at)
{
    return cm_sim_model(campaign->sim) ? campaign->cells[at] : cm_sim_at(campaign->sim, at);
}

static uint8_t cell_before(const struct campaign *campaign, uint32_t at)
{
    uint8_t byte = campaign->saved_cells[at];
    return cm_sim_model(campaign->sim) ? byte : byte ^ 0xFF;
}

/* Old contents everywhere, wanted ones in their place; cells of memories are stored inverted. */
static void fill(struct campaign *campaign)
{
    const struct subject *subject = campaign->subject;
    uint8_t flip = cm_sim_model(campaign->sim) ? 0x00 : 0xFF;
    for (uint32_t i = 0; i < campaign->bytes; i++) {
        bool inside = i >= subject->first && i - subject->first < subject->count;
        uint8_t old = subject->keeps_old && inside ? 0xFF : pattern(i, 1);
        campaign->cells[i] = old ^ flip;
    }
    for (uint32_t i = 0; i < subject->count; i++)
        campaign->wanted[i] = pattern(i, 2);
    for (uint32_t i = 0; i < campaign->data_bytes; i++)
        campaign->model->avr.eeprom[i] = pattern(i, 3);
    for (uint32_t i = 0; i < subject->data_count; i++)
        campaign->wanted_data[i] = pattern(i, 4);
}

void campaign_restore(struct campaign *campaign)
{
    uint64_t *now = sim_now_ns(cm_sim_kind(campaign->sim), campaign->model), time_ns = *now;
    memcpy(campaign->model, &campaign->saved, sizeof campaign->saved);
    memcpy(campaign->cells, campaign->saved_cells, campaign->bytes);
    if (campaign->data_bytes)
        memcpy(campaign->model->avr.eeprom, campaign->saved_data, campaign->data_bytes);
    *now = time_ns + 1000000000; // time goes on
    cm_sim_faults(campaign->sim)->wire_count = 0;
    cm_sim_restart_faults(campaign->sim);
}

static enum cm_status keep_safe(void *context, uint8_t region, uint32_t address,
                                const uint8_t *bytes, uint32_t count)
{
    (void)context, (void)region, (void)address, (void)bytes, (void)count;
    return CM_OK;
}

/* Opens, feeds where the bench has no supply of its own, and identifies. */
static enum cm_status open_session(struct campaign *campaign, struct cm_session *session,
                                   struct cm_kit *kits, const char *asserted)
{
    cm_all_kits(kits, &campaign->found);
    assert_int_equal(cm_open(session, campaign->port ? campaign->port : cm_sim_port(campaign->sim),
                             kits, CM_ALL_KITS, campaign->workspace, campaign->subject->workspace),
                     CM_OK);
    bool feeds = cm_sim_bench(campaign->sim)->port.feeds_to_mv;
    enum cm_status status = feeds ? cm_feed(session, 5000) : CM_OK;
    return status ? status : cm_identify(session, asserted);
}
enum { KITS = CM_ALL_KITS };

enum cm_status campaign_act(struct campaign *campaign, enum campaign_act act, cm_sink_fn *sink,
                            void *context)
{
    const struct subject *subject = campaign->subject;
    struct cm_session session;
    struct cm_kit kits[KITS];
    struct cm_memory main = {campaign->wanted, subject->count, subject->first},
                     data = {campaign->wanted_data, subject->data_count, DATA_FIRST};
    struct cm_want wants[] = {
        {CM_REGION_MAIN, campaign->source ? *campaign->source : cm_memory_source(&main)},
        {CM_REGION_DATA, cm_memory_source(&data)}};
    struct cm_put put = {
        .wants = wants,
        .want_count = subject->data_count ? 2 : 1,
        .unprotect = true,
        .carry = {.bytes = campaign->carry, .size = CARRY_BYTES, .saved = keep_safe}};
    memset(&campaign->report, 0, sizeof campaign->report);
    enum cm_status status = open_session(campaign, &session, kits, subject->part);
    if (!status && act == CAMPAIGN_PUT)
        status = cm_put(&session, &put, &campaign->report);
    else if (!status && act == CAMPAIGN_COMPARE)
        status = cm_compare(&session, &wants[0], NULL, NULL, NULL, &campaign->report);
    else if (!status)
        status = cm_keep(&session, CM_REGION_MAIN, sink, NULL, context, &campaign->report);
    campaign->failure = session.failure;
    cm_close(&session);
    return status;
}

static enum cm_status do_job(struct campaign *campaign)
{
    return campaign_act(campaign, CAMPAIGN_PUT, NULL, NULL);
}

static bool is_wanted_right(const struct campaign *campaign)
{
    const struct subject *subject = campaign->subject;
    for (uint32_t i = 0; i < subject->count; i++) {
        if (cell(campaign, subject->first + i) != campaign->wanted[i])
            return false;
    }
    return !subject->data_count || memcmp(campaign->model->avr.eeprom + DATA_FIRST,
                                          campaign->wanted_data, subject->data_count) == 0;
}

/* Beside the images everything is as it was; of a microcontroller that was erased, its flash is
 * blank there. */
static bool is_rest_right(const struct campaign *campaign)
{
    const struct subject *subject = campaign->subject;
    bool is_avr = cm_sim_model(campaign->sim) != NULL, blank = is_avr && campaign->report.erase;
    for (uint32_t i = 0; i < campaign->bytes; i++) {
        bool inside = i >= subject->first && i - subject->first < subject->count;
        if (!inside && campaign->cells[i] != (blank ? 0xFF : campaign->saved_cells[i]))
            return false;
    }
    for (uint32_t i = 0; i < campaign->data_bytes; i++) {
        bool inside = i >= DATA_FIRST && i - DATA_FIRST < subject->data_count;
        if (!inside && campaign->model->avr.eeprom[i] != campaign->saved_data[i])
            return false;
    }
    if (is_avr)
        return memcmp(campaign->model->avr.fuses, campaign->saved.avr.fuses, 3) == 0 &&
               campaign->model->avr.lock == campaign->saved.avr.lock;
    if (cm_sim_memory(campaign->sim))
        return memcmp(campaign->model->nor.registers, campaign->saved.nor.registers,
                      sizeof campaign->saved.nor.registers) == 0;
    return true;
}

static void set_fault(struct campaign *campaign, const struct sim_wire_fault *fault)
{
    struct sim_faults *faults = cm_sim_faults(campaign->sim);
    faults->wire_count = fault != NULL;
    if (fault)
        faults->wires[0] = *fault;
    cm_sim_restart_faults(campaign->sim);
}

static void show(const struct campaign *campaign, const struct sim_wire_fault *fault,
                 enum cm_status status, const char *what)
{
    char text[SIM_WIRE_TEXT];
    sim_wire_print(fault, text);
    if (getenv("COLDMINT_CAMPAIGN_SHOW"))
        printf("    %s %s: %s, %s\n", campaign->subject->part, text, cm_status_word(status), what);
}

void campaign_job(struct campaign *campaign, const struct sim_wire_fault *fault,
                  struct tally *tally)
{
    campaign_restore(campaign);
    set_fault(campaign, fault);
    enum cm_status status = do_job(campaign);
    bool right = is_wanted_right(campaign), rest = is_rest_right(campaign);
    tally->jobs++;
    tally->good += status == CM_OK;
    tally->wrong += status == CM_OK && !right;
    tally->untold += status == CM_OK && !rest;
    if (status == CM_OK && (!right || !rest))
        show(campaign, fault, status, right ? "bytes beside the images changed" : "and wrong");
    if (campaign->subject->once_only)
        return;
    set_fault(campaign, NULL);
    enum cm_status again = do_job(campaign);
    bool finished = again == CM_OK && is_wanted_right(campaign);
    tally->stuck += !finished;
    if (!finished)
        show(campaign, fault, again, "not finished by running again");
}

static enum cm_status compare_kept(void *context, uint32_t address, const uint8_t *bytes,
                                   uint32_t count)
{
    struct campaign *campaign = context;
    for (uint32_t i = 0; i < count; i++)
        campaign->kept_wrong += bytes[i] != cell_before(campaign, address + i);
    return CM_OK;
}

void campaign_keep(struct campaign *campaign, const struct sim_wire_fault *fault,
                   struct tally *tally)
{
    campaign_restore(campaign);
    set_fault(campaign, fault);
    campaign->kept_wrong = 0;
    enum cm_status status = campaign_act(campaign, CAMPAIGN_KEEP, compare_kept, campaign);
    bool same = memcmp(campaign->cells, campaign->saved_cells, campaign->bytes) == 0 &&
                is_rest_right(campaign);
    bool wrong = status == CM_OK && campaign->kept_wrong;
    tally->jobs++;
    tally->good += status == CM_OK;
    tally->wrong += wrong;
    tally->untold += !same && status != CM_IN_DOUBT;
    if (wrong || (!same && status != CM_IN_DOUBT))
        show(campaign, fault, status,
             wrong ? "kept what is not there" : "keeping changed the chip");
}

void campaign_match(struct campaign *campaign, const struct sim_wire_fault *fault,
                    struct tally *tally)
{
    const struct subject *subject = campaign->subject;
    uint8_t *held = malloc(subject->count);
    struct cm_memory memory = {held, subject->count, subject->first};
    struct cm_source source = cm_memory_source(&memory);
    for (uint32_t i = 0; i < subject->count; i++)
        held[i] = cell_before(campaign, subject->first + i);
    campaign_restore(campaign);
    set_fault(campaign, fault);
    campaign->source = &source;
    enum cm_status status = campaign_act(campaign, CAMPAIGN_COMPARE, NULL, NULL);
    campaign->source = NULL;
    bool same = memcmp(campaign->cells, campaign->saved_cells, campaign->bytes) == 0 &&
                is_rest_right(campaign);
    tally->jobs++;
    tally->good += status == CM_OK;
    tally->untold += status == CM_OK && !same;
    if (status == CM_OK && !same)
        show(campaign, fault, status, "equal, and comparing changed the chip");
    free(held);
}

bool campaign_look(struct campaign *campaign, const struct sim_wire_fault *fault,
                   const char *asserted)
{
    struct cm_session session;
    struct cm_kit kits[KITS];
    campaign_restore(campaign);
    set_fault(campaign, fault);
    enum cm_status status = open_session(campaign, &session, kits, asserted);
    campaign->doubts = session.doubts;
    cm_close(&session);
    memset(&campaign->report, 0, sizeof campaign->report);
    bool same = memcmp(campaign->cells, campaign->saved_cells, campaign->bytes) == 0 &&
                is_rest_right(campaign);
    bool told = campaign->subject->takes_pieces && (status || campaign->doubts);
    if (!same && !told)
        show(campaign, fault, status, "looking changed the chip");
    return same || told;
}

uint64_t campaign_look_clocks(struct campaign *campaign)
{
    campaign_restore(campaign);
    set_fault(campaign, NULL);
    struct cm_session session;
    struct cm_kit kits[KITS];
    assert_int_equal(open_session(campaign, &session, kits, campaign->subject->part), CM_OK);
    cm_close(&session);
    return cm_sim_clocks(campaign->sim);
}

void campaign_open(struct campaign *campaign, const struct subject *subject)
{
    static unsigned number;
    char path[200], text[600], name[40], error[SIM_ERROR_BYTES];
    const struct sim_kind *kind;
    memset(campaign, 0, sizeof *campaign);
    campaign->subject = subject;
    campaign->row = sim_find_part(subject->part, &kind);
    assert_non_null(campaign->row);
    bool feeds = strstr(subject->more, "feeds_to_mv") != NULL;
    unsigned mv = ((unsigned)campaign->row->supply_min_mv + campaign->row->supply_max_mv) / 2;
    snprintf(text, sizeof text, "bench: wires\nchip:\n  part: %s\n  supply_mv: %u\n%s",
             subject->part, feeds ? 0 : mv, subject->more);
    snprintf(name, sizeof name, "wires-%u.yaml", number++);
    write_file(path, sizeof path, name, text);
    campaign->sim = cm_sim_open(path, error);
    if (!campaign->sim)
        fail_msg("%s", error);
    test_way(campaign->sim);
    find_model(campaign);
    campaign->wanted = malloc(subject->count);
    campaign->wanted_data = malloc(subject->data_count + 1);
    campaign->saved_cells = malloc(campaign->bytes);
    campaign->saved_data = malloc(campaign->data_bytes + 1);
    campaign->workspace = malloc(subject->workspace);
    campaign->carry = malloc(CARRY_BYTES);
    fill(campaign);
    memcpy(&campaign->saved, campaign->model, sizeof campaign->saved);
    memcpy(campaign->saved_cells, campaign->cells, campaign->bytes);
    if (campaign->data_bytes)
        memcpy(campaign->saved_data, campaign->model->avr.eeprom, campaign->data_bytes);
    campaign_restore(campaign);
    enum cm_status status = do_job(campaign);
    if (status || !is_wanted_right(campaign) || !is_rest_right(campaign))
        fail_msg("%s with good wires: %s", subject->part, cm_status_word(status));
    campaign->clocks = cm_sim_clocks(campaign->sim);
    campaign_restore(campaign);
    assert_int_equal(campaign_act(campaign, CAMPAIGN_KEEP, compare_kept, campaign), CM_OK);
    assert_int_equal(campaign->kept_wrong, 0);
    campaign->keep_clocks = cm_sim_clocks(campaign->sim);
    campaign_match(campaign, NULL, &(struct tally){0});
    campaign->match_clocks = cm_sim_clocks(campaign->sim);
}

void campaign_close(struct campaign *campaign)
{
    free(campaign->wanted);
    free(campaign->wanted_data);
    free(campaign->saved_cells);
    free(campaign->saved_data);
    free(campaign->workspace);
    free(campaign->carry);
    cm_sim_close(campaign->sim);
}
