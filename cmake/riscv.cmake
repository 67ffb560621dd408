# Cross-builds the core for a small RISC-V (RV32IMC), against picolibc's headers.
set(CMAKE_SYSTEM_NAME Generic)
set(CMAKE_SYSTEM_PROCESSOR riscv)
set(CMAKE_C_COMPILER riscv64-unknown-elf-gcc)
set(CMAKE_C_FLAGS_INIT "-march=rv32imc -mabi=ilp32 --specs=picolibc.specs")
set(CMAKE_TRY_COMPILE_TARGET_TYPE STATIC_LIBRARY)
