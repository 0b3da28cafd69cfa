#include "core/estimate/superposition.h"

#include <Eigen/QR>
#include <cmath>

namespace pyro {
namespace {

constexpr double sameHeat = 1e-4; // of all heat: to how much heats have to add up

double heatOf(const HeatCauses& causes) {
    double sum = 0;
    for (const auto* heats : {&causes.produced, &causes.imposed})
        for (const auto& [name, watt] : *heats)
            sum += std::abs(watt);
    return sum;
}

double in(const std::map<std::string, double>& values, const std::string& name, double otherwise) {
    const auto found = values.find(name);
    return found == values.end() ? otherwise : found->second;
}

// K near all temperatures, from which they are taken, so that little is lost in differences.
double originOf(const HeatCauses& causes) {
    return causes.temperatures.empty() ? 0 : causes.temperatures.begin()->second;
}

// One row for each cause, each divided by how exactly it has to be met; one column for each case, the last for the
// shift.
struct Equations {
    Eigen::MatrixXd causes;
    Eigen::VectorXd wanted;
};

Equations equationsOf(const std::vector<HeatCauses>& solved, std::size_t cases, const HeatCauses& wanted,
                      double accuracy) {
    const auto& first = solved.front();
    const double origin = originOf(first);
    double heat = std::max(heatOf(first), heatOf(wanted));
    for (std::size_t i = 1; i < cases && heat == 0; ++i)
        heat = heatOf(solved[i]); // parts may be named with no heat in them
    const double watt = heat > 0 ? heat * sameHeat : 1;
    Eigen::Index rows = 0;
    for (const auto* values : {&wanted.temperatures, &wanted.produced, &wanted.imposed})
        rows += static_cast<Eigen::Index>(values->size());
    Equations out{Eigen::MatrixXd::Zero(rows, static_cast<Eigen::Index>(cases) + 1), Eigen::VectorXd(rows)};
    Eigen::Index row = 0;
    for (const auto& [name, kelvin] : wanted.temperatures) {
        for (std::size_t i = 0; i < cases; ++i)
            out.causes(row, static_cast<Eigen::Index>(i)) = (in(solved[i].temperatures, name, origin) - origin) /
                                                            accuracy;
        out.causes(row, static_cast<Eigen::Index>(cases)) = 1 / accuracy;
        out.wanted(row++) = (kelvin - origin) / accuracy;
    }
    for (const auto of : {&HeatCauses::produced, &HeatCauses::imposed})
        for (const auto& [name, power] : wanted.*of) {
            for (std::size_t i = 0; i < cases; ++i)
                out.causes(row, static_cast<Eigen::Index>(i)) = in(solved[i].*of, name, 0) / watt;
            out.wanted(row++) = power / watt;
        }
    return out;
}

} // namespace

std::optional<Weights> weightsFor(const std::vector<HeatCauses>& solved, const HeatCauses& wanted) {
    if (solved.empty())
        return std::nullopt;
    const double origin = originOf(solved.front());
    for (std::size_t cases = 1; cases <= solved.size(); ++cases) {
        double accuracy = wanted.accuracy;
        for (std::size_t i = 0; i < cases; ++i)
            accuracy = std::max(accuracy, solved[i].accuracy);
        const auto equations = equationsOf(solved, cases, wanted, accuracy);
        Eigen::CompleteOrthogonalDecomposition<Eigen::MatrixXd> decomposed(equations.causes.rows(),
                                                                           equations.causes.cols());
        decomposed.setThreshold(1e-7);
        decomposed.compute(equations.causes);
        const Eigen::VectorXd found = decomposed.solve(equations.wanted);
        if (!found.allFinite() || (equations.causes * found - equations.wanted).lpNorm<Eigen::Infinity>() > 1)
            continue;
        Weights weights{{found.data(), found.data() + cases}, 0};
        double sum = 0;
        for (const double weight : weights.ofCases)
            sum += weight;
        // The temperatures were taken from `origin` on.
        weights.shift = found(static_cast<Eigen::Index>(cases)) + origin * (1 - sum);
        return weights;
    }
    return std::nullopt;
}

} // namespace pyro
