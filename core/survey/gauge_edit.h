// Changes of a survey's gauges and of its chart.
#pragma once

#include "core/survey/survey.h"

namespace pyro {

// "point_1", "point_2", ...: the first that no gauge has.
std::string freeGaugeId(const Survey& survey, const std::string& stem);
// A letter or "_", then letters, digits and "_".
bool isGaugeId(std::string_view text);

// Without an id it gets a free one made from what it measures.
Survey withGauge(Survey survey, Gauge gauge);
Survey withoutGauge(Survey survey, std::size_t gauge);
// Limits, formulas, references and charts follow. Errors: Syntax for no id, NameUnknown for one that is taken.
Result<Survey> withGaugeId(Survey survey, std::size_t gauge, const std::string& id);

enum class GaugeField { Quantity, Statistic, Unit, Component, Formula, Where, Group };
// Errors: WrongUnit for a unit that is none; Syntax and WrongType for a `where` that cannot be read.
Result<Survey> withGaugeField(Survey survey, std::size_t gauge, GaugeField field, const std::string& text);
// A key beyond these, as the survey writes it: "reference", "length", "weight", "method" ...; an empty text takes it
// away. A text that begins with "{" or "[" is JSON. Errors: those of optionsOf, Syntax.
Result<Survey> withGaugeKey(Survey survey, std::size_t gauge, const std::string& key, const std::string& text);
// The key "decimals" of every gauge, as withGaugeKey takes it.
Result<Survey> withDecimals(Survey survey, const std::string& text);
std::string gaugeKey(const Gauge& gauge, const std::string& key); // as withGaugeKey takes it
// A reading of the gauge as it is shown, without unit: its own decimals, else one for temperatures and five digits for
// the rest.
std::string gaugeNumber(const Gauge& gauge, double value, bool isTemperature);

// "part amplifier", "line, 64 mm", "plane at x 12 y 0 z 0 mm".
std::string placeText(const Gauge& gauge);
// The point itself or the places that a line goes through; empty for other gauges.
std::vector<Point> drawnPlaces(const Gauge& gauge);

} // namespace pyro
