#include "core/field/mesh_edges.h"

#include <algorithm>

namespace pyro {
namespace {

void addRing(EdgeList& edges, std::span<const std::uint8_t> ring) {
    for (std::size_t i = 0; i < ring.size(); ++i) {
        const auto a = ring[i];
        const auto b = ring[(i + 1) % ring.size()];
        const std::array<std::uint8_t, 2> edge{std::min(a, b), std::max(a, b)};
        if (std::ranges::find(edges, edge) == edges.end())
            edges.push_back(edge);
    }
}

EdgeList made(CellType type) {
    EdgeList edges;
    switch (type) {
    case CellType::Line:
        return {{0, 1}};
    case CellType::Triangle:
        addRing(edges, std::array<std::uint8_t, 3>{0, 1, 2});
        return edges;
    case CellType::Quad:
        addRing(edges, std::array<std::uint8_t, 4>{0, 1, 2, 3});
        return edges;
    default:
        break;
    }
    if (const auto* shape = cellShape(type))
        for (const auto& face : shape->faces)
            addRing(edges, std::span(face.node, face.count));
    return edges;
}

} // namespace

const EdgeList& edgesOf(CellType type) {
    static const auto all = [] {
        std::array<EdgeList, 256> lists;
        for (const auto one : {CellType::Line, CellType::Triangle, CellType::Quad, CellType::Tetrahedron,
                               CellType::Hexahedron, CellType::Wedge, CellType::Pyramid})
            lists[static_cast<std::size_t>(one)] = made(one);
        return lists;
    }();
    return all[static_cast<std::size_t>(type)];
}

} // namespace pyro
