#include "core/quantities/offered_quantities.h"

#include "core/gauge/where_shape.h"
#include "core/quantities/gauge_quantity.h"

#include <algorithm>
#include <fmt/format.h>

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

// What it lacks; empty where it can be read there.
std::string whyNot(const GaugeQuantity& quantity, const PlaceKind& place, const QuantityList& stored) {
    if (quantity.measureEnvelope != nullptr)
        return place.none ? "" : "set up under Transmittance";
    if (place.none)
        return "needs a place";
    if (quantity.place == PlaceNeed::Wall && !place.wall)
        return "needs a boundary, or a line on one";
    if (quantity.place == PlaceNeed::Surface && !place.surface)
        return "needs a surface";
    if (quantity.place == PlaceNeed::Part && !place.volume)
        return "needs a part";
    if (quantity.place == PlaceNeed::Line && !place.line)
        return "needs a line";
    if (!quantity.field.empty() && stored.named(quantity.field) == nullptr)
        return fmt::format("the case has no {}", quantity.field);
    return {};
}

std::string_view groupName(QuantityGroup group) {
    switch (group) {
    case QuantityGroup::Heat:
        return "heat";
    case QuantityGroup::Film:
        return "wall film";
    case QuantityGroup::Flow:
        return "flow";
    case QuantityGroup::Extents:
        return "extents";
    case QuantityGroup::Envelope:
        return "transmittances";
    }
    return "heat";
}

} // namespace

std::vector<OfferedQuantity> offeredQuantities(const Gauge& gauge, const QuantityList& stored) {
    const auto place = kindOfPlace(gauge);
    std::vector<OfferedQuantity> out;
    for (const auto& quantity : stored.quantities)
        out.push_back({quantity.name, "stored in the case", place.none ? "needs a place" : "", 0});
    for (const auto* described : gaugeQuantities())
        if (stored.named(described->name) == nullptr)
            out.push_back({std::string(described->name), std::string(groupName(described->group)),
                           whyNot(*described, place, stored), 1 + static_cast<int>(described->group)});
    std::ranges::stable_sort(out, {},
                             [](const OfferedQuantity& one) { return std::pair(one.groupAt, !one.why.empty()); });
    return out;
}

} // namespace pyro
