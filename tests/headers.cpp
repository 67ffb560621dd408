// Every public header in one C++ program, which links with the library: kits and parts are C's, and the calls, too.
#include <coldmint/capsule.h>
#include <coldmint/coldmint.h>
#include <coldmint/host.h>
#include <coldmint/restore.h>
#include <coldmint/sfdp.h>

static uint32_t no_time(const cm_port *)
{
    return 0;
}

int main()
{
    static const cm_part *const parts[] = {&cm_attiny84a.part};
    cm_kit kit = {};
    cm_lines lines = {};
    cm_port_state state = {};
    cm_port port = {};
    cm_session session;
    uint8_t workspace[CM_STATE_BYTES + 256];
    kit.family = &cm_avr;
    kit.parts = parts;
    kit.part_count = 1;
    lines.now_us = no_time;
    port.lines = &lines;
    port.state = &state;
    if (cm_open(&session, &port, &kit, 1, workspace, sizeof workspace) != CM_OK)
        return 1;
    bool lacks = cm_identify(&session, "attiny84a") == CM_PORT_LACKS; // such a port has no lines
    bool is_ours = cm_version()[0] - '0' == CM_VERSION_MAJOR;
    cm_close(&session);
    return lacks && is_ours ? 0 : 1;
}
