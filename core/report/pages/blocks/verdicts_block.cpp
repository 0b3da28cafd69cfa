#include "core/report/limit_text.h"
#include "core/report/pages/report_blocks.h"

#include <algorithm>
#include <fmt/format.h>

namespace pyro {
namespace {

void makeVerdicts(const ReportInput& input, const ReportBlock& block, ReportDocument& into) {
    addHeading(block, into);
    if (input.survey.limits.empty()) {
        into.parts.push_back(paragraphPart("No limits are defined, so nothing is judged.", true));
        return;
    }
    for (const auto& one : casesOf(input, block)) {
        if (one.run.error) {
            into.parts.push_back(paragraphPart(one.entry.name + " is not judged: " + one.run.error->what));
            continue;
        }
        const auto limits = one.run.worstLimits();
        auto table = shownLimits(input.survey, one.entry, limits, input.unit);
        std::vector<std::optional<Verdict>> marks;
        for (const auto& row : table.rows)
            for (const auto verdict : {Verdict::Within, Verdict::Tight, Verdict::Over, Verdict::Unknown})
                if (row[0] == verdictName(verdict))
                    marks.emplace_back(verdict);
        addTable(block, std::move(table), "Verdicts of " + one.entry.name, into);
        if (marks.size() == into.parts.back().table.rows.size())
            into.parts.back().marks = std::move(marks);
    }
}

// What was asked before the case is believed; what did not pass in full.
void makeTrust(const ReportInput& input, const ReportBlock& block, ReportDocument& into) {
    addHeading(block, into);
    for (const auto& one : casesOf(input, block)) {
        if (one.readings == nullptr || one.readings->checks.empty()) {
            into.parts.push_back(paragraphPart(one.entry.name + " was not checked.", true));
            continue;
        }
        ShownTable table{{{"State"}, {"Check"}, {"Found"}, {"Required"}}, {}};
        std::size_t passed = 0;
        for (const auto& check : one.readings->checks) {
            passed += check.state == CheckState::Passed ? 1 : 0;
            table.rows.push_back(
                {std::string(checkStateText(check.state)), check.title, check.figure, check.threshold});
        }
        into.parts.push_back(paragraphPart(
            fmt::format("{}: {} of {} checks passed.", one.entry.name, passed, one.readings->checks.size())));
        addTable(block, std::move(table), "Checks of " + one.entry.name, into);
    }
}

void makeFindings(const ReportInput& input, const ReportBlock& block, ReportDocument& into) {
    ShownTable table{{{"Severity"}, {"State"}, {"Finding"}, {"Case"}, {"Part"}}, {}};
    for (const auto& finding : input.survey.findings)
        table.rows.push_back(
            {std::string(severityName(finding.severity)), finding.state, finding.text, finding.caseName, finding.part});
    if (table.rows.empty())
        return;
    addHeading(block, into);
    addTable(block, std::move(table), "Findings", into);
}

} // namespace

constexpr ReportBlockKind verdictsBlock{.key = "verdicts",
                                        .title = "Verdicts",
                                        .meaning = "every limit with value, margin and verdict",
                                        .make = makeVerdicts};
constexpr ReportBlockKind trustBlock{
    .key = "trust", .title = "Trust", .meaning = "what was checked before the case was believed", .make = makeTrust};
constexpr ReportBlockKind findingsBlock{
    .key = "findings", .title = "Findings", .meaning = "what is to be followed up", .make = makeFindings};

} // namespace pyro
