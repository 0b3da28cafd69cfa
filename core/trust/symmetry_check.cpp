// Whether a case is a half or a quarter of something: sides of its box that pass no heat although the opposite one
// does.
#include "core/thermal/face_boundaries.h"
#include "core/trust/checks.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <limits>
#include <set>

namespace pyro {
namespace {

constexpr std::array<const char*, 6> sideNames{"x min", "x max", "y min", "y max", "z min", "z max"};

struct Sides {
    std::array<double, 6> area{};   // m2 of outer faces that lie in the side
    std::array<double, 6> passes{}; // of them those that pass heat or may pass it
    std::array<bool, 6> cuts{};     // whether a part ends in the side that does not reach the opposite one
};

// Boundaries that pass no heat, and those that are noted as planes of symmetry.
std::set<std::uint32_t> adiabatic(const TrustInput& input) {
    const auto& flows = input.readings.balances->boundaries;
    double most = 0;
    for (const auto& flow : flows)
        most = std::max(most, std::abs(flow.heat.value_or(0)));
    std::set<std::uint32_t> out;
    for (std::uint32_t i = 0; i < flows.size(); ++i) {
        const bool noted = std::ranges::find(input.symmetric, flows[i].boundary) != input.symmetric.end();
        if (noted || (flows[i].heat && std::abs(*flows[i].heat) <= 1e-6 * most && flows[i].mass.value_or(0) == 0 &&
                      flows[i].volume.value_or(0) == 0))
            out.insert(i);
    }
    return out;
}

Sides sidesOf(const TrustInput& input) {
    const auto& index = input.heat.fields().index();
    std::array<double, 6> box;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        box[2 * axis] = std::numeric_limits<double>::infinity();
        box[2 * axis + 1] = -box[2 * axis];
        for (const auto& part : index.parts) {
            box[2 * axis] = std::min(box[2 * axis], part.box[2 * axis]);
            box[2 * axis + 1] = std::max(box[2 * axis + 1], part.box[2 * axis + 1]);
        }
    }
    const auto still = adiabatic(input);
    Sides sides;
    for (std::uint32_t part = 0; part < index.parts.size(); ++part) {
        if (input.heat.fields().solved().parts[part].dimension != 3)
            continue;
        const auto boundaryOf = boundariesOfFaces(input.heat, part);
        const auto& areas = input.heat.areas(part);
        const auto& own = index.parts[part].box;
        for (std::uint32_t face = 0; face < boundaryOf.size(); ++face)
            for (std::size_t side = 0; side < 6; ++side) {
                const auto axis = side / 2;
                const double hair = 1e-6 * (box[2 * axis + 1] - box[2 * axis]);
                if (std::abs(areas.centre[face][axis] - box[side]) > hair ||
                    std::abs(areas.normal[face][axis]) < 0.999 || input.heat.twin(part, face).part != ~0U)
                    continue;
                sides.area[side] += areas.face[face];
                sides.cuts[side] = sides.cuts[side] || std::abs(own[side ^ 1U] - box[side ^ 1U]) > hair;
                if (boundaryOf[face] != noNumber && !still.contains(boundaryOf[face]))
                    sides.passes[side] += areas.face[face];
            }
    }
    return sides;
}

// Sides that pass nothing while the opposite one is no such plane, or cuts nothing that this one cuts: a slice of
// something long has two of them, and its parts reach from one to the other.
std::vector<std::string> cutPlanes(const TrustInput& input) {
    const auto sides = sidesOf(input);
    const auto closed = [&](std::size_t side) {
        return sides.area[side] > 0 && sides.passes[side] < 1e-6 * sides.area[side];
    };
    std::vector<std::string> planes;
    for (std::size_t side = 0; side < 6; ++side)
        if (closed(side) && (!closed(side ^ 1U) || (sides.cuts[side] && !sides.cuts[side ^ 1U])))
            planes.emplace_back(sideNames[side]);
    return planes;
}

// Stated over found power, where that is 2, 4 or 8: a data sheet tells of the whole, the field holds its share.
std::optional<double> shareOfPower(const TrustInput& input) {
    double given = 0;
    double found = 0;
    for (const auto& part : input.readings.balances->parts)
        if (const auto power = input.powers.find(part.part); power != input.powers.end() && part.produced) {
            given += power->second;
            found += *part.produced;
        }
    for (const double factor : {2.0, 4.0, 8.0})
        if (found != 0 && std::abs(given / found / factor - 1) < 0.01)
            return factor;
    return std::nullopt;
}

bool tellsOfTheWhole(const Readings& readings) {
    return std::ranges::any_of(readings.gauges, [](const GaugeReading& gauge) {
        return gauge.value && gauge.derivation && !gauge.derivation->terms.empty() && gauge.unit == "W/K";
    });
}

void symmetryAnswer(const TrustInput& input, Check& check) {
    if (!input.readings.balances) {
        check.state = CheckState::NotCheckable;
        check.figure = "the balances are not known";
        return;
    }
    const auto planes = cutPlanes(input);
    const auto listed = fmt::format("{}", fmt::join(planes, ", "));
    const auto wanted = std::exp2(static_cast<double>(planes.size()));
    check.figure = planes.empty() ? std::string("no adiabatic plane that cuts something")
                                  : fmt::format("adiabatic planes: {}", listed);
    if (input.symmetry) {
        check.figure += *input.symmetry == 1 ? "; stated as whole"
                                             : fmt::format("; stated as 1/{:g} of the whole", *input.symmetry);
        check.meaning = "Flows, powers and chi are told for the whole.";
        if (*input.symmetry > 1 && planes.empty()) {
            check.state = CheckState::Review;
            check.meaning = "A model that is cut has adiabatic planes; a wedge of a circle has them aslant, where they "
                            "are not looked for.";
        }
        return;
    }
    const auto share = shareOfPower(input);
    if (share)
        check.figure += fmt::format("; the field holds 1/{:g} of the stated power", *share);
    const auto factor = share.value_or(wanted);
    if (share || !input.symmetric.empty() || (!planes.empty() && tellsOfTheWhole(input.readings))) {
        check.state = CheckState::Review;
        check.meaning = fmt::format("Is it 1/{:g} of the whole? State the symmetry factor in the stage Cases, {:g} or "
                                    "1: without it flows, powers and chi are those of the model.",
                                    factor, factor);
    } else if (!planes.empty()) {
        check.meaning = fmt::format("If these are planes of symmetry, state the factor {:g} in the stage Cases: "
                                    "without it flows, powers and chi are those of the model.",
                                    factor);
    }
}

} // namespace

constexpr CheckKind symmetryCheck{
    .key = "symmetry",
    .title = "Flows and powers are those of the whole",
    .threshold = "a stated factor, where a model is cut by planes of symmetry",
    .meaning = "Flows, powers and chi are those of the model as it is.",
    .answer = symmetryAnswer,
};

} // namespace pyro
