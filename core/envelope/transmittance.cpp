#include "core/envelope/transmittance.h"

#include "core/envelope/humid_air.h"
#include "core/envelope/sides.h"
#include "core/gauge/support.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>

namespace pyro {
namespace {

class Reading {
public:
    Reading(const Gauge& gauge, const EnvelopeTools& tools)
        : m_gauge(gauge), m_tools(tools), m_heat(tools.heat), m_sides(gauge, tools) {}

    Measured transmittanceAsked() { return m_gauge.rest.contains("layers") ? ofLayers() : ofEnvironments(); }
    const Json* key(const char* name) const { return keyIn(m_gauge.rest, name); }

    double value(const Json& json, const char* name, const char* unit) {
        if (json.is_object() && json.contains("gauge") && json["gauge"].is_string())
            return reading(json["gauge"].get<std::string>(), unit);
        auto parsed = parseMeasured(json.is_string() ? json.get<std::string>() : json.dump(), unit);
        if (!parsed)
            throw Mistake{{parsed.error().code, fmt::format("\"{}\": {}", name, parsed.error().what), name,
                           parsed.error().remedy}};
        return *parsed;
    }
    double needed(const char* name, const char* unit) {
        const auto* json = key(name);
        if (json == nullptr)
            cannot(fmt::format("the key \"{}\" is missing", name));
        return value(*json, name, unit);
    }
    double temperature(const char* name) {
        const auto* json = key(name);
        if (json == nullptr)
            cannot(fmt::format("the key \"{}\" is missing", name), "Give a temperature like \"20 degC\"");
        if (json->is_object())
            return value(*json, name, "K");
        return got(parseTemperature(json->is_string() ? json->get<std::string>() : json->dump())).kelvin;
    }
    double reading(const std::string& id, const char* unit) {
        const auto measured = got(m_tools.gauge(id));
        if (!sameDimension(measured.siUnit, unit))
            cannot(fmt::format("\"{}\" is in {}, but {} is needed here", id, measured.siUnit, unit));
        return measured.value;
    }

    std::optional<Depth> depth() const { return depthOf(m_heat.fields().solved(), m_heat.fields().index()); }

    static std::string flowText(const Between& flow, const std::optional<Depth>& deep) {
        return fmt::format("heat flow {:.6g} W at {:.4g} K{}", flow.flow, flow.difference(),
                           deep ? fmt::format(", {:.4g} m deep along {}", deep->metres, "xyz"[deep->axis])
                                : std::string());
    }

    static Measured derivedFrom(double value, const char* unit, Derivation derivation, std::string reference = {}) {
        Measured out{value, unit};
        out.reference = std::move(reference);
        out.derivation = std::make_shared<const Derivation>(std::move(derivation));
        return out;
    }
    static Measured derived(double value, const char* unit, std::vector<Term> terms, std::string reference = {}) {
        Derivation derivation;
        derivation.terms = std::move(terms);
        return derivedFrom(value, unit, std::move(derivation), std::move(reference));
    }

    static PlaneSection sectionOf(const PlaneElement& element, std::string name, std::string extent) {
        PlaneSection out;
        out.name = std::move(name);
        out.inner = element.inner;
        out.outer = element.outer;
        out.transmittance = transmittance(element);
        out.extent = std::move(extent);
        for (std::size_t i = 0; i < element.layers.size(); ++i) {
            const auto& layer = element.layers[i];
            out.layers.push_back({layer.name.empty() ? fmt::format("layer {}", i + 1) : layer.name, layer.thickness,
                                  layer.given ? std::nullopt : std::optional(layer.conductivity), layer.resistance()});
        }
        return out;
    }

    Measured ofLayers() {
        const auto element = got(elementOf(*key("layers"), key("resistances"), m_tools.materials));
        Derivation derivation;
        derivation.elements.push_back(sectionOf(element, "", ""));
        auto& terms = derivation.terms;
        terms.push_back({"inner surface", element.inner, "m2.K/W", ""});
        for (const auto& layer : derivation.elements.front().layers)
            terms.push_back({layer.name, layer.resistance, "m2.K/W",
                             layer.conductivity
                                 ? fmt::format("{:.4g} mm, {:.4g} W/(m.K)", 1e3 * layer.thickness, *layer.conductivity)
                                 : std::string("given")});
        terms.push_back({"outer surface", element.outer, "m2.K/W", ""});
        return derivedFrom(transmittance(element), "W/(m2.K)", std::move(derivation));
    }

    // Equivalent U of what lies between two environments.
    Measured ofEnvironments() {
        const auto flow = m_sides.between();
        const double area = key("area") != nullptr ? value(*key("area"), "area", "m2") : flow.inside.area();
        if (!(area > 0))
            cannot("the area is not positive");
        return derived(flow.coupling() / area, "W/(m2.K)",
                       {{"L", flow.coupling(), "W/K", flowText(flow, {})},
                        {"area", area, "m2", key("area") != nullptr ? "given" : "surface of " + flow.inside.name()}},
                       flow.text());
    }

    Measured coupling() {
        const auto flow = m_sides.between();
        const auto deep = depth();
        const double value = flow.coupling() / (deep ? deep->metres : 1);
        return derived(value, deep ? "W/(m.K)" : "W/K",
                       {{deep ? "L2D" : "L3D", value, deep ? "W/(m.K)" : "W/K", flowText(flow, deep)}}, flow.text());
    }

    Dimensions dimensions() const {
        const auto* json = key("dimensions");
        if (json == nullptr)
            return Dimensions::Internal;
        for (const auto one : {Dimensions::Internal, Dimensions::External, Dimensions::OverallInternal})
            if (*json == std::string(dimensionsText(one)))
                return one;
        cannot(fmt::format("{} is not one of internal, external, overall_internal", json->dump()));
    }

    // U l or U A of every plane element, as they are subtracted.
    void subtractFlanks(const Between& flow, const std::optional<Depth>& deep, Derivation& into) {
        const char* unit = deep ? "W/(m.K)" : "W/K";
        if (const auto* flanks = key("flanks")) {
            if (!flanks->is_array() || flanks->empty())
                cannot("\"flanks\" is an empty list or none");
            for (const auto& flank : *flanks)
                into.terms.push_back(givenFlank(flank, deep.has_value(), unit, flow, into.elements));
            return;
        }
        const auto measure = dimensions();
        int number = 0;
        for (const auto& flank : got(flanksBetween(m_heat, flow.inside.all, flow.outside.all))) {
            const double size = flank.size(measure) / (deep ? deep->metres : 1);
            into.terms.push_back({fmt::format("U {} of element {}", deep ? "l" : "A", ++number),
                                  -flank.transmittance() * size, unit,
                                  fmt::format("{:.5g} W/(m2.K) x {:.5g} {} ({}): {}", flank.transmittance(), size,
                                              deep ? "m" : "m2", dimensionsText(measure), flank.text())});
            into.lines.push_back(flank.line);
            into.elements.push_back(
                sectionOf(flank.element, fmt::format("element {}", number),
                          fmt::format("{:.4g} {} ({})", size, deep ? "m" : "m2", dimensionsText(measure))));
        }
    }

    Term givenFlank(const Json& json, bool perMetre, const char* unit, const Between& flow,
                    std::vector<PlaneSection>& elements) {
        if (!json.is_object())
            cannot("a flank is given by layers or transmittance, and by length or area");
        const auto* size = keyIn(json, perMetre ? "length" : "area");
        if (size == nullptr)
            cannot(fmt::format("a flank lacks its \"{}\"", perMetre ? "length" : "area"));
        const double extent = value(*size, perMetre ? "length" : "area", perMetre ? "m" : "m2");
        double u = 0;
        if (const auto* given = keyIn(json, "transmittance"))
            u = value(*given, "transmittance", "W/(m2.K)");
        else if (const auto* id = keyIn(json, "gauge"); id != nullptr && id->is_string())
            u = reading(id->get<std::string>(), "W/(m2.K)");
        else if (const auto* layers = keyIn(json, "layers")) {
            auto element = got(elementOf(*layers, keyIn(json, "resistances"), m_tools.materials));
            if (keyIn(json, "resistances") == nullptr) {
                element.inner = flow.inside.resistance();
                element.outer = flow.outside.resistance();
            }
            u = transmittance(element);
            elements.push_back(sectionOf(element, fmt::format("element {}", elements.size() + 1),
                                         fmt::format("{:.4g} {}", extent, perMetre ? "m" : "m2")));
        } else
            cannot("a flank is given by its layers, its transmittance or a gauge");
        return {fmt::format("U {} as given", perMetre ? "l" : "A"), -u * extent, unit,
                fmt::format("{:.5g} W/(m2.K) x {:.5g} {}", u, extent, perMetre ? "m" : "m2")};
    }

    static double sumOf(const std::vector<Term>& terms) {
        double sum = 0;
        for (const auto& term : terms)
            sum += term.value;
        return sum;
    }

    Measured linear() {
        const auto flow = m_sides.between();
        const auto deep = depth();
        if (!deep)
            cannot(
                "a linear transmittance is told of a model one cell deep, this one has several cells along every axis",
                "Ask for point_transmittance");
        Derivation derivation;
        derivation.terms.push_back({"L2D", flow.coupling() / deep->metres, "W/(m.K)", flowText(flow, deep)});
        subtractFlanks(flow, deep, derivation);
        const double psi = sumOf(derivation.terms);
        return derivedFrom(psi, "W/(m.K)", std::move(derivation), flow.text());
    }

    Measured point() {
        const auto flow = m_sides.between();
        if (depth())
            cannot("a point transmittance is told of a model in three dimensions, this one is one cell deep",
                   "Ask for linear_transmittance");
        Derivation derivation;
        derivation.terms.push_back({"L3D", flow.coupling(), "W/K", flowText(flow, {})});
        subtractFlanks(flow, std::nullopt, derivation);
        if (const auto* bridges = key("linear"))
            for (const auto& bridge : *bridges)
                derivation.terms.push_back(bridgeTerm(bridge, -1));
        const double chi = sumOf(derivation.terms);
        return derivedFrom(chi, "W/K", std::move(derivation), flow.text());
    }

    // One entry of `linear` or `sum`: what it is follows from its unit and from what it is multiplied by.
    Term bridgeTerm(const Json& json, double sign) {
        constexpr std::array<std::array<const char*, 3>, 3> kinds{
            {{"area", "m2", "W/(m2.K)"}, {"length", "m", "W/(m.K)"}, {"count", "1", "W/K"}}};
        for (const auto& [by, unit, needs] : kinds) {
            const auto* size = json.is_object() ? keyIn(json, by) : nullptr;
            if (size == nullptr)
                continue;
            const double extent = value(*size, by, unit);
            const bool named = json.contains("gauge") && json["gauge"].is_string();
            if (!named && !json.contains("value"))
                break;
            const double one = named ? reading(json["gauge"].get<std::string>(), needs)
                                     : value(json["value"], "value", needs);
            return {
                named ? json["gauge"].get<std::string>() : std::string("given"), sign * one * extent, "W/K",
                fmt::format("{:.5g} {} x {:.5g} {}", one, needs, extent, unit == std::string("1") ? "pieces" : unit)};
        }
        cannot("each term has a \"gauge\" or \"value\" and an \"area\", \"length\" or \"count\"");
    }

    Measured transmission() {
        const auto* sum = key("sum");
        if (sum == nullptr || !sum->is_array() || sum->empty())
            cannot("the key \"sum\" is missing or empty",
                   "List {\"gauge\": id, \"area\" | \"length\" | \"count\": ...}");
        std::vector<Term> terms;
        for (const auto& one : *sum)
            terms.push_back(bridgeTerm(one, 1));
        const double total = sumOf(terms);
        return derived(total, "W/K", std::move(terms));
    }

    // Extremes of the values stored on the inner surface.
    Measured factor() {
        if (m_heat.transience().changes)
            cannot("the field changes with time; a temperature factor is that of a steady one");
        const auto [inside, outside] = m_sides.pair();
        const double difference = inside.temperature() - outside.temperature();
        if (std::abs(difference) < 1e-9 * inside.temperature())
            cannot("both environments have the same temperature");
        const auto* temperature = m_heat.fields().quantities().named("temperature");
        if (temperature == nullptr)
            cannot("the case has no temperature");
        const auto& fields = m_heat.fields();
        Support support{true, {}};
        for (const auto& one : inside.all)
            support.regions.push_back(one.boundary);
        const auto stored = got(pyro::read(fields.solved(), fields.index(), support, *temperature));
        if (const auto told = allFinite(fields.solved(), support, stored); !told)
            cannot(told.error().what);
        const bool highest = m_gauge.statistic == "max";
        if (!highest && !m_gauge.statistic.empty() && m_gauge.statistic != "min")
            cannot(
                fmt::format("a temperature factor is the lowest or the highest; \"{}\" is neither", m_gauge.statistic));
        const bool takeMin = highest == (difference < 0);
        const double kelvin = takeMin ? stored.min() : stored.max();
        auto out = derived((kelvin - outside.temperature()) / difference, "1",
                           {{takeMin ? "lowest surface temperature" : "highest surface temperature", kelvin - 273.15,
                             "degC", "stored on " + inside.name()},
                            {"outside", outside.temperature() - 273.15, "degC", outside.name()},
                            {"inside", inside.temperature() - 273.15, "degC", inside.name()}},
                           Between{inside, outside, 0}.text());
        out.place = placeOf(fields.solved(), support, stored.on, takeMin ? stored.sums.min() : stored.sums.max());
        return out;
    }

    Measured requiredFactor() {
        const double air = temperature("air");
        const auto surface = surfaceOf(air, mouldHumidity);
        const double outside = temperature("outside");
        if (!(air > outside))
            cannot("the air inside is not warmer than outside, so that no temperature factor is required");
        return derived((surface.kelvin - outside) / (air - outside), "1", surface.terms,
                       fmt::format("{}, outside {}", surface.text, inCelsius(outside)));
    }

    Measured dewPoint() {
        const auto surface = surfaceOf(temperature("air"), condensationHumidity);
        auto out = derived(surface.kelvin, "K", surface.terms, surface.text);
        out.isTemperature = true;
        return out;
    }

private:
    struct HumidSurface {
        double kelvin; // at which the room's air reaches the humidity
        std::vector<Term> terms;
        std::string text;
    };
    HumidSurface surfaceOf(double air, double usualHumidity) {
        const double humidity = needed("humidity", "1");
        const auto* given = key("surface_humidity");
        const double onSurface = given != nullptr ? value(*given, "surface_humidity", "1") : usualHumidity;
        const double surface = got(lowestSurfaceTemperature(air, humidity, onSurface));
        const auto text = fmt::format("{} at {:.4g} %, {:.4g} % on the surface", inCelsius(air), 100 * humidity,
                                      100 * onSurface);
        return {surface,
                {{"vapour pressure", humidity * saturationPressure(air), "Pa", inCelsius(air)},
                 {"surface temperature needed", surface - 273.15, "degC", text}},
                text};
    }

    const Gauge& m_gauge;
    const EnvelopeTools& m_tools;
    const CaseHeat& m_heat;
    Sides m_sides;
};

Result<Measured> readBy(Measured (Reading::*way)(), const Gauge& gauge, const EnvelopeTools& tools) {
    try {
        Reading reading(gauge, tools);
        return (reading.*way)();
    } catch (const Mistake& found) {
        return tl::unexpected(found.error);
    } catch (const Json::exception& problem) {
        return fail(ErrorCode::WrongType, problem.what(), gauge.id, "See docs/transmittance.md");
    }
}

} // namespace

Result<Measured> measureTransmittance(const Gauge& gauge, const EnvelopeTools& tools) {
    return readBy(&Reading::transmittanceAsked, gauge, tools);
}

Result<Measured> measureCoupling(const Gauge& gauge, const EnvelopeTools& tools) {
    return readBy(&Reading::coupling, gauge, tools);
}

Result<Measured> measureLinearTransmittance(const Gauge& gauge, const EnvelopeTools& tools) {
    return readBy(&Reading::linear, gauge, tools);
}

Result<Measured> measurePointTransmittance(const Gauge& gauge, const EnvelopeTools& tools) {
    return readBy(&Reading::point, gauge, tools);
}

Result<Measured> measureTransmission(const Gauge& gauge, const EnvelopeTools& tools) {
    return readBy(&Reading::transmission, gauge, tools);
}

Result<Measured> measureTemperatureFactor(const Gauge& gauge, const EnvelopeTools& tools) {
    return readBy(&Reading::factor, gauge, tools);
}

Result<Measured> measureRequiredTemperatureFactor(const Gauge& gauge, const EnvelopeTools& tools) {
    return readBy(&Reading::requiredFactor, gauge, tools);
}

Result<Measured> measureDewPoint(const Gauge& gauge, const EnvelopeTools& tools) {
    return readBy(&Reading::dewPoint, gauge, tools);
}

} // namespace pyro
