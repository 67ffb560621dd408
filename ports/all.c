/*
 * The list of the kinds of ports of a full build: a row for each.
 */
#include <coldmint/ports.h>
#include <stddef.h>

const struct cm_port_kind *const cm_all_ports[] = {&cm_port_sim, &cm_port_belt, &cm_port_linux,
                                                   &cm_port_link, NULL};
