// Units of measured values.
#pragma once

#include "core/compare/measured.h"

namespace pyro {

// In SI as a difference. Errors: WrongUnit, and Syntax for what is no number with its unit.
Result<double> differenceInSi(const std::string& written, const MeasuredTable& table);

// A table of the wish with nothing in it.
MeasuredTable emptyMeasured(const MeasuredWish& wish, const std::string& siUnit);

// Of values for which the file tells `found`: that, else the wish's, else SI with a remark; where that would be a guess
// between degC and K, or is no unit of the quantity, the table says so and nothing is returned.
std::optional<std::string> takeUnit(const MeasuredWish& wish, const std::string& found, const std::string& where,
                                    MeasuredTable& out);

void readMeasuredTable(const MeasuredWish& wish, const std::filesystem::path& file, std::span<const Gauge> gauges,
                       MeasuredTable& out);
void readMeasuredPicture(const MeasuredWish& wish, const std::filesystem::path& file, MeasuredTable& out);

} // namespace pyro
