// Cell arrays of the library filled at once, in parallel: inserting them one by one is what reading a large file would wait for.
#pragma once

#include <algorithm>
#include <span>
#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>
#include <vtkCellArray.h>
#include <vtkNew.h>
#include <vtkSmartPointer.h>
#include <vtkTypeInt64Array.h>

namespace pyro {

// `fill(cell, nodes)` writes the nodes of one of `count` cells, each of as many; it runs in several threads.
template <class Fill> vtkSmartPointer<vtkCellArray> uniformCells(std::size_t count, std::size_t each, Fill fill) {
    vtkNew<vtkTypeInt64Array> offsets;
    vtkNew<vtkTypeInt64Array> nodes;
    offsets->SetNumberOfValues(static_cast<vtkIdType>(count + 1));
    nodes->SetNumberOfValues(static_cast<vtkIdType>(count * each));
    auto* starts = offsets->GetPointer(0);
    auto* ids = nodes->GetPointer(0);
    starts[count] = static_cast<vtkTypeInt64>(count * each);
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, count, 1 << 14), [&](const auto& range) {
        for (auto cell = range.begin(); cell != range.end(); ++cell) {
            starts[cell] = static_cast<vtkTypeInt64>(cell * each);
            fill(cell, std::span(ids + cell * each, each));
        }
    });
    auto cells = vtkSmartPointer<vtkCellArray>::New();
    cells->SetData(offsets, nodes);
    return cells;
}

} // namespace pyro
