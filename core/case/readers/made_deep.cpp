#include "core/case/readers/made_deep.h"

#include "core/case/readers/curved_grid.h"
#include "core/case/readers/remedies.h"
#include "core/field/cell_lattice.h"
#include "core/field/vector_algebra.h"

#include <fmt/format.h>
#include <map>
#include <numeric>
#include <span>
#include <vtkCellArray.h>
#include <vtkCellData.h>
#include <vtkFieldData.h>
#include <vtkHigherOrderHexahedron.h>
#include <vtkHigherOrderQuadrilateral.h>
#include <vtkHigherOrderWedge.h>
#include <vtkIdList.h>
#include <vtkNew.h>
#include <vtkPointData.h>
#include <vtkPolygon.h>
#include <vtkUnsignedCharArray.h>
#include <vtkUnstructuredGrid.h>

namespace pyro {
namespace {

// How far along the depth a node lies, as a fraction in lowest terms.
struct Layer {
    int step;
    int of;
    Layer(int k, int order) : step(k / std::gcd(k, order)), of(order / std::gcd(k, order)) {}
    auto operator<=>(const Layer&) const = default;
};

Done checkCell(vtkPointSet& flat, vtkIdType cell, vtkIdList& ids, const std::string& where) {
    flat.GetCellPoints(cell, &ids);
    const int type = flat.GetCellType(cell);
    const std::span<const vtkIdType> ring(ids.GetPointer(0), static_cast<std::size_t>(ids.GetNumberOfIds()));
    // Fewest nodes, and whether it may have more.
    static const std::map<int, std::pair<std::size_t, bool>> wanted{
        {VTK_EMPTY_CELL, {0, true}},     {VTK_VERTEX, {0, true}},          {VTK_POLY_VERTEX, {0, true}},
        {VTK_LINE, {2, false}},          {VTK_POLY_LINE, {2, true}},       {VTK_TRIANGLE, {3, false}},
        {VTK_TRIANGLE_STRIP, {3, true}}, {VTK_POLYGON, {3, true}},         {VTK_PIXEL, {4, false}},
        {VTK_QUAD, {4, false}},          {VTK_QUADRATIC_EDGE, {3, false}}, {VTK_CUBIC_LINE, {4, false}},
        {VTK_LAGRANGE_CURVE, {2, true}}, {VTK_BEZIER_CURVE, {2, true}}};
    for (const auto node : ring)
        if (node < 0 || node >= flat.GetNumberOfPoints())
            return fail(
                ErrorCode::IndexOutOfRange,
                fmt::format("cell {} refers to node {}, but there are only {}", cell, node, flat.GetNumberOfPoints()),
                where, writeAgain);
    if (const auto rule = wanted.find(type); rule != wanted.end()) {
        const auto [fewest, more] = rule->second;
        if (ring.size() < fewest || (!more && ring.size() > fewest) ||
            (type == VTK_LAGRANGE_CURVE && ring.size() > CellLattice::highestOrder + 1))
            return fail(ErrorCode::LengthMismatch,
                        fmt::format("cell {} of type {} has {} nodes", cell, type, ring.size()), where, writeAgain);
    } else if (CellLattice::of(static_cast<CellType>(type), ring.size()) == nullptr) {
        return fail(ErrorCode::NotSupported, fmt::format("cell {} has the type {}, which is not read yet", cell, type),
                    where, "Export triangles, quadrangles or polygons");
    }
    return {};
}

class Deepener {
public:
    Deepener(vtkPointSet& flat, const Deepening& how) : m_flat(flat), m_how(how) {}

    vtkSmartPointer<vtkPointSet> run() {
        for (vtkIdType node = 0; node < m_flat.GetNumberOfPoints(); ++node)
            m_nodes.push_back({node, 0});
        for (vtkIdType cell = 0; cell < m_flat.GetNumberOfCells(); ++cell) {
            m_flat.GetCellPoints(cell, m_ids);
            m_ring.assign(m_ids->GetPointer(0), m_ids->GetPointer(0) + m_ids->GetNumberOfIds());
            add(m_flat.GetCellType(cell), cell);
        }
        auto out = vtkSmartPointer<vtkUnstructuredGrid>::New();
        out->SetPoints(points());
        out->SetCells(m_types, m_cells);
        copyTuples(*m_flat.GetPointData(), *out->GetPointData(), m_nodes.size(),
                   [&](std::size_t i) { return m_nodes[i].first; });
        copyTuples(*m_flat.GetCellData(), *out->GetCellData(), m_cellOf.size(),
                   [&](std::size_t i) { return m_cellOf[i]; });
        out->GetFieldData()->ShallowCopy(m_flat.GetFieldData());
        return out;
    }

private:
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
        insert(VTK_HEXAHEDRON,
               {ring[0], ring[1], ring[2], ring[3], beyond(ring[0]), beyond(ring[1]), beyond(ring[2]), beyond(ring[3])},
               cell);
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
                    at(m_ring[static_cast<std::size_t>(i == 0       ? 0
                                                       : i == order ? 1
                                                                    : i + 1)],
                       Layer(k, order));
        insert(order == 1 ? VTK_QUAD : VTK_LAGRANGE_QUADRILATERAL, nodes, cell);
    }

    void curved(CellType type, vtkIdType cell) {
        const auto* flat = CellLattice::of(type, m_ring.size());
        const int order = flat->order();
        const bool wedge = type == CellType::CurvedTriangle;
        const std::array<int, 4> orders{
            order, order, order,
            static_cast<int>(CellLattice::nodesOf(wedge ? CellType::CurvedWedge : CellType::CurvedHexahedron, order))};
        std::vector<vtkIdType> nodes(static_cast<std::size_t>(orders[3]));
        const bool back = turnsBack(std::vector(m_ring.begin(), m_ring.begin() + (wedge ? 3 : 4)));
        for (std::size_t node = 0; node < m_ring.size(); ++node) {
            auto [i, j, none] = flat->step(node);
            if (back)
                std::swap(i, j);
            for (int k = 0; k <= order; ++k) {
                const int to = wedge ? vtkHigherOrderWedge::PointIndexFromIJK(i, j, k, orders.data())
                                     : vtkHigherOrderHexahedron::PointIndexFromIJK(i, j, k, orders.data());
                nodes[static_cast<std::size_t>(to)] = at(m_ring[node], Layer(k, order));
            }
        }
        insert(wedge ? VTK_LAGRANGE_WEDGE : VTK_LAGRANGE_HEXAHEDRON, nodes, cell);
    }

    // Whether the ring runs clockwise, seen from beyond.
    bool turnsBack(const std::vector<vtkIdType>& ring) const {
        Point sum{};
        Point across{};
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
        for (const auto node : ring) {
            const auto here = m_how.across(node);
            for (std::size_t axis = 0; axis < 3; ++axis)
                across[axis] += here[axis];
        }
        return dot(sum, across) < 0;
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
            const auto across = m_how.across(node);
            for (std::size_t axis = 0; axis < 3; ++axis)
                place[axis] += (m_how.from + share) * across[axis];
            out->InsertNextPoint(place.data());
        }
        return out;
    }

    template <class From>
    static void copyTuples(vtkDataSetAttributes& from, vtkDataSetAttributes& to, std::size_t count, From source) {
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
    const Deepening& m_how;
    std::vector<std::pair<vtkIdType, double>> m_nodes; // the file's, and how far along the depth
    std::map<Layer, std::vector<vtkIdType>> m_layers;  // numbers there, by the file's; -1: none yet
    std::vector<vtkIdType> m_cellOf;
    std::vector<vtkIdType> m_ring;
    vtkNew<vtkIdList> m_ids;
    vtkNew<vtkCellArray> m_cells;
    vtkNew<vtkUnsignedCharArray> m_types;
};

} // namespace

Result<SurfaceCells> surfaceCells(vtkPointSet& grid, const std::string& where) {
    auto flat = vtkSmartPointer<vtkPointSet>(&grid);
    if (auto* cells = vtkUnstructuredGrid::SafeDownCast(&grid); cells != nullptr && hasCurvedCells(*cells)) {
        const auto curved = onLattices(*cells, where, CurvedFaces::Whole);
        if (!curved)
            return tl::unexpected(curved.error());
        flat = curved->grid;
    }
    vtkNew<vtkIdList> ids;
    for (vtkIdType cell = 0; cell < flat->GetNumberOfCells(); ++cell)
        if (auto fits = checkCell(*flat, cell, *ids, where); !fits)
            return tl::unexpected(fits.error());
    for (const auto& [data, entries] :
         {std::pair<vtkDataSetAttributes*, vtkIdType>{flat->GetPointData(), flat->GetNumberOfPoints()},
          {flat->GetCellData(), flat->GetNumberOfCells()}})
        for (int i = 0; i < data->GetNumberOfArrays(); ++i)
            if (auto* array = data->GetAbstractArray(i); array != nullptr && array->GetNumberOfTuples() != entries)
                return fail(ErrorCode::LengthMismatch,
                            fmt::format("array \"{}\" has {} entries for {} nodes or cells",
                                        array->GetName() != nullptr ? array->GetName() : "", array->GetNumberOfTuples(),
                                        entries),
                            where, writeAgain);
    return SurfaceCells{flat};
}

vtkSmartPointer<vtkPointSet> madeDeep(const SurfaceCells& cells, const Deepening& how) {
    return Deepener(*cells.grid, how).run();
}

} // namespace pyro
