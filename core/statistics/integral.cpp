#include "core/statistics/history_mean.h"
#include "core/statistics/statistic_kind.h"
#include "core/units/unit_product.h"

namespace pyro {

constexpr StatisticKind integralStatistic{
    .name = "integral",
    .meaning = "value times volume, area or length; over the steps times time",
    .ofValues = [](const Values&, const Accumulator& sums, std::string_view) -> Result<Statistic> {
        return Statistic{sums.integral(), {}, false, true};
    },
    .addsUp = true,
    .ofHistory = [](const History& history) -> Result<HistoryValue> {
        const auto unit = UnitProduct::of(history.unit);
        const auto seconds = UnitProduct::of("s");
        if (!history.timed || !unit || !seconds)
            return fail(ErrorCode::NotSupported, "an integral over the steps needs their times");
        return HistoryValue{overTime(history, [](double value) { return value; }), (*unit * *seconds).text()};
    },
};

} // namespace pyro
