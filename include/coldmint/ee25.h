/**
 * Serial EEPROMs on SPI: the 25 series. They have the instructions of SPI flash, but no erase and
 * no id, so cm_identify finds them only by name.
 */
#ifndef COLDMINT_EE25_H
#define COLDMINT_EE25_H

#include <coldmint/decls.h>
#include <coldmint/nor.h>

CM_DECLS_BEGIN

extern const struct cm_family cm_ee25; /**< its words are cm_nor_words */
extern const struct cm_about cm_ee25_about;

enum { CM_EE25_EEPROM = 0, CM_EE25_STATUS = 2 };

CM_DECLS_END

#endif
