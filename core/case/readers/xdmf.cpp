// XDMF 2 and 3: grids in XML with their numbers in HDF5, in binary files beside or in the XML itself.
//
// Spatial collections become parts, temporal ones steps; grids that share one mesh are one, with the attributes of all.
// References lead within the file, names of files within its folder. Errors: Syntax with the place in the file;
// NotSupported, FileMissing, LengthMismatch, IndexOutOfRange; NoCells.
#include "core/case/readers/format.h"

#include "core/case/lower_case.h"
#include "core/case/readers/part_split.h"
#include "core/case/readers/plane_case.h"
#include "core/case/readers/remedies.h"
#include "core/case/readers/xdmf_mesh.h"
#include "core/case/readers/xml_scan.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>
#include <fstream>
#include <vtkCellArray.h>
#include <vtkCellData.h>
#include <vtkDataArray.h>
#include <vtkPoints.h>
#include <vtkUnstructuredGrid.h>

namespace pyro {
namespace {

constexpr int deepestGrid = 32;

struct Leaf {
    pugi::xml_node grid;
    std::string name;
};
// One uniform grid or spatial collection at one time.
struct Instant {
    double time = std::nan("");
    std::vector<Leaf> leaves;
};
struct Contents {
    std::vector<Leaf> always; // outside of temporal collections
    std::vector<std::vector<Instant>> series;
};

// `name` in lower case.
bool isCalled(pugi::xml_node grid, const char* attribute, std::string_view name) {
    return lowerCase(grid.attribute(attribute).as_string()) == name;
}

class Reader {
public:
    explicit Reader(const std::filesystem::path& file) : m_file(file), m_data(file, m_document) {}

    Done load() {
        if (auto readable = checkReadable(m_file); !readable)
            return readable;
        // entities of a DTD are not followed
        const auto parsed = m_document.load_file(m_file.c_str(), pugi::parse_default | pugi::parse_trim_pcdata);
        if (!parsed)
            return fail(ErrorCode::Syntax, fmt::format("at byte {}: {}", parsed.offset, parsed.description()),
                        m_file.string(), "It is probably cut short; copy or write it again");
        const auto root = m_document.child("Xdmf");
        if (!root)
            return fail(ErrorCode::FileUnreadable, "this is not an XDMF file: it has no Xdmf element", m_file.string(),
                        "Check that the right file was chosen");
        for (const auto grid : root.child("Domain").children("Grid"))
            if (auto done = collect(grid, m_contents.always, 0, true); !done)
                return done;
        if (m_contents.always.empty() && m_contents.series.empty())
            return fail(ErrorCode::NoCells, "the file has no grid", m_file.string(),
                        "Export the mesh together with the result");
        return {};
    }

    // Of all series together; NaN where nothing is said.
    std::vector<double> times() const {
        std::vector<double> all;
        for (const auto& series : m_contents.series)
            for (const auto& instant : series)
                if (std::ranges::none_of(all, [&](double time) { return time == instant.time; }))
                    all.push_back(instant.time);
        if (std::ranges::all_of(all, [](double time) { return std::isfinite(time); }))
            std::ranges::sort(all);
        return all;
    }

    Done read(int step, Intake& to) {
        auto leaves = m_contents.always;
        const auto all = times();
        if (static_cast<std::size_t>(step) < all.size() && std::isfinite(all[static_cast<std::size_t>(step)]))
            to.setTime(all[static_cast<std::size_t>(step)]);
        for (const auto& series : m_contents.series)
            for (std::size_t i = 0; i < series.size(); ++i)
                if (static_cast<std::size_t>(step) < all.size() &&
                    (std::isfinite(series[i].time) ? series[i].time == all[static_cast<std::size_t>(step)]
                                                   : i == static_cast<std::size_t>(step)))
                    leaves.insert(leaves.end(), series[i].leaves.begin(), series[i].leaves.end());
        if (auto read = meshes(leaves, to); !read)
            return read;
        return hand(to);
    }

private:
    struct Mesh {
        std::string name;
        vtkSmartPointer<vtkPointSet> grid;
        int dimension = 0;
        std::vector<std::pair<pugi::xml_node, pugi::xml_node>> written; // topology and geometry that it was read from
    };

    Done collect(pugi::xml_node written, std::vector<Leaf>& into, int depth, bool seriesToo) {
        const auto found = m_data.resolved(written, "Grid");
        if (!found)
            return tl::unexpected(found.error());
        const auto grid = *found;
        if (depth > deepestGrid)
            return m_data.syntax("its grids lie within each other too deep", grid);
        if (isCalled(grid, "GridType", "collection") && isCalled(grid, "CollectionType", "temporal")) {
            if (!seriesToo)
                return m_data.syntax("a temporal collection lies within another", grid);
            return collectSeries(grid, depth);
        }
        if (isCalled(grid, "GridType", "collection") || isCalled(grid, "GridType", "tree")) {
            for (const auto one : grid.children("Grid"))
                if (auto done = collect(one, into, depth + 1, seriesToo); !done)
                    return done;
            return {};
        }
        if (!isCalled(grid, "GridType", "uniform") && grid.attribute("GridType"))
            return fail(
                ErrorCode::NotSupported,
                fmt::format("grids of the kind \"{:.40}\" are not read", grid.attribute("GridType").as_string()),
                m_file.string(), "Write uniform grids, or collections of them");
        into.push_back({grid, grid.attribute("Name").as_string()});
        return {};
    }

    Done collectSeries(pugi::xml_node grid, int depth) {
        auto& series = m_contents.series.emplace_back();
        const auto listed = listedTimes(grid.child("Time"));
        if (!listed)
            return tl::unexpected(listed.error());
        for (const auto one : grid.children("Grid")) {
            Instant instant;
            if (series.size() < listed->size())
                instant.time = (*listed)[series.size()];
            if (const auto own = one.child("Time"); own && own.attribute("Value"))
                instant.time = own.attribute("Value").as_double(std::nan(""));
            if (auto done = collect(one, instant.leaves, depth + 1, false); !done)
                return done;
            series.push_back(std::move(instant));
        }
        return {};
    }

    Result<std::vector<double>> listedTimes(pugi::xml_node time) {
        if (!time || time.attribute("Value") || !time.child("DataItem"))
            return std::vector<double>();
        const auto read = m_data.numbers(time.child("DataItem"));
        if (!read)
            return tl::unexpected(read.error());
        if (!isCalled(time, "TimeType", "hyperslab"))
            return read->values;
        std::vector<double> out; // start, step, count
        for (std::size_t i = 0; read->values.size() == 3 && static_cast<double>(i) < read->values[2] && i < 1'000'000;
             ++i)
            out.push_back(read->values[0] + static_cast<double>(i) * read->values[1]);
        return out;
    }

    static bool sameMesh(vtkPointSet& a, vtkPointSet& b) {
        if (a.GetNumberOfPoints() != b.GetNumberOfPoints() || a.GetNumberOfCells() != b.GetNumberOfCells())
            return false;
        auto* first = vtkUnstructuredGrid::SafeDownCast(&a);
        auto* second = vtkUnstructuredGrid::SafeDownCast(&b);
        for (vtkIdType i = 0; i < a.GetNumberOfPoints(); ++i) {
            std::array<double, 3> at{};
            std::array<double, 3> other{};
            a.GetPoint(i, at.data());
            b.GetPoint(i, other.data());
            if (at != other)
                return false;
        }
        auto* ids = first->GetCells()->GetConnectivityArray();
        auto* others = second->GetCells()->GetConnectivityArray();
        if (ids->GetNumberOfValues() != others->GetNumberOfValues())
            return false;
        for (vtkIdType i = 0; i < ids->GetNumberOfValues(); ++i)
            if (ids->GetComponent(i, 0) != others->GetComponent(i, 0))
                return false;
        return true;
    }

    // The mesh of a leaf: one that is known, by what it is read from or by what it holds, or a new one.
    Result<vtkPointSet*> meshOf(const Leaf& leaf) {
        const auto topology = m_data.child(leaf.grid, "Topology");
        const auto geometry = m_data.child(leaf.grid, "Geometry");
        if (!topology || !geometry)
            return tl::unexpected((topology ? geometry : topology).error());
        const std::pair written(*topology, *geometry);
        for (const auto& mesh : m_meshes)
            if (std::ranges::find(mesh.written, written) != mesh.written.end())
                return mesh.grid.Get();
        auto grid = xdmfMesh(leaf.grid, m_data);
        if (!grid)
            return tl::unexpected(grid.error());
        auto known = std::ranges::find_if(m_meshes, [&](const Mesh& mesh) { return sameMesh(*mesh.grid, **grid); });
        if (known == m_meshes.end())
            known = m_meshes.insert(known, {leaf.name, *grid, dimensionOf(**grid), {}});
        known->written.push_back(written);
        return known->grid.Get();
    }

    // Grids that a library writes for each attribute, all on one mesh, become one.
    Done meshes(const std::vector<Leaf>& leaves, Intake& to) {
        for (std::size_t i = 0; i < leaves.size(); ++i) {
            if (to.progress().cancelled())
                return fail(ErrorCode::Cancelled, "reading was cancelled", m_file.string());
            to.progress().report(static_cast<double>(i) / static_cast<double>(leaves.size()),
                                 fmt::format("reading {}", leaves[i].name));
            const auto mesh = meshOf(leaves[i]);
            if (!mesh)
                return tl::unexpected(mesh.error());
            Remarks remarks;
            if (auto added = addXdmfAttributes(leaves[i].grid, m_data, **mesh, remarks); !added)
                return added;
            for (auto& remark : remarks)
                to.remark(std::move(remark));
        }
        for (const auto& source : m_data.sources())
            to.addSource(source);
        return {};
    }

    // Meshes of faces beside one of volumes are boundaries, one for each number of their array of whole numbers.
    Done hand(Intake& to) {
        int most = 0;
        for (const auto& mesh : m_meshes)
            most = std::max(most, mesh.dimension);
        const auto parts = std::ranges::count(m_meshes, most, &Mesh::dimension);
        for (auto& mesh : m_meshes) {
            const bool boundary = mesh.dimension < most;
            if (!boundary && parts == 1) {
                if (auto taken = to.takeLone({m_file.stem().string(), false, mesh.grid, m_file.string()}); !taken)
                    return taken;
                continue;
            }
            const auto pieces = boundary ? byWholeNumbers(*mesh.grid) : Result<SplitParts>(SplitParts{});
            if (!pieces)
                return tl::unexpected(pieces.error());
            if (pieces->parts.empty()) {
                if (auto taken = to.take({mesh.name, boundary, mesh.grid, m_file.string()}); !taken)
                    return taken;
            }
            for (const auto& piece : pieces->parts)
                if (auto taken = to.take({piece.name, boundary, piece.grid, m_file.string()}); !taken)
                    return taken;
        }
        return {};
    }

    Result<SplitParts> byWholeNumbers(vtkPointSet& grid) const {
        for (int i = 0; i < grid.GetCellData()->GetNumberOfArrays(); ++i)
            if (auto* array = grid.GetCellData()->GetArray(i);
                array != nullptr && array->GetNumberOfComponents() == 1 && array->GetDataType() != VTK_DOUBLE)
                return splitParts(grid, array->GetName(), m_file.string());
        return SplitParts{};
    }

    std::filesystem::path m_file;
    pugi::xml_document m_document;
    XdmfData m_data;
    Contents m_contents;
    std::vector<Mesh> m_meshes;
};

} // namespace

Done readXdmf(const CaseSource& source, Intake& to) {
    Reader reader(source.file);
    if (auto loaded = reader.load(); !loaded)
        return loaded;
    return reader.read(source.step, to);
}

std::vector<double> xdmfTimes(const std::filesystem::path& file) {
    Reader reader(file);
    return reader.load() ? reader.times() : std::vector<double>();
}

} // namespace pyro
