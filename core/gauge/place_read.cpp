#include "core/gauge/place_read.h"

#include <cmath>

namespace pyro {
namespace {

// One component of the stored values.
double componentAt(const StoredArray& array, const SurfacePlace& place, std::size_t component) {
    const auto width = static_cast<std::size_t>(array.components);
    if (array.on == Location::Cell)
        return array.values[width * place.cell + component];
    double value = 0;
    for (std::size_t i = 0; i < place.nodes.size(); ++i)
        value += place.weights[i] * array.values[width * place.nodes[i] + component];
    return value;
}

} // namespace

std::vector<PlaceReading> readPlace(const Case& solved, const QuantityList& quantities, const SurfacePlace& place) {
    std::vector<PlaceReading> readings;
    for (const auto& quantity : quantities.quantities) {
        const auto* array = solved.parts[place.part].find(quantity.array, quantity.on);
        if (array == nullptr)
            continue;
        if (array->components == 1) {
            readings.push_back({&quantity, quantity.toSi(componentAt(*array, place, 0)), 0});
            continue;
        }
        if (isAlongAxes(quantity)) {
            for (std::size_t axis = 0; axis < 3; ++axis)
                readings.push_back({&quantity, quantity.toSi(componentAt(*array, place, axis)), "xyz"[axis]});
            continue;
        }
        double squares = 0;
        for (std::size_t component = 0; component < static_cast<std::size_t>(array->components); ++component)
            squares += std::pow(componentAt(*array, place, component), 2);
        readings.push_back({&quantity, quantity.toSi(std::sqrt(squares)), 0});
    }
    return readings;
}

} // namespace pyro
