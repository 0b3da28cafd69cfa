#include "core/case/quantity.h"
#include "core/quantities/field_quantity.h"
#include "core/quantities/gauge_quantity.h"

#include <algorithm>

namespace pyro {
namespace {

constexpr const GaugeQuantity* all[]{
#define QUANTITY(name) &name##Quantity,
#include "core/quantities/list.inc"
#undef QUANTITY
};

} // namespace

bool GaugeQuantity::reads(std::string_view key) const {
    return std::ranges::find(keys, key) != keys.end() ||
           std::ranges::find(ownKeys, key, &GaugeKey::key) != ownKeys.end();
}

std::span<const GaugeQuantity* const> gaugeQuantities() { return all; }

const GaugeQuantity* gaugeQuantity(std::string_view name) {
    const auto found = std::ranges::find(all, name, &GaugeQuantity::name);
    return found == std::end(all) ? nullptr : *found;
}

bool isEnvelopeQuantity(std::string_view quantity) {
    const auto* described = gaugeQuantity(quantity);
    return described != nullptr && described->measureEnvelope != nullptr;
}

std::string_view siUnitOf(std::string_view quantity) {
    if (const auto* described = gaugeQuantity(quantity))
        return described->siUnit;
    const auto* known = knownQuantity(quantity);
    return known != nullptr ? known->siUnit : std::string_view();
}

std::string_view symbolOf(std::string_view quantity, std::string_view statistic) {
    const auto* described = gaugeQuantity(quantity);
    if (described != nullptr && !described->integralSymbol.empty() && statistic == integralStatistic.name)
        return described->integralSymbol;
    const auto* known = knownQuantity(quantity);
    const auto symbol = described != nullptr ? described->symbol : known != nullptr ? known->symbol : "";
    return symbol.empty() ? quantity : symbol;
}

std::string_view levelQuantity(std::string_view quantity) {
    const auto* described = gaugeQuantity(quantity);
    return described != nullptr && !described->levelOf.empty() ? described->levelOf : quantity;
}

Result<Measured> measure(const MeasureRequest& request) {
    const auto* described = gaugeQuantity(request.gauge.quantity);
    return described != nullptr && described->measure != nullptr ? described->measure(request) : measureField(request);
}

} // namespace pyro
