#include "core/report/tables/table.h"
#include "core/survey/findings.h"

namespace pyro {
namespace {

Table makeFindings(const TableInput& input) {
    Table table{{"finding", "severity", "state", "case", "step", "part", "x_m", "y_m", "z_m", "check", "text"}, {}};
    int number = 0;
    for (const auto& finding : input.survey.findings) {
        auto& row = table.row();
        row = {++number, severityName(finding.severity), finding.state, finding.caseName, finding.step, finding.part};
        addPlace(row, finding.at);
        row.insert(row.end(), {finding.check, finding.text});
    }
    return table;
}

} // namespace

constexpr TableKind findingsTable{.name = "findings", .title = "Findings", .make = makeFindings};

} // namespace pyro
