/**
 * Cold Mint: a portable library that programs chips in place. This header brings all of it.
 *
 * Begin with job.h (what to do) and session.h (with which chip); port.h is for the hardware's side.
 *
 * Threads: a session and its port belong to one thread at a time. Sessions share nothing that
 * changes, so each may have a thread of its own. C++ programs include these headers as they are.
 */
#ifndef COLDMINT_COLDMINT_H
#define COLDMINT_COLDMINT_H

#include <coldmint/all.h>
#include <coldmint/avr.h>
#include <coldmint/batch.h>
#include <coldmint/chip.h>
#include <coldmint/decls.h>
#include <coldmint/ee25.h>
#include <coldmint/ee25_parts.h>
#include <coldmint/guard.h>
#include <coldmint/i2c24.h>
#include <coldmint/i2c24_parts.h>
#include <coldmint/m93.h>
#include <coldmint/m93_parts.h>
#include <coldmint/nor.h>
#include <coldmint/nor_parts.h>
#include <coldmint/par.h>
#include <coldmint/par_parts.h>
#include <coldmint/raw.h>
#include <coldmint/records.h>
#include <coldmint/image.h>
#include <coldmint/job.h>
#include <coldmint/mint.h>
#include <coldmint/pinout.h>
#include <coldmint/place.h>
#include <coldmint/port.h>
#include <coldmint/session.h>
#include <coldmint/settings.h>
#include <coldmint/source.h>
#include <coldmint/status.h>

/** The version of these headers; cm_version is that of the library that is linked. */
#define CM_VERSION_MAJOR 0
#define CM_VERSION_MINOR 1
#define CM_VERSION_PATCH 0
#define CM_VERSION       "0.1.0"

CM_DECLS_BEGIN

/** The library's version, "0.1.0". */
const char *cm_version(void);

CM_DECLS_END

#endif
