#define _GNU_SOURCE /* nftw, mkdtemp */
#include "support.h"
#include "chance.h"
#include <errno.h>
#include <ftw.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>

const struct cm_kit test_kit = {.family = &cm_avr,
                                .parts = cm_avr_all_parts,
                                .part_count = CM_AVR_PART_COUNT,
                                .carrier = &cm_carry_data,
                                .strides = &cm_avr_strides,
                                .words = &cm_avr_words,
                                .find_clock = cm_avr_find_clock};

static char folder[120];
static pid_t owner;

static int remove_one(const char *path, const struct stat *facts, int kind, struct FTW *walk)
{
    (void)facts, (void)kind, (void)walk;
    return remove(path);
}

static void remove_folder(void)
{
    if (getpid() == owner)
        nftw(folder, remove_one, 16, FTW_DEPTH | FTW_PHYS);
}

const char *test_folder(void)
{
    if (!owner) {
        const char *where = getenv("TMPDIR"); // ./run test names one in memory
        owner = getpid();
        snprintf(folder, sizeof folder, "%.90s/coldmint-test-XXXXXX",
                 where && *where ? where : "/tmp");
        assert_non_null(mkdtemp(folder));
        atexit(remove_folder);
        setenv("XDG_CONFIG_HOME", folder, 1);
        setenv("XDG_STATE_HOME", folder, 1);
        unsetenv("COLDMINT_VIA");
    }
    return folder;
}

void write_file(char *path, size_t bytes, const char *name, const char *text)
{
    snprintf(path, bytes, "%s/%s", test_folder(), name);
    FILE *file = fopen(path, "w");
    assert_non_null(file);
    fputs(text, file);
    assert_int_equal(fclose(file), 0);
}

char *read_file(const char *path)
{
    FILE *file = fopen(path, "rb");
    if (!file)
        return NULL;
    char *text = calloc(1, 1 << 20);
    size_t got = fread(text, 1, (1 << 20) - 1, file);
    text[got] = '\0';
    fclose(file);
    return text;
}

static bool is_way(const char *name)
{
    const char *way = getenv("TEST_WAY");
    return strcmp(way ? way : "plain", name) == 0;
}

bool test_is_plain_way(void)
{
    return is_way("plain");
}

bool test_is_packed_way(void)
{
    return is_way("packed");
}

static uint32_t one_in(void)
{
    enum { ONE_IN = 3 };
#ifdef __SANITIZE_ADDRESS__
    return ONE_IN;
#else
    return test_is_plain_way() ? 1 : ONE_IN;
#endif
}

bool test_takes_part(uint32_t number)
{
    return test_takes(number, one_in());
}

unsigned test_first_place(void)
{
    return test_first(one_in());
}

unsigned test_place_step(void)
{
    return test_stride(one_in());
}

void test_way(struct cm_sim *sim)
{
    if (is_way("packed"))
        cm_sim_pack(sim);
    if (is_way("whole"))
        cm_sim_link(sim);
}

void rig_open(struct rig *rig, const char *part, const char *more)
{
    static unsigned number;
    char yaml[1000], name[40], error[SIM_ERROR_BYTES];
    memset(rig, 0, sizeof *rig);
    const struct cm_part *row = cm_part_by_name(&test_kit, 1, part);
    assert_non_null(row);
    snprintf(yaml, sizeof yaml, "bench: a %s in a test\nchip:\n  part: %s\n  supply_mv: %d\n%s",
             part, part, row->supply_max_mv < 5000 ? 3300 : 5000, more);
    snprintf(name, sizeof name, "bench-%u.yaml", number++);
    write_file(rig->path, sizeof rig->path, name, yaml);
    rig->sim = cm_sim_open(rig->path, error);
    if (!rig->sim)
        fail_msg("%s", error);
    test_way(rig->sim);
    rig->port = cm_sim_port(rig->sim);
    rig->model = cm_sim_model(rig->sim);
    assert_int_equal(
        cm_open(&rig->session, rig->port, &test_kit, 1, rig->workspace, sizeof rig->workspace),
        CM_OK);
}

void fill_image(struct rig *rig, uint32_t seed)
{
    uint32_t bytes = rig->model->row->flash_bytes, state = seed * 2654435761u + 1;
    free(rig->image);
    rig->image = malloc(bytes);
    for (uint32_t i = 0; i < bytes; i++) {
        state = state * 1664525u + 1013904223u;
        rig->image[i] = (uint8_t)(state >> 24);
    }
    rig->image[0] = 0x0C; // like a vector
    rig->memory = (struct cm_memory){rig->image, bytes, 0};
    rig->want = (struct cm_want){CM_REGION_MAIN, cm_memory_source(&rig->memory)};
    rig->put = (struct cm_put){.wants = &rig->want, .want_count = 1};
}

void rig_identify(struct rig *rig)
{
    enum cm_status status = cm_identify(&rig->session, rig->model->row->part.name);
    if (status)
        fail_msg("%s: %s, fuses %02X %02X %02X, CPU at %u Hz", rig->model->row->part.name,
                 cm_status_word(status), rig->model->fuses[0], rig->model->fuses[1],
                 rig->model->fuses[2], (unsigned)rig->model->cpu_hz);
}

void rig_close(struct rig *rig)
{
    cm_close(&rig->session);
    free(rig->image);
    assert_true(cm_sim_close(rig->sim));
}

void assert_no_breach(const struct avr_model *model)
{
    for (int i = 0; i < BREACH_COUNT; i++) {
        if (model->breaches[i])
            fail_msg("%s: %s, %u times", model->row->part.name, avr_breach_words[i],
                     model->breaches[i]);
    }
}

void make_bench(const char *name, const char *part, const char *more, char *path, char *via)
{
    char text[1000], file[100];
    snprintf(text, sizeof text, "bench: in a test\nchip:\n  part: %s\n  supply_mv: 5000\n%s", part,
             more);
    snprintf(file, sizeof file, "%s.yaml", name);
    write_file(path, 200, file, text);
    snprintf(via, 220, "--via=sim:%s", path);
}

void assert_says(const char *text, const char *wanted)
{
    if (!strstr(text, wanted))
        fail_msg("'%s' is not in:\n%s", wanted, text);
}
