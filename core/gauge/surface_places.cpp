#include "core/gauge/surface_places.h"

#include <algorithm>
#include <cmath>
#include <tbb/parallel_for.h>

namespace pyro {
namespace {

constexpr double covered = 1 - 1e-9;    // of a triangle: no other side is looked at
constexpr double slackOfCell = 1e-6;    // nodes so near to a triangle's plane lie in it
constexpr double slackOfFloat = 2.4e-7; // files of surfaces hold their coordinates as float

struct Corner {
    Point at;
    CellWeights weight{};
};
using Polygon = std::vector<Corner>;

Point between(const Point& a, const Point& b, double share) {
    return {a[0] + share * (b[0] - a[0]), a[1] + share * (b[1] - a[1]), a[2] + share * (b[2] - a[2])};
}

// What is left of a convex polygon on the side where `height` is not negative (Sutherland and Hodgman 1974).
template <class Height>
Polygon clipped(const Polygon& polygon, Height height) {
    Polygon out;
    for (std::size_t i = 0; i < polygon.size(); ++i) {
        const auto& a = polygon[i];
        const auto& b = polygon[(i + 1) % polygon.size()];
        const double atA = height(a.at);
        const double atB = height(b.at);
        if (atA >= 0)
            out.push_back(a);
        if ((atA >= 0) == (atB >= 0))
            continue;
        const double share = atA / (atA - atB);
        Corner corner{between(a.at, b.at, share), {}};
        corner.weight.reset(a.weight.size());
        for (std::size_t k = 0; k < corner.weight.size(); ++k)
            corner.weight[k] = a.weight[k] + share * (b.weight[k] - a.weight[k]);
        out.push_back(corner);
    }
    return out;
}

struct PartMesh {
    std::uint32_t part;
    const Region& region;
    const CellOrder& order;
    const PointLocator& locator;
    std::array<double, 6> box;
    double slack; // m
};

// The pieces of one triangle.
class TriangleCutter {
public:
    explicit TriangleCutter(const Triangle& triangle) : m_triangle(triangle) {
        const auto twice = cross(minus(triangle[1], triangle[0]), minus(triangle[2], triangle[0]));
        const double length = std::sqrt(dot(twice, twice));
        m_area = 0.5 * length;
        if (length > 0)
            m_normal = {twice[0] / length, twice[1] / length, twice[2] / length};
    }
    double area() const { return m_area; }

    // From the side against the normal, else from the other one, if more is found there.
    SurfacePlaces cut(const std::vector<PartMesh>& meshes) {
        auto one = cutFrom(meshes, m_normal);
        const double here = m_found;
        if (here >= covered * m_area)
            return one;
        auto other = cutFrom(meshes, {-m_normal[0], -m_normal[1], -m_normal[2]});
        if (m_found > here)
            return other;
        m_found = here;
        return one;
    }
    double found() const { return std::min(m_found, m_area); } // m2 within the mesh

private:
    SurfacePlaces cutFrom(const std::vector<PartMesh>& meshes, const Point& normal) {
        m_found = 0;
        SurfacePlaces out;
        for (const auto& mesh : meshes) {
            Point low = m_triangle[0];
            Point high = m_triangle[0];
            for (const auto& corner : m_triangle)
                for (std::size_t axis = 0; axis < 3; ++axis) {
                    low[axis] = std::min(low[axis], corner[axis] - mesh.slack);
                    high[axis] = std::max(high[axis], corner[axis] + mesh.slack);
                }
            bool near = true;
            for (std::size_t axis = 0; axis < 3; ++axis)
                near = near && high[axis] >= mesh.box[2 * axis] && low[axis] <= mesh.box[2 * axis + 1];
            if (!near)
                continue;
            m_blocks.clear();
            mesh.locator.blocksWithin(low, high, m_blocks);
            const auto cut = sectionOfBlocks(mesh.region, mesh.order, m_blocks, {m_triangle[0], normal}, mesh.slack);
            addPieces(mesh, cut, out);
        }
        return out;
    }

    void addPieces(const PartMesh& mesh, const Cut& cut, SurfacePlaces& out) {
        std::size_t first = 0;
        for (std::size_t polygon = 0; polygon < cut.polygons(); ++polygon) {
            const auto cell = cut.cell[polygon];
            const auto nodes = mesh.region.mesh.cell(cell);
            Polygon piece(cut.corners[polygon]);
            for (std::size_t i = 0; i < piece.size(); ++i) {
                const auto& edge = cut.vertices[first + i];
                piece[i].at = cut.points[first + i];
                piece[i].weight.reset(nodes.size());
                for (std::size_t k = 0; k < std::min(nodes.size(), piece[i].weight.size()); ++k)
                    piece[i].weight[k] = nodes[k] == edge.a ? 1 - edge.share : nodes[k] == edge.b ? edge.share : 0;
            }
            first += cut.corners[polygon];
            for (std::size_t side = 0; side < 3 && piece.size() > 2; ++side) {
                const auto& from = m_triangle[side];
                const auto inwards = cross(m_normal, minus(m_triangle[(side + 1) % 3], from));
                piece = clipped(piece, [&](const Point& at) { return dot(inwards, minus(at, from)); });
            }
            if (piece.size() > 2)
                addPiece(mesh, cell, piece, out);
        }
    }

    void addPiece(const PartMesh& mesh, std::uint32_t cell, Polygon& piece, SurfacePlaces& out) {
        m_fan.measure(piece.size(), [&](std::size_t i) { return piece[i].at; });
        if (!(m_fan.size > 0))
            return;
        CellFrame frame(mesh.region, cell);
        const auto nodes = frame.nodes();
        for (std::size_t i = 0; i < piece.size(); ++i) {
            CellWeights exact{};
            if (frame.weightsAt(piece[i].at, exact))
                piece[i].weight = exact;
            out.nodes.at.push_back(piece[i].at);
            out.nodes.weight.push_back(m_fan.share[i]);
            out.nodes.part.push_back(mesh.part);
            out.nodes.cell.push_back(cell);
            for (std::size_t k = 0; k < nodes.size(); ++k)
                if (piece[i].weight[k] != 0)
                    out.nodes.addShare(nodes[k], piece[i].weight[k]);
            out.nodes.closePlace();
        }
        for (std::size_t i = 1; i + 1 < piece.size(); ++i)
            addFacets(mesh, cell, nodes, {&piece[0], &piece[i], &piece[i + 1]}, out.facets);
        m_found += m_fan.size;
    }

    // A facet about the middle of each side of a triangle: products of two linear fields, as in a mean by mass flow,
    // are then summed exactly (Strang and Fix 1973, the rule of degree 2).
    void addFacets(const PartMesh& mesh, std::uint32_t cell, std::span<const std::uint32_t> nodes,
                   const std::array<const Corner*, 3>& corner, Places& out) const {
        const auto twice = cross(minus(corner[1]->at, corner[0]->at), minus(corner[2]->at, corner[0]->at));
        const double third = std::sqrt(dot(twice, twice)) / 6;
        for (std::size_t side = 0; side < 3; ++side) {
            const auto& a = *corner[side];
            const auto& b = *corner[(side + 1) % 3];
            for (std::size_t k = 0; k < nodes.size(); ++k)
                if (const double share = 0.5 * (a.weight[k] + b.weight[k]); share != 0)
                    out.addShare(nodes[k], share);
            out.at.push_back(between(a.at, b.at, 0.5));
            out.weight.push_back(third);
            out.normal.push_back(m_normal);
            out.part.push_back(mesh.part);
            out.cell.push_back(cell);
            out.closePlace();
        }
    }

    Triangle m_triangle;
    Point m_normal{};
    double m_area = 0;
    double m_found = 0;
    std::vector<std::uint32_t> m_blocks;
    PolygonFan m_fan;
};

// Those whose boxes the surface meets: ordering the cells of a part is dear.
std::vector<PartMesh> meshesOf(const Case& solved, const CaseIndex& index, std::span<const Triangle> triangles,
                               std::span<const std::uint32_t> parts) {
    std::array<double, 6> around{HUGE_VAL, -HUGE_VAL, HUGE_VAL, -HUGE_VAL, HUGE_VAL, -HUGE_VAL};
    for (const auto& triangle : triangles)
        for (const auto& corner : triangle)
            for (std::size_t axis = 0; axis < 3; ++axis) {
                around[2 * axis] = std::min(around[2 * axis], corner[axis]);
                around[2 * axis + 1] = std::max(around[2 * axis + 1], corner[axis]);
            }
    std::vector<PartMesh> out;
    for (const auto part : parts) {
        const auto& region = solved.parts[part];
        if (region.dimension != 3 || region.mesh.cells() == 0)
            continue;
        const auto& box = index.parts[part].box;
        double farthest = 0;
        for (const double at : box)
            farthest = std::max(farthest, std::abs(at));
        const double cell = std::cbrt(index.parts[part].size / static_cast<double>(region.mesh.cells()));
        const double slack = slackOfCell * cell + slackOfFloat * farthest;
        bool meets = true;
        for (std::size_t axis = 0; axis < 3; ++axis)
            meets = meets && around[2 * axis + 1] + slack >= box[2 * axis] &&
                    around[2 * axis] - slack <= box[2 * axis + 1];
        if (meets)
            out.push_back({part, region, index.search->order(part), index.search->locator(part), box, slack});
    }
    return out;
}

} // namespace

DividedSurface divided(const Case& solved, const CaseIndex& index, std::span<const Triangle> triangles,
                       std::span<const std::uint32_t> parts) {
    const auto meshes = meshesOf(solved, index, triangles, parts);
    struct One {
        SurfacePlaces places;
        double area = 0;
        double inside = 0;
    };
    std::vector<One> pieces(triangles.size());
    tbb::parallel_for(std::size_t{0}, triangles.size(), [&](std::size_t i) {
        TriangleCutter cutter(triangles[i]);
        if (!(cutter.area() > 0))
            return;
        pieces[i].places = cutter.cut(meshes);
        pieces[i].area = cutter.area();
        pieces[i].inside = cutter.found();
    });
    DividedSurface out;
    for (const auto& piece : pieces) { // in the order of the triangles, whatever the number of threads
        append(out.places.nodes, piece.places.nodes);
        append(out.places.facets, piece.places.facets);
        out.area += piece.area;
        out.inside += piece.inside;
    }
    return out;
}

} // namespace pyro
