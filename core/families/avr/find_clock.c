/*
 * The fastest clock that a part can follow, where nobody has told its own.
 *
 * Data sheets, "Serial programming algorithm": SCK must be low and high for more than 2 CPU cycles
 * each, 3 from 12 MHz on. Behind a reset pulse a part listens to Programming Enable and to nothing
 * else; at a clock that is too fast for it, it does not understand that either, and does nothing.
 * So the limit lies between two tries.
 *
 *     RESET ~\____/~\____________ 20 ms ________/~\____________ 20 ms ________ ...
 *     SCK   ____________________________/\/\/\  AC 53 00 00  ______________/\/\/\  AC 53 00 00
 *                                       900 kHz: 53 comes back              2150 kHz: it does not
 */
#include "avr.h"

// Clocks that a part is tried at, in kHz, where its own was not told and it answers at 200: the
// highest that does, and the lowest that does not, have its limit between them. From 4200 kHz on no
// part can follow.
static const uint16_t SCK_LIMITS_KHZ[] = {200,  265,  350,  470,  640,  900,
                                          1250, 1650, 2150, 2750, 3300, 4200};
enum { LIMITS = sizeof SCK_LIMITS_KHZ / sizeof SCK_LIMITS_KHZ[0] };

/*
 * Do reset pulses get through to a part that answers? One that is still enabled behind a pulse
 * tells its signature. One that has had it hears nothing but Programming Enable.
 */
static enum cm_status check_reset(struct cm_session *session, bool *works)
{
    uint8_t vendor = 0;
    cm_avr_add_reset(session, AVR_FIRST_HZ);
    cm_avr_add_read(session, READ_SIGNATURE, 0, 0, CM_DATA_IN, &vendor)->data =
        CM_DATA_IN; // no echo
    enum cm_status status = cm_batch_run(session);
    *works = vendor != AVR_VENDOR;
    return status;
}

/*
 * The clock of a part that answers, where nobody told it: between the highest at which it does and
 * the lowest at which it does not lies its limit. Three quarters of the latter are safe. Each try
 * begins with a reset pulse and says Programming Enable alone, so a part that cannot follow
 * misreads nothing that matters.
 */
enum cm_status cm_avr_find_clock(struct cm_session *session)
{
    uint32_t most_khz = session->port->traits.clock_max_hz / 1000, hz;
    uint8_t good = 0, bad = LIMITS - 1, answer[INSTRUCTION];
    bool works;
    enum cm_status status = check_reset(session, &works);
    if (status)
        return status;
    if (!works)
        bad = 1; // it stays enabled, and would obey what it misreads at a clock that is too fast
    while (most_khz && bad > 1 && SCK_LIMITS_KHZ[bad - 1] > most_khz)
        bad--;
    while (bad - good > 1) {
        uint8_t middle = (uint8_t)((good + bad) / 2);
        cm_avr_add_reset(session, SCK_LIMITS_KHZ[middle] * 1000u);
        status = cm_avr_enable(session, answer);
        if (status)
            return status;
        if (cm_avr_state(session)->echoes)
            good = middle;
        else
            bad = middle;
    }
    hz = SCK_LIMITS_KHZ[bad] * 750u;
    if (good == 0 || hz > SCK_LIMITS_KHZ[good] * 1000u)
        hz = SCK_LIMITS_KHZ[good] * 1000u;
    return cm_avr_try_clock(session, hz);
}
