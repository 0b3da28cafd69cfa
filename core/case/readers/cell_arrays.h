// Cell arrays of the library filled at once, in parallel: inserting them one by one is what reading a large file would
// wait for. Numbers of 32 bits where they suffice, which is half the memory.
#pragma once

#include <algorithm>
#include <limits>
#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>
#include <vtkCellArray.h>
#include <vtkNew.h>
#include <vtkSmartPointer.h>
#include <vtkTypeInt32Array.h>
#include <vtkTypeInt64Array.h>

namespace pyro {

template <class Array, class Start, class Fill>
vtkSmartPointer<vtkCellArray> filledCells(std::size_t cells, std::size_t ids, Start start, Fill fill) {
    vtkNew<Array> offsets;
    vtkNew<Array> nodes;
    offsets->SetNumberOfValues(static_cast<vtkIdType>(cells) + 1);
    nodes->SetNumberOfValues(static_cast<vtkIdType>(ids));
    auto* starts = offsets->GetPointer(0);
    auto* to = nodes->GetPointer(0);
    starts[cells] = static_cast<typename Array::ValueType>(ids);
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, cells, 1 << 14), [&](const auto& range) {
        for (auto cell = range.begin(); cell != range.end(); ++cell) {
            starts[cell] = static_cast<typename Array::ValueType>(start(cell));
            fill(cell, to + start(cell));
        }
    });
    auto out = vtkSmartPointer<vtkCellArray>::New();
    out->SetData(offsets, nodes);
    return out;
}

// Of `cells` cells with `ids` node numbers in all, each below `nodes`: `start(cell)` tells where its nodes begin,
// `fill(cell, to)` writes them from the pointer `to` on, which is to numbers of 32 or 64 bits. Both run in several
// threads.
template <class Start, class Fill>
vtkSmartPointer<vtkCellArray> cellArray(std::size_t cells, std::size_t ids, std::size_t nodes, Start start, Fill fill) {
    const bool narrow = std::max(ids, nodes) < static_cast<std::size_t>(std::numeric_limits<std::int32_t>::max());
    return narrow ? filledCells<vtkTypeInt32Array>(cells, ids, start, fill)
                  : filledCells<vtkTypeInt64Array>(cells, ids, start, fill);
}

} // namespace pyro
