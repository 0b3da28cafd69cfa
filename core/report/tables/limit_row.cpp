#include "core/report/tables/limit_row.h"

#include "core/report/limit_text.h"

namespace pyro {

LimitCells limitCells(const CaseEntry& entry, const LimitReading& limit, TemperatureUnit unit) {
    const bool temperature = limit.isTemperature && limit.unit == "K";
    const auto shown = [&](const std::optional<double>& value) {
        return value && temperature ? Cell(toDisplay(Temperature{*value}, unit)) : Cell(value);
    };
    return {targetKindName(limit.target.kind),
            limit.target.name,
            targetName(entry, limit.target),
            shown(limit.value),
            shown(limit.limit),
            temperature ? std::string(udunitsName(unit)) : limit.unit,
            limit.margin,
            limit.unit,
            verdictName(limit.verdict)};
}

} // namespace pyro
