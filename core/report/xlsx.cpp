#include "core/report/xlsx.h"

#include "core/feedback/whole_file.h"

#include <cmath>
#include <fmt/format.h>
#include <xlsxwriter.h>

namespace pyro {
namespace {

// A workbook that stands at its place only once it is whole.
class Workbook {
public:
    explicit Workbook(const std::filesystem::path& file) : m_file(file), m_book(workbook_new(m_file.beside().c_str())) {
        m_head = workbook_add_format(m_book);
        format_set_bold(m_head);
    }
    ~Workbook() {
        if (m_book != nullptr)
            workbook_close(m_book);
    }
    Workbook(const Workbook&) = delete;
    Workbook& operator=(const Workbook&) = delete;

    lxw_worksheet* sheet(const char* name) { return workbook_add_worksheet(m_book, name); }
    lxw_format* head() const { return m_head; }
    lxw_workbook* book() const { return m_book; }

    Done finish() {
        const auto closed = workbook_close(std::exchange(m_book, nullptr));
        return closed == LXW_NO_ERROR ? m_file.put("the spreadsheet") : m_file.failed("the spreadsheet");
    }

private:
    WholeFile m_file;
    lxw_workbook* m_book;
    lxw_format* m_head;
};

void fill(lxw_worksheet* sheet, lxw_format* head, const Table& table) {
    for (std::size_t column = 0; column < table.columns.size(); ++column)
        worksheet_write_string(sheet, 0, static_cast<lxw_col_t>(column), table.columns[column].c_str(), head);
    for (std::size_t row = 0; row < table.rows.size(); ++row)
        for (std::size_t column = 0; column < table.rows[row].size(); ++column) {
            const auto& cell = table.rows[row][column];
            const auto r = static_cast<lxw_row_t>(row + 1);
            const auto c = static_cast<lxw_col_t>(column);
            if (cell.isNumber() && std::isfinite(cell.number()))
                worksheet_write_number(sheet, r, c, cell.number(), nullptr);
            else if (const auto text = cell.text(); !text.empty())
                worksheet_write_string(sheet, r, c, text.c_str(), nullptr);
        }
    worksheet_freeze_panes(sheet, 1, 0);
    worksheet_set_column(sheet, 0, 12, 14, nullptr);
}

} // namespace

Done writeTablesXlsx(std::span<const std::pair<std::string, Table>> tables, const std::filesystem::path& file) {
    Workbook book(file);
    for (const auto& [title, table] : tables)
        fill(book.sheet(title.c_str()), book.head(), table);
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
        worksheet_write_string(sheet, 0, static_cast<lxw_col_t>(column + 1),
                               fmt::format("{}: {}", curve.title, chart.yTitle).c_str(), book.head());
        for (std::size_t row = 0; row < curve.x.size(); ++row) {
            worksheet_write_number(sheet, static_cast<lxw_row_t>(row + 1), column, curve.x[row], nullptr);
            if (std::isfinite(curve.y[row]))
                worksheet_write_number(sheet, static_cast<lxw_row_t>(row + 1), static_cast<lxw_col_t>(column + 1),
                                       curve.y[row], nullptr);
        }
        auto* series = chart_add_series(drawn, nullptr, nullptr);
        const auto last = static_cast<lxw_row_t>(curve.x.size());
        chart_series_set_categories(series, "Chart", 1, column, last, column);
        chart_series_set_values(series, "Chart", 1, static_cast<lxw_col_t>(column + 1), last,
                                static_cast<lxw_col_t>(column + 1));
        chart_series_set_name(series, curve.title.c_str());
    }
    chart_title_set_name(drawn, chart.title.c_str());
    chart_axis_set_name(drawn->x_axis, chart.xTitle.c_str());
    chart_axis_set_name(drawn->y_axis, chart.yTitle.c_str());
    worksheet_insert_chart(sheet, 1, static_cast<lxw_col_t>(2 * chart.curves.size() + 1), drawn);
    return book.finish();
}

} // namespace pyro
