#include "core/estimate/combined_case.h"

#include "core/case/series.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <tbb/parallel_for.h>

namespace pyro {
namespace {

enum class Behaviour { Shifts, Adds, Stays, Unknown };

Behaviour behaviourOf(const std::string& quantity) {
    static const std::map<std::string, Behaviour> known{
        {"temperature", Behaviour::Shifts}, {"environment_temperature", Behaviour::Shifts},
        {"heat_flux", Behaviour::Adds},     {"heat_flux_convective", Behaviour::Adds},
        {"heat_source", Behaviour::Adds},   {"velocity", Behaviour::Stays},
        {"pressure", Behaviour::Stays},     {"density", Behaviour::Stays},
        {"conductivity", Behaviour::Stays}, {"heat_capacity", Behaviour::Stays},
        {"viscosity", Behaviour::Stays},    {"surface_resistance", Behaviour::Stays}};
    const auto found = known.find(quantity);
    return found == known.end() ? Behaviour::Unknown : found->second;
}

// The quantity that an array is taken for: as recognised, else by its own name.
struct Meaning {
    Behaviour behaviour = Behaviour::Unknown;
    Affine toSi;
};
Meaning meaningOf(const QuantityList& quantities, const StoredArray& array) {
    const auto found = std::ranges::find_if(quantities.quantities,
                                            [&](const Quantity& one) { return one.array == array.name; });
    if (found != quantities.quantities.end() && behaviourOf(found->name) != Behaviour::Unknown)
        return {behaviourOf(found->name), found->toSi};
    return {behaviourOf(array.name), {}};
}

struct Combined : Case {
    std::vector<std::unique_ptr<std::vector<double>>> made;
    std::vector<std::shared_ptr<const Case>> sources; // whose arrays and meshes are looked at
};

void tellRange(StoredArray& array, const std::vector<double>& values) {
    array.min = array.max = std::nan("");
    array.notFinite = 0;
    const auto components = static_cast<std::size_t>(array.components);
    for (std::size_t i = 0; i + components <= values.size(); i += components) {
        double squares = 0;
        for (std::size_t c = 0; c < components; ++c)
            squares += values[i + c] * values[i + c];
        const double size = components == 1 ? values[i] : std::sqrt(squares);
        if (!std::isfinite(size)) {
            ++array.notFinite;
            continue;
        }
        array.min = std::fmin(array.min, size);
        array.max = std::fmax(array.max, size);
    }
}

// One array of one region, of all cases; nothing when one of them lacks it.
std::optional<StoredArray> add(const std::vector<SolvedCase>& cases, const Weights& weights, bool boundary,
                               std::size_t region, const StoredArray& first, Combined& out) {
    const auto meaning = meaningOf(cases[0].quantities, first);
    if (meaning.behaviour == Behaviour::Unknown)
        return std::nullopt;
    if (meaning.behaviour == Behaviour::Stays)
        return first;
    struct Term {
        double weight;
        Affine toSi;
        RealView values;
    };
    std::vector<Term> terms;
    for (std::size_t i = 0; i < cases.size(); ++i) {
        if (weights.ofCases[i] == 0)
            continue;
        const auto& solved = *cases[i].opened.solved;
        const auto* array = (boundary ? solved.boundaries : solved.parts)[region].find(first.name, first.on);
        if (array == nullptr || array->values.size() != first.values.size())
            return std::nullopt;
        terms.push_back({weights.ofCases[i], meaningOf(cases[i].quantities, *array).toSi, array->values});
    }
    const double shift = meaning.behaviour == Behaviour::Shifts ? weights.shift : 0;
    const auto back = meaning.toSi.inverse();
    auto values = std::make_unique<std::vector<double>>(first.values.size());
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, values->size(), 1 << 14), [&](const auto& range) {
        for (auto i = range.begin(); i < range.end(); ++i) {
            double sum = shift;
            for (const auto& term : terms)
                sum += term.weight * term.toSi(term.values[i]);
            (*values)[i] = back(sum);
        }
    });
    StoredArray made{first.name, first.on, first.components, RealView(std::span<const double>(*values)), 0, 0};
    tellRange(made, *values);
    out.made.push_back(std::move(values));
    return made;
}

bool nearlySame(const StoredArray& a, const StoredArray& b) {
    if (a.values.size() != b.values.size() || a.components != b.components)
        return false;
    const double size = std::max({std::abs(a.min), std::abs(a.max), std::abs(b.min), std::abs(b.max)});
    for (std::size_t i = 0; i < a.values.size(); ++i)
        if (std::abs(a.values[i] - b.values[i]) > 1e-6 * size)
            return false;
    return true;
}

Done sameRegions(const Region& a, const SolvedCase& ofA, const Region& b) {
    for (const auto& array : a.arrays) {
        if (meaningOf(ofA.quantities, array).behaviour != Behaviour::Stays)
            continue;
        const auto* other = b.find(array.name, array.on);
        if (other == nullptr || !nearlySame(array, *other))
            return fail(ErrorCode::NotSupported, fmt::format("{} of \"{}\" differs", array.name, a.name));
    }
    return {};
}

} // namespace

Done addable(const SolvedCase& a, const SolvedCase& b) {
    const auto& one = *a.opened.solved;
    const auto& other = *b.opened.solved;
    if (!sameMesh(one, other))
        return fail(ErrorCode::NotSupported, "it has another mesh");
    for (const auto of : {&Case::parts, &Case::boundaries})
        for (std::size_t i = 0; i < (one.*of).size(); ++i)
            if (auto same = sameRegions((one.*of)[i], a, (other.*of)[i]); !same)
                return same;
    return {};
}

OpenedCase combined(const std::vector<SolvedCase>& cases, const Weights& weights) {
    const auto& first = *cases.front().opened.solved;
    auto out = std::make_shared<Combined>();
    static_cast<Case&>(*out) = first;
    for (const auto& one : cases)
        out->sources.push_back(one.opened.solved);
    for (const auto of : {&Case::parts, &Case::boundaries})
        for (std::size_t region = 0; region < (first.*of).size(); ++region) {
            auto& arrays = (out.get()->*of)[region].arrays;
            arrays.clear();
            for (const auto& array : (first.*of)[region].arrays)
                if (auto made = add(cases, weights, of == &Case::boundaries, region, array, *out))
                    arrays.push_back(std::move(*made));
        }
    return {out, cases.front().opened.index};
}

} // namespace pyro
