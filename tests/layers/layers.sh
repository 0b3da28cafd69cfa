#!/usr/bin/env bash
# The layers of the README: who may include what. Argument: the project's folder.
set -u
cd "$1" || exit 2
failed=0
forbid() { # what, pattern, folders...
    local what=$1 pattern=$2
    shift 2
    local hits
    hits=$(grep -rnE "$pattern" "$@" --include=*.h --include=*.cpp)
    [ -z "$hits" ] && return
    printf '%s:\n%s\n' "$what" "$hits"
    failed=1
}
forbid "Qt in a layer that is free of it" '#include [<"]Q' core rig cli manual
forbid "an include upwards" '#include "(app|cli|render|rig|manual)/' core
forbid "an include upwards" '#include "(app|cli|render|manual)/' $(find rig -name '*.*' ! -name main.cpp)
forbid "an include upwards" '#include "(app|cli|pages|render|rig|charts)/' manual
forbid "an include upwards" '#include "(app|cli|pages|charts)/' render
forbid "an include upwards" '#include "(app|cli|pages)/' charts
forbid "an include upwards" '#include "(app|cli)/' pages
forbid "widgets in render" '#include <Q(Widget|Application|Push|Label|MainWindow|Dialog)' render
forbid "VTK outside readers and writers" '#include <vtk' $(find core -mindepth 1 -maxdepth 1 -type d ! -name case)
[ -d core/case/readers ] && forbid "VTK outside readers and writers" '#include <vtk' core/case/*.h core/case/*.cpp
forbid "a modal dialog that tests cannot answer; use app/session/dialogs" 'QFileDialog|QMessageBox|QInputDialog' \
    $(find app -type f ! -name 'dialogs.*')
exit $failed
