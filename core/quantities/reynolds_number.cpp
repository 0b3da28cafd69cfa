#include "core/quantities/flow_state.h"
#include "core/quantities/gauge_quantity.h"

namespace pyro {
namespace {

Result<Measured> reynolds(const MeasureRequest& request) {
    if (!(request.length && *request.length > 0))
        return fail(ErrorCode::WrongType, "a Reynolds number needs a length", {}, "Add the key \"length\"");
    const auto part = fluidHere(request);
    if (!part)
        return tl::unexpected(part.error());
    const auto density = request.fields().field(*part, "density");
    const auto viscosity = request.fields().field(*part, "viscosity");
    if (!density || !viscosity)
        return tl::unexpected((density ? viscosity : density).error());
    if (!density->isConstant() || !viscosity->isConstant() || !(viscosity->constant > 0))
        return fail(ErrorCode::NotSupported, "density and viscosity are needed as one value each");
    const auto speed = speedHere(request);
    if (!speed)
        return tl::unexpected(speed.error());
    return Measured{density->constant * *speed * *request.length / viscosity->constant, "1"};
}

} // namespace

constexpr GaugeQuantity reynoldsNumberQuantity{
    .name = "reynolds_number",
    .siUnit = "1",
    .meaning = "speed times length over the kinematic viscosity",
    .symbol = "Re",
    .group = QuantityGroup::Flow,
    .keys = {"length", "speed"},
    .measure = reynolds,
};

} // namespace pyro
