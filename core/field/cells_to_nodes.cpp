#include "core/field/cells_to_nodes.h"

#include <algorithm>

namespace pyro {

std::vector<double> cellsToNodes(const Mesh& mesh, const RealView& cellValues, std::size_t components) {
    std::vector<double> sum(components * mesh.nodes());
    std::vector<std::uint32_t> count(mesh.nodes());
    for (std::size_t cell = 0; cell < mesh.cells(); ++cell)
        for (const auto node : mesh.cell(cell)) {
            ++count[node];
            for (std::size_t i = 0; i < components; ++i)
                sum[components * std::size_t{node} + i] += cellValues[components * cell + i];
        }
    for (std::size_t i = 0; i < sum.size(); ++i)
        sum[i] /= std::max(1U, count[i / components]);
    return sum;
}

} // namespace pyro
