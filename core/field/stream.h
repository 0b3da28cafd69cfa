// Lines that follow a vector field through all parts of a case: streamlines of a velocity, paths of the heat.
#pragma once

#include "core/field/locate.h"

#include <memory>

namespace pyro {

// A vector field at any place: nodal values interpolated; cell values averaged to the nodes of their part first.
class VectorField {
public:
    // Parts without an array of that name and three components have no field. `orders`: one per part.
    VectorField(const Case& solved, std::span<const CellOrder> orders, std::string_view array, Location on);
    // Down the gradient of a nodal field: the way the heat takes where the conductivity is the same in all directions.
    static VectorField downhill(const Case& solved, std::span<const CellOrder> orders, std::string_view nodalArray);

    struct Here {
        Point vector;
        std::size_t part;
        CellPlace place;
    };
    // Nothing outside of the parts that have the field.
    std::optional<Here> at(const Point& place) const;
    double cellSize(const Here& here) const; // m: cube root of the cell's box

private:
    friend class StreamWalker;
    explicit VectorField(const Case& solved);
    // The cell of a part that holds the place.
    std::optional<CellPlace> in(std::size_t part, const Point& place) const;

    const Case& m_case;
    std::vector<std::unique_ptr<PointLocator>> m_locators; // null for parts without the field
    std::vector<std::vector<double>> m_made;               // nodal vectors that are not stored, per part
    std::vector<RealView> m_nodal;
};

struct StreamRule {
    double step = 0.3;  // of the local cell's size
    double longest = 1; // m, of each direction
    std::size_t mostPoints = 5000;
    bool forwards = true;
    bool backwards = true;
};

struct StreamPoint {
    Point at;
    std::size_t part;
    CellPlace place;
    Point vector; // of the field there
};

// From the far end behind the seed to the far end before it, by the classical Runge-Kutta method of fourth order along
// the arc length (Kutta 1901). Empty when the seed lies outside or the field is zero there. A line ends where it
// leaves the parts, where the field vanishes, or at the longest length.
std::vector<StreamPoint> traceStream(const VectorField& field, const Point& seed, const StreamRule& rule);

} // namespace pyro
