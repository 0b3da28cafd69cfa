#include "core/thermal/measure_request.h"

namespace pyro {

std::string MeasureRequest::statistic() const {
    if (!gauge.statistic.empty() && gauge.statistic != "history")
        return gauge.statistic;
    if (site.kind == SiteKind::Line)
        return "profile";
    return "mean";
}

std::optional<HeatMethod> MeasureRequest::method() const {
    for (const auto one : {HeatMethod::Stored, HeatMethod::Conservative, HeatMethod::Film, HeatMethod::Gradient})
        if (options.method == heatMethodName(one))
            return one;
    return std::nullopt;
}

} // namespace pyro
