# The rooms of core: one folder, one static library, with the rooms it needs stated where it is made. What is stated is
# written to rooms.txt in the build folder; tests/layers holds the includes of the sources and the README against it.
file(WRITE ${CMAKE_BINARY_DIR}/rooms.txt "")

# pyro_room(name NEEDS room... [LIBRARIES target...]): pyro_<name> from every source in the folder of that name. A file
# that is added is found by itself. LIBRARIES are the room's own and go no further.
function(pyro_room name)
  cmake_parse_arguments(ARG "" "" "NEEDS;LIBRARIES" ${ARGN})
  file(GLOB sources CONFIGURE_DEPENDS RELATIVE ${CMAKE_CURRENT_SOURCE_DIR} ${name}/*.cpp ${name}/*/*.cpp ${name}/*/*/*.cpp)
  list(FILTER sources EXCLUDE REGEX "^case/(readers|writers)/") # libraries of their own: VTK goes no further
  add_library(pyro_${name} STATIC ${sources})
  if(name STREQUAL "feedback")
    pyro_build_cheaply(pyro_${name} PCH ${PCH_CORE})
  else()
    pyro_build_cheaply(pyro_${name} REUSE pyro_feedback)
  endif()
  list(TRANSFORM ARG_NEEDS PREPEND pyro_ OUTPUT_VARIABLE needed)
  target_link_libraries(pyro_${name} PUBLIC pyro_foundation ${needed} PRIVATE pyro_compute ${ARG_LIBRARIES})
  list(JOIN ARG_NEEDS " " needs)
  file(APPEND ${CMAKE_BINARY_DIR}/rooms.txt "${name}: ${needs}\n")
  target_link_libraries(pyro_core INTERFACE pyro_${name})
endfunction()
