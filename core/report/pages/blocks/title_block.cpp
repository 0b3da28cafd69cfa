#include "core/report/pages/report_blocks.h"
#include "core/report/pages/report_fields.h"

#include <fmt/format.h>

namespace pyro {
namespace {

// Title, verdict of all cases, who and when.
void makeTitle(const ReportInput& input, const ReportBlock& block, ReportDocument& into) {
    ReportPart part;
    part.kind = ReportPart::Kind::Title;
    part.runs = {{.text = block.title.empty() ? into.title : block.title}};
    auto verdict = std::optional<Verdict>();
    for (const auto& one : casesOf(input, block)) {
        const auto own = one.run.error ? Verdict::Unknown : verdictOf(one.run.worstLimits());
        verdict = verdict ? worse(*verdict, own) : own;
    }
    part.mark = verdict;
    into.parts.push_back(std::move(part));
    const auto& by = input.survey.report.preparedBy;
    into.parts.push_back(
        paragraphPart(by.empty() ? input.date : fmt::format("{}, prepared by {}", input.date, by), true));
    if (!input.survey.report.note.empty())
        into.parts.push_back(paragraphPart(input.survey.report.note));
}

void makeContents(const ReportInput&, const ReportBlock& block, ReportDocument& into) {
    addHeading(block, into);
    ReportPart part;
    part.kind = ReportPart::Kind::Contents;
    into.parts.push_back(std::move(part));
}

void makePageBreak(const ReportInput&, const ReportBlock&, ReportDocument& into) {
    ReportPart part;
    part.kind = ReportPart::Kind::PageBreak;
    into.parts.push_back(std::move(part));
}

void makeSignatures(const ReportInput&, const ReportBlock& block, ReportDocument& into) {
    addHeading(block, into);
    ReportPart part;
    part.kind = ReportPart::Kind::Signatures;
    part.table.columns = {{"prepared"}, {"checked"}, {"approved"}};
    if (!block.rows.empty()) {
        part.table.columns.clear();
        for (const auto& name : block.rows)
            part.table.columns.push_back({name});
    }
    into.parts.push_back(std::move(part));
}

} // namespace

constexpr ReportBlockKind titleBlock{
    .key = "title", .title = "Title", .meaning = "title, verdict, date, who prepared it", .make = makeTitle};
constexpr ReportBlockKind contentsBlock{
    .key = "contents", .title = "Contents", .meaning = "list of the headings", .make = makeContents};
constexpr ReportBlockKind pageBreakBlock{
    .key = "page break", .title = "Page break", .meaning = "what follows begins on a new page", .make = makePageBreak};
constexpr ReportBlockKind signaturesBlock{
    .key = "signatures", .title = "Signatures", .meaning = "a line for each who signs", .make = makeSignatures};

} // namespace pyro
