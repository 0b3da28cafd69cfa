// The outer faces of a part: those that only one of its cells has, of curved cells as the straight pieces between their
// nodes. Surface parts are their own shell.
#pragma once

#include "core/case/case.h"

namespace pyro {

struct Shell {
    std::vector<std::uint32_t> nodes;   // node numbers of the part, face after face, ring order
    std::vector<std::uint32_t> offsets; // faces + 1 entries
    std::vector<std::uint32_t> cell;    // the face's cell
};

struct ShellView {
    std::span<const std::uint32_t> nodes;
    std::span<const std::uint32_t> offsets;
    std::span<const std::uint32_t> cell;

    std::size_t faces() const { return cell.size(); }
    std::span<const std::uint32_t> face(std::size_t at) const {
        return nodes.subspan(offsets[at], offsets[at + 1] - offsets[at]);
    }
};

// Faces sorted by their cell. Works for every stored cell type; two cells share a face when they name the same
// corner nodes. Of a plane case those that stand for edges: through the plane itself no heat flows, it is no boundary.
Shell outerFaces(const Region& part, bool plane = false);
// What outerFaces leaves out of a plane case, on the side of the file's nodes: its cells as faces in the plane, facing
// along its normal.
Shell facesInPlane(const Region& part);

} // namespace pyro
