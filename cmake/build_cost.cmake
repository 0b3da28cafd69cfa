# What keeps builds short on two cores. What each of these is worth is measured in docs/development.md.
option(PYROMETER_UNITY "Compile the sources of one folder together: cheap from nothing, dear after a small change" OFF)

# Compilations are kept; those with a precompiled header too. Paths below the checkout do not count, so that another
# clone finds them.
find_program(CCACHE ccache)
if(CCACHE)
  set(CMAKE_CXX_COMPILER_LAUNCHER env CCACHE_SLOPPINESS=pch_defines,time_macros CCACHE_BASEDIR=${CMAKE_SOURCE_DIR} ${CCACHE})
endif()

find_program(MOLD mold)
if(MOLD)
  add_link_options(-fuse-ld=mold)
endif()

# What computes and draws is optimised as the preset says in PYROMETER_COMPUTE_FLAGS; the rest (window, command line, tests)
# gets the build type's flags. A precompiled header serves targets of the same flags only.
set(PYROMETER_COMPUTE_FLAGS "" CACHE STRING "Further compiler options for core, rig, render and benchmarks")
add_library(pyro_compute INTERFACE)
target_compile_options(pyro_compute INTERFACE ${PYROMETER_COMPUTE_FLAGS})

# The libraries' headers that most files of a layer include. None of ours: editing one would build its layer anew.
set(PCH_CORE <algorithm> <array> <charconv> <cmath> <filesystem> <fstream> <functional> <map> <memory> <numeric> <optional>
             <span> <string> <unordered_map> <variant> <vector> <fmt/format.h> <nlohmann/json.hpp> <tl/expected.hpp>
             <tbb/parallel_for.h> <tbb/parallel_reduce.h>)
set(PCH_RENDER ${PCH_CORE} <QImage> <QPainter> <vtkActor.h> <vtkCellArray.h> <vtkCellData.h> <vtkDoubleArray.h> <vtkNew.h>
               <vtkPointData.h> <vtkPolyData.h> <vtkPolyDataMapper.h> <vtkProperty.h> <vtkRenderer.h>)
set(PCH_APP ${PCH_CORE} <QtWidgets/QtWidgets>)
set(PCH_TESTS ${PCH_CORE} <gmock/gmock.h> <gtest/gtest.h>)
set(PCH_TESTS_APP ${PCH_APP} <QtTest/QtTest> <gtest/gtest.h>)

# pyro_build_cheaply(target [MOST n] PCH header... | PCH_OF_FILES header... | REUSE other): where PYROMETER_UNITY is on, the files of a
# folder compiled together, at most n (10) at once: all of a large folder would be dear after a small change. A name in an unnamed
# namespace is then one for its folder, so each says what it is the name of; folders of one or two files share one
# compilation. And a precompiled header: its own, or that of another target with the same compiler options.
# PCH_OF_FILES is for a target of one folder: compiled together it is one to three compilations, for which a precompiled
# header would cost more than it saves.
function(pyro_build_cheaply target)
  cmake_parse_arguments(ARG "" "REUSE;MOST" "PCH;PCH_OF_FILES" ${ARGN})
  if(NOT ARG_MOST)
    set(ARG_MOST 10)
  endif()
  get_target_property(sources ${target} SOURCES)
  foreach(source IN LISTS sources)
    get_filename_component(folder "${source}" DIRECTORY)
    string(MAKE_C_IDENTIFIER "${folder}_files" folder)
    list(APPEND files_${folder} ${source})
    list(APPEND folders ${folder})
  endforeach()
  list(REMOVE_DUPLICATES folders)
  foreach(folder IN LISTS folders)
    list(LENGTH files_${folder} count)
    if(count LESS 3)
      set_source_files_properties(${files_${folder}} PROPERTIES UNITY_GROUP ${target}_small)
      continue()
    endif()
    math(EXPR groups "(${count} + ${ARG_MOST} - 1) / ${ARG_MOST}")
    set(at 0)
    foreach(source IN LISTS files_${folder})
      math(EXPR group "${at} * ${groups} / ${count}")
      set_source_files_properties(${source} PROPERTIES UNITY_GROUP ${target}_${folder}_${group})
      math(EXPR at "${at} + 1")
    endforeach()
  endforeach()
  set_target_properties(${target} PROPERTIES UNITY_BUILD ${PYROMETER_UNITY} UNITY_BUILD_MODE GROUP)

  if(ARG_REUSE)
    target_precompile_headers(${target} REUSE_FROM ${ARG_REUSE})
  elseif(ARG_PCH)
    target_precompile_headers(${target} PRIVATE ${ARG_PCH})
  elseif(NOT PYROMETER_UNITY)
    target_precompile_headers(${target} PRIVATE ${ARG_PCH_OF_FILES})
  endif()
endfunction()
