#include "core/quantities/flow_state.h"
#include "core/quantities/gauge_quantity.h"
#include "core/statistics/statistic_kind.h"
#include "core/thermal/site_values.h"

#include <array>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

constexpr double gravity = 9.80665; // m/s2, standard (ISO 80000-3)

// g beta |T - T_reference| L^3 rho^2 cp / (mu k), as Incropera and DeWitt, Fundamentals of Heat and Mass Transfer,
// equation 9.25, has it with the kinematic viscosity and the thermal diffusivity.
Result<Measured> rayleigh(const MeasureRequest& request) {
    if (!(request.length && *request.length > 0 && request.reference))
        return fail(ErrorCode::WrongType, "a Rayleigh number needs a length and a reference temperature", {},
                    "Add the keys \"length\" and \"reference\"");
    const auto part = fluidHere(request);
    if (!part)
        return tl::unexpected(part.error());
    std::array<double, 4> fluid{};
    constexpr std::array names{"density", "heat_capacity", "viscosity", "conductivity"};
    for (std::size_t i = 0; i < names.size(); ++i) {
        const auto field = request.fields().field(*part, names[i]);
        if (!field)
            return tl::unexpected(field.error());
        if (!field->isConstant() || !(field->constant > 0))
            return fail(ErrorCode::NotSupported, fmt::format("{} is needed as one value above zero", names[i]));
        fluid[i] = field->constant;
    }
    const auto values = valuesAt(request.site, request.fields(), "temperature", Component::Natural);
    if (!values)
        return tl::unexpected(values.error());
    const auto mean = statisticOf(*values, "mean");
    if (!mean)
        return tl::unexpected(mean.error());
    const double film = (mean->value + request.reference->kelvin) / 2;
    const auto given = request.options.number("expansion");
    const double expansion = given.value_or(1 / film);
    const auto [density, capacity, viscosity, conductivity] = fluid;
    Measured out{gravity * expansion * std::abs(mean->value - request.reference->kelvin) *
                     std::pow(*request.length, 3) * density * density * capacity / (viscosity * conductivity),
                 "1"};
    out.reference = request.reference->text;
    out.method = given ? "" : fmt::format("expansion of an ideal gas at {:.1f} degC", film - 273.15);
    return out;
}

constexpr GaugeKey expansionKey[]{
    {.key = "expansion",
     .kind = GaugeKeyKind::ValueOrReference,
     .meaning = "thermal expansion of the fluid by volume, 1/K; left out: that of an ideal gas",
     .typedIn = TypedIn::Unit,
     .unit = "1/K",
     .siUnit = "1/K",
     .label = "Thermal expansion",
     .tip = "Of the fluid by volume, with its unit: 2.1e-4 1/K; empty: that of an ideal gas"}};

} // namespace

constexpr GaugeQuantity rayleighNumberQuantity{
    .name = "rayleigh_number",
    .siUnit = "1",
    .meaning = "buoyancy against viscosity and conduction, of a wall against the fluid",
    .symbol = "Ra",
    .group = QuantityGroup::Flow,
    .field = "temperature",
    .keys = {"length", "reference"},
    .ownKeys = expansionKey,
    .measure = rayleigh,
};

} // namespace pyro
