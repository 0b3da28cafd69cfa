#include "core/quantities/gauge_keys.h"

#include "core/gauge/formula.h"
#include "core/quantities/gauge_quantity.h"
#include "core/statistics/statistic_kind.h"

#include <algorithm>
#include <vector>

namespace pyro {
namespace {

using Kind = GaugeKeyKind;

constexpr GaugeKey keys[]{
    {"reference", Kind::ValueOrReference, "temperature that others are told against", "reference_temperature"},
    {"wall", Kind::ValueOrReference, "temperature of the wall"},
    {"length", Kind::ValueOrReference, "m, or local: the distance from the start of the line"},
    {"speed", Kind::ValueOrReference, "m/s"},
    {"per", Kind::ValueOrReference, "power that a resistance is told for, W", "divided_by_power"},
    {"conductivity", Kind::ValueOrReference, "W/(m.K)"},
    {"level", Kind::Value, "in the unit of the quantity"},
    {"final", Kind::Value, "where an exponential approach ends, in the unit of the quantity"},
    {"free", Kind::Value, "K or m/s, outside of a boundary layer"},
    {"share", Kind::Value, "of the free value, at which a boundary layer ends"},
    {"of", Kind::Word, "which boundary layer", {}, {"temperature", "velocity"}},
    {"weight", Kind::Word, "of a mean", {}, {"area", "volume", "length", "mass_flow", "none"}},
    {"method", Kind::Word, "of a heat flux", "heat_flux_method", {"stored", "conservative", "film", "gradient"}},
    {"mean_of",
     Kind::Word,
     "mean of local coefficients, or of total heat over mean difference",
     {},
     {"local", "total"}},
    {"over", Kind::Word, "read over all steps", {}, {"steps"}},
    {"space", Kind::Text, "statistic of each step, of a gauge over the steps", "statistic_in_space"},
    {"complement", Kind::Flag, "1 minus a dimensionless temperature"},
    {"prominence", Kind::Value, "least, of hotspots, as a difference"},
    {"drop", Kind::Value, "how far below a hotspot its region reaches, as a difference", "extent_down_to"},
    {"cold", Kind::Flag, "minima instead of maxima"},
    {"dimensions", Kind::Word, "of plane elements", {}, {"internal", "external", "overall_internal"}},
    {"flanks", Kind::List, "plane elements, where they are not found in the mesh", "plane_elements"},
    {"linear", Kind::List, "linear bridges within a point bridge", "linear_bridges"},
    {"layers", Kind::List, "of a plane element, from inside"},
    {"resistances", Kind::List, "of its inner and outer surface, m2.K/W"},
    {"sum", Kind::List, "what a component loses, term by term"},
    {"area", Kind::ValueOrReference, "m2"},
    {"air", Kind::ValueOrReference, "temperature of the room's air", "room_air"},
    {"humidity", Kind::ValueOrReference, "relative, of the room's air"},
    {"surface_humidity", Kind::ValueOrReference, "relative, at the surface"},
    {"outside", Kind::ValueOrReference, "temperature of the air outside"},
    {"decimals", Kind::Count, "of the reading"},
    {"group", Kind::Text, "under which it stands in lists"},
};

} // namespace

std::span<const GaugeKey> gaugeKeys() { return keys; }

const GaugeKey* gaugeKeyNamed(std::string_view key) {
    const auto found = std::ranges::find(keys, key, &GaugeKey::key);
    return found == std::end(keys) ? nullptr : &*found;
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
    const auto* quantity = gaugeQuantity(gauge.quantity);
    const auto* statistic = statisticKind(gauge.statistic);
    if ((quantity != nullptr && quantity->reads(key)) || (statistic != nullptr && statistic->reads(key)))
        return true;
    const auto reads = [&](const auto* one) { return one->reads(key); };
    return std::ranges::none_of(gaugeQuantities(), reads) && std::ranges::none_of(statisticKinds(), reads);
}

} // namespace pyro
