#include "core/statistics/statistic_measured.h"

#include "core/units/unit_product.h"

#include <array>

namespace pyro {

Result<Measured> statisticMeasured(const MeasureRequest& request, const Values& values, const std::string& siUnit,
                                   bool isTemperature) {
    const auto name = request.statistic();
    if (name == "profile")
        return fail(ErrorCode::NotSupported, "only a line has a profile");
    const auto statistic = statisticOf(values, name);
    if (!statistic)
        return tl::unexpected(statistic.error());
    Measured out{statistic->value, siUnit.empty() ? "1" : siUnit, isTemperature && !statistic->isDifference};
    if (statistic->isCount)
        return Measured{statistic->value, "1"};
    if (statistic->overExtent) {
        static constexpr std::array<const char*, 4> extent{"m3", "m2", "m", "1"};
        out.isTemperature = false;
        if (siUnit.empty()) { // of an integral nothing is known then either
            out.siUnit.clear();
            out.place = statistic->place;
            return out;
        }
        const auto unit = UnitProduct::of(out.siUnit);
        const auto by = UnitProduct::of(extent[static_cast<std::size_t>(request.site.kind)]);
        if (!unit || !by)
            return tl::unexpected((unit ? by : unit).error());
        out.siUnit = (*unit * *by).text();
        out.isTemperature = false;
    }
    out.place = statistic->place;
    if (request.site.kind == SiteKind::Spot)
        out.place = Place{request.site.points.at[0], Location::Node, 0, request.site.points.part[0]};
    return out;
}

Result<Measured> profileMeasured(const MeasureRequest& request, std::vector<double> numbers, const std::string& siUnit,
                                 bool isTemperature) {
    const auto& site = request.site;
    auto profile = std::make_shared<Profile>();
    profile->s = site.s;
    profile->at = site.points.at;
    profile->share = 1 - site.outside;
    for (const auto part : site.points.part)
        profile->part.push_back(part == noNumber ? Profile::noPart : part);
    profile->value = std::move(numbers);
    Measured out{0, siUnit.empty() ? "1" : siUnit, isTemperature};
    out.profile = std::move(profile);
    return out;
}

} // namespace pyro
