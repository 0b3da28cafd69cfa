// The outer faces of all parts of a case, kept beside its store: all that a first picture needs of the mesh.
#pragma once

#include "core/feedback/progress.h"
#include "core/field/shell.h"

namespace pyro {

struct CaseShells {
    std::vector<ShellView> parts;
    std::shared_ptr<const ArrayFile> file; // what `parts` point into
};

// The shells from beside the store, or made and put there. Errors: Cancelled, WriteFailed.
Result<std::shared_ptr<const CaseShells>> shellsOf(const Case& solved, Progress& progress);

} // namespace pyro
