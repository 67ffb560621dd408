static inline void wdt_disable(void) {}
