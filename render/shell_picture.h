// The outer shell of a whole assembly: outer faces that no other part covers, without what lies within.
#pragma once

#include "core/field/opened_case.h"

namespace pyro {

struct ShellPicture {
    std::vector<float> points;           // 3 per node
    std::vector<std::int32_t> triangles; // 3 nodes each
    std::vector<std::uint32_t> edges;    // 2 nodes each: where faces meet at more than 30 degrees or end
};

// Faces hang together by their nodes within a part; a piece whose box lies in that of another one is within it.
ShellPicture makeShell(const OpenedCase& opened);

} // namespace pyro
