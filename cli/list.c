/*
 * The list of the verbs. Help, the man page, completion and the command line itself are made from
 * it. To add a verb: its file in verbs/, and a row here.
 */
#include "list.h"
#include <stddef.h>

extern const struct verb verb_wires, verb_ports, verb_look, verb_keep, verb_put, verb_match,
    verb_erase, verb_undo, verb_guard, verb_tune, verb_raw, verb_mint, verb_image, verb_chips,
    verb_bench, verb_ledger, verb_pack;

const struct verb *const verbs[] = {&verb_wires, &verb_ports, &verb_look, &verb_keep,   &verb_put,
                                    &verb_match, &verb_erase, &verb_undo, &verb_guard,  &verb_tune,
                                    &verb_raw,   &verb_mint,  &verb_pack, &verb_ledger, &verb_image,
                                    &verb_chips, &verb_bench, NULL};
