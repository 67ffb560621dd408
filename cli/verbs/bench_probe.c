/*
 * bench probe: the firmware of a probe, on this computer, with a simulated bench behind it. Its
 * serial line is a pseudo terminal: what is done through that goes all the way, tool, link,
 * firmware, bench.
 */
#include "bench_probe.h"
#include "progress.h"
#include "say.h"
#include "words/fail.h"
#include <errno.h>
#include <pty/pty.h>
#include <sim/sim.h>
#include <string.h>

enum { DATA_BYTES = 65536, OPS = 64, WINDOW = 4 };

enum exit_code bench_probe(struct tool *tool, struct cm_sim *sim)
{
    const struct pty_size size = {DATA_BYTES, OPS, WINDOW};
    struct pty_probe *probe = pty_probe_open(cm_sim_port(sim), size);
    bool was_in_session = false;
    if (!probe)
        return tool_fail_as(tool, EXIT_NO_PORT, "the probe cannot be set up", strerror(errno),
                            "are there pseudo terminals left on this system?");
    say(tool, "device", "%s", pty_probe_device(probe));
    say(tool, "", "coldmint look --via link:%s; Ctrl-C here ends it", pty_probe_device(probe));
    set_json(tool, "device", json_text(pty_probe_device(probe)));
    while (!tool_interrupted) {
        pty_probe_step(probe);
        bool is_in_session = pty_probe_in_session(probe);
        if (was_in_session && !is_in_session)
            (void)cm_sim_save(sim); // it is saved at the end, too, where a failure is told
        was_in_session = is_in_session;
    }
    pty_probe_close(probe);
    say_last(tool, "the probe was switched off");
    return EXIT_GOOD;
}
