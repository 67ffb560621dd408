/* Is a capsule of the kind of chip that was found? */
#include "../job/session.h"
#include <coldmint/restore.h>
#include <string.h>

bool cm_capsule_fits(const struct cm_session *session, const struct cm_capsule *capsule)
{
    const struct cm_part *part = session->part;
    const struct cm_capsule_facts *facts = &capsule->facts;
    struct cm_region region;
    bool is_named = cm_is_same_text(facts->chip, part->name);
    bool same = (part->id_bytes || is_named) && facts->id_bytes == part->id_bytes &&
                memcmp(facts->id, part->id, part->id_bytes) == 0;
    for (uint8_t i = 0; same && i < capsule->region_count; i++) {
        int index = cm_region_by_name(session, capsule->regions[i].name);
        same = index >= 0 && cm_region(session, (uint8_t)index, &region) &&
               region.bytes == capsule->regions[i].bytes;
    }
    return same;
}
