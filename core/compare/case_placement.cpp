#include "core/compare/case_placement.h"

#include <algorithm>
#include <cmath>

namespace pyro {
namespace {

struct Box {
    Point low{1e300, 1e300, 1e300};
    Point high{-1e300, -1e300, -1e300};
    void add(const std::array<double, 6>& box) {
        for (std::size_t axis = 0; axis < 3; ++axis) {
            low[axis] = std::min(low[axis], box[2 * axis]);
            high[axis] = std::max(high[axis], box[2 * axis + 1]);
        }
    }
    double diagonal() const { return length(minus(high, low)); }
    Point middle() const { return {(low[0] + high[0]) / 2, (low[1] + high[1]) / 2, (low[2] + high[2]) / 2}; }
};

Result<Placement> byBoxes(const PlacedCase& own, const PlacedCase& other, bool scaled) {
    Box here;
    Box there;
    bool common = false;
    const bool lone = own.solved.parts.size() == 1 && other.solved.parts.size() == 1;
    for (std::size_t i = 0; i < own.solved.parts.size(); ++i) {
        const auto same = lone ? std::optional<std::size_t>(0) : other.solved.partNamed(own.solved.parts[i].name);
        if (!same)
            continue;
        here.add(own.index.parts[i].box);
        there.add(other.index.parts[*same].box);
        common = true;
    }
    if (!common || !(here.diagonal() > 0))
        return fail(ErrorCode::NameUnknown, "the cases have no part in common whose boxes could be laid on each other",
                    "placement", "Give three places instead");
    Placement out;
    const double scale = scaled ? there.diagonal() / here.diagonal() : 1;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        out.matrix[axis][axis] = scale;
        out.shift[axis] = there.middle()[axis] - scale * here.middle()[axis];
    }
    return out;
}

Result<Placement> byPlaces(const PlacementWish& wish) {
    std::vector<Point> from;
    std::vector<Point> to;
    for (const auto& one : wish.from)
        from.push_back(one.at());
    for (const auto& one : wish.to)
        to.push_back(one.at());
    return placementOf(from, to, wish.scaled);
}

} // namespace

Result<std::optional<Placement>> placementBetween(const PlacedCase& own, const PlacedCase& other) {
    const auto& here = own.entry.placement;
    const auto& there = other.entry.placement;
    const auto wrapped = [](const Placement& one) { return std::optional(one); };
    if ((here && here->byBoxes) || (there && there->byBoxes))
        return byBoxes(own, other, (here && here->scaled) || (there && there->scaled)).map(wrapped);
    if (!here && !there)
        return std::optional<Placement>();
    const auto first = here ? byPlaces(*here) : Result<Placement>(Placement{});
    const auto last = there ? byPlaces(*there) : Result<Placement>(Placement{});
    if (!first || !last)
        return tl::unexpected(first ? last.error() : first.error());
    return std::optional(last->inverse().after(*first));
}

} // namespace pyro
