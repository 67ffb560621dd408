#include "tool.h"
#include "chance.h"
#include <fcntl.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <sys/wait.h>
#include <unistd.h>

static void read_all(int from, char *text, size_t bytes)
{
    lseek(from, 0, SEEK_SET);
    ssize_t got = read(from, text, bytes - 1);
    text[got > 0 ? got : 0] = '\0';
    close(from);
}

/* Looking for leaks doubles the time of a short command: one in four does, others each day. A test
 * that sets the sanitizer's options itself has them. */
static void choose_leaks(void)
{
    static uint32_t number;
    if (!test_takes(number++, 4))
        setenv("ASAN_OPTIONS", "detect_leaks=0", 0);
}

static pid_t start_into(const char *const *arguments, int in, int out, int err)
{
    bool has_options = getenv("ASAN_OPTIONS") != NULL;
    choose_leaks();
    pid_t child = fork();
    if (child == 0) {
        dup2(in, STDIN_FILENO);
        dup2(out, STDOUT_FILENO);
        dup2(err, STDERR_FILENO);
        const char *other = getenv("TEST_TOOL"); // one with more in its lists
        execv(other ? other : TOOL_PATH, (char *const *)(uintptr_t)arguments);
        _exit(127);
    }
    if (!has_options)
        unsetenv("ASAN_OPTIONS");
    return child;
}

pid_t start_tool(const char *const *arguments)
{
    int nowhere = open("/dev/null", O_RDWR | O_CLOEXEC);
    pid_t child = start_into(arguments, nowhere, nowhere, nowhere);
    close(nowhere);
    return child;
}

int end_of_tool(pid_t child)
{
    int status;
    assert_int_equal(waitpid(child, &status, 0), child);
    return WIFEXITED(status) ? WEXITSTATUS(status) : 128 + WTERMSIG(status);
}

void run_tool(struct outcome *outcome, const char *first, ...)
{
    const char *arguments[40] = {"coldmint", first};
    char out_path[200], err_path[200];
    int count = 2;
    va_list more;
    va_start(more, first);
    while (first && count < 39 && (arguments[count] = va_arg(more, const char *)) != NULL)
        count++;
    va_end(more);
    write_file(out_path, sizeof out_path, "out.txt", "");
    write_file(err_path, sizeof err_path, "err.txt", "");
    int out = open(out_path, O_RDWR | O_TRUNC), err = open(err_path, O_RDWR | O_TRUNC);
    outcome->code = end_of_tool(start_into(arguments, STDIN_FILENO, out, err));
    read_all(out, outcome->out, sizeof outcome->out);
    read_all(err, outcome->err, sizeof outcome->err);
}
