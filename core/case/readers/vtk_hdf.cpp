// VTK's HDF files ("VTKHDF File Format", version 1.0 and 2.0): an unstructured grid, in pieces and steps, or an image.
//
// Pieces are joined where nodes have the same coordinates to the last bit. Errors: as HdfFile; FormatUnknown for other
// HDF5 files; NotSupported for kinds that are not read; LengthMismatch, IndexOutOfRange.
#include "core/case/readers/format.h"

#include "core/case/mixed_bits.h"
#include "core/case/readers/grid.h"
#include "core/case/readers/hdf_data.h"
#include "core/case/readers/loose_cells.h"
#include "core/case/readers/remedies.h"

#include <algorithm>
#include <cstring>
#include <fmt/format.h>
#include <unordered_map>
#include <vtkCellData.h>
#include <vtkCellType.h>
#include <vtkHDFReader.h>
#include <vtkNew.h>

namespace pyro {
namespace {

struct PlaceHash {
    std::size_t operator()(const std::array<double, 3>& at) const {
        std::uint64_t hash = 0;
        for (const double one : at) {
            std::uint64_t bits = 0;
            std::memcpy(&bits, &one, sizeof bits);
            hash = mixedBits(hash ^ bits);
        }
        return hash;
    }
};

class HdfGrid {
public:
    HdfGrid(const CaseSource& source, const HdfFile& file) : m_source(source), m_file(file) {}

    Result<vtkSmartPointer<vtkUnstructuredGrid>> run() {
        if (auto found = findPieces(); !found)
            return tl::unexpected(found.error());
        for (auto piece = m_firstPiece; piece < m_firstPiece + m_pieces; ++piece)
            if (auto read = readPiece(piece); !read)
                return tl::unexpected(read.error());
        if (m_cells.size() == 0)
            return fail(ErrorCode::NoCells, "the file has no cells", m_source.file.string(),
                        "Export the mesh together with the result");
        auto grid = gridOf(m_cells, m_table);
        for (const auto& one : m_inCells)
            addValues(*grid->GetCellData(), one);
        return grid;
    }

private:
    static constexpr const char* steps = "/VTKHDF/Steps";
    tl::unexpected<Error> stop(ErrorCode code, const std::string& what) const {
        return fail(code, what, m_source.file.string(), writeAgain);
    }

    // An entry of a list of offsets among the steps; 0 where there are none.
    Result<std::uint64_t> offset(const std::string& list) const {
        const auto path = std::string(steps) + "/" + list;
        if (!m_file.has(path))
            return std::uint64_t{0};
        const auto read = m_file.read(path, HdfFile::Rows{static_cast<std::uint64_t>(m_source.step), 1});
        if (!read)
            return tl::unexpected(read.error());
        if (read->values.empty() || !(read->values[0] >= 0))
            return stop(ErrorCode::LengthMismatch, fmt::format("\"{}\" is no list of offsets", path));
        return static_cast<std::uint64_t>(read->values[0]);
    }

    Done findPieces() {
        for (auto& [to, name] : {std::pair{&m_points, "NumberOfPoints"},
                                 {&m_counts, "NumberOfCells"},
                                 {&m_ids, "NumberOfConnectivityIds"}}) {
            auto read = m_file.read(std::string("/VTKHDF/") + name);
            if (!read)
                return tl::unexpected(read.error());
            *to = std::move(read->values);
        }
        m_pieces = m_points.size();
        const bool stepped = m_file.has(steps);
        for (auto& [to, name] : {std::pair{&m_firstPiece, "PartOffsets"},
                                 {&m_pointAt, "PointOffsets"},
                                 {&m_cellAt, "CellOffsets"},
                                 {&m_idAt, "ConnectivityIdOffsets"}}) {
            const auto found = stepped ? offset(name) : Result<std::uint64_t>(std::uint64_t{0});
            if (!found)
                return tl::unexpected(found.error());
            *to = *found;
        }
        if (stepped) {
            const auto count = m_file.has(std::string(steps) + "/NumberOfParts")
                                   ? offset("NumberOfParts")
                                   : Result<std::uint64_t>(std::uint64_t{1});
            if (!count)
                return tl::unexpected(count.error());
            m_pieces = *count;
        }
        if (m_counts.size() != m_points.size() || m_ids.size() != m_points.size() || m_firstPiece > m_points.size() ||
            m_pieces > m_points.size() - m_firstPiece)
            return stop(ErrorCode::LengthMismatch, "its lists of pieces do not fit each other");
        m_offsetAt = m_cellAt + m_firstPiece; // each piece has one offset more than cells
        return {};
    }

    Done readPiece(std::uint64_t piece) {
        const auto points = static_cast<std::uint64_t>(std::max(m_points[piece], 0.0));
        const auto cells = static_cast<std::uint64_t>(std::max(m_counts[piece], 0.0));
        const auto ids = static_cast<std::uint64_t>(std::max(m_ids[piece], 0.0));
        const auto at = m_file.read("/VTKHDF/Points", HdfFile::Rows{m_pointAt, points});
        const auto connectivity = m_file.read("/VTKHDF/Connectivity", HdfFile::Rows{m_idAt, ids});
        const auto offsets = m_file.read("/VTKHDF/Offsets", HdfFile::Rows{m_offsetAt, cells + 1});
        const auto types = m_file.read("/VTKHDF/Types", HdfFile::Rows{m_cellAt, cells});
        for (const auto* one : {&at, &connectivity, &offsets, &types})
            if (!*one)
                return tl::unexpected(one->error());
        if (at->values.size() != 3 * points)
            return stop(ErrorCode::LengthMismatch, "its points do not have three coordinates");
        std::vector<vtkIdType> nodeOf(points);
        for (std::uint64_t i = 0; i < points; ++i) {
            const std::array<double, 3> place{at->values[3 * i], at->values[3 * i + 1], at->values[3 * i + 2]};
            const auto next = static_cast<vtkIdType>(m_table.size());
            nodeOf[i] = m_pieces > 1 ? m_known.try_emplace(place, next).first->second : next;
            if (nodeOf[i] == next)
                m_table.at.insert(m_table.at.end(), place.begin(), place.end());
        }
        std::vector<vtkIdType> nodes;
        for (std::uint64_t cell = 0; cell < cells; ++cell) {
            const double from = offsets->values[cell];
            const double to = offsets->values[cell + 1];
            const double type = types->values[cell];
            if (!(from >= 0 && to >= from && to <= static_cast<double>(ids)) || !(type >= 0 && type < 256))
                return stop(ErrorCode::LengthMismatch,
                            fmt::format("cell {} does not have the nodes of its type", cell));
            if (static_cast<int>(type) == VTK_POLYHEDRON)
                return fail(ErrorCode::NotSupported, "it has polyhedra, which are not read from this kind of file",
                            m_source.file.string(), "Export them as .vtu");
            nodes.clear();
            for (auto i = static_cast<std::size_t>(from); i < static_cast<std::size_t>(to); ++i) {
                const double id = connectivity->values[i];
                if (!(id >= 0 && id < static_cast<double>(points)))
                    return stop(ErrorCode::IndexOutOfRange,
                                fmt::format("cell {} refers to node {:.0f}, but there are {}", cell, id, points));
                nodes.push_back(nodeOf[static_cast<std::size_t>(id)]);
            }
            m_cells.add(static_cast<int>(type), nodes);
        }
        if (auto read = readFields("PointData", points, m_pointAt, nodeOf); !read)
            return read;
        if (auto read = readFields("CellData", cells, m_cellAt, {}); !read)
            return read;
        m_pointAt += points;
        m_cellAt += cells;
        m_idAt += ids;
        m_offsetAt += cells + 1;
        return {};
    }

    // `nodeOf`: of node fields; of cell fields the next ones are appended. With steps each array tells where its own
    // begin.
    Done readFields(const std::string& group, std::uint64_t count, std::uint64_t meshAt,
                    const std::vector<vtkIdType>& nodeOf) {
        const bool nodes = group == "PointData";
        for (const auto& name : m_file.names("/VTKHDF/" + group)) {
            auto first = meshAt;
            const auto offsets = fmt::format("{}Offsets/{}", group, name);
            if (m_file.has(fmt::format("{}/{}", steps, offsets))) {
                const auto own = offset(offsets);
                if (!own)
                    return tl::unexpected(own.error());
                first = *own + m_read[group];
            }
            const auto read = m_file.read(fmt::format("/VTKHDF/{}/{}", group, name), HdfFile::Rows{first, count});
            if (!read) {
                if (read.error().code == ErrorCode::WrongType)
                    continue; // text is no quantity
                return tl::unexpected(read.error());
            }
            auto& list = nodes ? m_table.fields : m_inCells;
            auto found = std::ranges::find(list, name, &NamedValues::name);
            if (found == list.end())
                found = list.insert(list.end(), NamedValues{name, count > 0 ? read->values.size() / count : 1, {}});
            const auto width = found->components;
            if (width == 0 || read->values.size() != width * count)
                return stop(ErrorCode::LengthMismatch,
                            fmt::format("\"{}\" does not have {} values for each entry", name, width));
            if (!nodes) {
                found->values.insert(found->values.end(), read->values.begin(), read->values.end());
                continue;
            }
            found->values.resize(m_table.size() * width, std::nan(""));
            for (std::uint64_t i = 0; i < count; ++i)
                std::copy_n(read->values.begin() + static_cast<std::ptrdiff_t>(i * width), width,
                            found->values.begin() +
                                static_cast<std::ptrdiff_t>(static_cast<std::size_t>(nodeOf[i]) * width));
        }
        m_read[group] += count;
        return {};
    }

    const CaseSource& m_source;
    const HdfFile& m_file;
    std::vector<double> m_points; // per piece
    std::vector<double> m_counts;
    std::vector<double> m_ids;
    std::uint64_t m_firstPiece = 0;
    std::uint64_t m_pieces = 0;
    std::uint64_t m_pointAt = 0;
    std::uint64_t m_cellAt = 0;
    std::uint64_t m_idAt = 0;
    std::uint64_t m_offsetAt = 0;
    std::unordered_map<std::string, std::uint64_t> m_read; // entries of the step so far, by group
    std::unordered_map<std::array<double, 3>, vtkIdType, PlaceHash> m_known;
    NodeTable m_table;
    CellRows m_cells;
    std::vector<NamedValues> m_inCells;
};

Result<vtkSmartPointer<vtkPointSet>> readImage(const std::filesystem::path& file) {
    vtkNew<vtkHDFReader> reader;
    const auto complaint = complaintDuring([&] {
        reader->SetFileName(file.c_str());
        reader->Update();
    });
    if (!complaint.empty())
        return fail(ErrorCode::FileUnreadable, "its data cannot be read: " + complaint, file.string(), writeAgain);
    auto* grid = vtkDataSet::SafeDownCast(reader->GetOutputDataObject(0));
    if (grid == nullptr || grid->GetNumberOfCells() == 0)
        return fail(ErrorCode::NoCells, "the file has no cells", file.string(),
                    "Export the mesh together with the result");
    return asCells(*grid, file.string());
}

std::vector<double> timesIn(const HdfFile& file) {
    constexpr const char* values = "/VTKHDF/Steps/Values";
    return file.has(values)
               ? file.read(values).map([](const HdfArray& read) { return read.values; }).value_or(std::vector<double>())
               : std::vector<double>();
}

} // namespace

Done readVtkHdf(const CaseSource& source, Intake& to) {
    const auto file = HdfFile::open(source.file);
    if (!file)
        return tl::unexpected(file.error());
    const auto type = (*file)->text("/VTKHDF", "Type");
    if (!type)
        return fail(ErrorCode::FormatUnknown,
                    "it is an HDF5 file, but not one of VTK's: it has no group VTKHDF with a kind",
                    source.file.string(), "Open the file that tells of it (.xdmf, .cgns), or export again");
    if (*type != "UnstructuredGrid" && *type != "ImageData")
        return fail(ErrorCode::NotSupported,
                    fmt::format("its kind is \"{:.60}\"; unstructured grids and images are read", *type),
                    source.file.string(), "Export one grid, or blocks in a .vtm");
    if (*type == "ImageData" && (*file)->has("/VTKHDF/Steps"))
        return fail(ErrorCode::NotSupported, "it is an image with steps; steps are read of unstructured grids",
                    source.file.string(), "Export each step as .vti");
    if (const auto times = timesIn(**file); static_cast<std::size_t>(source.step) < times.size())
        to.setTime(times[static_cast<std::size_t>(source.step)]);
    auto grid = *type == "ImageData"
                    ? readImage(source.file)
                    : HdfGrid(source, **file).run().map([](auto made) { return vtkSmartPointer<vtkPointSet>(made); });
    if (!grid)
        return tl::unexpected(grid.error());
    return to.takeLone({source.file.stem().string(), false, std::move(*grid), source.file.string()});
}

std::vector<double> vtkHdfTimes(const std::filesystem::path& file) {
    const auto opened = HdfFile::open(file);
    return opened ? timesIn(**opened) : std::vector<double>();
}

} // namespace pyro
