// Tables of measured values: a line for each, or a logger's with a column for each sensor.
#include "core/compare/measured_read.h"
#include "core/sheets/table_columns.h"
#include "core/units/unit.h"

#include <algorithm>
#include <chrono>
#include <cstdio>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <set>
#include <unordered_map>

namespace pyro {
namespace {

std::string unitIn(const TitledTable& table, std::size_t column) { return table.titles[column].unit; }

// A number of a field in its unit. Nothing for an empty field; `why` for one that is no number.
std::optional<double> fieldIn(const TitledTable& table, std::size_t row, std::size_t column, std::string& why) {
    const auto written = trimmed(table.rows[row][column]);
    if (written.empty())
        return std::nullopt;
    const auto value = tableNumber(written);
    if (!value)
        why = fmt::format("line {}: \"{}\" is no number", table.line[row], written);
    return value;
}

// Reads one table, row after row.
class MeasuredReader {
public:
    MeasuredReader(const MeasuredWish& wish, const TitledTable& table, MeasuredTable& out)
        : m_wish(wish), m_table(table), m_out(out), m_stated(statedUncertainty(wish.uncertainty, out)) {}

    void read() {
        m_value = m_table.column("value");
        if (!m_value)
            return refuse("there is no column \"value\"");
        m_gauge = m_table.column("gauge");
        const std::array names{"x", "y", "z"};
        for (std::size_t axis = 0; axis < 3; ++axis)
            m_at[axis] = m_table.column(names[axis]);
        const bool places = m_at[0] && m_at[1] && m_at[2];
        if (!places && !m_gauge)
            return refuse("there are neither columns x, y and z nor a column \"gauge\"");
        if (!takeValueUnit() || !takeLengths(places))
            return;
        m_name = m_table.column("name");
        m_part = m_table.column("part");
        m_time = m_table.column("time");
        m_uncertainty = m_table.column("uncertainty");
        if (!unitFits(m_time, "s") || !unitFits(m_uncertainty, m_out.siUnit))
            return;
        for (std::size_t i = 0; i < m_table.rows.size(); ++i)
            row(i);
        if (m_out.rows.empty())
            refuse("there are no rows below the titles");
    }

private:
    void refuse(const std::string& why) { m_out.why = fmt::format("{}: {}", m_wish.file, why); }

    bool takeValueUnit() {
        const auto unit = takeUnit(m_wish, unitIn(m_table, *m_value), "the column \"value\"", m_out);
        m_out.unit = unit.value_or("");
        return unit.has_value();
    }
    bool takeLengths(bool places) {
        for (std::size_t axis = 0; places && axis < 3; ++axis) {
            const auto unit = unitIn(m_table, *m_at[axis]);
            if (unit.empty() && axis == 0)
                m_out.notes.emplace_back("places without a unit are taken in metres");
            if (!unitIs(unit.empty() ? "m" : unit, "m", m_table.titles[*m_at[axis]].written))
                return false;
        }
        return true;
    }
    bool unitFits(const std::optional<std::size_t>& column, const std::string& si) {
        return !column || unitIn(m_table, *column).empty() ||
               unitIs(unitIn(m_table, *column), si, m_table.titles[*column].written);
    }
    bool unitIs(const std::string& unit, const std::string& si, const std::string& column) {
        if (sameDimension(unit, si))
            return true;
        refuse(fmt::format("the unit \"{}\" of the column \"{}\" is not one of {}", unit, column, si));
        return false;
    }

    std::string text(std::size_t row, const std::optional<std::size_t>& column) const {
        return column ? trimmed(m_table.rows[row][*column]) : std::string();
    }
    // In SI; a difference where wanted. Nothing for an empty field; `why` for one that is no number.
    std::optional<double> number(std::size_t row, const std::optional<std::size_t>& column, const std::string& bare,
                                 const std::string& si, bool difference, std::string& why) const {
        const auto value = column ? fieldIn(m_table, row, *column, why) : std::nullopt;
        if (!value)
            return std::nullopt;
        const auto unit = unitIn(m_table, *column);
        const auto toSi = conversion(unit.empty() ? bare : unit, si);
        if (!toSi) {
            why = toSi.error().what;
            return std::nullopt;
        }
        return difference ? toSi->difference(*value) : (*toSi)(*value);
    }

    void row(std::size_t at) {
        MeasuredRow out;
        MeasuredPlace place;
        place.name = text(at, m_name);
        place.gauge = text(at, m_gauge);
        place.part = text(at, m_part);
        if (place.name.empty())
            place.name = !place.gauge.empty() ? place.gauge : fmt::format("line {}", m_table.line[at]);
        if (place.gauge.empty()) {
            Point where{};
            for (std::size_t axis = 0; axis < 3 && place.why.empty(); ++axis) {
                const auto value = m_at[axis] ? number(at, m_at[axis], "m", "m", false, place.why) : std::nullopt;
                if (!value && place.why.empty())
                    place.why = fmt::format("line {}: the place is not told", m_table.line[at]);
                where[axis] = value.value_or(0);
            }
            if (place.why.empty())
                place.at = where;
        }
        out.value = number(at, m_value, m_out.unit, m_out.siUnit, false, out.why);
        if (!out.value && out.why.empty())
            out.why = fmt::format("line {}: no value", m_table.line[at]);
        out.time = number(at, m_time, "s", "s", false, out.why);
        out.uncertainty = number(at, m_uncertainty, m_out.unit, m_out.siUnit, true, out.why);
        if (!out.uncertainty)
            out.uncertainty = m_stated;
        if (out.uncertainty && !(*out.uncertainty >= 0))
            out.why = fmt::format("line {}: the uncertainty is negative", m_table.line[at]);
        const auto key = fmt::format("{}\n{}\n{}\n{}\n{}", place.name, place.gauge, place.part,
                                     place.at.value_or(Point{}), place.why);
        const auto [known, isNew] = m_known.emplace(key, m_out.places.size());
        out.place = known->second;
        if (isNew)
            m_out.places.push_back(std::move(place));
        m_out.rows.push_back(std::move(out));
    }

    const MeasuredWish& m_wish;
    const TitledTable& m_table;
    MeasuredTable& m_out;
    std::optional<double> m_stated; // of the wish, for values that tell no uncertainty
    std::optional<std::size_t> m_value, m_gauge, m_name, m_part, m_time, m_uncertainty;
    std::array<std::optional<std::size_t>, 3> m_at;
    std::unordered_map<std::string, std::size_t> m_known; // places
};

// Seconds of a clock: "12:30:05", "2026-05-04 12:30:05.5"; nothing for anything else.
std::optional<double> clockSeconds(const std::string& written) {
    int year = 1970;
    int month = 1;
    int day = 1;
    int hour = 0;
    int minute = 0;
    double second = 0;
    auto clock = written;
    if (const auto gap = written.find_first_of(" T"); gap != std::string::npos) {
        if (std::sscanf(written.c_str(), "%d-%d-%d", &year, &month, &day) != 3)
            return std::nullopt;
        clock = written.substr(gap + 1);
    }
    if (std::sscanf(clock.c_str(), "%d:%d:%lf", &hour, &minute, &second) < 2)
        return std::nullopt;
    const std::chrono::year_month_day date{std::chrono::year(year), std::chrono::month(static_cast<unsigned>(month)),
                                           std::chrono::day(static_cast<unsigned>(day))};
    if (!date.ok())
        return std::nullopt;
    const auto days = std::chrono::sys_days(date).time_since_epoch().count();
    return 86400.0 * static_cast<double>(days) + 3600.0 * hour + 60.0 * minute + second;
}

// A table with a column of times and one for each sensor.
class LoggerReader {
public:
    LoggerReader(const MeasuredWish& wish, const TitledTable& table, std::span<const Gauge> gauges, MeasuredTable& out)
        : m_wish(wish), m_table(table), m_gauges(gauges), m_out(out) {}

    void read() {
        m_time = m_table.column("time");
        findSensors();
        if (!m_out.why.empty())
            return;
        if (m_sensors.empty())
            return refuse("no column is named by \"sensors\" or like a gauge");
        if (m_time && !unitIn(m_table, *m_time).empty() && !sameDimension(unitIn(m_table, *m_time), "s"))
            return refuse(
                fmt::format("the unit of the column \"{}\" is not one of time", m_table.titles[*m_time].written));
        for (std::size_t row = 0; row < m_table.rows.size(); ++row)
            for (const auto& sensor : m_sensors)
                value(row, sensor);
        if (m_out.rows.empty())
            refuse("there are no rows below the titles");
    }

private:
    struct Sensor {
        std::size_t column;
        std::size_t place;
        Affine toSi;
        std::optional<double> uncertainty;
    };

    void refuse(const std::string& why) { m_out.why = fmt::format("{}: {}", m_wish.file, why); }
    void findSensors() {
        std::set<std::size_t> taken;
        for (const auto& [title, wish] : m_wish.sensors) {
            const auto column = m_table.column(title);
            if (!column) {
                m_out.notes.push_back(fmt::format("there is no column \"{}\"", title));
                continue;
            }
            taken.insert(*column);
            MeasuredPlace place{title, {}, wish.gauge, wish.part, {}};
            if (wish.at)
                place.at = wish.at->at();
            else if (wish.gauge.empty())
                place.why = "neither a place nor a gauge is told for it";
            add(*column, std::move(place), wish.uncertainty.empty() ? m_wish.uncertainty : wish.uncertainty);
        }
        for (const auto& gauge : m_gauges)
            if (const auto column = m_table.column(gauge.id);
                column && column != m_time && taken.insert(*column).second)
                add(*column, {gauge.id, {}, gauge.id, {}, {}}, m_wish.uncertainty);
        for (std::size_t column = 0; column < m_table.titles.size(); ++column)
            if (column != m_time && !taken.contains(column))
                m_out.notes.push_back(
                    fmt::format("the column \"{}\" is of no sensor and left out", m_table.titles[column].written));
    }
    void add(std::size_t column, MeasuredPlace place, const std::string& uncertainty) {
        const auto unit = takeUnit(m_wish, unitIn(m_table, column),
                                   fmt::format("the column \"{}\"", m_table.titles[column].written), m_out);
        if (!unit)
            return;
        if (m_out.unit.empty())
            m_out.unit = *unit;
        m_sensors.push_back(
            {column, m_out.places.size(), *conversion(*unit, m_out.siUnit), statedUncertainty(uncertainty, m_out)});
        m_out.places.push_back(std::move(place));
    }
    void value(std::size_t at, const Sensor& sensor) {
        MeasuredRow out{sensor.place, {}, {}, sensor.uncertainty, {}};
        const auto value = fieldIn(m_table, at, sensor.column, out.why);
        if (!value && out.why.empty())
            return; // not every sensor is read at every time
        if (value)
            out.value = sensor.toSi(*value);
        if (m_time)
            out.time = timeOf(at, out.why);
        m_out.rows.push_back(std::move(out));
    }
    std::optional<double> timeOf(std::size_t row, std::string& why) {
        const auto written = trimmed(m_table.rows[row][*m_time]);
        if (const auto clock = clockSeconds(written)) {
            if (!m_firstClock) {
                m_firstClock = clock;
                m_out.notes.push_back("times are counted from " + written);
            }
            return *clock - *m_firstClock;
        }
        const auto number = fieldIn(m_table, row, *m_time, why);
        if (!number) {
            why = why.empty() ? fmt::format("line {}: no time", m_table.line[row]) : why;
            return std::nullopt;
        }
        const auto unit = unitIn(m_table, *m_time);
        return (*conversion(unit.empty() ? "s" : unit, "s"))(*number);
    }

    const MeasuredWish& m_wish;
    const TitledTable& m_table;
    std::span<const Gauge> m_gauges;
    MeasuredTable& m_out;
    std::optional<std::size_t> m_time;
    std::vector<Sensor> m_sensors;
    std::optional<double> m_firstClock;
};

} // namespace

void readMeasuredTable(const MeasuredWish& wish, const std::filesystem::path& file, std::span<const Gauge> gauges,
                       MeasuredTable& out) {
    const auto table = readTitledTable(file);
    if (!table)
        out.why = fmt::format("{}: {}", wish.file, table.error().what);
    else if (!wish.sensors.empty() || (!table->column("value") && table->column("time")))
        LoggerReader(wish, *table, gauges, out).read();
    else
        MeasuredReader(wish, *table, out).read();
}

} // namespace pyro
