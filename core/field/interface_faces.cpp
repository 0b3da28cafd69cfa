#include "core/field/interface_faces.h"

#include "core/field/face_lookup.h"

#include <algorithm>
#include <tbb/parallel_for.h>

namespace pyro {
namespace {

constexpr double sameWithin = 1e-6; // of a face's size: so far corners that coincide, and with them the centroids, may lie apart

struct GrownBox {
    Point low{1e300, 1e300, 1e300};
    Point high{-1e300, -1e300, -1e300};
    void add(const Point& at) {
        for (std::size_t axis = 0; axis < 3; ++axis) {
            low[axis] = std::min(low[axis], at[axis]);
            high[axis] = std::max(high[axis], at[axis]);
        }
    }
    bool holds(const Point& at, double slack) const {
        for (std::size_t axis = 0; axis < 3; ++axis)
            if (at[axis] < low[axis] - slack || at[axis] > high[axis] + slack)
                return false;
        return true;
    }
};

// The shortest diagonal or edge reach of a face: what its corners may differ by is measured against it.
double sizeOf(const Mesh& mesh, std::span<const std::uint32_t> nodes) {
    double most = 0;
    for (const auto node : nodes)
        most = std::max(most, squaredDistance(mesh.node(node), mesh.node(nodes[0])));
    return std::sqrt(most);
}

} // namespace

std::vector<std::uint32_t> touchingFaces(const Case& solved, std::span<const ShellView> shells, std::uint32_t first, std::uint32_t second) {
    const auto& mesh = solved.parts[first].mesh;
    GrownBox other;
    for (const auto node : shells[second].nodes)
        other.add(solved.parts[second].mesh.node(node));
    std::vector<std::uint32_t> near;
    double smallest = 1e300;
    for (std::uint32_t face = 0; face < shells[first].faces(); ++face) {
        const auto nodes = shells[first].face(face);
        const double size = sizeOf(mesh, nodes);
        if (size <= 0 || !other.holds(centroid(mesh, nodes), 1e-6 * size))
            continue;
        near.push_back(face);
        smallest = std::min(smallest, size);
    }
    if (near.empty())
        return near;
    const FaceLookup lookup(solved, shells, 0.1 * smallest, second);
    std::erase_if(near, [&](std::uint32_t face) {
        const auto nodes = shells[first].face(face);
        bool touches = false;
        const double slack = sameWithin * sizeOf(mesh, nodes);
        lookup.near(centroid(mesh, nodes), 2 * slack, [&](PartFace candidate) { touches = touches || lookup.coincides(mesh, nodes, candidate, slack); });
        return !touches;
    });
    return near;
}

std::vector<std::vector<TwinFace>> twinFaces(const Case& solved, std::span<const ShellView> shells) {
    std::vector<std::vector<TwinFace>> twins(shells.size());
    double smallest = 1e300;
    for (std::size_t part = 0; part < shells.size(); ++part)
        for (std::size_t face = 0; face < shells[part].faces(); ++face)
            if (const double size = sizeOf(solved.parts[part].mesh, shells[part].face(face)); size > 0)
                smallest = std::min(smallest, size);
    const FaceLookup lookup(solved, shells, 0.1 * smallest);
    for (std::uint32_t part = 0; part < shells.size(); ++part) {
        const auto& mesh = solved.parts[part].mesh;
        twins[part].resize(shells[part].faces());
        tbb::parallel_for(tbb::blocked_range<std::uint32_t>(0, static_cast<std::uint32_t>(shells[part].faces()), 1 << 11), [&](const auto& chunk) {
            for (auto face = chunk.begin(); face != chunk.end(); ++face) {
                const auto nodes = shells[part].face(face);
                const double slack = sameWithin * sizeOf(mesh, nodes);
                lookup.near(centroid(mesh, nodes), 2 * slack, [&](PartFace candidate) {
                    if (candidate.part != part && lookup.coincides(mesh, nodes, candidate, slack))
                        twins[part][face] = {candidate.part, candidate.face};
                });
            }
        });
    }
    return twins;
}

} // namespace pyro
