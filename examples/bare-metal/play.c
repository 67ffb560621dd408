/*
 * A programmer without a computer: plays a sealed capsule onto the chip, counts the units, and says
 * how it went. Its maker's key is built in (maker.h); the button is pressed once, by itself.
 *
 * The exit code is 0 for a unit that is whole, 1 for one that is not, 2 where nothing may be made.
 */
#include "files.h"
#include "maker.h"
#include <coldmint/coldmint.h>
#include <string.h>

static const uint8_t MAKER[CM_KEY_BYTES] = MAKER_KEY;
static uint8_t workspace[1 << 20];
static struct cm_player player;
static unsigned asked, result;

static void say_number(uint32_t number)
{
    char text[12], *at = text + sizeof text - 1;
    *at = '\0';
    do
        *--at = (char)('0' + number % 10);
    while (number /= 10);
    board_say(at);
}

static bool button(void *context)
{
    (void)context;
    return ++asked == 2;
}

static bool is_over(void *context)
{
    (void)context;
    return asked > 2;
}

static void lamp(void *context, enum cm_player_lamp state)
{
    static const char *const WORDS[] = {"dark", "ready", "playing", "PASS", "FAIL"};
    (void)context;
    board_say("  lamp   ");
    board_say(WORDS[state]);
    board_say("\n");
}

static void beep(void *context, bool is_good)
{
    (void)context;
    result = is_good ? 0 : 1;
}

static void say_why(void)
{
    board_say("  why    ");
    if (player.fault == CM_PLAYER_CAPSULE)
        board_say(cm_capsule_fault_word(player.capsule.fault));
    else if (player.fault == CM_PLAYER_LIMIT)
        board_say("as many as the capsule allows are made");
    else
        board_say(cm_status_word(player.session.failure.status));
    board_say("\n");
}

int main(void)
{
    board_begin();
    player = (struct cm_player){.port = &board_port,
                                .kits = &board_kit,
                                .kit_count = 1,
                                .workspace = workspace,
                                .workspace_bytes = sizeof workspace,
                                .maker = MAKER,
                                .verify = cm_ed25519_verify,
                                .button = button,
                                .lamp = lamp,
                                .beep = beep,
                                .stop = is_over};
    player.store = files_store("player.store");
    if (!files_capsule("capsule.mint", &player.input) || cm_player_open(&player) != CM_OK) {
        say_why();
        return 2;
    }
    board_say("  makes  ");
    board_say(player.capsule.work.title);
    board_say("\n");
    cm_player_run(&player);
    if (player.fault)
        say_why();
    board_say("  made   ");
    say_number(player.tally.last.used);
    board_say(", of ");
    say_number(player.capsule.work.units);
    board_say("\n");
    return player.fault == CM_PLAYER_LIMIT ? 2 : (int)result;
}
