/* Hardware: simulated benches. The host library as a program calls it: what it does, what record it
 * leaves where it cannot, and that it never says a word. */
#include "support/support.h"
#include <coldmint/host.h>
#include <errno.h>
#include <fcntl.h>
#include <pthread.h>
#include <signal.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/resource.h>
#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

#define DEMO SOURCE_FOLDER "/demo/"

static struct cm_host host;

static int setup(void **state)
{
    (void)state;
    (void)test_folder(); // backups go there
    setenv("XDG_STATE_HOME", test_folder(), 1);
    setenv("XDG_CONFIG_HOME", test_folder(), 1);
    cm_host_begin(&host, cm_all_ports);
    return 0;
}

static int teardown(void **state)
{
    (void)state;
    cm_host_end(&host);
    return 0;
}

/* A file with this text, and what the library says of it. */
static enum cm_error_kind load_text(const char *name, const char *text)
{
    char path[200];
    struct cm_image_file file;
    write_file(path, sizeof path, name, text);
    bool good = cm_image_file_load(&host, path, &file);
    cm_image_file_free(&file);
    if (!good)
        assert_string_equal(host.error.path, path);
    return good ? CM_ERROR_NONE : host.error.kind;
}

/* --- image files ------------------------------------------------------------------------- */

static void the_content_says_the_format_and_not_the_name(void **state)
{
    static const struct {
        const char *path, *format;
    } FILES[] = {{DEMO "firmware/strike-node-1.4.hex", "hex"},
                 {DEMO "firmware/strike-node-1.4.srec", "srec"},
                 {DEMO "firmware/strike-node-1.4.elf", "elf"},
                 {DEMO "capsules/bell-7.mint", "raw"}};
    char copy[200], command[500];
    (void)state;
    for (size_t i = 0; i < sizeof FILES / sizeof FILES[0]; i++) {
        struct cm_image_file file;
        snprintf(copy, sizeof copy, "%s/misnamed.bin", test_folder());
        snprintf(command, sizeof command, "cp %s %s", FILES[i].path, copy);
        assert_int_equal(system(command), 0);
        assert_true(cm_image_file_load(&host, copy, &file));
        assert_string_equal(file.format->name, FILES[i].format);
        cm_image_file_free(&file);
    }
}

static void files_that_are_no_images_leave_the_reason(void **state)
{
    struct cm_image_file file;
    (void)state;
    assert_int_equal(load_text("text.txt", "Dear reader\n"), CM_ERROR_FILE_TEXT);
    assert_int_equal(load_text("text.hex", "Dear reader\n"), CM_ERROR_FILE_RECORDS);
    assert_int_equal(load_text("text.bin", "Dear reader\n"), CM_ERROR_NONE);
    assert_int_equal(load_text("short.elf", "\177ELF\001\001"), CM_ERROR_FILE_ELF_HEADER);
    assert_int_equal(load_text("named.elf", "no such thing"), CM_ERROR_FILE_ELF_HEADER);
    assert_int_equal(load_text("empty.hex", ""), CM_ERROR_FILE_EMPTY);
    assert_int_equal(load_text("end.hex", ":00000001FF\n"), CM_ERROR_FILE_NO_DATA);
    assert_int_equal(load_text("sum.hex", ":0100000055AB\n:00000001FF\n"), CM_ERROR_FILE_RECORDS);
    assert_int_equal(host.error.record, CM_RECORD_CHECKSUM);
    assert_int_equal(host.error.line, 1);
    assert_int_equal(host.error.found, 0xAB);
    assert_int_equal(host.error.expected, 0xAA);
    assert_int_equal(load_text("twice.hex", ":0100000055AA\n:0100000056A9\n:00000001FF\n"),
                     CM_ERROR_FILE_RECORDS);
    assert_int_equal(host.error.other_line, 1);
    assert_false(cm_image_file_load(&host, "/nowhere/a.hex", &file));
    assert_int_equal(host.error.kind, CM_ERROR_FILE_UNREADABLE);
    assert_int_equal(host.error.system, ENOENT);
    assert_false(cm_image_file_load(&host, test_folder(), &file));
    assert_int_equal(host.error.system, EISDIR);
}

/* An ELF file without a chip: its processor's family says where regions are. */
static void an_elf_file_tells_its_regions_by_its_processor(void **state)
{
    struct cm_image_file file;
    struct cm_image_part part;
    (void)state;
    assert_true(cm_image_file_load(&host, DEMO "firmware/strike-node-1.4.elf", &file));
    cm_image_file_part_by_name(&host, &file, "flash", &part);
    assert_true(part.bytes > 700 && part.first == 0);
    cm_image_file_part_by_name(&host, &file, "page", &part); // no such region
    assert_int_equal(part.bytes, 0);
    file.machine = 40; // EM_ARM, of which no family is here: all there is
    cm_image_file_part_by_name(&host, &file, "flash", &part);
    assert_true(part.bytes > 700);
    cm_image_file_free(&file);
}

static void every_format_that_is_written_is_read_again(void **state)
{
    uint8_t bytes[600], back[600];
    (void)state;
    for (size_t i = 0; i < sizeof bytes; i++)
        bytes[i] = (uint8_t)(i * 11 + 3);
    for (const struct cm_file_format *const *format = host.formats; *format; format++) {
        struct cm_new_file new_file;
        struct cm_image_writer writer;
        struct cm_image_file file;
        char path[300];
        if (!(*format)->write)
            continue;
        snprintf(path, sizeof path, "%s/again%s", test_folder(), (*format)->extensions[0]);
        assert_ptr_equal(cm_format_by_extension(&host, path), *format);
        assert_ptr_equal(cm_format_by_name(&host, (*format)->name), *format);
        assert_true(cm_new_file_open(&host, path, &new_file));
        cm_image_write_begin(&writer, *format, new_file.stream);
        assert_int_equal(cm_image_write(&writer, 0, bytes, 100), CM_OK);
        assert_int_equal(cm_image_write(&writer, 300, bytes + 300, 300), CM_OK);
        assert_int_equal(cm_image_write_end(&writer), CM_OK);
        assert_true(cm_new_file_commit(&host, &new_file));
        assert_true(cm_image_file_load(&host, path, &file));
        assert_int_equal(file.source.read(file.source.context, 300, back, 300), CM_OK);
        assert_memory_equal(back, bytes + 300, 300);
        cm_image_file_free(&file);
    }
}

/* --- files ------------------------------------------------------------------------------- */

static void a_new_file_comes_whole_or_not_at_all(void **state)
{
    struct cm_new_file file, other;
    char path[300], missing[320];
    (void)state;
    snprintf(path, sizeof path, "%s/whole.txt", test_folder());
    assert_true(cm_new_file_open(&host, path, &file));
    assert_int_equal(access(path, F_OK), -1);
    cm_new_file_drop(&file);
    cm_new_file_drop(&file); // once more does nothing
    assert_int_equal(access(file.temporary, F_OK), -1);
    assert_true(cm_new_file_open(&host, path, &file));
    fputs("whole", file.stream);
    assert_true(cm_new_file_commit(&host, &file));
    assert_false(cm_new_file_open(&host, path, &other));
    assert_int_equal(host.error.kind, CM_ERROR_FILE_EXISTS);
    host.replace = true;
    assert_true(cm_new_file_open(&host, path, &other));
    cm_new_file_drop(&other);
    host.replace = false;
    snprintf(missing, sizeof missing, "%s/no-folder/a.txt", test_folder());
    assert_false(cm_new_file_open(&host, missing, &other));
    assert_int_equal(host.error.kind, CM_ERROR_FILE_UNWRITABLE);
    assert_int_equal(host.error.system, ENOENT);
}

static void two_that_write_one_file_do_not_overwrite_each_other(void **state)
{
    struct cm_new_file file;
    char path[300];
    (void)state;
    snprintf(path, sizeof path, "%s/raced.txt", test_folder());
    assert_true(cm_new_file_open(&host, path, &file));
    fputs("mine", file.stream);
    write_file(path, sizeof path, "raced.txt", "theirs"); // meanwhile
    assert_false(cm_new_file_commit(&host, &file));
    assert_int_equal(host.error.kind, CM_ERROR_FILE_RACED);
    char *text = read_file(path);
    assert_string_equal(text, "theirs");
    free(text);
    assert_int_equal(access(file.temporary, F_OK), -1);
}

/* --- ports and configuration ------------------------------------------------------------- */

static void ports_are_opened_by_name_or_the_reason_is_left(void **state)
{
    struct cm_open_port port;
    char path[200], name[220];
    (void)state;
    write_file(path, sizeof path, "port.yaml",
               "bench: b\nchip:\n  part: attiny84a\n  supply_mv: 5000\n");
    snprintf(name, sizeof name, "sim:%s", path);
    assert_true(cm_port_open(&host, name, &port));
    assert_ptr_equal(port.kind, &cm_port_sim);
    assert_true(cm_port_close(&host, &port));
    assert_true(cm_port_close(&host, &port)); // once more does nothing
    assert_false(cm_port_open(&host, "desk", &port));
    assert_int_equal(host.error.kind, CM_ERROR_PORT_NAME);
    assert_false(cm_port_open(&host, "desk:1", &port));
    assert_int_equal(host.error.kind, CM_ERROR_PORT_KIND);
    assert_false(cm_port_open(&host, "sim:/nowhere.yaml", &port));
    assert_int_equal(host.error.kind, CM_ERROR_PORT_FAILED);
    assert_ptr_equal(host.error.port_kind, &cm_port_sim);
    assert_string_equal(host.error.path, "/nowhere.yaml");
    assert_true(host.error.detail[0]);
    assert_true(cm_port_close(&host, &port));
}

static void on_alarm(int number)
{
    (void)number;
}

/* A bench that another process has: the record names it. A signal ends the wait for it. */
static void a_bench_in_use_is_told(void **state)
{
    const struct sigaction action = {.sa_handler = on_alarm};
    struct cm_open_port port;
    char path[200], name[220], byte = 0;
    int ready[2];
    (void)state;
    write_file(path, sizeof path, "in-use.yaml",
               "bench: b\nchip:\n  part: attiny84a\n  supply_mv: 5000\n");
    snprintf(name, sizeof name, "sim:%s", path);
    assert_int_equal(pipe(ready), 0);
    pid_t other = fork();
    if (other == 0) {
        if (!cm_port_open(&host, name, &port) || write(ready[1], &byte, 1) != 1)
            _exit(1);
        alarm(3600); // never for much longer than the test
        pause();
        _exit(0);
    }
    close(ready[1]);
    assert_int_equal(read(ready[0], &byte, 1), 1);
    close(ready[0]);
    sigaction(SIGALRM, &action, NULL);
    alarm(1);
    bool good = cm_port_open(&host, name, &port);
    kill(other, SIGKILL);
    waitpid(other, NULL, 0);
    assert_false(good);
    assert_int_equal(host.error.kind, CM_ERROR_PORT_BUSY);
    snprintf(name, sizeof name, "process %d (test-host) uses it", (int)other);
    assert_string_equal(host.error.detail, name);
    assert_true(cm_port_close(&host, &port));
}

struct writer {
    const char *path;
    struct cm_host host;
    struct cm_new_file file;
    bool is_open;
};

static void *open_the_same(void *context)
{
    struct writer *writer = context;
    cm_host_begin(&writer->host, cm_all_ports);
    writer->is_open = cm_new_file_open(&writer->host, writer->path, &writer->file);
    return NULL;
}

/* Two sockets of one program keep their chips in the same second: neither stands in the other's
 * way, and one of them gets the name. */
static void two_threads_may_write_what_has_one_name(void **state)
{
    static struct writer one, other;
    pthread_t thread;
    char path[300];
    (void)state;
    snprintf(path, sizeof path, "%s/of-two.txt", test_folder());
    one.path = other.path = path;
    (void)open_the_same(&one);
    assert_int_equal(pthread_create(&thread, NULL, open_the_same, &other), 0);
    pthread_join(thread, NULL);
    assert_true(one.is_open && other.is_open);
    assert_true(cm_new_file_commit(&one.host, &one.file));
    assert_false(cm_new_file_commit(&other.host, &other.file));
    assert_int_equal(other.host.error.kind, CM_ERROR_FILE_RACED);
    cm_host_end(&one.host);
    cm_host_end(&other.host);
}

static void the_configuration_names_ports(void **state)
{
    struct cm_config config;
    char path[300];
    (void)state;
    assert_true(cm_config_read(&host, &config)); // there is none
    assert_null(config.via);
    snprintf(path, sizeof path, "%s/coldmint", test_folder());
    mkdir(path, 0700);
    write_file(path, sizeof path, "coldmint/config.yaml",
               "via: desk\nclock: 8MHz\nports:\n  - {name: desk, via: \"sim:a.yaml\"}\n");
    assert_true(cm_config_read(&host, &config));
    assert_string_equal(cm_config_port(&config, config.via), "sim:a.yaml");
    assert_string_equal(cm_config_port(&config, "sim:b.yaml"), "sim:b.yaml");
    cm_config_free(&config);
    write_file(path, sizeof path, "coldmint/config.yaml", "via: [\n");
    assert_false(cm_config_read(&host, &config));
    assert_int_equal(host.error.kind, CM_ERROR_CONFIG);
    assert_true(host.error.detail[0]);
    assert_null(config.via);
    unlink(path);
}

/* --- recipes ----------------------------------------------------------------------------- */

static void recipes_leave_line_and_key(void **state)
{
    static const struct {
        const char *text;
        enum cm_error_kind kind;
        uint32_t line;
    } RECIPES[] = {
        {"recipe: a\nchip: attiny84b\n", CM_ERROR_RECIPE_CHIP, 2},
        {"recipe: a\nchip: attiny84a\ncolour: red\n", CM_ERROR_RECIPE_KEY, 3},
        {"recipe: a\nchip: attiny84a\nchip: attiny84a\n", CM_ERROR_RECIPE_KEY_TWICE, 3},
        {"recipe: a\n", CM_ERROR_RECIPE_KEY_MISSING, 1},
        {"- a\n", CM_ERROR_RECIPE_NO_KEYS, 1},
        {"recipe: [\n", CM_ERROR_RECIPE_YAML, 2},
        {"recipe: {a: b}\nchip: attiny84a\n", CM_ERROR_RECIPE_VALUE, 1},
        {"recipe: a\nchip: attiny84a\nsettings: fast\n", CM_ERROR_RECIPE_NAMES, 3},
        {"recipe: a\nchip: attiny84a\nsupply: 9V\n", CM_ERROR_RECIPE_SUPPLY, 3},
        {"recipe: a\nchip: attiny84a\nboard-clock: fast\n", CM_ERROR_RECIPE_CLOCK, 3},
        {"recipe: a\nchip: attiny84a\nmarker: here\n", CM_ERROR_RECIPE_MARKER, 3},
        {"recipe: a\nchip: attiny84a\nenter: by-door\n", CM_ERROR_RECIPE_ENTER, 3},
        {"recipe: a\nchip: attiny84a\nenter: reset-vector\n", CM_ERROR_RECIPE_ENTER_ALONE, 3},
        {"recipe: a\nchip: attiny84a\nallow: nothing\n", CM_ERROR_RECIPE_ALLOW, 3},
        {"recipe: a\nchip: attiny84a\nsettings:\n  clock: fast\n", CM_ERROR_SETTING_CHOICE, 4},
        {"recipe: a\nchip: attiny84a\nsettings:\n  speed: fast\n", CM_ERROR_SETTING_NAME, 4},
        {"recipe: a\nchip: attiny84a\nflash: [a,b,c,d,e,f,g]\n", CM_ERROR_RECIPE_LIST, 3},
    };
    (void)state;
    for (size_t i = 0; i < sizeof RECIPES / sizeof RECIPES[0]; i++) {
        char path[200];
        struct cm_recipe recipe;
        write_file(path, sizeof path, "recipe.yaml", RECIPES[i].text);
        if (cm_recipe_load(&host, path, &recipe) || host.error.kind != RECIPES[i].kind ||
            host.error.line != RECIPES[i].line)
            fail_msg("%s: kind %d, line %u", RECIPES[i].text, (int)host.error.kind,
                     (unsigned)host.error.line);
        assert_string_equal(host.error.path, path);
        cm_recipe_free(&recipe);
    }
}

static void a_catalogue_tells_what_it_leaves_out(void **state)
{
    struct cm_catalogue catalogue = {.left_out = NULL};
    (void)state;
    assert_true(cm_catalogue_read(&host, DEMO "catalogue", &catalogue));
    assert_true(catalogue.count > 2);
    cm_catalogue_free(&catalogue);
    catalogue = (struct cm_catalogue){.left_out = NULL};
    assert_false(cm_catalogue_read(&host, "/nowhere", &catalogue));
    assert_int_equal(host.error.kind, CM_ERROR_FOLDER);
    cm_catalogue_free(&catalogue);
}

/* --- jobs -------------------------------------------------------------------------------- */

struct bench {
    struct cm_open_port port;
    struct cm_session session;
    char name[220];
    uint8_t workspace[8192];
};

static void begin(struct bench *bench, const char *name, const char *part, const char *more)
{
    char path[200], via[220];
    make_bench(name, part, more, path, via);
    snprintf(bench->name, sizeof bench->name, "sim:%s", path);
    assert_true(cm_port_open(&host, bench->name, &bench->port));
    assert_int_equal(cm_open(&bench->session, bench->port.port, host.kits, host.kit_count,
                             bench->workspace, sizeof bench->workspace),
                     CM_OK);
    assert_int_equal(cm_identify(&bench->session, part), CM_OK);
}

static void end(struct bench *bench)
{
    cm_close(&bench->session);
    assert_true(cm_port_close(&host, &bench->port));
}

/* A job that puts a file's flash. */
static struct cm_job *job_of(struct bench *bench, const char *path)
{
    bool added;
    struct cm_job *job = cm_job_new(&host, &bench->session, bench->name);
    assert_true(cm_job_want_file(job, path, 0, &added) && added);
    return job;
}

enum { CHANGED_AT = 0x140, CHANGED = 16 }; /* where versions 1.4 and 1.5 differ */

/* A node with version 1.4, a job that puts 1.5, and what that would change. */
static struct cm_job *begin_update(struct bench *bench, const char *name, uint8_t *before)
{
    begin(bench, name, "attiny84a", "");
    struct cm_job *job = job_of(bench, DEMO "firmware/strike-node-1.4.hex");
    assert_true(cm_job_run(job));
    cm_job_free(job);
    assert_int_equal(cm_read(&bench->session, 0, CHANGED_AT, before, CHANGED), CM_OK);
    return job_of(bench, DEMO "firmware/strike-node-1.5.hex");
}

/* It was not done, and has changed nothing. */
static void end_update(struct bench *bench, struct cm_job *job, const uint8_t *before)
{
    uint8_t after[CHANGED];
    assert_int_equal(cm_read(&bench->session, 0, CHANGED_AT, after, CHANGED), CM_OK);
    assert_memory_equal(before, after, CHANGED);
    cm_job_free(job);
    end(bench);
}

static unsigned notes[CM_NOTE_LEFT_LOCK + 1];

static void count_note(void *context, const struct cm_note *note)
{
    (void)context;
    notes[note->kind]++;
}

static void a_recipe_is_minted_without_a_word(void **state)
{
    static struct bench bench;
    struct cm_recipe recipe;
    char path[200];
    (void)state;
    write_file(path, sizeof path, "words.txt", "");
    int out = dup(STDOUT_FILENO), err = dup(STDERR_FILENO);
    int words = open(path, O_RDWR | O_TRUNC);
    fflush(stdout);
    dup2(words, STDOUT_FILENO);
    dup2(words, STDERR_FILENO);
    begin(&bench, "mint", "attiny84a", "");
    bool is_read = cm_recipe_load(&host, DEMO "recipes/strike-node.yaml", &recipe);
    struct cm_job *job = cm_job_new(&host, &bench.session, bench.name);
    job->told = count_note;
    bool good = is_read && cm_job_want_recipe(job, &recipe) && cm_job_run(job);
    fflush(stdout);
    dup2(out, STDOUT_FILENO);
    dup2(err, STDERR_FILENO);
    close(out);
    close(err);
    assert_true(good);
    assert_true(job->has_work);
    assert_true(notes[CM_NOTE_FILE] >= 2 && notes[CM_NOTE_STEPS] == 1 && notes[CM_NOTE_PLAN]);
    assert_int_equal(lseek(words, 0, SEEK_END), 0);
    close(words);
    cm_job_free(job);
    cm_recipe_free(&recipe);
    end(&bench);
}

static void jobs_that_make_no_sense_are_refused(void **state)
{
    static struct bench bench;
    bool added;
    (void)state;
    begin(&bench, "sense", "attiny84a", "");
    struct cm_job *job = cm_job_new(&host, &bench.session, bench.name);
    assert_true(cm_job_want_file(job, DEMO "firmware/strike-node-1.4.hex", 0, &added) && added);
    assert_true(cm_job_want_file(job, DEMO "firmware/strike-node-1.5.hex", 0, &added) && added);
    assert_false(cm_job_run(job));
    assert_int_equal(host.error.kind, CM_ERROR_OVERLAP);
    assert_non_null(strstr(host.error.path, "1.4.hex"));
    assert_non_null(strstr(host.error.other_path, "1.5.hex"));
    cm_job_free(job);
    job = cm_job_new(&host, &bench.session, bench.name);
    assert_true(cm_job_want_file(job, DEMO "firmware/console-2.0.hex", 0, &added));
    assert_false(cm_job_run(job));
    assert_int_equal(host.error.kind, CM_ERROR_MISFIT);
    assert_int_equal(host.error.misfit.kind, CM_MISFIT_LONG_VECTORS);
    cm_job_free(job);
    job = cm_job_new(&host, &bench.session, bench.name);
    assert_true(cm_job_open_capsule(job, DEMO "capsules/bell-7.mint"));
    bool is_of_it = cm_job_want_capsule(job);
    assert_true(is_of_it || host.error.kind == CM_ERROR_CAPSULE_OTHER_CHIP);
    cm_job_free(job);
    end(&bench);
}

/* The disk is full, or the folder is not ours: the chip stays as it is. */
static void without_a_backup_nothing_is_changed(void **state)
{
    static struct bench bench;
    uint8_t before[CHANGED];
    (void)state;
    struct cm_job *job = begin_update(&bench, "kept", before);
    setenv("XDG_STATE_HOME", "/proc/nowhere", 1);
    assert_false(cm_job_run(job));
    assert_int_equal(host.error.kind, CM_ERROR_FILE_UNWRITABLE);
    assert_non_null(strstr(host.error.path, ".mint")); // what the backup would be called
    setenv("XDG_STATE_HOME", test_folder(), 1);
    end_update(&bench, job, before);
}

/* A recipe's settings come before its contents: they are kept by themselves, before. */
static void settings_are_kept_before_they_change(void **state)
{
    static struct bench bench;
    struct cm_recipe recipe;
    uint8_t before[CM_SETTING_BYTES] = {0}, after[CM_SETTING_BYTES] = {0};
    (void)state;
    begin(&bench, "settings", "attiny84a", "");
    assert_int_equal(cm_read_settings(&bench.session, before), CM_OK);
    assert_true(cm_recipe_load(&host, DEMO "recipes/strike-node.yaml", &recipe));
    setenv("XDG_STATE_HOME", "/proc/nowhere", 1);
    struct cm_job *job = cm_job_new(&host, &bench.session, bench.name);
    assert_true(cm_job_want_recipe(job, &recipe));
    assert_false(cm_job_run(job));
    assert_int_equal(cm_read_settings(&bench.session, after), CM_OK);
    assert_memory_equal(before, after, sizeof before);
    cm_job_free(job);
    setenv("XDG_STATE_HOME", test_folder(), 1);
    job = cm_job_new(&host, &bench.session, bench.name);
    assert_true(cm_job_want_recipe(job, &recipe));
    assert_true(cm_job_run(job));
    assert_true(job->report.settings_written && job->backup.path[0]);
    struct cm_capsule_file file;
    assert_true(cm_capsule_file_load(&host, job->backup.path, &file));
    cm_capsule_file_free(&file);
    cm_job_free(job);
    cm_recipe_free(&recipe);
    end(&bench);
}

/* The disk is full as soon as the backup's first bytes go there: none is no ground to change the
 * chip on, nor is a part of one. */
static void a_backup_on_a_full_disk_is_none(void **state)
{
    static struct bench bench;
    struct rlimit full, any;
    uint8_t before[CHANGED];
    (void)state;
    struct cm_job *job = begin_update(&bench, "full", before);
    getrlimit(RLIMIT_FSIZE, &any);
    full = (struct rlimit){.rlim_cur = 500, .rlim_max = any.rlim_max};
    signal(SIGXFSZ, SIG_IGN);
    setrlimit(RLIMIT_FSIZE, &full);
    bool good = cm_job_run(job);
    setrlimit(RLIMIT_FSIZE, &any);
    assert_false(good);
    assert_int_equal(host.error.kind, CM_ERROR_FILE_INCOMPLETE);
    end_update(&bench, job, before);
}

/* Writes all of a file with one value, in place, as a linker does. */
static void fill_file(const char *path, uint8_t value, size_t bytes)
{
    static uint8_t all[128 << 10];
    int file = open(path, O_WRONLY);
    assert_true(file >= 0 && bytes <= sizeof all);
    memset(all, value, bytes);
    assert_int_equal(write(file, all, bytes), bytes);
    close(file);
}

static bool build_again(void *context, const struct cm_progress *progress)
{
    if (progress->step == CM_STEP_PROGRAM)
        fill_file(context, 0x22, 128 << 10);
    return true;
}

/* A build in the other window writes the file while the job is at work: the chip would hold a part
 * of each. */
static void a_file_that_is_written_meanwhile_is_read_no_further(void **state)
{
    static struct bench bench;
    char path[200];
    bool added;
    (void)state;
    write_file(path, sizeof path, "meanwhile.bin", "");
    fill_file(path, 0x11, 128 << 10);
    begin(&bench, "meanwhile", "25lc1024", "");
    struct cm_job *job = cm_job_new(&host, &bench.session, bench.name);
    job->progress = build_again;
    job->context = path;
    assert_true(cm_job_want_file(job, path, 0, &added) && added);
    assert_false(cm_job_run(job));
    assert_int_equal(host.error.kind, CM_ERROR_SESSION);
    assert_int_equal(host.error.status, CM_BAD_IMAGE);
    cm_job_free(job);
    end(&bench);
}

static void files_that_are_too_large_are_told_so(void **state)
{
    struct cm_image_file file;
    char path[200];
    (void)state;
    write_file(path, sizeof path, "large.bin", "x");
    assert_int_equal(truncate(path, (off_t)5 << 30), 0);
    assert_false(cm_image_file_load(&host, path, &file));
    assert_int_equal(host.error.kind, CM_ERROR_FILE_LARGE);
    write_file(path, sizeof path, "large.hex", ":");
    assert_int_equal(truncate(path, 300 << 20), 0);
    assert_false(cm_image_file_load(&host, path, &file));
    assert_int_equal(host.error.kind, CM_ERROR_FILE_LARGE);
    assert_false(cm_image_file_load(&host, "/dev/zero", &file));
    assert_int_equal(host.error.kind, CM_ERROR_FILE_LARGE);
    unlink(path);
}

static void a_chip_that_goes_away_leaves_the_sessions_failure(void **state)
{
    static struct bench bench;
    (void)state;
    begin(&bench, "away", "attiny84a", "faults:\n  contact_lost_after_bytes: 3000\n");
    struct cm_job *job = job_of(&bench, DEMO "firmware/strike-node-1.4.hex");
    assert_false(cm_job_run(job));
    assert_int_equal(host.error.kind, CM_ERROR_SESSION);
    assert_int_equal(host.error.status, CM_CONTACT_LOST);
    assert_true(bench.session.failure.has_address);
    cm_job_free(job);
    end(&bench);
}

/* Every kind of failure is told apart, and no text in a record is longer than its room. */
static void long_names_are_cut_and_not_overrun(void **state)
{
    char name[3000];
    struct cm_image_file file;
    struct cm_new_file new_file;
    (void)state;
    memset(name, 'a', sizeof name);
    name[0] = '/';
    name[sizeof name - 1] = '\0';
    assert_false(cm_image_file_load(&host, name, &file));
    assert_true(strlen(host.error.path) < sizeof host.error.path);
    assert_false(cm_new_file_open(&host, name, &new_file));
    struct cm_open_port port;
    assert_false(cm_port_open(&host, name, &port));
}

int main(void)
{
    const struct CMUnitTest tests[] = {
        cmocka_unit_test(the_content_says_the_format_and_not_the_name),
        cmocka_unit_test(files_that_are_no_images_leave_the_reason),
        cmocka_unit_test(an_elf_file_tells_its_regions_by_its_processor),
        cmocka_unit_test(every_format_that_is_written_is_read_again),
        cmocka_unit_test(a_new_file_comes_whole_or_not_at_all),
        cmocka_unit_test(two_that_write_one_file_do_not_overwrite_each_other),
        cmocka_unit_test(ports_are_opened_by_name_or_the_reason_is_left),
        cmocka_unit_test(a_bench_in_use_is_told),
        cmocka_unit_test(two_threads_may_write_what_has_one_name),
        cmocka_unit_test(the_configuration_names_ports),
        cmocka_unit_test(recipes_leave_line_and_key),
        cmocka_unit_test(a_catalogue_tells_what_it_leaves_out),
        cmocka_unit_test(a_recipe_is_minted_without_a_word),
        cmocka_unit_test(jobs_that_make_no_sense_are_refused),
        cmocka_unit_test(without_a_backup_nothing_is_changed),
        cmocka_unit_test(settings_are_kept_before_they_change),
        cmocka_unit_test(a_backup_on_a_full_disk_is_none),
        cmocka_unit_test(a_file_that_is_written_meanwhile_is_read_no_further),
        cmocka_unit_test(files_that_are_too_large_are_told_so),
        cmocka_unit_test(a_chip_that_goes_away_leaves_the_sessions_failure),
        cmocka_unit_test(long_names_are_cut_and_not_overrun),
    };
    return cmocka_run_group_tests(tests, setup, teardown);
}
