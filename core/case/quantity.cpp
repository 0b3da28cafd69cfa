#include "core/case/quantity.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

constexpr std::array<KnownQuantity, 12> known{{
    {"temperature", "K", 1, "t temp temperature", "T"},
    {"heat_flux", "W/m2", 3, "heatflux q heatfluxdensity"},
    {"heat_flux_radiative", "W/m2", 3, "heatfluxradiative radiativeheatflux qr radiationheatflux"},
    {"heat_flux_convective", "W/m2", 3, "heatfluxconvective convectiveheatflux qc convectionheatflux"},
    {"heat_source", "W/m3", 1, "heatsource source volumetricheat"},
    {"velocity", "m/s", 3, "velocity u vel", "u"},
    {"pressure", "Pa", 1, "pressure p", "p"},
    {"density", "kg/m3", 1, "density rho", "rho"},
    {"conductivity", "W/(m.K)", 1, "conductivity lambda kappa thermalconductivity", "lambda"},
    {"heat_capacity", "J/(kg.K)", 1, "heatcapacity cp specificheat"},
    {"viscosity", "Pa.s", 1, "viscosity mu dynamicviscosity"},
    {"displacement", "m", 3, "displacement displacements deformation"},
}};
constexpr double coldestPlausibleKelvin = 150;

struct ArrayName {
    std::string bare; // lower case, without blanks, underscores and bracketed unit
    std::string unit;
};

ArrayName splitName(const std::string& name) {
    ArrayName split;
    auto body = name;
    const auto open = body.find_last_of("[(");
    if (open != std::string::npos && open > 0 && (body.back() == ']' || body.back() == ')')) {
        const auto unit = body.substr(open + 1, body.size() - open - 2);
        if (isUnit(unit)) {
            split.unit = unit;
            body.resize(open);
        }
    }
    for (const char c : body)
        if (c != ' ' && c != '_' && c != '-')
            split.bare += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return split;
}

bool isAlias(const KnownQuantity& quantity, const std::string& bare) {
    std::string_view aliases = quantity.aliases;
    while (!aliases.empty()) {
        const auto end = aliases.find(' ');
        if (aliases.substr(0, end) == bare)
            return true;
        aliases = end == std::string_view::npos ? std::string_view() : aliases.substr(end + 1);
    }
    return false;
}

bool isToldAlongAxes(std::string_view quantity) { return quantity == "conductivity"; }

struct Span {
    double min = std::nan("");
    double max = std::nan("");
    int components = 0;
};

// An array of three components is stored with the range of its length; what is told along the axes has none.
std::array<double, 2> rangeOf(const StoredArray& array, bool alongAxes) {
    if (!alongAxes || array.components != 3)
        return {array.min, array.max};
    std::array<double, 2> range{std::nan(""), std::nan("")};
    for (std::size_t i = 0; i < array.values.size(); ++i)
        range = {std::fmin(range[0], array.values[i]), std::fmax(range[1], array.values[i])};
    return range;
}

// The range over all regions of one kind that have the array.
Span rangeOf(const std::vector<Region>& regions, std::string_view array, Location on, bool alongAxes) {
    Span span;
    for (const auto& region : regions)
        if (const auto* stored = region.find(array, on)) {
            span.components = std::max(span.components, stored->components);
            const auto [low, high] = rangeOf(*stored, alongAxes);
            span.min = std::fmin(span.min, low);
            span.max = std::fmax(span.max, high);
        }
    return span;
}

class Recogniser {
public:
    Recogniser(const Case& solved, const QuantityChoices& choices) : m_case(solved), m_choices(choices) {}

    Result<QuantityList> run() {
        for (const auto& quantity : known)
            if (auto done = takeKnown(quantity); !done)
                return tl::unexpected(done.error());
        if (auto done = takeOthers(); !done)
            return tl::unexpected(done.error());
        if (m_list.named("temperature") == nullptr && switchedOff("temperature"))
            m_list.remarks.push_back({Severity::Note, "temperature-off",
                                      "no array has the role temperature; the survey takes it away", m_case.file});
        else if (m_list.named("temperature") == nullptr)
            m_list.remarks.push_back({Severity::Serious, "no-temperature",
                                      "no array looks like a temperature; choose one under Cases", m_case.file});
        return std::move(m_list);
    }

private:
    bool switchedOff(std::string_view name) const {
        const auto choice = m_choices.find(std::string(name));
        return choice != m_choices.end() && choice->second.off;
    }

    std::optional<Span> stored(std::string_view array, Location on, bool alongAxes = false) const {
        auto span = rangeOf(m_case.parts, array, on, alongAxes);
        if (span.components == 0)
            span = rangeOf(m_case.boundaries, array, on, alongAxes);
        return span.components == 0 ? std::nullopt : std::optional(span);
    }

    std::optional<Location> locate(std::string_view array, std::optional<Location> wanted) const {
        for (const auto on : {Location::Node, Location::Cell})
            if ((!wanted || *wanted == on) && stored(array, on))
                return on;
        return std::nullopt;
    }

    // A conductivity may be given along x, y and z; a heat flux on surfaces alone by its part along their normals.
    bool rankFits(const KnownQuantity& quantity, const StoredArray& array) const {
        if (array.components == quantity.components || (quantity.name == "conductivity" && array.components == 3))
            return true;
        return array.components == 1 && quantity.siUnit == "W/m2" &&
               std::ranges::none_of(m_case.parts, [&](const Region& part) {
                   return part.dimension == 3 && (part.find(array.name, Location::Node) != nullptr ||
                                                  part.find(array.name, Location::Cell) != nullptr);
               });
    }

    // The first array, in the order of the file, whose name is an alias and whose rank fits.
    std::optional<std::string> aliased(const KnownQuantity& quantity) const {
        for (const auto* regions : {&m_case.parts, &m_case.boundaries})
            for (const auto& region : *regions)
                for (const auto& array : region.arrays)
                    if (rankFits(quantity, array) && isAlias(quantity, splitName(array.name).bare))
                        return array.name;
        return std::nullopt;
    }

    Done takeKnown(const KnownQuantity& quantity) {
        if (switchedOff(quantity.name))
            return {};
        const auto choice = m_choices.find(std::string(quantity.name));
        const QuantityChoice chosen = choice == m_choices.end() ? QuantityChoice{} : choice->second;
        const auto array = chosen.array ? chosen.array : aliased(quantity);
        if (!array)
            return {};
        const auto on = locate(*array, chosen.on);
        if (!on) {
            m_list.remarks.push_back({Severity::Serious, "array-missing",
                                      fmt::format("the array \"{}\" chosen as {} is not in the file{}", *array,
                                                  quantity.name, chosen.on ? " at that location" : ""),
                                      m_case.file});
            return {};
        }
        return add(std::string(quantity.name), *array, *on, chosen.unit, std::string(quantity.siUnit));
    }

    Done takeOthers() {
        for (const auto* regions : {&m_case.parts, &m_case.boundaries})
            for (const auto& region : *regions)
                for (const auto& array : region.arrays) {
                    const bool taken = std::ranges::any_of(
                        m_list.quantities, [&](const Quantity& quantity) { return quantity.array == array.name; });
                    if (taken)
                        continue;
                    const auto choice = m_choices.find(array.name);
                    const auto unit = choice == m_choices.end() ? std::nullopt : choice->second.unit;
                    if (auto done = add(array.name, array.name, *locate(array.name, std::nullopt), unit, ""); !done)
                        return done;
                }
        return {};
    }

    Done add(const std::string& name, const std::string& array, Location on, std::optional<std::string> unit,
             std::string siUnit) {
        const auto span = *stored(array, on, isToldAlongAxes(name));
        if (!unit && !splitName(array).unit.empty())
            unit = splitName(array).unit;
        if (!unit && name == "temperature")
            unit = guessTemperatureUnit(array, span);
        if (!unit)
            unit = siUnit;
        if (siUnit.empty())
            siUnit = *unit;
        Affine toSi;
        if (!unit->empty()) {
            const auto converted = conversion(*unit, siUnit);
            if (!converted)
                return tl::unexpected(Error{converted.error().code, converted.error().what,
                                            fmt::format("{}, quantity {}", m_case.file, name),
                                            converted.error().remedy});
            toSi = *converted;
        }
        m_list.quantities.push_back(
            {name, array, on, span.components, *unit, siUnit, toSi, toSi(span.min), toSi(span.max)});
        if (name == "temperature")
            doubtTemperature(m_list.quantities.back(), span);
        return {};
    }

    std::string guessTemperatureUnit(const std::string& array, const Span& span) {
        std::string unit = span.min >= coldestPlausibleKelvin || std::isnan(span.min) ? "K" : "degC";
        m_list.remarks.push_back({Severity::Note, "unit-guessed",
                                  fmt::format("\"{}\" carries no unit; its values from {:g} to {:g} are taken as {}",
                                              array, span.min, span.max, unit),
                                  m_case.file});
        return unit;
    }

    void doubtTemperature(const Quantity& temperature, const Span& span) {
        if (std::isnan(span.min))
            return;
        std::string doubt;
        if (temperature.min < 0)
            doubt = "lie below absolute zero";
        else if (temperature.unit == "K" && span.min < coldestPlausibleKelvin)
            doubt = "look like degrees Celsius";
        else if (temperature.unit == "degC" && span.min > 200)
            doubt = "look like kelvin";
        if (!doubt.empty())
            m_list.remarks.push_back({Severity::Warning, "unit-doubtful",
                                      fmt::format("the values of \"{}\" from {:g} to {:g} {}, but the unit is {}",
                                                  temperature.array, span.min, span.max, doubt, temperature.unit),
                                      m_case.file});
    }

    const Case& m_case;
    const QuantityChoices& m_choices;
    QuantityList m_list;
};

} // namespace

std::span<const KnownQuantity> knownQuantities() { return known; }

std::string unitInName(const std::string& array) { return splitName(array).unit; }

const KnownQuantity* knownQuantity(std::string_view name) {
    const auto found = std::ranges::find(known, name, &KnownQuantity::name);
    return found == known.end() ? nullptr : &*found;
}

bool isAlongAxes(const Quantity& quantity) { return quantity.components == 3 && isToldAlongAxes(quantity.name); }

bool sameReading(const Quantity& a, const Quantity& b) {
    return a.array == b.array && a.on == b.on && a.toSi.scale == b.toSi.scale && a.toSi.offset == b.toSi.offset &&
           a.name == b.name;
}

std::array<double, 2> storedRange(const Case& solved, std::span<const std::size_t> parts, const Quantity& quantity) {
    std::array<double, 2> range{std::nan(""), std::nan("")};
    for (const auto part : parts)
        if (const auto* array = solved.parts[part].find(quantity.array, quantity.on)) {
            const auto [low, high] = rangeOf(*array, isAlongAxes(quantity));
            range[0] = std::fmin(range[0], quantity.toSi(low));
            range[1] = std::fmax(range[1], quantity.toSi(high));
        }
    return range;
}

const Quantity* QuantityList::namedOrFirst(std::string_view name) const {
    const auto* wanted = named(name);
    return wanted != nullptr || quantities.empty() ? wanted : &quantities.front();
}

const Quantity* QuantityList::named(std::string_view name) const {
    const auto found = std::ranges::find(quantities, name, &Quantity::name);
    return found == quantities.end() ? nullptr : &*found;
}

Result<QuantityList> recognise(const Case& solved, const QuantityChoices& choices) {
    return Recogniser(solved, choices).run();
}

} // namespace pyro
