/*
 * The context: families, failures, and what is freed at the end.
 */
#include "inside.h"
#include <coldmint/host/amounts.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <unistd.h>
#include <coldmint/host/image_file.h>

/* All families; and behind the one whose chips may have nothing but a size, such chips. */
static void make_kits(struct cm_host *host)
{
    struct cm_kit all[CM_ALL_KITS];
    struct cm_kit plain[CM_ALL_KITS];
    cm_all_kits(all, &host->found);
    cm_all_kits(plain, &host->plain);
    for (int i = 0; i < CM_ALL_KITS; i++) {
        host->kits[host->kit_count++] = all[i];
        if (!all[i].about->describe_size)
            continue;
        host->plain_part = plain[i].found;
        host->plain_parts[0] = plain[i].found;
        plain[i].parts = host->plain_parts;
        plain[i].part_count = 0; // none until it is asked for
        plain[i].found = NULL;
        plain[i].describe = NULL;
        host->plain_kit = host->kit_count;
        host->kits[host->kit_count++] = plain[i];
    }
}

void cm_host_begin(struct cm_host *host, const struct cm_port_kind *const *ports)
{
    memset(host, 0, sizeof *host);
    host->ports = ports;
    host->formats = cm_all_formats;
    make_kits(host);
}

void cm_host_end(struct cm_host *host)
{
    while (host->pipe_count > 0) {
        host->pipe_count--;
        close(host->pipes[host->pipe_count].copy);
        free(host->pipes[host->pipe_count].path);
    }
}

/* "plain-4M": SPI flash of this size, with the instructions that nearly all have. */
static void describe_plain(struct cm_host *host, const char *name)
{
    uint64_t size;
    const char *end = name + 6;
    if (strncmp(name, "plain-", 6) != 0 || !cm_parse_number(&end, &size))
        return;
    unsigned shift = *end == 'k' || *end == 'K' ? 10 : *end == 'm' || *end == 'M' ? 20 : 0;
    bool is_size = shift && end[1] == '\0' && size && (size & (size - 1)) == 0 &&
                   size <= 0x10000000ul >> shift && size << shift >= 65536;
    if (!is_size)
        return;
    struct cm_kit *kit = &host->kits[host->plain_kit];
    kit->about->describe_size(host->plain_part, (uint32_t)(size << shift));
    HOST_COPY(host->plain_part->name, name);
    kit->part_count = 1;
}

const struct cm_part *cm_host_part(struct cm_host *host, const char *name)
{
    describe_plain(host, name);
    return cm_part_by_name(host->kits, host->kit_count, name);
}

const struct cm_kit *cm_host_kit_of(const struct cm_host *host, const struct cm_part *part)
{
    for (uint8_t k = 0; k < host->kit_count; k++) {
        const struct cm_kit *kit = &host->kits[k];
        for (uint16_t i = 0; i < kit->part_count; i++) {
            if (kit->parts[i] == part)
                return kit;
        }
        if (kit->found == part)
            return kit;
    }
    return &host->kits[0];
}

bool cm_host_is_plain(const struct cm_host *host, const struct cm_kit *kit)
{
    return kit == &host->kits[host->plain_kit];
}

uint16_t supply_or_0(struct cm_session *session)
{
    uint16_t mv;
    return cm_supply_mv(session, &mv) == CM_OK ? mv : 0;
}

/* --- failures ---------------------------------------------------------------------------- */

void host_copy(char *to, size_t room, const char *text)
{
    size_t length = text ? strnlen(text, room - 1) : 0;
    if (length)
        memcpy(to, text, length);
    to[length] = '\0';
}

struct cm_error *host_error(struct cm_host *host, enum cm_error_kind kind, const char *path)
{
    struct cm_error *error = &host->error;
    memset(error, 0, sizeof *error);
    error->kind = kind;
    HOST_COPY(error->path, path);
    return error;
}

bool host_fail(struct cm_host *host, enum cm_error_kind kind, const char *path)
{
    host_error(host, kind, path);
    return false;
}

bool host_fail_system(struct cm_host *host, enum cm_error_kind kind, const char *path, int error)
{
    host_error(host, kind, path)->system = error;
    return false;
}

bool host_fail_session(struct cm_host *host, enum cm_status status)
{
    host_error(host, CM_ERROR_SESSION, NULL)->status = status;
    return false;
}
