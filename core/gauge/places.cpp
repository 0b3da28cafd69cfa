#include "core/gauge/places.h"

#include "core/field/boundary_nodes.h"
#include "core/field/face_lookup.h"
#include "core/field/face_measure.h"
#include "core/field/face_side.h"
#include "core/field/interface_faces.h"
#include "core/field/polygon_fan.h"
#include "core/gauge/facet_rule.h"

#include <fmt/format.h>
#include <map>

namespace pyro {
namespace {

void addCut(std::uint32_t part, const Cut& cut, const Point& normal, SurfacePlaces& out) {
    PolygonFan fan;
    FacetRule rule;
    std::size_t first = 0;
    const bool given = dot(normal, normal) > 0;
    for (std::size_t polygon = 0; polygon < cut.polygons(); ++polygon) {
        const std::size_t corners = cut.corners[polygon];
        const auto at = [&](std::size_t i) { return cut.points[first + i]; };
        const auto addShare = [&](Places& to, std::size_t i, double by) {
            const auto& vertex = cut.vertices[first + i];
            to.addShare(vertex.a, by * (1 - vertex.share));
            to.addShare(vertex.b, by * vertex.share);
        };
        fan.measure(corners, at);
        for (std::size_t i = 0; i < corners; ++i) {
            out.nodes.at.push_back(at(i));
            out.nodes.weight.push_back(fan.share[i]);
            out.nodes.part.push_back(part);
            out.nodes.cell.push_back(cut.cell[polygon]);
            addShare(out.nodes, i, 1);
            out.nodes.closePlace();
        }
        const auto along = given ? normal : fan.normal();
        for (const auto& point : rule.of(corners, at)) {
            out.facets.at.push_back(point.place(at));
            out.facets.weight.push_back(point.area);
            out.facets.normal.push_back(along);
            out.facets.part.push_back(part);
            out.facets.cell.push_back(cut.cell[polygon]);
            for (std::size_t i = 0; i < corners; ++i)
                if (point.share[i] != 0)
                    addShare(out.facets, i, point.share[i]);
            out.facets.closePlace();
        }
        first += corners;
    }
}

// Outer faces of one part; `along`: their common normal, zero: away from their cells.
InterfacePlaces placesOfFaces(const Case& solved, const ShellView& shell, std::uint32_t part,
                              std::vector<std::uint32_t> faces, const Point& along) {
    SurfacePlaces out;
    const auto& mesh = solved.parts[part].mesh;
    std::map<std::uint32_t, double> nodeArea;
    FaceMeasure measure(mesh);
    for (const auto face : faces) {
        const auto nodes = shell.face(face);
        const auto& fan = measure.of(shell.cell[face], nodes);
        out.facets.at.push_back(fan.centre);
        out.facets.weight.push_back(fan.size);
        out.facets.normal.push_back(dot(along, along) > 0 ? along
                                                          : outOfCell(fan.normal(), mesh, shell.cell[face], nodes));
        out.facets.part.push_back(part);
        out.facets.cell.push_back(shell.cell[face]);
        measure.forShares([&](std::uint32_t node, double share) {
            out.facets.addShare(node, share);
            nodeArea[node] += share * fan.size;
        });
        out.facets.closePlace();
    }
    for (const auto& [node, area] : nodeArea) {
        out.nodes.at.push_back(mesh.node(node));
        out.nodes.weight.push_back(area);
        out.nodes.part.push_back(part);
        out.nodes.cell.push_back(noNumber);
        out.nodes.addShare(node, 1);
        out.nodes.closePlace();
    }
    return {std::move(out), std::move(faces)};
}

} // namespace

std::span<const std::uint32_t> cornersOf(const Mesh& mesh, std::size_t face) {
    const auto* shape = cellShape(mesh.type(face));
    const auto nodes = mesh.cell(face);
    return shape != nullptr && shape->corners > 0 ? nodes.first(static_cast<std::size_t>(shape->corners)) : nodes;
}

Point outwards(const PolygonFan& face, const Point& inside) {
    const auto normal = face.normal();
    return dot(normal, minus(face.centre, inside)) < 0 ? Point{-normal[0], -normal[1], -normal[2]} : normal;
}

void append(Places& to, const Places& more) {
    const auto add = [](auto& list, const auto& with) { list.insert(list.end(), with.begin(), with.end()); };
    const auto before = static_cast<std::uint32_t>(to.node.size());
    add(to.at, more.at);
    add(to.weight, more.weight);
    add(to.normal, more.normal);
    add(to.part, more.part);
    add(to.cell, more.cell);
    add(to.node, more.node);
    add(to.share, more.share);
    for (std::size_t i = 1; i < more.begin.size(); ++i)
        to.begin.push_back(before + more.begin[i]);
}

SurfacePlaces placesOfCuts(std::span<const std::pair<std::uint32_t, Cut>> cuts, const Point& normal) {
    SurfacePlaces out;
    for (const auto& [part, cut] : cuts)
        addCut(part, cut, normal, out);
    return out;
}

Places placesOfBoundary(const Case& solved, const CaseIndex& index, std::size_t boundary) {
    Places out;
    const auto& mesh = solved.boundaries[boundary].mesh;
    const auto& behind = index.boundaries[boundary];
    PolygonFan fan;
    for (std::size_t face = 0; face < mesh.cells(); ++face) {
        const auto nodes = cornersOf(mesh, face);
        fan.measure(nodes.size(), [&](std::size_t i) { return mesh.node(nodes[i]); });
        out.at.push_back(fan.centre);
        out.weight.push_back(behind.cellMeasure[face]);
        out.normal.push_back({behind.normal[3 * face], behind.normal[3 * face + 1], behind.normal[3 * face + 2]});
        const bool whole = behind.part[face] != noNumber;
        out.part.push_back(behind.part[face]);
        out.cell.push_back(behind.cell[face]);
        for (std::size_t i = 0; whole && i < nodes.size(); ++i)
            out.addShare(nodeBehind(solved, solved.boundaries[boundary], behind, face, nodes[i]), fan.shareOf(i));
        out.closePlace();
    }
    return out;
}

Places placesOfSurfacePart(const Case& solved, std::uint32_t part) {
    Places out;
    const auto& mesh = solved.parts[part].mesh;
    PolygonFan fan;
    for (std::uint32_t cell = 0; cell < mesh.cells(); ++cell) {
        const auto nodes = cornersOf(mesh, cell);
        fan.measure(nodes.size(), [&](std::size_t i) { return mesh.node(nodes[i]); });
        out.at.push_back(fan.centre);
        out.weight.push_back(fan.size);
        out.normal.push_back(fan.normal());
        out.part.push_back(part);
        out.cell.push_back(cell);
        for (std::size_t i = 0; i < nodes.size(); ++i)
            out.addShare(nodes[i], fan.shareOf(i));
        out.closePlace();
    }
    return out;
}

Result<InterfacePlaces> placesOfInterface(const Case& solved, const CaseIndex& index, std::uint32_t first,
                                          std::uint32_t second) {
    const auto& shells = index.shells->parts;
    auto faces = touchingFaces(solved, shells, first, second);
    if (faces.empty())
        return fail(ErrorCode::NameUnknown,
                    fmt::format("\"{}\" and \"{}\" have no face in common", solved.parts[first].name,
                                solved.parts[second].name),
                    {}, "They may lie apart, or their meshes do not match where they touch");
    return placesOfFaces(solved, shells[first], first, std::move(faces), {});
}

std::optional<InterfacePlaces> placesOfWall(const Case& solved, const CaseIndex& index,
                                            std::span<const std::uint32_t> parts, const Plane& plane) {
    std::optional<std::uint32_t> only;
    std::vector<std::uint32_t> faces;
    for (const auto part : parts) {
        const auto& box = index.parts[part].box;
        const auto& mesh = solved.parts[part].mesh;
        if (solved.parts[part].dimension != 3 || mesh.cells() == 0)
            continue;
        double low = 0; // of the box above the plane
        double high = 0;
        for (std::size_t axis = 0; axis < 3; ++axis) {
            const double n = plane.normal[axis];
            low += n * ((n > 0 ? box[2 * axis] : box[2 * axis + 1]) - plane.origin[axis]);
            high += n * ((n > 0 ? box[2 * axis + 1] : box[2 * axis]) - plane.origin[axis]);
        }
        const double slack = 1e-6 * std::cbrt(index.parts[part].size / static_cast<double>(mesh.cells()));
        if (low > slack || high < -slack)
            continue;
        const bool beside = low > -slack || high < slack; // all of the part lies on one side
        if (!beside || only)
            return std::nullopt;
        const auto& shell = index.shells->parts[part];
        for (std::uint32_t face = 0; face < shell.faces(); ++face)
            if (std::ranges::all_of(shell.face(face),
                                    [&](auto node) { return std::abs(distanceTo(plane, mesh.node(node))) <= slack; }))
                faces.push_back(face);
        if (!faces.empty())
            only = part;
    }
    if (!only)
        return std::nullopt;
    return placesOfFaces(solved, index.shells->parts[*only], *only, std::move(faces), plane.normal);
}

Places placesOfPoints(const Case& solved, const CaseIndex& index, std::span<const Point> points,
                      std::span<const std::uint32_t> parts) {
    Places out;
    std::size_t last = 0; // neighbours mostly lie in the same part
    for (const auto& point : points) {
        std::optional<CellPlace> found;
        for (std::size_t i = 0; i < parts.size() && !found; ++i) {
            const auto at = (last + i) % parts.size();
            const auto& box = index.parts[parts[at]].box;
            const double hair = 1e-6 * std::max({box[1] - box[0], box[3] - box[2], box[5] - box[4]});
            bool near = true;
            for (std::size_t axis = 0; axis < 3; ++axis)
                near = near && point[axis] >= box[2 * axis] - hair && point[axis] <= box[2 * axis + 1] + hair;
            if (!near || solved.parts[parts[at]].dimension != 3)
                continue;
            found = index.search->locator(parts[at]).find(point);
            if (found)
                last = at;
        }
        out.at.push_back(point);
        out.weight.push_back(0);
        out.part.push_back(found ? parts[last] : noNumber);
        out.cell.push_back(found ? found->cell : noNumber);
        if (found) {
            const auto ids = solved.parts[parts[last]].mesh.cell(found->cell);
            for (std::size_t i = 0; i < found->nodes; ++i)
                out.addShare(ids[i], found->weight[i]);
        }
        out.closePlace();
    }
    return out;
}

} // namespace pyro
