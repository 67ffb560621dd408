/*
 * The job of the programs that are linked to measure the core: identifies one part, puts an image
 * into it, and lets it go. The port and the image are somewhere else (the linker is told where).
 * A program includes this behind what it says of itself: KITS, PART, WORKSPACE, IMAGE_BYTES,
 * UNPROTECT. They are constants, as in a program of one's own: arguments would be measured, too.
 */
extern const struct cm_port port;
extern uint8_t image[];

struct cm_session ram_session;
uint8_t ram_workspace[WORKSPACE];

int _start(void)
{
    struct cm_memory memory = {image, IMAGE_BYTES, 0};
    struct cm_want want = {CM_REGION_MAIN, cm_memory_source(&memory)};
    struct cm_put put = {.wants = &want, .want_count = 1, .unprotect = UNPROTECT};
    struct cm_report report;
    enum cm_status status =
        cm_open(&ram_session, &port, KITS, sizeof KITS / sizeof KITS[0], ram_workspace, WORKSPACE);
    if (!status)
        status = cm_identify(&ram_session, PART);
    if (!status)
        status = cm_put(&ram_session, &put, &report);
    cm_close(&ram_session);
    return (int)status;
}
