/* pins BENCH: a simulated bench's lines for another program: reads "TIME d LINE LEVEL" (drive: 0,
 * 1, 2 released) and "TIME s LINE" (sense) a line at a time, and answers the latter with 0 or 1.
 * TIME is in microseconds. */
#include <sim/sim.h>
#include <stdio.h>

int main(int argc, char **argv)
{
    char error[SIM_ERROR_BYTES], line[80], act;
    unsigned number, level;
    struct cm_sim *sim = argc > 1 ? cm_sim_open(argv[1], error) : NULL;
    if (!sim)
        return 2;
    const struct cm_port *target = cm_sim_port(sim);
    unsigned long long now, last = 0;
    while (fgets(line, sizeof line, stdin)) {
        int got = sscanf(line, "%llu %c %u %u", &now, &act, &number, &level);
        if (got < 3)
            return 2;
        target->lines->wait_us(target, last ? (uint32_t)(now - last) : 0);
        last = now;
        if (got == 4 && act == 'd') {
            cm_ignore(target->lines->line(target, (enum cm_line)number, (enum cm_level)level));
        } else if (act == 's') {
            uint16_t value = 1;
            cm_ignore(target->lines->sense(target, (enum cm_line)number, &value));
            printf("%u\n", value);
            fflush(stdout);
        }
    }
    return cm_sim_close(sim) ? 0 : 1;
}
