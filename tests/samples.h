/* What the samples in the headers' comments take for granted: each is compiled as the body of a
 * function behind this (./run test). */
#include <coldmint/capsule.h>
#include <coldmint/coldmint.h>
#include <coldmint/restore.h>
#include <string.h>

static struct cm_port port;
static struct cm_kit kit;
static struct cm_session session;
static enum cm_status status;
static struct cm_put put;
static struct cm_report report;
static struct cm_want want;
static uint8_t workspace[CM_STATE_BYTES + 256], bytes[64], id[3];
static struct cm_capsule_input input;
static struct cm_capsule_place place;
static struct cm_tune_report tuned;
