#include "core/field/seeds.h"

#include "core/field/vector_algebra.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace pyro {
namespace {

constexpr double goldenAngle = std::numbers::pi * (3 - 2.2360679774997896); // 3 - sqrt(5)

Point nodeOf(std::span<const float> points, std::int32_t node) {
    const auto at = 3 * static_cast<std::size_t>(node);
    return {points[at], points[at + 1], points[at + 2]};
}

double areaOf(const Point& a, const Point& b, const Point& c) {
    const auto n = cross({b[0] - a[0], b[1] - a[1], b[2] - a[2]}, {c[0] - a[0], c[1] - a[1], c[2] - a[2]});
    return 0.5 * std::hypot(n[0], n[1], n[2]);
}

} // namespace

std::vector<Point> seedsAround(const Point& centre, double radius, std::size_t count) {
    std::vector<Point> seeds;
    for (std::size_t i = 0; i < count; ++i) {
        const double z = 1 - 2 * (static_cast<double>(i) + 0.5) / static_cast<double>(count);
        const double r = std::sqrt(1 - z * z);
        const double turn = goldenAngle * static_cast<double>(i);
        seeds.push_back(
            {centre[0] + radius * r * std::cos(turn), centre[1] + radius * r * std::sin(turn), centre[2] + radius * z});
    }
    return seeds;
}

std::vector<Point> seedsOnDisk(const Point& centre, const Point& normal, double radius, std::size_t count) {
    const auto n = unit(normal);
    const auto u = unit(cross(n, std::abs(n[0]) < 0.8 ? Point{1, 0, 0} : Point{0, 1, 0}));
    const auto v = cross(n, u);
    std::vector<Point> seeds;
    for (std::size_t i = 0; i < count; ++i) {
        const double r = radius * std::sqrt((static_cast<double>(i) + 0.5) / static_cast<double>(count));
        const double turn = goldenAngle * static_cast<double>(i);
        Point at = centre;
        for (std::size_t axis = 0; axis < 3; ++axis)
            at[axis] += r * (std::cos(turn) * u[axis] + std::sin(turn) * v[axis]);
        seeds.push_back(at);
    }
    return seeds;
}

std::vector<Point> seedsOnLine(const Point& from, const Point& to, std::size_t count) {
    std::vector<Point> seeds;
    for (std::size_t i = 0; i < count; ++i) {
        const double share = count == 1 ? 0.5 : static_cast<double>(i) / static_cast<double>(count - 1);
        seeds.push_back(
            {std::lerp(from[0], to[0], share), std::lerp(from[1], to[1], share), std::lerp(from[2], to[2], share)});
    }
    return seeds;
}

std::vector<SurfaceSeed> seedsOnTriangles(std::span<const float> points, std::span<const std::int32_t> triangles,
                                          std::size_t count) {
    std::vector<double> upTo; // m2, of all triangles so far
    double area = 0;
    for (std::size_t i = 0; i + 2 < triangles.size(); i += 3)
        upTo.push_back(area += areaOf(nodeOf(points, triangles[i]), nodeOf(points, triangles[i + 1]),
                                      nodeOf(points, triangles[i + 2])));
    std::vector<SurfaceSeed> seeds;
    if (!(area > 0))
        return seeds;
    for (std::size_t i = 0; i < count; ++i) {
        const double wanted = area * (static_cast<double>(i) + 0.5) / static_cast<double>(count);
        const auto triangle = static_cast<std::size_t>(std::ranges::upper_bound(upTo, wanted) - upTo.begin());
        const std::size_t at = 3 * std::min(triangle, upTo.size() - 1);
        // Plastic number sequence: two coordinates that fill the unit square evenly (Roberts 2018).
        double s = std::fmod(0.7548776662466927 * static_cast<double>(i + 1), 1.0);
        double t = std::fmod(0.5698402909980532 * static_cast<double>(i + 1), 1.0);
        if (s + t > 1) {
            s = 1 - s;
            t = 1 - t;
        }
        const auto a = nodeOf(points, triangles[at]);
        const auto b = nodeOf(points, triangles[at + 1]);
        const auto c = nodeOf(points, triangles[at + 2]);
        Point place{};
        for (std::size_t axis = 0; axis < 3; ++axis)
            place[axis] = (1 - s - t) * a[axis] + s * b[axis] + t * c[axis];
        seeds.push_back({place, at / 3});
    }
    return seeds;
}

} // namespace pyro
