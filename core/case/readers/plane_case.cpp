#include "core/case/readers/plane_case.h"

#include "core/case/lower_case.h"
#include "core/case/readers/cells.h"
#include "core/case/readers/curved_grid.h"
#include "core/case/readers/remedies.h"
#include "core/field/cell_lattice.h"
#include "core/field/vector_algebra.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <numeric>
#include <vtkCellArray.h>
#include <vtkCellData.h>
#include <vtkFieldData.h>
#include <vtkGenericCell.h>
#include <vtkHigherOrderHexahedron.h>
#include <vtkHigherOrderQuadrilateral.h>
#include <vtkHigherOrderWedge.h>
#include <vtkIdList.h>
#include <vtkNew.h>
#include <vtkPointData.h>
#include <vtkPolyData.h>
#include <vtkPolygon.h>
#include <vtkUnsignedCharArray.h>
#include <vtkUnstructuredGrid.h>

namespace pyro {
namespace {

constexpr double flatWithin = 1e-6; // of the extent

// The nodes that cells have.
template <class Use> void forNodes(vtkPointSet& grid, Use use) {
    vtkNew<vtkIdList> ids;
    std::vector<bool> seen(static_cast<std::size_t>(grid.GetNumberOfPoints()), false);
    for (vtkIdType cell = 0; cell < grid.GetNumberOfCells(); ++cell) {
        grid.GetCellPoints(cell, ids);
        for (vtkIdType i = 0; i < ids->GetNumberOfIds(); ++i) {
            const auto id = ids->GetId(i);
            if (id < 0 || id >= grid.GetNumberOfPoints() || seen[static_cast<std::size_t>(id)])
                continue;
            seen[static_cast<std::size_t>(id)] = true;
            Point at{};
            grid.GetPoint(id, at.data());
            use(at);
        }
    }
}

double length(const Point& of) { return std::sqrt(dot(of, of)); }

template <class Distance> Point farthest(std::span<const NamedGrid> grids, Distance distance) {
    Point best{};
    double most = -1;
    for (const auto& one : grids)
        forNodes(*one.grid, [&](const Point& at) {
            if (const double here = distance(at); here > most) {
                most = here;
                best = at;
            }
        });
    return best;
}

Point alongItsAxis(Point normal) {
    const auto main = std::ranges::max_element(normal, {}, [](double one) { return std::abs(one); });
    if (std::abs(*main) > 1 - 1e-12) {
        *main = 1;
        for (auto& one : normal)
            one = &one == &*main ? 1.0 : 0.0;
        return normal;
    }
    if (*main < 0)
        for (auto& one : normal)
            one = -one;
    return normal;
}

// How far along the depth a node lies, as a fraction in lowest terms.
struct Layer {
    int step;
    int of;
    Layer(int k, int order) : step(k / std::gcd(k, order)), of(order / std::gcd(k, order)) {}
    auto operator<=>(const Layer&) const = default;
};

class Deepener {
public:
    Deepener(vtkPointSet& flat, const Point& normal, double depth, std::string where) : m_flat(flat), m_normal(normal), m_depth(depth), m_where(std::move(where)) {}

    Result<vtkSmartPointer<vtkPointSet>> run() {
        for (vtkIdType node = 0; node < m_flat.GetNumberOfPoints(); ++node)
            m_nodes.push_back({node, 0});
        for (vtkIdType cell = 0; cell < m_flat.GetNumberOfCells(); ++cell) {
            m_flat.GetCellPoints(cell, m_ids);
            m_ring.assign(m_ids->GetPointer(0), m_ids->GetPointer(0) + m_ids->GetNumberOfIds());
            const int type = m_flat.GetCellType(cell);
            if (auto fits = check(type, cell); !fits)
                return tl::unexpected(fits.error());
            add(type, cell);
        }
        auto out = vtkSmartPointer<vtkUnstructuredGrid>::New();
        out->SetPoints(points());
        out->SetCells(m_types, m_cells);
        copyTuples(*m_flat.GetPointData(), *out->GetPointData(), m_nodes.size(), [&](std::size_t i) { return m_nodes[i].first; });
        copyTuples(*m_flat.GetCellData(), *out->GetCellData(), m_cellOf.size(), [&](std::size_t i) { return m_cellOf[i]; });
        out->GetFieldData()->ShallowCopy(m_flat.GetFieldData());
        return vtkSmartPointer<vtkPointSet>(out);
    }

private:
    Done check(int type, vtkIdType cell) const {
        // Fewest nodes, and whether it may have more.
        static const std::map<int, std::pair<std::size_t, bool>> wanted{{VTK_EMPTY_CELL, {0, true}}, {VTK_VERTEX, {0, true}}, {VTK_POLY_VERTEX, {0, true}}, {VTK_LINE, {2, false}}, {VTK_POLY_LINE, {2, true}}, {VTK_TRIANGLE, {3, false}}, {VTK_TRIANGLE_STRIP, {3, true}}, {VTK_POLYGON, {3, true}}, {VTK_PIXEL, {4, false}}, {VTK_QUAD, {4, false}}, {VTK_QUADRATIC_EDGE, {3, false}}, {VTK_CUBIC_LINE, {4, false}}, {VTK_LAGRANGE_CURVE, {2, true}}, {VTK_BEZIER_CURVE, {2, true}}};
        for (const auto node : m_ring)
            if (node < 0 || node >= m_flat.GetNumberOfPoints())
                return fail(ErrorCode::IndexOutOfRange, fmt::format("cell {} refers to node {}, but there are only {}", cell, node, m_flat.GetNumberOfPoints()), m_where, writeAgain);
        if (const auto rule = wanted.find(type); rule != wanted.end()) {
            const auto [fewest, more] = rule->second;
            if (m_ring.size() < fewest || (!more && m_ring.size() > fewest) || (type == VTK_LAGRANGE_CURVE && m_ring.size() > CellLattice::highestOrder + 1))
                return fail(ErrorCode::LengthMismatch, fmt::format("cell {} of type {} has {} nodes", cell, type, m_ring.size()), m_where, writeAgain);
        } else if (CellLattice::of(static_cast<CellType>(type), m_ring.size()) == nullptr) {
            return fail(ErrorCode::NotSupported, fmt::format("cell {} has the type {}, which is not read yet", cell, type), m_where, "Export triangles, quadrangles or polygons");
        }
        return {};
    }

    void add(int type, vtkIdType cell) {
        switch (type) {
        case VTK_EMPTY_CELL:
        case VTK_VERTEX:
        case VTK_POLY_VERTEX:
            return;
        case VTK_PIXEL:
            std::swap(m_ring[2], m_ring[3]);
            return quad(m_ring, cell);
        case VTK_TRIANGLE_STRIP:
            for (std::size_t i = 0; i + 3 <= m_ring.size(); ++i)
                triangle({m_ring[i], m_ring[i + 1], m_ring[i + 2]}, cell);
            return;
        case VTK_POLYGON:
            return polygon(cell);
        case VTK_TRIANGLE:
            return triangle(m_ring, cell);
        case VTK_QUAD:
            return quad(m_ring, cell);
        case VTK_LINE:
        case VTK_POLY_LINE:
            for (std::size_t i = 0; i + 2 <= m_ring.size(); ++i)
                insert(VTK_QUAD, {m_ring[i], m_ring[i + 1], beyond(m_ring[i + 1]), beyond(m_ring[i])}, cell);
            return;
        case VTK_QUADRATIC_EDGE:
        case VTK_CUBIC_LINE:
        case VTK_LAGRANGE_CURVE:
            return curvedLine(cell);
        case VTK_BEZIER_CURVE: // between its ends; the nodes between them are none of the curve
            return insert(VTK_QUAD, {m_ring[0], m_ring[1], beyond(m_ring[1]), beyond(m_ring[0])}, cell);
        default:
            curved(static_cast<CellType>(type), cell);
        }
    }

    void triangle(std::vector<vtkIdType> ring, vtkIdType cell) {
        if (turnsBack(ring))
            std::swap(ring[1], ring[2]);
        insert(VTK_WEDGE, {ring[0], ring[1], ring[2], beyond(ring[0]), beyond(ring[1]), beyond(ring[2])}, cell);
    }

    void quad(std::vector<vtkIdType> ring, vtkIdType cell) {
        if (turnsBack(ring))
            std::swap(ring[1], ring[3]);
        insert(VTK_HEXAHEDRON, {ring[0], ring[1], ring[2], ring[3], beyond(ring[0]), beyond(ring[1]), beyond(ring[2]), beyond(ring[3])}, cell);
    }

    void polygon(vtkIdType cell) {
        if (m_ring.size() < 3)
            return;
        vtkNew<vtkPolygon> polygon;
        polygon->GetPointIds()->DeepCopy(m_ids);
        polygon->GetPoints()->SetDataTypeToDouble();
        for (const auto node : m_ring)
            polygon->GetPoints()->InsertNextPoint(m_flat.GetPoint(node));
        vtkNew<vtkIdList> corners;
        polygon->Triangulate(corners);
        const auto ring = m_ring;
        const auto at = [&](vtkIdType i) { return ring[static_cast<std::size_t>(corners->GetId(i))]; };
        for (vtkIdType i = 0; i + 3 <= corners->GetNumberOfIds(); i += 3)
            triangle({at(i), at(i + 1), at(i + 2)}, cell);
    }

    void curvedLine(vtkIdType cell) {
        const int order = static_cast<int>(m_ring.size()) - 1;
        const std::array<int, 2> orders{order, order};
        std::vector<vtkIdType> nodes(m_ring.size() * m_ring.size());
        for (int k = 0; k <= order; ++k)
            for (int i = 0; i <= order; ++i) // ends first, then those between
                nodes[static_cast<std::size_t>(vtkHigherOrderQuadrilateral::PointIndexFromIJK(i, k, orders.data()))] =
                    at(m_ring[static_cast<std::size_t>(i == 0 ? 0 : i == order ? 1 : i + 1)], Layer(k, order));
        insert(order == 1 ? VTK_QUAD : VTK_LAGRANGE_QUADRILATERAL, nodes, cell);
    }

    void curved(CellType type, vtkIdType cell) {
        const auto* flat = CellLattice::of(type, m_ring.size());
        const int order = flat->order();
        const bool wedge = type == CellType::CurvedTriangle;
        const std::array<int, 4> orders{order, order, order, static_cast<int>(CellLattice::nodesOf(wedge ? CellType::CurvedWedge : CellType::CurvedHexahedron, order))};
        std::vector<vtkIdType> nodes(static_cast<std::size_t>(orders[3]));
        const bool back = turnsBack(std::vector(m_ring.begin(), m_ring.begin() + (wedge ? 3 : 4)));
        for (std::size_t node = 0; node < m_ring.size(); ++node) {
            auto [i, j, none] = flat->step(node);
            if (back)
                std::swap(i, j);
            for (int k = 0; k <= order; ++k) {
                const int to = wedge ? vtkHigherOrderWedge::PointIndexFromIJK(i, j, k, orders.data()) : vtkHigherOrderHexahedron::PointIndexFromIJK(i, j, k, orders.data());
                nodes[static_cast<std::size_t>(to)] = at(m_ring[node], Layer(k, order));
            }
        }
        insert(wedge ? VTK_LAGRANGE_WEDGE : VTK_LAGRANGE_HEXAHEDRON, nodes, cell);
    }

    // Whether the ring runs clockwise seen against the normal.
    bool turnsBack(const std::vector<vtkIdType>& ring) const {
        Point sum{};
        Point first{};
        m_flat.GetPoint(ring[0], first.data());
        for (std::size_t i = 1; i + 1 < ring.size(); ++i) {
            Point a{};
            Point b{};
            m_flat.GetPoint(ring[i], a.data());
            m_flat.GetPoint(ring[i + 1], b.data());
            const auto part = cross(minus(a, first), minus(b, first));
            for (std::size_t axis = 0; axis < 3; ++axis)
                sum[axis] += part[axis];
        }
        return dot(sum, m_normal) < 0;
    }

    vtkIdType beyond(vtkIdType node) { return at(node, Layer(1, 1)); }
    vtkIdType at(vtkIdType node, Layer layer) {
        if (layer.step == 0)
            return node;
        auto& numbers = m_layers[layer];
        if (numbers.empty())
            numbers.assign(static_cast<std::size_t>(m_flat.GetNumberOfPoints()), -1);
        auto& number = numbers[static_cast<std::size_t>(node)];
        if (number < 0) {
            number = static_cast<vtkIdType>(m_nodes.size());
            m_nodes.push_back({node, static_cast<double>(layer.step) / layer.of});
        }
        return number;
    }

    void insert(int type, const std::vector<vtkIdType>& nodes, vtkIdType cell) {
        m_cells->InsertNextCell(static_cast<vtkIdType>(nodes.size()), nodes.data());
        m_types->InsertNextValue(static_cast<unsigned char>(type));
        m_cellOf.push_back(cell);
    }

    vtkSmartPointer<vtkPoints> points() const {
        auto out = vtkSmartPointer<vtkPoints>::New();
        out->SetDataTypeToDouble();
        for (const auto& [node, share] : m_nodes) {
            Point place{};
            m_flat.GetPoint(node, place.data());
            for (std::size_t axis = 0; axis < 3; ++axis)
                place[axis] += share * m_depth * m_normal[axis];
            out->InsertNextPoint(place.data());
        }
        return out;
    }

    template <class From> static void copyTuples(vtkDataSetAttributes& from, vtkDataSetAttributes& to, std::size_t count, From source) {
        for (int i = 0; i < from.GetNumberOfArrays(); ++i) {
            auto* array = from.GetArray(i);
            if (array == nullptr || array->GetName() == nullptr)
                continue;
            vtkSmartPointer<vtkDataArray> copy;
            copy.TakeReference(array->NewInstance());
            copy->SetName(array->GetName());
            copy->SetNumberOfComponents(array->GetNumberOfComponents());
            copy->SetNumberOfTuples(static_cast<vtkIdType>(count));
            for (std::size_t at = 0; at < count; ++at)
                copy->SetTuple(static_cast<vtkIdType>(at), source(at), array);
            to.AddArray(copy);
        }
    }

    vtkPointSet& m_flat;
    Point m_normal;
    double m_depth;
    std::string m_where;
    std::vector<std::pair<vtkIdType, double>> m_nodes; // the file's, and how far along the depth
    std::map<Layer, std::vector<vtkIdType>> m_layers;  // numbers there, by the file's; -1: none yet
    std::vector<vtkIdType> m_cellOf;
    std::vector<vtkIdType> m_ring;
    vtkNew<vtkIdList> m_ids;
    vtkNew<vtkCellArray> m_cells;
    vtkNew<vtkUnsignedCharArray> m_types;
};

} // namespace

int dimensionOf(vtkPointSet& grid) {
    int most = 0;
    vtkNew<vtkGenericCell> kind;
    for (const int type : cellTypesIn(grid)) {
        kind->SetCellType(type);
        most = std::max(most, kind->GetCellDimension());
    }
    return most;
}

namespace {

// A heat flux of one number stands for what passes through a surface; within a plane it has two.
bool hasFluxAcross(vtkDataSetAttributes& data) {
    for (int i = 0; i < data.GetNumberOfArrays(); ++i) {
        auto* array = data.GetArray(i);
        if (array == nullptr || array->GetName() == nullptr || array->GetNumberOfComponents() != 1)
            continue;
        std::string letters;
        for (const char c : lowerCase(array->GetName()))
            if (c >= 'a' && c <= 'z')
                letters += c;
        if (letters.starts_with("heatflux"))
            return true;
    }
    return false;
}

bool isSurface(vtkPointSet& grid) { return vtkPolyData::SafeDownCast(&grid) != nullptr || hasFluxAcross(*grid.GetPointData()) || hasFluxAcross(*grid.GetCellData()); }

} // namespace

bool mayBePlane(const NamedGrid& one) {
    return (one.boundary || !isSurface(*one.grid)) && dimensionOf(*one.grid) <= (one.boundary ? 1 : 2);
}

std::optional<Point> normalOfPlane(std::span<const NamedGrid> grids) {
    bool any = false;
    for (const auto& one : grids) {
        if (!mayBePlane(one) || (!one.boundary && dimensionOf(*one.grid) != 2))
            return std::nullopt;
        any = any || !one.boundary;
    }
    if (!any)
        return std::nullopt;
    const auto origin = farthest(grids, [](const Point&) { return 0.0; });
    const auto end = minus(farthest(grids, [&](const Point& at) { return length(minus(at, origin)); }), origin);
    const double extent = length(end);
    const auto across = [&](const Point& at) { return length(cross(end, minus(at, origin))); }; // an area
    const auto third = minus(farthest(grids, across), origin);
    auto normal = cross(end, third);
    const double area = length(normal);
    if (!(area > 1e-9 * extent * extent) || !std::isfinite(area))
        return std::nullopt; // a point or a line
    for (auto& one : normal)
        one /= area;
    const auto off = [&](const Point& at) { return std::abs(dot(normal, minus(at, origin))); };
    if (!(off(farthest(grids, off)) <= flatWithin * extent))
        return std::nullopt;
    return alongItsAxis(normal);
}

Result<vtkSmartPointer<vtkPointSet>> madeDeep(vtkPointSet& grid, const Point& normal, double depth, const std::string& where) {
    auto* cells = vtkUnstructuredGrid::SafeDownCast(&grid);
    if (cells == nullptr || !hasCurvedCells(*cells))
        return Deepener(grid, normal, depth, where).run();
    const auto curved = onLattices(*cells, where, CurvedFaces::Whole);
    if (!curved)
        return tl::unexpected(curved.error());
    return Deepener(*curved->grid, normal, depth, where).run();
}

} // namespace pyro
