#include "core/envelope/plane_layers.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

bool positive(double value) { return std::isfinite(value) && value > 0; }

} // namespace

Done checkElement(const PlaneElement& element) {
    if (element.layers.empty())
        return fail(ErrorCode::NotSupported, "a plane element needs at least one layer", "layers");
    for (std::size_t i = 0; i < element.layers.size(); ++i) {
        const auto& layer = element.layers[i];
        const auto named = fmt::format("layer {}{}", i + 1, layer.name.empty() ? "" : " (" + layer.name + ")");
        if (layer.given ? !positive(*layer.given) : !positive(layer.thickness) || !positive(layer.conductivity))
            return fail(ErrorCode::WrongType,
                        layer.given ? fmt::format("{} has the resistance {:g} m2.K/W", named, *layer.given)
                        : positive(layer.thickness)
                            ? fmt::format("{} has the conductivity {:g} W/(m.K)", named, layer.conductivity)
                            : fmt::format("{} has the thickness {:g} m", named, layer.thickness),
                        "layers", "It must be above zero");
    }
    for (const double surface : {element.inner, element.outer})
        if (!(surface >= 0) || !std::isfinite(surface))
            return fail(ErrorCode::WrongType, fmt::format("a surface resistance is {:g} m2.K/W", surface),
                        "resistances", "It must not be negative");
    return {};
}

double totalResistance(const PlaneElement& element) {
    double sum = element.inner + element.outer;
    for (const auto& layer : element.layers)
        sum += layer.resistance();
    return sum;
}

double transmittance(const PlaneElement& element) { return 1 / totalResistance(element); }

std::vector<double> faceTemperatures(const PlaneElement& element, double inside, double outside) {
    const double flux = (inside - outside) / totalResistance(element); // W/m2, outwards
    std::vector<double> faces{inside - flux * element.inner};
    for (const auto& layer : element.layers)
        faces.push_back(faces.back() - flux * layer.resistance());
    return faces;
}

std::optional<double> depthOfTemperature(const PlaneElement& element, double inside, double outside, double kelvin) {
    const auto faces = faceTemperatures(element, inside, outside);
    double depth = 0;
    for (std::size_t i = 0; i < element.layers.size(); ++i) {
        const double thickness = element.layers[i].thickness;
        if ((faces[i] - kelvin) * (faces[i + 1] - kelvin) <= 0 && faces[i] != faces[i + 1])
            return depth + thickness * (kelvin - faces[i]) / (faces[i + 1] - faces[i]);
        depth += thickness;
    }
    return std::nullopt;
}

double innerSurfaceResistance(HeatFlowDirection direction) {
    switch (direction) {
    case HeatFlowDirection::Upwards:
        return 0.10;
    case HeatFlowDirection::Downwards:
        return 0.17;
    default:
        return 0.13;
    }
}

Result<double> airLayerResistance(double thickness, HeatFlowDirection direction) {
    constexpr std::array<double, 9> metres{0, 0.005, 0.007, 0.010, 0.015, 0.025, 0.050, 0.100, 0.300};
    constexpr std::array<std::array<double, 9>, 3> rows{{{0, 0.11, 0.13, 0.15, 0.17, 0.18, 0.18, 0.18, 0.18},
                                                         {0, 0.11, 0.13, 0.15, 0.16, 0.16, 0.16, 0.16, 0.16},
                                                         {0, 0.11, 0.13, 0.15, 0.17, 0.19, 0.21, 0.22, 0.23}}};
    if (!(thickness >= 0 && thickness <= metres.back()))
        return fail(ErrorCode::NotSupported, fmt::format("an air layer of {:g} m lies outside of the table", thickness),
                    "layers", "ISO 6946 gives resistances up to 0.3 m; give the layer its own");
    const auto& row = rows[static_cast<std::size_t>(direction)];
    const auto after = std::max<std::ptrdiff_t>(1, std::ranges::lower_bound(metres, thickness) - metres.begin());
    const auto i = static_cast<std::size_t>(after);
    return row[i - 1] + (thickness - metres[i - 1]) / (metres[i] - metres[i - 1]) * (row[i] - row[i - 1]);
}

} // namespace pyro
