#include "pages/report_command.h"

#include "core/evaluate/sweep_run.h"
#include "core/feedback/whole_file.h"
#include "core/report/pages/fill_template.h"
#include "core/report/pages/report_template.h"
#include "core/report/pages/report_writers.h"
#include "core/report/tables/table_writers.h"
#include "core/report/xlsx.h"
#include "core/survey/survey_file.h"
#include "pages/drawn_pictures.h"
#include "render/report_text.h"

#include <chrono>
#include <fmt/chrono.h>
#include <fmt/ostream.h>

namespace pyro::pages {
namespace {

std::string today() {
    return fmt::format("{:%Y-%m-%d}",
                       fmt::localtime(std::chrono::system_clock::to_time_t(std::chrono::system_clock::now())));
}

std::string endingOf(const std::filesystem::path& file) {
    auto ending = file.extension().string();
    std::ranges::transform(ending, ending.begin(), [](unsigned char c) { return std::tolower(c); });
    return ending;
}

Done writeMarkdown(const ReportDocument& document, const std::filesystem::path& file) {
    const auto folder = file.stem().string() + "-pictures";
    const auto made = markdownOf(document, folder);
    if (!made.pictures.empty()) {
        std::error_code status;
        std::filesystem::create_directories(file.parent_path() / folder, status);
    }
    for (const auto& [name, bytes] : made.pictures)
        if (auto written = writeFileAtomically(file.parent_path() / folder / name, bytes); !written)
            return written;
    return writeFileAtomically(file, made.text);
}

// The text of the report on the first sheet, then every table with its numbers as numbers.
Done writeXlsx(const ReportDocument& document, const ReportInput& input, const std::filesystem::path& file) {
    std::vector<std::pair<std::string, Table>> sheets;
    Table texts{{"report"}, {}};
    for (const auto& part : document.parts) {
        if (!part.runs.empty())
            texts.row().push_back(plainText(part.runs));
        for (const auto& row :
             part.kind == ReportPart::Kind::Facts ? part.table.rows : std::vector<std::vector<std::string>>())
            texts.row().push_back(row[0] + ": " + row[1]);
    }
    sheets.emplace_back("Report", std::move(texts));
    for (const auto* kind : tableKinds()) {
        auto table = kind->make({input.survey, input.run, input.unit});
        if (!table.rows.empty())
            sheets.emplace_back(std::string(kind->title), std::move(table));
    }
    return writeTablesXlsx(sheets, file);
}

Done write(const std::string& file, const ReportDocument& document, const ReportInput& input) {
    const auto ending = endingOf(file);
    if (ending == ".pdf")
        return writeReportPdf(document, file);
    if (ending == ".odt")
        return writeReportOdt(document, file);
    if (ending == ".html" || ending == ".htm")
        return writeFileAtomically(file, htmlOf(document));
    if (ending == ".md")
        return writeMarkdown(document, file);
    if (ending == ".xlsx")
        return writeXlsx(document, input, file);
    return fail(ErrorCode::FormatUnknown, fmt::format("a report with the ending \"{}\" cannot be written", ending),
                file, "Choose .pdf, .odt, .html, .md or .xlsx");
}

// The survey's blocks, those of a template, or the usual ones.
Result<std::vector<ReportBlock>> blocksFor(const ReportWords& words, const Survey& survey) {
    if (!words.templateFile.empty() && endingOf(words.templateFile) == ".json")
        return readReportTemplate(words.templateFile);
    return survey.report.blocks.empty() ? usualBlocks(survey) : survey.report.blocks;
}

} // namespace

int writeReports(const ReportWords& words, std::ostream& err) {
    const auto survey = loadSurvey(words.survey);
    if (!survey)
        return complain(survey.error(), err);
    const auto blocks = blocksFor(words, *survey);
    if (!blocks)
        return complain(blocks.error(), err);
    NoProgress progress;
    const auto run = runSurvey(*survey, words.survey, {words.onlyCase, std::nullopt, {}, true}, progress);
    if (!run)
        return complain(run.error(), err);
    ReportInput input{*survey, *run, today(), PYROMETER_VERSION, survey->view.unit, words.onlyCase, {}};
    DrawnPictures pictures(*survey, *run, std::filesystem::path(words.survey).parent_path(), input.unit);
    input.pictures = pictures.source();
    const bool own = !words.templateFile.empty() && endingOf(words.templateFile) != ".json";
    const auto document = own ? ReportDocument{} : makeReport(input, *blocks);
    auto remarks = document.remarks;
    bool failed = false;
    for (const auto& file : words.outputs) {
        std::vector<std::string> unknown;
        const auto written = own ? fillTemplate(words.templateFile, file, input, unknown)
                                 : write(file, document, input);
        for (const auto& name : unknown)
            remarks.push_back(fmt::format("nothing is called \"{}\"; the field stands as it is", name));
        if (!written)
            failed = complain(written.error(), err) != 0; // the others go on
    }
    for (const auto& remark : remarks)
        fmt::print(err, "pyrometer-cli: note: {}\n", remark);
    for (const auto& remark : pictures.remarks())
        fmt::print(err, "pyrometer-cli: note: {}\n", remark);
    return failed ? 2 : run->exitStatus();
}

} // namespace pyro::pages
