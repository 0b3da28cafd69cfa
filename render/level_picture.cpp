#include "render/level_picture.h"

#include <algorithm>

namespace pyro {
namespace {

void addSurface(const Region& part, const CellOrder& order, const StoredArray& field, double stored,
                LevelSurface& out) {
    const auto cut = levelSurface(part, order, blockRanges(order, field), field.values, stored);
    const auto first = static_cast<std::int32_t>(out.points.size() / 3);
    for (const auto& at : cut.points)
        for (const double coordinate : at)
            out.points.push_back(static_cast<float>(coordinate));
    std::int32_t vertex = first;
    for (const auto corners : cut.corners) {
        for (std::int32_t i = 1; i + 1 < corners; ++i)
            out.triangles.insert(out.triangles.end(), {vertex, vertex + i, vertex + i + 1});
        vertex += corners;
    }
}

} // namespace

Result<LevelPicture> makeLevels(const FieldPicture& picture, const CellOrders& orders, std::span<const double> values,
                                std::span<const std::size_t> parts, Progress& progress) {
    const auto& solved = *picture.opened.solved;
    const auto fromSi = picture.quantity.toSi.inverse();
    LevelPicture out;
    if (picture.quantity.on == Location::Cell)
        out.why = "the values are stored on cells, so no surface of one value runs between them";
    for (const double value : values)
        out.levels.push_back({value, {}, {}, {}});
    for (std::size_t part = 0; part < solved.parts.size(); ++part) {
        if (progress.cancelled())
            return fail(ErrorCode::Cancelled, "looking for surfaces of one value was cancelled", solved.file);
        progress.report(static_cast<double>(part) / static_cast<double>(solved.parts.size()), "surfaces of one value");
        const auto& stored = picture.fields[part];
        if (!stored || solved.parts[part].dimension != 3)
            continue;
        // Of a vector the magnitude or component on display.
        const StoredArray scalar{picture.quantity.array,
                                 stored->on,
                                 1,
                                 stored->derived.empty() ? stored->stored
                                                         : RealView(std::span<const double>(stored->derived)),
                                 0,
                                 0};
        for (auto& level : out.levels) {
            if (scalar.on == Location::Node && std::ranges::find(parts, part) != parts.end())
                addSurface(solved.parts[part], orders.parts[part], scalar, fromSi(level.value), level);
            const auto above = volumeAbove(solved.parts[part], scalar, picture.opened.index->parts[part].cellMeasure,
                                           fromSi(level.value));
            if (above.volume > 0)
                level.parts.push_back({part, above});
        }
    }
    for (auto& level : out.levels)
        std::ranges::stable_sort(level.parts,
                                 [](const auto& a, const auto& b) { return a.above.volume > b.above.volume; });
    return out;
}

} // namespace pyro
