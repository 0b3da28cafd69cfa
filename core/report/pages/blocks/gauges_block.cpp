#include "core/report/gauge_text.h"
#include "core/report/pages/report_blocks.h"

#include <algorithm>
#include <fmt/format.h>

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

void makeProfiles(const ReportInput& input, const ReportBlock& block, ReportDocument& into) {
    bool any = false;
    for (const auto& one : casesOf(input, block)) {
        const auto gauges = gaugesOf(one);
        if (std::ranges::none_of(gauges, [](const GaugeReading* gauge) { return gauge->profile != nullptr; }))
            continue;
        if (!any)
            addHeading(block, into);
        any = true;
        addPicture(block,
                   input.pictures.profiles ? input.pictures.profiles(one.run)
                                           : ReportPicture{{}, 0, 0, {}, "no charts are drawn here"},
                   "Profiles of " + one.entry.name, into);
    }
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
            addTable(block, shownTerms(*gauge), "Terms of " + gauge->id, into);
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
            addTable(block, shownSpots(one.entry, *one.readings, *gauge),
                     fmt::format("Hotspots of {}, {}", gauge->id, one.entry.name), into);
        }
}

} // namespace

constexpr ReportBlockKind gaugesBlock{
    .key = "gauges", .title = "Gauges", .meaning = "every gauge with its value in each case", .make = makeGauges};
constexpr ReportBlockKind profilesBlock{
    .key = "profiles", .title = "Profiles", .meaning = "charts of the profiles", .make = makeProfiles};
constexpr ReportBlockKind transmittancesBlock{.key = "transmittances",
                                              .title = "Transmittances",
                                              .meaning = "transmittances with every term",
                                              .make = makeTransmittances};
constexpr ReportBlockKind hotspotsBlock{
    .key = "hotspots", .title = "Hotspots", .meaning = "the hotspots that gauges find", .make = makeHotspots};

} // namespace pyro
