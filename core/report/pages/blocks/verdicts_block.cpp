#include "core/report/limit_text.h"
#include "core/report/pages/report_blocks.h"

#include <algorithm>
#include <fmt/format.h>
#include <map>

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

// What was asked before the cases are believed: the state of each check in each case, then what did not pass in full.
void makeTrust(const ReportInput& input, const ReportBlock& block, ReportDocument& into) {
    addHeading(block, into);
    ShownTable states{{{"Check"}}, {}};
    ShownTable found{{{"Case"}, {"State"}, {"Check"}, {"Found"}, {"Required"}}, {}};
    std::map<std::string, std::size_t> rows; // by title
    for (const auto& one : casesOf(input, block)) {
        if (one.readings == nullptr || one.readings->checks.empty()) {
            into.parts.push_back(paragraphPart(one.entry.name + " was not checked.", true));
            continue;
        }
        states.columns.push_back({one.entry.name});
        std::size_t passed = 0;
        for (const auto& check : one.readings->checks) {
            const auto [row, isNew] = rows.try_emplace(check.title, states.rows.size());
            if (isNew)
                states.rows.push_back({check.title});
            auto& cells = states.rows[row->second];
            cells.resize(states.columns.size());
            cells.back() = checkStateText(check.state);
            if (check.state == CheckState::Passed)
                ++passed;
            else
                found.rows.push_back({one.entry.name, std::string(checkStateText(check.state)), check.title,
                                      check.figure, check.threshold});
        }
        into.parts.push_back(paragraphPart(
            fmt::format("{}: {} of {} checks passed.", one.entry.name, passed, one.readings->checks.size())));
    }
    for (auto& row : states.rows)
        row.resize(states.columns.size());
    if (!found.rows.empty())
        addTable(block, std::move(found), "What did not pass in full", into);
    if (!states.rows.empty())
        addTable(block, std::move(states), "All checks", into);
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
    for (const auto& finding : input.survey.findings) {
        if (!finding.view)
            continue;
        Viewpoint seen;
        seen.name = finding.text;
        seen.view = *finding.view;
        seen.view.caseName = finding.caseName.empty() ? finding.view->caseName : finding.caseName;
        addViewpoints(input, {{&seen}, seen.view.caseName, finding.step, block}, finding.text, into);
    }
}

} // namespace

constexpr ReportBlockKind verdictsBlock{.key = "verdicts",
                                        .title = "Verdicts",
                                        .meaning = "every limit with value, margin and verdict",
                                        .keys = "title cases columns decimals",
                                        .make = makeVerdicts};
constexpr ReportBlockKind trustBlock{.key = "trust",
                                     .title = "Trust",
                                     .meaning = "what was checked before the case was believed",
                                     .keys = "title cases columns",
                                     .make = makeTrust};
constexpr ReportBlockKind findingsBlock{.key = "findings",
                                        .title = "Findings",
                                        .meaning = "what is to be followed up",
                                        .keys = "title columns size ground scale labels legend",
                                        .make = makeFindings};

} // namespace pyro
