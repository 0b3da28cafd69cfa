// The plane elements that a thermal bridge disturbs, found far from it: where a straight way through the layers from
// one environment to the other carries just the heat that the layers by themselves would let through.
#pragma once

#include "core/envelope/environments.h"
#include "core/envelope/plane_layers.h"

namespace pyro {

enum class Dimensions { Internal, External, OverallInternal };
std::string_view dimensionsText(Dimensions dimensions); // "internal", "external", "overall_internal"

// The direction in which a model is one cell deep and its extent there, m.
struct Depth {
    std::size_t axis = 2;
    double metres = 0;
};
// Nothing for a model of several cells along every axis. Of several such axes z comes first, then y.
std::optional<Depth> depthOf(const Case& solved, const CaseIndex& index);

struct Flank {
    PlaneElement element;        // with the surface resistances of its environments
    std::array<Point, 2> line{}; // from the surface at the first environment to that at the second
    double deviation = 0;        // of the heat flux there from U times the temperature difference, as a share
    double internal = 0;         // m2, by internal dimensions, and so on
    double external = 0;
    double overallInternal = 0;

    double transmittance() const { return pyro::transmittance(element); }
    double size(Dimensions dimensions) const { // m2
        return dimensions == Dimensions::Internal   ? internal
               : dimensions == Dimensions::External ? external
                                                    : overallInternal;
    }
    std::string text() const; // "plaster 15 mm 0.7 W/(m.K), brick 240 mm 0.99 W/(m.K)"
};

// Between two sides, each one or several environments of one temperature. An element counts as undisturbed where the
// flux deviates by at most 2 %. Internal dimensions are the surface itself; external and overall internal ones run
// along the outer and inner planes from the cut-off to where they meet the plane of another element, ISO 13789, 4.4 and
// ISO 14683, 4.2. What lies beyond the ends of a surface that is the only one counts up to the end of the model.
// Errors: NotSupported when there is none, when a surface that reaches the end of the model is disturbed there, and
// when two elements share a surface with something else between them: then they have to be given, nothing is guessed.
Result<std::vector<Flank>> flanksBetween(const CaseHeat& heat, std::span<const Environment> inside,
                                         std::span<const Environment> outside);

} // namespace pyro
