/*
 * The version of the library that is linked.
 */
#include <coldmint/coldmint.h>

const char *cm_version(void)
{
    return CM_VERSION;
}
