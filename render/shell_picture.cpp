#include "render/shell_picture.h"

#include "core/field/interface_faces.h"
#include "core/field/vector_algebra.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>

namespace pyro {
namespace {

// Sets that grow together (Galler and Fischer 1964).
class Sets {
public:
    explicit Sets(std::size_t count) : m_parent(count) { std::iota(m_parent.begin(), m_parent.end(), 0U); }
    std::uint32_t of(std::uint32_t one) {
        while (m_parent[one] != one)
            one = m_parent[one] = m_parent[m_parent[one]];
        return one;
    }
    void join(std::uint32_t a, std::uint32_t b) { m_parent[of(a)] = of(b); }

private:
    std::vector<std::uint32_t> m_parent;
};

struct Piece {
    std::uint32_t part = 0;
    std::vector<std::uint32_t> faces;
    std::array<double, 6> box{1e300, -1e300, 1e300, -1e300, 1e300, -1e300};
};

std::vector<Piece> piecesOf(const Region& part, std::uint32_t number, const ShellView& shell,
                            const std::vector<TwinFace>& twins) {
    Sets sets(part.mesh.nodes());
    const auto isOpen = [&](std::uint32_t face) { return twins[face].part == ~0U; };
    for (std::uint32_t face = 0; face < shell.faces(); ++face)
        if (isOpen(face))
            for (const auto node : shell.face(face))
                sets.join(node, shell.face(face)[0]);
    std::map<std::uint32_t, Piece> pieces;
    for (std::uint32_t face = 0; face < shell.faces(); ++face) {
        if (!isOpen(face))
            continue;
        auto& piece = pieces[sets.of(shell.face(face)[0])];
        piece.part = number;
        piece.faces.push_back(face);
        for (const auto node : shell.face(face)) {
            const auto at = part.mesh.node(node);
            for (std::size_t axis = 0; axis < 3; ++axis) {
                piece.box[2 * axis] = std::min(piece.box[2 * axis], at[axis]);
                piece.box[2 * axis + 1] = std::max(piece.box[2 * axis + 1], at[axis]);
            }
        }
    }
    std::vector<Piece> out;
    for (auto& [root, piece] : pieces)
        out.push_back(std::move(piece));
    return out;
}

bool liesWithin(const Piece& inner, const Piece& outer) {
    for (std::size_t axis = 0; axis < 3; ++axis)
        if (!(inner.box[2 * axis] > outer.box[2 * axis] && inner.box[2 * axis + 1] < outer.box[2 * axis + 1]))
            return false;
    return true;
}

Point normalOf(const Mesh& mesh, std::span<const std::uint32_t> corners) {
    return unit(cross(minus(mesh.node(corners[1]), mesh.node(corners[0])),
                      minus(mesh.node(corners[2]), mesh.node(corners[0]))));
}

void add(const Region& part, const ShellView& shell, const Piece& piece, ShellPicture& out) {
    std::map<std::uint32_t, std::uint32_t> known;
    const auto numberOf = [&](std::uint32_t node) {
        const auto [found, isNew] = known.emplace(node, static_cast<std::uint32_t>(out.points.size() / 3));
        if (isNew)
            for (const double one : part.mesh.node(node))
                out.points.push_back(static_cast<float>(one));
        return found->second;
    };
    std::map<std::pair<std::uint32_t, std::uint32_t>, std::vector<Point>> sides; // normals of the faces at each
    for (const auto face : piece.faces) {
        const auto corners = shell.face(face);
        const auto normal = normalOf(part.mesh, corners);
        for (std::size_t i = 0; i < corners.size(); ++i) {
            const auto a = numberOf(corners[i]);
            const auto b = numberOf(corners[(i + 1) % corners.size()]);
            sides[std::minmax(a, b)].push_back(normal);
        }
        for (std::size_t i = 1; i + 1 < corners.size(); ++i)
            for (const auto node : {corners[0], corners[i], corners[i + 1]})
                out.triangles.push_back(static_cast<std::int32_t>(numberOf(node)));
    }
    const double bend = std::cos(0.52); // 30 degrees
    for (const auto& [ends, normals] : sides)
        if (normals.size() != 2 || dot(normals[0], normals[1]) < bend) {
            out.edges.push_back(ends.first);
            out.edges.push_back(ends.second);
        }
}

} // namespace

ShellPicture makeShell(const OpenedCase& opened) {
    const auto& parts = opened.solved->parts;
    std::vector<ShellView> shells;
    for (const auto& part : opened.index->parts)
        shells.push_back(part.shell);
    const auto twins = twinFaces(*opened.solved, shells);
    std::vector<Piece> pieces;
    for (std::uint32_t part = 0; part < parts.size(); ++part)
        std::ranges::move(piecesOf(parts[part], part, shells[part], twins[part]), std::back_inserter(pieces));
    ShellPicture out;
    for (const auto& piece : pieces)
        if (std::ranges::none_of(pieces, [&](const Piece& other) { return liesWithin(piece, other); }))
            add(parts[piece.part], shells[piece.part], piece, out);
    return out;
}

} // namespace pyro
