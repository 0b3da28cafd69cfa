#include "render/arrow_picture.h"

#include "core/field/vector_algebra.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace pyro {
namespace {

constexpr double lengthOfSpacing = 0.9;

Point unitAcross(const Point& normal) {
    // Along the axis that lies most within the plane, made square to the normal.
    std::size_t axis = 0;
    for (std::size_t i = 1; i < 3; ++i)
        if (std::abs(normal[i]) < std::abs(normal[axis]))
            axis = i;
    Point u{};
    for (std::size_t i = 0; i < 3; ++i)
        u[i] = (i == axis ? 1 : 0) - normal[axis] * normal[i];
    const double length = std::hypot(u[0], u[1], u[2]);
    return {u[0] / length, u[1] / length, u[2] / length};
}

// Places of a square grid in a section's plane, counted from its origin, that lie on one of its triangles.
class SectionGrid {
public:
    SectionGrid(const SectionPicture& section, double spacing) : m_section(section), m_spacing(spacing) {
        const auto& n = section.plane.normal;
        m_u = unitAcross(n);
        m_v = cross(n, m_u);
    }

    std::vector<Point> places() {
        for (std::size_t i = 0; i + 2 < m_section.triangles.size(); i += 3)
            addWithin(
                {flat(m_section.triangles[i]), flat(m_section.triangles[i + 1]), flat(m_section.triangles[i + 2])});
        std::vector<Point> out;
        for (const auto& [i, j] : m_taken) {
            Point at = m_section.plane.origin;
            for (std::size_t axis = 0; axis < 3; ++axis)
                at[axis] += m_spacing * (static_cast<double>(i) * m_u[axis] + static_cast<double>(j) * m_v[axis]);
            out.push_back(at);
        }
        return out;
    }

private:
    using Flat = std::array<double, 2>; // in spacings from the origin

    Flat flat(std::int32_t node) const {
        Point from{};
        for (std::size_t axis = 0; axis < 3; ++axis)
            from[axis] = m_section.points[3 * static_cast<std::size_t>(node) + axis] - m_section.plane.origin[axis];
        return {dot(from, m_u) / m_spacing, dot(from, m_v) / m_spacing};
    }

    static bool within(const std::array<Flat, 3>& t, double x, double y) {
        bool left = false;
        bool right = false;
        for (std::size_t i = 0; i < 3; ++i) {
            const auto& a = t[i];
            const auto& b = t[(i + 1) % 3];
            const double side = (b[0] - a[0]) * (y - a[1]) - (b[1] - a[1]) * (x - a[0]);
            left = left || side > 0;
            right = right || side < 0;
        }
        return !(left && right);
    }

    void addWithin(const std::array<Flat, 3>& triangle) {
        const auto [lowX, highX] = std::minmax({triangle[0][0], triangle[1][0], triangle[2][0]});
        const auto [lowY, highY] = std::minmax({triangle[0][1], triangle[1][1], triangle[2][1]});
        const auto lastI = static_cast<long>(std::floor(highX));
        const auto lastJ = static_cast<long>(std::floor(highY));
        for (auto i = static_cast<long>(std::ceil(lowX)); i <= lastI; ++i)
            for (auto j = static_cast<long>(std::ceil(lowY)); j <= lastJ; ++j)
                if (within(triangle, static_cast<double>(i), static_cast<double>(j)))
                    m_taken.insert({i, j});
    }

    const SectionPicture& m_section;
    double m_spacing;
    Point m_u;
    Point m_v;
    std::set<std::pair<long, long>> m_taken;
};

// A hair within the part behind each face, and the side it looks to.
std::vector<Point> onBoundary(const OpenedCase& opened, std::size_t boundary, double spacing) {
    const auto& mesh = opened.solved->boundaries[boundary].mesh;
    const auto& index = opened.index->boundaries[boundary];
    std::vector<Point> places;
    double due = 0.5; // arrows, for the area so far
    for (std::size_t face = 0; face < mesh.cells(); ++face) {
        due += index.cellMeasure[face] / (spacing * spacing);
        if (due < 1)
            continue;
        due -= std::floor(due);
        auto at = mesh.cellCentre(face);
        for (std::size_t axis = 0; axis < 3; ++axis)
            at[axis] -= 1e-3 * std::sqrt(index.cellMeasure[face]) * index.normal[3 * face + axis];
        places.push_back(at);
    }
    return places;
}

// A thirtieth of the largest part that has the field.
double fittingSpacing(const FieldPicture& picture, const Quantity& followed) {
    double size = 0;
    for (std::size_t part = 0; part < picture.opened.solved->parts.size(); ++part)
        if (picture.opened.solved->parts[part].find(followed.array, followed.on) != nullptr)
            for (std::size_t axis = 0; axis < 3; ++axis) {
                const auto& box = picture.opened.index->parts[part].box;
                size = std::max(size, box[2 * axis + 1] - box[2 * axis]);
            }
    return size / 30;
}

} // namespace

Result<ArrowPicture> makeArrows(const FieldPicture& picture, const CellOrders& orders, const Quantity& followed,
                                const ArrowView& view, std::span<const std::shared_ptr<const SectionPicture>> sections,
                                Progress& progress) {
    const auto& solved = *picture.opened.solved;
    ArrowPicture out;
    out.spacing = view.spacing > 0 ? view.spacing : fittingSpacing(picture, followed);
    double area = 0;
    for (const auto& section : sections)
        area += section->area;
    std::vector<std::size_t> boundaries;
    for (const auto& name : view.boundaries)
        if (const auto boundary = solved.boundaryNamed(name)) {
            boundaries.push_back(*boundary);
            for (const double face : picture.opened.index->boundaries[*boundary].cellMeasure)
                area += face;
        }
    if (!(out.spacing > 0) || area / (out.spacing * out.spacing) > static_cast<double>(mostArrows)) {
        out.why = "at this spacing there would be more than 20 000 arrows";
        return out;
    }
    std::vector<Point> places;
    for (const auto& section : sections)
        std::ranges::move(SectionGrid(*section, out.spacing).places(), std::back_inserter(places));
    for (const auto boundary : boundaries)
        std::ranges::move(onBoundary(picture.opened, boundary, out.spacing), std::back_inserter(places));

    std::vector<double> sizes;
    const VectorField field(solved, orders.parts, followed.array, followed.on);
    for (std::size_t i = 0; i < places.size(); ++i) {
        if (progress.cancelled())
            return fail(ErrorCode::Cancelled, "placing arrows was cancelled", solved.file);
        const auto here = field.at(places[i]);
        const double size = here ? std::hypot(here->vector[0], here->vector[1], here->vector[2]) : 0;
        if (!(size > 0) || !std::isfinite(size))
            continue;
        out.longest = std::max(out.longest, size);
        sizes.push_back(size);
        for (std::size_t axis = 0; axis < 3; ++axis) {
            out.points.push_back(static_cast<float>(places[i][axis]));
            out.vectors.push_back(static_cast<float>(here->vector[axis] / (view.scaled ? 1 : size)));
        }
        out.values.push_back(static_cast<float>(valueAt(picture, here->part, here->place)));
    }
    if (view.scaled && !sizes.empty()) { // a few peaks would shrink all others, so they may reach beyond the spacing
        const auto ninth = sizes.begin() + static_cast<std::ptrdiff_t>(sizes.size() * 9 / 10);
        std::ranges::nth_element(sizes, ninth);
        out.unit = *ninth;
    }
    const double scale = lengthOfSpacing * out.spacing / (view.scaled && out.unit > 0 ? out.unit : 1);
    for (auto& component : out.vectors)
        component = static_cast<float>(component * scale);
    out.longest *= followed.toSi.scale;
    out.unit *= followed.toSi.scale;
    if (out.count() == 0)
        out.why = places.empty() ? "no section is shown and no boundary is chosen"
                                 : "none of these places lies in the field of " + followed.name;
    return out;
}

} // namespace pyro
