# Run after a test program is linked: asks it for its suites (GoogleTest's --gtest_list_tests) and writes a CTest file with
# one test for each, so that they run side by side. One process per suite, not per test: a window's first picture
# costs a second, the next ones a fraction of it.
# Variables: PROGRAM, NAME (prefix of the tests), WRAPPER (script and its options), OUTPUT, SLOW ("Suite=seconds" list).
string(REPLACE "|" " " WRAPPER "${WRAPPER}")
string(REPLACE "|" ";" SLOW "${SLOW}")
execute_process(COMMAND ${PROGRAM} --gtest_list_tests OUTPUT_VARIABLE listed RESULT_VARIABLE status)
if(NOT status EQUAL 0)
  message(FATAL_ERROR "${PROGRAM} could not list its tests (${status})")
endif()
string(REGEX MATCHALL "(^|\n)[A-Za-z][A-Za-z0-9_/]*\\." suites "${listed}")
set(text "")
foreach(suite IN LISTS suites)
  string(REGEX REPLACE "[\n.]" "" suite "${suite}")
  string(APPEND text "add_test([[${NAME}.${suite}]] ${WRAPPER} ${PROGRAM} [[--gtest_filter=${suite}.*]])\n")
  foreach(slow IN LISTS SLOW)
    if(slow MATCHES "^${suite}=([0-9]+)$")
      string(APPEND text "set_tests_properties([[${NAME}.${suite}]] PROPERTIES LABELS slow COST ${CMAKE_MATCH_1})\n")
    endif()
  endforeach()
endforeach()
file(WRITE ${OUTPUT} "${text}")
