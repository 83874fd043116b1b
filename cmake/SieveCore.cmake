# sieve_core(NAME [FAST] [SEPARATE] USES other-folders... LIBRARIES targets...) makes the library of
# core/NAME from all its sources. FAST: its loops run over millions of figures and are worth -O3, which
# takes a fifth longer to compile than the -O2 of the others. SEPARATE: what users run is compiled file
# by file, so that a change elsewhere in the folder leaves the machine code of a file, and so its
# measured speed, as they were.
# A folder links only the folders it names; tools/layering-check holds its includes to
# the order of core/CMakeLists.txt.
function(sieve_core name)
    cmake_parse_arguments(PARSE_ARGV 1 folder "FAST;SEPARATE" "" "USES;LIBRARIES")
    file(GLOB sources CONFIGURE_DEPENDS ${CMAKE_CURRENT_SOURCE_DIR}/*.cpp ${CMAKE_CURRENT_SOURCE_DIR}/*/*.cpp)
    add_library(sieve_${name} STATIC ${sources})
    list(TRANSFORM folder_USES PREPEND sieve_)
    target_link_libraries(sieve_${name} PUBLIC sieve_options ${folder_USES} ${folder_LIBRARIES})
    set_target_properties(sieve_${name} PROPERTIES UNITY_BUILD_BATCH_SIZE 12)
    target_compile_options(sieve_${name} PRIVATE $<$<CONFIG:Debug>:-O2>)
    if(NOT folder_FAST)
        target_compile_options(sieve_${name} PRIVATE $<$<CONFIG:Release>:-O2>)
    endif()
    if(folder_SEPARATE AND NOT SIEVE_SANITIZE)
        set_target_properties(sieve_${name} PROPERTIES UNITY_BUILD OFF)
        target_compile_options(sieve_${name} PRIVATE -Wshadow)
    endif()
    # Branches lead the fuzzer; to be told of every comparison of figures costs a third and tells it nothing.
    if(SIEVE_SANITIZE MATCHES "address" AND CMAKE_CXX_COMPILER_ID STREQUAL "Clang")
        target_compile_options(sieve_${name} PRIVATE
            -fsanitize=fuzzer-no-link -fno-sanitize-coverage=trace-cmp)
    endif()
endfunction()

# sieve_embed(TARGET NAMESPACE files...) compiles text files into TARGET as
# `std::span<const EmbeddedText> NAMESPACE::embeddedTexts()`, so that the program needs no files beside it.
function(sieve_embed target namespace)
    set(output ${CMAKE_CURRENT_BINARY_DIR}/embedded_texts.cpp)
    set_property(DIRECTORY APPEND PROPERTY CMAKE_CONFIGURE_DEPENDS ${ARGN})
    set(entries "")
    foreach(file IN LISTS ARGN)
        get_filename_component(name ${file} NAME)
        file(READ ${file} text)
        # A string literal may hold 64 KiB; pieces stay far below it.
        string(LENGTH "${text}" length)
        set(pieces "")
        set(at 0)
        while(at LESS length)
            string(SUBSTRING "${text}" ${at} 4000 piece)
            string(APPEND pieces "R\"~~~(${piece})~~~\"\n")
            math(EXPR at "${at} + 4000")
        endwhile()
        string(APPEND entries "    {\"${name}\",\n${pieces}},\n")
    endforeach()
    file(CONFIGURE OUTPUT ${output} @ONLY CONTENT
"// Made by cmake/SieveCore.cmake; edit the files it holds.
#include \"core/base/embedded_text.h\"
namespace ${namespace} {
std::span<const sieve::EmbeddedText> embeddedTexts()
{
    static const sieve::EmbeddedText texts[] = {
${entries}    };
    return texts;
}
} // namespace ${namespace}
")
    target_sources(${target} PRIVATE ${output})
endfunction()
