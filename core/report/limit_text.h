// How the values of a limit's verdict are written, the same in window, command line and report.
#pragma once

#include "core/readings/readings.h"
#include "core/survey/survey.h"
#include "core/units/reader_units.h"

namespace pyro {

// What a limit is on, as people call it: a part by its label.
std::string targetName(const CaseEntry& entry, const LimitTarget& target);
// A value or a bound: "96.3 degC" in the unit on display, "41.2 K" for a rise, "12 %" for a share, "35 s".
std::string limitLevel(const LimitReading& limit, const std::optional<double>& value, const ReaderUnits& unit);
// A margin or what is required: a difference, never offset.
std::string limitDifference(const LimitReading& limit, const std::optional<double>& value,
                            const ReaderUnits& unit = {});
// The margin, with how far the mesh may have it off where that is known: "12.4 K +- 1.1 K".
std::string marginText(const LimitReading& limit, const ReaderUnits& unit = {});
// Why a verdict is tight for its mesh alone; empty where it is not.
std::string meshText(const LimitReading& limit);
// What is judged, in words: also of a plain temperature or gauge.
std::string judgedQuantity(const Limit& limit);
// What it is about: empty for a plain temperature or gauge, else "rise above ambient", "share above 85 degC".
std::string limitWords(const Limit& limit);
// When it is first exceeded and how long, of several steps; empty where it never is.
std::string overTimeText(const LimitReading& limit);

} // namespace pyro
