#include "core/feedback/counted.h"
#include "core/thermal/balances.h"
#include "core/thermal/face_boundaries.h"
#include "core/thermal/whole_heat.h"
#include "core/trust/checks.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <functional>

namespace pyro {
namespace {

constexpr double lookAbove = 0.01;
constexpr double brokenAbove = 0.05;

CheckState stateOf(double share) {
    return share > brokenAbove ? CheckState::Failed : share > lookAbove ? CheckState::Review : CheckState::Passed;
}

double turnoverOf(const Balances& balances) { // W, through the boundaries
    double in = 0;
    double out = 0;
    for (const auto& flow : balances.boundaries)
        (flow.outer.value_or(0) < 0 ? in : out) += std::abs(flow.outer.value_or(0));
    double produced = 0;
    for (const auto& part : balances.parts)
        produced += std::max(0.0, part.produced.value_or(0));
    return std::max({in, out, produced});
}

bool hasBalances(const TrustInput& input) { return input.readings.balances != nullptr; }

void partBalanceAnswer(const TrustInput& input, Check& check) {
    const auto& balances = *input.readings.balances;
    double worst = -1;
    int unknown = 0;
    std::string why;
    const double turnover = turnoverOf(balances);
    for (const auto& part : balances.parts) {
        const auto remainder = part.remainder();
        if (!remainder || !part.share()) {
            ++unknown;
            why = part.why;
            continue;
        }
        // A part that hardly anything passes is not worth a word: what is left over counts against the whole as well.
        const double share = std::abs(*remainder) < 1e-3 * turnover ? std::min(*part.share(), 0.5 * lookAbove)
                                                                    : *part.share();
        if (share > worst) {
            worst = share;
            check.part = part.part;
            check.figure = fmt::format("{:.2g} % ({:.3g} W) in {}", 100 * *part.share(), *remainder,
                                       input.shown(part.part));
        }
    }
    if (worst < 0) {
        check.state = CheckState::NotCheckable;
        check.figure = unknown == 1 ? std::string("unknown") : fmt::format("unknown for all {} parts", unknown);
        check.meaning = why;
        return;
    }
    check.state = stateOf(worst);
    if (unknown > 0)
        check.figure += fmt::format("; unknown for {}", counted(static_cast<std::uint64_t>(unknown), "part"));
}

void wholeBalanceAnswer(const TrustInput& input, Check& check) {
    if (input.heat.transience().changes)
        check.meaning = "What is produced and does not leave is stored, told by the change since the step before; "
                        "steps wider than the solver's leave a remainder.";
    const auto heat = wholeHeat(input.readings);
    if (!heat) {
        check.state = CheckState::NotCheckable;
        check.part = heat.error().where;
        check.figure = "not known";
        check.meaning = heat.error().what;
        return;
    }
    check.figure = heat->text();
    check.state = stateOf(heat->open());
}

// What passes each boundary of a fluid, kg/s, the largest first; walls that pass nothing are left out.
std::string openingsOf(const TrustInput& input, std::size_t part) {
    std::vector<std::pair<double, std::string>> openings;
    const auto& boundaries = input.heat.fields().index().boundaries;
    for (std::size_t i = 0; i < input.readings.balances->boundaries.size(); ++i) {
        const auto& flow = input.readings.balances->boundaries[i];
        if (flow.mass && *flow.mass != 0 &&
            std::ranges::find(boundaries[i].part, static_cast<std::uint32_t>(part)) != boundaries[i].part.end())
            openings.emplace_back(*flow.mass, flow.boundary);
    }
    std::ranges::stable_sort(openings, std::greater<>(), [](const auto& one) { return std::abs(one.first); });
    std::string text;
    for (std::size_t i = 0; i < std::min<std::size_t>(openings.size(), 6); ++i)
        text += fmt::format("{}{} {:+.4g}", i == 0 ? ": " : ", ", openings[i].second, openings[i].first);
    return text;
}

std::vector<Check> massBalances(const TrustInput& input, const Check& unanswered) {
    std::vector<Check> checks;
    const auto& fields = input.heat.fields();
    for (std::size_t part = 0; part < fields.solved().parts.size(); ++part) {
        if (!fields.stored(part, "velocity"))
            continue;
        const auto& name = fields.solved().parts[part].name;
        auto check = unanswered;
        check.title = "Mass of " + input.shown(name) + " balances";
        check.part = name;
        auto mass = massThrough(fields, part);
        if (mass) {
            mass->in *= input.readings.symmetry;
            mass->out *= input.readings.symmetry;
        }
        if (!mass) {
            check.state = CheckState::NotCheckable;
            check.meaning = mass.error().what;
        } else {
            const double through = std::max(mass->in, mass->out);
            const double share = through > 0 ? std::abs(mass->in - mass->out) / through : 0;
            check.figure = fmt::format("in {:.4g} kg/s, out {:.4g} kg/s{}", mass->in, mass->out,
                                       openingsOf(input, part));
            check.state = share > 0.01 ? CheckState::Failed : share > 0.001 ? CheckState::Review : CheckState::Passed;
        }
        checks.push_back(check);
    }
    return checks;
}

// Outer faces that neither a boundary nor another part lies on must not pass heat.
void leaksAnswer(const TrustInput& input, Check& check) {
    const auto& fields = input.heat.fields();
    const auto& solved = fields.solved();
    double total = 0;
    double worst = 0;
    bool any = false;
    for (std::size_t part = 0; part < solved.parts.size(); ++part) {
        const auto& shell = input.heat.shell(part);
        if (!shell) {
            check.meaning = shell.error().what;
            continue;
        }
        any = true;
        const auto boundaryOf = boundariesOfFaces(input.heat, static_cast<std::uint32_t>(part));
        double own = 0;
        const auto& areas = input.heat.areas(part);
        for (std::size_t face = 0; face < boundaryOf.size(); ++face)
            if (boundaryOf[face] == noNumber && input.heat.twin(part, face).part == ~0U) {
                own += std::abs(shell->face[face]);
                if (std::abs(shell->face[face]) > worst) {
                    worst = std::abs(shell->face[face]);
                    check.at = areas.centre[face];
                    check.part = solved.parts[part].name;
                }
            }
        total += own;
    }
    if (!any) {
        check.state = CheckState::NotCheckable;
        return;
    }
    const double turnover = turnoverOf(*input.readings.balances);
    check.figure = fmt::format("{:.3g} W through them, most in {}", total,
                               check.part.empty() ? "none" : input.shown(check.part));
    check.state = turnover > 0 ? stateOf(total / turnover) : CheckState::NotCheckable;
}

} // namespace

constexpr CheckKind partBalanceCheck{
    .key = "part-balance",
    .title = "Heat balance of every part",
    .threshold = "below 1 % of what passes it",
    .meaning = "What comes in, is produced and leaves must agree in each part; a part that does not has not "
               "converged, is meshed too coarsely, or its conductivity is not the solver's.",
    .applies = hasBalances,
    .answer = partBalanceAnswer,
};

constexpr CheckKind wholeBalanceCheck{
    .key = "whole-balance",
    .title = "Overall heat balance",
    .threshold = "below 1 % of the heat passing",
    .meaning = "All that is produced and comes in leaves again, in a steady state.",
    .applies = hasBalances,
    .answer = wholeBalanceAnswer,
};

constexpr CheckKind massBalanceCheck{
    .key = "mass-balance",
    .title = "Mass of every fluid balances",
    .threshold = "below 0.1 % of the throughput",
    .meaning = "What flows in must flow out; else heat that the flow carries is wrong as well.",
    .applies = hasBalances,
    .answers = massBalances,
};

constexpr CheckKind leaksCheck{
    .key = "leaks",
    .title = "Faces without a boundary are adiabatic",
    .threshold = "below 1 % of the heat passing",
    .meaning = "Heat through a face that no boundary and no part lies on comes from nowhere: a boundary is missing, "
               "or the mesh is too coarse there.",
    .applies = hasBalances,
    .answer = leaksAnswer,
};

} // namespace pyro
