#include "core/gauge/support.h"

#include "core/field/boundary_nodes.h"
#include "core/gauge/not_finite.h"

#include <cmath>
#include <fmt/format.h>
#include <tbb/blocked_range.h>
#include <tbb/parallel_reduce.h>

namespace pyro {
namespace {

const StoredArray* stored(const Region& region, const Quantity& quantity, Location& on) {
    on = quantity.on;
    if (const auto* same = region.find(quantity.array, on))
        return same;
    on = quantity.on == Location::Node ? Location::Cell : Location::Node;
    return region.find(quantity.array, on);
}

tl::unexpected<Error> noArray(const Region& region, const Quantity& quantity) {
    return fail(ErrorCode::NameUnknown,
                fmt::format("\"{}\" has no array \"{}\" for {}", region.name, quantity.array, quantity.name),
                region.name, "Export the quantity for this part or boundary as well");
}

// All components of a boundary's values, own or fetched from the parts behind it. Empty when there are none;
// entries that no part backs become NaN, so that they are told instead of guessed.
struct BoundaryArray {
    std::vector<double> values;
    Location on = Location::Cell;
    int components = 1;
};

std::vector<double> copied(const RealView& view) {
    std::vector<double> values(view.size());
    for (std::size_t i = 0; i < values.size(); ++i)
        values[i] = view[i];
    return values;
}

std::optional<BoundaryArray> fetched(const Case& solved, const BoundaryIndex& behind, const Region& boundary,
                                     const Quantity& quantity) {
    BoundaryArray out;
    out.on = quantity.on;
    out.components = quantity.components;
    const auto width = static_cast<std::size_t>(quantity.components);
    const bool nodes = quantity.on == Location::Node;
    out.values.assign(width * (nodes ? boundary.mesh.nodes() : boundary.mesh.cells()), std::nan(""));
    bool any = false;
    const auto copyTuple = [&](std::size_t to, std::uint32_t part, std::uint32_t from) {
        const auto* array = part == noNumber ? nullptr : solved.parts[part].find(quantity.array, quantity.on);
        if (array == nullptr || from == noNumber)
            return;
        any = true;
        for (std::size_t c = 0; c < width; ++c)
            out.values[width * to + c] = array->values[width * from + c];
    };
    for (std::size_t face = 0; face < boundary.mesh.cells(); ++face) {
        if (!nodes)
            copyTuple(face, behind.part[face], behind.cell[face]);
        else
            for (const auto node : boundary.mesh.cell(face))
                copyTuple(node, behind.part[face], nodeBehind(solved, boundary, behind, face, node));
    }
    return any ? std::optional(std::move(out)) : std::nullopt;
}

std::optional<BoundaryArray> boundaryArray(const Case& solved, const CaseIndex& index, std::size_t at,
                                           const Quantity& quantity) {
    const auto& boundary = solved.boundaries[at];
    Location on{};
    if (const auto* own = stored(boundary, quantity, on))
        return BoundaryArray{copied(own->values), on, own->components};
    return fetched(solved, index.boundaries[at], boundary, quantity);
}

// Node vectors are averaged to faces first: a normal belongs to a face.
std::vector<double> normalParts(const Region& boundary, const BoundaryIndex& index, const BoundaryArray& array) {
    std::vector<double> normal(boundary.mesh.cells());
    for (std::size_t face = 0; face < normal.size(); ++face) {
        const auto nodes = boundary.mesh.cell(face);
        for (std::size_t axis = 0; axis < 3; ++axis) {
            double value = 0;
            if (array.on == Location::Cell)
                value = array.values[3 * face + axis];
            else
                for (const auto node : nodes)
                    value += array.values[std::size_t{3} * node + axis] / static_cast<double>(nodes.size());
            normal[face] += value * index.normal[3 * face + axis];
        }
    }
    return normal;
}

template <class Values>
std::vector<double> component(const Values& values, std::size_t width, Component which) {
    std::vector<double> out(values.size() / width);
    for (std::size_t i = 0; i < out.size(); ++i) {
        if (which == Component::X || which == Component::Y || which == Component::Z) {
            out[i] = values[width * i + (which == Component::X ? 0 : which == Component::Y ? 1 : 2)];
            continue;
        }
        double squares = 0;
        for (std::size_t c = 0; c < width; ++c)
            squares += values[width * i + c] * values[width * i + c];
        out[i] = std::sqrt(squares);
    }
    return out;
}

Result<RegionValues> onPart(const Case& solved, const CaseIndex& index, std::size_t at, const Quantity& quantity,
                            Component which) {
    const auto& part = solved.parts[at];
    const auto* array = part.find(quantity.array, quantity.on);
    if (array == nullptr)
        return noArray(part, quantity);
    const auto& partIndex = index.parts[at];
    RegionValues values{
        quantity.on, {}, {}, quantity.on == Location::Node ? partIndex.nodeShare : partIndex.cellMeasure};
    if (array->components == 1)
        values.stored = array->values;
    else
        values.derived = component(array->values, static_cast<std::size_t>(array->components), which);
    return values;
}

Result<RegionValues> onBoundary(const Case& solved, const CaseIndex& index, std::size_t at, const Quantity& quantity,
                                Component which) {
    auto array = boundaryArray(solved, index, at, quantity);
    if (!array)
        return noArray(solved.boundaries[at], quantity);
    const auto& boundaryIndex = index.boundaries[at];
    const auto weightOn = [&](Location on) {
        return on == Location::Node ? boundaryIndex.nodeShare : boundaryIndex.cellMeasure;
    };
    if (array->components == 1)
        return RegionValues{array->on, std::move(array->values), {}, weightOn(array->on)};
    if (array->components == 3 && (which == Component::Natural || which == Component::Normal))
        return RegionValues{
            Location::Cell, normalParts(solved.boundaries[at], boundaryIndex, *array), {}, boundaryIndex.cellMeasure};
    return RegionValues{array->on,
                        component(array->values, static_cast<std::size_t>(array->components), which),
                        {},
                        weightOn(array->on)};
}

template <class Values>
Accumulator reduced(const Values& values, std::span<const double> weight, std::uint32_t region) {
    constexpr std::size_t grain = 1 << 16;
    return tbb::parallel_deterministic_reduce(
        tbb::blocked_range<std::size_t>(0, values.size(), grain), Accumulator{},
        [&](const auto& range, Accumulator sums) {
            for (auto i = range.begin(); i != range.end(); ++i)
                sums.add(static_cast<double>(values[i]), weight[i], region, i);
            return sums;
        },
        [](Accumulator a, const Accumulator& b) {
            a.merge(b);
            return a;
        });
}

} // namespace

Component componentNamed(std::string_view name) {
    return name == "x" ? Component::X : name == "y" ? Component::Y : name == "z" ? Component::Z : Component::Natural;
}

Result<RegionValues> valuesOn(const Case& solved, const CaseIndex& index, bool onBoundaries, std::size_t region,
                              const Quantity& quantity, Component which) {
    return onBoundaries ? onBoundary(solved, index, region, quantity, which)
                        : onPart(solved, index, region, quantity, which);
}

Result<SupportReading> read(const Case& solved, const CaseIndex& index, const Support& support,
                            const Quantity& quantity, Component which) {
    SupportReading reading{{}, quantity.toSi, quantity.on};
    for (std::size_t i = 0; i < support.regions.size(); ++i) {
        const auto values = valuesOn(solved, index, support.boundaries, support.regions[i], quantity, which);
        if (!values)
            return tl::unexpected(values.error());
        reading.on = values->on;
        const auto number = static_cast<std::uint32_t>(i);
        reading.sums.merge(values->derived.empty()
                               ? values->stored.visit([&](auto span) { return reduced(span, values->weight, number); })
                               : reduced(values->derived, values->weight, number));
    }
    return reading;
}

Done allFinite(const Case& solved, const Support& support, const SupportReading& reading) {
    if (reading.sums.notFinite() == 0)
        return {};
    return notFinite(reading.sums, placeOf(solved, support, reading.on, reading.sums.firstNotFinite()));
}

Place placeOf(const Case& solved, const Support& support, Location on, const Extremum& extremum) {
    const auto region = support.regions[extremum.region];
    const auto& mesh = (support.boundaries ? solved.boundaries : solved.parts)[region].mesh;
    return {on == Location::Node ? mesh.node(extremum.number) : mesh.cellCentre(extremum.number), on, extremum.number,
            region};
}

} // namespace pyro
