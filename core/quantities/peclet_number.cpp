#include "core/quantities/flow_state.h"
#include "core/quantities/gauge_quantity.h"

namespace pyro {
namespace {

// u L rho cp / k
Result<Measured> peclet(const MeasureRequest& request) {
    if (!(request.length && *request.length > 0))
        return fail(ErrorCode::WrongType, "a Peclet number needs a length", {}, "Add the key \"length\"");
    const auto part = fluidHere(request);
    if (!part)
        return tl::unexpected(part.error());
    double number = *request.length;
    for (const auto* name : {"density", "heat_capacity", "conductivity"}) {
        const auto field = request.fields().field(*part, name);
        if (!field)
            return tl::unexpected(field.error());
        if (!field->isConstant() || !(field->constant > 0))
            return fail(ErrorCode::NotSupported,
                        "density, heat capacity and conductivity are needed as one value each");
        number *= name == std::string_view("conductivity") ? 1 / field->constant : field->constant;
    }
    const auto speed = speedHere(request);
    if (!speed)
        return tl::unexpected(speed.error());
    return Measured{number * *speed, "1"};
}

} // namespace

constexpr GaugeQuantity pecletNumberQuantity{
    .name = "peclet_number",
    .siUnit = "1",
    .meaning = "speed times length over the thermal diffusivity: Reynolds times Prandtl number",
    .symbol = "Pe",
    .group = QuantityGroup::Flow,
    .keys = {"length", "speed"},
    .measure = peclet,
};

} // namespace pyro
