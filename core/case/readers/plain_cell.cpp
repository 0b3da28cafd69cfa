#include "core/case/readers/plain_cell.h"

#include <algorithm>

namespace pyro {
namespace {

using Ids = std::vector<std::uint32_t>;

bool holds(const Ids& ring, std::uint32_t node) { return std::ranges::find(ring, node) != ring.end(); }

// The node at the other end of the edge that leads from `node` away from the ring `base`; nothing when there is not
// just one.
std::optional<std::uint32_t> above(std::span<const Ids> faces, const Ids& base, std::uint32_t node) {
    std::optional<std::uint32_t> found;
    for (const auto& face : faces) {
        const auto at = std::ranges::find(face, node);
        if (at == face.end() || &face == &base)
            continue;
        const auto i = static_cast<std::size_t>(at - face.begin());
        for (const auto next : {face[(i + 1) % face.size()], face[(i + face.size() - 1) % face.size()]})
            if (!holds(base, next)) {
                if (found && *found != next)
                    return std::nullopt;
                found = next;
            }
    }
    return found;
}

} // namespace

std::optional<PlainCell> plainCell(std::span<const Ids> faces) {
    std::size_t triangles = 0;
    std::size_t corners = 0;
    for (const auto& face : faces) {
        if (face.size() != 3 && face.size() != 4)
            return std::nullopt;
        triangles += face.size() == 3 ? 1 : 0;
        corners += face.size();
    }
    const auto shape = [&]() -> std::optional<std::pair<CellType, std::size_t>> { // with the size of its base
        const auto quads = faces.size() - triangles;
        if (triangles == 4 && quads == 0)
            return std::pair(CellType::Tetrahedron, 3);
        if (triangles == 4 && quads == 1)
            return std::pair(CellType::Pyramid, 4);
        if (triangles == 2 && quads == 3)
            return std::pair(CellType::Wedge, 3);
        if (triangles == 0 && quads == 6)
            return std::pair(CellType::Hexahedron, 4);
        return std::nullopt;
    }();
    if (!shape)
        return std::nullopt;
    Ids all;
    for (const auto& face : faces)
        all.insert(all.end(), face.begin(), face.end());
    std::ranges::sort(all);
    all.erase(std::unique(all.begin(), all.end()), all.end());
    const auto* type = cellShape(shape->first);
    // Euler: each edge in two faces
    if (all.size() != static_cast<std::size_t>(type->corners) || corners != 2 * (faces.size() + all.size() - 2))
        return std::nullopt;
    const auto base = std::ranges::find(faces, shape->second, &Ids::size);
    PlainCell out{shape->first, *base};
    const auto tops = all.size() - base->size();
    for (std::size_t i = 0; i < base->size() && out.nodes.size() < all.size(); ++i) {
        const auto top = above(faces, *base, (*base)[i]);
        if (!top || (tops > 1 && holds(out.nodes, *top)))
            return std::nullopt;
        out.nodes.push_back(*top);
    }
    return out;
}

} // namespace pyro
