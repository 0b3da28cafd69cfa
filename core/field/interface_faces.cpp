#include "core/field/interface_faces.h"

#include "core/field/face_lookup.h"
#include "core/field/straight_pieces.h"
#include "core/field/whole_faces.h"

#include <algorithm>
#include <tbb/parallel_for.h>

namespace pyro {
namespace {

// of a face's size: so far corners that coincide, and with them the centroids, may lie apart
constexpr double sameWithin = 1e-6;

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

// Whole faces that coincide with one of another part which is divided otherwise: use(face, other). `left`: whether a
// face may still have a partner.
template <class Left, class Use>
void forOtherOrder(const Case& solved, std::span<const ShellView> shells, Left left, Use use) {
    if (std::ranges::none_of(solved.parts,
                             [](const Region& part) { return part.dimension == 3 && hasCurved(part.mesh); }))
        return;
    auto faces = wholeFaces(solved, shells);
    std::erase_if(faces, [&](const WholeFace& face) { return !left(face); });
    const WholeFaceLookup lookup(solved, std::move(faces));
    for (const auto& face : lookup.faces())
        if (const auto* other = lookup.find(
                placesOf(solved.parts[face.part].mesh, face.corners),
                [&](const WholeFace& one) { return one.part != face.part && one.count != face.count; }))
            use(face, *other);
}

} // namespace

std::vector<std::uint32_t> touchingFaces(const Case& solved, std::span<const ShellView> shells, std::uint32_t first,
                                         std::uint32_t second) {
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
    if (!near.empty()) {
        const FaceLookup lookup(solved, shells, 0.1 * smallest, second);
        std::erase_if(near, [&](std::uint32_t face) {
            const auto nodes = shells[first].face(face);
            bool touches = false;
            const double slack = sameWithin * sizeOf(mesh, nodes);
            lookup.near(centroid(mesh, nodes), 2 * slack, [&](PartFace candidate) {
                touches = touches || lookup.coincides(mesh, nodes, candidate, slack);
            });
            return !touches;
        });
    }
    const auto exact = near.size();
    const auto left = [&](const WholeFace& face) {
        return face.part == second ||
               (face.part == first &&
                !std::binary_search(near.begin(), near.begin() + static_cast<std::ptrdiff_t>(exact), face.first));
    };
    forOtherOrder(solved, shells, left, [&](const WholeFace& face, const WholeFace&) {
        for (std::uint32_t i = 0; face.part == first && i < face.count; ++i)
            near.push_back(face.first + i);
    });
    std::ranges::sort(near);
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
        tbb::parallel_for(
            tbb::blocked_range<std::uint32_t>(0, static_cast<std::uint32_t>(shells[part].faces()), 1 << 11),
            [&](const auto& chunk) {
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
    const auto left = [&](const WholeFace& face) { return twins[face.part][face.first].part == ~0U; };
    forOtherOrder(solved, shells, left, [&](const WholeFace& face, const WholeFace& other) {
        for (std::uint32_t i = 0; i < face.count; ++i)
            twins[face.part][face.first + i] = {other.part, other.first, other.count, face.count > 1};
    });
    return twins;
}

} // namespace pyro
