#include "core/quantities/gauge_keys.h"

#include "core/gauge/formula.h"
#include "core/quantities/gauge_quantity.h"
#include "core/statistics/statistic_kind.h"

#include <algorithm>
#include <vector>

namespace pyro {
namespace {

using Kind = GaugeKeyKind;

// Those with a label stand in the editor in this order.
constexpr GaugeKey shared[]{
    {.key = "of",
     .kind = Kind::Word,
     .meaning = "which boundary layer",
     .words = {"temperature", "velocity"},
     .label = "Boundary layer of",
     .shown = {"temperature", "velocity"}},
    {.key = "minus",
     .kind = Kind::OtherCase,
     .meaning = "case whose field is subtracted at the same places",
     .label = "Minus the case",
     .unsaid = "none"},
    {.key = "weight",
     .kind = Kind::Word,
     .meaning = "of a mean",
     .words = {"area", "volume", "length", "mass_flow", "none"},
     .label = "Weight",
     .unsaid = "{extent}",
     .ofMeans = true,
     .shown = {"", "", "", "mass flow"}},
    {.key = "method",
     .kind = Kind::Word,
     .meaning = "of a heat flux",
     .also = "heat_flux_method",
     .words = {"stored", "conservative", "film", "gradient"},
     .label = "Heat flux method",
     .unsaid = "most accurate available",
     .shown = {"stored flux", "conservation", "film to the environment", "gradient"}},
    {.key = "reference",
     .kind = Kind::Reference,
     .meaning = "temperature that others are told against",
     .also = "reference_temperature",
     .words = {"gauge", "bulk", "bulk_at", "distance"},
     .typedIn = TypedIn::Temperature,
     .label = "Reference temperature"},
    {.key = "wall",
     .kind = Kind::Reference,
     .meaning = "temperature of the wall",
     .words = {"gauge", "bulk", "bulk_at"},
     .typedIn = TypedIn::Temperature,
     .label = "Wall"},
    {.key = "length",
     .kind = Kind::ValueOrReference,
     .meaning = "m, or local: the distance from the start of the line",
     .typedIn = TypedIn::Unit,
     .unit = "mm",
     .label = "Length",
     .tip = "Of the body or tube, with its unit: 8 mm; local: the distance from the start of the line"},
    {.key = "speed",
     .kind = Kind::ValueOrReference,
     .meaning = "m/s",
     .typedIn = TypedIn::Unit,
     .unit = "m/s",
     .label = "Speed",
     .tip = "Of the flow, with its unit: 0.2 m/s"},
    {.key = "per",
     .kind = Kind::ValueOrReference,
     .meaning = "power that a resistance is told for, W",
     .also = "divided_by_power",
     .typedIn = TypedIn::Unit,
     .unit = "W",
     .label = "Divided by power",
     .tip = "With its unit: 12 W; empty: that of the part"},
    {.key = "conductivity",
     .kind = Kind::ValueOrReference,
     .meaning = "W/(m.K)",
     .typedIn = TypedIn::Unit,
     .unit = "W/(m.K)",
     .label = "Conductivity",
     .tip = "With its unit; empty: that of the part behind"},
    {.key = "space",
     .kind = Kind::Text,
     .meaning = "statistic of each step, of a gauge over the steps",
     .also = "statistic_in_space",
     .words = {"mean", "max", "min", "p95", "p5"},
     .label = "Statistic in space",
     .unsaid = "default (mean)"},
    {.key = "level",
     .kind = Kind::Value,
     .meaning = "in the unit of the quantity",
     .typedIn = TypedIn::Quantity,
     .label = "Level",
     .tip = "With its unit: 85 degC"},
    {.key = "final",
     .kind = Kind::Value,
     .meaning = "where an exponential approach ends, in the unit of the quantity",
     .typedIn = TypedIn::Quantity,
     .label = "Final value",
     .tip = "That the history approaches, with its unit; empty: extrapolated"},
    {.key = "free",
     .kind = Kind::Value,
     .meaning = "K or m/s, outside of a boundary layer",
     .label = "Free value",
     .tip = "Outside of the boundary layer, with its unit; empty: at the end of the line"},
    {.key = "dimensions",
     .kind = Kind::Word,
     .meaning = "of plane elements",
     .words = {"internal", "external", "overall_internal"},
     .label = "Dimensions",
     .shown = {"internal", "external", "overall internal"}},
    {.key = "flanks",
     .kind = Kind::PlaneElements,
     .meaning = "plane elements, where they are not found in the mesh",
     .also = "plane_elements",
     .label = "Plane elements",
     .tip = "Transmittance times length or area of each: 0.34 W/(m2.K) x 1.2 m; 0.28 x 2 m. Empty: found in the field"},
    {.key = "linear",
     .kind = Kind::LinearElements,
     .meaning = "linear bridges within a point bridge",
     .also = "linear_bridges",
     .label = "Linear bridges",
     .tip = "That are subtracted too: 0.05 W/(m.K) x 0.9 m; ..."},
    {.key = "air",
     .kind = Kind::ValueOrReference,
     .meaning = "temperature of the room's air",
     .also = "room_air",
     .typedIn = TypedIn::Temperature,
     .label = "Room air",
     .tip = "Its temperature: 20 degC"},
    {.key = "humidity",
     .kind = Kind::ValueOrReference,
     .meaning = "relative, of the room's air",
     .typedIn = TypedIn::Unit,
     .unit = "%",
     .label = "Humidity",
     .tip = "Of the room air: 50 %"},
    {.key = "outside",
     .kind = Kind::ValueOrReference,
     .meaning = "temperature of the air outside",
     .typedIn = TypedIn::Temperature,
     .label = "Outside",
     .tip = "Its temperature: -5 degC"},
    {.key = "surface_humidity",
     .kind = Kind::ValueOrReference,
     .meaning = "relative, at the surface",
     .typedIn = TypedIn::Unit,
     .unit = "%",
     .label = "Surface humidity",
     .tip = "Highest allowed on the surface: 80 % against mould, 100 % against condensation"},
    {.key = "mean_of",
     .kind = Kind::Word,
     .meaning = "mean of local coefficients, or of total heat over mean difference",
     .words = {"local", "total"}},
    {.key = "over", .kind = Kind::Word, .meaning = "read over all steps", .words = {"steps"}},
    {.key = "layers", .kind = Kind::List, .meaning = "of a plane element, from inside"},
    {.key = "resistances", .kind = Kind::List, .meaning = "of its inner and outer surface, m2.K/W"},
    {.key = "sum", .kind = Kind::List, .meaning = "what a component loses, term by term"},
    {.key = "area", .kind = Kind::ValueOrReference, .meaning = "m2"},
    {.key = "decimals", .kind = Kind::Count, .meaning = "of the reading"},
    {.key = "group", .kind = Kind::Text, .meaning = "under which it stands in lists"},
};

} // namespace

std::span<const GaugeKey> gaugeKeys() {
    static const auto all = [] {
        std::vector<GaugeKey> keys(std::begin(shared), std::end(shared));
        const auto add = [&](const auto& kinds) {
            for (const auto* kind : kinds)
                keys.insert(keys.end(), kind->ownKeys.begin(), kind->ownKeys.end());
        };
        add(gaugeQuantities());
        add(statisticKinds());
        return keys;
    }();
    return all;
}

std::span<const GaugeKey> ownGaugeKeys() { return gaugeKeys().subspan(std::size(shared)); }

const GaugeKey* gaugeKeyNamed(std::string_view key) {
    const auto keys = gaugeKeys();
    const auto found = std::ranges::find(keys, key, &GaugeKey::key);
    return found == keys.end() ? nullptr : &*found;
}

bool readsOverSteps(const Gauge& gauge) { return gauge.rest.contains("over") || tellsTime(gauge.statistic); }

bool readsOverSteps(std::span<const Gauge> gauges, const Gauge& gauge) {
    std::vector<const Gauge*> waiting{&gauge};
    for (std::size_t i = 0; i < waiting.size(); ++i) {
        if (readsOverSteps(*waiting[i]))
            return true;
        for (const auto& id : namesIn(waiting[i]->formula))
            if (const auto found = std::ranges::find(gauges, id, &Gauge::id);
                found != gauges.end() && std::ranges::find(waiting, &*found) == waiting.end())
                waiting.push_back(&*found);
    }
    return false;
}

bool gaugeReads(const Gauge& gauge, std::string_view key) {
    if (key == "space")
        return readsOverSteps(gauge);
    if (key == "minus")
        return gauge.formula.empty() &&
               (gaugeQuantity(gauge.quantity) == nullptr || gaugeQuantity(gauge.quantity)->measure == nullptr) &&
               !isEnvelopeQuantity(gauge.quantity);
    const auto* quantity = gaugeQuantity(gauge.quantity);
    const auto* statistic = statisticKind(gauge.statistic);
    if ((quantity != nullptr && quantity->reads(key)) || (statistic != nullptr && statistic->reads(key)))
        return true;
    const auto reads = [&](const auto* one) { return one->reads(key); };
    return std::ranges::none_of(gaugeQuantities(), reads) && std::ranges::none_of(statisticKinds(), reads);
}

} // namespace pyro
