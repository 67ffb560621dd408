/*
 * Progress on stderr, where that is a terminal: a bar, the rate, the time left, by the person's own
 * clock. Nothing for what is over at once.
 */
#include "progress.h"
#include "text.h"
#include "words/fail.h"
#include <stdio.h>
#include <time.h>
#include <unistd.h>

enum { STEP_WIDTH = 9, BAR_WIDTH = 30, SHOW_AFTER_US = 300000 };

volatile sig_atomic_t tool_interrupted;

static uint64_t host_us(void)
{
    struct timespec now;
    clock_gettime(CLOCK_MONOTONIC, &now);
    return (uint64_t)now.tv_sec * 1000000u + (uint64_t)now.tv_nsec / 1000u;
}

static void draw_bar(uint32_t done, uint32_t total, char *bar)
{
    uint32_t filled = total ? (uint32_t)((uint64_t)done * BAR_WIDTH / total) : 0;
    for (uint32_t i = 0; i < BAR_WIDTH; i++)
        bar[i] = i < filled ? '=' : i == filled ? '>' : '.';
    bar[BAR_WIDTH] = '\0';
}

static void show(struct tool *tool, const struct cm_progress *progress, uint64_t gone_us)
{
    char bar[BAR_WIDTH + 1], left[SHORT_TEXT] = "";
    draw_bar(progress->done, progress->total, bar);
    double rate = progress->done / ((double)gone_us / 1e6);
    uint32_t missing = progress->total > progress->done ? progress->total - progress->done : 0;
    if (rate > 0)
        seconds_text((uint32_t)(missing / rate * 1e6), left, sizeof left);
    fprintf(stderr, "\r\033[K%-*s [%s] %3u %%  %s  %u of %u bytes, %.1f KB/s, %s left", STEP_WIDTH,
            step_words(progress->step), bar,
            progress->total ? (unsigned)((uint64_t)progress->done * 100 / progress->total) : 100,
            progress->region, (unsigned)progress->done, (unsigned)progress->total, rate / 1000,
            left);
    fflush(stderr);
    tool->progress.is_shown = true;
}

bool tool_progress(void *context, const struct cm_progress *progress)
{
    struct tool *tool = context;
    uint64_t now_us = host_us();
    if (progress->step != tool->progress.step || progress->region != tool->progress.region) {
        tool->progress.step = progress->step;
        tool->progress.region = progress->region;
        tool->progress.begun_us = now_us;
    }
    if (isatty(STDERR_FILENO) && progress->step != CM_STEP_ERASE &&
        now_us - tool->progress.begun_us > SHOW_AFTER_US)
        show(tool, progress, now_us - tool->progress.begun_us);
    return !tool_interrupted;
}

void tool_progress_end(struct tool *tool)
{
    if (tool->progress.is_shown)
        fprintf(stderr, "\r\033[K");
    tool->progress.is_shown = false;
    tool->progress.step = CM_STEP_NONE;
}
