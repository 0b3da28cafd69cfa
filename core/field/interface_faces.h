// The faces in which two parts touch.
#pragma once

#include "core/field/shell.h"

namespace pyro {

// Faces of the first part's shell that have a twin in the second's: all corners agree within 1e-6 of the face's size,
// or where faces are of another order those of the cells' whole faces. Meshes that do not match there have none.
std::vector<std::uint32_t> touchingFaces(const Case& solved, std::span<const ShellView> shells, std::uint32_t first,
                                         std::uint32_t second);

// For every face of every shell the face of another part that coincides with it; part ~0 where there is none.
struct TwinFace {
    std::uint32_t part = ~0U;
    std::uint32_t face = ~0U;
    // of another order: faces of the other shell, from this one on, that together are the other side
    std::uint32_t count = 1;
    bool piece = false; // whether the face itself is only one of several that the other side is one with
};
std::vector<std::vector<TwinFace>> twinFaces(const Case& solved, std::span<const ShellView> shells);

} // namespace pyro
