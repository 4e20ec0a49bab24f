# What every target of the house shares: warnings, sanitizers, and faster tools where they are present.

find_program(OTTERSTONE_CCACHE ccache)
if(OTTERSTONE_CCACHE)
  # Without these two ccache neither keeps nor uses what is compiled with a precompiled header.
  set(CMAKE_CXX_COMPILER_LAUNCHER "${CMAKE_COMMAND}" -E env CCACHE_SLOPPINESS=pch_defines,time_macros "${OTTERSTONE_CCACHE}")
endif()
find_program(OTTERSTONE_MOLD mold)
if(OTTERSTONE_MOLD)
  add_link_options(-fuse-ld=mold)
endif()

add_link_options(-Wl,--as-needed) # a program starts with the libraries that it calls, and no more

add_library(otterstone_house INTERFACE)
target_compile_options(otterstone_house INTERFACE -Wall -Wextra -Wpedantic -Wconversion -Wshadow
  $<$<BOOL:${OTTERSTONE_WERROR}>:-Werror>)
# g++ 12 sees overlapping copies in `"text" + std::string` that are not there (GCC bug 105329).
target_compile_options(otterstone_house INTERFACE $<$<CXX_COMPILER_ID:GNU>:-Wno-restrict>)
# Core and logs are Qt-free; elsewhere these keep text conversions in sight.
target_compile_definitions(otterstone_house INTERFACE QT_NO_CAST_TO_ASCII QT_NO_URL_CAST_FROM_STRING)
# What libstdc++ can check at little cost: an empty optional that is asked for its value, an index past the end. It ends
# the program there instead of going on with whatever lies in memory.
add_compile_definitions(_GLIBCXX_ASSERTIONS)
# OTTERSTONE_SANITIZE: what to watch for, "address,undefined" or "thread". The first thing found ends the program.
if(OTTERSTONE_SANITIZE)
  add_compile_options(-fsanitize=${OTTERSTONE_SANITIZE} -fno-sanitize-recover=all)
  add_link_options(-fsanitize=${OTTERSTONE_SANITIZE})
  if(OTTERSTONE_SANITIZE STREQUAL thread)
    add_compile_options(-include "${PROJECT_SOURCE_DIR}/cmake/tsan_qt.h")
  endif()
endif()
if(OTTERSTONE_FUZZ)
  add_compile_options(-fsanitize=fuzzer-no-link)
endif()

# What the window and its measurements ask for memory: findings are many small pieces, and both cores ask at once. First
# in what a program links, so that everything in it asks the same; sanitizers bring their own.
add_library(otterstone_memory INTERFACE)
if(NOT OTTERSTONE_SANITIZE AND NOT OTTERSTONE_FUZZ)
  target_link_libraries(otterstone_memory INTERFACE mimalloc)
endif()

# A folder's sources are compiled together where CMAKE_UNITY_BUILD says so: headers are read once a folder, which is most of what
# compiling takes. Without it (preset debug) each file is compiled by itself, as one wants while changing it.
function(otterstone_together)
  foreach(source IN LISTS ARGN)
    cmake_path(GET source PARENT_PATH folder)
    cmake_path(RELATIVE_PATH folder BASE_DIRECTORY "${PROJECT_SOURCE_DIR}/src")
    string(REPLACE "/" "_" group "${folder}")
    set_source_files_properties("${source}" PROPERTIES UNITY_GROUP "${group}")
  endforeach()
endfunction()

# otterstone_folder(<target> <link libraries...>): one static library from all sources of the calling folder.
function(otterstone_folder target)
  file(GLOB_RECURSE sources CONFIGURE_DEPENDS "${CMAKE_CURRENT_SOURCE_DIR}/*.cpp" "${CMAKE_CURRENT_SOURCE_DIR}/*.h")
  list(FILTER sources EXCLUDE REGEX "/(main|screenshots)\\.cpp$")
  add_library(${target} STATIC ${sources})
  set_target_properties(${target} PROPERTIES UNITY_BUILD_MODE GROUP)
  otterstone_together(${sources})
  target_include_directories(${target} PUBLIC "${PROJECT_SOURCE_DIR}/src")
  target_link_libraries(${target} PUBLIC ${ARGN} PRIVATE otterstone_house)
endfunction()
