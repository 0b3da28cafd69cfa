#include "core/case/solver_history.h"

#include "core/feedback/csv_rows.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <fmt/format.h>
#include <fstream>

namespace pyro {
namespace {

std::optional<double> numberIn(const std::string& field) {
    const auto word = csvWord(field);
    double value = 0;
    const auto [end, status] = std::from_chars(word.data(), word.data() + word.size(), value);
    return status == std::errc() && end == word.data() + word.size() && std::isfinite(value) ? std::optional(value)
                                                                                             : std::nullopt;
}

std::size_t leadingColumn(const CsvRow& header) {
    for (const char* name : {"time", "time_s", "iteration", "iter", "step"})
        for (std::size_t i = 0; i < header.size(); ++i)
            if (csvWord(header[i]) == name)
                return i;
    return 0;
}

void dropFrom(SolverHistory& history, std::size_t first) {
    history.at.resize(first);
    for (auto& column : history.columns)
        column.values.resize(first);
}

// Adds what the text holds line by line; tells each kind of trouble once, with its first line and how often it occurs.
class LineTaker {
public:
    LineTaker(SolverHistory& history, std::size_t leading) : m_history(history), m_leading(leading) {}

    void take(const CsvRow& row, std::size_t line) {
        const auto at = m_leading < row.size() ? numberIn(row[m_leading]) : std::nullopt;
        if (!at)
            return count(m_broken, line);
        if (!m_history.at.empty() && *at <= m_history.at.back()) {
            count(*at == m_history.at.back() ? m_repeated : m_back, line);
            dropFrom(m_history,
                     static_cast<std::size_t>(std::ranges::lower_bound(m_history.at, *at) - m_history.at.begin()));
        }
        m_history.at.push_back(*at);
        std::size_t next = 0;
        for (std::size_t column = 0; next < m_history.columns.size(); ++column) {
            if (column == m_leading)
                continue;
            const auto value = column < row.size() ? numberIn(row[column]) : std::nullopt;
            if (!value)
                count(m_gaps, line);
            m_history.columns[next++].values.push_back(value.value_or(std::nan("")));
        }
    }
    void finish() {
        tell(m_broken, "history-line", "lines without a number in the column \"" + m_history.along + "\" are left out");
        tell(m_repeated, "history-repeated", "repeated values of \"" + m_history.along + "\": the later line is taken");
        tell(m_back, "history-back",
             "\"" + m_history.along +
                 "\" goes back, as after a restart: what the later lines repeat is left out before them");
        tell(m_gaps, "history-gap", "fields without a number are gaps");
    }

private:
    struct Trouble {
        std::size_t count = 0;
        std::size_t line = 0;
    };
    static void count(Trouble& trouble, std::size_t line) {
        if (trouble.count++ == 0)
            trouble.line = line;
    }
    void tell(const Trouble& trouble, const char* code, const std::string& text) {
        if (trouble.count > 0)
            m_history.remarks.push_back(
                {Severity::Warning, code,
                 fmt::format("{} ({} times, first in line {})", text, trouble.count, trouble.line),
                 m_history.file.string()});
    }

    SolverHistory& m_history;
    std::size_t m_leading;
    Trouble m_broken;
    Trouble m_repeated;
    Trouble m_back;
    Trouble m_gaps;
};

} // namespace

Result<SolverHistory> solverHistoryFrom(std::string_view text, const std::filesystem::path& file) {
    const auto end = text.rfind('\n');
    // what follows is still being written
    const auto rows = parseCsv(text.substr(0, end == std::string_view::npos ? 0 : end + 1));
    if (!rows)
        return fail(ErrorCode::Syntax, rows.error().what, file.string(), rows.error().remedy);
    if (rows->empty() || rows->front().size() < 2)
        return fail(ErrorCode::Syntax, "this is no history: a first line that names at least two columns is needed",
                    file.string(), "Write time or iteration and what is monitored, separated by commas");
    SolverHistory history;
    history.file = file;
    const auto leading = leadingColumn(rows->front());
    history.along = rows->front()[leading];
    for (std::size_t i = 0; i < rows->front().size(); ++i)
        if (i != leading)
            history.columns.push_back({(*rows)[0][i], {}});
    LineTaker taker(history, leading);
    for (std::size_t i = 1; i < rows->size(); ++i)
        taker.take((*rows)[i], i + 1);
    taker.finish();
    if (history.at.empty() && rows->size() > 1)
        return fail(ErrorCode::Syntax, "no line of the history begins with a number", file.string(),
                    "Its first column, time or iteration, holds plain numbers");
    return history;
}

Result<SolverHistory> readSolverHistory(const std::filesystem::path& file) {
    std::ifstream stream(file, std::ios::binary);
    if (!stream)
        return fail(ErrorCode::FileMissing, "the history cannot be read", file.string(), "Check its name and folder");
    const std::string text(std::istreambuf_iterator<char>(stream), {});
    return solverHistoryFrom(text, file);
}

std::optional<std::filesystem::path> historyBeside(const std::filesystem::path& caseFile) {
    auto stem = caseFile.stem().string();
    std::vector<std::string> stems{stem};
    if (const auto cut = stem.rfind('_'); cut != std::string::npos && cut + 3 < stem.size() &&
                                          std::all_of(stem.begin() + static_cast<std::ptrdiff_t>(cut) + 1, stem.end(),
                                                      [](unsigned char c) { return std::isdigit(c) != 0; }))
        stems.push_back(stem.substr(0, cut));
    for (const auto& one : stems)
        for (const char* ending : {"-history.csv", ".history.csv"}) {
            const auto file = caseFile.parent_path() / (one + ending);
            std::error_code failed;
            if (std::filesystem::is_regular_file(file, failed))
                return file;
        }
    return std::nullopt;
}

} // namespace pyro
