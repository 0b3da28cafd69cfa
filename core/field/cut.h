// Sections by a plane and surfaces of one value through a part, as polygons.
#pragma once

#include "core/field/cell_order.h"

namespace pyro {

struct Plane {
    Point origin{};        // metres
    Point normal{0, 0, 1}; // any length but zero
    bool operator==(const Plane&) const = default;
};
// The same plane with a normal of length 1. Errors: WrongType for a normal that is zero or not finite.
Result<Plane> withUnitNormal(const Plane& plane);
// Through three places. Errors: WrongType when they lie on one line.
Result<Plane> planeThrough(const Point& a, const Point& b, const Point& c);
// Across y through a place, of a place in a corner of the box (lowest and highest x, y, z) across its thinnest extent;
// moved inwards where it would lie in a side of the box.
Plane planeWithin(const std::array<double, 6>& box, const Point& place);
double distanceTo(const Plane& unitPlane, const Point& place); // metres, positive on the side of the normal

// A vertex of a cut lies on an edge of the mesh: at node a + share (node b - node a).
struct EdgePlace {
    std::uint32_t a;
    std::uint32_t b;
    double share;
};

struct Cut {
    RawVector<Point> points;         // per vertex, metres
    RawVector<EdgePlace> vertices;   // where each vertex lies in the mesh
    RawVector<std::uint8_t> corners; // per polygon: how many vertices; they follow each other, polygon after polygon
    RawVector<std::uint32_t> cell;   // per polygon

    std::size_t polygons() const { return cell.size(); }
    bool empty() const { return cell.empty(); }
};

// The section of a part. Where the plane lies in faces of the mesh, the cells on the side against the normal give the
// polygons. Empty when the plane misses the part; surface parts have no section.
Cut section(const Region& part, const CellOrder& order, const Plane& unitPlane);

// The same of some blocks of the order alone. Nodes within `slack` metres of the plane lie in it.
Cut sectionOfBlocks(const Region& part, const CellOrder& order, std::span<const std::uint32_t> blocks,
                    const Plane& unitPlane, double slack);

// The surface on which a nodal field has the value, linear along edges. `ranges` are those of the same field.
// Cells with NaN at a corner are left out.
Cut levelSurface(const Region& part, const CellOrder& order, std::span<const BlockRange> ranges, RealView nodeValues,
                 double value);

// Values of a stored field of one component on a cut: per vertex for node fields, per polygon for cell fields.
std::vector<double> valuesOn(const Cut& cut, const StoredArray& field);

struct CutSums {
    double area = 0;     // m2
    double integral = 0; // of the values over the area; NaN as soon as one value is
};
// `values` per vertex or per polygon. Exact for values linear on each polygon.
CutSums sumsOn(const Cut& cut, std::span<const double> values);

} // namespace pyro
