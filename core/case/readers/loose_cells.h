// Cells over a table of nodes that several blocks or zones of a file share, made into grids with only the nodes that
// they use.
#pragma once

#include <span>
#include <string>
#include <vector>
#include <vtkDataSetAttributes.h>
#include <vtkSmartPointer.h>
#include <vtkUnstructuredGrid.h>

namespace pyro {

struct NamedValues {
    std::string name;
    std::size_t components = 1;
    std::vector<double> values; // components for each node or cell
};

struct NodeTable {
    std::vector<double> at; // metres, 3 for each node
    std::vector<NamedValues> fields;

    std::size_t size() const { return at.size() / 3; }
};

struct CellRows {
    std::vector<unsigned char> types; // VTK's codes
    std::vector<vtkIdType> offsets{0};
    // of the table; of a polyhedron: the number of its faces, then for each its number of nodes and those
    std::vector<vtkIdType> nodes;

    void add(int type, std::span<const vtkIdType> ids);
    void reserve(std::size_t cells, std::size_t ids);
    std::size_t size() const { return types.size(); }
    std::span<const vtkIdType> row(std::size_t at) const;
};

vtkSmartPointer<vtkUnstructuredGrid> gridOf(const CellRows& cells, const NodeTable& table);

// `from` as an array: the entries `of`, or all when it is empty.
void addValues(vtkDataSetAttributes& data, const NamedValues& from, std::span<const vtkIdType> of = {});

} // namespace pyro
