// The places of a gauge as they are typed and moved, and copies of it elsewhere.
#pragma once

#include "core/survey/survey.h"

namespace pyro {

struct GaugePlace {
    std::string label; // "place", "from", "to", "place 2", "through", "normal"
    Point at{};        // m; of a normal its direction
    bool direction = false;
};
// Of a point, the ends of a line, what a polyline goes through, origin and normal of a plane or of the plane of a
// trace. Empty for others.
std::vector<GaugePlace> placesOf(const Gauge& gauge);

// "12, 0, 3 mm", or a direction "0, 0, 1".
std::string typedPlace(const GaugePlace& place);
// Three numbers with one unit behind them or one each; bare ones are in `unit`, empty for a direction. Errors: Syntax,
// WrongUnit.
Result<Point> placeOfText(const std::string& text, const std::string& unit);
struct Stations {
    std::size_t axis = 0;   // 0 x, 1 y, 2 z
    std::vector<double> at; // m
};
// "x = 100, 200, 300 mm"; bare numbers are in `unit`. Errors: Syntax, WrongUnit.
Result<Stations> stationsOfText(const std::string& text, const std::string& unit);

// The gauge with one of its places elsewhere. Errors: NameUnknown, WrongType for a normal without length.
Result<Survey> withGaugePlace(Survey survey, std::size_t gauge, std::size_t place, const Point& at);
// The same gauge once more, with a name of its own, at the end. Errors: NameUnknown.
Result<Survey> withGaugeCopy(Survey survey, std::size_t gauge);
// A copy at each of these coordinates along an axis: all its places are moved by the way from its first place to there.
// Errors: NameUnknown, NotSupported for a gauge that has no places of its own.
Result<Survey> withStations(Survey survey, std::size_t gauge, const Stations& stations);

// A temperature that a gauge refers to, as people write it: "20 degC", "T_air" or "gauge T_air", "bulk of outlet", "2
// mm" or "2 mm from the wall". JSON stays. Errors: NameUnknown with what there is.
Result<std::string> referenceOfText(const Survey& survey, const std::string& text);

} // namespace pyro
