#include "core/case/readers/cells.h"
#include "core/case/readers/curved_grid.h"
#include "core/case/readers/grid.h"
#include "core/case/readers/lattice_cells.h"
#include "core/case/readers/remedies.h"
#include "core/feedback/counted.h"

#include <algorithm>
#include <atomic>
#include <cmath>
#include <fmt/format.h>
#include <limits>
#include <tbb/parallel_for.h>
#include <tbb/parallel_reduce.h>
#include <vtkCellArray.h>
#include <vtkCellData.h>
#include <vtkDataArray.h>
#include <vtkPointData.h>
#include <vtkStructuredGrid.h>
#include <vtkUnsignedCharArray.h>
#include <vtkUnstructuredGrid.h>

namespace pyro {
namespace {

constexpr std::size_t chunk = std::size_t{1} << 18;

// Writes `count` values made by `make(i)` straight into the store, so that no second copy of a large array arises.
template <class T, class Make>
void writeMade(ArrayFileWriter& store, const std::string& name, std::size_t count, Make make) {
    const auto room = store.space<T>(name, count);
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, room.size(), chunk), [&](const auto& range) {
        for (auto i = range.begin(); i != range.end(); ++i)
            room[i] = make(i);
    });
}

// What the library writes for itself: numbers of nodes and cells before they were taken out of another grid, and which
// are copies.
bool isBookkeeping(std::string_view array) {
    return array == "vtkOriginalPointIds" || array == "vtkOriginalCellIds" ||
           array == vtkDataSetAttributes::GhostArrayName();
}

struct ValueScan {
    double min = std::numeric_limits<double>::max();
    double max = std::numeric_limits<double>::lowest();
    std::size_t notFinite = 0;
    std::size_t firstNotFinite = std::numeric_limits<std::size_t>::max();

    static ValueScan merged(const ValueScan& a, const ValueScan& b) {
        return {std::min(a.min, b.min), std::max(a.max, b.max), a.notFinite + b.notFinite,
                std::min(a.firstNotFinite, b.firstNotFinite)};
    }
};

class GridStore {
public:
    GridStore(vtkPointSet& grid, std::string key, std::string name, std::string where, ArrayFileWriter& store)
        : m_grid(grid), m_key(std::move(key)), m_name(std::move(name)), m_where(std::move(where)), m_store(store) {}

    Result<StoredGrid> run();

private:
    Done writePoints();
    Done writeCells();
    template <class Offsets, class Ids>
    Done writeDirect(vtkUnstructuredGrid& grid, const std::vector<int>& distinct, Offsets* offsets, Ids* ids);
    template <class Real>
    Done writeLattice(const LatticeCells& lattice, const Real* points);
    Done writeConverted();
    Done writeArrays(vtkDataSetAttributes& data, Location on, std::uint64_t expected);
    void remarkNonFinite(const std::string& array, Location on, const ValueScan& scan, std::size_t tuples);
    bool cellsMapped() const { return !m_fileCell.empty(); }

    vtkPointSet& m_grid;
    std::string m_key;
    std::string m_name;
    std::string m_where;
    ArrayFileWriter& m_store;
    std::vector<std::uint32_t> m_fileCell; // empty: stored cells are the file's cells
    nlohmann::json m_arrays = nlohmann::json::array();
    int m_dimension = 0;
    std::optional<std::array<std::size_t, 3>> m_lattice; // see Region
    Remarks m_remarks;
};

Done GridStore::writePoints() {
    auto* data = m_grid.GetPoints()->GetData();
    const auto count = static_cast<std::size_t>(data->GetNumberOfValues());
    if (static_cast<std::uint64_t>(m_grid.GetNumberOfPoints()) >= std::numeric_limits<std::uint32_t>::max())
        return fail(ErrorCode::SizeAbsurd, "a region with 2^32 nodes or more is not supported", m_where,
                    "Split the model into several parts");
    std::atomic<std::size_t> bad{count};
    const auto check = [&](auto* values) {
        tbb::parallel_for(std::size_t{0}, count, [&](std::size_t i) {
            if (!std::isfinite(values[i]))
                bad = i;
        });
    };
    const auto name = m_key + "/points";
    if (data->GetDataType() == VTK_FLOAT) {
        const auto* values = static_cast<const float*>(data->GetVoidPointer(0));
        check(values);
        m_store.add(name, std::span<const float>(values, count));
    } else if (data->GetDataType() == VTK_DOUBLE) {
        const auto* values = static_cast<const double*>(data->GetVoidPointer(0));
        check(values);
        m_store.add(name, std::span<const double>(values, count));
    } else {
        std::vector<double> values(count);
        for (std::size_t i = 0; i < count; ++i)
            values[i] = data->GetComponent(static_cast<vtkIdType>(i / 3), static_cast<int>(i % 3));
        m_store.add(name, std::span<const double>(values));
    }
    if (bad < count)
        return fail(ErrorCode::FileUnreadable, fmt::format("node {} has a coordinate that is not finite", bad / 3),
                    m_where, writeAgain);
    return {};
}

// The usual case, without any copy of the cells: only checked, narrowed to 32 bits and written.
template <class Offsets, class Ids>
Done GridStore::writeDirect(vtkUnstructuredGrid& grid, const std::vector<int>& distinct, Offsets* offsetArray,
                            Ids* idArray) {
    const auto cells = static_cast<std::size_t>(grid.GetNumberOfCells());
    const auto* types = grid.GetCellTypesArray()->GetPointer(0);
    const auto* offsets = offsetArray->GetPointer(0);
    const auto* ids = idArray->GetPointer(0);
    const auto size = idArray->GetNumberOfValues();
    const auto points = grid.GetNumberOfPoints();
    std::array<OrderedShape, 256> shapes{};
    bool reordered = false;
    for (const int type : distinct) {
        shapes[static_cast<std::size_t>(type)] = orderedShape(type);
        reordered = reordered || !orderedShape(type).order.empty();
    }
    std::atomic<std::size_t> badCell{cells};
    std::atomic<bool> badIds{false};
    tbb::parallel_for(std::size_t{0}, cells, [&](std::size_t cell) {
        const auto nodes = static_cast<long long>(offsets[cell + 1]) - offsets[cell];
        const auto* shape = shapes[types[cell]].shape;
        if (nodes < 2 || (shape->nodes != 0 && nodes != shape->nodes) || offsets[cell] < 0 || offsets[cell + 1] > size)
            badCell = cell;
    });
    if (badCell < cells)
        return fail(ErrorCode::LengthMismatch,
                    fmt::format("cell {} does not have the number of nodes of its type", badCell.load()), m_where,
                    writeAgain);
    const auto room = m_store.space<std::uint32_t>(m_key + "/connectivity", static_cast<std::size_t>(size));
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, room.size(), chunk), [&](const auto& range) {
        std::uint64_t highest = 0; // a negative number turns into a large one
        for (auto i = range.begin(); i != range.end(); ++i) {
            const auto id = static_cast<std::uint64_t>(static_cast<std::int64_t>(ids[i]));
            highest = std::max(highest, id);
            room[i] = static_cast<std::uint32_t>(id);
        }
        if (highest >= static_cast<std::uint64_t>(points))
            badIds = true;
    });
    if (badIds) {
        const auto* bad = std::find_if(ids, ids + size, [&](auto id) { return id < 0 || id >= points; });
        return fail(ErrorCode::IndexOutOfRange,
                    fmt::format("a cell refers to node {}, but there are only {}", *bad, points), m_where, writeAgain);
    }
    if (reordered)
        tbb::parallel_for(std::size_t{0}, cells, [&](std::size_t cell) {
            const auto order = shapes[types[cell]].order;
            for (std::size_t i = 0; i < order.size(); ++i)
                room[static_cast<std::size_t>(offsets[cell]) + i] = static_cast<std::uint32_t>(
                    ids[static_cast<std::size_t>(offsets[cell]) + order[i]]);
        });
    const bool alike = distinct.size() == 1 && shapes[static_cast<std::size_t>(distinct.front())].shape->nodes > 0 &&
                       offsets[0] == 0;
    if (!alike) // else every cell has as many nodes
        writeMade<std::uint64_t>(m_store, m_key + "/offsets", cells + 1,
                                 [&](std::size_t i) { return static_cast<std::uint64_t>(offsets[i]); });
    writeMade<std::uint8_t>(m_store, m_key + "/types", cells,
                            [&](std::size_t i) { return static_cast<std::uint8_t>(shapes[types[i]].shape->type); });
    for (const int type : distinct)
        m_dimension = std::max(m_dimension, shapes[static_cast<std::size_t>(type)].shape->dimension);
    return {};
}

// A structured grid: its cells are made where they are stored.
template <class Real>
Done GridStore::writeLattice(const LatticeCells& lattice, const Real* points) {
    const auto room = m_store.space<std::uint32_t>(m_key + "/connectivity", 8 * lattice.count());
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, lattice.count(), chunk / 8), [&](const auto& range) {
        for (auto cell = range.begin(); cell != range.end(); ++cell) {
            auto nodes = lattice.corners(cell);
            turnIfLeftHanded(points, nodes);
            std::ranges::transform(nodes, room.begin() + static_cast<std::ptrdiff_t>(8 * cell),
                                   [](vtkIdType node) { return static_cast<std::uint32_t>(node); });
        }
    });
    writeMade<std::uint8_t>(m_store, m_key + "/types", lattice.count(),
                            [](std::size_t) { return static_cast<std::uint8_t>(CellType::Hexahedron); });
    m_dimension = 3;
    m_lattice = lattice.nodes;
    return {};
}

Done GridStore::writeConverted() {
    auto cells = convertCells(m_grid, m_where);
    if (!cells)
        return tl::unexpected(cells.error());
    m_store.add(m_key + "/connectivity", std::span<const std::uint32_t>(cells->connectivity));
    m_store.add(m_key + "/offsets", std::span<const std::uint64_t>(cells->offsets));
    m_store.add(m_key + "/types", std::span<const std::uint8_t>(cells->types));
    m_dimension = cells->dimension;
    m_fileCell = std::move(cells->fileCell);
    if (cells->simplified > 0)
        m_remarks.push_back(
            {Severity::Warning, "cells-simplified",
             fmt::format("{} are straight between their ends", counted(cells->simplified, "curved line")), m_where});
    if (cells->leftOut > 0)
        m_remarks.push_back({Severity::Note, "cells-left-out",
                             fmt::format("{} without extent (vertices) left out", counted(cells->leftOut, "cell")),
                             m_where});
    return {};
}

Done GridStore::writeCells() {
    if (auto* structured = vtkStructuredGrid::SafeDownCast(&m_grid)) {
        std::array<int, 3> dims{};
        structured->GetDimensions(dims.data());
        const LatticeCells lattice{
            {static_cast<std::size_t>(dims[0]), static_cast<std::size_t>(dims[1]), static_cast<std::size_t>(dims[2])}};
        auto* points = structured->GetPoints()->GetData();
        return points->GetDataType() == VTK_FLOAT
                   ? writeLattice(lattice, static_cast<const float*>(points->GetVoidPointer(0)))
                   : writeLattice(lattice, static_cast<const double*>(points->GetVoidPointer(0)));
    }
    auto* grid = vtkUnstructuredGrid::SafeDownCast(&m_grid);
    const auto distinct = grid == nullptr ? std::vector<int>() : cellTypesIn(*grid);
    const auto direct = [](int type) { return orderedShape(type).shape != nullptr; };
    if (distinct.empty() || !std::ranges::all_of(distinct, direct))
        return writeConverted();
    auto* cells = grid->GetCells();
    return cells->IsStorage64Bit()
               ? writeDirect(*grid, distinct, cells->GetOffsetsArray64(), cells->GetConnectivityArray64())
               : writeDirect(*grid, distinct, cells->GetOffsetsArray32(), cells->GetConnectivityArray32());
}

template <class Value>
ValueScan scanValues(std::size_t tuples, std::size_t components, Value value) {
    return tbb::parallel_deterministic_reduce(
        tbb::blocked_range<std::size_t>(0, tuples, chunk), ValueScan{},
        [&](const auto& range, ValueScan seen) {
            for (auto tuple = range.begin(); tuple != range.end(); ++tuple) {
                double squares = 0;
                for (std::size_t i = 0; i < components; ++i) {
                    const double component = value(tuple * components + i);
                    squares += component * component;
                }
                const double size = components == 1 ? value(tuple) : std::sqrt(squares);
                if (!std::isfinite(size)) {
                    ++seen.notFinite;
                    seen.firstNotFinite = std::min(seen.firstNotFinite, tuple);
                    continue;
                }
                seen.min = std::min(seen.min, size);
                seen.max = std::max(seen.max, size);
            }
            return seen;
        },
        ValueScan::merged);
}

ValueScan scanArray(vtkDataArray& array) {
    const auto tuples = static_cast<std::size_t>(array.GetNumberOfTuples());
    const auto components = static_cast<std::size_t>(array.GetNumberOfComponents());
    if (array.GetDataType() == VTK_FLOAT && array.HasStandardMemoryLayout()) {
        const auto* values = static_cast<const float*>(array.GetVoidPointer(0));
        return scanValues(tuples, components, [&](std::size_t i) { return static_cast<double>(values[i]); });
    }
    if (array.GetDataType() == VTK_DOUBLE && array.HasStandardMemoryLayout()) {
        const auto* values = static_cast<const double*>(array.GetVoidPointer(0));
        return scanValues(tuples, components, [&](std::size_t i) { return values[i]; });
    }
    return scanValues(tuples, components, [&](std::size_t i) {
        return array.GetComponent(static_cast<vtkIdType>(i / components), static_cast<int>(i % components));
    });
}

void GridStore::remarkNonFinite(const std::string& array, Location on, const ValueScan& scan, std::size_t tuples) {
    std::array<double, 3> at{};
    if (on == Location::Node)
        m_grid.GetPoint(static_cast<vtkIdType>(scan.firstNotFinite), at.data());
    m_remarks.push_back(
        {Severity::Serious, "not-finite",
         fmt::format("{} of {} values of \"{}\" are NaN or infinite, the first at {} {}{}", scan.notFinite, tuples,
                     array, locationName(on), scan.firstNotFinite,
                     on == Location::Node ? fmt::format(" ({:g}, {:g}, {:g})", at[0], at[1], at[2]) : std::string()),
         m_name});
}

Done GridStore::writeArrays(vtkDataSetAttributes& data, Location on, std::uint64_t expected) {
    for (int i = 0; i < data.GetNumberOfArrays(); ++i) {
        auto* array = data.GetArray(i);
        if (array == nullptr || array->GetName() == nullptr)
            continue; // text and nameless arrays are no quantities
        const std::string name = array->GetName();
        if (isBookkeeping(name))
            continue;
        if (static_cast<std::uint64_t>(array->GetNumberOfTuples()) != expected)
            return fail(ErrorCode::LengthMismatch,
                        fmt::format("array \"{}\" has {} entries for {} {}s", name, array->GetNumberOfTuples(),
                                    expected, locationName(on)),
                        m_where, writeAgain);
        const auto scan = scanArray(*array);
        if (scan.notFinite > 0)
            remarkNonFinite(name, on, scan, static_cast<std::size_t>(expected));
        const auto components = static_cast<std::size_t>(array->GetNumberOfComponents());
        const bool mapped = on == Location::Cell && cellsMapped();
        const auto tuples = mapped ? m_fileCell.size() : static_cast<std::size_t>(expected);
        const auto source = [&](std::size_t at) {
            return mapped ? std::size_t{m_fileCell[at / components]} * components + at % components : at;
        };
        const auto key = m_key + "/" + std::string(locationName(on)) + "/" + name;
        if (array->GetDataType() == VTK_FLOAT && array->HasStandardMemoryLayout()) {
            const auto* values = static_cast<const float*>(array->GetVoidPointer(0));
            writeMade<float>(m_store, key, tuples * components, [&](auto at) { return values[source(at)]; });
        } else if (array->GetDataType() == VTK_DOUBLE && array->HasStandardMemoryLayout()) {
            const auto* values = static_cast<const double*>(array->GetVoidPointer(0));
            writeMade<double>(m_store, key, tuples * components, [&](auto at) { return values[source(at)]; });
        } else {
            writeMade<double>(m_store, key, tuples * components, [&](auto at) {
                return array->GetComponent(static_cast<vtkIdType>(source(at) / components),
                                           static_cast<int>(source(at) % components));
            });
        }
        const bool any = scan.min <= scan.max;
        m_arrays.push_back({{"name", name},
                            {"on", locationName(on)},
                            {"components", components},
                            {"min", any ? nlohmann::json(scan.min) : nlohmann::json()},
                            {"max", any ? nlohmann::json(scan.max) : nlohmann::json()},
                            {"not_finite", scan.notFinite}});
    }
    return {};
}

Result<StoredGrid> GridStore::run() {
    if (auto done = writePoints(); !done)
        return tl::unexpected(done.error());
    if (auto done = writeCells(); !done)
        return tl::unexpected(done.error());
    if (auto done = writeArrays(*m_grid.GetPointData(), Location::Node,
                                static_cast<std::uint64_t>(m_grid.GetNumberOfPoints()));
        !done)
        return tl::unexpected(done.error());
    const auto fileCells = static_cast<std::uint64_t>(m_grid.GetNumberOfCells());
    if (auto done = writeArrays(*m_grid.GetCellData(), Location::Cell, fileCells); !done)
        return tl::unexpected(done.error());
    StoredGrid out{{{"name", m_name}, {"dimension", m_dimension}, {"file_cells", fileCells}, {"arrays", m_arrays}},
                   m_dimension == 3,
                   std::move(m_remarks)};
    if (m_lattice)
        out.entry["lattice"] = *m_lattice;
    return out;
}

} // namespace

Result<StoredGrid> storeGrid(vtkPointSet& grid, const std::string& key, const std::string& name,
                             const std::string& where, ArrayFileWriter& store) {
    auto* cells = vtkUnstructuredGrid::SafeDownCast(&grid);
    if (cells == nullptr || !hasCurvedCells(*cells))
        return GridStore(grid, key, name, where, store).run();
    const auto curved = onLattices(*cells, where);
    if (!curved)
        return tl::unexpected(curved.error());
    auto stored = GridStore(*curved->grid, key, name, where, store).run();
    if (!stored)
        return stored;
    stored->entry["file_cells"] = grid.GetNumberOfCells();
    if (!curved->extent.empty()) {
        stored->entry["curved"] = true;
        store.add(key + "/extent", std::span<const double>(curved->extent));
        store.add(key + "/share", std::span<const double>(curved->share));
        store.add(key + "/parent", std::span<const std::uint32_t>(curved->parent));
    }
    if (curved->straightened > 0)
        stored->remarks.push_back({Severity::Note, "cells-straightened",
                                   fmt::format("{} of second order are measured as straight pieces between their nodes",
                                               counted(curved->straightened, "pyramid")),
                                   where});
    return stored;
}

} // namespace pyro
