#include "core/evaluate/gauge_evaluator.h"

#include "core/evaluate/symmetry.h"
#include "core/quantities/gauge_keys.h"
#include "core/quantities/gauge_quantity.h"
#include "core/thermal/bulk_temperature.h"
#include "core/thermal/site_values.h"
#include "core/thermal/wall_line.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numeric>

namespace pyro {
namespace {

std::string inCelsius(double kelvin) { return fmt::format("{:.6g} degC", kelvin - 273.15); }

std::string reason(const Error& error) {
    return error.remedy.empty() ? error.what : fmt::format("{}. {}", error.what, error.remedy);
}

// Whether a value of this unit is one of the whole depth: heat, flows, extents, not what is told per area or kelvin
// alone.
bool growsWithDepth(const std::string& siUnit) {
    constexpr std::array<std::string_view, 10> units{"W", "W/K", "K/W", "J", "J/K", "kg", "kg/s", "m3", "m3/s", "m2"};
    return std::ranges::find(units, siUnit) != units.end();
}

} // namespace

Result<double> inUnit(double si, const std::string& siUnit, const std::string& unit, bool isTemperature) {
    if (unit.empty() || unit == siUnit)
        return si;
    const auto converted = conversion(siUnit, unit);
    if (!converted)
        return tl::unexpected(converted.error());
    return isTemperature ? (*converted)(si) : converted->difference(si);
}

GaugeEvaluator::GaugeEvaluator(std::span<const Gauge> gauges, const CaseHeat& heat, SurfaceReader readSurface,
                               GivenEnvironments environments, std::vector<NamedConductivity> materials,
                               double symmetry)
    : m_gauges(gauges), m_heat(heat), m_tools{heat.fields().solved(), heat.fields().index(), heat.fields().quantities(),
                                              std::move(readSurface)},
      m_envelope{heat, std::move(environments), std::move(materials),
                 [this](const std::string& id) { return named(id); }},
      m_entries(gauges.size()), m_symmetry(symmetry) {}

Result<std::vector<GaugeReading>> GaugeEvaluator::readAll(Progress& progress) {
    std::vector<GaugeReading> readings;
    for (std::size_t i = 0; i < m_gauges.size(); ++i) {
        if (progress.cancelled())
            return fail(ErrorCode::Cancelled, "reading the gauges was cancelled", m_tools.solved.file);
        progress.report(static_cast<double>(i) / static_cast<double>(m_gauges.size()), "reading " + m_gauges[i].id);
        readings.push_back(reading(i));
    }
    return readings;
}

GaugeReading GaugeEvaluator::reading(std::size_t at) {
    const auto& gauge = m_gauges[at];
    GaugeReading out;
    out.id = gauge.id;
    out.unit = gauge.unit;
    const auto& measured = measuredOf(at);
    if (m_entries[at].outside > 0)
        out.outside = m_entries[at].outside;
    if (!measured) {
        out.why = reason(measured.error());
        return out;
    }
    // The unit of a gauge over time may be that of the time it tells; each step then stays in SI.
    const auto wanted = readsOverSteps(gauge) && !sameDimension(measured->siUnit, gauge.unit) ? std::string()
                                                                                              : gauge.unit;
    out.unit = wanted.empty() ? measured->siUnit : wanted;
    out.isTemperature = measured->isTemperature;
    const auto value = inUnit(measured->value, measured->siUnit, wanted, measured->isTemperature);
    if (!value || !std::isfinite(*value)) {
        out.why = value ? "the result is not a finite number" : value.error().what;
        return out;
    }
    out.place = measured->place;
    out.method = measured->method;
    if (const auto& plane = m_tools.solved.plane; plane && !plane->given && growsWithDepth(measured->siUnit))
        out.method += out.method.empty() ? "per metre of depth" : ", per metre of depth";
    out.reference = measured->reference;
    out.covered = measured->covered;
    out.lacking = measured->lacking;
    out.derivation = measured->derivation;
    if (out.derivation && !out.derivation->spots.empty() && !wanted.empty()) {
        auto converted = *out.derivation;
        for (auto& spot : converted.spots) {
            spot.value = *inUnit(spot.value, measured->siUnit, wanted, measured->isTemperature);
            spot.prominence = *inUnit(spot.prominence, measured->siUnit, wanted, false);
        }
        out.derivation = std::make_shared<const Derivation>(std::move(converted));
    }
    if (measured->spread)
        if (const auto scale = conversion(measured->siUnit, wanted.empty() ? measured->siUnit : wanted))
            out.spread = std::abs(scale->difference(*measured->spread));
    if (measured->gradientValue)
        out.gradientValue = *inUnit(*measured->gradientValue, measured->siUnit, wanted, measured->isTemperature);
    if (!measured->profile) {
        out.value = *value;
        return out;
    }
    auto profile = std::make_shared<Profile>(*measured->profile);
    for (auto& number : profile->value)
        number = *inUnit(number, measured->siUnit, wanted, measured->isTemperature);
    out.profile = std::move(profile);
    return out;
}

const Result<Measured>& GaugeEvaluator::measuredOf(std::size_t at) {
    auto& entry = m_entries[at];
    if (entry.state == Entry::State::Unread) {
        entry.state = Entry::State::Reading;
        auto measured = measureOne(at);
        entry.measured = std::move(measured);
        entry.state = Entry::State::Read;
    }
    return entry.measured;
}

Result<Measured> GaugeEvaluator::named(const std::string& id) {
    const auto found = std::ranges::find(m_gauges, id, &Gauge::id);
    if (found == m_gauges.end())
        return fail(ErrorCode::NameUnknown, fmt::format("there is no gauge \"{}\"", id));
    const auto at = static_cast<std::size_t>(found - m_gauges.begin());
    if (m_entries[at].state == Entry::State::Reading)
        return fail(ErrorCode::NotSupported, fmt::format("\"{}\" depends on itself", id));
    if (readsOverSteps(*found))
        return fail(ErrorCode::NotSupported, fmt::format("\"{}\" is read over all steps, not on one", id));
    const auto& measured = measuredOf(at);
    if (!measured)
        return fail(measured.error().code, fmt::format("\"{}\" cannot be read: {}", id, measured.error().what));
    if (measured->profile)
        return fail(ErrorCode::NotSupported, fmt::format("\"{}\" is a profile, not one value", id));
    return measured;
}

Result<Measured> GaugeEvaluator::measureFormula(const Gauge& gauge) {
    const auto result = evaluateFormula(
        gauge.formula, [this](const std::string& id) -> tl::expected<FormulaValue, std::string> {
            const auto measured = named(id);
            if (!measured)
                return tl::unexpected(measured.error().what);
            auto unit = UnitProduct::of(measured->siUnit);
            if (!unit)
                return tl::unexpected(unit.error().what);
            return FormulaValue{measured->value, std::move(*unit), measured->isTemperature};
        });
    if (!result)
        return fail(ErrorCode::NotSupported, result.error().text());
    return Measured{result->si, result->unit.text(), result->isTemperature};
}

Result<std::shared_ptr<Site>> GaugeEvaluator::site(const Json& where) {
    const auto key = where.dump();
    if (const auto found = m_sites.find(key); found != m_sites.end())
        return found->second;
    const auto make = [&]() -> Result<std::shared_ptr<Site>> {
        Where written;
        written.written = where;
        const auto shape = shapeOf(written);
        if (!shape)
            return tl::unexpected(shape.error());
        auto made = siteOf(*shape, m_tools);
        if (!made)
            return tl::unexpected(made.error());
        return std::make_shared<Site>(std::move(*made));
    };
    return m_sites.emplace(key, make()).first->second;
}

Result<Measured> GaugeEvaluator::measureOne(std::size_t at) {
    const auto& gauge = m_gauges[at];
    for (std::size_t i = 0; i < at; ++i)
        if (m_gauges[i].id == gauge.id)
            return fail(ErrorCode::NameUnknown, fmt::format("another gauge has the name \"{}\" already", gauge.id), {},
                        "Rename one of them");
    if (!gauge.formula.empty())
        return measureFormula(gauge);
    const auto* quantity = gaugeQuantity(gauge.quantity);
    if (quantity != nullptr && quantity->measureEnvelope != nullptr) {
        auto measured = quantity->measureEnvelope(gauge, m_envelope);
        if (measured)
            toWhole(*measured, gauge, {}, m_symmetry);
        return measured;
    }
    const auto kind = kindOf(m_tools.quantities, gauge.quantity);
    const bool levelOfOther = quantity != nullptr && !quantity->levelOf.empty();
    auto options = optionsOf(gauge, levelOfOther ? std::string(siUnitOf(quantity->levelOf))
                                    : kind       ? kind->siUnit
                                                 : "1");
    if (!options)
        return tl::unexpected(options.error());
    const auto where = site(gauge.where.written);
    if (!where)
        return tl::unexpected(where.error());
    m_entries[at].outside = (*where)->outside;
    // A stored quantity is read on the region's own nodes and cells; everything else on facets.
    if (m_tools.quantities.named(gauge.quantity) == nullptr || (quantity != nullptr && quantity->byFacets) ||
        !options->weight.empty())
        addFacets(**where, m_tools.solved, m_tools.index);
    Gauge once = gauge;
    // each step tells the statistic in space; empty: the default of the place, on a line the mean of its profile
    if (readsOverSteps(gauge))
        once.statistic = options->space.empty() && (*where)->kind == SiteKind::Line ? std::string("mean")
                                                                                    : options->space;
    MeasureRequest request{once, *options, **where, m_heat, {}, {}, {}, {}, {}, {}, nullptr, m_symmetry};
    for (const auto& [given, found] :
         {std::pair{&options->reference, &request.reference}, {&options->wall, &request.wall}})
        if (*given) {
            auto temperatureThere = temperature(**given, **where);
            if (!temperatureThere)
                return tl::unexpected(temperatureThere.error());
            *found = std::move(*temperatureThere);
        }
    const std::array<std::tuple<const std::optional<GivenValue>*, std::optional<double>*, const char*>, 4> numbers{
        {{&options->length, &request.length, "m"},
         {&options->speed, &request.speed, "m/s"},
         {&options->power, &request.power, "W"},
         {&options->conductivity, &request.conductivity, "W/(m.K)"}}};
    for (const auto& [given, found, unit] : numbers)
        if (*given) {
            const auto number = value(**given, unit);
            if (!number)
                return tl::unexpected(number.error());
            *found = *number;
        }
    if (const auto found = findOwn(*options, **where); !found)
        return tl::unexpected(found.error());
    OtherFields minus;
    if (!options->minus.empty()) {
        if (!gaugeReads(gauge, "minus"))
            return fail(ErrorCode::NotSupported, "\"minus\" is told of fields; of other quantities cases are compared");
        auto found = m_otherFields ? m_otherFields(options->minus)
                                   : fail(ErrorCode::NotSupported, "no other case is at hand here");
        if (!found)
            return fail(found.error().code,
                        fmt::format("the case \"{}\" cannot be subtracted: {}", options->minus, found.error().what));
        minus = std::move(*found);
        request.minus = &minus;
    }
    auto measured = measure(request);
    if (measured)
        toWhole(*measured, once, (*where)->kind, m_symmetry);
    return measured;
}

Done GaugeEvaluator::findOwn(GaugeOptions& options, const Site& at) {
    for (auto& [key, own] : options.own) {
        if (const auto* given = std::get_if<GivenValue>(&own)) {
            const auto unit = gaugeKeyNamed(key)->siUnit;
            const auto number = value(*given, unit.empty() ? "1" : std::string(unit));
            if (!number)
                return tl::unexpected(number.error());
            own = *number;
        } else if (const auto* wanted = std::get_if<TemperatureOf>(&own)) {
            auto found = temperature(*wanted, at);
            if (!found)
                return tl::unexpected(found.error());
            own = std::move(*found);
        }
    }
    return {};
}

Result<double> GaugeEvaluator::value(const GivenValue& of, const std::string& siUnit) {
    if (const auto* number = std::get_if<double>(&of.of))
        return *number;
    const auto& id = std::get<std::string>(of.of);
    const auto measured = named(id);
    if (!measured)
        return tl::unexpected(measured.error());
    if (!sameDimension(measured->siUnit, siUnit))
        return fail(ErrorCode::WrongUnit,
                    fmt::format("\"{}\" is in {}, but {} is needed", id, measured->siUnit, siUnit));
    return measured->value;
}

Result<FoundTemperature> GaugeEvaluator::temperature(const TemperatureOf& of, const Site& at) {
    if (const auto* constant = std::get_if<ConstantTemperature>(&of))
        return FoundTemperature{constant->kelvin, {}, inCelsius(constant->kelvin)};
    if (const auto* gauge = std::get_if<GaugeTemperature>(&of)) {
        const auto measured = named(gauge->id);
        if (!measured)
            return tl::unexpected(measured.error());
        if (!measured->isTemperature)
            return fail(ErrorCode::WrongUnit,
                        fmt::format("the reference \"{}\" is no temperature but in {}", gauge->id, measured->siUnit));
        return FoundTemperature{measured->value, {}, fmt::format("{}, {}", gauge->id, inCelsius(measured->value))};
    }
    if (const auto* fluid = std::get_if<FluidTemperature>(&of))
        return fluidAt(fluid->metres, at);
    const auto& where = std::get<BulkTemperature>(of).where;
    const auto passed = site(where);
    if (!passed)
        return tl::unexpected(passed.error());
    addFacets(**passed, m_tools.solved, m_tools.index);
    const auto bulk = bulkTemperature(**passed, m_heat.fields());
    if (!bulk)
        return fail(bulk.error().code, "the bulk temperature cannot be read: " + bulk.error().what, {},
                    bulk.error().remedy);
    const auto name = where.contains("boundary") ? where["boundary"].dump() : std::string("a section");
    return FoundTemperature{bulk->kelvin, {}, fmt::format("bulk of {}, {}", name, inCelsius(bulk->kelvin))};
}

// Into the fluid: against the normal where the part behind the wall is the fluid itself, else along it.
Result<FoundTemperature> GaugeEvaluator::fluidAt(double metres, const Site& at) {
    const bool line = at.kind != SiteKind::Surface;
    const auto& places = line ? at.points : at.facets;
    const auto normals = line ? wallNormals(at, m_heat) : at.facets.normal;
    if (places.size() == 0 || normals.size() != places.size() || (line && at.wall.empty()))
        return fail(ErrorCode::NotSupported,
                    "a distance from the wall needs a wall: a boundary, or a line with its boundary");
    std::vector<Point> points;
    for (std::size_t i = 0; i < places.size(); ++i) {
        const auto part = line ? m_tools.index.boundaries[at.wall.front()].part[0] : places.part[i];
        const double sign = part != noNumber && m_heat.fields().isFluid(part) ? -1 : 1;
        auto point = places.at[i];
        for (std::size_t axis = 0; axis < 3; ++axis)
            point[axis] += sign * metres * normals[i][axis];
        points.push_back(point);
    }
    std::vector<std::uint32_t> parts(m_tools.solved.parts.size());
    std::iota(parts.begin(), parts.end(), 0U);
    const auto kelvin = readAt(placesOfPoints(m_tools.solved, m_tools.index, points, parts), m_heat.fields(),
                               "temperature", Component::Natural);
    if (!kelvin)
        return tl::unexpected(kelvin.error());
    FoundTemperature found;
    found.local = *kelvin;
    double weight = 0;
    for (std::size_t i = 0; i < found.local.size(); ++i) {
        if (!std::isfinite(found.local[i]))
            return fail(ErrorCode::NotSupported,
                        fmt::format("{:g} mm from the wall lies outside of the mesh at some places", 1e3 * metres), {},
                        "Choose a smaller distance");
        found.kelvin += found.local[i] * places.weight[i];
        weight += places.weight[i];
    }
    found.kelvin = weight > 0 ? found.kelvin / weight : found.local.front();
    found.text = fmt::format("{:g} mm from the wall, {} on the mean", 1e3 * metres, inCelsius(found.kelvin));
    return found;
}

} // namespace pyro
