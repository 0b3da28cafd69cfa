#include "core/estimate/crossing.h"

#include <algorithm>
#include <cmath>

namespace pyro {
namespace {

struct End {
    double at;
    double margin;
};

// False position that halves the margin of an end which stays (Illinois; Dowell and Jarratt 1971).
std::optional<double> between(const std::function<std::optional<double>(double)>& margin, End a, End b,
                              double accuracy) {
    int stayed = 0;
    for (int turn = 0; turn < 60 && std::abs(b.at - a.at) > accuracy; ++turn) {
        double at = (a.at * b.margin - b.at * a.margin) / (b.margin - a.margin);
        if (turn % 8 == 7 || !(std::min(a.at, b.at) < at && at < std::max(a.at, b.at)))
            at = 0.5 * (a.at + b.at); // a steep end is met by halves
        const auto found = margin(at);
        if (!found)
            return std::nullopt;
        if (*found == 0)
            return at;
        if ((*found < 0) == (b.margin < 0)) {
            b = {at, *found};
            a.margin = stayed == 1 ? a.margin / 2 : a.margin;
            stayed = 1;
        } else {
            a = {at, *found};
            b.margin = stayed == 2 ? b.margin / 2 : b.margin;
            stayed = 2;
        }
    }
    return a.margin >= 0 ? a.at : b.at; // the side on which the limit is met
}

} // namespace

std::optional<double> crossing(const std::function<std::optional<double>(double)>& margin,
                               const CrossingSearch& search) {
    const auto first = margin(search.start);
    const auto second = margin(search.start + search.step);
    if (!first || !second)
        return std::nullopt;
    if (*first == 0)
        return search.start;
    const double slope = (*second - *first) / search.step;
    const bool falls = slope != 0 ? slope < 0 : search.falls;
    const double direction = (*first > 0) == falls ? 1 : -1;
    if (slope != 0) {
        const double straight = search.start - *first / slope;
        if (straight >= search.least && straight <= search.most) {
            const auto there = margin(straight);
            if (there && std::abs(*there) <= 1e-9 * (std::abs(*first) + std::abs(slope)))
                return straight;
        }
    }
    const double farthest = direction > 0 ? search.most : search.least;
    const auto last = margin(farthest);
    if (last && (*last >= 0) == (*first >= 0))
        return std::nullopt;
    End near{search.start, *first};
    for (double width = std::abs(search.step);; width *= 2) {
        const double at = std::clamp(search.start + direction * width, search.least, search.most);
        const auto found = margin(at);
        if (!found)
            return std::nullopt;
        if ((*found >= 0) != (near.margin >= 0))
            return between(margin, near, {at, *found}, search.accuracy);
        if (at == farthest)
            return std::nullopt;
        near = {at, *found};
    }
}

} // namespace pyro
