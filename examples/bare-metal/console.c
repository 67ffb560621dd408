/*
 * Console, exit and beginning of the emulated boards, by Arm semihosting: the same for all of them.
 */
#include "board.h"
#include <stdint.h>

int call_host(int number, const void *argument)
{
    register int r0 __asm__("r0") = number;
    register const void *r1 __asm__("r1") = argument;
    __asm__ volatile("svc 0x123456" : "+r"(r0) : "r"(r1) : "memory", "lr");
    return r0;
}

void board_say(const char *text)
{
    call_host(0x04, text);
}

void board_exit(int code)
{
    const uint32_t block[2] = {0x20026, (uint32_t)code};
    for (;;)
        call_host(0x20, block);
}

uint32_t board_host_us(void)
{
    uint64_t ticks = 0; // nanoseconds, on this emulator
    call_host(0x30, &ticks);
    return (uint32_t)(ticks / 1000);
}

/* Where the board begins: a stack, and the program. */
__attribute__((naked, section(".start"))) void _start(void)
{
    __asm__ volatile("ldr sp, =stack_top\n bl main\n bl board_exit");
}
