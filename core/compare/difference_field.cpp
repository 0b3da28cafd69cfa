#include "core/compare/difference_field.h"

#include "core/field/sample.h"
#include "core/survey/shown_unit.h"

#include <cmath>
#include <fmt/format.h>
#include <tbb/parallel_for.h>

namespace pyro {
namespace {

std::vector<Point> placesOf(const Mesh& mesh, Location on, const std::optional<Placement>& placement) {
    std::vector<Point> places(on == Location::Node ? mesh.nodes() : mesh.cells());
    tbb::parallel_for(std::size_t{0}, places.size(), [&](std::size_t i) {
        places[i] = on == Location::Node ? mesh.node(i) : mesh.cellCentre(i);
        if (placement)
            places[i] = (*placement)(places[i]);
    });
    return places;
}

// SI; `same`: the parts have the same nodes and cells.
std::vector<double> otherValues(const Region& part, const StoredArray& array, const Affine& toSi, const Region& ownPart,
                                Location on, bool same, const std::optional<Placement>& placement) {
    std::vector<double> values;
    if (same && array.on == on) {
        values.resize(array.values.size());
        for (std::size_t i = 0; i < values.size(); ++i)
            values[i] = array.values[i];
    } else {
        const auto places = placesOf(ownPart.mesh, on, placement);
        values = array.on == Location::Node ? sampleAll(part, array.values, places)
                                            : sampleCells(part, array.values, places);
    }
    for (auto& value : values)
        value = toSi(value);
    return values;
}

// Of one part at the time of the own case; nothing where the other case has no such part or no such values there.
std::optional<std::vector<double>> valuesThere(const OtherField& other, const Quantity& theirs, const Region& ownPart,
                                               Location on, const Case& own) {
    const auto at = [&](const OpenedCase& opened) -> std::optional<std::vector<double>> {
        // the only parts of two files without blocks go by their files' names, and are one
        const bool lone = own.parts.size() == 1 && opened.solved->parts.size() == 1;
        const auto part = lone ? std::optional<std::size_t>(0) : opened.solved->partNamed(ownPart.name);
        if (!part)
            return std::nullopt;
        const auto& region = opened.solved->parts[*part];
        const auto* array = region.find(theirs.array, theirs.on);
        if (array == nullptr || array->components != 1)
            return std::nullopt;
        const bool same = !other.placement && sameMesh(own, *opened.solved);
        return otherValues(region, *array, theirs.toSi, ownPart, on, same, other.placement);
    };
    auto values = at(other.at.before);
    if (!values || !other.at.after)
        return values;
    const auto after = at(*other.at.after);
    if (!after)
        return std::nullopt;
    for (std::size_t i = 0; i < values->size(); ++i)
        (*values)[i] += other.at.share * ((*after)[i] - (*values)[i]);
    return values;
}

StoredArray storedAs(const std::string& name, Location on, std::span<const double> values) {
    StoredArray array{name, on, 1, RealView(values), std::nan(""), std::nan("")};
    for (const double value : values)
        if (std::isfinite(value)) {
            array.min = std::fmin(array.min, value);
            array.max = std::fmax(array.max, value);
        } else {
            ++array.notFinite;
        }
    return array;
}

} // namespace

Result<DifferenceField> differenceOf(const OpenedCase& own, const QuantityList& quantities, const OtherField& other,
                                     const std::string& quantity, Progress& progress) {
    const auto* ours = quantities.named(quantity);
    const auto* theirs = other.quantities.named(quantity);
    if (ours == nullptr || theirs == nullptr)
        return fail(ErrorCode::NameUnknown,
                    fmt::format("{} has no \"{}\"", ours == nullptr ? "the case" : "the other case", quantity));
    if (ours->components != 1 || theirs->components != 1)
        return fail(ErrorCode::NotSupported, fmt::format("\"{}\" is a vector; choose a scalar", quantity));
    if (!sameDimension(ours->siUnit, theirs->siUnit))
        return fail(ErrorCode::WrongUnit,
                    fmt::format("\"{}\" is in {} and in {}", quantity, ours->siUnit, theirs->siUnit));
    DifferenceField out;
    out.when = other.at.when;
    auto solved = std::make_shared<Case>(*own.solved);
    auto made = std::make_shared<std::vector<std::vector<double>>>(own.solved->parts.size());
    const auto name = quantity + std::string(differenceEnding);
    double found = 0;
    double all = 0;
    double low = std::nan("");
    double high = std::nan("");
    for (auto& boundary : solved->boundaries)
        boundary.arrays.clear();
    for (std::size_t i = 0; i < solved->parts.size(); ++i) {
        progress.report(static_cast<double>(i) / static_cast<double>(solved->parts.size()), "subtracting the fields");
        if (progress.cancelled())
            return fail(ErrorCode::Cancelled, "subtracting the fields was cancelled", own.solved->file);
        auto& part = solved->parts[i];
        const auto* array = own.solved->parts[i].find(ours->array, ours->on);
        part.arrays.clear();
        if (array == nullptr)
            continue;
        all += static_cast<double>(array->values.size());
        auto values = valuesThere(other, *theirs, own.solved->parts[i], ours->on, *own.solved);
        if (!values) {
            out.alone.push_back(part.name);
            continue;
        }
        tbb::parallel_for(std::size_t{0}, values->size(),
                          [&](std::size_t at) { (*values)[at] = ours->toSi(array->values[at]) - (*values)[at]; });
        auto& kept = (*made)[i] = std::move(*values);
        part.arrays.push_back(storedAs(name, ours->on, kept));
        found += static_cast<double>(kept.size() - part.arrays.back().notFinite);
        low = std::fmin(low, part.arrays.back().min);
        high = std::fmax(high, part.arrays.back().max);
    }
    if (!(found > 0))
        return fail(ErrorCode::NotSupported, "the two cases have no place in common", own.solved->file,
                    "Parts are matched by their names");
    out.covered = found / all;
    out.quantity = {name, name, ours->on, 1, ours->siUnit, ours->siUnit, Affine{}, low, high};
    // what the regions of the own case point into stays alive with it
    struct Keep {
        std::shared_ptr<const Case> own;
        std::shared_ptr<const std::vector<std::vector<double>>> made;
        std::shared_ptr<const Case> solved;
    };
    auto keep = std::make_shared<Keep>(Keep{own.solved, made, solved});
    out.opened = {std::shared_ptr<const Case>(keep, keep->solved.get()), own.index};
    return out;
}

} // namespace pyro
