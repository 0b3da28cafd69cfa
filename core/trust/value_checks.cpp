#include "core/feedback/counted.h"
#include "core/thermal/balances.h"
#include "core/trust/checks.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

std::string celsius(double kelvin) { return fmt::format("{:.1f} \u00b0C", kelvin - 273.15); }

const Quantity* temperatureOf(const TrustInput& input) { return input.heat.fields().quantities().named("temperature"); }
bool hasTemperature(const TrustInput& input) { return temperatureOf(input) != nullptr; }

void finiteAnswer(const TrustInput& input, Check& check) {
    const auto* temperature = temperatureOf(input);
    std::uint64_t most = 0;
    std::uint64_t sum = 0;
    const auto& solved = input.heat.fields().solved();
    for (const auto& part : solved.parts)
        if (const auto* array = part.find(temperature->array, temperature->on);
            array != nullptr && array->notFinite > 0) {
            sum += array->notFinite;
            if (array->notFinite > most) {
                most = array->notFinite;
                check.part = part.name;
                for (std::size_t i = 0; i < array->values.size(); ++i)
                    if (!std::isfinite(array->values[i])) {
                        check.at = temperature->on == Location::Node ? part.mesh.node(i) : part.mesh.cellCentre(i);
                        break;
                    }
            }
        }
    if (sum > 0) {
        check.state = CheckState::Failed;
        check.figure = fmt::format("{} NaN or infinite, most in {}", counted(static_cast<std::uint64_t>(sum), "value"),
                                   input.shown(check.part));
    }
}

// In the unit that is taken for it: nothing on earth is solved below 100 K in kelvin or above 200 degC lightly.
void unitAnswer(const TrustInput& input, Check& check) {
    const auto& temperature = *temperatureOf(input);
    check.figure = fmt::format("{} to {}, stored in {}", celsius(temperature.min), celsius(temperature.max),
                               temperature.unit);
    if (!(temperature.min <= temperature.max)) {
        check.state = CheckState::NotCheckable;
        return;
    }
    const bool kelvin = temperature.unit == "K";
    if (temperature.min < 0 || temperature.max > 3000)
        check.state = CheckState::Failed;
    else if (kelvin ? temperature.min < 100 : temperature.min > 200 + 273.15)
        check.state = CheckState::Review;
    if (check.state != CheckState::Passed)
        check.meaning =
            kelvin
                ? "The values look like degrees Celsius that are read as kelvin: correct the unit in the stage Cases."
                : "The values look like kelvin that are read as degrees Celsius: correct the unit in the stage Cases.";
}

// Maximum principle: in steady conduction (and with a flow) a part without source has its extremes on its faces.
void answerExtreme(const TrustInput& input, bool hottest, Check& check) {
    if (input.heat.transience().changes) {
        check.state = CheckState::NotCheckable;
        check.meaning = "The field changes with time, so that an extreme inside may come from before.";
        return;
    }
    const RegionReading* worst = nullptr;
    std::size_t where = 0;
    for (std::size_t i = 0; i < input.readings.parts.size(); ++i) {
        const auto& one = input.readings.parts[i];
        if (!one.max || !one.min)
            continue;
        if (worst == nullptr ||
            (hottest ? one.max->kelvin > worst->max->kelvin : one.min->kelvin < worst->min->kelvin)) {
            worst = &one;
            where = i;
        }
    }
    const auto place = worst == nullptr ? std::optional<Place>() : hottest ? worst->hottest : worst->coldest;
    if (!place) {
        check.state = CheckState::NotCheckable;
        check.meaning = "No part has a temperature that can be read.";
        return;
    }
    const auto& fields = input.heat.fields();
    const auto& shell = fields.index().parts[where].shell;
    const bool onFace = place->on == Location::Node
                            ? std::ranges::find(shell.nodes, static_cast<std::uint32_t>(place->number)) !=
                                  shell.nodes.end()
                            : std::ranges::find(shell.cell, static_cast<std::uint32_t>(place->number)) !=
                                  shell.cell.end();
    check.part = worst->name;
    check.at = place->at;
    check.figure = fmt::format("{} in {}, {}", celsius(hottest ? worst->max->kelvin : worst->min->kelvin),
                               input.shown(worst->name), onFace ? "on a face" : "inside");
    if (!onFace && !producesHeat(fields, where)) {
        check.state = CheckState::Failed;
        check.meaning = "Nothing produces or takes heat there, so that the field cannot have converged, or the source "
                        "was left out of the case.";
    }
}

// Nothing is colder than everything around it unless heat is taken away inside, nor hotter unless heat is produced.
void spanAnswer(const TrustInput& input, Check& check) {
    double low = 1e300;
    double high = -1e300;
    const auto take = [&](double from, double to) {
        low = std::min(low, from);
        high = std::max(high, to);
    };
    // Nothing passes the outer faces that a case with boundaries leaves without.
    for (const auto& region :
         std::span(input.readings.boundaries)
             .first(std::min(input.readings.boundaries.size(), input.heat.fields().solved().passable()))) {
        const auto outside = std::ranges::find(input.readings.environments, region.name, &Environment::name);
        if (outside != input.readings.environments.end())
            take(outside->temperature, outside->temperature);
        else if (region.min)
            take(region.min->kelvin, region.max->kelvin);
    }
    if (input.heat.transience().changes || high < low) {
        check.state = CheckState::NotCheckable;
        check.meaning = high < low ? "The case has no boundaries with a temperature."
                                   : "The field changes with time, so that an extreme may come from before.";
        return;
    }
    bool warms = false;
    bool cools = false;
    for (const auto& power : input.readings.powers) {
        const double watt = power.found ? *power.found : power.given.value_or(0);
        warms = warms || watt > 0;
        cools = cools || watt < 0;
    }
    double below = 0;
    double above = 0;
    for (const auto& part : input.readings.parts) {
        if (!part.min || !part.max)
            continue;
        if (!cools && low - part.min->kelvin > below) {
            below = low - part.min->kelvin;
            check.part = part.name;
            check.at = part.coldest ? std::optional(part.coldest->at) : std::nullopt;
        }
        if (!warms && part.max->kelvin - high > above) {
            above = part.max->kelvin - high;
            check.part = part.name;
            check.at = part.hottest ? std::optional(part.hottest->at) : std::nullopt;
        }
    }
    check.figure = fmt::format("surroundings from {} to {}", celsius(low), celsius(high));
    if (std::max(below, above) > 0.1) {
        check.state = CheckState::Failed;
        check.figure += fmt::format("; {} is {:.3g} K {}", input.shown(check.part), std::max(below, above),
                                    below > above ? "colder" : "hotter");
    }
}

struct LeavingSurface {
    std::string name;
    double area; // m2
    double heat; // W
};

// What leaves through each boundary; of a case without any, through the parts that are surfaces, where they store a
// flux.
std::vector<LeavingSurface> leavingSurfaces(const TrustInput& input) {
    std::vector<LeavingSurface> out;
    const auto& fields = input.heat.fields();
    for (std::size_t i = 0; i < input.readings.balances->boundaries.size(); ++i)
        if (const auto& flow = input.readings.balances->boundaries[i]; flow.outer)
            out.push_back({flow.boundary, fields.index().boundaries[i].size, *flow.outer});
    if (!fields.solved().boundaries.empty())
        return out;
    for (std::size_t part = 0; part < fields.solved().parts.size(); ++part) {
        if (fields.solved().parts[part].dimension != 2)
            continue;
        Site site;
        site.kind = SiteKind::Surface;
        site.regions = {false, {part}};
        addFacets(site, fields.solved(), fields.index());
        if (const auto heat = input.heat.through(site))
            out.push_back({fields.solved().parts[part].name, fields.index().parts[part].size,
                           input.readings.symmetry * heat->total});
    }
    return out;
}

bool statesPowers(const TrustInput& input) { return input.readings.balances && !input.powers.empty(); }

// Also only where the field tells what a part with a stated power produces.
bool producesWhereStated(const TrustInput& input) {
    return hasTemperature(input) && statesPowers(input) &&
           std::ranges::any_of(input.readings.balances->parts, [&](const PartBalance& part) {
               return part.produced && input.powers.contains(part.part);
           });
}

void powerSourceAnswer(const TrustInput& input, Check& check) {
    double worst = 0;
    for (const auto& part : input.readings.balances->parts) {
        const auto power = input.powers.find(part.part);
        if (power == input.powers.end() || !part.produced)
            continue;
        const double off = std::abs(*part.produced - power->second) / std::max(std::abs(power->second), 1e-12);
        if (off >= worst) {
            worst = off;
            check.part = part.part;
            check.figure = fmt::format("{}: {:.4g} W stated, {:.4g} W in the field", input.shown(part.part),
                                       power->second, *part.produced);
        }
    }
    check.state = worst > 0.1 ? CheckState::Failed : worst > 0.01 ? CheckState::Review : CheckState::Passed;
}

void powerLeavingAnswer(const TrustInput& input, Check& check) {
    double given = 0;
    for (const auto& part : input.readings.balances->parts)
        if (const auto power = input.powers.find(part.part); power != input.powers.end())
            given += power->second;
    const auto surfaces = leavingSurfaces(input);
    double leaving = 0;
    for (const auto& one : surfaces)
        leaving += one.heat;
    const bool boundaries = !input.readings.boundaries.empty();
    if (input.readings.balance && boundaries)
        leaving = input.readings.balance->leaving;
    check.figure = fmt::format("{:.4g} W stated, {:.4g} W leaving through the {}", given, leaving,
                               boundaries ? "boundaries" : "surfaces");
    const double off = std::abs(leaving - given) / std::max(std::abs(given), 1e-12);
    if (surfaces.empty()) {
        check.state = CheckState::NotCheckable;
        check.figure = fmt::format("{:.4g} W stated; the heat leaving is not known", given);
        check.meaning = "Neither a boundary nor a surface tells the heat through it.";
    } else if (input.heat.transience().changes) {
        check.state = CheckState::NotCheckable;
        check.meaning = "The field changes with time: what does not leave may be stored.";
    } else if (off > 0.05) {
        check.state = off > 0.5 ? CheckState::Failed : CheckState::Review;
        for (const auto& one : surfaces)
            if (one.area > 0 &&
                (std::abs(leaving / given / one.area - 1) < 0.02 || std::abs(leaving / given * one.area - 1) < 0.02))
                check.meaning = fmt::format("The two differ by the area of \"{}\" in m2: a power per area was taken "
                                            "for a power, or the other way round.",
                                            one.name);
    }
}

} // namespace

constexpr CheckKind temperatureCheck{
    .key = "temperature",
    .title = "There is a temperature",
    .figure = "no array is known as temperature",
    .threshold = "one",
    .meaning = "Name it in the stage Cases, table Quantities.",
    .applies = [](const TrustInput& input) { return !hasTemperature(input); },
    .answer = [](const TrustInput&, Check& check) { check.state = CheckState::Failed; },
};

constexpr CheckKind finiteCheck{
    .key = "finite",
    .title = "Every temperature is a number",
    .figure = "none is NaN or infinite",
    .threshold = "none",
    .meaning = "A value that is not finite spoils every statistic it touches.",
    .applies = hasTemperature,
    .answer = finiteAnswer,
};

constexpr CheckKind unitCheck{
    .key = "unit",
    .title = "The range fits its unit",
    .threshold = "100 K to 3000 K",
    .meaning =
        "A field in degrees Celsius that is read as kelvin looks like deep cold, and the other way round like an "
        "oven.",
    .applies = hasTemperature,
    .answer = unitAnswer,
};

constexpr CheckKind interiorMaximumCheck{
    .key = "interior-maximum",
    .title = "The hottest place has a reason",
    .threshold = "on a face, or where heat is produced or taken",
    .meaning = "Without a source inside, a steady field is hottest and coldest on the faces of a part.",
    .applies = hasTemperature,
    .answer = [](const TrustInput& input, Check& check) { answerExtreme(input, true, check); },
};

constexpr CheckKind interiorMinimumCheck{
    .key = "interior-minimum",
    .title = "The coldest place has a reason",
    .threshold = "on a face, or where heat is produced or taken",
    .meaning = "Without a source inside, a steady field is hottest and coldest on the faces of a part.",
    .applies = hasTemperature,
    .answer = [](const TrustInput& input, Check& check) { answerExtreme(input, false, check); },
};

constexpr CheckKind spanCheck{
    .key = "span",
    .title = "Temperatures within those of the surroundings",
    .threshold = "within 0.1 K, but for sources",
    .meaning =
        "Heat flows from hot to cold: without sources nothing is hotter or colder than all that the case borders on.",
    .applies = hasTemperature,
    .answer = spanAnswer,
};

constexpr CheckKind powerSourceCheck{
    .key = "power-source",
    .title = "Powers agree with the sources of the field",
    .threshold = "within 1 %",
    .meaning = "The power that is stated for a part is the integral of its source.",
    .applies = producesWhereStated,
    .answer = powerSourceAnswer,
};

constexpr CheckKind powerLeavingCheck{
    .key = "power-leaving",
    .title = "Heat leaving equals stated power",
    .threshold = "within 5 %",
    .meaning = "In a steady state all the stated power leaves.",
    .applies = [](const TrustInput& input) { return hasTemperature(input) && statesPowers(input); },
    .answer = powerLeavingAnswer,
};

} // namespace pyro
