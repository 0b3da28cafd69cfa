# Writes which commit the sources are of into a header, when it changed: that of the checkout, else the one that a source
# archive carries in the file COMMIT. Variables: SOURCE, OUTPUT.
cmake_minimum_required(VERSION 3.25)
set(commit "unknown")
if(EXISTS ${SOURCE}/.git)
  execute_process(COMMAND git -C ${SOURCE} describe --always --dirty=+changes --abbrev=12 --exclude=*
                  OUTPUT_VARIABLE told OUTPUT_STRIP_TRAILING_WHITESPACE ERROR_QUIET RESULT_VARIABLE status)
  if(status EQUAL 0)
    set(commit ${told})
  endif()
elseif(EXISTS ${SOURCE}/COMMIT)
  file(STRINGS ${SOURCE}/COMMIT commit LIMIT_COUNT 1)
endif()
file(CONFIGURE OUTPUT ${OUTPUT} @ONLY CONTENT "// Made at every build by cmake/write_commit.cmake.
#pragma once

namespace pyro::built {

inline constexpr const char* commit = \"${commit}\";

} // namespace pyro::built
")
