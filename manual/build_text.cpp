#include "core/program/program.h"
#include "manual/built.h"
#include "manual/commit.h"
#include "manual/manual.h"

#include <fmt/format.h>

namespace pyro {

std::string versionText() { return fmt::format("{} ({})", programVersion(), built::commit); }

std::string buildText() {
    return fmt::format("Pyrometer {}\ncommit: {}\ncompiler: {}\nlibraries: {}", programVersion(), built::commit,
                       built::compiler, built::libraries);
}

} // namespace pyro
