// Structured grids turned into cells.
#include "core/case/readers/cell_arrays.h"
#include "core/case/readers/format.h"
#include "core/case/readers/lattice_cells.h"

#include <fmt/format.h>
#include <vtkCellData.h>
#include <vtkCellType.h>
#include <vtkFieldData.h>
#include <vtkIdTypeArray.h>
#include <vtkImageData.h>
#include <vtkNew.h>
#include <vtkPointData.h>
#include <vtkPoints.h>
#include <vtkRectilinearGrid.h>
#include <vtkStructuredGrid.h>
#include <vtkUnsignedCharArray.h>
#include <vtkUnstructuredGrid.h>

namespace pyro {
namespace {

using Dims = std::array<int, 3>;

std::optional<Dims> dimensionsOf(vtkDataSet& grid) {
    Dims dims{};
    if (auto* image = vtkImageData::SafeDownCast(&grid))
        image->GetDimensions(dims.data());
    else if (auto* rectilinear = vtkRectilinearGrid::SafeDownCast(&grid))
        rectilinear->GetDimensions(dims.data());
    else if (auto* structured = vtkStructuredGrid::SafeDownCast(&grid))
        structured->GetDimensions(dims.data());
    else
        return std::nullopt;
    return dims;
}

vtkSmartPointer<vtkPoints> pointsOf(vtkDataSet& grid) {
    auto* structured = vtkStructuredGrid::SafeDownCast(&grid);
    if (structured != nullptr &&
        (structured->GetPoints()->GetDataType() == VTK_FLOAT || structured->GetPoints()->GetDataType() == VTK_DOUBLE))
        return structured->GetPoints();
    vtkNew<vtkPoints> points;
    points->SetDataTypeToDouble();
    points->SetNumberOfPoints(grid.GetNumberOfPoints());
    auto* at = static_cast<double*>(points->GetVoidPointer(0));
    tbb::parallel_for(vtkIdType{0}, grid.GetNumberOfPoints(), [&](vtkIdType i) { grid.GetPoint(i, at + 3 * i); });
    return points;
}

// Cells and nodes that the file blanks or that another piece has.
class Hidden {
public:
    explicit Hidden(vtkDataSet& grid) : m_cells(grid.GetCellGhostArray()), m_points(grid.GetPointGhostArray()) {}
    bool any() const { return m_cells != nullptr || m_points != nullptr; }
    bool cell(vtkIdType at, const std::array<vtkIdType, 8>& nodes, std::size_t count) const {
        if (m_cells != nullptr &&
            (m_cells->GetValue(at) & (vtkDataSetAttributes::HIDDENCELL | vtkDataSetAttributes::DUPLICATECELL |
                                      vtkDataSetAttributes::REFINEDCELL)) != 0)
            return true;
        for (std::size_t i = 0; m_points != nullptr && i < count; ++i)
            if ((m_points->GetValue(nodes[i]) & vtkDataSetAttributes::HIDDENPOINT) != 0)
                return true;
        return false;
    }

private:
    vtkUnsignedCharArray* m_cells;
    vtkUnsignedCharArray* m_points;
};

class CellMaker {
public:
    CellMaker(vtkDataSet& grid, const Dims& dims) : m_grid(grid), m_dims(dims), m_points(pointsOf(grid)) {
        for (std::size_t axis = 0; axis < 3; ++axis)
            if (dims[axis] > 1)
                m_axes.push_back(axis);
        m_kept = seenCells();
    }

    vtkSmartPointer<vtkPointSet> run() {
        const auto corners = std::size_t{1} << m_axes.size();
        const auto count = m_grid.GetNumberOfCells();
        const auto& kept = m_kept;
        const bool all = kept == nullptr;
        const auto made = [&](const auto* points) {
            const auto cells = static_cast<std::size_t>(all ? count : kept->GetNumberOfValues());
            return cellArray(
                cells, cells * corners, static_cast<std::size_t>(m_grid.GetNumberOfPoints()),
                [&](std::size_t cell) { return cell * corners; },
                [&](std::size_t cell, auto* to) {
                    auto nodes = nodesOf(all ? static_cast<vtkIdType>(cell)
                                             : kept->GetValue(static_cast<vtkIdType>(cell)));
                    if (corners == 8)
                        turnIfLeftHanded(points, nodes);
                    for (std::size_t i = 0; i < corners; ++i)
                        to[i] = static_cast<std::decay_t<decltype(*to)>>(nodes[i]);
                });
        };
        const auto cells = m_points->GetDataType() == VTK_FLOAT
                               ? made(static_cast<const float*>(m_points->GetVoidPointer(0)))
                               : made(static_cast<const double*>(m_points->GetVoidPointer(0)));
        vtkNew<vtkUnstructuredGrid> out;
        out->SetPoints(m_points);
        out->SetCells(corners == 8 ? VTK_HEXAHEDRON : corners == 4 ? VTK_QUAD : VTK_LINE, cells);
        out->GetPointData()->ShallowCopy(m_grid.GetPointData());
        out->GetFieldData()->ShallowCopy(m_grid.GetFieldData());
        if (all) {
            out->GetCellData()->ShallowCopy(m_grid.GetCellData());
        } else {
            out->GetCellData()->CopyAllocate(m_grid.GetCellData(), kept->GetNumberOfValues());
            for (vtkIdType at = 0; at < kept->GetNumberOfValues(); ++at)
                out->GetCellData()->CopyData(m_grid.GetCellData(), kept->GetValue(at), at);
        }
        withoutGhosts(*out);
        return out;
    }

    // Null where it has blanked cells, or lies in a plane or a line.
    vtkSmartPointer<vtkPointSet> lattice() {
        if (m_axes.size() != 3 || m_kept != nullptr)
            return nullptr;
        vtkNew<vtkStructuredGrid> out;
        out->SetDimensions(m_dims.data());
        out->SetPoints(m_points);
        out->GetPointData()->ShallowCopy(m_grid.GetPointData());
        out->GetCellData()->ShallowCopy(m_grid.GetCellData());
        out->GetFieldData()->ShallowCopy(m_grid.GetFieldData());
        withoutGhosts(*out);
        return out;
    }

private:
    // Numbers of those that are not hidden; null when none is.
    vtkSmartPointer<vtkIdTypeArray> seenCells() const {
        const Hidden hidden(m_grid);
        if (!hidden.any())
            return nullptr;
        const auto corners = std::size_t{1} << m_axes.size();
        auto kept = vtkSmartPointer<vtkIdTypeArray>::New();
        for (vtkIdType cell = 0; cell < m_grid.GetNumberOfCells(); ++cell)
            if (!hidden.cell(cell, nodesOf(cell), corners))
                kept->InsertNextValue(cell);
        return kept->GetNumberOfValues() == m_grid.GetNumberOfCells() ? nullptr : kept;
    }
    static void withoutGhosts(vtkPointSet& grid) {
        for (vtkDataSetAttributes* data : {static_cast<vtkDataSetAttributes*>(grid.GetPointData()),
                                           static_cast<vtkDataSetAttributes*>(grid.GetCellData())})
            data->RemoveArray(vtkDataSetAttributes::GhostArrayName());
    }
    std::array<vtkIdType, 8> nodesOf(vtkIdType cell) const {
        const vtkIdType along = std::max(1, m_dims[0] - 1);
        const vtkIdType layer = along * std::max(1, m_dims[1] - 1);
        return nodesAt(
            {static_cast<int>(cell % along), static_cast<int>(cell % layer / along), static_cast<int>(cell / layer)});
    }

    std::array<vtkIdType, 8> nodesAt(const Dims& at) const {
        const std::array<vtkIdType, 3> stride{1, m_dims[0], static_cast<vtkIdType>(m_dims[0]) * m_dims[1]};
        vtkIdType first = 0;
        for (std::size_t axis = 0; axis < 3; ++axis)
            first += at[axis] * stride[axis];
        std::array<vtkIdType, 8> nodes{};
        const auto step = [&](std::size_t n) { return n < m_axes.size() ? stride[m_axes[n]] : 0; };
        const std::array<vtkIdType, 4> ring{first, first + step(0), first + step(0) + step(1), first + step(1)};
        for (std::size_t n = 0; n < 4; ++n) {
            nodes[n] = ring[n];
            nodes[n + 4] = ring[n] + step(2);
        }
        return nodes;
    }

    vtkDataSet& m_grid;
    Dims m_dims;
    vtkSmartPointer<vtkPoints> m_points;
    std::vector<std::size_t> m_axes;        // along which the grid has cells
    vtkSmartPointer<vtkIdTypeArray> m_kept; // of the cells those that are not hidden; null when none is
};

Result<vtkSmartPointer<vtkPointSet>> made(vtkDataSet& grid, const std::string& where, bool mayStay) {
    const auto dims = dimensionsOf(grid);
    if (!dims) {
        if (auto* points = vtkPointSet::SafeDownCast(&grid))
            return vtkSmartPointer<vtkPointSet>(points);
        return fail(ErrorCode::NotSupported, fmt::format("it holds a \"{}\", which is no mesh", grid.GetClassName()),
                    where, "Export a grid of cells");
    }
    if (grid.GetNumberOfPoints() == 0 || (*dims)[0] * 1LL * (*dims)[1] * (*dims)[2] == 1)
        return fail(ErrorCode::NoCells, "the grid has no cells", where, "Export the mesh together with the result");
    CellMaker maker(grid, *dims);
    if (auto lattice = mayStay ? maker.lattice() : nullptr)
        return lattice;
    return maker.run();
}

} // namespace

Result<vtkSmartPointer<vtkPointSet>> asCells(vtkDataSet& grid, const std::string& where) {
    return made(grid, where, false);
}
Result<vtkSmartPointer<vtkPointSet>> asLatticeOrCells(vtkDataSet& grid, const std::string& where) {
    return made(grid, where, true);
}

} // namespace pyro
