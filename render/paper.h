// The pages of reports: A4 upright.
#pragma once

namespace pyro {

constexpr double pageWidthMm = 210;
constexpr double pageHeightMm = 297;
constexpr double marginMm = 18;
constexpr double footMm = 12;
constexpr double textWidthMm = pageWidthMm - 2 * marginMm;

} // namespace pyro
