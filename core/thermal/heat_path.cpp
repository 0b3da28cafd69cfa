#include "core/thermal/heat_path.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <functional>
#include <set>

namespace pyro {
namespace {

std::vector<PartLink> linksOutOf(const Balances& balances, const std::string& part) {
    std::vector<PartLink> out;
    for (const auto& link : balances.links)
        if (link.from == part && link.leaving() > 0)
            out.push_back(link);
    std::ranges::stable_sort(out, std::greater<>(), &PartLink::leaving);
    return out;
}

// What is no more than rounding between two temperatures is no drop.
std::optional<double> between(const std::optional<double>& from, const std::optional<double>& to) {
    if (!from || !to)
        return std::nullopt;
    return std::abs(*from - *to) > 1e-12 * std::abs(*from) ? *from - *to : 0;
}

PathLeg leg(LegKind kind, const PartLink& link, double share, const std::optional<double>& drop) {
    PathLeg out{kind, link.from, kind == LegKind::Within ? std::string() : link.to, link.leaving(), share, drop, {}};
    if (drop && link.leaving() > 0)
        out.resistance = *drop / link.leaving();
    return out;
}

} // namespace

Result<HeatPath> heatPath(const Readings& readings, const std::string& part, double hottest) {
    if (!readings.balances)
        return fail(ErrorCode::NotSupported, "the balances of the parts are not known yet");
    HeatPath path;
    path.neighbours = linksOutOf(*readings.balances, part);
    if (path.neighbours.empty())
        return fail(ErrorCode::NotSupported, fmt::format("no heat is known to leave \"{}\"", part), {},
                    "Conductivities and powers are needed, or a stored flux");
    std::set<std::string> passed;
    std::optional<double> kelvin = hottest;
    double share = 1;
    for (auto here = part; passed.insert(here).second;) {
        const auto links = linksOutOf(*readings.balances, here);
        if (links.empty())
            break;
        const auto& link = links.front();
        share *= link.share.value_or(1);
        path.legs.push_back(leg(LegKind::Within, link, share, between(kelvin, link.leave)));
        path.legs.push_back(
            leg(link.toBoundary ? LegKind::Outwards : LegKind::Across, link, share, between(link.leave, link.enter)));
        if (link.toBoundary)
            break;
        kelvin = link.enter;
        here = link.to;
    }
    const auto most = std::ranges::max_element(path.legs, {},
                                               [](const PathLeg& one) { return one.drop.value_or(-1e300); });
    if (most != path.legs.end() && most->drop)
        path.largestDrop = static_cast<std::size_t>(most - path.legs.begin());
    return path;
}

} // namespace pyro
