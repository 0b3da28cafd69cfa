#include "core/thermal/wall_line.h"

#include "core/field/nearest_place.h"

#include <algorithm>
#include <cmath>
#include <tbb/parallel_for.h>

namespace pyro {
namespace {

// Where a place lies on a boundary: a face and the weights of three of its corners.
struct WallPlace {
    std::size_t boundary = 0; // position in the site's walls
    std::size_t face = 0;
    std::array<std::uint32_t, 3> node{}; // of the boundary
    std::array<double, 3> weight{};
    double squared = 1e300; // distance, m2
};

WallPlace nearestOn(const Case& solved, const std::vector<std::size_t>& walls, const Point& at) {
    WallPlace best;
    for (std::size_t wall = 0; wall < walls.size(); ++wall) {
        const auto& mesh = solved.boundaries[walls[wall]].mesh;
        for (std::size_t face = 0; face < mesh.cells(); ++face) {
            const auto nodes = mesh.cell(face);
            const auto* shape = cellShape(mesh.type(face));
            const auto corners = shape != nullptr && shape->corners > 0 ? static_cast<std::size_t>(shape->corners)
                                                                        : nodes.size();
            const auto origin = mesh.node(nodes[0]);
            for (std::size_t i = 1; i + 1 < corners; ++i) {
                const auto b = mesh.node(nodes[i]);
                const auto c = mesh.node(nodes[i + 1]);
                const auto weight = nearestInTriangle(at, origin, b, c);
                double squared = 0;
                for (std::size_t axis = 0; axis < 3; ++axis) {
                    const double off = weight[0] * origin[axis] + weight[1] * b[axis] + weight[2] * c[axis] - at[axis];
                    squared += off * off;
                }
                if (squared < best.squared)
                    best = {wall, face, {nodes[0], nodes[i], nodes[i + 1]}, weight, squared};
            }
        }
    }
    return best;
}

std::vector<WallPlace> nearestOn(const Site& site, const Case& solved) {
    std::vector<WallPlace> places(site.points.size());
    tbb::parallel_for(std::size_t{0}, places.size(),
                      [&](std::size_t i) { places[i] = nearestOn(solved, site.wall, site.points.at[i]); });
    return places;
}

} // namespace

Result<WallLine> wallLine(const Site& site, const CaseHeat& heat, std::optional<HeatMethod> wanted) {
    const auto& fields = heat.fields();
    const auto* temperature = fields.quantities().named("temperature");
    if (temperature == nullptr)
        return fail(ErrorCode::NameUnknown, "the case has no temperature");
    WallLine out;
    std::vector<std::vector<double>> flux;
    std::vector<RegionValues> kelvin;
    for (const auto boundary : site.wall) {
        auto one = heat.nodeFlux(boundary, wanted, out.method);
        if (!one)
            return tl::unexpected(one.error());
        flux.push_back(std::move(*one));
        auto values = valuesOn(fields.solved(), fields.index(), true, boundary, *temperature, Component::Natural);
        if (!values)
            return tl::unexpected(values.error());
        kelvin.push_back(std::move(*values));
    }
    for (const auto& place : nearestOn(site, fields.solved())) {
        double q = 0;
        double t = kelvin[place.boundary].on == Location::Cell ? kelvin[place.boundary][place.face] : 0;
        for (std::size_t i = 0; i < 3; ++i) {
            q += place.weight[i] * flux[place.boundary][place.node[i]];
            if (kelvin[place.boundary].on == Location::Node)
                t += place.weight[i] * kelvin[place.boundary][place.node[i]];
        }
        out.flux.push_back(q);
        out.kelvin.push_back(temperature->toSi(t));
    }
    return out;
}

std::vector<Point> wallNormals(const Site& site, const CaseHeat& heat) {
    std::vector<Point> normals;
    for (const auto& place : nearestOn(site, heat.fields().solved())) {
        const auto& normal = heat.fields().index().boundaries[site.wall[place.boundary]].normal;
        normals.push_back({normal[3 * place.face], normal[3 * place.face + 1], normal[3 * place.face + 2]});
    }
    return normals;
}

} // namespace pyro
