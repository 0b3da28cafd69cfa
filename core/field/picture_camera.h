// How a picture sees a case, found by pixels whose places are known.
#pragma once

#include "core/feedback/error.h"
#include "core/field/vector_algebra.h"

#include <optional>
#include <span>

namespace pyro {

struct KnownPixel {
    double column = 0; // from the upper left corner; the first pixel's middle is 0.5
    double row = 0;
    Point at{}; // m
};

class PlaneFit;
class PinholeFit;

class PictureCamera {
public:
    // Depth is along the view: m ahead of a pinhole, for parallel rays along their direction from anywhere.
    struct Projected {
        double column = 0;
        double row = 0;
        double depth = 0;
    };
    Projected project(const Point& at) const;
    // The place that a pixel sees at a depth.
    Point place(double column, double row, double depth) const;
    bool isPinhole() const { return m_pinhole; } // what lies at depths below zero is not seen

    double worstMatch = 0; // pixels, of the known ones
    std::vector<std::string> notes;

private:
    friend PlaneFit;
    friend PinholeFit;
    // column, row (times depth of a pinhole) and depth are the rows of this times the place, plus the shift
    std::array<std::array<double, 3>, 3> m_matrix{};
    std::array<std::array<double, 3>, 3> m_inverse{};
    Point m_shift{};
    bool m_pinhole = false;
};

// Of a picture of this size. Three pixels: parallel rays at right angles to the plane of their places, from the side
// from which the picture is not mirrored. Four and more: a pinhole with square pixels and its axis through the middle
// of the picture, by least squares of the distances on it (Hartley and Zisserman, Multiple View Geometry, 2004, chapter
// 7); `fieldOfView`: over the width, rad, else found as well. Errors: WrongType for places on one line, or which no
// such camera sees where they are.
Result<PictureCamera> cameraOf(std::span<const KnownPixel> known, double columns, double rows,
                               std::optional<double> fieldOfView = {});

} // namespace pyro
