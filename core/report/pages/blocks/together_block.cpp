// Compared cases, sweeps, meshes of different fineness and measured data.
#include "core/report/pages/report_blocks.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

void makeCompare(const ReportInput& input, const ReportBlock& block, ReportDocument& into) {
    if (!input.run.compare)
        return;
    const auto& all = *input.run.compare;
    addHeading(block, into);
    if (!all.why.empty()) {
        into.parts.push_back(paragraphPart(all.why, true));
        return;
    }
    for (const auto& name : all.cases) {
        if (name == all.baseline)
            continue;
        const auto one = comparedAlone(all, name);
        addTable(block,
                 shownCompare(input.survey, one, comparedRows(input.survey, one, CompareOrder::Worse), input.unit),
                 name + " against " + all.baseline, into);
    }
    for (const auto& remark : all.remarks)
        into.parts.push_back(paragraphPart(remark, true));
}

void makeSweep(const ReportInput& input, const ReportBlock& block, ReportDocument& into) {
    if (!input.run.sweep)
        return;
    addHeading(block, into);
    for (const auto& sentence : sweepSentences(input.survey, *input.run.sweep, input.unit)) {
        auto part = paragraphPart(sentence);
        part.kind = ReportPart::Kind::Item;
        into.parts.push_back(std::move(part));
    }
    if (!input.run.sweep->why.empty())
        return;
    addTable(block, shownSweep(input.survey, *input.run.sweep, input.unit), "Cases of the sweep", into);
    addTable(block, shownSensitivities(*input.run.sweep, input.unit), "Sensitivities", into);
}

void makeGrids(const ReportInput& input, const ReportBlock& block, ReportDocument& into) {
    if (input.run.grids.empty())
        return;
    addHeading(block, into);
    for (const auto& study : input.run.grids) {
        if (study.why.empty())
            addTable(block, shownGrids(input.survey, study, input.unit), "Grid convergence of " + study.cases.front(),
                     into);
        else
            into.parts.push_back(paragraphPart(study.why, true));
    }
}

constexpr std::size_t mostPixels = 20;

// Of a picture the pixels that deviate most; of other data everything.
MeasuredReading worstOf(const MeasuredReading& reading, ReportDocument& into) {
    auto out = reading;
    if (!reading.picture || reading.points.size() <= mostPixels)
        return out;
    std::ranges::stable_sort(out.points, std::greater(),
                             [](const MeasuredPoint& one) { return one.deviation ? std::abs(*one.deviation) : 0.0; });
    out.points.resize(mostPixels);
    into.parts.push_back(paragraphPart(
        fmt::format("The {} listed pixels that deviate most follow; more are in the tables of the survey.", mostPixels),
        true));
    return out;
}

void makeMeasured(const ReportInput& input, const ReportBlock& block, ReportDocument& into) {
    bool any = false;
    for (const auto& one : casesOf(input, block))
        for (const auto& reading : one.run.measured) {
            if (!any)
                addHeading(block, into);
            any = true;
            into.parts.push_back(paragraphPart(reading.id + ": " + measuredText(reading, input.unit)));
            for (const auto& note : reading.notes)
                into.parts.push_back(paragraphPart(note, true));
            if (reading.why.empty())
                addTable(block, shownMeasured(worstOf(reading, into), input.unit),
                         "Measured, " + reading.id + ", against " + one.entry.name, into);
        }
}

} // namespace

constexpr ReportBlockKind compareBlock{.key = "compare",
                                       .title = "Compared",
                                       .meaning = "what each variant changed against the baseline",
                                       .keys = "title columns decimals",
                                       .make = makeCompare};
constexpr ReportBlockKind sweepBlock{.key = "sweep",
                                     .title = "Sweep",
                                     .meaning = "the cases of a sweep, the best one and what the parameters do",
                                     .keys = "title columns decimals",
                                     .make = makeSweep};
constexpr ReportBlockKind gridsBlock{.key = "grids",
                                     .title = "Grid convergence",
                                     .meaning = "how far the mesh may have the values off",
                                     .keys = "title columns decimals",
                                     .make = makeGrids};
constexpr ReportBlockKind measuredBlock{.key = "measured",
                                        .title = "Measured",
                                        .meaning = "measured data held against the cases",
                                        .keys = "title cases columns decimals",
                                        .make = makeMeasured};

} // namespace pyro
