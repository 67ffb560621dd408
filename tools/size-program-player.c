/*
 * What is linked to measure a player: plays a sealed capsule onto one AVR part, counts and logs,
 * with button and lamp.
 */
#include <coldmint/avr.h>
#include <coldmint/player.h>

static const struct cm_part *const PARTS[] = {&cm_atmega1284p.part};
static const struct cm_kit KITS[] = {{.family = &cm_avr, .parts = PARTS, .part_count = 1}};

// Somewhere else: the linker is told where.
extern const struct cm_port port;
extern const struct cm_capsule_input image;

struct cm_player ram_player;
uint8_t ram_workspace[256 + 64 + CM_STATE_BYTES];

int _start(void)
{
    const struct cm_store *store = (const struct cm_store *)&port;
    ram_player.port = &port;
    ram_player.kits = KITS;
    ram_player.kit_count = 1;
    ram_player.workspace = ram_workspace;
    ram_player.workspace_bytes = sizeof ram_workspace;
    ram_player.input = image;
    ram_player.maker = (const uint8_t *)&port;
    ram_player.verify = cm_ed25519_verify;
    ram_player.store = store;
    if (cm_player_open(&ram_player) == CM_OK)
        cm_player_run(&ram_player);
    return 0;
}
