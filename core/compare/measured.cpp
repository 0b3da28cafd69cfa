#include "core/compare/measured.h"

#include "core/sheets/table_columns.h"
#include "core/units/display.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

std::string unitIn(const TitledTable& table, std::size_t column) { return table.titles[column].unit; }

// Reads one table, row after row.
class MeasuredReader {
public:
    MeasuredReader(const MeasuredWish& wish, const TitledTable& table, MeasuredTable& out)
        : m_wish(wish), m_table(table), m_out(out) {}

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
        if (!takeUnit() || !takeLengths(places))
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

    bool takeUnit() {
        auto unit = unitIn(m_table, *m_value);
        if (unit.empty() && m_out.isTemperature) {
            refuse("the column \"value\" has no unit, so that it is not known whether these are degC or K; write "
                   "\"value [degC]\"");
            return false;
        }
        if (unit.empty()) {
            unit = m_out.siUnit;
            m_out.notes.push_back("values without a unit are taken in " + unit);
        }
        if (!unitIs(unit, m_out.siUnit, "value"))
            return false;
        m_out.unit = unit;
        return true;
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
        const auto written = text(row, column);
        if (written.empty())
            return std::nullopt;
        const auto value = tableNumber(written);
        if (!value) {
            why = fmt::format("line {}: \"{}\" is no number", m_table.line[row], written);
            return std::nullopt;
        }
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
        if (out.uncertainty && !(*out.uncertainty >= 0))
            out.why = fmt::format("line {}: the uncertainty is negative", m_table.line[at]);
        const auto known = std::ranges::find(m_out.places, place);
        out.place = static_cast<std::size_t>(known - m_out.places.begin());
        if (known == m_out.places.end())
            m_out.places.push_back(std::move(place));
        m_out.rows.push_back(std::move(out));
    }

    const MeasuredWish& m_wish;
    const TitledTable& m_table;
    MeasuredTable& m_out;
    std::optional<std::size_t> m_value, m_gauge, m_name, m_part, m_time, m_uncertainty;
    std::array<std::optional<std::size_t>, 3> m_at;
};

// What is simulated at a place and time, SI.
struct Simulated {
    std::optional<double> value;
    std::optional<Point> foundAt;
    std::string why;
};

Simulated simulatedAt(std::size_t place, const std::optional<double>& time, std::span<const ProbedStep> steps) {
    const auto on = [&](const ProbedStep& step) {
        const auto& probe = step.probes->places[place];
        return Simulated{probe.value, probe.foundAt, probe.why};
    };
    if (!time || steps.size() == 1)
        if (!time || !steps[0].time || *steps[0].time == *time)
            return on(steps.back());
    const bool timed = std::ranges::all_of(steps, [](const ProbedStep& step) { return step.time.has_value(); });
    if (!timed)
        return on(steps.back()); // steady
    const double first = *steps.front().time;
    const double last = *steps.back().time;
    const double hair = 1e-9 * std::max(std::abs(first), std::abs(last));
    if (*time < first - hair || *time > last + hair)
        return {{}, {}, fmt::format("the simulation runs from {:g} s to {:g} s", first, last)};
    std::size_t after = 0;
    while (after + 1 < steps.size() && *steps[after].time < *time - hair)
        ++after;
    auto there = on(steps[after]);
    if (after == 0 || std::abs(*steps[after].time - *time) <= hair || !there.value)
        return there;
    const auto before = on(steps[after - 1]);
    if (!before.value)
        return before;
    const double share = (*time - *steps[after - 1].time) / (*steps[after].time - *steps[after - 1].time);
    *there.value = std::lerp(*before.value, *there.value, share);
    return there;
}

void addFigures(MeasuredReading& out) {
    double sum = 0;
    double squares = 0;
    std::size_t count = 0;
    std::size_t normalised = 0;
    std::size_t within = 0;
    for (const auto& point : out.points) {
        if (!point.deviation)
            continue;
        ++count;
        sum += *point.deviation;
        squares += *point.deviation * *point.deviation;
        if (!out.largest || std::abs(*point.deviation) > std::abs(*out.largest))
            out.largest = point.deviation;
        if (point.normalised) {
            ++normalised;
            within += std::abs(*point.normalised) <= 1 ? 1 : 0;
        }
    }
    if (count == 0)
        return;
    out.mean = sum / static_cast<double>(count);
    out.rms = std::sqrt(squares / static_cast<double>(count));
    if (normalised > 0)
        out.within = static_cast<double>(within) / static_cast<double>(normalised);
}

} // namespace

MeasuredTable readMeasured(const MeasuredWish& wish, const std::filesystem::path& file, const std::string& siUnit) {
    MeasuredTable out;
    out.id = wish.id;
    out.quantity = wish.quantity;
    out.component = wish.component;
    out.siUnit = siUnit;
    out.isTemperature = wish.quantity == "temperature";
    const auto table = readTitledTable(file);
    if (!table)
        out.why = fmt::format("{}: {}", wish.file, table.error().what);
    else
        MeasuredReader(wish, *table, out).read();
    return out;
}

MeasuredReading deviationsOf(const MeasuredTable& table, std::span<const ProbedStep> steps, double shift,
                             const std::string& caseName, std::span<const GridStudy> grids) {
    MeasuredReading out;
    out.id = table.id;
    out.unit = table.unit;
    out.isTemperature = table.isTemperature;
    out.differenceUnit = table.isTemperature ? "K" : table.unit;
    out.notes = table.notes;
    out.why = table.why;
    if (!out.why.empty() || steps.empty()) {
        if (out.why.empty())
            out.why = "the case has not been evaluated";
        return out;
    }
    const auto toSi = *conversion(table.unit, table.siUnit);
    const auto inverse = toSi.inverse();
    const double scale = table.isTemperature ? 1 : inverse.scale; // of differences
    bool meshKnown = false;
    for (const auto& row : table.rows) {
        const auto& place = table.places[row.place];
        auto& point = out.points.emplace_back();
        point.name = place.name;
        point.at = place.at;
        point.time = row.time;
        if (row.value)
            point.measured = inverse(*row.value + shift);
        if (row.uncertainty)
            point.uncertainty = scale * *row.uncertainty;
        point.why = !place.why.empty() ? place.why : row.why;
        if (!point.why.empty())
            continue;
        const auto there = simulatedAt(row.place, row.time, steps);
        point.why = there.why;
        if (!there.value)
            continue;
        point.simulated = inverse(*there.value);
        if (there.foundAt && place.at)
            point.distance = std::hypot((*there.foundAt)[0] - (*place.at)[0], (*there.foundAt)[1] - (*place.at)[1],
                                        (*there.foundAt)[2] - (*place.at)[2]);
        point.deviation = scale * (*there.value - *row.value - shift);
        const auto mesh = place.gauge.empty() ? std::nullopt : uncertaintyOf(grids, caseName, place.gauge);
        meshKnown = meshKnown || mesh;
        if (point.uncertainty) {
            const double whole = std::hypot(*point.uncertainty, mesh.value_or(0));
            if (whole > 0)
                point.normalised = *point.deviation / whole;
        }
    }
    addFigures(out);
    if (out.within && !meshKnown)
        out.notes.emplace_back("the uncertainty of the simulation is not known and taken as none");
    if (shift != 0)
        out.notes.push_back(fmt::format("what was measured is shifted by {:+.4g} K to the ambient of the case", shift));
    return out;
}

} // namespace pyro
