# commit_of(source variable): which commit the sources are of: that of the checkout, else the one that a source archive
# carries in the file COMMIT, else "unknown".
function(commit_of source variable)
  set(commit "unknown")
  if(EXISTS ${source}/.git)
    execute_process(COMMAND git -C ${source} describe --always --dirty=+changes --abbrev=12 --exclude=*
                    OUTPUT_VARIABLE told OUTPUT_STRIP_TRAILING_WHITESPACE ERROR_QUIET RESULT_VARIABLE status)
    if(status EQUAL 0)
      set(commit ${told})
    endif()
  elseif(EXISTS ${source}/COMMIT)
    file(STRINGS ${source}/COMMIT commit LIMIT_COUNT 1)
  endif()
  set(${variable} ${commit} PARENT_SCOPE)
endfunction()
