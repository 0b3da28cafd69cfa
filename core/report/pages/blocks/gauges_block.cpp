#include "core/report/gauge_text.h"
#include "core/report/pages/report_blocks.h"

#include <algorithm>
#include <fmt/format.h>
#include <set>

namespace pyro {
namespace {

bool isWanted(const ReportBlock& block, const std::string& gauge) {
    return block.rows.empty() || std::ranges::find(block.rows, gauge) != block.rows.end();
}

// Over all steps where that is what a gauge tells, else of the last one.
std::vector<const GaugeReading*> gaugesOf(const ReportedCase& one) {
    std::vector<const GaugeReading*> out;
    if (one.readings == nullptr)
        return out;
    for (const auto& gauge : one.readings->gauges) {
        const auto over = std::ranges::find(one.run.overSteps, gauge.id, &GaugeReading::id);
        out.push_back(over != one.run.overSteps.end() ? &*over : &gauge);
    }
    return out;
}

void makeGauges(const ReportInput& input, const ReportBlock& block, ReportDocument& into) {
    addHeading(block, into);
    const auto cases = casesOf(input, block);
    ShownTable table{{{"Gauge"}}, {}};
    for (const auto& one : cases)
        table.columns.push_back({one.entry.name, true});
    table.columns.push_back({"Method, reference"});
    for (const auto& gauge : input.survey.gauges) {
        if (!isWanted(block, gauge.id))
            continue;
        auto& row = table.rows.emplace_back();
        row.push_back(gauge.id);
        std::string about;
        for (const auto& one : cases) {
            const auto gauges = gaugesOf(one);
            const auto found = std::ranges::find(gauges, gauge.id, [](const GaugeReading* of) { return of->id; });
            row.push_back(found == gauges.end() ? "unknown" : gaugeText(**found, input.unit));
            if (found != gauges.end() && about.empty())
                about = (*found)->method + ((*found)->method.empty() || (*found)->reference.empty() ? "" : ", ") +
                        (*found)->reference;
        }
        row.push_back(about);
    }
    if (table.rows.empty())
        into.parts.push_back(paragraphPart("No gauges are defined.", true));
    else
        addTable(block, std::move(table), "Gauges", into);
}

std::vector<ChartCase> chartCasesOf(const ReportInput& input, const ReportBlock& block) {
    std::vector<ChartCase> out;
    for (const auto& one : casesOf(input, block)) {
        const auto given = std::ranges::find(input.chartCases, one.entry.name, &ChartCase::name);
        if (given != input.chartCases.end()) {
            out.push_back(*given);
            continue;
        }
        if (one.readings == nullptr)
            continue;
        ChartCase made{one.entry.name, {}, std::make_shared<const Readings>(*one.readings), one.run.steps};
        for (const auto& part : one.readings->parts)
            made.parts.push_back(shownName(one.entry, part.name));
        out.push_back(std::move(made));
    }
    return out;
}

void addChart(const ReportInput& input, const ReportBlock& block, const ChartView& view,
              const std::vector<ChartCase>& cases, ReportDocument& into) {
    const auto chart = chartData(view, {}, input.survey, cases);
    if (chart.curves.empty())
        into.parts.push_back(paragraphPart(fmt::format("{}: there is nothing to draw.", chart.title), true));
    else
        addPicture(block,
                   input.pictures.chart ? input.pictures.chart(chart, view)
                                        : withoutPicture("no charts are drawn here"),
                   chart.title, into);
    for (const auto& remark : chart.remarks)
        into.parts.push_back(paragraphPart(remark, true));
}

// The charts that the survey keeps, then each profile that none of them shows.
void makeProfiles(const ReportInput& input, const ReportBlock& block, ReportDocument& into) {
    const auto cases = chartCasesOf(input, block);
    std::vector<ChartView> charts;
    std::set<std::string> drawn;
    for (std::size_t at = 0; at < input.survey.charts.size(); ++at) {
        const auto& chart = input.survey.charts[at];
        const bool named = block.name.empty() || chartName(input.survey, at) == block.name;
        const bool wanted = block.rows.empty() || std::ranges::any_of(chart.gauges, [&](const std::string& id) {
                                return isWanted(block, id);
                            });
        if (chart.gauges.empty() || !named || !wanted)
            continue;
        charts.push_back(chart);
        drawn.insert(chart.gauges.begin(), chart.gauges.end());
    }
    for (const auto& gauge : input.survey.gauges) {
        const bool isProfile = std::ranges::any_of(cases, [&](const ChartCase& one) {
            const auto found = std::ranges::find(one.now->gauges, gauge.id, &GaugeReading::id);
            return found != one.now->gauges.end() && found->profile != nullptr;
        });
        if (!isProfile || !block.name.empty() || !isWanted(block, gauge.id) || drawn.contains(gauge.id))
            continue;
        charts.emplace_back();
        charts.back().gauges = {gauge.id};
    }
    if (charts.empty())
        return;
    addHeading(block, into);
    for (const auto& chart : charts)
        addChart(input, block, chart, cases, into);
}

// What each transmittance is the sum of.
void makeTransmittances(const ReportInput& input, const ReportBlock& block, ReportDocument& into) {
    bool any = false;
    for (const auto& one : casesOf(input, block))
        for (const auto* gauge : gaugesOf(one)) {
            if (!gauge->derivation || !gauge->value || gauge->derivation->terms.empty() || !isWanted(block, gauge->id))
                continue;
            if (!any)
                addHeading(block, into);
            any = true;
            into.parts.push_back(
                paragraphPart(fmt::format("{}, {}: {}{}", gauge->id, one.entry.name, gaugeText(*gauge, input.unit),
                                          gauge->reference.empty() ? "" : ", " + gauge->reference)));
            addTable(block, shownTerms(*gauge, input.unit), "Terms of " + gauge->id, into);
            if (!gauge->derivation->elements.empty() && input.pictures.elements)
                addPicture(block, input.pictures.elements(gauge->derivation->elements), "Elements of " + gauge->id,
                           into);
        }
}

void makeHotspots(const ReportInput& input, const ReportBlock& block, ReportDocument& into) {
    bool any = false;
    for (const auto& one : casesOf(input, block))
        for (const auto* gauge : gaugesOf(one)) {
            if (!gauge->derivation || gauge->derivation->spots.empty() || !isWanted(block, gauge->id))
                continue;
            if (!any)
                addHeading(block, into);
            any = true;
            addTable(block, shownSpots(one.entry, *one.readings, *gauge, input.unit),
                     fmt::format("Hotspots of {}, {}", gauge->id, one.entry.name), into);
        }
}

} // namespace

constexpr ReportBlockKind gaugesBlock{.key = "gauges",
                                      .title = "Gauges",
                                      .meaning = "every gauge with its value in each case",
                                      .keys = "title cases rows columns decimals",
                                      .make = makeGauges};
constexpr ReportBlockKind profilesBlock{.key = "profiles",
                                        .title = "Charts",
                                        .meaning = "the charts of the survey, and every profile",
                                        .keys = "title name rows cases size",
                                        .make = makeProfiles};
constexpr ReportBlockKind transmittancesBlock{.key = "transmittances",
                                              .title = "Transmittances",
                                              .meaning = "transmittances with every term",
                                              .keys = "title cases rows columns decimals size",
                                              .make = makeTransmittances};
constexpr ReportBlockKind hotspotsBlock{.key = "hotspots",
                                        .title = "Hotspots",
                                        .meaning = "the hotspots that gauges find",
                                        .keys = "title cases rows columns decimals",
                                        .make = makeHotspots};

} // namespace pyro
