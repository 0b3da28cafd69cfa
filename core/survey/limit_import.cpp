#include "core/survey/limit_import.h"

#include "core/units/unit.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <fmt/format.h>

namespace pyro {
namespace {

enum class Column { None, Part, Boundary, Gauge, Name, Max, Min, Rise, Margin, Unit, Source, Kind };

struct Heading {
    Column column;
    std::string_view words;
};
// Common practice, no source. The longest that fits counts.
constexpr std::array<Heading, 40> headings{{{Column::Part, "part"},
                                            {Column::Part, "component"},
                                            {Column::Part, "device"},
                                            {Column::Part, "reference designator"},
                                            {Column::Part, "body"},
                                            {Column::Part, "item"},
                                            {Column::Boundary, "boundary"},
                                            {Column::Boundary, "surface"},
                                            {Column::Boundary, "wall"},
                                            {Column::Gauge, "gauge"},
                                            {Column::Name, "name"},
                                            {Column::Max, "max"},
                                            {Column::Max, "maximum"},
                                            {Column::Max, "tmax"},
                                            {Column::Max, "t max"},
                                            {Column::Max, "limit"},
                                            {Column::Max, "allowed"},
                                            {Column::Max, "max temperature"},
                                            {Column::Max, "maximum temperature"},
                                            {Column::Max, "allowed temperature"},
                                            {Column::Max, "temperature limit"},
                                            {Column::Max, "upper limit"},
                                            {Column::Min, "min"},
                                            {Column::Min, "minimum"},
                                            {Column::Min, "tmin"},
                                            {Column::Min, "t min"},
                                            {Column::Min, "lower limit"},
                                            {Column::Min, "min temperature"},
                                            {Column::Min, "minimum temperature"},
                                            {Column::Rise, "rise"},
                                            {Column::Rise, "max rise"},
                                            {Column::Rise, "temperature rise"},
                                            {Column::Margin, "margin"},
                                            {Column::Margin, "required margin"},
                                            {Column::Unit, "unit"},
                                            {Column::Source, "source"},
                                            {Column::Source, "data sheet"},
                                            {Column::Source, "remark"},
                                            {Column::Kind, "kind"},
                                            {Column::Kind, "where"}}};

// Lower case letters and digits only, words apart by one blank.
std::string plain(const std::string& text) {
    std::string out;
    for (const char c : text) {
        const auto byte = static_cast<unsigned char>(c);
        if (std::isalnum(byte) != 0 || byte >= 0x80)
            out.push_back(static_cast<char>(std::tolower(byte)));
        else if (!out.empty() && out.back() != ' ')
            out.push_back(' ');
    }
    while (!out.empty() && out.back() == ' ')
        out.pop_back();
    return out;
}

std::string squeezed(const std::string& text) {
    auto out = plain(text);
    std::erase(out, ' ');
    return out;
}

struct Title {
    Column column = Column::None;
    std::string unit; // that stands in brackets
};

Title titleOf(const std::string& field) {
    Title title;
    auto words = field;
    const auto open = field.find_first_of("([");
    if (open != std::string::npos) {
        const auto close = field.find_last_of(")]");
        if (close != std::string::npos && close > open && isUnit(field.substr(open + 1, close - open - 1)))
            title.unit = field.substr(open + 1, close - open - 1);
        words = field.substr(0, open);
    }
    const auto text = plain(words);
    std::size_t longest = 0;
    for (const auto& heading : headings)
        if ((text == heading.words || squeezed(words) == squeezed(std::string(heading.words))) &&
            heading.words.size() > longest) {
            longest = heading.words.size();
            title.column = heading.column;
        }
    return title;
}

bool isTarget(Column column) {
    return column == Column::Part || column == Column::Boundary || column == Column::Gauge || column == Column::Name;
}
bool isBound(Column column) { return column == Column::Max || column == Column::Min || column == Column::Rise; }

std::vector<Title> titlesOf(const CsvRow& row) {
    std::vector<Title> titles;
    for (const auto& field : row)
        titles.push_back(titleOf(field));
    return titles;
}

bool isHeader(const std::vector<Title>& titles) {
    return std::ranges::any_of(titles, [](const Title& one) { return isTarget(one.column); }) &&
           std::ranges::any_of(titles, [](const Title& one) { return isBound(one.column); });
}

// Insertions, deletions and exchanges from one word to another; Levenshtein's distance.
std::size_t distance(const std::string& a, const std::string& b) {
    std::vector<std::size_t> row(b.size() + 1);
    for (std::size_t j = 0; j <= b.size(); ++j)
        row[j] = j;
    for (std::size_t i = 1; i <= a.size(); ++i) {
        auto diagonal = row[0];
        row[0] = i;
        for (std::size_t j = 1; j <= b.size(); ++j) {
            const auto above = row[j];
            row[j] = std::min({row[j] + 1, row[j - 1] + 1, diagonal + (a[i - 1] == b[j - 1] ? 0 : 1)});
            diagonal = above;
        }
    }
    return row[b.size()];
}

struct Candidate {
    LimitTarget target;
    std::vector<std::string> spoken; // name and label
};

std::vector<Candidate> candidatesOf(const LimitNames& names, Column column) {
    std::vector<Candidate> all;
    const auto add = [&](TargetKind kind, const auto& map) {
        for (const auto& [name, label] : map) {
            auto& one = all.emplace_back();
            one.target.kind = kind;
            one.target.name = name;
            one.spoken.push_back(name);
            if (!label.empty())
                one.spoken.push_back(label);
        }
    };
    if (column == Column::Part || column == Column::Name)
        add(TargetKind::Part, names.parts);
    if (column == Column::Boundary || column == Column::Name)
        add(TargetKind::Boundary, names.boundaries);
    if (column == Column::Gauge || column == Column::Name)
        for (const auto& id : names.gauges)
            add(TargetKind::Gauge, std::map<std::string, std::string>{{id, {}}});
    return all;
}

// 0 the same, 1 but for case and punctuation, 2 one holds the other, 3 a slip of the pen; nothing: another name.
std::optional<int> likeness(const std::string& written, const std::string& name) {
    if (written == name)
        return 0;
    const auto a = squeezed(written);
    const auto b = squeezed(name);
    if (a.empty() || b.empty())
        return std::nullopt;
    if (a == b)
        return 1;
    const auto& shorter = a.size() < b.size() ? a : b;
    const auto& longer = a.size() < b.size() ? b : a;
    if (shorter.size() >= 3 && longer.find(shorter) != std::string::npos)
        return 2;
    if (shorter.size() >= 5 && distance(a, b) <= (shorter.size() >= 8 ? 2U : 1U))
        return 3;
    return std::nullopt;
}

void findTarget(ImportedLimit& one, Column column, const LimitNames& names) {
    const auto fallback = column == Column::Boundary ? TargetKind::Boundary
                          : column == Column::Gauge  ? TargetKind::Gauge
                                                     : TargetKind::Part;
    one.limit.target = {fallback, one.written};
    std::optional<int> best;
    std::vector<LimitTarget> found;
    for (const auto& candidate : candidatesOf(names, column)) {
        std::optional<int> like;
        for (const auto& spoken : candidate.spoken)
            if (const auto here = likeness(one.written, spoken); here && (!like || *here < *like))
                like = here;
        if (!like || (best && *like > *best))
            continue;
        if (!best || *like < *best)
            found.clear();
        best = like;
        found.push_back(candidate.target);
    }
    if (found.size() == 1) {
        one.limit.target = found.front();
        one.match = *best == 0 ? NameMatch::Exact : NameMatch::Tolerant;
        if (*best > 1)
            one.remark = fmt::format("\"{}\" is taken for \"{}\"", one.written, found.front().name);
    } else if (found.size() > 1) {
        std::vector<std::string> several;
        several.reserve(found.size());
        for (const auto& target : found)
            several.push_back(target.name);
        one.problem = fmt::format("\"{}\" may be any of {}", one.written, fmt::join(several, ", "));
    } else {
        one.problem = fmt::format("the case has nothing named \"{}\"", one.written);
    }
}

// "72 degF" as a difference is "40 K": degrees of a scale are its steps, without its offset.
std::string asDifference(const std::string& text) {
    const auto number = splitMeasured(text);
    const auto kelvin = number && !number->unit.empty() ? conversion(number->unit, "K") : tl::unexpected(Error{});
    return kelvin && kelvin->offset != 0 ? fmt::format("{:.10g} K", kelvin->difference(number->value)) : text;
}

bool isBare(const std::string& text) {
    const auto number = splitMeasured(text);
    return number && number->unit.empty();
}

class RowReader {
public:
    RowReader(const std::vector<Title>& titles, const LimitNames& names, TemperatureUnit bare)
        : m_titles(titles), m_names(names), m_bare(udunitsName(bare)) {}

    // Nothing for a row without name and bound.
    std::optional<ImportedLimit> read(const CsvRow& row, std::size_t number) const {
        ImportedLimit one;
        one.row = number;
        Column named = Column::Name;
        for (std::size_t i = 0; i < std::min(row.size(), m_titles.size()); ++i)
            if (isTarget(m_titles[i].column) && !row[i].empty() && one.written.empty()) {
                one.written = row[i];
                named = m_titles[i].column;
            }
        const bool bound = !field(row, Column::Max).empty() || !field(row, Column::Min).empty() ||
                           !field(row, Column::Rise).empty();
        if (one.written.empty() && !bound)
            return std::nullopt;
        if (one.written.empty()) {
            one.problem = "the row names no part";
            return one;
        }
        findTarget(one, named, m_names);
        if (!bound)
            one.problem = "the row holds no limit";
        one.limit.source = field(row, Column::Source);
        one.limit.kind = field(row, Column::Kind);
        if (field(row, Column::Max).empty() && field(row, Column::Min).empty() && !field(row, Column::Rise).empty())
            one.limit.form = &riseForm;
        take(one, row, one.limit.form == &riseForm ? Column::Rise : Column::Max, one.limit.max, parseBound);
        take(one, row, Column::Min, one.limit.min, parseBound);
        take(one, row, Column::Margin, one.limit.margin, parseMargin);
        if (one.problem.empty() && one.limit.max && one.limit.min && one.limit.max->si < one.limit.min->si)
            one.problem = "the maximum is below the minimum";
        return one;
    }

private:
    std::string field(const CsvRow& row, Column column) const {
        for (std::size_t i = 0; i < std::min(row.size(), m_titles.size()); ++i)
            if (m_titles[i].column == column && !row[i].empty())
                return row[i];
        return {};
    }
    std::string unitIn(Column column) const {
        for (const auto& title : m_titles)
            if (title.column == column && !title.unit.empty())
                return title.unit;
        return {};
    }
    template <class Parse>
    void take(ImportedLimit& one, const CsvRow& row, Column column, std::optional<Bound>& into, Parse parse) const {
        auto text = field(row, column);
        if (text.empty())
            return;
        if (isBare(text)) {
            auto unit = unitIn(column);
            if (unit.empty())
                unit = field(row, Column::Unit);
            if (unit.empty() && one.limit.target.kind != TargetKind::Gauge) {
                unit = m_bare;
                const auto taken = fmt::format("no unit: taken as {}", m_bare);
                if (one.remark.find(taken) == std::string::npos)
                    one.remark += (one.remark.empty() ? "" : "; ") + taken;
            }
            text += unit.empty() ? std::string() : " " + unit;
        }
        if (column == Column::Margin || column == Column::Rise)
            text = asDifference(text);
        const auto value = parse(one.limit, text);
        if (value)
            into = Bound{text, *value};
        else if (one.problem.empty())
            one.problem = fmt::format("\"{}\": {}", text, value.error().what);
    }

    const std::vector<Title>& m_titles;
    const LimitNames& m_names;
    std::string m_bare;
};

} // namespace

Result<LimitImport> limitsFromTable(const std::vector<CsvRow>& rows, const LimitNames& names, TemperatureUnit bare,
                                    const std::string& file) {
    if (std::ranges::all_of(rows, [](const CsvRow& row) { return std::ranges::all_of(row, &std::string::empty); }))
        return fail(ErrorCode::FileEmpty, "the table is empty", file, "Its columns are named by a first line");
    std::size_t head = 0;
    while (head < rows.size() && !isHeader(titlesOf(rows[head])))
        ++head;
    if (head == rows.size())
        return fail(ErrorCode::Syntax, "no line names a column of parts and one of limits", file,
                    "Name the columns, for example: part, max, margin, source");
    LimitImport out;
    const auto titles = titlesOf(rows[head]);
    for (std::size_t i = 0; i < titles.size(); ++i)
        if (titles[i].column == Column::None && !rows[head][i].empty())
            out.remarks.push_back(
                {Severity::Note, "column-unknown", fmt::format("the column \"{}\" is not read", rows[head][i]), file});
    const RowReader reader(titles, names, bare);
    for (auto i = head + 1; i < rows.size(); ++i)
        if (auto one = reader.read(rows[i], i + 1))
            out.limits.push_back(std::move(*one));
    return out;
}

} // namespace pyro
