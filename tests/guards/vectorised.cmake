# Compiles a source as the festival does, asks the compiler which loops it vectorised, and looks for the loop that is
# marked in it, or in a header that it includes. Also fails when the mark is gone.
#   cmake -DCOMPILER= -DSOURCE= -DMARKED= -DINCLUDES=a;b -DFLAGS= -DWANTED=ON|OFF -P vectorised.cmake
file(STRINGS ${MARKED} lines)
set(number 0)
set(marked 0)
foreach(line IN LISTS lines)
  math(EXPR number "${number} + 1")
  if(line MATCHES "this loop must be vectorised")
    set(marked ${number})
  endif()
endforeach()
if(marked EQUAL 0)
  message(FATAL_ERROR "no loop is marked in ${MARKED}")
endif()

separate_arguments(flags UNIX_COMMAND "${FLAGS}")
list(TRANSFORM INCLUDES PREPEND -I)
execute_process(COMMAND ${COMPILER} -std=c++20 ${flags} ${INCLUDES} -fopt-info-vec-optimized -c ${SOURCE}
  -o ${CMAKE_CURRENT_BINARY_DIR}/vectorised.o
  RESULT_VARIABLE code ERROR_VARIABLE report)
if(NOT code EQUAL 0)
  message(FATAL_ERROR "does not compile: ${report}")
endif()
get_filename_component(name ${MARKED} NAME)
string(REGEX MATCH "${name}:${marked}:[0-9]+: optimized: loop vectorized" found "${report}")
if(WANTED AND NOT found)
  message(FATAL_ERROR "line ${marked} of ${name} is not vectorised; the compiler reports:\n${report}")
elseif(NOT WANTED AND found)
  message(FATAL_ERROR "line ${marked} of ${name} is vectorised, although these flags should not allow it")
endif()
