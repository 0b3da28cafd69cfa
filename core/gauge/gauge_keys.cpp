#include "core/gauge/gauge_keys.h"

#include "core/gauge/formula.h"

#include <algorithm>
#include <array>
#include <span>
#include <vector>

namespace pyro {
namespace {

using Names = std::vector<std::string_view>;

const Names timeStatistics{"time_to_reach", "first_above", "duration_above", "time_constant"};
const Names coefficients{"film_coefficient", "nusselt_number", "biot_number", "stanton_number"};

struct KeyUse {
    std::string_view key;
    Names quantities; // that read it
    Names statistics; // that read it, whatever the quantity
};

Names with(Names names, std::initializer_list<std::string_view> further) {
    names.insert(names.end(), further);
    return names;
}

const std::vector<KeyUse>& uses() {
    static const std::vector<KeyUse> all{
        {"reference",
         with(coefficients, {"dimensionless_temperature", "thermal_resistance", "heat_content", "enthalpy_flow"}),
         {}},
        {"wall", {"dimensionless_temperature", "boundary_layer_thickness"}, {}},
        {"length", {"nusselt_number", "biot_number", "reynolds_number"}, {}},
        {"speed", {"stanton_number", "reynolds_number", "dimensionless_speed"}, {}},
        {"per", {"thermal_resistance"}, {}},
        {"conductivity", {"nusselt_number", "biot_number"}, {}},
        {"method", with(coefficients, {"heat_flux"}), {}},
        {"mean_of", coefficients, {}},
        {"of", {"boundary_layer_thickness"}, {}},
        {"free", {"boundary_layer_thickness"}, {}},
        {"share", {"boundary_layer_thickness"}, {}},
        {"complement", {"dimensionless_temperature"}, {}},
        {"level", {"volume_above"}, {"time_to_reach", "first_above", "duration_above", "volume_above", "area_above"}},
        {"final", {}, {"time_constant"}},
        {"prominence", {}, {"hotspots"}},
        {"drop", {}, {"hotspots"}},
        {"cold", {}, {"hotspots"}},
        {"air", {"dew_point", "required_temperature_factor"}, {}},
        {"humidity", {"dew_point", "required_temperature_factor"}, {}},
        {"outside", {"required_temperature_factor"}, {}},
        {"surface_humidity", {"dew_point", "required_temperature_factor"}, {}},
        {"dimensions", {"linear_transmittance", "point_transmittance"}, {}},
        {"flanks", {"linear_transmittance", "point_transmittance"}, {}},
        {"linear", {"point_transmittance"}, {}},
    };
    return all;
}

bool holds(const Names& names, std::string_view name) { return std::ranges::find(names, name) != names.end(); }

} // namespace

bool isTimeStatistic(std::string_view statistic) { return holds(timeStatistics, statistic); }

bool readsOverSteps(const Gauge& gauge) { return gauge.rest.contains("over") || isTimeStatistic(gauge.statistic); }

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
    const auto use = std::ranges::find(uses(), key, &KeyUse::key);
    return use == uses().end() || holds(use->quantities, gauge.quantity) || holds(use->statistics, gauge.statistic);
}

} // namespace pyro
