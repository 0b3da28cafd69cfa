#include "render/part_labels.h"

#include <algorithm>

namespace pyro {
namespace {

constexpr std::size_t mostLooked = 160; // places of a part that are asked for

} // namespace

std::optional<std::array<double, 2>> placeOfPart(FieldScene& scene, const FieldPicture& picture, std::size_t part,
                                                 const QSize& size) {
    const auto& surface = (*picture.surfaces)[part];
    const auto triangles = surface.triangles.size() / 3;
    const auto stride = std::max<std::size_t>(1, triangles / mostLooked);
    std::vector<std::array<double, 2>> seen;
    for (std::size_t triangle = 0; triangle < triangles; triangle += stride) {
        Point centre{};
        for (std::size_t corner = 0; corner < 3; ++corner)
            for (std::size_t axis = 0; axis < 3; ++axis)
                centre[axis] +=
                    static_cast<double>(
                        surface.points[3 * static_cast<std::size_t>(surface.triangles[3 * triangle + corner]) + axis]) /
                    3;
        const auto pixel = scene.toPixel(centre);
        if (pixel[0] < 0 || pixel[1] < 0 || pixel[0] >= size.width() || pixel[1] >= size.height())
            continue;
        if (const auto hit = scene.pick(pixel[0], pixel[1]); hit && hit->part == part)
            seen.push_back({pixel[0], pixel[1]});
    }
    if (seen.empty())
        return std::nullopt;
    std::array<double, 2> middle{};
    for (const auto& one : seen)
        for (std::size_t axis = 0; axis < 2; ++axis)
            middle[axis] += one[axis] / static_cast<double>(seen.size());
    return *std::ranges::min_element(seen, {}, [&](const auto& one) {
        return (one[0] - middle[0]) * (one[0] - middle[0]) + (one[1] - middle[1]) * (one[1] - middle[1]);
    });
}

} // namespace pyro
