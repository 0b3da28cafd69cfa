#include "core/feedback/counted.h"
#include "core/thermal/face_boundaries.h"
#include "core/trust/checks.h"

#include <algorithm>
#include <fmt/format.h>

namespace pyro {
namespace {

void conductivitiesAnswer(const TrustInput& input, Check& check) {
    std::size_t missing = 0;
    const auto& fields = input.heat.fields();
    for (std::size_t part = 0; part < fields.solved().parts.size(); ++part)
        if (!fields.field(part, "conductivity")) {
            ++missing;
            check.part = fields.solved().parts[part].name;
        }
    if (missing > 0) {
        check.state = CheckState::Review;
        check.figure = missing == 1
                           ? input.shown(check.part) + " has none"
                           : fmt::format("{} parts have none, {} among them", missing, input.shown(check.part));
        check.meaning = "Give them a material in the stage Cases.";
    }
}

void limitsAnswer(const TrustInput& input, Check& check) {
    check.figure = counted(input.readings.limits.size(), "limit");
    if (input.readings.limits.empty()) {
        check.state = CheckState::Review;
        check.figure = "no limits are defined";
        return;
    }
    std::size_t unknown = 0;
    for (const auto& limit : input.readings.limits)
        // that one is judged with all steps
        if (limit.verdict == Verdict::Unknown && limit.form->judgeHistory == nullptr) {
            ++unknown;
            check.meaning = fmt::format("{}: {}", limit.target.name, limit.why);
        }
    if (unknown > 0) {
        check.state = CheckState::Review;
        check.figure = fmt::format("{} of {} limits cannot be judged", unknown, input.readings.limits.size());
    }
}

// Limits that the survey writes for parts, boundaries or gauges that this case does not have.
void limitTargetsAnswer(const TrustInput& input, Check& check) {
    std::vector<std::string> lost;
    for (const auto& limit : input.limits != nullptr ? *input.limits : std::vector<Limit>()) {
        const auto has = [&](const auto& list, auto name) {
            return std::ranges::find(list, limit.target.name, name) != list.end();
        };
        const bool found = limit.target.kind == TargetKind::Part ? has(input.readings.parts, &RegionReading::name)
                           : limit.target.kind == TargetKind::Boundary
                               ? has(input.readings.boundaries, &RegionReading::name)
                               : has(input.readings.gauges, &GaugeReading::id);
        if (!found)
            lost.push_back(limit.target.name);
    }
    if (!lost.empty()) {
        check.state = CheckState::Review;
        check.figure = fmt::format("{}: not in this case", fmt::join(lost, ", "));
    }
}

// A name that a reader or a mesher made up tells nobody what the face is.
bool isMadeUp(const std::string& name) {
    const auto digits = name.find_last_not_of("0123456789");
    if (digits == std::string::npos)
        return true;
    auto word = name.substr(0, digits + 1);
    while (!word.empty() && (word.back() == ' ' || word.back() == '_' || word.back() == '-'))
        word.pop_back();
    std::ranges::transform(word, word.begin(), [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    return digits + 1 < name.size() && (word == "part" || word == "boundary" || word == "block" || word == "unnamed" ||
                                        word == "zone" || word == "face" || word == "patch");
}

void namesAnswer(const TrustInput& input, Check& check) {
    std::vector<std::string> bare;
    for (const auto* regions : {&input.readings.parts, &input.readings.boundaries})
        for (const auto& region : *regions)
            if (isMadeUp(region.name))
                bare.push_back(region.name);
    if (!bare.empty()) {
        check.state = CheckState::Review;
        check.figure = fmt::format("{} without a name of their own, {} among them", bare.size(), bare.front());
    }
}

// Faces that no boundary covers are taken as adiabatic; on purpose or not.
void boundariesAnswer(const TrustInput& input, Check& check) {
    const auto& index = input.heat.fields().index();
    double bare = 0;
    double whole = 0;
    double most = 0;
    for (std::uint32_t part = 0; part < index.parts.size(); ++part) {
        if (input.heat.fields().solved().parts[part].dimension != 3)
            continue;
        const auto boundaryOf = boundariesOfFaces(input.heat, part);
        const auto& areas = input.heat.areas(part);
        double own = 0;
        for (std::size_t face = 0; face < boundaryOf.size(); ++face) {
            if (input.heat.twin(part, face).part != ~0U)
                continue;
            whole += areas.face[face];
            own += boundaryOf[face] == noNumber ? areas.face[face] : 0;
        }
        bare += own;
        if (own > most) {
            most = own;
            check.part = input.heat.fields().solved().parts[part].name;
        }
    }
    if (whole > 0 && bare >= whole * (1 - 1e-9)) {
        check.state = CheckState::Review;
        check.meaning =
            "No face has a boundary, so that no heat can leave: name them in the mesh, or in the case's groups.";
    }
    const auto& boundaries = input.heat.fields().solved().boundaries;
    if (whole > 0 && !boundaries.empty() && boundaries.front().patchOf) { // the file names none
        check.state = CheckState::Review;
        check.figure = fmt::format("the file names none; {} made at edges", counted(boundaries.size(), "boundary"));
        check.meaning = "Heat may pass through all of them: see that those which are planes of symmetry or insulated "
                        "let little pass.";
        return;
    }
    check.figure = whole > 0 ? fmt::format("{:.3g} % of the outer faces have none{}", 100 * bare / whole,
                                           most > 0 ? ", most of them on " + input.shown(check.part) : std::string())
                             : std::string("no outer faces");
}

} // namespace

constexpr CheckKind conductivitiesCheck{
    .key = "conductivities",
    .title = "Every part has a conductivity",
    .figure = "all have one",
    .threshold = "all",
    .meaning = "Without it neither heat nor balances can be computed where no flux is stored.",
    .answer = conductivitiesAnswer,
};

constexpr CheckKind limitsCheck{
    .key = "limits",
    .title = "Every limit can be judged",
    .threshold = "all",
    .meaning = "A limit that is not judged says nothing about its part.",
    .answer = limitsAnswer,
};

constexpr CheckKind limitTargetsCheck{
    .key = "limit-targets",
    .title = "Every limit names something",
    .figure = "all are there",
    .threshold = "all",
    .meaning = "A limit on a part that the case does not have, as after a change of its name, protects nothing.",
    .answer = limitTargetsAnswer,
};

constexpr CheckKind namesCheck{
    .key = "names",
    .title = "Parts and boundaries have names",
    .figure = "all have one",
    .threshold = "all",
    .meaning = "Gauges and limits find what they are about by its name; one that was numbered by a program changes "
               "with the next mesh.",
    .answer = namesAnswer,
};

constexpr CheckKind boundariesCheck{
    .key = "boundaries",
    .title = "Every outer face has a boundary",
    .threshold = "some at least; the rest counts as adiabatic",
    .meaning =
        "Faces without a boundary pass no heat: on a plane of symmetry that is meant, on a forgotten side it is not.",
    .answer = boundariesAnswer,
};

} // namespace pyro
