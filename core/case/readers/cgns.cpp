// CGNS (cgns.org, SIDS 3.4): zones are parts, boundary conditions are boundaries.
//
// Errors: as CgnsFile::open, readCgnsMesh, readCgnsValues.
#include "core/case/case_split.h"
#include "core/case/readers/format.h"

#include "core/case/readers/cgns_mesh.h"
#include "core/case/readers/cgns_solution.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <set>
#include <vtkAppendFilter.h>
#include <vtkCellData.h>
#include <vtkDoubleArray.h>
#include <vtkNew.h>
#include <vtkPointData.h>
#include <vtkPoints.h>
#include <vtkStructuredGrid.h>

namespace pyro {
namespace {

class CgnsReader {
public:
    CgnsReader(const CaseSource& source, const CgnsFile& file, Intake& to) : m_source(source), m_file(file), m_to(to) {}

    Done run() {
        const auto zones = m_file.zones();
        if (!zones)
            return tl::unexpected(zones.error());
        for (std::size_t i = 0; i < zones->size(); ++i) {
            const auto& zone = (*zones)[i];
            if (m_to.progress().cancelled())
                return fail(ErrorCode::Cancelled, "reading was cancelled", m_source.file.string());
            m_to.progress().report(static_cast<double>(i) / static_cast<double>(zones->size()), "reading " + zone.name);
            if (auto read = readZone(zone); !read)
                return read;
        }
        return takeBoundaries(*zones);
    }

private:
    std::string where(const std::string& name) const { return fmt::format("{}, {}", m_source.file.string(), name); }

    Done readZone(const CgnsZone& zone) {
        auto mesh = readCgnsMesh(m_file, zone);
        if (!mesh)
            return tl::unexpected(mesh.error());
        Remarks remarks;
        auto values = readCgnsValues(m_file, zone, mesh->nodes.size(), mesh->cells, m_source.step, remarks);
        if (!values)
            return tl::unexpected(values.error());
        mesh->nodes.fields = std::move(values->atNodes);
        auto patches = readCgnsPatches(m_file, zone, *mesh, remarks);
        if (!patches)
            return tl::unexpected(patches.error());
        for (auto& remark : remarks)
            if (m_told.insert(remark.text).second)
                m_to.remark(std::move(remark));
        for (const auto& patch : *patches) {
            // only families are shared by zones
            const auto key = patch.family ? patch.name : patch.name + "\n" + zone.name;
            add(key, patch.name, zone.name, patch.faces, mesh->nodes);
        }
        addLooseFaces(zone, *mesh, *patches);
        return takeParts(zone, *mesh, values->inCells);
    }

    // What is taken out of the mesh is left empty: it need not be held twice. The cells of a zone are one part, but
    // where it has several sections of cells of one kind, or of mixed kinds: these are parts then.
    Done takeParts(const CgnsZone& zone, CgnsMesh& mesh, const std::vector<NamedValues>& inCells) {
        if (zone.structured && zone.dimension == 3) {
            if (mesh.cells == 0)
                return {};
            auto grid = latticeOf(zone, mesh.nodes);
            mesh.nodes = {};
            for (const auto& one : inCells)
                addValues(*grid->GetCellData(), one);
            return m_to.take({zone.name, false, grid, where(zone.name)});
        }
        std::vector<CgnsSection*> sections;
        for (auto& section : mesh.sections)
            if (section.dimension == zone.dimension && section.cells.size() > 0)
                sections.push_back(&section);
        std::set<std::string> kinds;
        for (const auto* section : sections)
            kinds.insert(section->kind);
        const bool byKind = kinds.size() == sections.size() && !kinds.contains("MIXED");
        if (sections.size() == 1) {
            auto grid = gridOf(sections.front()->cells, mesh.nodes);
            sections.front()->cells = {};
            mesh.nodes = {};
            for (const auto& one : inCells)
                addValues(*grid->GetCellData(), one);
            return m_to.take({zone.name, false, grid, where(zone.name)});
        }
        CellRows all;
        std::vector<vtkIdType> cellOf; // positions among the zone's cells
        const auto flush = [&](const std::string& name) -> Done {
            if (all.size() == 0)
                return {};
            auto grid = gridOf(all, mesh.nodes);
            for (const auto& one : inCells)
                addValues(*grid->GetCellData(), one, cellOf);
            all = {};
            cellOf.clear();
            return m_to.take({name, false, grid, where(name)});
        };
        for (const auto* section : sections) {
            std::size_t cell = section->firstCell;
            for (std::size_t i = 0; i < section->cells.size(); ++i) {
                all.add(section->cells.types[i], section->cells.row(i));
                cellOf.push_back(static_cast<vtkIdType>(cell++));
            }
            if (!byKind && sections.size() > 1)
                if (auto taken = flush(zone.name + " " + section->name); !taken)
                    return taken;
        }
        return flush(zone.name);
    }

    static vtkSmartPointer<vtkStructuredGrid> latticeOf(const CgnsZone& zone, const NodeTable& nodes) {
        auto grid = vtkSmartPointer<vtkStructuredGrid>::New();
        grid->SetDimensions(static_cast<int>(zone.vertices(0)), static_cast<int>(zone.vertices(1)),
                            static_cast<int>(zone.vertices(2)));
        vtkNew<vtkDoubleArray> at;
        at->SetNumberOfComponents(3);
        at->SetNumberOfTuples(static_cast<vtkIdType>(nodes.size()));
        std::ranges::copy(nodes.at, at->GetPointer(0));
        vtkNew<vtkPoints> points;
        points->SetData(at);
        grid->SetPoints(points);
        for (const auto& one : nodes.fields)
            addValues(*grid->GetPointData(), one);
        return grid;
    }

    // Sections of faces that no boundary condition names.
    void addLooseFaces(const CgnsZone& zone, const CgnsMesh& mesh, const std::vector<CgnsPatch>& patches) {
        std::set<std::vector<vtkIdType>> named;
        for (const auto& patch : patches)
            for (std::size_t i = 0; i < patch.faces.size(); ++i)
                named.insert(sorted(patch.faces.row(i)));
        for (const auto& section : mesh.sections) {
            if (section.dimension != zone.dimension - 1 || section.kind == "NGON_n")
                continue;
            CellRows left;
            for (std::size_t i = 0; i < section.cells.size(); ++i)
                if (!named.contains(sorted(section.cells.row(i))))
                    left.add(section.cells.types[i], section.cells.row(i));
            if (left.size() > 0)
                add(section.name + "\n" + zone.name, section.name, zone.name, left, mesh.nodes);
        }
    }
    static std::vector<vtkIdType> sorted(std::span<const vtkIdType> row) {
        std::vector<vtkIdType> out(row.begin(), row.end());
        std::ranges::sort(out);
        return out;
    }

    struct Boundary {
        std::string name;
        std::string zone;
        std::vector<vtkSmartPointer<vtkUnstructuredGrid>> pieces;
    };
    void add(const std::string& key, const std::string& name, const std::string& zone, const CellRows& faces,
             const NodeTable& nodes) {
        const auto [at, isNew] = m_byKey.try_emplace(key, m_boundaries.size());
        if (isNew)
            m_boundaries.push_back({name, zone, {}});
        m_boundaries[at->second].pieces.push_back(gridOf(faces, nodes));
    }

    // A name that several zones have for boundaries of their own is told apart by the zone's.
    Done takeBoundaries(const std::vector<CgnsZone>& zones) {
        std::map<std::string, int> times;
        for (const auto& one : m_boundaries)
            ++times[one.name];
        for (const auto& one : m_boundaries) {
            vtkSmartPointer<vtkUnstructuredGrid> grid = one.pieces.front();
            if (one.pieces.size() > 1) {
                vtkNew<vtkAppendFilter> append;
                for (const auto& piece : one.pieces)
                    append->AddInputData(piece);
                append->Update();
                grid = append->GetOutput();
            }
            const auto name = times[one.name] > 1 && zones.size() > 1 ? one.zone + " " + one.name : one.name;
            if (auto taken = m_to.take({name, true, grid, where(name)}); !taken)
                return taken;
        }
        return {};
    }

    const CaseSource& m_source;
    const CgnsFile& m_file;
    Intake& m_to;
    std::set<std::string> m_told; // a remark that holds for every zone is told once
    std::vector<Boundary> m_boundaries;
    std::map<std::string, std::size_t> m_byKey;
};

} // namespace

Done readCgns(const CaseSource& source, Intake& to) {
    const auto file = CgnsFile::open(source.file);
    if (!file)
        return tl::unexpected(file.error());
    for (const auto& one : file->linked())
        to.addSource(one);
    const auto times = file->times();
    if (static_cast<std::size_t>(source.step) < times.size() &&
        std::isfinite(times[static_cast<std::size_t>(source.step)]))
        to.setTime(times[static_cast<std::size_t>(source.step)]);
    return CgnsReader(source, *file, to).run();
}

std::vector<double> cgnsTimes(const std::filesystem::path& file) {
    const auto opened = CgnsFile::open(file);
    return opened ? opened->times() : std::vector<double>();
}

} // namespace pyro
