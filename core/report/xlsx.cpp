#include "core/report/xlsx.h"

#include "core/report/csv.h"

#include <charconv>
#include <cmath>
#include <fmt/format.h>
#include <unistd.h>
#include <xlsxwriter.h>

namespace pyro {
namespace {

// A workbook that stands at its place only once it is whole.
class Workbook {
public:
    explicit Workbook(const std::filesystem::path& file) : m_file(file), m_temporary(file.string() + fmt::format(".{}.part", ::getpid())), m_book(workbook_new(m_temporary.c_str())) {
        m_head = workbook_add_format(m_book);
        format_set_bold(m_head);
    }
    ~Workbook() {
        if (m_book != nullptr)
            workbook_close(m_book);
        std::error_code ignored;
        std::filesystem::remove(m_temporary, ignored);
    }
    Workbook(const Workbook&) = delete;
    Workbook& operator=(const Workbook&) = delete;

    lxw_worksheet* sheet(const char* name) { return workbook_add_worksheet(m_book, name); }
    lxw_format* head() const { return m_head; }
    lxw_workbook* book() const { return m_book; }

    Done finish() {
        std::error_code renamed;
        const auto closed = workbook_close(std::exchange(m_book, nullptr));
        if (closed == LXW_NO_ERROR)
            std::filesystem::rename(m_temporary, m_file, renamed);
        if (closed == LXW_NO_ERROR && !renamed)
            return {};
        return fail(ErrorCode::WriteFailed, "the spreadsheet cannot be written; what stood there is unchanged", m_file.string(),
                    "Choose another folder, or check its permissions and free space");
    }

private:
    std::filesystem::path m_file;
    std::filesystem::path m_temporary;
    lxw_workbook* m_book;
    lxw_format* m_head;
};

void writeCell(lxw_worksheet* sheet, std::size_t row, std::size_t column, const std::string& text, lxw_format* format) {
    double number = 0;
    const auto [end, status] = std::from_chars(text.data(), text.data() + text.size(), number);
    const auto r = static_cast<lxw_row_t>(row);
    const auto c = static_cast<lxw_col_t>(column);
    if (!text.empty() && status == std::errc() && end == text.data() + text.size() && std::isfinite(number))
        worksheet_write_number(sheet, r, c, number, format);
    else
        worksheet_write_string(sheet, r, c, text.c_str(), format);
}

void fill(Workbook& book, const char* name, const std::string& csv) {
    auto* sheet = book.sheet(name);
    const auto rows = parseCsv(csv);
    if (!rows)
        return;
    for (std::size_t row = 0; row < rows->size(); ++row)
        for (std::size_t column = 0; column < (*rows)[row].size(); ++column)
            writeCell(sheet, row, column, (*rows)[row][column], row == 0 ? book.head() : nullptr);
    worksheet_freeze_panes(sheet, 1, 0);
    worksheet_set_column(sheet, 0, 12, 14, nullptr);
}

} // namespace

Done writeRunXlsx(const Survey& survey, const SurveyRun& run, TemperatureUnit unit, const std::filesystem::path& file) {
    Workbook book(file);
    fill(book, "Gauges", gaugesCsv(run));
    fill(book, "Terms", termsCsv(run));
    fill(book, "Hotspots", hotspotsCsv(run));
    fill(book, "Profiles", profilesCsv(run));
    fill(book, "Limits", verdictsCsv(survey, run, unit));
    fill(book, "Powers", powersCsv(run));
    fill(book, "Balances", balancesCsv(run));
    fill(book, "Checks", checksCsv(run));
    fill(book, "Findings", findingsCsv(survey));
    return book.finish();
}

Done writeChartXlsx(const ChartData& chart, const std::filesystem::path& file) {
    Workbook book(file);
    auto* sheet = book.sheet("Chart");
    auto* drawn = workbook_add_chart(book.book(), LXW_CHART_SCATTER_STRAIGHT);
    for (std::size_t i = 0; i < chart.curves.size(); ++i) {
        const auto& curve = chart.curves[i];
        const auto column = static_cast<lxw_col_t>(2 * i);
        worksheet_write_string(sheet, 0, column, chart.xTitle.c_str(), book.head());
        worksheet_write_string(sheet, 0, static_cast<lxw_col_t>(column + 1), fmt::format("{}: {}", curve.title, chart.yTitle).c_str(), book.head());
        for (std::size_t row = 0; row < curve.x.size(); ++row) {
            worksheet_write_number(sheet, static_cast<lxw_row_t>(row + 1), column, curve.x[row], nullptr);
            if (std::isfinite(curve.y[row]))
                worksheet_write_number(sheet, static_cast<lxw_row_t>(row + 1), static_cast<lxw_col_t>(column + 1), curve.y[row], nullptr);
        }
        auto* series = chart_add_series(drawn, nullptr, nullptr);
        const auto last = static_cast<lxw_row_t>(curve.x.size());
        chart_series_set_categories(series, "Chart", 1, column, last, column);
        chart_series_set_values(series, "Chart", 1, static_cast<lxw_col_t>(column + 1), last, static_cast<lxw_col_t>(column + 1));
        chart_series_set_name(series, curve.title.c_str());
    }
    chart_title_set_name(drawn, chart.title.c_str());
    chart_axis_set_name(drawn->x_axis, chart.xTitle.c_str());
    chart_axis_set_name(drawn->y_axis, chart.yTitle.c_str());
    worksheet_insert_chart(sheet, 1, static_cast<lxw_col_t>(2 * chart.curves.size() + 1), drawn);
    return book.finish();
}

} // namespace pyro
