/* The faults of capsules in words. */
#include <coldmint/capsule.h>

static const char *const FAULT_WORDS[CM_CAPSULE_FAULT_COUNT] = {
    [CM_CAPSULE_OK] = "nothing is wrong",
    [CM_CAPSULE_UNREADABLE] = "the file cannot be read",
    [CM_CAPSULE_FOREIGN] = "it does not begin as a capsule does",
    [CM_CAPSULE_VERSION] = "it is of a version that this program does not know",
    [CM_CAPSULE_CUT] = "it ends too early",
    [CM_CAPSULE_CHECKSUM] = "its checksum is wrong",
    [CM_CAPSULE_PART_SUM] = "the checksum of a part is wrong",
    [CM_CAPSULE_MALFORMED] = "a field is damaged",
    [CM_CAPSULE_BOUNDS] = "a part lies outside its region, or out of order",
    [CM_CAPSULE_UNSEALED] = "it has no seal",
    [CM_CAPSULE_DIGEST] = "it was changed after it was sealed",
    [CM_CAPSULE_UNSIGNED] = "nobody has signed it",
    [CM_CAPSULE_OTHER_MAKER] = "it is signed with another key than the maker's",
    [CM_CAPSULE_SIGNATURE] = "its signature is not of this key and these contents",
};

const char *cm_capsule_fault_word(enum cm_capsule_fault fault)
{
    return fault < CM_CAPSULE_FAULT_COUNT ? FAULT_WORDS[fault] : "unknown";
}
