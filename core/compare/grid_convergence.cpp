#include "core/compare/grid_convergence.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

constexpr double leastRefinement = 1.1;

constexpr double highestOrder = 50;

// |e32 / e21| of a value that changes as h^p, in equations 3 to 5 solved for it; grows with p. `sign`: 1, or -1 where
// the value oscillates.
double ratioAt(double p, double r21, double r32, double sign) {
    const double a = std::pow(r21, p);
    return a * (std::pow(r32, p) - sign) / (a - sign);
}

// By bisection. Nothing where the change does not fall with the size of the cells: no order above zero fits.
std::optional<double> apparentOrder(double e21, double e32, double r21, double r32) {
    const double sign = e32 / e21 < 0 ? -1 : 1;
    const double wanted = std::abs(e32 / e21);
    double low = 1e-9;
    double high = highestOrder;
    if (!(wanted > ratioAt(low, r21, r32, sign)))
        return std::nullopt;
    if (wanted >= ratioAt(high, r21, r32, sign))
        return high;
    for (int i = 0; i < 200 && high - low > 1e-14 * high; ++i) {
        const double middle = (low + high) / 2;
        (ratioAt(middle, r21, r32, sign) < wanted ? low : high) = middle;
    }
    return (low + high) / 2;
}

Done checkSizes(std::span<const double> sizes) {
    for (std::size_t i = 1; i < sizes.size(); ++i) {
        if (!(sizes[i - 1] > 0) || !(sizes[i] > sizes[i - 1]))
            return fail(ErrorCode::NotSupported, fmt::format("mesh {} is not coarser than mesh {}", i + 1, i), {},
                        "Name the cases from fine to coarse");
        if (sizes[i] / sizes[i - 1] < leastRefinement)
            return fail(ErrorCode::NotSupported,
                        fmt::format("mesh {} is only {:.3g} times as coarse as mesh {}; {:g} is needed", i + 1,
                                    sizes[i] / sizes[i - 1], i, leastRefinement),
                        {}, "Take meshes that differ more: 1.3 is recommended");
    }
    return {};
}

} // namespace

std::string_view gridStateName(GridState state) {
    switch (state) {
    case GridState::Monotone:
        return "monotone";
    case GridState::Oscillating:
        return "oscillating";
    case GridState::Diverging:
        return "diverging";
    }
    return "";
}

Result<GridConvergence> convergenceOf(std::span<const double> values, std::span<const double> sizes) {
    if (values.size() < 2 || values.size() != sizes.size())
        return fail(ErrorCode::NotSupported, "two meshes or more are needed");
    if (const auto sound = checkSizes(sizes); !sound)
        return tl::unexpected(sound.error());
    GridConvergence out;
    const double f1 = values[0];
    const double e21 = values[1] - f1;
    const double r21 = sizes[1] / sizes[0];
    const double noise = 1e-12 * std::max(std::abs(f1), std::abs(values[1]));
    if (f1 != 0)
        out.approximateError = std::abs(e21 / f1);
    double order = 1;
    if (values.size() == 2) {
        out.safety = 3;
        out.note = "two meshes: order 1 and factor 3 are taken";
    } else {
        const double e32 = values[2] - values[1];
        if (std::abs(e21) <= noise) {
            out.extrapolated = f1;
            out.extrapolatedError = 0;
            out.index = 0;
            out.uncertainty = 0;
            out.note = "the two finest meshes tell the same";
            return out;
        }
        out.state = e32 / e21 < 0 ? GridState::Oscillating : GridState::Monotone;
        const auto found = apparentOrder(e21, e32, r21, sizes[2] / sizes[1]);
        if (!found) {
            // What the finest mesh changed is then the least that it may be off.
            out.state = GridState::Diverging;
            out.safety = 3;
            out.uncertainty = out.safety * std::abs(e21);
            if (f1 != 0)
                out.index = *out.uncertainty / std::abs(f1);
            out.note = "the change does not fall with the size of the cells: 3 times the last one is taken";
            return out;
        }
        order = *found;
        out.order = order;
        if (order >= highestOrder)
            out.note = "the coarsest mesh is far from the others: no order can be told";
    }
    const double gain = std::pow(r21, order) - 1;
    out.extrapolated = f1 - e21 / gain; // equation 7
    if (*out.extrapolated != 0)
        out.extrapolatedError = std::abs((*out.extrapolated - f1) / *out.extrapolated);
    out.uncertainty = out.safety * std::abs(e21) / gain;
    if (f1 != 0)
        out.index = *out.uncertainty / std::abs(f1); // equation 9
    return out;
}

} // namespace pyro
