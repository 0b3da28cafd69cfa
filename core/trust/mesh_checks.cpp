#include "core/trust/checks.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <tbb/enumerable_thread_specific.h>
#include <tbb/parallel_for.h>

namespace pyro {
namespace {

constexpr double largeShare = 0.1;   // of the range, across one cell
constexpr double lookShare = 0.2;
constexpr double brokenShare = 0.4;

struct Steepest {
    double share = 0;
    std::size_t part = 0;
    std::size_t cell = 0;
    std::size_t large = 0; // cells above largeShare
};

// Across how much of the range one cell reaches, with the temperature at its nodes.
Check resolution(const TrustInput& input, const Quantity& temperature) {
    Check check{"resolution", "No cell spans much of the temperature range", CheckState::Held, "", "below 20 % of the range", "Where one cell takes a large step, the mesh is too coarse to tell what happens within."};
    const auto& solved = input.heat.fields().solved();
    const double range = temperature.max - temperature.min;
    if (temperature.on != Location::Node || !(range > 0)) {
        check.state = CheckState::Unknown;
        check.meaning = range > 0 ? "The temperature is stored on cells." : "The temperature is the same everywhere.";
        return check;
    }
    Steepest worst;
    std::size_t cells = 0;
    for (std::size_t part = 0; part < solved.parts.size(); ++part) {
        const auto& mesh = solved.parts[part].mesh;
        const auto* array = solved.parts[part].find(temperature.array, Location::Node);
        if (array == nullptr)
            continue;
        cells += mesh.cells();
        const double scale = std::abs(temperature.toSi.scale) / range;
        tbb::enumerable_thread_specific<Steepest> threads;
        tbb::parallel_for(tbb::blocked_range<std::size_t>(0, mesh.cells(), 1 << 13), [&](const auto& chunk) {
            auto& own = threads.local();
            for (auto cell = chunk.begin(); cell != chunk.end(); ++cell) {
                double low = 1e300;
                double high = -1e300;
                for (const auto node : mesh.cell(cell)) {
                    low = std::min(low, array->values[node]);
                    high = std::max(high, array->values[node]);
                }
                const double share = scale * (high - low);
                own.large += share > largeShare ? 1 : 0;
                if (share > own.share || (share == own.share && cell < own.cell)) {
                    own.share = share;
                    own.cell = cell;
                    own.part = part;
                }
            }
        });
        for (const auto& own : threads) {
            const auto large = worst.large + own.large;
            if (own.share > worst.share)
                worst = own;
            worst.large = large;
        }
    }
    check.part = solved.parts[worst.part].name;
    check.at = solved.parts[worst.part].mesh.cellCentre(worst.cell);
    check.figure = fmt::format("{:.0f} % ({:.3g} K) in {}; {} of {} cells above 10 %", 100 * worst.share, worst.share * range, input.shown(check.part), worst.large, cells);
    check.state = worst.share > brokenShare ? CheckState::Broken : worst.share > lookShare ? CheckState::Look : CheckState::Held;
    return check;
}

Check conductivities(const TrustInput& input) {
    Check check{"conductivities", "Every part has a conductivity", CheckState::Held, "all have one", "all", "Without it neither heat nor balances can be computed where no flux is stored."};
    std::size_t missing = 0;
    const auto& fields = input.heat.fields();
    for (std::size_t part = 0; part < fields.solved().parts.size(); ++part)
        if (!fields.field(part, "conductivity")) {
            ++missing;
            check.part = fields.solved().parts[part].name;
        }
    if (missing > 0) {
        check.state = CheckState::Look;
        check.figure = missing == 1 ? input.shown(check.part) + " has none" : fmt::format("{} parts have none, {} among them", missing, input.shown(check.part));
        check.meaning = "Give them a material in the stage Cases.";
    }
    return check;
}

Check limits(const TrustInput& input) {
    Check check{"limits", "Every limit can be judged", CheckState::Held, fmt::format("{} limits", input.readings.limits.size()), "all", "A limit that is not judged says nothing about its part."};
    if (input.readings.limits.empty()) {
        check.state = CheckState::Look;
        check.figure = "no limits are defined";
        return check;
    }
    std::size_t unknown = 0;
    for (const auto& limit : input.readings.limits)
        if (limit.verdict == Verdict::Unknown) {
            ++unknown;
            check.meaning = fmt::format("{}: {}", limit.target.name, limit.why);
        }
    if (unknown > 0) {
        check.state = CheckState::Look;
        check.figure = fmt::format("{} of {} limits cannot be judged", unknown, input.readings.limits.size());
    }
    return check;
}

} // namespace

std::vector<Check> meshChecks(const TrustInput& input) {
    std::vector<Check> checks;
    if (const auto* temperature = input.heat.fields().quantities().named("temperature"))
        checks.push_back(resolution(input, *temperature));
    checks.push_back(conductivities(input));
    checks.push_back(limits(input));
    return checks;
}

} // namespace pyro
