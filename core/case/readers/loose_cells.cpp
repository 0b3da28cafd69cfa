#include "core/case/readers/loose_cells.h"

#include "core/case/readers/cell_arrays.h"

#include <algorithm>
#include <vtkCellArray.h>
#include <vtkCellType.h>
#include <vtkDoubleArray.h>
#include <vtkNew.h>
#include <vtkPointData.h>
#include <vtkUnsignedCharArray.h>

namespace pyro {
namespace {

// The nodes of a row, without what counts a polyhedron's faces.
template <class Use>
void forNodes(int type, std::span<const vtkIdType> row, Use use) {
    if (type != VTK_POLYHEDRON) {
        for (const auto node : row)
            use(node);
        return;
    }
    for (std::size_t at = 1; at < row.size(); at += static_cast<std::size_t>(row[at]) + 1)
        for (std::size_t i = 1; i <= static_cast<std::size_t>(row[at]); ++i)
            use(row[at + i]);
}

class Grid {
public:
    Grid(const CellRows& cells, const NodeTable& table) : m_cells(cells), m_table(table), m_local(table.size(), -1) {}

    vtkSmartPointer<vtkUnstructuredGrid> run() {
        auto grid = vtkSmartPointer<vtkUnstructuredGrid>::New();
        grid->SetPoints(points());
        bool polyhedra = false;
        for (const auto type : m_cells.types)
            polyhedra = polyhedra || type == VTK_POLYHEDRON;
        if (polyhedra)
            insertEach(*grid);
        else
            insertAll(*grid);
        for (const auto& field : m_table.fields)
            addValues(*grid->GetPointData(), field, m_used);
        return grid;
    }

private:
    vtkSmartPointer<vtkPoints> points() {
        for (std::size_t i = 0; i < m_cells.size(); ++i)
            forNodes(m_cells.types[i], m_cells.row(i),
                     [&](vtkIdType node) { m_local[static_cast<std::size_t>(node)] = 0; });
        for (std::size_t node = 0; node < m_local.size(); ++node)
            if (m_local[node] == 0) {
                m_local[node] = static_cast<vtkIdType>(m_used.size());
                m_used.push_back(static_cast<vtkIdType>(node));
            }
        vtkNew<vtkDoubleArray> data;
        data->SetNumberOfComponents(3);
        data->SetNumberOfTuples(static_cast<vtkIdType>(m_used.size()));
        for (std::size_t i = 0; i < m_used.size(); ++i)
            data->SetTypedTuple(static_cast<vtkIdType>(i), m_table.at.data() + 3 * m_used[i]);
        auto points = vtkSmartPointer<vtkPoints>::New();
        points->SetData(data);
        return points;
    }

    void insertAll(vtkUnstructuredGrid& grid) const {
        const auto list = cellArray(
            m_cells.size(), m_cells.nodes.size(), m_used.size(),
            [&](std::size_t cell) { return m_cells.offsets[cell]; },
            [&](std::size_t cell, auto* to) {
                for (const auto node : m_cells.row(cell))
                    *to++ = static_cast<std::decay_t<decltype(*to)>>(m_local[static_cast<std::size_t>(node)]);
            });
        vtkNew<vtkUnsignedCharArray> types;
        types->SetNumberOfValues(static_cast<vtkIdType>(m_cells.size()));
        std::ranges::copy(m_cells.types, types->GetPointer(0));
        grid.SetCells(types, list);
    }

    void insertEach(vtkUnstructuredGrid& grid) const {
        std::vector<vtkIdType> stream;
        for (std::size_t i = 0; i < m_cells.size(); ++i) {
            const auto row = m_cells.row(i);
            stream.assign(row.begin(), row.end());
            if (m_cells.types[i] != VTK_POLYHEDRON) {
                for (auto& node : stream)
                    node = m_local[static_cast<std::size_t>(node)];
                grid.InsertNextCell(m_cells.types[i], static_cast<vtkIdType>(stream.size()), stream.data());
                continue;
            }
            for (std::size_t at = 1; at < stream.size(); at += static_cast<std::size_t>(stream[at]) + 1)
                for (std::size_t k = 1; k <= static_cast<std::size_t>(stream[at]); ++k)
                    stream[at + k] = m_local[static_cast<std::size_t>(stream[at + k])];
            grid.InsertNextCell(VTK_POLYHEDRON, stream.front(), stream.data() + 1); // finds the nodes by itself
        }
    }

    const CellRows& m_cells;
    const NodeTable& m_table;
    std::vector<vtkIdType> m_local; // by node of the table; -1: not used
    std::vector<vtkIdType> m_used;  // in the order of the table, so that every grid of it numbers its nodes alike
};

} // namespace

void CellRows::add(int type, std::span<const vtkIdType> ids) {
    types.push_back(static_cast<unsigned char>(type));
    nodes.insert(nodes.end(), ids.begin(), ids.end());
    offsets.push_back(static_cast<vtkIdType>(nodes.size()));
}

void CellRows::reserve(std::size_t cells, std::size_t ids) {
    types.reserve(types.size() + cells);
    offsets.reserve(offsets.size() + cells);
    nodes.reserve(nodes.size() + ids);
}

std::span<const vtkIdType> CellRows::row(std::size_t at) const {
    return std::span(nodes).subspan(static_cast<std::size_t>(offsets[at]),
                                    static_cast<std::size_t>(offsets[at + 1] - offsets[at]));
}

vtkSmartPointer<vtkUnstructuredGrid> gridOf(const CellRows& cells, const NodeTable& table) {
    return Grid(cells, table).run();
}

void addValues(vtkDataSetAttributes& data, const NamedValues& from, std::span<const vtkIdType> of) {
    vtkNew<vtkDoubleArray> array;
    array->SetName(from.name.c_str());
    array->SetNumberOfComponents(static_cast<int>(from.components));
    const auto count = of.empty() ? from.values.size() / from.components : of.size();
    array->SetNumberOfTuples(static_cast<vtkIdType>(count));
    for (std::size_t i = 0; i < count; ++i)
        array->SetTypedTuple(static_cast<vtkIdType>(i),
                             from.values.data() + (of.empty() ? i : static_cast<std::size_t>(of[i])) * from.components);
    data.AddArray(array);
}

} // namespace pyro
