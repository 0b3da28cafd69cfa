#include "render/deformed_picture.h"

#include "core/units/unit.h"

#include <algorithm>
#include <cmath>

namespace pyro {
namespace {

double diagonalOf(const Surfaces& surfaces) {
    std::array<float, 6> box{1e30F, -1e30F, 1e30F, -1e30F, 1e30F, -1e30F};
    for (const auto& surface : surfaces)
        for (std::size_t i = 0; i < surface.points.size(); ++i) {
            box[2 * (i % 3)] = std::min(box[2 * (i % 3)], surface.points[i]);
            box[2 * (i % 3) + 1] = std::max(box[2 * (i % 3) + 1], surface.points[i]);
        }
    return std::hypot(box[1] - box[0], box[3] - box[2], box[5] - box[4]);
}

std::vector<float> shiftOf(const PartSurface& surface, const StoredArray& array, const Affine& metres) {
    std::vector<float> shift(3 * surface.nodes());
    for (std::size_t node = 0; node < surface.nodes(); ++node) {
        std::array<double, 3> sum{};
        surface.forSources(node, [&](std::uint32_t of, double weight) {
            for (std::size_t axis = 0; axis < 3; ++axis)
                sum[axis] += weight * metres.difference(array.values[3 * std::size_t{of} + axis]);
        });
        for (std::size_t axis = 0; axis < 3; ++axis)
            shift[3 * node + axis] = std::isfinite(sum[axis]) ? static_cast<float>(sum[axis]) : 0;
    }
    return shift;
}

} // namespace

DeformedPicture makeDeformed(const FieldPicture& picture, const OpenedCase& moved, const Quantity& quantity,
                             std::optional<double> factor) {
    DeformedPicture out;
    const auto& parts = picture.opened.solved->parts;
    out.shift.resize(parts.size());
    if (quantity.components != 3 || quantity.on != Location::Node || !sameDimension(quantity.siUnit, "m")) {
        out.why = quantity.name + " is no vector of lengths on nodes";
        return out;
    }
    // those of a solver's own are in its unit
    const auto metres = Affine{quantity.toSi.scale * conversion(quantity.siUnit, "m")->scale, 0};
    for (std::size_t part = 0; part < parts.size(); ++part) {
        const bool lone = parts.size() == 1 && moved.solved->parts.size() == 1;
        const auto same = lone ? std::optional<std::size_t>(0) : moved.solved->partNamed(parts[part].name);
        const auto* array = same && moved.solved->parts[*same].mesh.nodes() == parts[part].mesh.nodes()
                                ? moved.solved->parts[*same].find(quantity.array, quantity.on)
                                : nullptr;
        if (array == nullptr || array->components != 3) {
            out.unmoved.push_back(parts[part].name);
            continue;
        }
        auto& shift = out.shift[part] = shiftOf((*picture.surfaces)[part], *array, metres);
        for (std::size_t node = 0; node + 2 < shift.size(); node += 3)
            out.largest = std::max<double>(out.largest, std::hypot(shift[node], shift[node + 1], shift[node + 2]));
    }
    if (out.unmoved.size() == parts.size())
        out.why = "no part of it has the same nodes";
    else if (!(out.largest > 0))
        out.why = "nothing is displaced";
    out.factor = factor.value_or(out.largest > 0 ? 0.05 * diagonalOf(*picture.surfaces) / out.largest : 1);
    return out;
}

std::vector<float> deformedPoints(const PartSurface& surface, const std::vector<float>& shift, double scale) {
    auto points = surface.points;
    for (std::size_t i = 0; i < std::min(points.size(), shift.size()); ++i)
        points[i] += static_cast<float>(scale * shift[i]);
    return points;
}

} // namespace pyro
