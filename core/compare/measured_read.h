// What the readers of measured data share.
#pragma once

#include "core/compare/measured.h"

namespace pyro {

// A stated uncertainty in SI, as a difference; nothing for an empty text and for what is none, which readMeasured
// tells.
std::optional<double> statedUncertainty(const std::string& written, const MeasuredTable& table);

// Of values for which the file tells `found`: that, else the wish's, else SI with a remark; where that would be a guess
// between degC and K, or is no unit of the quantity, the table says so and nothing is returned.
std::optional<std::string> takeUnit(const MeasuredWish& wish, const std::string& found, const std::string& where,
                                    MeasuredTable& out);

void readMeasuredTable(const MeasuredWish& wish, const std::filesystem::path& file, std::span<const Gauge> gauges,
                       MeasuredTable& out);
void readMeasuredPicture(const MeasuredWish& wish, const std::filesystem::path& file, MeasuredTable& out);

} // namespace pyro
