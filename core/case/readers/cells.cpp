#include "core/case/readers/cells.h"

#include "core/case/readers/plain_cell.h"

#include <algorithm>
#include <array>
#include <fmt/format.h>
#include <vtkCellType.h>
#include <vtkIdList.h>
#include <vtkNew.h>
#include <vtkStructuredGrid.h>
#include <vtkUnsignedCharArray.h>
#include <vtkUnstructuredGrid.h>

namespace pyro {
namespace {

using Ids = std::vector<std::uint32_t>;

// File types that keep their first nodes, perhaps reordered, as another stored type. Cells of higher order come here as
// lattices already.
struct Rewrite {
    int fileType;
    CellType stored;
    std::array<std::uint8_t, 8> order; // used when the stored type has up to 8 nodes
    bool simplifies;
};
constexpr std::array<std::uint8_t, 8> asIs{0, 1, 2, 3, 4, 5, 6, 7};
constexpr std::array<Rewrite, 6> rewrites{{
    {VTK_PIXEL, CellType::Quad, {0, 1, 3, 2, 0, 0, 0, 0}, false},
    {VTK_VOXEL, CellType::Hexahedron, {0, 1, 3, 2, 4, 5, 7, 6}, false},
    {VTK_QUADRATIC_EDGE, CellType::Line, asIs, true},
    {VTK_CUBIC_LINE, CellType::Line, asIs, true},
    {VTK_LAGRANGE_CURVE, CellType::Line, asIs, true},
    {VTK_BEZIER_CURVE, CellType::Line, asIs, true},
}};

void addCell(CellList& out, CellType type, const Ids& nodes, std::uint32_t fileCell) {
    out.connectivity.insert(out.connectivity.end(), nodes.begin(), nodes.end());
    out.offsets.push_back(out.connectivity.size());
    out.types.push_back(static_cast<std::uint8_t>(type));
    out.fileCell.push_back(fileCell);
    out.dimension = std::max(out.dimension, cellShape(type)->dimension);
}

std::vector<Ids> prismFaces(const Ids& nodes) {
    const auto sides = nodes.size() / 2;
    std::vector<Ids> faces{{nodes.begin(), nodes.begin() + static_cast<std::ptrdiff_t>(sides)},
                           {nodes.begin() + static_cast<std::ptrdiff_t>(sides), nodes.end()}};
    for (std::size_t i = 0; i < sides; ++i) {
        const auto next = (i + 1) % sides;
        faces.push_back({nodes[i], nodes[next], nodes[sides + next], nodes[sides + i]});
    }
    return faces;
}

class Converter {
public:
    Converter(vtkPointSet& grid, std::string where)
        : m_grid(grid), m_unstructured(vtkUnstructuredGrid::SafeDownCast(&grid)), m_where(std::move(where)) {}

    Result<CellList> run() {
        const auto plain = allPlain();
        if (!plain)
            return tl::unexpected(plain.error());
        m_plainPolyhedra = *plain;
        for (vtkIdType cell = 0; cell < m_grid.GetNumberOfCells(); ++cell)
            if (auto done = convert(cell); !done)
                return tl::unexpected(done.error());
        if (m_out.types.empty())
            return fail(ErrorCode::NoCells, "the file has only vertices", m_where, "Export the mesh as well");
        return std::move(m_out);
    }

private:
    Done convert(vtkIdType cell) {
        m_grid.GetCellPoints(cell, m_ids);
        Ids nodes;
        if (auto checked = takeNodes(*m_ids, cell, nodes); !checked)
            return checked;
        const int type = m_grid.GetCellType(cell);
        const auto number = static_cast<std::uint32_t>(cell);
        if (type == VTK_VERTEX || type == VTK_POLY_VERTEX || type == VTK_EMPTY_CELL) {
            ++m_out.leftOut;
            return {};
        }
        if (type == VTK_POLYHEDRON)
            return polyhedron(cell, number);
        if (type == VTK_PENTAGONAL_PRISM || type == VTK_HEXAGONAL_PRISM) {
            splitPolyhedron(prismFaces(nodes), number, m_out);
            return {};
        }
        if (type == VTK_TRIANGLE_STRIP || type == VTK_POLY_LINE) {
            const std::size_t each = type == VTK_TRIANGLE_STRIP ? 3 : 2;
            for (std::size_t i = 0; i + each <= nodes.size(); ++i)
                addCell(m_out, each == 3 ? CellType::Triangle : CellType::Line,
                        Ids(nodes.begin() + static_cast<std::ptrdiff_t>(i),
                            nodes.begin() + static_cast<std::ptrdiff_t>(i + each)),
                        number);
            return {};
        }
        return plain(type, nodes, number);
    }

    Done plain(int type, const Ids& nodes, std::uint32_t number) {
        if (const auto* shape = directShape(type)) {
            if (shape->nodes == 0 ? nodes.size() < 3 : nodes.size() != static_cast<std::size_t>(shape->nodes))
                return fail(ErrorCode::LengthMismatch,
                            fmt::format("cell {} of type {} has {} nodes", number, type, nodes.size()), m_where,
                            "Have the solver write the file again");
            addCell(m_out, shape->type, nodes, number);
            return {};
        }
        const auto* rule = std::ranges::find(rewrites, type, &Rewrite::fileType);
        if (rule == rewrites.end())
            return fail(ErrorCode::NotSupported,
                        fmt::format("cell {} has the type {}, which is not read yet", number, type), m_where,
                        "Export cells of order 1 to 10, or polyhedra");
        Ids kept;
        const auto wanted = static_cast<std::size_t>(cellShape(rule->stored)->nodes);
        for (std::size_t i = 0; i < wanted && i < nodes.size(); ++i)
            kept.push_back(nodes[rule->order[i]]);
        m_out.simplified += rule->simplifies ? 1 : 0;
        addCell(m_out, rule->stored, kept, number);
        return {};
    }

    Done polyhedron(vtkIdType cell, std::uint32_t number) {
        std::vector<Ids> faces;
        if (auto read = facesOf(cell, faces); !read)
            return read;
        if (const auto plain = m_plainPolyhedra ? plainCell(faces) : std::nullopt)
            addCell(m_out, plain->type, plain->nodes, number);
        else
            splitPolyhedron(faces, number, m_out);
        return {};
    }

    // Where every polyhedron is a plain cell told by its faces they stay whole; among others they are split, so that
    // neighbours fit.
    Result<bool> allPlain() {
        if (m_unstructured == nullptr || m_unstructured->GetFaces() == nullptr)
            return true; // it has none
        for (vtkIdType cell = 0; cell < m_grid.GetNumberOfCells(); ++cell)
            if (m_grid.GetCellType(cell) == VTK_POLYHEDRON) {
                std::vector<Ids> faces;
                if (auto read = facesOf(cell, faces); !read)
                    return tl::unexpected(read.error());
                if (!plainCell(faces))
                    return false;
            }
        return true;
    }

    Done facesOf(vtkIdType cell, std::vector<Ids>& faces) {
        vtkNew<vtkIdList> stream;
        m_unstructured->GetFaceStream(cell, stream);
        for (vtkIdType at = 1; at < stream->GetNumberOfIds();) {
            const vtkIdType size = stream->GetId(at++);
            if (size < 3 || size > stream->GetNumberOfIds() - at)
                return fail(ErrorCode::IndexOutOfRange, fmt::format("polyhedron {} has a broken face list", cell),
                            m_where, "Have the solver write the file again");
            vtkNew<vtkIdList> ring;
            for (vtkIdType i = 0; i < size; ++i)
                ring->InsertNextId(stream->GetId(at + i));
            at += size;
            if (auto checked = takeNodes(*ring, cell, faces.emplace_back()); !checked)
                return checked;
        }
        if (faces.size() < 4)
            return fail(ErrorCode::LengthMismatch, fmt::format("polyhedron {} has fewer than four faces", cell),
                        m_where, "Have the solver write the file again");
        return {};
    }

    Done takeNodes(vtkIdList& ids, vtkIdType cell, Ids& nodes) {
        const vtkIdType most = m_grid.GetNumberOfPoints();
        for (vtkIdType i = 0; i < ids.GetNumberOfIds(); ++i) {
            const auto id = ids.GetId(i);
            if (id < 0 || id >= most)
                return fail(ErrorCode::IndexOutOfRange,
                            fmt::format("cell {} refers to node {}, but there are only {}", cell, id, most), m_where,
                            "Have the solver write the file again");
            nodes.push_back(static_cast<std::uint32_t>(id));
        }
        return {};
    }

    vtkPointSet& m_grid;
    vtkUnstructuredGrid* m_unstructured;
    std::string m_where;
    bool m_plainPolyhedra = false;
    CellList m_out;
    vtkNew<vtkIdList> m_ids;
};

} // namespace

std::vector<int> cellTypesIn(vtkPointSet& grid) {
    std::array<bool, 256> seen{};
    const auto cells = grid.GetNumberOfCells();
    if (vtkStructuredGrid::SafeDownCast(&grid) != nullptr && cells > 0) // all are alike
        return {grid.GetCellType(0)};
    if (auto* unstructured = vtkUnstructuredGrid::SafeDownCast(&grid)) {
        const auto* types = cells > 0 ? unstructured->GetCellTypesArray()->GetPointer(0) : nullptr;
        for (vtkIdType cell = 0; cell < cells; ++cell)
            seen[types[cell]] = true;
    } else {
        for (vtkIdType cell = 0; cell < cells; ++cell)
            seen[static_cast<std::size_t>(grid.GetCellType(cell)) & 0xffU] = true;
    }
    std::vector<int> distinct;
    for (int type = 0; type < 256; ++type)
        if (seen[static_cast<std::size_t>(type)])
            distinct.push_back(type);
    return distinct;
}

const CellShape* directShape(int fileType) {
    return fileType > 0 && fileType < 256 ? cellShape(static_cast<CellType>(fileType)) : nullptr;
}

OrderedShape orderedShape(int fileType) {
    const auto* rule = std::ranges::find(rewrites, fileType, &Rewrite::fileType);
    if (rule == rewrites.end() || rule->simplifies)
        return {directShape(fileType), {}};
    const auto* shape = cellShape(rule->stored);
    return {shape, std::span(rule->order).first(static_cast<std::size_t>(shape->nodes))};
}

void splitPolyhedron(const std::vector<Ids>& faces, std::uint32_t fileCell, CellList& out) {
    std::uint32_t apex = faces.front().front();
    for (const auto& face : faces)
        apex = std::min(apex, *std::ranges::min_element(face));
    for (const auto& face : faces) {
        if (std::ranges::find(face, apex) != face.end())
            continue;
        const auto first = static_cast<std::size_t>(std::ranges::min_element(face) - face.begin());
        const auto size = face.size();
        for (std::size_t i = 1; i + 1 < size; ++i)
            addCell(out, CellType::Tetrahedron,
                    {face[first], face[(first + i) % size], face[(first + i + 1) % size], apex}, fileCell);
    }
    ++out.split;
}

Result<CellList> convertCells(vtkPointSet& grid, const std::string& where) { return Converter(grid, where).run(); }

} // namespace pyro
