# The Debian package: `cpack -G DEB` in a build folder. One package: the tool, its man page and
# completion, the library with its headers.

find_program(GZIP gzip REQUIRED)

# What an installation and a package hold, without the tests.
add_custom_target(installed DEPENDS coldmint coldmint-capsule coldmint-player coldmint-ed25519 coldmint-link coldmint-host coldmint-ports coldmint-tool
    coldmint-man)

# Documents are compressed as Debian has them; -n leaves name and time out.
function(install_compressed source name destination)
    set(packed ${CMAKE_CURRENT_BINARY_DIR}/package/${name}.gz)
    add_custom_command(OUTPUT ${packed}
        COMMAND ${CMAKE_COMMAND} -E make_directory ${CMAKE_CURRENT_BINARY_DIR}/package
        COMMAND ${GZIP} -9nc ${source} > ${packed}
        DEPENDS ${source} VERBATIM)
    string(MAKE_C_IDENTIFIER pack-${name} target)
    add_custom_target(${target} ALL DEPENDS ${packed})
    add_dependencies(installed ${target})
    install(FILES ${packed} DESTINATION ${destination})
endfunction()

install_compressed(${CMAKE_CURRENT_SOURCE_DIR}/CHANGELOG.md changelog ${CMAKE_INSTALL_DATADIR}/doc/coldmint)
install_compressed(${CMAKE_CURRENT_SOURCE_DIR}/cmake/changelog.Debian changelog.Debian ${CMAKE_INSTALL_DATADIR}/doc/coldmint)
install(FILES ports/link/70-coldmint-probes.rules ports/linux/70-coldmint-pins.rules DESTINATION lib/udev/rules.d)
install(FILES LICENSE DESTINATION ${CMAKE_INSTALL_DATADIR}/doc/coldmint RENAME copyright)

set(CPACK_GENERATOR DEB)
set(CPACK_PACKAGE_NAME coldmint)
set(CPACK_PACKAGE_VERSION ${PROJECT_VERSION})
set(CPACK_DEBIAN_PACKAGE_RELEASE 1)
set(CPACK_DEBIAN_FILE_NAME DEB-DEFAULT)
set(CPACK_PACKAGING_INSTALL_PREFIX /usr)
set(CPACK_PACKAGE_CONTACT "The Cold Mint authors <authors@coldmint.example>")
set(CPACK_PACKAGE_DESCRIPTION_SUMMARY "programs chips in place")
set(CPACK_DEBIAN_PACKAGE_DESCRIPTION
    "Burns boot loaders, writes fuses and lock bits, checks signatures; backs up,
 unprotects, erases, writes and verifies SPI flash, EEPROMs and ROM memories.
 With the library that does so, for programs of one's own.")
set(CPACK_DEBIAN_PACKAGE_SECTION electronics)
set(CPACK_DEBIAN_PACKAGE_SHLIBDEPS ON)
set(CPACK_STRIP_FILES ON)
include(CPack)
