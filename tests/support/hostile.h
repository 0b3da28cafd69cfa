// Broken and hostile case files, made anew for each test, and what must come of each.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

namespace pyro::test {

struct HostileFile {
    std::string name;
    std::filesystem::path file;
    std::vector<std::string> errors; // codes one of which must be reported; empty: the case opens ...
    std::string remark;              // ... with this remark
};

// At least thirty files below `folder`.
std::vector<HostileFile> makeHostileFiles(const std::filesystem::path& folder);

// A small sound case, with a part "block" of 300 to 301 K in one hexahedron.
std::string soundGrid();

} // namespace pyro::test
