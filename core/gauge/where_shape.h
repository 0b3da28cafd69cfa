// The geometry that a gauge's `where` describes, read from its JSON.
#pragma once

#include "core/field/cut.h"
#include "core/gauge/gauge.h"

#include <variant>

namespace pyro {

struct PointShape {
    Point at{};
};
struct LineShape { // straight or through several places
    std::vector<Point> through;
    std::size_t points = 200;
};
struct TraceShape { // where a plane meets boundaries: a line on a wall
    Plane plane;
    std::size_t points = 200;
};
struct PlaneShape {
    Plane plane; // normal of length 1
};
struct InterfaceShape {
    std::array<std::string, 2> parts;
};
struct IsothermShape {
    double kelvin = 0;
};
struct SurfaceShape {
    std::string file;
    double metresPerUnit = 1;
    std::string solid; // empty: all
};
struct RegionShape {}; // parts, boundaries or everything, by `WhereShape::parts` and `boundaries`

struct WhereShape {
    std::variant<RegionShape, PointShape, LineShape, TraceShape, PlaneShape, InterfaceShape, IsothermShape,
                 SurfaceShape>
        shape;
    std::vector<std::string> parts;      // limit a plane or isotherm to these; empty: all
    std::vector<std::string> boundaries; // the wall that a point or line lies on
    bool everything = false;             // "all"
};

// Errors: WrongType, WrongUnit, Syntax with the key that is wrong.
Result<WhereShape> shapeOf(const Where& where);

// "12 mm" or a number in metres. Errors: WrongUnit, Syntax, WrongType.
Result<double> lengthOf(const Json& json);
// Three lengths.
Result<Point> placeOfJson(const Json& json, const std::string& key);

// `where` objects of the shapes that are picked in the window; metres.
Json pointWhere(const Point& at);
Json lineWhere(const Point& from, const Point& to, std::size_t points = 200);
Json planeWhere(const Plane& plane, const std::vector<std::string>& parts);

} // namespace pyro
