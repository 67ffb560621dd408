/* The settings of a job, as its capsule has them: in the order in which they are written. */
#ifndef CM_PLAYER_SETTINGS_H
#define CM_PLAYER_SETTINGS_H

#include <coldmint/player.h>

/* Something is about to be changed: from here on the unit counts. May be called again. */
CM_MUST_CHECK enum cm_status cm_player_count(struct cm_player *player);

/* Lifts lock bits that are in the way of the settings or of reading, where the capsule allows that.
 */
CM_MUST_CHECK enum cm_status cm_player_unlock(struct cm_player *player);

/* Writes those that differ: the early bits; or all of them, and then the chip must answer once
 * more with all of them right. */
CM_MUST_CHECK enum cm_status cm_player_write_early(struct cm_player *player);
CM_MUST_CHECK enum cm_status cm_player_write_late(struct cm_player *player);

#endif
