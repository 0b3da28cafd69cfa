#include "render/report_files.h"

#include "core/case/lower_case.h"
#include "core/feedback/whole_file.h"
#include "core/report/pages/report_writers.h"
#include "core/report/tables/table_writers.h"
#include "core/report/xlsx.h"
#include "render/report_pages.h"

#include <chrono>
#include <fmt/chrono.h>

namespace pyro {
namespace {

// The pictures first, so that the text never speaks of files that are not there.
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
    return writeFileAtomically(file, made.text, "the report");
}

// The text of the report on the first sheet, then every table with its numbers as numbers.
Done writeXlsx(const ReportDocument& document, const ReportInput& input, const std::filesystem::path& file) {
    std::vector<std::pair<std::string, Table>> sheets;
    Table texts{{"report"}, {}};
    for (const auto& part : document.parts) {
        if (!part.runs.empty())
            texts.row().push_back(plainText(part.runs));
        if (part.kind == ReportPart::Kind::Facts)
            for (const auto& row : part.table.rows)
                texts.row().push_back(row[0] + ": " + row[1]);
    }
    sheets.emplace_back("Report", std::move(texts));
    for (const auto* kind : tableKinds()) {
        auto table = kind->make({input.survey, input.run, input.unit.temperature});
        if (!table.rows.empty())
            sheets.emplace_back(std::string(kind->title), std::move(table));
    }
    return writeTablesXlsx(sheets, file);
}

} // namespace

Done writeReport(const ReportDocument& document, const ReportInput& input, const std::filesystem::path& file,
                 Progress& progress) {
    const auto ending = lowerEnding(file);
    if (ending == ".pdf") {
        FigureStore store;
        return ReportPages(document, store).writePdf(file, progress);
    }
    if (ending == ".odt")
        return writeReportOdt(document, file);
    if (ending == ".html" || ending == ".htm")
        return writeFileAtomically(file, htmlOf(document), "the report");
    if (ending == ".md")
        return writeMarkdown(document, file);
    if (ending == ".xlsx")
        return writeXlsx(document, input, file);
    return fail(ErrorCode::FormatUnknown, fmt::format("a report with the ending \"{}\" cannot be written", ending),
                file.string(), "Choose .pdf, .odt, .html, .md or .xlsx");
}

std::vector<ReportBlock> blocksOf(const Survey& survey) {
    return survey.report.blocks.empty() ? usualBlocks(survey) : survey.report.blocks;
}

std::string reportDate() {
    return fmt::format("{:%Y-%m-%d}",
                       fmt::localtime(std::chrono::system_clock::to_time_t(std::chrono::system_clock::now())));
}

} // namespace pyro
