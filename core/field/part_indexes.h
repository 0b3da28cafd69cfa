// The orders and point searches of a case's parts, made when first asked for and shared by all steps on one mesh.
#pragma once

#include "core/field/locate.h"

#include <mutex>

namespace pyro {

// Thread-safe. Keeps the mapped store alive that its meshes lie in.
class PartIndexes {
public:
    explicit PartIndexes(const Case& solved);

    const CellOrder& order(std::size_t part) const;
    const PointLocator& locator(std::size_t part) const;
    // Of all parts; empty ones where order() was never asked for.
    std::span<const CellOrder> orders() const { return m_orders; }

private:
    struct One {
        Region mesh; // without arrays
        std::once_flag ordering;
        std::once_flag locating;
        std::optional<PointLocator> locator;
    };

    std::shared_ptr<const ArrayFile> m_store;
    std::vector<std::unique_ptr<One>> m_parts;
    mutable std::vector<CellOrder> m_orders;
};

} // namespace pyro
