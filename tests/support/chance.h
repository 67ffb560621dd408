/*
 * What is sampled in place of done whole, and by which seed.
 *
 * COLDMINT_SEED is the seed; without it, it is the day (20261201), so that other places are tried
 * each day. A test that samples prints it. COLDMINT_ALL=1 leaves nothing out.
 */
#ifndef CM_TEST_CHANCE_H
#define CM_TEST_CHANCE_H

#include <stdbool.h>
#include <stdint.h>

/* The seed; it is printed when it is first asked for. */
uint32_t test_seed(void);

/* Is everything to be done? */
bool test_does_all(void);

/* A number below this one, from a state that begins with what the caller likes. */
uint32_t test_draw(uint32_t *state, uint32_t below);

/* The first of a row of places, and how far the next one is, where one in so many is tried. */
uint32_t test_first(uint32_t one_in);
uint32_t test_stride(uint32_t one_in);

/* One in so many of a test's cases, others for each seed; all of them with COLDMINT_ALL. */
bool test_takes(uint32_t number, uint32_t one_in);

#endif
