// Arrays of ours in the hands of VTK, without a copy. What is lent must outlive the borrower.
#pragma once

#include <cstdint>
#include <vector>
#include <vtkCellArray.h>
#include <vtkFloatArray.h>
#include <vtkNew.h>
#include <vtkPoints.h>
#include <vtkTypeInt32Array.h>

namespace pyro {

inline vtkNew<vtkFloatArray> borrowed(const std::vector<float>& values, int components) {
    vtkNew<vtkFloatArray> array;
    array->SetNumberOfComponents(components);
    array->SetArray(const_cast<float*>(values.data()), static_cast<vtkIdType>(values.size()), 1);
    return array;
}

inline vtkNew<vtkPoints> borrowedPoints(const std::vector<float>& coordinates) {
    vtkNew<vtkPoints> points;
    points->SetData(borrowed(coordinates, 3));
    return points;
}

// Cells of `nodes` nodes each.
inline vtkNew<vtkCellArray> borrowedCells(const std::vector<std::int32_t>& connectivity, int nodes) {
    vtkNew<vtkTypeInt32Array> ids;
    ids->SetArray(const_cast<std::int32_t*>(connectivity.data()), static_cast<vtkIdType>(connectivity.size()), 1);
    vtkNew<vtkCellArray> cells;
    cells->SetData(nodes, ids);
    return cells;
}

inline vtkNew<vtkCellArray> linesOf(const std::vector<std::uint32_t>& ends) {
    vtkNew<vtkCellArray> lines;
    lines->AllocateExact(static_cast<vtkIdType>(ends.size() / 2), static_cast<vtkIdType>(ends.size()));
    for (std::size_t i = 0; i + 1 < ends.size(); i += 2)
        lines->InsertNextCell({static_cast<vtkIdType>(ends[i]), static_cast<vtkIdType>(ends[i + 1])});
    return lines;
}

} // namespace pyro
