// What lies under a pixel of the scene: the nearest visible surface or section, its value and its place.
#include "render/field_scene.h"

#include <algorithm>
#include <cmath>

namespace pyro {
namespace {

// Barycentric coordinates of a place within a triangle, by areas.
std::array<double, 3> weightsIn(const std::vector<float>& points, const std::int32_t* triangle, const Point& at) {
    std::array<Point, 3> corner{};
    for (std::size_t i = 0; i < 3; ++i)
        for (std::size_t axis = 0; axis < 3; ++axis)
            corner[i][axis] = points[3 * static_cast<std::size_t>(triangle[i]) + axis];
    const auto area = [](const Point& a, const Point& b, const Point& c) {
        Point n{};
        for (std::size_t axis = 0; axis < 3; ++axis) {
            const auto u = (axis + 1) % 3;
            const auto v = (axis + 2) % 3;
            n[axis] = (b[u] - a[u]) * (c[v] - a[v]) - (b[v] - a[v]) * (c[u] - a[u]);
        }
        return std::hypot(n[0], n[1], n[2]);
    };
    std::array<double, 3> weight{area(at, corner[1], corner[2]), area(corner[0], at, corner[2]),
                                 area(corner[0], corner[1], at)};
    const double sum = weight[0] + weight[1] + weight[2];
    for (auto& one : weight)
        one = sum > 0 ? one / sum : 1.0 / 3;
    return weight;
}

double betweenNodes(const std::vector<float>& points, const std::vector<float>& values, const std::int32_t* triangle,
                    const Point& at) {
    const auto weight = weightsIn(points, triangle, at);
    double value = 0;
    for (std::size_t i = 0; i < 3; ++i)
        value += weight[i] * values[static_cast<std::size_t>(triangle[i])];
    return value;
}

double shareAlong(const std::array<Point, 2>& ray, const Point& at) {
    double product = 0;
    double squares = 0;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        const double whole = ray[1][axis] - ray[0][axis];
        product += (at[axis] - ray[0][axis]) * whole;
        squares += whole * whole;
    }
    return product / squares;
}

} // namespace

std::optional<double> FieldScene::valueAt(std::size_t part, vtkIdType triangle, const Point& at) const {
    const auto& values = (*m_picture->values)[part];
    if (values.empty())
        return std::nullopt;
    const auto& surface = (*m_picture->surfaces)[part];
    const double value = m_picture->quantity.on == Location::Node
                             ? betweenNodes(surface.points, values,
                                            &surface.triangles[static_cast<std::size_t>(triangle) * 3], at)
                             : static_cast<double>(values[static_cast<std::size_t>(triangle)]);
    return std::isfinite(value) ? std::optional(value) : std::nullopt;
}

SurfacePlace FieldScene::surfacePlace(std::size_t part, vtkIdType triangle, const Point& at) const {
    const auto& surface = (*m_picture->surfaces)[part];
    const auto* nodes = &surface.triangles[static_cast<std::size_t>(triangle) * 3];
    const auto weight = weightsIn(surface.points, nodes, at);
    SurfacePlace place{part, {}, {}, surface.partCell[static_cast<std::size_t>(triangle)]};
    for (std::size_t i = 0; i < 3; ++i) {
        const auto node = static_cast<std::size_t>(nodes[i]);
        surface.forSources(node, [&](std::uint32_t of, double share) {
            place.nodes.push_back(of);
            place.weights.push_back(weight[i] * share);
        });
        for (std::size_t axis = 0; axis < 3; ++axis)
            place.corner[i][axis] = surface.points[3 * node + axis];
    }
    return place;
}

Point FieldScene::undeformed(std::size_t part, vtkIdType triangle, const Point& at) const {
    if (m_parts[part]->moved.empty())
        return at;
    const auto& surface = (*m_picture->surfaces)[part];
    const auto* nodes = &surface.triangles[static_cast<std::size_t>(triangle) * 3];
    const auto weight = weightsIn(m_parts[part]->moved, nodes, at);
    Point out{};
    for (std::size_t i = 0; i < 3; ++i)
        for (std::size_t axis = 0; axis < 3; ++axis)
            out[axis] += weight[i] * surface.points[3 * static_cast<std::size_t>(nodes[i]) + axis];
    return out;
}

bool FieldScene::keepUncut(std::array<Point, 2>& ray) const {
    double from = 0;
    double to = 1;
    for (const auto& section : m_sections) {
        if (!section.view.shown || !section.view.opened)
            continue;
        const double near = distanceTo(section.view.plane, ray[0]);
        const double far = distanceTo(section.view.plane, ray[1]);
        if (near > 0 && far > 0)
            return false;
        if (near > 0)
            from = std::max(from, near / (near - far));
        else if (far > 0)
            to = std::min(to, near / (near - far));
    }
    const auto whole = ray;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        ray[0][axis] = whole[0][axis] + from * (whole[1][axis] - whole[0][axis]);
        ray[1][axis] = whole[0][axis] + to * (whole[1][axis] - whole[0][axis]);
    }
    return from < to;
}

std::optional<Pick> FieldScene::pickSections(const std::array<Point, 2>& ray, double& nearest) {
    std::optional<Pick> best;
    for (std::size_t i = 0; i < m_sectionDrawings.size(); ++i) {
        auto* drawing = m_sectionDrawings[i].get();
        if (drawing == nullptr || !drawing->isFilled() || drawing->picture().empty())
            continue;
        double along = 0;
        Point at{};
        Point local{};
        int sub = 0;
        vtkIdType triangle = -1;
        if (drawing->locator()->IntersectWithLine(ray[0].data(), ray[1].data(), 0.0, along, at.data(), local.data(),
                                                  sub, triangle) == 0 ||
            along >= nearest)
            continue;
        nearest = along;
        const auto& picture = drawing->picture();
        const auto first = static_cast<std::size_t>(triangle) * 3;
        const auto value = picture.valuesOnNodes
                               ? betweenNodes(picture.points, picture.values, &picture.triangles[first], at)
                               : static_cast<double>(picture.values[static_cast<std::size_t>(triangle)]);
        best = Pick{picture.part[static_cast<std::size_t>(triangle)],
                    at,
                    std::isfinite(value) ? std::optional(value) : std::nullopt,
                    picture.valuesOnNodes ? Location::Node : Location::Cell,
                    i,
                    std::nullopt};
    }
    return best;
}

std::optional<Pick> FieldScene::pick(double x, double y) {
    const auto whole = rayThrough(x, y);
    auto uncut = whole;
    const bool anyUncut = keepUncut(uncut);
    std::optional<Pick> nearest;
    double nearestAlong = 2;
    for (std::size_t part = 0; part < m_parts.size(); ++part) {
        auto& drawing = *m_parts[part];
        if (!drawing.visible || drawing.surface->GetNumberOfCells() == 0)
            continue;
        if (!drawing.locator) {
            drawing.locator = vtkSmartPointer<vtkStaticCellLocator>::New();
            drawing.locator->SetDataSet(drawing.surface);
            drawing.locator->BuildLocator();
        }
        const bool exempt = std::ranges::any_of(m_sections, [&](const ShownSection& section) {
            return section.view.exempt.contains(m_picture->opened.solved->parts[part].name);
        });
        if (!exempt && !anyUncut)
            continue;
        const auto& ray = exempt ? whole : uncut;
        double along = 0;
        Point at{};
        Point local{};
        int sub = 0;
        vtkIdType triangle = -1;
        if (drawing.locator->IntersectWithLine(ray[0].data(), ray[1].data(), 0.0, along, at.data(), local.data(), sub,
                                               triangle) == 0)
            continue;
        const double alongWhole = shareAlong(whole, at);
        at = undeformed(part, triangle, at);
        if (alongWhole < nearestAlong) {
            nearestAlong = alongWhole;
            nearest = Pick{part,
                           at,
                           valueAt(part, triangle, at),
                           m_picture->quantity.on,
                           std::nullopt,
                           surfacePlace(part, triangle, at)};
        }
    }
    if (auto onSection = pickSections(whole, nearestAlong))
        return onSection;
    return nearest;
}

std::optional<std::size_t> FieldScene::boundaryNear(double x, double y, double pixels) {
    if (!m_picture || !m_picture->opened.solved->plane)
        return std::nullopt;
    const auto& solved = *m_picture->opened.solved;
    std::optional<std::size_t> nearest;
    double least = pixels;
    for (std::size_t boundary = 0; boundary < solved.boundaries.size(); ++boundary) {
        const auto& mesh = solved.boundaries[boundary].mesh;
        const auto edges = edgesInPlane(mesh, *solved.plane);
        for (std::size_t i = 0; i + 1 < edges.size(); i += 2) {
            const auto from = toPixel(mesh.node(edges[i]));
            const auto to = toPixel(mesh.node(edges[i + 1]));
            const double across = to[0] - from[0];
            const double up = to[1] - from[1];
            const double squared = across * across + up * up;
            const double along = squared > 0
                                     ? std::clamp(((x - from[0]) * across + (y - from[1]) * up) / squared, 0.0, 1.0)
                                     : 0;
            if (const double off = std::hypot(x - from[0] - along * across, y - from[1] - along * up); off < least) {
                least = off;
                nearest = boundary;
            }
        }
    }
    return nearest;
}

} // namespace pyro
