/*
 * Contact: the chip's id is asked for several times in a row, and between two such looks the lines
 * are released, so that chip or clip may be moved.
 */
#include "contact.h"
#include "begin.h"
#include "words/fail.h"
#include <stdio.h>
#include <string.h>

/* What a failed ask looks like, in the tool's words and the family's: the wire that seems open. */
static void note_failure(struct tool *tool, struct contact *contact, enum cm_status status)
{
    tool_fail(tool, status);
    contact->status = status;
    const char *try = tool->words.try;
    bool tells_wire = status == CM_NO_CHIP && strchr(try, ':'); // "MISO stays low: has ..."
    snprintf(contact->why, sizeof contact->why, "%.120s%s%.*s", tool->words.what,
             tells_wire ? ": " : "", tells_wire ? (int)strcspn(try, ":?;.") : 0, try);
    memset(&tool->words, 0, sizeof tool->words);
    json_object_del(tool->answer, "failure");
}

static bool ask(struct tool *tool, struct contact *contact)
{
    enum cm_status status = CM_OK;
    for (contact->asked = 0; contact->asked < CONTACT_ASKS; contact->asked++) {
        status = cm_identify(&tool->session, tool->given.chip);
        if (!status)
            contact->right++;
        if (status && !contact->status)
            note_failure(tool, contact, status);
        if (status && !contact->asked) { // who does not answer at once is not asked on
            contact->asked = CONTACT_ASKS;
            break;
        }
    }
    return contact->status != CM_PORT_FAILED;
}

bool contact_look(struct tool *tool, struct contact *contact)
{
    memset(contact, 0, sizeof *contact);
    enum cm_status status = tool_start_session(tool);
    bool works = !status;
    if (works) {
        contact->has_supply = cm_supply_mv(&tool->session, &contact->mv) == CM_OK;
        works = ask(tool, contact);
    } else {
        note_failure(tool, contact, status);
    }
    cm_close(&tool->session);
    return works;
}

bool contact_wait(struct tool *tool, uint32_t us)
{
    if (!tool_interrupted)
        tool->port->lines->wait_us(tool->port, us);
    return !tool_interrupted;
}
