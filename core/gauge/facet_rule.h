// Points within a face at which products of two linear fields, as in a mean by mass flow, are summed exactly.
#pragma once

#include "core/field/polygon_fan.h"

namespace pyro {

struct FacetPoint {
    std::vector<double> share; // of each corner of the face in the value; sum to 1
    double area = 0;           // m2; all points of a face have its area together

    template <class At>
    Point place(At at) const {
        Point out{};
        for (std::size_t i = 0; i < share.size(); ++i)
            for (std::size_t axis = 0; axis < 3; ++axis)
                out[axis] += share[i] * at(i)[axis];
        return out;
    }
};

class FacetRule {
public:
    static std::size_t pointsFor(std::size_t corners) { return corners == 4 ? 4 : corners > 2 ? 3 * (corners - 2) : 0; }
    // A quadrangle: Gauss' rule of 2 x 2 points, exact for products of two bilinear fields on a parallelogram. Any
    // other polygon: the middles of the sides of each triangle of its fan (Strang and Fix 1973, the rule of degree 2).
    template <class At>
    const std::vector<FacetPoint>& of(std::size_t corners, At at) {
        m_points.clear();
        if (corners == 4)
            quadrangle({at(0), at(1), at(2), at(3)});
        else
            for (std::size_t i = 1; i + 1 < corners; ++i)
                triangle(corners, {0, i, i + 1}, at(0), at(i), at(i + 1));
        return m_points;
    }

private:
    static double lengthOf(const Point& vector) { return std::sqrt(dot(vector, vector)); }

    void quadrangle(const std::array<Point, 4>& corner) {
        for (const double r : {gauss, 1 - gauss})
            for (const double s : {gauss, 1 - gauss}) {
                Point alongR{};
                Point alongS{};
                for (std::size_t axis = 0; axis < 3; ++axis) {
                    alongR[axis] = (1 - s) * (corner[1][axis] - corner[0][axis]) +
                                   s * (corner[2][axis] - corner[3][axis]);
                    alongS[axis] = (1 - r) * (corner[3][axis] - corner[0][axis]) +
                                   r * (corner[2][axis] - corner[1][axis]);
                }
                m_points.push_back(
                    {{(1 - r) * (1 - s), r * (1 - s), r * s, (1 - r) * s}, lengthOf(cross(alongR, alongS)) / 4});
            }
    }

    void triangle(std::size_t corners, const std::array<std::size_t, 3>& number, const Point& a, const Point& b,
                  const Point& c) {
        const double area = lengthOf(cross(minus(b, a), minus(c, a))) / 2;
        for (std::size_t side = 0; side < 3; ++side) {
            FacetPoint point{std::vector<double>(corners, 0.0), area / 3};
            point.share[number[side]] = 0.5;
            point.share[number[(side + 1) % 3]] = 0.5;
            m_points.push_back(std::move(point));
        }
    }

    static constexpr double gauss = 0.21132486540518711775; // (1 - 1/sqrt(3))/2
    std::vector<FacetPoint> m_points;
};

} // namespace pyro
