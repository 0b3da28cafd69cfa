#include "core/compare/grids.h"

#include "core/units/display.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

double sizeOf(const CaseOutcome& one) { return std::pow(one.cells, one.plane ? -1.0 / 2 : -1.0 / 3); }

// Shares of temperatures are told on the rise above the ambient; order and uncertainty do not depend on it.
void find(GridRow& row, std::span<const double> sizes, const std::optional<double>& ambient) {
    std::vector<double> values;
    for (std::size_t i = 0; i < row.values.size(); ++i) {
        if (!row.values[i]) {
            row.why = row.why.empty() ? fmt::format("mesh {} has no value", i + 1) : row.why;
            return;
        }
        values.push_back(*row.values[i]);
    }
    double zero = 0;
    double scale = 1;
    row.uncertaintyUnit = row.unit;
    if (row.isTemperature) {
        const auto toKelvin = *conversion(row.unit, "K");
        scale = toKelvin.scale;
        row.uncertaintyUnit = "K";
        row.zero = ambient ? std::optional(toKelvin.inverse()(*ambient)) : std::nullopt;
        zero = row.zero.value_or(0);
    }
    for (auto& value : values)
        value -= zero;
    auto found = convergenceOf(values, sizes);
    if (!found) {
        row.why = found.error().what;
        return;
    }
    row.found = std::move(*found);
    if (row.found.extrapolated)
        *row.found.extrapolated += zero;
    if (row.found.uncertainty)
        *row.found.uncertainty *= scale;
    if (row.isTemperature) {
        auto& note = row.found.note;
        if (row.zero) {
            note += fmt::format("{}shares on the rise above {}", note.empty() ? "" : "; ",
                                formatTemperature({*ambient}, TemperatureUnit::Celsius));
        } else {
            row.found.approximateError = row.found.extrapolatedError = row.found.index = std::nullopt;
            note += fmt::format("{}no ambient is known, so that shares say nothing", note.empty() ? "" : "; ");
        }
    }
}

} // namespace

GridStudy studyGrids(const Survey& survey, const GridsWish& wish, std::span<const CaseOutcome> outcomes) {
    GridStudy out;
    out.cases = wish.cases;
    if (wish.cases.size() < 2) {
        out.why = "two meshes or more are needed";
        return out;
    }
    if (!wish.sizes.empty() && wish.sizes.size() != wish.cases.size()) {
        out.why = fmt::format("there are {} sizes for {} cases", wish.sizes.size(), wish.cases.size());
        return out;
    }
    std::vector<const CaseOutcome*> cases;
    for (std::size_t i = 0; i < wish.cases.size(); ++i) {
        const auto one = std::ranges::find(outcomes, wish.cases[i], &CaseOutcome::name);
        if (one == outcomes.end() || one->readings == nullptr) {
            out.why = one == outcomes.end() ? fmt::format("the case \"{}\" is not there", wish.cases[i])
                                            : fmt::format("\"{}\" cannot be read: {}", wish.cases[i],
                                                          one->why.empty() ? "it has not been evaluated" : one->why);
            return out;
        }
        cases.push_back(&*one);
        if (wish.sizes.empty() && !(one->cells > 0)) {
            out.why = fmt::format("the cells of \"{}\" are not known", wish.cases[i]);
            return out;
        }
        out.sizes.push_back(wish.sizes.empty() ? sizeOf(*one) : wish.sizes[i].si);
    }
    const auto ambient = cases.front()->readings->ambient;
    for (const auto& gauge : survey.gauges) {
        GridRow row{.gauge = gauge.id, .unit = {}, .values = {}, .found = {}};
        for (const auto* one : cases) {
            const auto* reading = gaugeOf(*one, gauge.id);
            if (reading != nullptr && reading->value && row.unit.empty()) {
                row.unit = reading->unit;
                row.isTemperature = reading->isTemperature;
            }
            const bool told = reading != nullptr && reading->value && reading->unit == row.unit;
            row.values.push_back(told ? reading->value : std::nullopt);
            if (!told && row.why.empty() && reading != nullptr)
                row.why = reading->profile ? "a profile, not one value" : reading->why;
        }
        find(row, out.sizes, ambient);
        out.rows.push_back(std::move(row));
    }
    for (std::size_t i = 0; i < survey.limits.size(); ++i) {
        GridRow row{.gauge = {}, .limit = i, .target = survey.limits[i].target, .unit = {}, .values = {}, .found = {}};
        for (const auto* one : cases) {
            if (i >= one->limits.size()) {
                row.values.emplace_back();
                continue;
            }
            const auto& reading = one->limits[i];
            row.unit = row.unit.empty() ? reading.unit : row.unit;
            row.isTemperature = reading.isTemperature;
            row.values.push_back(reading.value);
            if (!reading.value && row.why.empty())
                row.why = reading.why;
        }
        find(row, out.sizes, ambient);
        out.rows.push_back(std::move(row));
    }
    return out;
}

namespace {

template <class Is>
std::optional<double> uncertaintyWhere(std::span<const GridStudy> studies, const std::string& caseName, Is is) {
    for (const auto& study : studies)
        if (study.why.empty() && study.cases.front() == caseName)
            for (const auto& row : study.rows)
                if (is(row) && row.why.empty() && row.found.uncertainty)
                    return row.found.uncertainty;
    return std::nullopt;
}

} // namespace

std::optional<double> uncertaintyOf(std::span<const GridStudy> studies, const std::string& caseName,
                                    const std::string& gauge) {
    return uncertaintyWhere(studies, caseName, [&](const GridRow& row) { return row.gauge == gauge; });
}

void addUncertainties(std::vector<LimitReading>& limits, std::span<const GridStudy> studies,
                      const std::string& caseName) {
    for (std::size_t i = 0; i < limits.size(); ++i) {
        auto& limit = limits[i];
        limit.uncertainty = uncertaintyWhere(studies, caseName, [&](const GridRow& row) { return row.limit == i; });
        if (limit.verdict == Verdict::Within && limit.margin && limit.uncertainty &&
            *limit.margin < *limit.uncertainty) {
            limit.verdict = Verdict::Tight;
            limit.tightByMesh = true;
        }
    }
}

std::optional<MeshAnswer> meshAnswerOf(std::span<const GridStudy> studies, const std::string& caseName) {
    const auto study = std::ranges::find_if(studies, [&](const GridStudy& one) {
        return one.why.empty() && std::ranges::find(one.cases, caseName) != one.cases.end();
    });
    if (study == studies.end())
        return std::nullopt;
    MeshAnswer out;
    out.finest = study->cases.front() == caseName;
    std::size_t told = 0;
    std::size_t monotone = 0;
    const GridRow* widest = nullptr;
    std::string others;
    for (const auto& row : study->rows) {
        if (!row.why.empty())
            continue;
        ++told;
        const auto& name = row.gauge.empty() ? row.target.name : row.gauge;
        if (row.found.state != GridState::Monotone) {
            others += fmt::format("{}{} ({})", others.empty() ? "" : ", ", name, gridStateName(row.found.state));
            continue;
        }
        ++monotone;
        if (row.found.index && (widest == nullptr || *row.found.index > *widest->found.index))
            widest = &row;
    }
    if (told == 0)
        return std::nullopt;
    out.converges = monotone == told && (widest == nullptr || *widest->found.index <= MeshAnswer::mostIndex);
    out.figure = fmt::format("{} meshes: {} of {} values converge", study->cases.size(), monotone, told);
    if (widest != nullptr)
        out.figure += fmt::format(", largest index {:.3g} % ({})", 100 * *widest->found.index,
                                  widest->gauge.empty() ? widest->target.name : widest->gauge);
    out.meaning = fmt::format("The finest mesh is that of {}.", study->cases.front());
    if (!others.empty())
        out.meaning += fmt::format(" Not monotonically: {}.", others);
    return out;
}

} // namespace pyro
