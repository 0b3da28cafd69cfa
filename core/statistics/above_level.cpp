// Volumes and areas above a level.
#include "core/field/volume_above.h"
#include "core/statistics/statistic_kind.h"

#include <fmt/format.h>

namespace pyro {
namespace {

// The volume of parts, or the area of a surface, where a quantity lies above a level. Of parts and boundaries by their
// nodes or cells, of other surfaces by their facets.
Result<Measured> extentAbove(const MeasureRequest& request, const Values& values, bool volume) {
    if (request.site.kind != (volume ? SiteKind::Volume : SiteKind::Surface))
        return fail(ErrorCode::NotSupported,
                    volume ? "only parts have a volume above a level" : "only a surface has an area above a level", {},
                    volume ? "Use area_above on surfaces" : "Use volume_above in parts");
    if (!request.options.level)
        return fail(ErrorCode::WrongType, "the level is missing", {}, "Add the key \"level\"");
    const auto& solved = request.fields().solved();
    const auto& index = request.fields().index();
    const auto& support = request.site.regions;
    double sum = 0;
    for (std::size_t at = 0; at < values.pieces.size(); ++at) {
        const auto& piece = values.pieces[at];
        const auto* region = at < support.regions.size()
                                 ? &(support.boundaries ? solved.boundaries : solved.parts)[support.regions[at]]
                                 : nullptr;
        const bool whole = region != nullptr &&
                           piece.size() == (piece.on == Location::Node ? region->mesh.nodes() : region->mesh.cells());
        if (!whole) {
            for (std::size_t i = 0; i < piece.size(); ++i)
                sum += piece.value(i) > *request.options.level ? piece.weightOf(i) : 0;
            continue;
        }
        std::vector<double> numbers(piece.size());
        for (std::size_t i = 0; i < numbers.size(); ++i)
            numbers[i] = piece.value(i);
        const StoredArray array{
            request.gauge.quantity, piece.on, 1, RealView(std::span<const double>(numbers)), 0, 0, 0};
        const auto measure = support.boundaries ? index.boundaries[support.regions[at]].cellMeasure
                                                : index.parts[support.regions[at]].cellMeasure;
        sum += volumeAbove(*region, array, measure, *request.options.level).volume;
    }
    return Measured{sum, volume ? "m3" : "m2"};
}

} // namespace

constexpr StatisticKind volumeAboveStatistic{
    .name = "volume_above",
    .meaning = "volume of parts where it is above a level",
    .ofSite = [](const MeasureRequest& request, const Values& values) { return extentAbove(request, values, true); },
    .addsUp = true,
    .keys = {"level"},
};

constexpr StatisticKind areaAboveStatistic{
    .name = "area_above",
    .meaning = "area of a surface where it is above a level",
    .ofSite = [](const MeasureRequest& request, const Values& values) { return extentAbove(request, values, false); },
    .addsUp = true,
    .keys = {"level"},
};

} // namespace pyro
