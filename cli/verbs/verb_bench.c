/*
 * bench: make, show, break, mend and renew simulated benches.
 */
#include "begin.h"
#include "verbs/bench_probe.h"
#include "options.h"
#include "say.h"
#include "words/fail.h"
#include <errno.h>
#include <sim/sim.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>

/* A fault by the name that people type. */
struct fault {
    const char *name, *meaning;
    size_t offset;
};

#define FAULT(name, meaning, member)                                                               \
    {                                                                                              \
        name, meaning, offsetof(struct sim_faults, member)                                         \
    }
static const struct fault FAULTS[] = {
    FAULT("lost", "contact is lost after that many bytes on the wire", contact_lost_after_bytes),
    FAULT("back", "contact is back that many bytes later", contact_back_after_bytes),
    FAULT("flips", "one bit is wrong each time that many bytes were read", flip_every_bytes),
    FAULT("restarts", "the programmer restarts each time that many bytes have passed",
          restart_every_bytes),
    FAULT("slow", "busy times in percent of the data sheet's", slow_percent),
    FAULT("worn", "of a memory: an erase leaves one byte as it was, at the address before that one",
          worn_at),
    FAULT("stretch", "an I2C memory holds SCL low for that many us behind each byte", stretch_us),
    FAULT("stuck", "of a memory: bit 0 of one byte always reads 1, at the address before that one",
          stuck_at),
};
enum { FAULT_COUNT = sizeof FAULTS / sizeof FAULTS[0] };

static uint32_t *fault_value(struct sim_faults *faults, const struct fault *fault)
{
    return (uint32_t *)(void *)((char *)faults + fault->offset);
}

/* A fault that is there or not; the other word takes it back. */
struct word {
    const char *on, *off, *meaning;
    size_t offset;
};
#define WORD(on, off, meaning, member)                                                             \
    {                                                                                              \
        on, off, meaning, offsetof(struct sim_faults, member)                                      \
    }
static const struct word WORDS[] = {
    WORD("power=off", "power=on", "the board has no supply", no_power),
    WORD("reset=held", "reset=free", "something on the board holds RESET low", reset_held),
    WORD("sda=held", "sda=free", "an I2C memory was cut off in a byte, and holds SDA low",
         sda_held),
    WORD("registers=stuck", "registers=free", "its status registers take nothing", registers_stuck),
    WORD("rights=none", "rights=given", "the system does not let us use the port", no_rights),
};
enum { WORD_COUNT = sizeof WORDS / sizeof WORDS[0] };

static bool *word_flag(struct sim_faults *faults, const struct word *word)
{
    return (bool *)(void *)((char *)faults + word->offset);
}

/* Names of wires as the data sheets write them. */
static const char *spell_wire(uint8_t wire, char *text)
{
    char unused[8];
    snprintf(text, 8, "%s", sim_wire_name(wire, unused));
    for (char *at = text; *at; at++)
        *at = (char)(*at >= 'a' && *at <= 'z' ? *at - 'a' + 'A' : *at);
    return text;
}

/* A fault of a wire in words. */
static const char *explain_wire(const struct sim_wire_fault *fault, char *text, size_t bytes)
{
    static const char *const READS[] = {"is open, and reads low", "is open, and reads high",
                                        "is open, and reads at random", "has each clock twice",
                                        "is shorted to ground"};
    char wire[8], other[8], from[60] = "", how[60];
    const char *name = fault->wire == SIM_WIRE_ALL ? "every wire" : spell_wire(fault->wire, wire);
    if (fault->from)
        snprintf(from, sizeof from, " from clock %u of the bus on", (unsigned)fault->from);
    if (fault->count)
        snprintf(from + strlen(from), sizeof from - strlen(from), ", for %u clocks",
                 (unsigned)fault->count);
    if (fault->reads == SIM_READS_OTHER)
        snprintf(how, sizeof how, "is shorted to %s", spell_wire(fault->other, other));
    else
        snprintf(how, sizeof how, "%s", READS[fault->reads]);
    if (fault->one_in)
        snprintf(text, bytes, "%s %s%s in one clock of %u", name, how, from,
                 (unsigned)fault->one_in);
    else
        snprintf(text, bytes, "%s %s%s", name, how, from);
    return text;
}

/* The bench behind the port: its name begins with "sim:". */
static struct cm_sim *sim_of(const struct tool *tool)
{
    return tool->opened.hardware;
}

/* --- show -------------------------------------------------------------------------------- */

static void say_faults(struct tool *tool, struct sim_faults *faults)
{
    unsigned shown = 0;
    for (int i = 0; i < FAULT_COUNT; i++) {
        uint32_t value = *fault_value(faults, &FAULTS[i]);
        if (value)
            say(tool, shown++ ? "" : "faults", "%s=%u  %s", FAULTS[i].name, (unsigned)value,
                FAULTS[i].meaning);
    }
    for (uint8_t i = 0; i < faults->wire_count; i++) {
        char text[SIM_WIRE_TEXT], meaning[160];
        sim_wire_print(&faults->wires[i], text);
        say(tool, shown++ ? "" : "faults", "%s  %s", text,
            explain_wire(&faults->wires[i], meaning, sizeof meaning));
    }
    for (int i = 0; i < WORD_COUNT; i++) {
        if (*word_flag(faults, &WORDS[i]))
            say(tool, shown++ ? "" : "faults", "%s  %s", WORDS[i].on, WORDS[i].meaning);
    }
    if (!shown)
        say(tool, "faults", "none");
}

static void count_used(const uint8_t *bytes, uint32_t count, uint32_t *used)
{
    *used = 0;
    for (uint32_t i = 0; i < count; i++)
        *used += bytes[i] != 0xFF;
}

static void say_model(struct tool *tool, const struct avr_model *model)
{
    uint32_t used;
    char fuses[40] = "";
    for (uint8_t i = 0; i < model->row->fuse_bytes; i++)
        snprintf(fuses + strlen(fuses), sizeof fuses - strlen(fuses), "%s0x%02X", i ? " " : "",
                 model->fuses[i]);
    say(tool, "chip", "%s%s%s  fuses %s  lock 0x%02X  CPU at %.3f MHz", colour("1"),
        model->row->part.name, colour("0"), fuses[0] ? fuses : "-", model->lock,
        model->cpu_hz / 1e6);
    count_used(model->flash, model->row->flash_bytes, &used);
    say(tool, "flash", "%u of %u bytes are not blank", (unsigned)used,
        (unsigned)model->row->flash_bytes);
    count_used(model->eeprom, model->row->eeprom_bytes, &used);
    say(tool, "eeprom", "%u of %u bytes are not blank", (unsigned)used,
        (unsigned)model->row->eeprom_bytes);
    say(tool, "wear", "erases %u, pages written %u, eeprom writes %u, settings written %u",
        (unsigned)model->erases, (unsigned)model->page_writes, (unsigned)model->eeprom_writes,
        (unsigned)model->setting_writes);
}

/* What a memory has been through, by its kind. */
static void count_work(struct tool *tool, uint32_t *erases, uint32_t *programs)
{
    *erases = cm_sim_memory(sim_of(tool))     ? cm_sim_memory(sim_of(tool))->erases
              : cm_sim_parallel(sim_of(tool)) ? cm_sim_parallel(sim_of(tool))->erases
                                              : 0;
    *programs = cm_sim_memory(sim_of(tool))       ? cm_sim_memory(sim_of(tool))->programs
                : cm_sim_parallel(sim_of(tool))   ? cm_sim_parallel(sim_of(tool))->programs
                : cm_sim_i2c(sim_of(tool))        ? cm_sim_i2c(sim_of(tool))->programs
                : cm_sim_three_wire(sim_of(tool)) ? cm_sim_three_wire(sim_of(tool))->programs
                                                  : 0;
}

static void say_memory(struct tool *tool)
{
    const struct cm_part *part = cm_sim_part(sim_of(tool));
    const struct nor_model *nor = cm_sim_memory(sim_of(tool));
    uint32_t used = 0, bytes = sim_memory_bytes(part, cm_sim_kind(sim_of(tool))), erases, programs;
    char registers[60] = "";
    for (uint8_t i = 0; nor && i < nor->row->status->count; i++)
        snprintf(registers + strlen(registers), sizeof registers - strlen(registers), "%s0x%02X",
                 i ? " " : "  status ", nor->registers[i]);
    say(tool, "chip", "%s%s%s%s", colour("1"), part->name, colour("0"), registers);
    for (uint32_t i = 0; i < bytes; i++)
        used += cm_sim_at(sim_of(tool), i) != 0xFF;
    count_work(tool, &erases, &programs);
    say(tool, "memory", "%u of %u bytes are not blank", (unsigned)used, (unsigned)bytes);
    say(tool, "wear", "erases %u, program instructions %u", (unsigned)erases, (unsigned)programs);
}

static void say_breaches(struct tool *tool, const uint32_t *counts, const char *const *words,
                         int count)
{
    json_t *breaches = json_object();
    unsigned kinds = 0;
    for (int i = 0; i < count; i++) {
        if (!counts[i])
            continue;
        say(tool, kinds++ ? "" : "breaches", "%s%u times%s  %s", colour("1;31"),
            (unsigned)counts[i], colour("0"), words[i]);
        json_object_set_new(breaches, words[i], json_integer(counts[i]));
    }
    if (!kinds)
        say(tool, "breaches", "none: everything on the wires was as the data sheet wants it");
    set_json(tool, "breaches", breaches);
}

static enum exit_code show(struct tool *tool, const char *path)
{
    const struct avr_model *avr = cm_sim_model(sim_of(tool));
    const struct sim_kind *kind = cm_sim_kind(sim_of(tool));
    uint32_t erases, programs;
    count_work(tool, &erases, &programs);
    const struct sim_bench *bench = cm_sim_bench(sim_of(tool));
    say(tool, "bench", "%s  (%s)", bench->title, path);
    if (avr)
        say_model(tool, avr);
    else
        say_memory(tool);
    if (bench->chip.supply_mv)
        say(tool, "supply", "%.2f V from the board", bench->chip.supply_mv / 1000.0);
    else
        say(tool, "supply", "none of its own; the port feeds %.1f to %.1f V",
            bench->port.feeds_from_mv / 1000.0, bench->port.feeds_to_mv / 1000.0);
    say(tool, "time", "%.3f s simulated, %llu bytes on the wires",
        (double)cm_sim_time_us(sim_of(tool)) / 1e6, (unsigned long long)cm_sim_bytes(sim_of(tool)));
    say_faults(tool, cm_sim_faults(sim_of(tool)));
    say_breaches(tool, cm_sim_breaches(sim_of(tool)), kind->breach_words, kind->breach_count);
    set_json(tool, "bench",
             json_pack("{s:o, s:s, s:I, s:I, s:I, s:I}", "title", json_text(bench->title), "part",
                       cm_sim_part(sim_of(tool))->name, "time_us",
                       (json_int_t)cm_sim_time_us(sim_of(tool)), "bytes",
                       (json_int_t)cm_sim_bytes(sim_of(tool)), "erases",
                       (json_int_t)(avr ? avr->erases : erases), "page_writes",
                       (json_int_t)(avr ? avr->page_writes : programs)));
    say_last(tool, "the bench stands");
    return EXIT_GOOD;
}

/* --- break and mend ---------------------------------------------------------------------- */

static bool set_word(struct sim_faults *faults, const char *setting)
{
    for (int i = 0; i < WORD_COUNT; i++) {
        bool is_on = strcmp(setting, WORDS[i].on) == 0;
        if (!is_on && strcmp(setting, WORDS[i].off) != 0)
            continue;
        *word_flag(faults, &WORDS[i]) = is_on;
        return true;
    }
    return false;
}

/* What was wrong with a wire is forgotten. */
static void mend_wire(struct sim_faults *faults, uint8_t wire)
{
    uint8_t kept = 0;
    for (uint8_t i = 0; i < faults->wire_count; i++) {
        if (faults->wires[i].wire != wire)
            faults->wires[kept++] = faults->wires[i];
    }
    faults->wire_count = kept;
}

/* "mosi=low@812+24", or "mosi=good". */
static bool set_wire(struct sim_faults *faults, const char *setting)
{
    struct sim_wire_fault fault;
    char text[SIM_WIRE_TEXT];
    size_t length = strlen(setting);
    bool mends = length > 5 && length < sizeof text && strcmp(setting + length - 5, "=good") == 0;
    snprintf(text, sizeof text, "%.*s", mends ? (int)length - 5 : (int)length, setting);
    if (mends)
        snprintf(text + length - 5, sizeof text - (length - 5), "=low");
    if (length >= sizeof text || !sim_wire_parse(text, &fault))
        return false;
    mend_wire(faults, fault.wire);
    if (!mends && faults->wire_count == SIM_WIRE_FAULTS)
        return false;
    if (!mends)
        faults->wires[faults->wire_count++] = fault;
    return true;
}

static bool set_fault(struct sim_faults *faults, const char *setting)
{
    for (int i = 0; i < FAULT_COUNT; i++) {
        size_t length = strlen(FAULTS[i].name);
        char *end;
        if (strncmp(setting, FAULTS[i].name, length) != 0 || setting[length] != '=' ||
            setting[length + 1] < '0' || setting[length + 1] > '9')
            continue;
        unsigned long value = strtoul(setting + length + 1, &end, 10);
        *fault_value(faults, &FAULTS[i]) = (uint32_t)value;
        return *end == '\0' && value <= UINT32_MAX;
    }
    return set_word(faults, setting) || set_wire(faults, setting);
}

static const char WIRE_SYNTAX[] =
    "mosi, miso, sck, reset, select, sda, scl, ce, oe, we, d0, a0, supply, all ...: =low, =high, "
    "=noise, =ground, =twice (sck, scl), or =another wire; =good mends it. Where and how often: "
    "@CLOCK +CLOCKS /ONE-IN, as in mosi=low@812+24";

static enum exit_code fail_fault(struct tool *tool, const char *what, const char *given)
{
    return tool_fail_as(tool, EXIT_USAGE, what, given,
                        "'coldmint bench break --help' lists them; a wire: mosi=low@812+24");
}

static void print_faults(void)
{
    char name[40];
    printf("\nfaults, of 'bench break':\n");
    for (int i = 0; i < FAULT_COUNT; i++) {
        snprintf(name, sizeof name, "%s=N", FAULTS[i].name);
        printf("  %-18s %s\n", name, FAULTS[i].meaning);
    }
    for (int i = 0; i < WORD_COUNT; i++)
        printf("  %-18s %s; %s takes it back\n", WORDS[i].on, WORDS[i].meaning, WORDS[i].off);
    printf("  %-18s %s\n", "WIRE=HOW", WIRE_SYNTAX);
}

static const struct act ACTS[] = {
    {.name = "make",
     .things = "--chip NAME BENCH",
     .summary = "a new bench with a chip that is new",
     .example = "coldmint bench make node.yaml --chip attiny84a"},
    {.name = "show",
     .things = "[BENCH]",
     .summary = "chip, supply, faults, and what on the wires was not as the data sheet wants it",
     .example = "coldmint bench show node.yaml"},
    {.name = "break",
     .things = "[BENCH] FAULT ...",
     .summary = "something goes wrong from now on",
     .example = "coldmint bench break node.yaml lost=4000 back=2000",
     .prints_more = true},
    {.name = "mend",
     .things = "[BENCH]",
     .summary = "nothing is wrong with the bench; the chip is as it was",
     .example = "coldmint bench mend node.yaml"},
    {.name = "renew",
     .things = "[BENCH]",
     .summary = "the chip is new again, or as the bench's file says",
     .example = "coldmint bench renew node.yaml"},
    {.name = "probe",
     .things = "[BENCH]",
     .summary = "a probe in front of the bench, at a serial line of its own; Ctrl-C ends it",
     .example = "coldmint bench probe node.yaml"},
    {.name = NULL},
};

static enum exit_code break_bench(struct tool *tool, const char *const *settings)
{
    struct sim_faults faults = *cm_sim_faults(sim_of(tool));
    if (!settings[0])
        return fail_fault(tool, "no fault is named", "after the bench");
    for (; *settings; settings++) {
        if (!set_fault(&faults, *settings))
            return fail_fault(tool, "no such fault", *settings);
    }
    *cm_sim_faults(sim_of(tool)) = faults;
    cm_sim_restart_faults(sim_of(tool));
    say_faults(tool, &faults);
    say_last(tool, "the bench is broken as asked; 'coldmint bench mend' mends it");
    return EXIT_GOOD;
}

static enum exit_code mend(struct tool *tool)
{
    *cm_sim_faults(sim_of(tool)) = (struct sim_faults){0};
    cm_sim_restart_faults(sim_of(tool));
    say_last(tool, "nothing is wrong with the bench; the chip is as it was");
    return EXIT_GOOD;
}

/* --- make and renew ---------------------------------------------------------------------- */

static enum exit_code make(struct tool *tool, const char *asked)
{
    struct cm_new_file file;
    char path[CM_FILE_PATH];
    const struct cm_part *part = tool_part(tool);
    if (!part)
        return tool_fail_as(tool, EXIT_USAGE, "which chip shall stand on the bench?",
                            tool->given.chip ? tool->given.chip : "--chip is not given",
                            "--chip NAME, with a name from 'coldmint chips'");
    cm_name_with_extension(path, sizeof path, asked, ".yaml");
    if (!cm_new_file_open(&tool->host, path, &file))
        return tool_fail_host(tool);
    fprintf(file.stream,
            "# A simulated bench; docs/bench.md lists all keys.\n"
            "bench: %s, factory-new\n"
            "chip:\n  part: %s\n  supply_mv: %u\n"
            "port:\n  measures_supply: true\n"
            "pace: 0 # simulated seconds a second; 0 is as fast as it goes\n",
            part->name, part->name,
            part->supply_max_mv < 3300   ? 1800u
            : part->supply_max_mv < 5000 ? 3300u
                                         : 5000u);
    enum exit_code code = host_code(tool, cm_new_file_commit(&tool->host, &file));
    if (!code)
        say_last(tool, "%s is a bench: coldmint look --via sim:%s", path, path);
    return code;
}

static enum exit_code renew(struct tool *tool, const char *path)
{
    if (!cm_sim_renew(path))
        return tool_fail_as(tool, EXIT_NO_PORT, "the bench's state cannot be removed",
                            strerror(errno), "check the folder's rights");
    say_last(tool, "the chip on %s is factory-new, or as its file says", path);
    return EXIT_GOOD;
}

static const char *bench_path(const struct tool *tool, const char *thing)
{
    const char *text = thing ? thing : tool->port_name;
    if (text && strncmp(text, "sim:", 4) == 0)
        text += 4;
    return text;
}

static enum exit_code run(struct tool *tool, const char *const *things)
{
    const char *act = things[0] ? things[0] : "show";
    const char *path =
        bench_path(tool, things[0] && things[1] && !strchr(things[1], '=') ? things[1] : NULL);
    const char *const *rest = things[0] && things[1] ? things + (strchr(things[1], '=') ? 1 : 2)
                                                     : things + (things[0] != NULL);
    if (!path)
        return tool_fail_as(tool, EXIT_USAGE, "no bench is named",
                            "neither behind the act nor with --via",
                            "coldmint bench show node.yaml");
    if (rest[0] && strcmp(act, "break") != 0)
        return tool_fail_as(tool, EXIT_USAGE, "this is not understood", rest[0],
                            "faults are for 'bench break'; one bench at a time");
    if (strcmp(act, "make") == 0)
        return make(tool, path);
    if (strcmp(act, "renew") == 0)
        return renew(tool, path);
    if (!find_act(tool->verb, act))
        return tool_fail_as(tool, EXIT_USAGE, "bench does not do that", act,
                            "show, make, break, mend, renew or probe");
    static char via[CM_FILE_PATH + 8]; // outlives this call
    snprintf(via, sizeof via, "sim:%s", path);
    tool->port_name = via;
    path = via + 4;
    enum exit_code code = tool_open_port(tool);
    if (code)
        return code;
    if (strcmp(act, "probe") == 0)
        return bench_probe(tool, sim_of(tool));
    return strcmp(act, "show") == 0    ? show(tool, path)
           : strcmp(act, "break") == 0 ? break_bench(tool, rest)
                                       : mend(tool);
}

const struct verb verb_bench = {
    .name = "bench",
    .things = "ACT [BENCH] [FAULT ...]",
    .summary = "make, show, break and mend simulated benches; put a probe in front of one",
    .example = "coldmint bench break node.yaml lost=4000 back=2000",
    .mistake = "expecting a new chip each time: a bench remembers, like a real chip; 'bench renew' "
               "makes it new",
    .heeds = HEEDS_CHIP | HEEDS_VIA,
    .shows_denied = true,
    .acts = ACTS,
    .print_more = print_faults,
    .run = run,
};
