#include "core/gauge/gauge_read.h"

#include <fmt/format.h>
#include <numeric>

namespace pyro {
namespace {

tl::unexpected<Error> notYet(const std::string& what) {
    return fail(ErrorCode::NotSupported, what + " is not read by this version");
}

Component componentOf(const std::string& name) {
    if (name == "x")
        return Component::X;
    if (name == "y")
        return Component::Y;
    if (name == "z")
        return Component::Z;
    if (name == "normal")
        return Component::Normal;
    return name == "magnitude" ? Component::Magnitude : Component::Natural;
}

Result<MeasuredGauge> inUnit(MeasuredGauge measured, const std::string& wanted, bool difference) {
    if (wanted.empty())
        return measured;
    const auto converted = conversion(measured.unit, wanted);
    if (!converted)
        return tl::unexpected(converted.error());
    measured.value = difference ? converted->difference(measured.value) : (*converted)(measured.value);
    measured.unit = wanted;
    return measured;
}

// The unit of an integral over an extent; powers are called by their name.
std::string integralUnit(const std::string& unit, bool area) {
    if (area && unit == "W/m2")
        return "W";
    if (!area && unit == "W/m3")
        return "W";
    const std::string extent = area ? "m2" : "m3";
    return unit.empty() || unit == "1" ? extent : unit + "." + extent;
}

bool isSurface(const Case& solved, const Support& support) {
    return support.boundaries || (!support.regions.empty() && solved.parts[support.regions.front()].dimension == 2);
}

double extentOf(const CaseIndex& index, const Support& support) {
    double sum = 0;
    for (const auto region : support.regions)
        sum += support.boundaries ? index.boundaries[region].size : index.parts[region].size;
    return sum;
}

Result<MeasuredGauge> statistic(const Gauge& gauge, const Case& solved, const Support& support,
                                const SupportReading& reading, const Quantity& quantity) {
    const auto& name = gauge.statistic;
    const auto& sums = reading.sums;
    if (name == "max")
        return MeasuredGauge{reading.max(), quantity.siUnit, placeOf(solved, support, reading.on, sums.max())};
    if (name == "min")
        return MeasuredGauge{reading.min(), quantity.siUnit, placeOf(solved, support, reading.on, sums.min())};
    if (name == "range")
        return MeasuredGauge{reading.max() - reading.min(), quantity.siUnit, std::nullopt};
    if (name == "integral")
        return MeasuredGauge{reading.integral(), integralUnit(quantity.siUnit, isSurface(solved, support)),
                             std::nullopt};
    if (name == "count")
        return MeasuredGauge{static_cast<double>(sums.count()), "1", std::nullopt};
    if (!name.empty() && name != "mean")
        return notYet(fmt::format("the statistic \"{}\"", name));
    if (!(sums.extent() > 0))
        return fail(ErrorCode::NoCells, "the support has no extent to average over");
    return MeasuredGauge{reading.mean(), quantity.siUnit, std::nullopt};
}

} // namespace

Result<Support> supportOf(const Where& where, const Case& solved) {
    Support support;
    if (where.kind == Where::Kind::Other)
        return notYet(fmt::format("the place {}", where.written.dump()));
    if (where.kind == Where::Kind::AllParts) {
        support.regions.resize(solved.parts.size());
        std::iota(support.regions.begin(), support.regions.end(), std::size_t{0});
        return support;
    }
    support.boundaries = where.kind == Where::Kind::Boundaries;
    for (const auto& name : where.names) {
        const auto found = support.boundaries ? solved.boundaryNamed(name) : solved.partNamed(name);
        if (!found)
            return fail(ErrorCode::NameUnknown, fmt::format("the case has no {} named \"{}\"",
                                                            support.boundaries ? "boundary" : "part", name));
        support.regions.push_back(*found);
    }
    return support;
}

std::string notFiniteReason(const Case& solved, const Support& support, const SupportReading& reading) {
    if (reading.sums.notFinite() == 0)
        return {};
    const auto place = placeOf(solved, support, reading.on, reading.sums.firstNotFinite());
    return fmt::format("{} of {} values are NaN or infinite, the first at {} {} ({:g}, {:g}, {:g})",
                       reading.sums.notFinite(), reading.sums.count(), locationName(reading.on), place.number,
                       place.at[0], place.at[1], place.at[2]);
}

Result<MeasuredGauge> readGauge(const Gauge& gauge, const Case& solved, const CaseIndex& index,
                                const QuantityList& quantities) {
    if (!gauge.formula.empty())
        return notYet("a formula");
    for (const auto* key : {"weight", "reference", "method", "over", "level"})
        if (gauge.rest.contains(key))
            return notYet(fmt::format("the key \"{}\"", key));
    const auto support = supportOf(gauge.where, solved);
    if (!support)
        return tl::unexpected(support.error());
    const bool surface = isSurface(solved, *support);
    if (gauge.quantity == "area" || gauge.quantity == "volume") {
        if ((gauge.quantity == "area") != surface)
            return fail(ErrorCode::NotSupported, fmt::format("a {} has no {}", surface ? "surface" : "volume part",
                                                             gauge.quantity));
        return inUnit({extentOf(index, *support), surface ? "m2" : "m3", std::nullopt}, gauge.unit, false);
    }
    const auto* quantity = quantities.named(gauge.quantity);
    if (quantity == nullptr)
        return fail(ErrorCode::NameUnknown, fmt::format("the case has no quantity \"{}\"", gauge.quantity));
    const auto reading = read(solved, index, *support, *quantity, componentOf(gauge.component));
    if (!reading)
        return tl::unexpected(reading.error());
    if (const auto reason = notFiniteReason(solved, *support, *reading); !reason.empty())
        return fail(ErrorCode::NotSupported, reason);
    auto measured = statistic(gauge, solved, *support, *reading, *quantity);
    if (!measured)
        return measured;
    return inUnit(std::move(*measured), gauge.unit, gauge.statistic == "range");
}

} // namespace pyro
