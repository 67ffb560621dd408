# The checks that build something of their own, or look at the text. Each is a script of this folder, and one test; what several of
# them stand on is made once (a fixture). Builds are counted by the label `build`.
set(checks ${CMAKE_CURRENT_SOURCE_DIR}/checks)

function(cm_check)
    cmake_parse_arguments(PARSE_ARGV 0 CHECK "" "NAME;PROVES;PROCESSORS;SECONDS" "COMMAND;LABELS;NEEDS;GIVES;LOCKS")
    list(POP_FRONT CHECK_COMMAND script)
    cm_test(NAME ${CHECK_NAME} COMMAND sh ${checks}/${script} ${build_root} ${CHECK_COMMAND} IN ${CMAKE_SOURCE_DIR} PROVES "${CHECK_PROVES}"
        PROCESSORS "${CHECK_PROCESSORS}" SECONDS "${CHECK_SECONDS}" LABELS ${CHECK_LABELS} NEEDS ${CHECK_NEEDS} GIVES ${CHECK_GIVES} LOCKS ${CHECK_LOCKS})
endfunction()

# --- without sanitizers: what takes long under them -----------------------------------------------------------------
cm_check(NAME build-release COMMAND build release GIVES release PROCESSORS 2 LABELS build PROVES "the release build, as it is packaged and installed")

# On the port of single calls, the one that packs them, and the one that takes batches whole, at the far end of a link. Tables
# and pins are the same on all three; on I2C and parallel buses nothing packs, so that those parts run on two.
set(ways_of_both wires failures bad-contact avr settings job nor guard blocks roms serial-corners)
set(proof_of_packed "on a port that packs its calls")
set(proof_of_whole "on a port that takes batches whole, through the messages of a link")
foreach(way packed whole)
    foreach(name IN LISTS ways_of_both)
        cm_test(NAME ${name}-${way} COMMAND ${release}/tests/test-${name} NEEDS release LABELS core ENVIRONMENT TEST_WAY=${way}
            PROVES "`${name}` ${proof_of_${way}}")
    endforeach()
endforeach()
cm_test(NAME rom-corners-whole COMMAND ${release}/tests/test-rom-corners NEEDS release LABELS core ENVIRONMENT TEST_WAY=whole
    PROVES "`rom-corners` ${proof_of_whole}")
set(proof_of_release "of every part, without sanitizers")
foreach(name avr settings mint nor guard roms rom-corners serial-corners bad-contact failures)
    cm_test(NAME ${name}-release COMMAND ${release}/tests/test-${name} NEEDS release LABELS core PROVES "`${name}` ${proof_of_release}")
endforeach()
foreach(share 1 2 3 4)
    cm_test(NAME wires-release-${share} COMMAND ${release}/tests/test-wires ${share}/4 NEEDS release LABELS core
        PROVES "one wire of each family's bus low, high, noisy or shorted, at places all over a job: what ends good is right, what else changed is told, running again finishes it; a quarter of the parts")
endforeach()

# --- other builds ------------------------------------------------------------------------------------------------------
foreach(target cortex-m0plus riscv avr)
    cm_check(NAME cross-${target} COMMAND build ${target} LABELS build PROVES "the core compiles freestanding for ${target}")
endforeach()
cm_check(NAME plain-compiler COMMAND plain-compiler LABELS build PROVES "the core wants no build system: `cc -c` of each file")
cm_check(NAME shared COMMAND shared LABELS build PROCESSORS 2 PROVES "shared libraries export what the headers declare, and no more; the headers in a C++ program; the samples in them compile")
cm_check(NAME install COMMAND install NEEDS release LABELS check LOCKS release-install PROVES "programs built on what is installed, by pkg-config and by CMake; who lists no bench carries none")
cm_check(NAME package COMMAND package NEEDS release LABELS check LOCKS release-install PROVES "the Debian package: the tool runs from it, its documents are there")

# --- emulators -----------------------------------------------------------------------------------------------------------
cm_check(NAME bare-metal COMMAND bare-metal SECONDS 40 NEEDS release LABELS emulator PROVES "the bare-metal program on emulated boards: SPI flash of twenty models and two parallel flash chips that we did not model")
cm_check(NAME bare-metal-player COMMAND bare-metal-player NEEDS release LABELS emulator PROVES "the player on an emulated board makes the same chip as the tool")
cm_check(NAME build-linux COMMAND linux build GIVES linux PROCESSORS 2 LABELS build NEEDS release PROVES "the tool for a 32-bit Arm Linux")
set(proof_of_controller "the tool on a real kernel: SPI memory by the controller's select, an I2C memory, puts that are killed, messages counted at bufsiz 4096")
set(proof_of_line "the same with a GPIO line as select")
set(proof_of_messages "messages counted at bufsiz 65536")
set(proof_of_usb "an AVR of the simulator behind a USB to serial converter, on a real kernel")
foreach(part controller line messages usb)
    cm_check(NAME linux-${part} COMMAND linux ${part} SECONDS 120 NEEDS linux LABELS emulator PROVES "${proof_of_${part}}")
endforeach()

# --- fuzzing -------------------------------------------------------------------------------------------------------------
cm_check(NAME build-fuzz COMMAND build-fuzz GIVES fuzz PROCESSORS 2 LABELS build PROVES "the fuzz targets, by another compiler")
foreach(reader records capsule sfdp elf link player)
    cm_check(NAME fuzz-${reader} COMMAND fuzz ${reader} NEEDS fuzz LABELS fuzz PROVES "libFuzzer on `fuzz/fuzz_${reader}.c`, from the day's seed")
endforeach()

# --- text ----------------------------------------------------------------------------------------------------------------
cm_check(NAME format COMMAND format LABELS text PROVES "clang-format finds nothing to change")
cm_check(NAME reference COMMAND reference LABELS text PROVES "doxygen: the reference of the headers, without a warning")
cm_check(NAME spelling COMMAND spelling LABELS text PROVES "codespell")
cm_check(NAME analysis COMMAND analysis SECONDS 60 LABELS text PROVES "cppcheck")
cm_check(NAME proofs-table COMMAND table LABELS text PROVES "the table in tests/README.md names every test")
