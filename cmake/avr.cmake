# Cross-builds the core for an 8-bit AVR.
set(CMAKE_SYSTEM_NAME Generic)
set(CMAKE_SYSTEM_PROCESSOR avr)
set(CMAKE_C_COMPILER avr-gcc)
set(CMAKE_C_FLAGS_INIT "-mmcu=atmega1284p")
set(CMAKE_TRY_COMPILE_TARGET_TYPE STATIC_LIBRARY)
