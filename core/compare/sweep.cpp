#include "core/compare/sweep.h"

#include "core/compare/sweep_advice.h"

#include "core/units/unit.h"

#include <Eigen/QR>
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <set>

namespace pyro {
namespace {

// A monotone cubic through values at rising places (Fritsch and Carlson 1980, with the harmonic means of Fritsch and
// Butland 1984): between two values it neither over- nor undershoots.
class MonotoneCubic {
public:
    MonotoneCubic(std::vector<double> x, std::vector<double> y) : m_x(std::move(x)), m_y(std::move(y)) {
        const auto count = m_x.size();
        std::vector<double> slope(count - 1);
        for (std::size_t i = 0; i + 1 < count; ++i)
            slope[i] = (m_y[i + 1] - m_y[i]) / (m_x[i + 1] - m_x[i]);
        m_slope.assign(count, slope[0]);
        m_slope.back() = slope.back();
        for (std::size_t i = 1; i + 1 < count; ++i) {
            if (slope[i - 1] * slope[i] <= 0) {
                m_slope[i] = 0;
                continue;
            }
            const double before = m_x[i] - m_x[i - 1];
            const double after = m_x[i + 1] - m_x[i];
            m_slope[i] = 3 * (before + after) / ((2 * after + before) / slope[i - 1] + (after + 2 * before) / slope[i]);
        }
        if (count > 2) {
            m_slope[0] = endSlope(m_x[1] - m_x[0], m_x[2] - m_x[1], slope[0], slope[1]);
            m_slope[count - 1] = endSlope(m_x[count - 1] - m_x[count - 2], m_x[count - 2] - m_x[count - 3],
                                          slope[count - 2], slope[count - 3]);
        }
    }
    double at(std::size_t interval, double x) const {
        const double width = m_x[interval + 1] - m_x[interval];
        const double t = (x - m_x[interval]) / width;
        const double u = 1 - t;
        return u * u * (1 + 2 * t) * m_y[interval] + t * t * (3 - 2 * t) * m_y[interval + 1] +
               width * t * u * (u * m_slope[interval] - t * m_slope[interval + 1]);
    }

private:
    // Three points, kept to the sign and three times the size of the slope beside it.
    static double endSlope(double own, double next, double slope, double nextSlope) {
        const double end = ((2 * own + next) * slope - own * nextSlope) / (own + next);
        if (end * slope <= 0)
            return 0;
        return slope * nextSlope <= 0 && std::abs(end) > 3 * std::abs(slope) ? 3 * slope : end;
    }

    std::vector<double> m_x;
    std::vector<double> m_y;
    std::vector<double> m_slope;
};

// Where the curve is zero, rising along x; a value that is zero itself counts once.
std::vector<double> zerosOf(const std::vector<double>& x, const std::vector<double>& y) {
    const MonotoneCubic curve(x, y);
    std::vector<double> zeros;
    for (std::size_t i = 0; i + 1 < x.size(); ++i) {
        if (y[i] == 0)
            zeros.push_back(x[i]);
        if (!(y[i] * y[i + 1] < 0))
            continue;
        double low = x[i];
        double high = x[i + 1];
        for (int step = 0; step < 200 && high - low > 1e-14 * std::abs(high); ++step) {
            const double middle = (low + high) / 2;
            ((curve.at(i, middle) < 0) == (y[i] < 0) ? low : high) = middle;
        }
        zeros.push_back((low + high) / 2);
    }
    if (y.back() == 0)
        zeros.push_back(x.back());
    return zeros;
}

std::string slopeUnit(const SweepCase::Value& value, const std::string& parameterUnit) {
    const auto own = value.isTemperature ? std::string("K") : value.unit == "1" ? std::string() : value.unit;
    if (parameterUnit.empty() || parameterUnit == "1")
        return own.empty() ? "1" : own;
    return own.empty() ? fmt::format("1/({})", parameterUnit) : fmt::format("{}/({})", own, parameterUnit);
}

void addSensitivities(SweepReading& out, const std::string& gauge) {
    std::vector<const SweepCase*> told;
    const SweepCase::Value* first = nullptr;
    for (const auto& one : out.cases) {
        const auto found = one.gauges.find(gauge);
        if (found == one.gauges.end() || !found->second.value || one.parameters.size() != out.parameters.size())
            continue;
        if (first == nullptr)
            first = &found->second;
        if (found->second.unit == first->unit)
            told.push_back(&one);
    }
    const auto count = static_cast<Eigen::Index>(told.size());
    const auto unknowns = static_cast<Eigen::Index>(out.parameters.size()) + 1;
    if (count <= unknowns)
        return;
    Eigen::MatrixXd places(count, unknowns);
    Eigen::VectorXd values(count);
    for (Eigen::Index row = 0; row < count; ++row) {
        const auto& one = *told[static_cast<std::size_t>(row)];
        places(row, 0) = 1;
        for (Eigen::Index i = 1; i < unknowns; ++i)
            places(row, i) = one.parameters.at(out.parameters[static_cast<std::size_t>(i - 1)].name);
        values(row) = *one.gauges.at(gauge).value;
    }
    // about their means and in units of their spread, so that sizes do not matter
    const Eigen::RowVectorXd means = places.rightCols(unknowns - 1).colwise().mean();
    const double mean = values.mean();
    Eigen::MatrixXd centred = places.rightCols(unknowns - 1).rowwise() - means;
    const Eigen::VectorXd own = values.array() - mean;
    const Eigen::RowVectorXd spread = centred.colwise().norm();
    for (Eigen::Index i = 0; i < centred.cols(); ++i)
        if (spread(i) > 0)
            centred.col(i) /= spread(i);
    const Eigen::VectorXd slopes = centred.colPivHouseholderQr().solve(own);
    const double variance = own.squaredNorm();
    // of values that differ by rounding alone nothing is told
    const bool varies = std::sqrt(variance) > 1e-9 * values.norm();
    for (Eigen::Index i = 0; i < centred.cols(); ++i) {
        const auto& parameter = out.parameters[static_cast<std::size_t>(i)];
        if (!(spread(i) > 0))
            continue;
        const double toKelvin = first->isTemperature ? conversion(first->unit, "K")->difference(1) : 1;
        out.sensitivities.push_back({gauge, parameter.name, toKelvin * slopes(i) / spread(i),
                                     slopeUnit(*first, parameter.unit),
                                     varies ? slopes(i) * centred.col(i).dot(own) / variance : 0});
    }
}

void addCrossings(SweepReading& out, std::size_t limit, const SweepPlan::Parameter& parameter) {
    // by the values of all other parameters: the margin over this one
    std::map<std::map<std::string, double>, std::map<double, double>> curves;
    for (const auto& one : out.cases) {
        if (limit >= one.limits.size() || !one.limits[limit].margin || !one.parameters.contains(parameter.name))
            continue;
        auto others = one.parameters;
        const double at = others.at(parameter.name);
        others.erase(parameter.name);
        curves[others].emplace(at, *one.limits[limit].margin);
    }
    for (const auto& [others, curve] : curves) {
        if (curve.size() < 2)
            continue;
        std::vector<double> x;
        std::vector<double> y;
        for (const auto& [at, margin] : curve) {
            x.push_back(at);
            y.push_back(margin);
        }
        for (const double zero : zerosOf(x, y))
            out.crossings.push_back({limit, parameter.name, zero, parameter.unit, others});
    }
}

} // namespace

const LimitReading* leastMargin(const SweepCase& one) {
    std::set<std::string> units;
    for (const auto& limit : one.limits)
        if (limit.margin)
            units.insert(limit.unit);
    const LimitReading* least = nullptr;
    for (const auto& limit : one.limits) {
        if (!limit.margin)
            continue;
        const auto size = [&](const LimitReading& of) {
            return units.size() == 1 ? *of.margin : of.relativeMargin.value_or(std::numeric_limits<double>::infinity());
        };
        if (least == nullptr || size(limit) < size(*least))
            least = &limit;
    }
    return least;
}

SweepReading analyse(const Survey& survey, SweepPlan plan, std::vector<SweepCase> cases) {
    SweepReading out;
    out.parameters = std::move(plan.parameters);
    out.cases = std::move(cases);
    out.remarks = std::move(plan.remarks);
    out.why = std::move(plan.why);
    std::set<std::string> units;
    for (const auto& one : out.cases)
        for (const auto& limit : one.limits)
            if (limit.margin)
                units.insert(limit.unit);
    std::vector<const SweepCase*> within;
    for (const auto& one : out.cases)
        if (one.verdict() == Verdict::Within && leastMargin(one) != nullptr)
            within.push_back(&one);
    std::ranges::stable_sort(within, std::greater<>(), [&](const SweepCase* one) {
        const auto* least = leastMargin(*one);
        return units.size() <= 1 ? *least->margin : least->relativeMargin.value_or(0);
    });
    for (const auto* one : within)
        out.best.push_back(one->name);
    std::set<std::string> gauges;
    std::size_t limits = 0;
    for (const auto& one : out.cases) {
        for (const auto& [id, value] : one.gauges)
            gauges.insert(id);
        limits = std::max(limits, one.limits.size());
    }
    for (const auto& gauge : gauges)
        addSensitivities(out, gauge);
    for (std::size_t limit = 0; limit < limits; ++limit)
        for (const auto& parameter : out.parameters)
            addCrossings(out, limit, parameter);
    addAdvice(survey, out);
    return out;
}

} // namespace pyro
