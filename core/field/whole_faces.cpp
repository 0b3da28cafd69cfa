#include "core/field/whole_faces.h"

#include "core/field/face_lookup.h"
#include "core/field/straight_pieces.h"

#include <algorithm>

namespace pyro {
namespace {

Point middle(const Corners& corners) {
    Point sum{};
    for (const auto& one : corners)
        for (std::size_t axis = 0; axis < 3; ++axis)
            sum[axis] += one[axis] / static_cast<double>(corners.size());
    return sum;
}

bool sameCorners(const Corners& a, const Corners& b) {
    const double slack = 1e-6 * sizeOf(a);
    return a.size() == b.size() && std::ranges::all_of(a, [&](const Point& one) {
               return std::ranges::any_of(
                   b, [&](const Point& other) { return squaredDistance(one, other) <= slack * slack; });
           });
}

} // namespace

double sizeOf(const Corners& corners) {
    double most = 0;
    for (const auto& one : corners)
        most = std::max(most, squaredDistance(one, corners.front()));
    return std::sqrt(most);
}

Corners placesOf(const Mesh& mesh, std::span<const std::uint32_t> nodes) {
    Corners out;
    for (const auto node : nodes)
        out.push_back(mesh.node(node));
    return out;
}

std::vector<WholeFace> wholeFaces(const Case& solved, std::span<const ShellView> shells) {
    std::vector<WholeFace> out;
    for (std::uint32_t part = 0; part < shells.size(); ++part) {
        const auto& shell = shells[part];
        const auto& mesh = solved.parts[part].mesh;
        for (std::uint32_t face = 0; face < shell.faces();) {
            const auto cell = shell.cell[face];
            const auto ids = mesh.cell(cell);
            const auto* lattice = latticeOf(mesh, cell);
            const auto ring = shell.face(face);
            WholeFace one{part, face, 1, {ring.begin(), ring.end()}};
            if (lattice != nullptr) {
                one.count = static_cast<std::uint32_t>(lattice->order() * lattice->order());
                for (const auto& piece : lattice->facePieces())
                    if (std::equal(ring.begin(), ring.end(), piece.node.begin(),
                                   [&](auto node, auto at) { return node == ids[at]; })) {
                        const auto& shape = cellShape(lattice->type())->faces[piece.face];
                        one.corners.clear();
                        for (std::size_t i = 0; i < shape.count; ++i)
                            one.corners.push_back(ids[shape.node[i]]);
                        break;
                    }
            }
            face += one.count;
            out.push_back(std::move(one));
        }
    }
    return out;
}

WholeFaceLookup::WholeFaceLookup(const Case& solved, std::vector<WholeFace> faces)
    : m_case(solved), m_faces(std::move(faces)) {
    double smallest = 0;
    for (const auto& face : m_faces)
        if (const double size = sizeOf(placesOf(solved.parts[face.part].mesh, face.corners));
            size > 0 && (smallest == 0 || size < smallest))
            smallest = size;
    m_spacing = smallest > 0 ? 0.1 * smallest : 1;
    for (std::uint32_t i = 0; i < m_faces.size(); ++i)
        m_at.emplace(bin(middle(placesOf(solved.parts[m_faces[i].part].mesh, m_faces[i].corners))), i);
}

std::array<long long, 3> WholeFaceLookup::bin(const Point& at) const {
    return {std::llround(at[0] / m_spacing), std::llround(at[1] / m_spacing), std::llround(at[2] / m_spacing)};
}

const WholeFace* WholeFaceLookup::find(const Corners& corners,
                                       const std::function<bool(const WholeFace&)>& wanted) const {
    const auto centre = bin(middle(corners));
    for (long long x = -1; x <= 1; ++x)
        for (long long y = -1; y <= 1; ++y)
            for (long long z = -1; z <= 1; ++z) {
                const auto [from, to] = m_at.equal_range({centre[0] + x, centre[1] + y, centre[2] + z});
                for (auto at = from; at != to; ++at)
                    if (const auto& face = m_faces[at->second];
                        wanted(face) && sameCorners(corners, placesOf(m_case.parts[face.part].mesh, face.corners)))
                        return &face;
            }
    return nullptr;
}

} // namespace pyro
