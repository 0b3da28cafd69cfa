// Orders of nodes that several formats share.
#pragma once

#include <numeric>
#include <utility>
#include <vector>

namespace pyro {

// For each node in VTK's order its number in a file that has the middles of the upright edges before those of the upper
// ones: two runs of `count`, the first at `from`, change places.
inline std::vector<std::size_t> swapped(std::size_t nodes, std::size_t from, std::size_t count) {
    std::vector<std::size_t> order(nodes);
    std::iota(order.begin(), order.end(), std::size_t{0});
    for (std::size_t i = 0; i < count; ++i)
        std::swap(order[from + i], order[from + count + i]);
    return order;
}

} // namespace pyro
