// What goes into parts, comes out of them, is produced and stored there, and what remains.
#include "core/thermal/balances.h"
#include "core/quantities/gauge_quantity.h"

#include <fmt/format.h>

namespace pyro {
namespace {

Result<Measured> heatBalance(const MeasureRequest& request) {
    if (request.site.kind != SiteKind::Volume)
        return fail(ErrorCode::NotSupported, "a balance is drawn over parts");
    const auto statistic = request.gauge.statistic.empty() ? "remainder" : request.gauge.statistic;
    double sum = 0;
    std::string method;
    for (const auto part : request.site.regions.regions) {
        const auto balance = partBalance(request.heat, part);
        const auto value = statistic == "in"         ? balance.in
                           : statistic == "out"      ? balance.out
                           : statistic == "produced" ? balance.produced
                           : statistic == "stored"   ? balance.stored
                                                     : balance.remainder();
        if (statistic != "in" && statistic != "out" && statistic != "produced" && statistic != "stored" &&
            statistic != "remainder")
            return fail(ErrorCode::NotSupported, fmt::format("a balance has no statistic \"{}\"", statistic), {},
                        "Use in, out, produced, stored or remainder");
        if (!value)
            return fail(ErrorCode::NotSupported, balance.why);
        sum += *value;
        method = balance.method;
    }
    Measured out{sum, "W"};
    out.method = method;
    return out;
}

Result<Measured> massBalance(const MeasureRequest& request) {
    if (request.site.kind != SiteKind::Volume)
        return fail(ErrorCode::NotSupported, "a balance is drawn over parts");
    const auto statistic = request.gauge.statistic.empty() ? "remainder" : request.gauge.statistic;
    double in = 0;
    double out = 0;
    for (const auto part : request.site.regions.regions) {
        const auto flow = massThrough(request.heat.fields(), part);
        if (!flow)
            return tl::unexpected(flow.error());
        in += flow->in;
        out += flow->out;
    }
    if (statistic != "in" && statistic != "out" && statistic != "remainder")
        return fail(ErrorCode::NotSupported, fmt::format("a mass balance has no statistic \"{}\"", statistic), {},
                    "Use in, out or remainder");
    return Measured{statistic == "in" ? in : statistic == "out" ? out : in - out, "kg/s"};
}

} // namespace

constexpr GaugeQuantity heatBalanceQuantity{
    .name = "heat_balance",
    .siUnit = "W",
    .meaning = "heat in, out, produced, stored and what remains",
    .place = PlaceNeed::Part,
    .field = "temperature",
    .statistics = {"remainder", "in", "out", "produced", "stored"},
    .addsUp = true,
    .measure = heatBalance,
};

constexpr GaugeQuantity massBalanceQuantity{
    .name = "mass_balance",
    .siUnit = "kg/s",
    .meaning = "mass in, out and what remains",
    .group = QuantityGroup::Flow,
    .place = PlaceNeed::Part,
    .field = "velocity",
    .statistics = {"remainder", "in", "out"},
    .addsUp = true,
    .measure = massBalance,
};

} // namespace pyro
