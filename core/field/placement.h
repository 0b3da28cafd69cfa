// Carries the places of one geometry onto those of another that was moved, turned or scaled.
#pragma once

#include "core/feedback/error.h"
#include "core/field/vector_algebra.h"

#include <span>

namespace pyro {

struct Placement {
    std::array<std::array<double, 3>, 3> matrix{{{1, 0, 0}, {0, 1, 0}, {0, 0, 1}}}; // a rotation times a scale
    Point shift{};                                                                  // m

    Point operator()(const Point& at) const {
        return {dot(matrix[0], at) + shift[0], dot(matrix[1], at) + shift[1], dot(matrix[2], at) + shift[2]};
    }
    Placement inverse() const;
    // First the other one, then this one.
    Placement after(const Placement& first) const;
    // Whether directions of vectors are carried over unchanged.
    bool keepsDirections() const;
};

// By least squares over places that correspond (Umeyama 1991), three or more; `scaled`: sizes may differ too. Errors:
// WrongType for places on one line.
Result<Placement> placementOf(std::span<const Point> from, std::span<const Point> to, bool scaled);

} // namespace pyro
