#include "core/compare/measured_read.h"

#include "core/units/unit.h"

#include <fmt/format.h>

namespace pyro {

namespace {

// Errors: WrongUnit, and Syntax for what is no number with its unit.
Result<double> differenceInSi(const std::string& written, const MeasuredTable& table) {
    const auto split = splitMeasured(written);
    if (!split)
        return tl::unexpected(split.error());
    const auto toSi = conversion(split->unit.empty() ? table.siUnit : split->unit, table.siUnit);
    if (!toSi)
        return tl::unexpected(toSi.error());
    return toSi->difference(split->value);
}

MeasuredTable emptyMeasured(const MeasuredWish& wish, const std::string& siUnit) {
    MeasuredTable out;
    out.id = wish.id;
    out.quantity = wish.quantity;
    out.component = wish.component;
    out.siUnit = siUnit;
    out.isTemperature = wish.quantity == "temperature";
    return out;
}

} // namespace

std::optional<double> statedUncertainty(const std::string& written, const MeasuredTable& table) {
    const auto si = differenceInSi(written, table);
    return si && !written.empty() ? std::optional(*si) : std::nullopt;
}

std::optional<std::string> takeUnit(const MeasuredWish& wish, const std::string& found, const std::string& where,
                                    MeasuredTable& out) {
    auto unit = found.empty() ? wish.unit : found;
    if (unit.empty() && out.isTemperature) {
        out.why = fmt::format("{}: {} has no unit, so that it is not known whether these are degC or K; write \"value "
                              "[degC]\" in the table, or \"unit\": \"degC\" in the survey",
                              wish.file, where);
        return std::nullopt;
    }
    if (unit.empty()) {
        unit = out.siUnit;
        out.notes.push_back("values without a unit are taken in " + unit);
    }
    if (!sameDimension(unit, out.siUnit)) {
        out.why = fmt::format("{}: the unit \"{}\" of {} is not one of {}", wish.file, unit, where, out.siUnit);
        return std::nullopt;
    }
    return unit;
}

MeasuredTable readMeasured(const MeasuredWish& wish, const std::filesystem::path& file, const std::string& siUnit,
                           std::span<const Gauge> gauges) {
    auto out = emptyMeasured(wish, siUnit);
    if (wish.picture)
        readMeasuredPicture(wish, file, out);
    else
        readMeasuredTable(wish, file, gauges, out);
    if (out.why.empty() && !wish.uncertainty.empty()) {
        const auto uncertainty = differenceInSi(wish.uncertainty, out);
        if (!uncertainty || !(*uncertainty >= 0))
            out.why = fmt::format("the uncertainty \"{}\" is not one in {}", wish.uncertainty, out.siUnit);
    }
    return out;
}

} // namespace pyro
