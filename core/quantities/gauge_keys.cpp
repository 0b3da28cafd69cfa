#include "core/quantities/gauge_keys.h"

#include "core/gauge/formula.h"
#include "core/quantities/gauge_quantity.h"
#include "core/statistics/statistic_kind.h"

#include <algorithm>
#include <vector>

namespace pyro {

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
