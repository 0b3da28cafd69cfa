#include "core/field/part_indexes.h"

namespace pyro {

PartIndexes::PartIndexes(const Case& solved) : m_store(solved.store), m_orders(solved.parts.size()) {
    for (const auto& part : solved.parts) {
        m_parts.push_back(std::make_unique<One>());
        auto& mesh = m_parts.back()->mesh;
        mesh.name = part.name;
        mesh.mesh = part.mesh;
        mesh.dimension = part.dimension;
        mesh.fileCells = part.fileCells;
    }
}

const CellOrder& PartIndexes::order(std::size_t part) const {
    auto& one = *m_parts[part];
    std::call_once(one.ordering, [&] { m_orders[part] = cellOrder(one.mesh); });
    return m_orders[part];
}

const PointLocator& PartIndexes::locator(std::size_t part) const {
    auto& one = *m_parts[part];
    const auto& ordered = order(part);
    std::call_once(one.locating, [&] { one.locator.emplace(one.mesh, ordered); });
    return *one.locator;
}

} // namespace pyro
