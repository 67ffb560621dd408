/* The names of the AVR parts, for a build that carries only those it names. */
/* Written by tools/avr-parts.py from avr-libc's device headers; change the script, not this file.
 */
#ifndef COLDMINT_AVR_PARTS_H
#define COLDMINT_AVR_PARTS_H

#include <coldmint/decls.h>
#include <coldmint/chip.h>

CM_DECLS_BEGIN

#define CM_AVR_PART_COUNT 178

/** Every part of the table, by name. Naming this array links the whole table. */
extern const struct cm_part *const cm_avr_all_parts[CM_AVR_PART_COUNT];

extern const struct cm_avr_part cm_at90can128;
extern const struct cm_avr_part cm_at90can32;
extern const struct cm_avr_part cm_at90can64;
extern const struct cm_avr_part cm_at90pwm1;
extern const struct cm_avr_part cm_at90pwm161;
extern const struct cm_avr_part cm_at90pwm2;
extern const struct cm_avr_part cm_at90pwm216;
extern const struct cm_avr_part cm_at90pwm2b;
extern const struct cm_avr_part cm_at90pwm3;
extern const struct cm_avr_part cm_at90pwm316;
extern const struct cm_avr_part cm_at90pwm3b;
extern const struct cm_avr_part cm_at90pwm81;
extern const struct cm_avr_part cm_at90s1200;
extern const struct cm_avr_part cm_at90s2313;
extern const struct cm_avr_part cm_at90s2323;
extern const struct cm_avr_part cm_at90s2343;
extern const struct cm_avr_part cm_at90s4414;
extern const struct cm_avr_part cm_at90s4433;
extern const struct cm_avr_part cm_at90s4434;
extern const struct cm_avr_part cm_at90s8515;
extern const struct cm_avr_part cm_at90s8535;
extern const struct cm_avr_part cm_at90usb1286;
extern const struct cm_avr_part cm_at90usb1287;
extern const struct cm_avr_part cm_at90usb162;
extern const struct cm_avr_part cm_at90usb646;
extern const struct cm_avr_part cm_at90usb647;
extern const struct cm_avr_part cm_at90usb82;
extern const struct cm_avr_part cm_ata5272;
extern const struct cm_avr_part cm_ata5505;
extern const struct cm_avr_part cm_ata6612c;
extern const struct cm_avr_part cm_ata6613c;
extern const struct cm_avr_part cm_ata6614q;
extern const struct cm_avr_part cm_ata6616c;
extern const struct cm_avr_part cm_ata6617c;
extern const struct cm_avr_part cm_ata664251;
extern const struct cm_avr_part cm_atmega103;
extern const struct cm_avr_part cm_atmega128;
extern const struct cm_avr_part cm_atmega1280;
extern const struct cm_avr_part cm_atmega1281;
extern const struct cm_avr_part cm_atmega1284;
extern const struct cm_avr_part cm_atmega1284p;
extern const struct cm_avr_part cm_atmega1284rfr2;
extern const struct cm_avr_part cm_atmega128a;
extern const struct cm_avr_part cm_atmega128rfa1;
extern const struct cm_avr_part cm_atmega128rfr2;
extern const struct cm_avr_part cm_atmega16;
extern const struct cm_avr_part cm_atmega161;
extern const struct cm_avr_part cm_atmega162;
extern const struct cm_avr_part cm_atmega163;
extern const struct cm_avr_part cm_atmega164a;
extern const struct cm_avr_part cm_atmega164p;
extern const struct cm_avr_part cm_atmega164pa;
extern const struct cm_avr_part cm_atmega165;
extern const struct cm_avr_part cm_atmega165a;
extern const struct cm_avr_part cm_atmega165p;
extern const struct cm_avr_part cm_atmega165pa;
extern const struct cm_avr_part cm_atmega168;
extern const struct cm_avr_part cm_atmega168a;
extern const struct cm_avr_part cm_atmega168p;
extern const struct cm_avr_part cm_atmega168pa;
extern const struct cm_avr_part cm_atmega168pb;
extern const struct cm_avr_part cm_atmega169;
extern const struct cm_avr_part cm_atmega169a;
extern const struct cm_avr_part cm_atmega169p;
extern const struct cm_avr_part cm_atmega169pa;
extern const struct cm_avr_part cm_atmega16a;
extern const struct cm_avr_part cm_atmega16hva;
extern const struct cm_avr_part cm_atmega16hvb;
extern const struct cm_avr_part cm_atmega16m1;
extern const struct cm_avr_part cm_atmega16u2;
extern const struct cm_avr_part cm_atmega16u4;
extern const struct cm_avr_part cm_atmega2560;
extern const struct cm_avr_part cm_atmega2561;
extern const struct cm_avr_part cm_atmega2564rfr2;
extern const struct cm_avr_part cm_atmega256rfr2;
extern const struct cm_avr_part cm_atmega32;
extern const struct cm_avr_part cm_atmega323;
extern const struct cm_avr_part cm_atmega324a;
extern const struct cm_avr_part cm_atmega324p;
extern const struct cm_avr_part cm_atmega324pa;
extern const struct cm_avr_part cm_atmega325;
extern const struct cm_avr_part cm_atmega3250;
extern const struct cm_avr_part cm_atmega3250a;
extern const struct cm_avr_part cm_atmega3250p;
extern const struct cm_avr_part cm_atmega3250pa;
extern const struct cm_avr_part cm_atmega325a;
extern const struct cm_avr_part cm_atmega325p;
extern const struct cm_avr_part cm_atmega325pa;
extern const struct cm_avr_part cm_atmega328;
extern const struct cm_avr_part cm_atmega328p;
extern const struct cm_avr_part cm_atmega328pb;
extern const struct cm_avr_part cm_atmega329;
extern const struct cm_avr_part cm_atmega3290;
extern const struct cm_avr_part cm_atmega3290a;
extern const struct cm_avr_part cm_atmega3290p;
extern const struct cm_avr_part cm_atmega3290pa;
extern const struct cm_avr_part cm_atmega329a;
extern const struct cm_avr_part cm_atmega329p;
extern const struct cm_avr_part cm_atmega329pa;
extern const struct cm_avr_part cm_atmega32a;
extern const struct cm_avr_part cm_atmega32c1;
extern const struct cm_avr_part cm_atmega32hvb;
extern const struct cm_avr_part cm_atmega32m1;
extern const struct cm_avr_part cm_atmega32u2;
extern const struct cm_avr_part cm_atmega32u4;
extern const struct cm_avr_part cm_atmega48;
extern const struct cm_avr_part cm_atmega48a;
extern const struct cm_avr_part cm_atmega48p;
extern const struct cm_avr_part cm_atmega48pa;
extern const struct cm_avr_part cm_atmega48pb;
extern const struct cm_avr_part cm_atmega64;
extern const struct cm_avr_part cm_atmega640;
extern const struct cm_avr_part cm_atmega644;
extern const struct cm_avr_part cm_atmega644a;
extern const struct cm_avr_part cm_atmega644p;
extern const struct cm_avr_part cm_atmega644pa;
extern const struct cm_avr_part cm_atmega644rfr2;
extern const struct cm_avr_part cm_atmega645;
extern const struct cm_avr_part cm_atmega6450;
extern const struct cm_avr_part cm_atmega6450a;
extern const struct cm_avr_part cm_atmega6450p;
extern const struct cm_avr_part cm_atmega645a;
extern const struct cm_avr_part cm_atmega645p;
extern const struct cm_avr_part cm_atmega649;
extern const struct cm_avr_part cm_atmega6490;
extern const struct cm_avr_part cm_atmega6490a;
extern const struct cm_avr_part cm_atmega6490p;
extern const struct cm_avr_part cm_atmega649a;
extern const struct cm_avr_part cm_atmega649p;
extern const struct cm_avr_part cm_atmega64a;
extern const struct cm_avr_part cm_atmega64c1;
extern const struct cm_avr_part cm_atmega64hve2;
extern const struct cm_avr_part cm_atmega64m1;
extern const struct cm_avr_part cm_atmega64rfr2;
extern const struct cm_avr_part cm_atmega8;
extern const struct cm_avr_part cm_atmega8515;
extern const struct cm_avr_part cm_atmega8535;
extern const struct cm_avr_part cm_atmega88;
extern const struct cm_avr_part cm_atmega88a;
extern const struct cm_avr_part cm_atmega88p;
extern const struct cm_avr_part cm_atmega88pa;
extern const struct cm_avr_part cm_atmega88pb;
extern const struct cm_avr_part cm_atmega8a;
extern const struct cm_avr_part cm_atmega8hva;
extern const struct cm_avr_part cm_atmega8u2;
extern const struct cm_avr_part cm_attiny12;
extern const struct cm_avr_part cm_attiny13;
extern const struct cm_avr_part cm_attiny13a;
extern const struct cm_avr_part cm_attiny15;
extern const struct cm_avr_part cm_attiny1634;
extern const struct cm_avr_part cm_attiny167;
extern const struct cm_avr_part cm_attiny22;
extern const struct cm_avr_part cm_attiny2313;
extern const struct cm_avr_part cm_attiny2313a;
extern const struct cm_avr_part cm_attiny24;
extern const struct cm_avr_part cm_attiny24a;
extern const struct cm_avr_part cm_attiny25;
extern const struct cm_avr_part cm_attiny26;
extern const struct cm_avr_part cm_attiny261;
extern const struct cm_avr_part cm_attiny261a;
extern const struct cm_avr_part cm_attiny4313;
extern const struct cm_avr_part cm_attiny43u;
extern const struct cm_avr_part cm_attiny44;
extern const struct cm_avr_part cm_attiny441;
extern const struct cm_avr_part cm_attiny44a;
extern const struct cm_avr_part cm_attiny45;
extern const struct cm_avr_part cm_attiny461;
extern const struct cm_avr_part cm_attiny461a;
extern const struct cm_avr_part cm_attiny48;
extern const struct cm_avr_part cm_attiny828;
extern const struct cm_avr_part cm_attiny84;
extern const struct cm_avr_part cm_attiny841;
extern const struct cm_avr_part cm_attiny84a;
extern const struct cm_avr_part cm_attiny85;
extern const struct cm_avr_part cm_attiny861;
extern const struct cm_avr_part cm_attiny861a;
extern const struct cm_avr_part cm_attiny87;
extern const struct cm_avr_part cm_attiny88;

CM_DECLS_END

#endif
