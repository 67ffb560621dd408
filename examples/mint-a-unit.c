/*
 * Mints a unit after a recipe with the host library: opens a port by name, finds the chip, and
 * brings it to what the recipe says. The library prints nothing: what is said is said here.
 *
 *     mint-a-unit sim:new-node.yaml strike-node.yaml
 */
#include <coldmint/host.h>
#include <stdio.h>
#include <stdlib.h>

enum { WORKSPACE_BYTES = 65536 };

static bool mint(struct cm_host *host, const char *port_name, const struct cm_port *port,
                 const struct cm_recipe *recipe)
{
    static uint8_t workspace[WORKSPACE_BYTES];
    static struct cm_session session;
    struct cm_job *job = cm_job_new(host, &session, port_name);
    enum cm_status status =
        job ? cm_open(&session, port, host->kits, host->kit_count, workspace, sizeof workspace)
            : CM_NO_ROOM;
    if (!status)
        status = cm_identify(&session, recipe->chip.text);
    bool good = !status && cm_job_want_recipe(job, recipe) && cm_job_run(job);
    if (status)
        fprintf(stderr, "failed: %s\n", cm_status_word(status));
    if (good)
        printf("good: this is a %s, %u pages written\n", recipe->title.text,
               (unsigned)job->report.put.pages_written);
    cm_job_free(job);
    cm_close(&session);
    return good;
}

int main(int argc, char **argv)
{
    static struct cm_host host;
    static struct cm_recipe recipe;
    struct cm_open_port port = {.kind = NULL};
    if (argc != 3)
        return EXIT_FAILURE;
    cm_host_begin(&host, cm_all_ports);
    bool good = cm_recipe_load(&host, argv[2], &recipe) && cm_port_open(&host, argv[1], &port) &&
                mint(&host, argv[1], port.port, &recipe);
    good = cm_port_close(&host, &port) && good;
    if (host.error.kind)
        fprintf(stderr, "failed: kind %d, %s %s\n", (int)host.error.kind, host.error.path,
                host.error.text);
    cm_recipe_free(&recipe);
    cm_host_end(&host);
    return good ? EXIT_SUCCESS : EXIT_FAILURE;
}
