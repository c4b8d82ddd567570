# How the targets of Mileage are built. Nothing here touches a parent project.

if(PROJECT_IS_TOP_LEVEL AND NOT CMAKE_BUILD_TYPE AND NOT CMAKE_CONFIGURATION_TYPES)
  set(CMAKE_BUILD_TYPE Release CACHE STRING "" FORCE)
endif()

add_library(mileage_warnings INTERFACE)
# -Wrestrict is wrong about string concatenation in GCC 12; fields left out of a designated initialiser are meant to be.
target_compile_options(mileage_warnings INTERFACE -Wall -Wextra -Wshadow -Wnon-virtual-dtor -Wno-restrict
  -Wno-missing-field-initializers)

if(MILEAGE_FUZZ)
  add_compile_options(-fsanitize=fuzzer-no-link,address,undefined -fno-sanitize-recover=undefined
    -fno-omit-frame-pointer)
  add_link_options(-fsanitize=address,undefined)
elseif(MILEAGE_SANITIZE)
  add_compile_options(-fsanitize=address,undefined -fno-sanitize-recover=undefined -fno-omit-frame-pointer)
  add_link_options(-fsanitize=address,undefined)
endif()

# mileage_library(NAME SOURCES...): the static library mileage_NAME, known to users as mileage::NAME.
function(mileage_library name)
  add_library(mileage_${name} STATIC ${ARGN})
  add_library(mileage::${name} ALIAS mileage_${name})
  set_target_properties(mileage_${name} PROPERTIES EXPORT_NAME ${name} POSITION_INDEPENDENT_CODE ON)
  target_compile_features(mileage_${name} PUBLIC cxx_std_17 PRIVATE cxx_std_20)
  target_include_directories(mileage_${name} PUBLIC
    $<BUILD_INTERFACE:${PROJECT_SOURCE_DIR}/include> $<INSTALL_INTERFACE:include>)
  mileage_sees_internals(mileage_${name})
  target_link_libraries(mileage_${name} PRIVATE $<BUILD_INTERFACE:mileage_warnings>)
endfunction()

# mileage_objects(NAME SOURCES...): sources of a library that need flags or precompiled headers of their own.
function(mileage_objects name)
  add_library(mileage_${name} OBJECT ${ARGN})
  set_target_properties(mileage_${name} PROPERTIES POSITION_INDEPENDENT_CODE ON)
  target_include_directories(mileage_${name} PRIVATE ${PROJECT_SOURCE_DIR}/include)
  mileage_sees_internals(mileage_${name})
  target_link_libraries(mileage_${name} PRIVATE mileage_warnings)
endfunction()

# Headers of the standard library and of packages that most sources of a target include are compiled once.
function(mileage_precompile target)
  target_precompile_headers(${target} PRIVATE <algorithm> <cmath> <cstdint> <filesystem> <fstream> <functional> <map>
    <memory> <optional> <set> <sstream> <string> <vector> ${ARGN})
endfunction()

# Lets a target include internal headers, which are not installed.
function(mileage_sees_internals target)
  target_compile_features(${target} PRIVATE cxx_std_20)
  target_include_directories(${target} PRIVATE ${PROJECT_SOURCE_DIR}/src ${PROJECT_BINARY_DIR}/generated)
  # GCC collects its garbage from 512 MB on: a tenth less time, a tenth more memory.
  target_compile_options(${target} PRIVATE
    $<$<COMPILE_LANG_AND_ID:CXX,GNU>:SHELL:--param ggc-min-heapsize=524288>)
endfunction()

# Header-only packages that no user of the library needs.
function(mileage_use_headers_of target)
  foreach(package ${ARGN})
    target_link_libraries(${target} PRIVATE $<BUILD_INTERFACE:${package}>)
  endforeach()
endfunction()

# All festival variants share their flags, whatever the build type: optimised, free of errno in the mathematics, and
# without contraction, so that every variant computes the same numbers. Their sources are never joined: what the
# compiler sees of one variant must not change with the way of building.
function(mileage_compile_as_measured_work target)
  set(flags -O3 -fno-math-errno -ffp-contract=off)
  if(MILEAGE_ARCH)
    list(APPEND flags -march=${MILEAGE_ARCH})
  endif()
  list(JOIN flags " " text)
  target_compile_options(${target} PRIVATE ${flags})
  target_compile_definitions(${target} PRIVATE MILEAGE_FESTIVAL_FLAGS="${text}")
  set_target_properties(${target} PROPERTIES UNITY_BUILD OFF)
endfunction()

# mileage_count_lines(LIBRARY HEADER NAMESPACE FOLDER [NAME FILES...]...): a header of the build folder that tells the
# library how many lines of code the files of each name have.
function(mileage_count_lines library header namespace folder)
  set(sizes "")
  set(all "")
  foreach(item ${ARGN})
    if(item MATCHES "[.]")
      string(APPEND sizes ",${item}")
      list(APPEND all ${item})
    else()
      string(APPEND sizes "|${item}=")
    endif()
  endforeach()
  list(REMOVE_DUPLICATES all)
  list(TRANSFORM all PREPEND ${PROJECT_SOURCE_DIR}/${folder}/)
  add_custom_command(OUTPUT ${PROJECT_BINARY_DIR}/${header}
    COMMAND ${CMAKE_COMMAND} -DOUT=${PROJECT_BINARY_DIR}/${header} -DNAMESPACE=${namespace} "-DSIZES=${sizes}"
      -DFOLDER=${PROJECT_SOURCE_DIR}/${folder} -P ${PROJECT_SOURCE_DIR}/cmake/CountLines.cmake
    DEPENDS ${all} ${PROJECT_SOURCE_DIR}/cmake/CountLines.cmake VERBATIM
    COMMENT "Counting the lines of ${folder}")
  target_sources(mileage_${library} PRIVATE ${PROJECT_BINARY_DIR}/${header})
endfunction()
