# Run by CPack before it packs: a source archive carries the commit that it was made of, since it has no history.
if(CPACK_SOURCE_INSTALLED_DIRECTORIES OR CPACK_INSTALLED_DIRECTORIES)
  list(GET CPACK_INSTALLED_DIRECTORIES 0 source)
  execute_process(COMMAND git -C ${source} describe --always --dirty=+changes --abbrev=12 --exclude=*
                  OUTPUT_VARIABLE commit OUTPUT_STRIP_TRAILING_WHITESPACE)
  file(GLOB top ${CPACK_TEMPORARY_DIRECTORY}/*/CMakeLists.txt ${CPACK_TEMPORARY_DIRECTORY}/CMakeLists.txt)
  foreach(file IN LISTS top)
    get_filename_component(folder ${file} DIRECTORY)
    if(EXISTS ${folder}/packages.txt)
      file(WRITE ${folder}/COMMIT "${commit}\n")
    endif()
  endforeach()
endif()
