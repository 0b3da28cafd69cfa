#include "core/case/readers/curved_grid.h"

#include "core/case/mixed_bits.h"
#include "core/case/readers/cells.h"
#include "core/case/readers/remedies.h"
#include "core/field/face_measure.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <unordered_map>
#include <vtkCellArray.h>
#include <vtkCellData.h>
#include <vtkCellType.h>
#include <vtkDoubleArray.h>
#include <vtkGenericCell.h>
#include <vtkIdList.h>
#include <vtkNew.h>
#include <vtkPointData.h>
#include <vtkUnsignedCharArray.h>

namespace pyro {
namespace {

struct Kind {
    CellType lattice;
    CellType straight; // of order 1
    int order = 0;     // 0: by the number of nodes
    bool pyramid = false;
};

// Orders that hold everything the cell's own functions can be: what has nodes in the middle of faces of a triangle is
// of third order.
const Kind* kindOf(int type) {
    using enum CellType;
    static const std::map<int, Kind> kinds{
        {VTK_QUADRATIC_TRIANGLE, {CurvedTriangle, Triangle, 2}},
        {VTK_BIQUADRATIC_TRIANGLE, {CurvedTriangle, Triangle, 3}},
        {VTK_QUADRATIC_QUAD, {CurvedQuad, Quad, 2}},
        {VTK_BIQUADRATIC_QUAD, {CurvedQuad, Quad, 2}},
        {VTK_QUADRATIC_LINEAR_QUAD, {CurvedQuad, Quad, 2}},
        {VTK_QUADRATIC_TETRA, {CurvedTetrahedron, Tetrahedron, 2}},
        {VTK_QUADRATIC_HEXAHEDRON, {CurvedHexahedron, Hexahedron, 2}},
        {VTK_TRIQUADRATIC_HEXAHEDRON, {CurvedHexahedron, Hexahedron, 2}},
        {VTK_BIQUADRATIC_QUADRATIC_HEXAHEDRON, {CurvedHexahedron, Hexahedron, 2}},
        {VTK_QUADRATIC_WEDGE, {CurvedWedge, Wedge, 2}},
        {VTK_QUADRATIC_LINEAR_WEDGE, {CurvedWedge, Wedge, 2}},
        {VTK_BIQUADRATIC_QUADRATIC_WEDGE, {CurvedWedge, Wedge, 2}},
        {VTK_QUADRATIC_PYRAMID, {Pyramid, Pyramid, 2, true}},
        {VTK_LAGRANGE_TRIANGLE, {CurvedTriangle, Triangle}},
        {VTK_LAGRANGE_QUADRILATERAL, {CurvedQuad, Quad}},
        {VTK_LAGRANGE_TETRAHEDRON, {CurvedTetrahedron, Tetrahedron}},
        {VTK_LAGRANGE_HEXAHEDRON, {CurvedHexahedron, Hexahedron}},
        {VTK_LAGRANGE_WEDGE, {CurvedWedge, Wedge}},
        {VTK_BEZIER_TRIANGLE, {CurvedTriangle, Triangle}},
        {VTK_BEZIER_QUADRILATERAL, {CurvedQuad, Quad}},
        {VTK_BEZIER_TETRAHEDRON, {CurvedTetrahedron, Tetrahedron}},
        {VTK_BEZIER_HEXAHEDRON, {CurvedHexahedron, Hexahedron}},
        {VTK_BEZIER_WEDGE, {CurvedWedge, Wedge}},
    };
    const auto found = kinds.find(type);
    return found == kinds.end() ? nullptr : &found->second;
}

// A node of the new grid as a sum over nodes of the file.
struct Recipe {
    std::vector<std::pair<vtkIdType, double>> terms;
};

constexpr double nothing = 1e-11; // of a weight

class Lattices {
public:
    Lattices(vtkUnstructuredGrid& grid, std::string where, CurvedFaces faces)
        : m_grid(grid), m_where(std::move(where)), m_faces(faces),
          m_newOf(static_cast<std::size_t>(grid.GetNumberOfPoints()), -1) {
        m_degrees = grid.GetCellData()->GetHigherOrderDegrees();
        m_rational = grid.GetPointData()->GetRationalWeights() != nullptr;
    }

    Result<CurvedGrid> run() {
        if (m_grid.GetFaces() != nullptr)
            return fail(ErrorCode::NotSupported, "polyhedra and curved cells lie in one grid", m_where,
                        "Export them as parts of their own");
        for (vtkIdType cell = 0; cell < m_grid.GetNumberOfCells(); ++cell)
            if (auto added = add(cell); !added)
                return tl::unexpected(added.error());
        m_out.grid = vtkSmartPointer<vtkUnstructuredGrid>::New();
        m_out.grid->SetPoints(points());
        m_out.grid->SetCells(m_types, m_cells);
        m_out.grid->GetFieldData()->ShallowCopy(m_grid.GetFieldData());
        nodeArrays();
        cellArrays();
        if (!m_solid && !m_surfaces.empty())
            measureSurfaces();
        return std::move(m_out);
    }

private:
    Done stop(ErrorCode code, const std::string& what) const {
        return fail(code, what, m_where,
                    code == ErrorCode::NotSupported ? "Export cells of order 1 to 10" : writeAgain);
    }

    // Nodes of the file that the cell has.
    Done takeNodes(vtkIdType cell) {
        m_grid.GetCellPoints(cell, m_ids);
        for (vtkIdType i = 0; i < m_ids->GetNumberOfIds(); ++i)
            if (m_ids->GetId(i) < 0 || m_ids->GetId(i) >= m_grid.GetNumberOfPoints())
                return stop(ErrorCode::IndexOutOfRange, fmt::format("cell {} refers to node {}, but there are only {}",
                                                                    cell, m_ids->GetId(i), m_grid.GetNumberOfPoints()));
        return {};
    }

    Done add(vtkIdType cell) {
        if (auto taken = takeNodes(cell); !taken)
            return taken;
        const int type = m_grid.GetCellType(cell);
        const auto* kind = kindOf(type);
        if (kind == nullptr) {
            m_row.clear();
            for (vtkIdType i = 0; i < m_ids->GetNumberOfIds(); ++i)
                m_row.push_back(nodeOfFile(m_ids->GetId(i)));
            insert(type, m_row, cell);
            return {};
        }
        const auto order = orderOf(*kind, type, cell);
        if (!order)
            return tl::unexpected(order.error());
        if (kind->pyramid)
            return addPyramid(cell);
        if (*order == 1) {
            m_row.clear();
            const auto corners = cellShape(kind->straight)->corners;
            for (vtkIdType i = 0; i < std::min<vtkIdType>(corners, m_ids->GetNumberOfIds()); ++i)
                m_row.push_back(nodeOfFile(m_ids->GetId(i)));
            insert(static_cast<int>(kind->straight), m_row, cell);
            return {};
        }
        const auto* lattice = CellLattice::of(kind->lattice, CellLattice::nodesOf(kind->lattice, *order));
        std::vector<LocalPoint> places;
        std::vector<bool> inside; // no other cell has the node
        for (std::size_t node = 0; node < lattice->nodes(); ++node) {
            places.push_back(lattice->place(node));
            inside.push_back(lattice->dimension() == 3 && lattice->holds(places.back(), -0.5 / *order));
        }
        evaluate(cell, type, places, inside);
        if (lattice->dimension() == 3 || m_faces == CurvedFaces::Whole) {
            insert(static_cast<int>(kind->lattice), m_row, cell);
            return {};
        }
        m_surfaces.push_back({lattice, m_row, m_types->GetNumberOfValues()});
        for (const auto& piece : lattice->pieces()) {
            std::vector<vtkIdType> nodes;
            for (std::size_t i = 0; i < piece.count; ++i)
                nodes.push_back(m_surfaces.back().nodes[piece.node[i]]);
            insert(static_cast<int>(piece.type), nodes, cell);
        }
        return {};
    }

    Result<int> orderOf(const Kind& kind, int type, vtkIdType cell) const {
        const auto nodes = static_cast<std::size_t>(m_ids->GetNumberOfIds());
        const auto refuse = [&] {
            return fail(
                ErrorCode::NotSupported,
                fmt::format("cell {} of type {} has {} nodes, which is no order from 1 to 10", cell, type, nodes),
                m_where, "Export cells of order 1 to 10");
        };
        if (kind.order > 0) {
            static const std::map<int, std::size_t> wanted{{VTK_QUADRATIC_TRIANGLE, 6},
                                                           {VTK_BIQUADRATIC_TRIANGLE, 7},
                                                           {VTK_QUADRATIC_QUAD, 8},
                                                           {VTK_BIQUADRATIC_QUAD, 9},
                                                           {VTK_QUADRATIC_LINEAR_QUAD, 6},
                                                           {VTK_QUADRATIC_TETRA, 10},
                                                           {VTK_QUADRATIC_HEXAHEDRON, 20},
                                                           {VTK_TRIQUADRATIC_HEXAHEDRON, 27},
                                                           {VTK_BIQUADRATIC_QUADRATIC_HEXAHEDRON, 24},
                                                           {VTK_QUADRATIC_WEDGE, 15},
                                                           {VTK_QUADRATIC_LINEAR_WEDGE, 12},
                                                           {VTK_BIQUADRATIC_QUADRATIC_WEDGE, 18},
                                                           {VTK_QUADRATIC_PYRAMID, 13}};
            if (wanted.at(type) != nodes)
                return fail(ErrorCode::LengthMismatch,
                            fmt::format("cell {} of type {} has {} nodes", cell, type, nodes), m_where, writeAgain);
            return kind.order;
        }
        if (m_degrees != nullptr &&
            (kind.lattice == CellType::CurvedQuad || kind.lattice == CellType::CurvedHexahedron ||
             kind.lattice == CellType::CurvedWedge)) {
            double most = 0;
            double product = 1;
            const int directions = kind.lattice == CellType::CurvedQuad ? 2 : 3;
            for (int i = 0; i < std::min(directions, m_degrees->GetNumberOfComponents()); ++i) {
                const double degree = m_degrees->GetComponent(cell, i);
                if (!(degree >= 1 && degree <= CellLattice::highestOrder))
                    return refuse();
                most = std::max(most, degree);
                product *= degree + 1;
            }
            if (kind.lattice != CellType::CurvedWedge && product != static_cast<double>(nodes))
                return refuse();
            return static_cast<int>(most);
        }
        // With nodes in the middle of triangles and tetrahedra: 7, 15 and 21 nodes.
        if (kind.lattice == CellType::CurvedTriangle && nodes == 7)
            return 3;
        if (kind.lattice == CellType::CurvedTetrahedron && nodes == 15)
            return 4;
        if (kind.lattice == CellType::CurvedWedge && nodes == 21)
            return 3;
        for (int order = 1; order <= CellLattice::highestOrder; ++order)
            if (CellLattice::nodesOf(kind.lattice, order) == nodes)
                return order;
        return refuse();
    }

    // Four pyramids at the corners of the base, one at the apex, one upside down between them, and a tetrahedron beside
    // each side.
    Done addPyramid(vtkIdType cell) {
        const std::vector<LocalPoint> places{{0, 0, 0},   {1, 0, 0},   {1, 1, 0},   {0, 1, 0},    {0, 0, 1},
                                             {0.5, 0, 0}, {1, 0.5, 0}, {0.5, 1, 0}, {0, 0.5, 0},  {0, 0, 0.5},
                                             {1, 0, 0.5}, {1, 1, 0.5}, {0, 1, 0.5}, {0.5, 0.5, 0}};
        evaluate(cell, VTK_QUADRATIC_PYRAMID, places, {});
        // the apex of a pyramid has no place of its own in the library's coordinates
        for (std::size_t i = 0; i < 13; ++i)
            m_row[i] = nodeOfFile(m_ids->GetId(static_cast<vtkIdType>(i)));
        const auto nodes = m_row;
        const auto put = [&](int type, std::initializer_list<std::size_t> which) {
            std::vector<vtkIdType> row;
            for (const auto one : which)
                row.push_back(nodes[one]);
            insert(type, row, cell);
        };
        for (std::size_t i = 0; i < 4; ++i) {
            const auto before = (i + 3) % 4;
            put(VTK_PYRAMID, {i, 5 + i, 13, 5 + before, 9 + i});
            put(VTK_TETRA, {5 + i, 9 + (i + 1) % 4, 9 + i, 13});
        }
        put(VTK_PYRAMID, {9, 10, 11, 12, 4});
        put(VTK_PYRAMID, {12, 11, 10, 9, 13});
        ++m_out.straightened;
        return {};
    }

    // m_row: a node for each place within the cell.
    void evaluate(vtkIdType cell, int type, const std::vector<LocalPoint>& places, const std::vector<bool>& inside) {
        const auto count = static_cast<std::size_t>(m_ids->GetNumberOfIds());
        std::vector<double> own;
        std::vector<double>* weights = &own;
        if (m_degrees == nullptr && !m_rational)
            weights = &m_weights[{type, count}];
        if (weights->empty()) {
            m_grid.GetCell(cell, m_cell);
            weights->resize(places.size() * count);
            for (std::size_t i = 0; i < places.size(); ++i)
                m_cell->InterpolateFunctions(places[i].data(), weights->data() + i * count);
        }
        m_row.clear();
        for (std::size_t i = 0; i < places.size(); ++i)
            m_row.push_back(nodeOf(std::span(*weights).subspan(i * count, count), !inside.empty() && inside[i]));
    }

    vtkIdType nodeOf(std::span<const double> weight, bool inside) {
        Recipe recipe;
        for (std::size_t i = 0; i < weight.size(); ++i)
            if (std::abs(weight[i]) > nothing)
                recipe.terms.emplace_back(m_ids->GetId(static_cast<vtkIdType>(i)), weight[i]);
        if (recipe.terms.size() == 1 && std::abs(recipe.terms[0].second - 1) < 1e-9)
            return nodeOfFile(recipe.terms[0].first);
        const auto made = static_cast<vtkIdType>(m_recipes.size());
        if (!inside) { // cells with the same nodes there, with the same weights, share it
            std::uint64_t key = 0;
            std::uint64_t check = 0;
            for (const auto& [id, by] : recipe.terms) {
                const auto bits = mixedBits(static_cast<std::uint64_t>(id) * 0x9E3779B97F4A7C15ULL +
                                            static_cast<std::uint64_t>(std::llround(by * 1e7)));
                key += bits;
                check += mixedBits(bits);
            }
            const auto [known, isNew] = m_shared.try_emplace(key ^ (check << 1U), made);
            if (!isNew)
                return known->second;
        }
        m_recipes.push_back(std::move(recipe));
        return made;
    }

    vtkIdType nodeOfFile(vtkIdType id) {
        auto& at = m_newOf[static_cast<std::size_t>(id)];
        if (at < 0) {
            at = static_cast<vtkIdType>(m_recipes.size());
            m_recipes.push_back({{{id, 1.0}}});
        }
        return at;
    }

    void insert(int type, const std::vector<vtkIdType>& nodes, vtkIdType cell) {
        m_cells->InsertNextCell(static_cast<vtkIdType>(nodes.size()), nodes.data());
        m_types->InsertNextValue(static_cast<unsigned char>(type));
        m_cellOf.push_back(cell);
        if (const auto* shape = cellShape(static_cast<CellType>(type)))
            m_solid = m_solid || shape->dimension == 3;
    }

    vtkSmartPointer<vtkDoubleArray> summed(vtkDataArray& from) const {
        auto out = vtkSmartPointer<vtkDoubleArray>::New();
        out->SetName(from.GetName());
        const int width = from.GetNumberOfComponents();
        out->SetNumberOfComponents(width);
        out->SetNumberOfTuples(static_cast<vtkIdType>(m_recipes.size()));
        for (std::size_t i = 0; i < m_recipes.size(); ++i)
            for (int c = 0; c < width; ++c) {
                double sum = 0;
                for (const auto& [id, weight] : m_recipes[i].terms)
                    sum += weight * from.GetComponent(id, c);
                out->SetComponent(static_cast<vtkIdType>(i), c, sum);
            }
        return out;
    }

    vtkSmartPointer<vtkPoints> points() const {
        auto out = vtkSmartPointer<vtkPoints>::New();
        out->SetData(summed(*m_grid.GetPoints()->GetData()));
        return out;
    }

    void nodeArrays() {
        auto* data = m_grid.GetPointData();
        for (int i = 0; i < data->GetNumberOfArrays(); ++i)
            if (auto* array = data->GetArray(i); array != nullptr && array->GetName() != nullptr &&
                                                 array != data->GetRationalWeights() &&
                                                 array->GetNumberOfTuples() == m_grid.GetNumberOfPoints())
                m_out.grid->GetPointData()->AddArray(summed(*array));
    }

    void cellArrays() {
        auto* data = m_grid.GetCellData();
        for (int i = 0; i < data->GetNumberOfArrays(); ++i) {
            auto* array = data->GetArray(i);
            if (array == nullptr || array->GetName() == nullptr || array == m_degrees ||
                array->GetNumberOfTuples() != m_grid.GetNumberOfCells())
                continue;
            vtkSmartPointer<vtkDataArray> out;
            out.TakeReference(array->NewInstance());
            out->SetName(array->GetName());
            out->SetNumberOfComponents(array->GetNumberOfComponents());
            out->SetNumberOfTuples(static_cast<vtkIdType>(m_cellOf.size()));
            for (std::size_t cell = 0; cell < m_cellOf.size(); ++cell)
                out->SetTuple(static_cast<vtkIdType>(cell), m_cellOf[cell], array);
            m_out.grid->GetCellData()->AddArray(out);
        }
    }

    // Of the pieces of curved faces by the shape functions of the face, of straight ones by fans.
    void measureSurfaces() {
        m_out.extent.assign(m_cellOf.size(), 0.0);
        m_out.parent.assign(m_cellOf.begin(), m_cellOf.end());
        m_out.share.assign(m_recipes.size(), 0.0);
        PolygonFan fan;
        std::vector<double> ofNode;
        std::vector<bool> done(m_cellOf.size(), false);
        const auto at = [&](vtkIdType node) {
            Point point{};
            m_out.grid->GetPoint(node, point.data());
            return point;
        };
        for (const auto& surface : m_surfaces) {
            std::vector<Point> nodes;
            for (const auto node : surface.nodes)
                nodes.push_back(at(node));
            auto cell = static_cast<std::size_t>(surface.firstCell);
            for (const auto& piece : surface.lattice->pieces()) {
                measurePiece(*surface.lattice, nodes, std::span(piece.node).first(piece.count), fan, ofNode);
                done[cell] = true;
                m_out.extent[cell++] = fan.size;
                for (std::size_t i = 0; i < ofNode.size(); ++i)
                    m_out.share[static_cast<std::size_t>(surface.nodes[i])] += ofNode[i];
            }
        }
        for (std::size_t cell = 0; cell < done.size(); ++cell) {
            if (done[cell])
                continue;
            m_out.grid->GetCellPoints(static_cast<vtkIdType>(cell), m_ids);
            fan.measure(static_cast<std::size_t>(m_ids->GetNumberOfIds()),
                        [&](std::size_t i) { return at(m_ids->GetId(static_cast<vtkIdType>(i))); });
            m_out.extent[cell] = fan.size;
            for (std::size_t i = 0; i < fan.share.size(); ++i)
                m_out.share[static_cast<std::size_t>(m_ids->GetId(static_cast<vtkIdType>(i)))] += fan.share[i];
        }
    }

    struct Surface {
        const CellLattice* lattice;
        std::vector<vtkIdType> nodes;
        vtkIdType firstCell; // of its pieces
    };
    vtkUnstructuredGrid& m_grid;
    std::string m_where;
    CurvedFaces m_faces;
    vtkDataArray* m_degrees = nullptr;
    bool m_rational = false;
    bool m_solid = false;
    CurvedGrid m_out;
    std::vector<Recipe> m_recipes;  // per new node
    std::vector<vtkIdType> m_newOf; // per node of the file; -1: not used
    std::unordered_map<std::uint64_t, vtkIdType> m_shared;
    std::map<std::pair<int, std::size_t>, std::vector<double>> m_weights; // by type and number of nodes
    std::vector<Surface> m_surfaces;
    std::vector<vtkIdType> m_cellOf; // per new cell its number in the file
    std::vector<vtkIdType> m_row;
    vtkNew<vtkCellArray> m_cells;
    vtkNew<vtkUnsignedCharArray> m_types;
    vtkNew<vtkIdList> m_ids;
    vtkNew<vtkGenericCell> m_cell;
};

} // namespace

bool hasCurvedCells(vtkUnstructuredGrid& grid) {
    return std::ranges::any_of(cellTypesIn(grid), [](int type) { return kindOf(type) != nullptr; });
}

Result<CurvedGrid> onLattices(vtkUnstructuredGrid& grid, const std::string& where, CurvedFaces faces) {
    return Lattices(grid, where, faces).run();
}

} // namespace pyro
