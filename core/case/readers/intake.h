// What a reader of a file format hands over: grids, one after the other, as parts and boundaries of one case.
#pragma once

#include "core/case/case.h"
#include "core/feedback/progress.h"

#include <functional>
#include <vtkPointSet.h>
#include <vtkSmartPointer.h>

namespace pyro {

struct NamedGrid {
    std::string name;
    bool boundary = false;
    vtkSmartPointer<vtkPointSet> grid;
    std::string where; // the file, and the block within it, for messages
    struct Counts {
        std::uint64_t nodes;
        std::uint64_t cells;
    };
    std::optional<Counts> asInFile = {}; // where they are others than the grid's
};

// Stores each grid as it comes, so that no more than one is held at a time. The first error of taking is kept and ends
// reading.
class Intake {
public:
    virtual ~Intake() = default;
    virtual Done take(NamedGrid grid) = 0;
    // A grid that is alone in its file, which an array may divide into parts.
    virtual Done takeLone(NamedGrid grid) = 0;
    virtual void remark(Remark remark) = 0;
    // a file that the case is made of, besides the one asked for
    virtual void addSource(const std::filesystem::path& file) = 0;
    virtual void setTime(double seconds) = 0;
    virtual void setMonitored(MonitoredInFile monitored) = 0;
    virtual Progress& progress() = 0;
};

} // namespace pyro
