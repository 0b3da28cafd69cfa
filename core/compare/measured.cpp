#include "core/compare/measured.h"

#include "core/compare/picture_deviations.h"
#include "core/field/vector_algebra.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

ProbedPlace simulatedAt(std::size_t place, const std::optional<double>& time, std::span<const ProbedStep> steps) {
    const auto around = stepsAround(time, steps);
    if (!around.why.empty())
        return {{}, {}, around.why};
    auto there = steps[around.after].probes->places[place];
    const auto& before = steps[around.before].probes->places[place];
    if (!there.value || !before.value)
        return there.value ? before : there;
    *there.value = std::lerp(*before.value, *there.value, around.before == around.after ? 1 : around.share);
    return there;
}

// Whether the mesh's uncertainty is known for one of them.
bool reckonRows(const Reckoning& with, const std::string& caseName, std::span<const GridStudy> grids,
                MeasuredReading& out) {
    bool meshKnown = false;
    Figures figures;
    for (const auto& row : with.table.rows) {
        const auto& place = with.table.places[row.place];
        auto& point = out.points.emplace_back();
        point.name = place.name;
        point.at = place.at;
        point.time = row.time;
        if (row.value)
            point.measured = with.inverse(*row.value + with.shift);
        if (row.uncertainty)
            point.uncertainty = with.scale * *row.uncertainty;
        point.why = !place.why.empty() ? place.why : row.why;
        if (!point.why.empty())
            continue;
        const auto there = simulatedAt(row.place, row.time, with.steps);
        point.why = there.why;
        if (!there.value)
            continue;
        point.simulated = with.inverse(*there.value);
        if (there.foundAt && place.at)
            point.distance = length(minus(*there.foundAt, *place.at));
        point.deviation = with.scale * (*there.value - *row.value - with.shift);
        const auto mesh = place.gauge.empty() ? std::nullopt : uncertaintyOf(grids, caseName, place.gauge);
        meshKnown = meshKnown || mesh;
        if (point.uncertainty) {
            const double whole = std::hypot(*point.uncertainty, mesh.value_or(0));
            if (whole > 0)
                point.normalised = *point.deviation / whole;
        }
        figures.add(*point.deviation, point.normalised);
    }
    figures.tell(out);
    return meshKnown;
}

} // namespace

StepsAround stepsAround(const std::optional<double>& time, std::span<const ProbedStep> steps) {
    const StepsAround last{steps.size() - 1, steps.size() - 1, 0, {}};
    const bool timed = std::ranges::all_of(steps, [](const ProbedStep& step) { return step.time.has_value(); });
    if (!time || !timed) // steady
        return last;
    const double begin = *steps.front().time;
    const double end = *steps.back().time;
    const double hair = 1e-9 * std::max(std::abs(begin), std::abs(end));
    if (*time < begin - hair || *time > end + hair)
        return {0, 0, 0, fmt::format("the simulation runs from {:g} s to {:g} s", begin, end)};
    std::size_t after = 0;
    while (after + 1 < steps.size() && *steps[after].time < *time - hair)
        ++after;
    if (after == 0 || std::abs(*steps[after].time - *time) <= hair)
        return {after, after, 0, {}};
    return {after - 1, after, (*time - *steps[after - 1].time) / (*steps[after].time - *steps[after - 1].time), {}};
}

MeasuredReading deviationsOf(const MeasuredTable& table, std::span<const ProbedStep> steps, double shift,
                             const std::string& caseName, std::span<const GridStudy> grids) {
    MeasuredReading out;
    out.id = table.id;
    out.unit = table.unit;
    out.isTemperature = table.isTemperature;
    out.differenceUnit = table.isTemperature ? "K" : table.unit;
    out.notes = table.notes;
    out.why = table.why;
    if (!out.why.empty() || steps.empty()) {
        if (out.why.empty())
            out.why = "the case has not been evaluated";
        return out;
    }
    const auto inverse = conversion(table.unit, table.siUnit)->inverse();
    const Reckoning with{table, steps, shift, inverse, table.isTemperature ? 1 : inverse.scale};
    bool meshKnown = false;
    if (table.picture)
        reckonPicture(with, out);
    else
        meshKnown = reckonRows(with, caseName, grids, out);
    if (out.within && !meshKnown)
        out.notes.emplace_back("the uncertainty of the simulation is not known and taken as none");
    if (shift != 0)
        out.notes.push_back(fmt::format("what was measured is shifted by {:+.4g} K to the ambient of the case", shift));
    return out;
}

} // namespace pyro
