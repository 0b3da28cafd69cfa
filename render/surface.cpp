#include "render/surface.h"

#include "render/surface_builder.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <limits>
#include <tbb/blocked_range.h>
#include <tbb/parallel_reduce.h>
#include <unordered_map>

namespace pyro {
namespace {

constexpr std::size_t distributionClasses = 2048;

Distribution distributionOf(const RegionValues& values, const Quantity& quantity, const FieldPicture& picture) {
    const Distribution empty(picture.min, picture.max, distributionClasses);
    return tbb::parallel_deterministic_reduce(
        tbb::blocked_range<std::size_t>(0, values.size(), 1 << 17), empty,
        [&](const auto& range, Distribution sum) {
            for (auto k = range.begin(); k != range.end(); ++k)
                sum.add(quantity.toSi(values[k]), values.weight[k]);
            return sum;
        },
        [](Distribution a, const Distribution& b) {
            a.merge(b);
            return a;
        });
}

} // namespace

double valueAt(const FieldPicture& picture, std::size_t part, const CellPlace& place) {
    const auto& field = picture.fields[part];
    if (!field)
        return std::nan("");
    if (field->on == Location::Cell)
        return picture.quantity.toSi((*field)[place.cell]);
    const auto ids = picture.opened.solved->parts[part].mesh.cell(place.cell);
    double sum = 0;
    for (std::size_t i = 0; i < place.nodes; ++i)
        sum += place.weight[i] * (*field)[ids[i]];
    return picture.quantity.toSi(sum);
}

std::array<double, 2> rangeOf(const FieldPicture& picture, std::span<const std::size_t> parts) {
    std::array<double, 2> range{std::nan(""), std::nan("")};
    for (const auto part : parts)
        range = {std::fmin(range[0], picture.ranges[part][0]), std::fmax(range[1], picture.ranges[part][1])};
    return range;
}

void reduce(PartSurface& surface) {
    if (surface.triangles.size() / 3 <= mostTrianglesWhileMoving)
        return;
    std::array<float, 3> low{surface.points[0], surface.points[1], surface.points[2]};
    auto high = low;
    for (std::size_t i = 0; i < surface.points.size(); ++i) {
        low[i % 3] = std::min(low[i % 3], surface.points[i]);
        high[i % 3] = std::max(high[i % 3], surface.points[i]);
    }
    // A closed surface meets about 6 n^2 cells of an n^3 grid, with two triangles each.
    const double cells = std::sqrt(static_cast<double>(mostTrianglesWhileMoving) / 12);
    const double step = std::max({high[0] - low[0], high[1] - low[1], high[2] - low[2], 1e-30F}) / cells;
    const auto nodes = surface.points.size() / 3;
    std::unordered_map<std::uint64_t, std::int32_t> first;
    std::vector<std::int32_t> leader(nodes);
    for (std::size_t node = 0; node < nodes; ++node) {
        std::uint64_t cell = 0;
        for (std::size_t axis = 0; axis < 3; ++axis)
            cell = cell << 20 | static_cast<std::uint64_t>((surface.points[3 * node + axis] - low[axis]) / step);
        leader[node] = first.try_emplace(cell, static_cast<std::int32_t>(node)).first->second;
    }
    for (std::size_t triangle = 0; 3 * triangle < surface.triangles.size(); ++triangle) {
        std::array<std::int32_t, 3> corner{};
        for (std::size_t i = 0; i < 3; ++i)
            corner[i] = leader[static_cast<std::size_t>(surface.triangles[3 * triangle + i])];
        if (corner[0] == corner[1] || corner[1] == corner[2] || corner[2] == corner[0])
            continue;
        surface.coarse.insert(surface.coarse.end(), corner.begin(), corner.end());
        surface.coarseSource.push_back(static_cast<std::uint32_t>(triangle));
    }
}

namespace {

std::array<double, 2> rangeOfComponent(const std::optional<RegionValues>& field, const Quantity& quantity) {
    std::array<double, 2> range{std::nan(""), std::nan("")};
    for (std::size_t i = 0; field && i < field->size(); ++i)
        if (const double value = quantity.toSi((*field)[i]); std::isfinite(value))
            range = {std::fmin(range[0], value), std::fmax(range[1], value)};
    return range;
}

Result<std::shared_ptr<const Surfaces>> makeSurfaces(const OpenedCase& opened, Progress& progress) {
    auto surfaces = std::make_shared<Surfaces>();
    const auto& parts = opened.solved->parts;
    for (std::size_t i = 0; i < parts.size(); ++i) {
        if (progress.cancelled())
            return fail(ErrorCode::Cancelled, "drawing was cancelled", opened.solved->file);
        progress.report(static_cast<double>(i) / static_cast<double>(parts.size()), "surface of " + parts[i].name);
        if (opened.solved->plane) {
            const auto flat = facesInPlane(parts[i]);
            surfaces->push_back(surfaceOf(parts[i], {flat.nodes, flat.offsets, flat.cell}));
        } else {
            surfaces->push_back(surfaceOf(parts[i], opened.index->parts[i].shell));
        }
        reduce(surfaces->back());
    }
    return surfaces;
}

SurfaceValues surfaceValues(const FieldPicture& picture) {
    SurfaceValues values(picture.fields.size());
    for (std::size_t i = 0; i < values.size(); ++i) {
        const auto& field = picture.fields[i];
        if (!field || std::isnan(picture.min))
            continue;
        const auto& surface = (*picture.surfaces)[i];
        if (field->on == Location::Cell) {
            for (const auto number : surface.partCell)
                values[i].push_back(static_cast<float>(picture.quantity.toSi((*field)[number])));
            continue;
        }
        for (std::size_t node = 0; node < surface.nodes(); ++node) {
            double value = 0;
            surface.forSources(node, [&](std::uint32_t of, double weight) { value += weight * (*field)[of]; });
            values[i].push_back(static_cast<float>(picture.quantity.toSi(value)));
        }
    }
    return values;
}

} // namespace

Result<FieldPicture> makePicture(const OpenedCase& opened, const Quantity& quantity, const FieldPicture* before,
                                 Progress& progress, Component component) {
    if (quantity.components == 1)
        component = Component::Natural;
    FieldPicture picture{opened, quantity, component, {}, {}, {}, {}, {}, {}, std::nan(""), std::nan("")};
    const auto& parts = opened.solved->parts;
    for (std::size_t i = 0; i < parts.size(); ++i) {
        auto here = valuesOn(*opened.solved, *opened.index, false, i, quantity, component);
        picture.fields.push_back(here ? std::optional(std::move(*here)) : std::nullopt);
        picture.ranges.push_back(component == Component::Natural ? storedRange(*opened.solved, std::array{i}, quantity)
                                                                 : rangeOfComponent(picture.fields[i], quantity));
        picture.min = std::fmin(picture.min, picture.ranges[i][0]);
        picture.max = std::fmax(picture.max, picture.ranges[i][1]);
    }
    const bool sameCase = before != nullptr && before->opened.solved == opened.solved;
    // steps of one mesh share the index
    if (sameCase || (before != nullptr && before->opened.index == opened.index)) {
        picture.surfaces = before->surfaces;
    } else {
        auto surfaces = makeSurfaces(opened, progress);
        if (!surfaces)
            return tl::unexpected(surfaces.error());
        picture.surfaces = std::move(*surfaces);
    }
    picture.values = sameCase && sameReading(before->quantity, quantity) && before->component == component
                         ? before->values
                         : std::make_shared<const SurfaceValues>(surfaceValues(picture));
    picture.distributions.resize(parts.size());
    for (std::size_t i = 0; i < parts.size() && opened.index->measured; ++i)
        if (picture.fields[i] && !std::isnan(picture.min))
            picture.distributions[i] = distributionOf(*picture.fields[i], quantity, picture);
    if (opened.index->measured)
        picture.regions = readRegions(opened, quantity, component, progress);
    return picture;
}

Result<FirstLook> firstLook(const LookWish& wish, Progress& progress) {
    SubProgress searching(progress, 0.0, 0.1);
    OpenOptions options;
    options.split = wish.split;
    auto series = seriesOf(wish.file, wish.series, options, searching);
    if (!series)
        return tl::unexpected(series.error());
    const int step = series->nearest(wish.step);
    FirstLook look{std::move(*series), step, {}, nullptr};
    SubProgress opening(progress, 0.1, 0.9);
    auto opened = openForPicture(look.series.steps[static_cast<std::size_t>(look.step)], {}, opening);
    // the newest file may still be written: the one before serves meanwhile
    if (!opened && !opened.error().cancelled() && !wish.step && look.step > 0) {
        look.series.remarks.push_back(
            {Severity::Warning, "step-unreadable",
             fmt::format("the newest step cannot be read and is left out: {}", opened.error().what),
             look.series.steps.back().file.string()});
        look.series.steps.pop_back();
        --look.step;
        opened = openForPicture(look.series.steps.back(), {}, opening);
    }
    if (!opened)
        return tl::unexpected(opened.error());
    look.opened = std::move(*opened);
    const auto quantities = recognise(*look.opened.solved, wish.choices);
    const auto* wanted = quantities ? quantities->namedOrFirst(wish.quantity) : nullptr;
    if (wanted == nullptr)
        return look; // a choice that does not fit is told when the case is evaluated
    SubProgress drawing(progress, 0.9, 1.0);
    auto picture = makePicture(look.opened, *wanted, nullptr, drawing, wish.component);
    if (!picture)
        return tl::unexpected(picture.error());
    look.picture = std::make_shared<const FieldPicture>(std::move(*picture));
    return look;
}

} // namespace pyro
