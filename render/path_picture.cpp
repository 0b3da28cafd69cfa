#include "render/path_picture.h"

#include <cmath>
#include <numbers>

namespace pyro {
namespace {

// Evenly on a sphere, along a golden spiral.
std::vector<Point> aroundPlace(const Point& centre, double radius, int count) {
    std::vector<Point> seeds;
    const double turn = std::numbers::pi * (3 - std::sqrt(5.0));
    for (int i = 0; i < count; ++i) {
        const double z = 1 - 2 * (i + 0.5) / count;
        const double r = std::sqrt(1 - z * z);
        seeds.push_back({centre[0] + radius * r * std::cos(turn * i), centre[1] + radius * r * std::sin(turn * i), centre[2] + radius * z});
    }
    return seeds;
}

// Middles of faces, spread over the list, a little within the part behind them.
std::vector<Point> onBoundary(const OpenedCase& opened, std::size_t boundary, int count) {
    const auto& mesh = opened.solved->boundaries[boundary].mesh;
    const auto& index = opened.index->boundaries[boundary];
    std::vector<Point> seeds;
    const auto wanted = std::min<std::size_t>(static_cast<std::size_t>(count), mesh.cells());
    for (std::size_t i = 0; i < wanted; ++i) {
        const auto face = (2 * i + 1) * mesh.cells() / (2 * wanted);
        auto seed = mesh.cellCentre(face);
        for (std::size_t axis = 0; axis < 3; ++axis)
            seed[axis] -= 1e-3 * std::sqrt(index.cellMeasure[face]) * index.normal[3 * face + axis];
        seeds.push_back(seed);
    }
    return seeds;
}

} // namespace

Result<PathPicture> makePaths(const FieldPicture& picture, const CellOrders& orders, const Quantity& followed, const PathView& view,
                              const std::optional<Point>& hottest, Progress& progress) {
    PathPicture out;
    const auto& solved = *picture.opened.solved;
    out.fromGradient = followed.components == 1;
    const auto field = out.fromGradient ? VectorField::downhill(solved, orders.parts, followed.array)
                                        : VectorField(solved, orders.parts, followed.array, followed.on);
    std::vector<Point> seeds;
    if (!view.from.empty()) {
        const auto boundary = solved.boundaryNamed(view.from);
        if (boundary)
            seeds = onBoundary(picture.opened, *boundary, view.lines);
        else
            out.why = "there is no boundary \"" + view.from + "\" in this case";
    } else if (hottest) {
        const auto here = field.at(*hottest);
        if (here)
            seeds = aroundPlace(*hottest, 3 * field.cellSize(*here), view.lines);
    }
    StreamRule rule;
    double size = 0;
    for (const auto& part : picture.opened.index->parts)
        for (std::size_t axis = 0; axis < 3; ++axis)
            size = std::max(size, part.box[2 * axis + 1] - part.box[2 * axis]);
    rule.longest = 2 * size;
    out.begin.push_back(0);
    for (std::size_t i = 0; i < seeds.size(); ++i) {
        if (progress.cancelled())
            return fail(ErrorCode::Cancelled, "following the paths was cancelled", solved.file);
        progress.report(static_cast<double>(i) / static_cast<double>(seeds.size()), "following " + followed.name);
        const auto line = traceStream(field, seeds[i], rule);
        if (line.size() < 2)
            continue;
        for (const auto& point : line) {
            for (const double at : point.at)
                out.points.push_back(static_cast<float>(at));
            out.values.push_back(static_cast<float>(valueAt(picture, point.part, point.place)));
        }
        out.begin.push_back(static_cast<std::uint32_t>(out.values.size()));
    }
    if (out.lines() == 0 && out.why.empty())
        out.why = "no place to start from lies within the field of " + followed.name;
    return out;
}

} // namespace pyro
