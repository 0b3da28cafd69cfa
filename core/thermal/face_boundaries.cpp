#include "core/thermal/face_boundaries.h"

namespace pyro {

std::vector<std::uint32_t> boundariesOfFaces(const CaseHeat& heat, std::uint32_t part, Boundaries which) {
    const auto& index = heat.fields().index();
    std::vector<std::uint32_t> out(index.parts[part].shell.faces(), noNumber);
    for (std::uint32_t boundary = 0; boundary < heat.fields().solved().passable(); ++boundary) {
        if (which == Boundaries::Named && heat.fields().solved().boundaries[boundary].patchOf)
            continue;
        const auto& faces = heat.shellFaces(boundary);
        for (std::size_t i = 0; i < faces.size(); ++i)
            if (faces[i] != noNumber && index.boundaries[boundary].part[i] == part)
                out[faces[i]] = boundary;
    }
    return out;
}

} // namespace pyro
