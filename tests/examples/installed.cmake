# Installs the build into a fresh prefix, builds the example projects against it with find_package, and runs them as
# a user would: measure, then ask.
file(REMOVE_RECURSE ${WORK})
file(MAKE_DIRECTORY ${WORK})
set(ENV{MILEAGE_STATE} ${WORK}/state)

function(run folder expected)
  execute_process(COMMAND ${ARGN} WORKING_DIRECTORY ${folder} RESULT_VARIABLE code
    OUTPUT_VARIABLE out ERROR_VARIABLE err)
  if(NOT code EQUAL 0)
    message(FATAL_ERROR "'${ARGN}' ended with ${code}:\n${out}\n${err}")
  endif()
  if(NOT "${out}" MATCHES "${expected}")
    message(FATAL_ERROR "'${ARGN}' does not print '${expected}':\n${out}\n${err}")
  endif()
endfunction()

function(build_example name)
  set(flags "")
  if(SANITIZE)
    set(flags "-DCMAKE_CXX_FLAGS=-fsanitize=address,undefined")
  endif()
  run(${WORK} "" ${CMAKE_COMMAND} -S ${SOURCE}/examples/${name} -B ${WORK}/${name} -DCMAKE_PREFIX_PATH=${WORK}/prefix
    -DCMAKE_CXX_COMPILER=${COMPILER} ${flags})
  run(${WORK} "" ${CMAKE_COMMAND} --build ${WORK}/${name})
endfunction()

run(${WORK} "" ${CMAKE_COMMAND} --install ${BUILD} --prefix ${WORK}/prefix)

# The study that comes along is found without a path.
run(${WORK} "At 100k lanterns: jobs" ${WORK}/prefix/bin/mileage cost demo)

# No internal header and no third-party header is promised.
file(GLOB_RECURSE installed RELATIVE ${WORK}/prefix/include ${WORK}/prefix/include/*)
file(GLOB_RECURSE public RELATIVE ${SOURCE}/include ${SOURCE}/include/*)
if(NOT "${installed}" STREQUAL "${public}")
  message(FATAL_ERROR "installed headers are not the public ones: ${installed}")
endif()

build_example(own_variant)
set(rings ${WORK}/own_variant/rings)
run(${WORK} "rings on the water" ${rings} list)
run(${WORK} "2 blocks, [0-9]+ runs"
  ${rings} measure --counts 100..10k --points 5 --blocks 2 --frames 5 -o rings.study.jsonl)
run(${WORK} "\"variant\": \"columns\"" ${rings} curve rings.study.jsonl --json)

build_example(long_main)
set(quay ${WORK}/long_main/quay)
run(${WORK} "after 10 s the torches have 50.0 s left" ${quay})
run(${WORK} "2 blocks, [0-9]+ runs"
  ${WORK}/prefix/bin/mileage measure --program ${quay} --counts 100,1k,10k --blocks 2
  --frames 5 -o quay.study.jsonl)

# A game that takes one header along and links nothing.
build_example(night_game)
set(game ${WORK}/night_game/night_game)
run(${WORK} "500 lanterns are alight" ${game} --lanterns 500 --frames 60 --table night.csv)
run(${WORK} "imported [0-9]+ frames, 1 run, 1 variant at 1 count"
  ${WORK}/prefix/bin/mileage import night.csv -o night.study.jsonl)
