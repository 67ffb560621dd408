/*
 * The lists of ports, formats and verbs, each with one row more.
 */
#include "kinds.h"
#include <list.h>
#include <string.h>

const struct cm_port_kind *const cm_all_ports[] = {&cm_port_sim, &port_shelf, NULL};

const struct cm_file_format *const cm_all_formats[] = {
    &cm_format_hex, &cm_format_srec, &cm_format_elf, &format_tally, &cm_format_raw, NULL};

extern const struct verb verb_look, verb_ports, verb_image, verb_ring;
const struct verb *const verbs[] = {&verb_look, &verb_ports, &verb_image, &verb_ring, NULL};
