#include "core/evaluate/offered_quantities.h"

#include "core/envelope/transmittance.h"
#include "core/gauge/where_shape.h"
#include "core/thermal/measure.h"

#include <algorithm>
#include <map>

namespace pyro {
namespace {

struct PlaceKind {
    bool surface = false;
    bool volume = false;
    bool line = false;
    bool wall = false; // a boundary, an interface, or something on a boundary
    bool none = false; // between environments, or nowhere
};

PlaceKind kindOfPlace(const Gauge& gauge) {
    PlaceKind kind;
    const auto found = shapeOf(gauge.where);
    if (!found || gauge.where.written.is_null()) {
        kind.none = true;
        return kind;
    }
    const auto& shape = found->shape;
    const bool point = std::holds_alternative<PointShape>(shape);
    const bool region = std::holds_alternative<RegionShape>(shape);
    kind.line = std::holds_alternative<LineShape>(shape) || std::holds_alternative<TraceShape>(shape);
    kind.volume = region && found->boundaries.empty();
    kind.surface = !point && !kind.line && !kind.volume;
    kind.wall = std::holds_alternative<InterfaceShape>(shape) || !found->boundaries.empty();
    return kind;
}

struct Rule {
    const char* group;
    bool PlaceKind::*place = nullptr; // that it needs
    const char* placeWord = "";
    const char* field = ""; // stored quantity that it needs
};

const Rule& ruleOf(std::string_view name) {
    constexpr const char* heat = "heat";
    constexpr const char* film = "wall film";
    constexpr const char* flow = "flow";
    constexpr const char* extents = "extents";
    constexpr const char* aWall = "needs a boundary, or a line on one";
    constexpr const char* aSurface = "needs a surface";
    constexpr const char* aPart = "needs a part";
    constexpr const char* aLine = "needs a line";
    static const std::map<std::string_view, Rule> rules{
        {"film_coefficient", {film, &PlaceKind::wall, aWall, "temperature"}},
        {"nusselt_number", {film, &PlaceKind::wall, aWall, "temperature"}},
        {"biot_number", {film, &PlaceKind::wall, aWall, "temperature"}},
        {"stanton_number", {film, &PlaceKind::wall, aWall, "temperature"}},
        {"boundary_layer_thickness", {film, &PlaceKind::line, aLine, ""}},
        {"dimensionless_temperature", {heat, nullptr, "", "temperature"}},
        {"heat_flux", {heat, nullptr, "", "temperature"}},
        {"temperature_gradient", {heat, nullptr, "", "temperature"}},
        {"thermal_resistance", {heat, nullptr, "", "temperature"}},
        {"heat_content", {heat, &PlaceKind::volume, aPart, "temperature"}},
        {"heat_balance", {heat, &PlaceKind::volume, aPart, "temperature"}},
        {"volume_above", {heat, &PlaceKind::volume, aPart, "temperature"}},
        {"reynolds_number", {flow, nullptr, "", ""}},
        {"dimensionless_speed", {flow, nullptr, "", "velocity"}},
        {"speed", {flow, nullptr, "", "velocity"}},
        {"mass_flux", {flow, nullptr, "", "velocity"}},
        {"volume_flow", {flow, &PlaceKind::surface, aSurface, "velocity"}},
        {"mass_flow", {flow, &PlaceKind::surface, aSurface, "velocity"}},
        {"enthalpy_flow", {flow, &PlaceKind::surface, aSurface, "velocity"}},
        {"mass_balance", {flow, &PlaceKind::volume, aPart, "velocity"}},
        {"area", {extents, &PlaceKind::surface, aSurface, ""}},
        {"faces", {extents, &PlaceKind::surface, aSurface, ""}},
        {"volume", {extents, &PlaceKind::volume, aPart, ""}},
        {"length", {extents, &PlaceKind::line, aLine, ""}}};
    static const Rule other{heat, nullptr, "", ""};
    const auto found = rules.find(name);
    return found == rules.end() ? other : found->second;
}

} // namespace

std::vector<OfferedQuantity> offeredQuantities(const Gauge& gauge, const QuantityList& stored) {
    const auto place = kindOfPlace(gauge);
    std::vector<OfferedQuantity> out;
    for (const auto& quantity : stored.quantities)
        out.push_back({quantity.name, "stored in the case", place.none ? "needs a place" : ""});
    for (const auto& known : measuredQuantities()) {
        const std::string name(known.name);
        if (stored.named(name) != nullptr)
            continue;
        if (isEnvelopeQuantity(name)) {
            out.push_back({name, "transmittances", place.none ? "" : "set up under Transmittance"});
            continue;
        }
        const auto& rule = ruleOf(name);
        std::string why;
        if (place.none)
            why = "needs a place";
        else if (rule.place != nullptr && !(place.*rule.place))
            why = rule.placeWord;
        else if (*rule.field != 0 && stored.named(rule.field) == nullptr)
            why = std::string("the case has no ") + rule.field;
        out.push_back({name, rule.group, why});
    }
    static constexpr std::array<std::string_view, 6> order{"stored in the case", "heat", "wall film", "flow", "extents",
                                                           "transmittances"};
    std::ranges::stable_sort(out, {}, [&](const OfferedQuantity& one) {
        return std::pair(std::ranges::find(order, one.group) - order.begin(), !one.why.empty());
    });
    return out;
}

} // namespace pyro
