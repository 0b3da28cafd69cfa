# Writes which commit the sources are of into a header, when it changed. Variables: SOURCE, OUTPUT.
cmake_minimum_required(VERSION 3.25)
include(${CMAKE_CURRENT_LIST_DIR}/commit_of.cmake)
commit_of(${SOURCE} commit)
file(CONFIGURE OUTPUT ${OUTPUT} @ONLY CONTENT "// Made at every build by cmake/write_commit.cmake.
#pragma once

namespace pyro::built {

inline constexpr const char* commit = \"${commit}\";

} // namespace pyro::built
")
