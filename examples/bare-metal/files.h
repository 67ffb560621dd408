/* Files of the computer on which an emulated board runs. */
#ifndef FILES_H
#define FILES_H

#include "board.h"
#include <coldmint/player.h>

/* Opens a capsule to be read; false: there is none. One at a time. */
bool files_capsule(const char *name, struct cm_capsule_input *input);

/* Opens a player's store, or makes a blank one; NULL: it cannot be. One at a time. */
const struct cm_store *files_store(const char *name);

#endif
