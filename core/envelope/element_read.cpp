// Layers as a gauge writes them.
#include "core/envelope/material_library.h"
#include "core/envelope/transmittance.h"

#include "core/units/unit.h"

#include <algorithm>
#include <fmt/format.h>

namespace pyro {
namespace {

Result<double> number(const Json& layer, const char* key, const char* unit, std::size_t at) {
    const auto& json = layer[key];
    const auto text = json.is_string() ? json.get<std::string>() : json.is_number() ? json.dump() : std::string();
    auto value = parseMeasured(text, unit);
    if (!value)
        return fail(value.error().code, fmt::format("layer {}, \"{}\": {}", at + 1, key, value.error().what), "layers",
                    value.error().remedy);
    return value;
}

Result<double> conductivityOf(const std::string& material, std::span<const NamedConductivity> materials,
                              std::size_t at) {
    if (const auto own = std::ranges::find(materials, material, &NamedConductivity::name); own != materials.end())
        return own->conductivity;
    if (const auto* known = libraryMaterial(material))
        return known->conductivity;
    return fail(ErrorCode::NameUnknown,
                fmt::format("layer {}: there is no material \"{}\" with a conductivity", at + 1, material), "layers",
                "Add it to the survey's materials, or give the layer its conductivity");
}

Result<Layer> layerOf(const Json& json, std::span<const NamedConductivity> materials, std::size_t at) {
    if (!json.is_object())
        return fail(ErrorCode::WrongType, fmt::format("layer {} is no object", at + 1), "layers",
                    "Write {\"thickness\": \"0.24 m\", \"conductivity\": \"0.99 W/(m.K)\"}");
    Layer layer;
    if (json.contains("material") && json["material"].is_string())
        layer.name = json["material"].get<std::string>();
    if (json.contains("name") && json["name"].is_string())
        layer.name = json["name"].get<std::string>();
    if (json.contains("thickness")) {
        const auto thickness = number(json, "thickness", "m", at);
        if (!thickness)
            return tl::unexpected(thickness.error());
        layer.thickness = *thickness;
    }
    if (json.contains("resistance")) {
        const auto resistance = number(json, "resistance", "m2.K/W", at);
        if (!resistance)
            return tl::unexpected(resistance.error());
        layer.given = *resistance;
        return layer;
    }
    const auto conductivity =
        json.contains("conductivity") ? number(json, "conductivity", "W/(m.K)", at)
        : json.contains("material")
            ? conductivityOf(layer.name, materials, at)
            : fail(ErrorCode::WrongType,
                   fmt::format("layer {} has neither conductivity, material nor resistance", at + 1), "layers");
    if (!conductivity)
        return tl::unexpected(conductivity.error());
    layer.conductivity = *conductivity;
    return layer;
}

} // namespace

Result<PlaneElement> elementOf(const Json& layers, const Json* resistances,
                               std::span<const NamedConductivity> materials) {
    if (!layers.is_array())
        return fail(ErrorCode::WrongType, "\"layers\" is no list", "layers", "List them from inside to outside");
    PlaneElement element;
    for (std::size_t i = 0; i < layers.size(); ++i) {
        auto layer = layerOf(layers[i], materials, i);
        if (!layer)
            return tl::unexpected(layer.error());
        element.layers.push_back(std::move(*layer));
    }
    if (resistances != nullptr) {
        if (!resistances->is_array() || resistances->size() != 2)
            return fail(ErrorCode::WrongType, "\"resistances\" are two: inside and outside", "resistances",
                        "Write [\"0.13 m2.K/W\", \"0.04 m2.K/W\"]");
        for (std::size_t side = 0; side < 2; ++side) {
            const auto& json = (*resistances)[side];
            const auto value = parseMeasured(json.is_string() ? json.get<std::string>() : json.dump(), "m2.K/W");
            if (!value)
                return fail(value.error().code, "\"resistances\": " + value.error().what, "resistances",
                            value.error().remedy);
            (side == 0 ? element.inner : element.outer) = *value;
        }
    }
    if (auto checked = checkElement(element); !checked)
        return tl::unexpected(checked.error());
    return element;
}

} // namespace pyro
