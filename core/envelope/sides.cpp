#include "core/envelope/sides.h"

#include "core/thermal/balances.h"

#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <functional>

namespace pyro {
namespace {

constexpr double mostRemainder = 0.01; // of the heat flows, above which they are not believed

} // namespace

std::string inCelsius(double kelvin) { return fmt::format("{:.4g} degC", kelvin - 273.15); }

std::string Side::name() const {
    std::vector<std::string> names;
    for (const auto& one : all)
        names.push_back(one.name);
    return fmt::format("{}", fmt::join(names, " and "));
}

std::string Between::text() const {
    return fmt::format("{} {}, {} {}", inside.name(), inCelsius(inside.temperature()), outside.name(),
                       inCelsius(outside.temperature()));
}

Environment Sides::environment(const std::string& name) const {
    const auto& boundaries = m_heat.fields().solved().boundaries;
    const auto found = std::ranges::find(boundaries, name, &Region::name);
    if (found == boundaries.end())
        cannot(fmt::format("the case has no boundary named \"{}\"", name));
    const auto given = m_tools.given.find(name);
    return got(environmentOf(m_heat, static_cast<std::size_t>(found - boundaries.begin()),
                             given == m_tools.given.end() ? GivenEnvironment{} : given->second));
}

Side Sides::sideOf(const Json& names) const {
    Side side;
    for (const auto& name : names.is_array() ? names : Json::array({names})) {
        if (!name.is_string())
            cannot("\"environments\" are two boundaries, or two lists of them: the inside first");
        side.all.push_back(environment(name.get<std::string>()));
        if (std::abs(side.all.back().temperature - side.temperature()) > 1e-6 * side.temperature())
            cannot(fmt::format("\"{}\" and \"{}\" are one side, but differ in temperature", side.all.front().name,
                               side.all.back().name));
    }
    if (side.all.empty())
        cannot("\"environments\" names no boundary on one side");
    return side;
}

std::array<Side, 2> Sides::pair() const {
    const auto& where = m_gauge.where.written;
    if (where.is_object() && where.contains("environments")) {
        const auto& names = where["environments"];
        if (!names.is_array() || names.size() != 2 || names[0] == names[1])
            cannot("\"environments\" are two boundaries, or two lists of them: the inside first");
        return {sideOf(names[0]), sideOf(names[1])};
    }
    if (where.is_object() && where.contains("boundary") && m_gauge.rest.contains("against"))
        return {sideOf(where["boundary"]), sideOf(m_gauge.rest["against"])};
    auto known = environmentsOf(m_heat, m_tools.given);
    std::ranges::stable_sort(known, std::greater<>(), &Environment::temperature);
    std::array<Side, 2> sides;
    for (auto& one : known) {
        const auto same = [&](const Side& side) {
            return side.all.empty() || std::abs(side.temperature() - one.temperature) < 1e-6;
        };
        auto& side = same(sides[0]) ? sides[0] : sides[1];
        if (!same(side))
            cannot("the known environments have more than two temperatures",
                   "Name two of them, or two lists, in \"environments\"");
        side.all.push_back(std::move(one));
    }
    if (sides[1].all.empty())
        cannot(fmt::format("the case has {} known environment{}, where two temperatures are needed", known.size(),
                           known.size() == 1 ? "" : "s"),
               "Give the boundaries their temperature and surface resistance in the stage Cases");
    return sides;
}

void Sides::checkSteady() const {
    if (m_heat.transience().changes)
        cannot("the field changes with time; transmittances are those of a steady one");
    const auto& fields = m_heat.fields();
    for (std::size_t part = 0; part < fields.solved().parts.size(); ++part)
        if (producesHeat(fields, part))
            cannot(fmt::format("\"{}\" produces heat, so that the heat flow is not that between the environments",
                               fields.solved().parts[part].name));
}

Between Sides::between() const {
    checkSteady();
    auto [inside, outside] = pair();
    Between out{inside, outside};
    if (std::abs(out.difference()) < 1e-9 * inside.temperature())
        cannot(fmt::format("\"{}\" and \"{}\" have the same temperature, {}", inside.name(), outside.name(),
                           inCelsius(inside.temperature())));
    double into = 0;
    double from = 0;
    double sum = 0;
    double turnover = 0;
    const auto add = [&](const Environment& one, double& to, double sign) {
        const double heat = got(m_heat.through(one.boundary)).total;
        to += sign * heat;
        sum += heat;
        turnover += 0.5 * std::abs(heat);
    };
    for (const auto& one : outside.all)
        add(one, into, 1);
    for (const auto& one : inside.all)
        add(one, from, -1);
    bool othersCold = true;
    bool othersWarm = true;
    double elsewhere = 0;
    for (const auto& other : environmentsOf(m_heat, m_tools.given)) {
        if (inside.has(other.boundary) || outside.has(other.boundary))
            continue;
        othersCold = othersCold &&
                     std::abs(other.temperature - outside.temperature()) < 1e-6 * std::abs(out.difference());
        othersWarm = othersWarm &&
                     std::abs(other.temperature - inside.temperature()) < 1e-6 * std::abs(out.difference());
        add(other, elsewhere, 1);
    }
    if (std::abs(sum) > mostRemainder * turnover)
        cannot(fmt::format("the heat flows through the environments leave {:.3g} W of {:.3g} W over", sum, turnover),
               "The field has not converged, or heat passes a boundary without a known environment");
    if (othersCold && othersWarm)
        out.flow = 0.5 * (into + from);
    else if (othersCold)
        out.flow = into;
    else if (othersWarm)
        out.flow = from;
    else
        cannot(fmt::format("the environments have more than two temperatures, so that one field does not tell the flow "
                           "between \"{}\" and \"{}\"",
                           inside.name(), outside.name()),
               "Solve a case in which all others are as warm as one of these two");
    return out;
}

} // namespace pyro
