// A value of a sweep over two of its parameters, as curves over one, and two values against each other.
#pragma once

#include "core/compare/sweep_values.h"

#include <array>

namespace pyro {

struct ValueMap {
    std::string x; // names of the parameters
    std::string y;
    std::vector<double> xs; // rising
    std::vector<double> ys;
    std::vector<double> values; // row by row of ys, in `unit`; NaN where no case tells it
    std::string unit;
    std::vector<std::size_t> cases; // position in the sweep, per value; noCase where there is none
    static constexpr std::size_t noCase = ~std::size_t{0};
    // Within each rectangle of four cases bilinear; NaN beside them.
    double at(double xAt, double yAt) const;
    // Pieces of the line of one value, as pairs of places.
    std::vector<std::array<std::array<double, 2>, 2>> lineAt(double level) const;
};

// Parameters of a case other than some of them: what a slice through the sweep holds.
std::map<std::string, double> heldBy(const SweepCase& one, std::initializer_list<std::string> without);

// Of the cases whose other parameters are those of `held`. Errors: NotSupported, with the reason: fewer than two values
// of a parameter.
Result<ValueMap> valueMap(const SweepReading& sweep, const SweepValue& value, const std::string& x,
                          const std::string& y, const std::map<std::string, double>& held);

// The value over one parameter, the others held but for `by`: a curve for each of its values (empty: one curve).
struct SweepCurve {
    std::optional<double> by;
    std::vector<double> x; // rising
    std::vector<double> y;
    std::vector<std::size_t> cases; // per place
};
std::vector<SweepCurve> curvesOf(const SweepReading& sweep, const SweepValue& value, const std::string& x,
                                 const std::string& by, const std::map<std::string, double>& held);

// The cases that no other one beats in both values, by the first one rising; margins are better when larger, gauges
// when smaller.
std::vector<std::size_t> frontOf(const SweepValue& first, const SweepValue& second);
inline bool largerIsBetter(const SweepValue& value) { return value.gauge.empty(); }

// The cases that lie within every range: of parameters by their names, of values by their keys. A range of what is not
// there leaves all.
std::vector<std::size_t> casesWithin(const SweepReading& sweep, const std::vector<SweepValue>& values,
                                     const std::map<std::string, std::array<double, 2>>& ranges);

// The choices of a view with what they leave open, or what is no longer there, filled in: the first value, the first
// parameters (of a front the first values), further ones as the best case has them, else the first.
SweepLook filledLook(SweepLook look, const SweepReading& sweep, const std::vector<SweepValue>& values);

} // namespace pyro
