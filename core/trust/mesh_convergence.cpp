#include "core/trust/checks.h"

#include <fmt/format.h>

namespace pyro {
namespace {

// Several meshes are held against each other once all of them have been evaluated, see core/compare/grids.h.
void meshConvergenceAnswer(const TrustInput& input, Check& check) {
    check.state = CheckState::NotCheckable;
    check.figure = input.meshes > 1 ? fmt::format("{} meshes, not all of them evaluated", input.meshes)
                                    : "a single mesh";
    if (input.meshes <= 1)
        check.meaning += " Open the same case on two coarser meshes and hold them against each other (Compare, Grid "
                         "convergence).";
}

} // namespace

// The threshold: common practice, no source.
constexpr CheckKind meshConvergenceCheck{
    .key = "mesh-convergence",
    .title = "The result does not depend on the mesh",
    .threshold = "every gauge and limit converges, grid convergence index below 5 %",
    .meaning = "On a single mesh it is unknown how far its fineness has the values off.",
    .answer = meshConvergenceAnswer,
};

} // namespace pyro
