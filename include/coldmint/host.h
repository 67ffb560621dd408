/**
 * The host library: what a program on a computer wants beside the core. Ports by name, image files,
 * capsules, recipes, catalogues, backups, whole jobs. It never prints and never exits; failures are
 * records (coldmint/host/error.h).
 *
 *     struct cm_host host;
 *     struct cm_open_port port;
 *     cm_host_begin(&host, cm_all_ports);
 *     if (cm_port_open(&host, "sim:node.yaml", &port))
 *         ... see examples/mint-a-unit.c ...
 *
 * Link with coldmint-host, and with coldmint-ports where cm_all_ports is named.
 */
#ifndef COLDMINT_HOST_H
#define COLDMINT_HOST_H

#include <coldmint/host/amounts.h>
#include <coldmint/host/backup.h>
#include <coldmint/host/capsule_file.h>
#include <coldmint/host/catalogue.h>
#include <coldmint/host/config.h>
#include <coldmint/host/context.h>
#include <coldmint/host/count.h>
#include <coldmint/host/error.h>
#include <coldmint/host/fields.h>
#include <coldmint/host/files.h>
#include <coldmint/host/image_file.h>
#include <coldmint/host/job.h>
#include <coldmint/host/ledger.h>
#include <coldmint/host/pack.h>
#include <coldmint/host/ports.h>
#include <coldmint/host/recipe.h>
#include <coldmint/host/settings.h>
#include <coldmint/ports.h>

#endif
