#include "core/thermal/whole_heat.h"

#include "core/units/display.h"

#include <fmt/format.h>
#include <functional>
#include <set>

namespace pyro {
namespace {

constexpr double closed = 0.01;

using Pair = std::pair<std::uint32_t, std::uint32_t>;

// W, from known to unknown parts where no boundary lies between them.
double goneOver(const CaseHeat& heat, const Balances& balances, const std::vector<bool>& known,
                const std::set<Pair>& walls) {
    double sum = 0;
    for (const auto& link : balances.links) {
        const auto from = heat.fields().solved().partNamed(link.from);
        const auto to = link.toBoundary ? std::nullopt : heat.fields().solved().partNamed(link.to);
        if (from && to && known[*from] != known[*to] &&
            !walls.contains(std::minmax(static_cast<std::uint32_t>(*from), static_cast<std::uint32_t>(*to))))
            sum += (known[*from] ? 1 : -1) * link.heat;
    }
    return sum;
}

} // namespace

std::optional<BalanceReading> wholeBalance(const CaseHeat& heat, const Balances& balances,
                                           const std::map<std::string, double>& powers) {
    std::vector<bool> known;
    for (const auto& part : balances.parts)
        known.push_back(part.carried.has_value());
    BalanceReading whole;
    bool told = false;
    for (std::size_t i = 0; i < balances.parts.size(); ++i) {
        const auto& part = balances.parts[i];
        told = told || powers.contains(part.part) || heat.fields().stored(i, "heat_source").has_value();
        if (!known[i]) {
            whole.without += (whole.without.empty() ? "" : ", ") + part.part;
            continue;
        }
        whole.produced += part.produced.value_or(0);
        whole.leaving += *part.carried;
        if (whole.stored && part.stored)
            *whole.stored += *part.stored;
        else if (whole.stored) {
            whole.stored.reset();
            whole.whyNotStored = fmt::format("what {} stores is not known: {}", part.part, part.why);
        }
    }
    if (!told || std::ranges::none_of(known, std::identity()))
        return std::nullopt;
    std::set<Pair> walls;
    for (std::size_t boundary = 0; boundary < balances.boundaries.size(); ++boundary) {
        const auto through = heat.through(boundary);
        if (!through)
            return std::nullopt;
        const double out = conductedOut(heat, boundary, *through, known, &walls);
        whole.leaving += out;
        whole.entering += std::max(0.0, -out);
    }
    whole.leaving += goneOver(heat, balances, known, walls);
    return whole;
}

std::optional<PartBalance> balanceOfAll(const Readings& readings) {
    if (!readings.balance)
        return std::nullopt;
    const auto& balance = *readings.balance;
    PartBalance all;
    all.part = balance.without.empty() ? std::string("whole case") : "whole case without " + balance.without;
    all.in = balance.entering;
    all.produced = balance.produced;
    all.stored = balance.stored;
    all.carried = 0;
    if (readings.balances)
        for (const auto& part : readings.balances->parts)
            *all.carried += part.carried.value_or(0);
    all.out = balance.leaving - *all.carried + balance.entering;
    all.why = balance.whyNotStored;
    return all;
}

std::string balanceText(const BalanceReading& balance) {
    auto text = fmt::format("produced {}, leaving {}", formatSi(balance.produced, "W"), formatSi(balance.leaving, "W"));
    if (!balance.stored)
        return text + ", stored not known";
    if (*balance.stored != 0)
        text += ", stored " + formatSi(*balance.stored, "W");
    return text + ", remainder " + formatSi(*balance.remainder(), "W");
}

std::string WholeHeat::text() const {
    const auto between = stored == 0 ? std::string() : formatSi(stored, "W") + " stored, ";
    return fmt::format("{} in, {} out, {}{:.3f} % open{}", formatSi(in, "W"), formatSi(out, "W"), between, 100 * open(),
                       without.empty() ? "" : ", without " + without);
}

Result<WholeHeat> wholeHeat(const Readings& readings) {
    WholeHeat whole;
    if (const auto& balance = readings.balance) {
        if (!balance->stored)
            return fail(ErrorCode::NotSupported, balance->whyNotStored);
        // Produced against leaving is what an engineer knows; where nothing is produced, what enters against what
        // leaves.
        const double besides = balance->produced > 0 && balance->leaving > 0
                                   ? 0
                                   : std::max({balance->entering, -balance->leaving, -balance->produced, 0.0});
        whole = {balance->produced + besides, balance->leaving + besides, *balance->stored, balance->without};
        if (whole.open() < closed)
            return whole;
    }
    if (!readings.parts.empty() &&
        std::ranges::all_of(readings.parts, [](const RegionReading& part) { return part.dimension < 3; }))
        return fail(ErrorCode::NotSupported, "the case holds surfaces only, which enclose nothing that could balance");
    if (!readings.balances)
        return fail(ErrorCode::NotSupported, "the heat through the boundaries or what is produced is not known");
    for (const auto& flow : readings.balances->boundaries)
        if (!flow.heat)
            return fail(ErrorCode::NotSupported,
                        fmt::format("the heat through {} is not known: {}", flow.boundary, flow.why), flow.boundary);
    double entering = 0;
    double leaving = 0;
    for (const auto& flow : readings.balances->boundaries)
        (flow.outer.value_or(0) < 0 ? entering : leaving) += std::abs(flow.outer.value_or(0));
    double produced = 0;
    double carried = 0;
    double stored = 0;
    for (const auto& part : readings.balances->parts) {
        if (!part.produced || !part.carried || !part.stored)
            return fail(ErrorCode::NotSupported, fmt::format("the balance of {} is not known: {}", part.part, part.why),
                        part.part);
        produced += *part.produced;
        carried += *part.carried;
        stored += *part.stored;
    }
    if (readings.balance)
        return whole;
    (produced < 0 ? leaving : entering) += std::abs(produced);
    (carried < 0 ? entering : leaving) += std::abs(carried);
    return WholeHeat{entering, leaving, stored, {}};
}

} // namespace pyro
