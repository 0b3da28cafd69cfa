#include "core/trust/marked_cells.h"

#include <algorithm>

namespace pyro {

std::vector<std::array<Point, 2>> outlinesOf(const Case& solved, std::span<const MarkedCell> cells, std::size_t most) {
    std::vector<std::array<Point, 2>> lines;
    for (const auto& one : cells.first(std::min(most, cells.size()))) {
        if (one.part >= solved.parts.size() || one.cell >= solved.parts[one.part].mesh.cells())
            continue;
        const auto& mesh = solved.parts[one.part].mesh;
        const auto nodes = mesh.cell(one.cell);
        const auto* shape = cellShape(mesh.type(one.cell));
        if (shape == nullptr)
            continue;
        for (const auto& face : shape->faces) {
            for (int i = 0; i < face.count; ++i) {
                const auto a = nodes[face.node[i]];
                const auto b = nodes[face.node[(i + 1) % face.count]];
                if (a < b) // the other face that has this edge names it the other way round
                    lines.push_back({mesh.node(a), mesh.node(b)});
            }
        }
    }
    return lines;
}

} // namespace pyro
