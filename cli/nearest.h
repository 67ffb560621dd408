/* The name that somebody meant, who has mistyped it. */
#ifndef CM_CLI_NEAREST_H
#define CM_CLI_NEAREST_H

/* What was typed, and the nearest name that was offered so far; NULL: none is near. */
struct nearest {
    const char *typed, *name;
    unsigned distance;
};

void nearest_offer(struct nearest *nearest, const char *name);

#endif
