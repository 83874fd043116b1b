# One place for the language, the warnings and what makes figures the same on every machine.
set(CMAKE_CXX_STANDARD 20)
set(CMAKE_CXX_STANDARD_REQUIRED ON)
set(CMAKE_CXX_EXTENSIONS OFF)

add_library(sieve_options INTERFACE)
target_include_directories(sieve_options INTERFACE ${CMAKE_SOURCE_DIR})
target_compile_options(sieve_options INTERFACE
    -Wall -Wextra -Wpedantic -Wconversion -Werror
    # Of files that are compiled together, a name of one may be a local of another. The whole of -Wshadow
    # is asked where files are compiled alone: in build/dev (tools/check-long) and in SEPARATE folders.
    $<$<CXX_COMPILER_ID:GNU>:$<IF:$<BOOL:${CMAKE_UNITY_BUILD}>,-Wshadow=local,-Wshadow>>
    # GCC 12 reports this falsely for std::string + std::string (its bug 105651).
    $<$<CXX_COMPILER_ID:GNU>:-Wno-restrict>
    # A fused multiply-add rounds once where the plain path rounds twice: same bits everywhere matter more.
    -ffp-contract=off
    # Neither changes a figure; both let loops with comparisons and roots use vector instructions.
    -fno-trapping-math -fno-math-errno)

# One build serves the tests under the sanitizers and the fuzz targets: clang's sanitizers compile in
# two thirds of GCC's time, and the code is read by a second compiler. Without debug symbols the build
# takes a sixth less; functions are named all the same.
if(SIEVE_SANITIZE)
    set(CMAKE_CXX_FLAGS_SANITIZE "-O2 -fno-omit-frame-pointer") # clang's -O1 makes nothing inline
    add_compile_options(-fsanitize=${SIEVE_SANITIZE} -fno-sanitize-recover=all)
    add_link_options(-fsanitize=${SIEVE_SANITIZE})
    # clang 14 warns of what the standard means and GCC does not ask for.
    target_compile_options(sieve_options INTERFACE $<$<CXX_COMPILER_ID:Clang>:-Wno-missing-braces;-Wno-unused-private-field>)
endif()

find_program(CCACHE ccache)
if(CCACHE)
    set(CMAKE_CXX_COMPILER_LAUNCHER ${CCACHE})
endif()
