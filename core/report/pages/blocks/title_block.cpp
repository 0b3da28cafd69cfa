#include "core/report/pages/report_blocks.h"
#include "core/survey/survey_file.h"

#include <fmt/format.h>
#include <fstream>

namespace pyro {
namespace {

bool startsAs(const std::string& bytes, std::string_view start) { return std::string_view(bytes).starts_with(start); }

// By what the file begins with; its name may say anything.
void addLogo(const ReportInput& input, ReportPart& title, ReportDocument& into) {
    const auto& name = input.survey.report.logo;
    if (name.empty())
        return;
    std::ifstream stream(besideSurvey(name, input.folder()), std::ios::binary);
    std::string bytes{std::istreambuf_iterator<char>(stream), std::istreambuf_iterator<char>()};
    if (startsAs(bytes, "\x89PNG\r\n") || startsAs(bytes, "\xFF\xD8\xFF") ||
        bytes.substr(0, 1000).find("<svg") != std::string::npos)
        title.picture.file = std::move(bytes);
    else
        into.remarks.push_back(fmt::format("the logo \"{}\" {}; it is left out", name,
                                           bytes.empty() ? "is not there" : "is no PNG, JPEG or SVG picture"));
}

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
    if (!unreadCases(input, block).empty())
        verdict = verdict ? worse(*verdict, Verdict::Unknown) : Verdict::Unknown;
    part.mark = verdict;
    addLogo(input, part, into);
    into.parts.push_back(std::move(part));
    const auto& settings = input.survey.report;
    std::string about = settings.number.empty() ? input.date : settings.number + ", " + input.date;
    if (!settings.preparedBy.empty())
        about += ", prepared by " + settings.preparedBy;
    into.parts.push_back(paragraphPart(about, true));
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

constexpr ReportBlockKind titleBlock{.key = "title",
                                     .title = "Title",
                                     .meaning = "title, verdict, date, who prepared it",
                                     .keys = "title cases",
                                     .make = makeTitle};
constexpr ReportBlockKind contentsBlock{
    .key = "contents", .title = "Contents", .meaning = "list of the headings", .keys = "title", .make = makeContents};
constexpr ReportBlockKind pageBreakBlock{.key = "page break",
                                         .title = "Page break",
                                         .meaning = "what follows begins on a new page",
                                         .keys = "",
                                         .make = makePageBreak};
constexpr ReportBlockKind signaturesBlock{.key = "signatures",
                                          .title = "Signatures",
                                          .meaning = "a line for each who signs",
                                          .keys = "title rows",
                                          .make = makeSignatures};

} // namespace pyro
