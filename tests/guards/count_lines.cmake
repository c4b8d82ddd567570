# Counts the lines of two files made here, and looks for the number in the header.
#   cmake -DCOUNT=CountLines.cmake -DFOLDER=a folder to write to -P count_lines.cmake
file(WRITE ${FOLDER}/one.h "// a comment\n\n#pragma once\nint a[2] = {1, 2};  // code with a comment\n   \t\n")
file(WRITE ${FOLDER}/two.cpp "int b() {\n  /// a comment\n  return a[1] / 2;\n}\n")
execute_process(COMMAND ${CMAKE_COMMAND} -DOUT=${FOLDER}/sizes.h -DNAMESPACE=sizes
  "-DSIZES=|one=,one.h|both=,one.h,two.cpp" -DFOLDER=${FOLDER} -P ${COUNT} RESULT_VARIABLE code)
file(READ ${FOLDER}/sizes.h text)
if(NOT code EQUAL 0 OR NOT text MATCHES "one = 2;" OR NOT text MATCHES "both = 5;")
  message(FATAL_ERROR "counted otherwise:\n${text}")
endif()
