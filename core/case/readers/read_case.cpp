#include "core/case/readers/read_case.h"

#include "core/case/case.h"
#include "core/case/readers/format.h"
#include "core/case/readers/grid.h"
#include "core/case/readers/joined_nodes.h"
#include "core/case/readers/made_deep.h"
#include "core/case/readers/part_split.h"
#include "core/case/readers/plane_case.h"
#include "core/case/readers/thick_shells.h"
#include "core/case/store.h"
#include "core/feedback/counted.h"

#include <cmath>
#include <fmt/format.h>
#include <set>
#include <vtkDataArray.h>
#include <vtkFieldData.h>
#include <vtkUnstructuredGrid.h>

namespace pyro {
namespace {

class StoreIntake final : public Intake {
public:
    StoreIntake(const CaseSource& request, const std::filesystem::path& storeFile, Progress& progress)
        : m_request(request), m_store(storeFile), m_progress(progress), m_sources{request.file} {}

    // As long as all may be a case in two dimensions they are held back.
    Done take(NamedGrid one) override {
        join(one);
        if (m_inSpace)
            return keep(std::move(one));
        const bool flat = mayBePlane(one) || !m_request.as.thickness.empty();
        m_held.push_back(std::move(one));
        return flat ? Done() : keepHeld();
    }

    Done takeLone(NamedGrid one) override {
        join(one);
        auto pieces = splitParts(*one.grid, m_request.as.parts, one.where);
        if (!pieces)
            return tl::unexpected(pieces.error());
        m_lone = LoneGrid{pieces->parts.empty() ? std::string() : pieces->array, pieces->couldBe};
        if (pieces->parts.empty())
            return take(std::move(one));
        takeTime(*one.grid);
        std::vector<int> dimensions;
        for (const auto& piece : pieces->parts)
            dimensions.push_back(dimensionOf(*piece.grid));
        const int most = std::ranges::max(dimensions);
        const auto parts = static_cast<std::size_t>(std::ranges::count(dimensions, most));
        auto said = fmt::format("the cell array \"{}\" divides the grid into {}", pieces->array,
                                counted(parts, "part"));
        if (parts < pieces->parts.size())
            said += " and " + counted(pieces->parts.size() - parts, "boundary");
        m_remarks.push_back({Severity::Note, "parts-split", said, one.where});
        // faces among solids, edges among faces: what a mesher marked as boundary
        for (std::size_t i = 0; i < pieces->parts.size(); ++i) {
            auto& piece = pieces->parts[i];
            const int dimension = dimensions[i];
            if (dimension == 0) {
                m_remarks.push_back({Severity::Note, "cells-left-out",
                                     fmt::format("\"{}\" has only vertices and is left out", piece.name), one.where});
                continue;
            }
            const bool boundary = dimension < most;
            if (auto taken = take({piece.name, boundary, std::move(piece.grid), one.where}); !taken)
                return taken;
        }
        return {};
    }

    void remark(Remark remark) override { m_remarks.push_back(std::move(remark)); }
    void addSource(const std::filesystem::path& file) override { m_sources.push_back(file); }
    void setTime(double seconds) override { m_time = seconds; }
    void setMonitored(MonitoredInFile monitored) override { m_monitored = std::move(monitored); }
    Progress& progress() override { return m_progress; }

    Done finish() {
        if (!m_inSpace)
            if (auto kept = keepFlat(); !kept)
                return kept;
        if (m_request.as.depth && !m_plane)
            m_remarks.push_back({Severity::Warning, "depth-unused",
                                 "the survey gives a depth, but the case is none in two dimensions; it is not used",
                                 m_request.file.string()});
        if (m_monitored) {
            m_store.add("monitored/times", std::span<const double>(m_monitored->times));
            for (std::size_t i = 0; i < m_monitored->columns.size(); ++i)
                m_store.add(fmt::format("monitored/{}", i), std::span<const double>(m_monitored->columns[i].second));
        }
        if (m_parts.empty())
            return fail(ErrorCode::NoCells, "the file has boundaries but no part", m_request.file.string(),
                        "Add the mesh of the parts to it");
        return m_store.finish(meta());
    }

private:
    // Cells that share no node would each be a body of its own.
    void join(NamedGrid& one) {
        auto* grid = vtkUnstructuredGrid::SafeDownCast(one.grid);
        if (one.boundary || grid == nullptr || !sharesNoNode(*grid))
            return;
        auto joined = joinedNodes(*grid, SamePlace::Nearly);
        if (!joined)
            return;
        m_remarks.push_back({Severity::Note, "nodes-joined",
                             fmt::format("no two cells share a node; {} at the same place are joined",
                                         counted(static_cast<std::uint64_t>(joined->fewer), "node")),
                             one.name});
        if (!joined->torn.empty())
            m_remarks.push_back({Severity::Warning, "values-differ",
                                 fmt::format("at joined nodes \"{}\" differs from cell to cell by up to {:.2g} % of "
                                             "its range; the mean is taken",
                                             joined->torn, 100 * joined->by),
                                 one.name});
        one.grid = joined->grid;
    }

    Done keepHeld() {
        m_inSpace = true;
        for (auto& one : m_held)
            if (auto kept = keep(std::move(one)); !kept)
                return kept;
        m_held.clear();
        return {};
    }

    // All that was held back: as a case in two dimensions where it lies in a plane, else as the surfaces it is.
    Done keepPlane() {
        for (auto& one : m_held) // whatever the file calls them, lines beside faces are edges of theirs
            one.boundary = one.boundary || dimensionOf(*one.grid) == 1;
        const auto normal = normalOfPlane(m_held);
        if (!normal)
            return keepHeld();
        m_plane = PlaneCase{*normal, m_request.as.depth.value_or(1), m_request.as.depth.has_value()};
        Point across = *normal;
        for (auto& one : across)
            one *= m_plane->depth;
        for (auto& one : m_held) {
            const auto cells = surfaceCells(*one.grid, one.where);
            if (!cells)
                return tl::unexpected(cells.error());
            one.asInFile = {static_cast<std::uint64_t>(one.grid->GetNumberOfPoints()),
                            static_cast<std::uint64_t>(one.grid->GetNumberOfCells())};
            one.grid = madeDeep(*cells, {[&](vtkIdType) { return across; }});
        }
        const auto said = m_plane->given ? fmt::format("{:.4g} mm deep as the survey says", 1e3 * m_plane->depth)
                                         : std::string("1 m deep, so that heat flows are per metre of depth");
        m_remarks.push_back(
            {Severity::Note, "case-plane",
             fmt::format("the cells lie in a plane: a case in two dimensions, read {}; its boundaries are edges", said),
             m_request.file.string()});
        return keepHeld();
    }

    // What was held back because it may be no case in space, or because shells have a thickness.
    Done keepFlat() {
        const auto& thickness = m_request.as.thickness;
        if (std::ranges::any_of(m_held,
                                [&](const NamedGrid& one) { return !one.boundary && thickness.contains(one.name); }))
            return keepShells();
        for (const auto& [name, unused] : thickness)
            tellUnused(name, "the case has no such part");
        return std::ranges::all_of(m_held, mayBePlane) ? keepPlane() : keepHeld();
    }
    void tellUnused(const std::string& part, std::string_view why) {
        m_remarks.push_back({Severity::Warning, "thickness-unused",
                             fmt::format("the survey gives \"{}\" a thickness, but {}; it is not used", part, why),
                             m_request.file.string()});
    }

    // All of them, since faces of several parts meet; those of known thickness as the solids they stand for.
    Done keepShells() {
        const auto& thickness = m_request.as.thickness;
        for (auto& one : m_held) {
            one.boundary = one.boundary || dimensionOf(*one.grid) == 1; // edges of the shells
            one.name = uniqueName(one.name, one.boundary ? m_boundaryNames : m_partNames);
        }
        auto thick = thickenShells(m_held, thickness);
        if (!thick)
            return tl::unexpected(thick.error());
        std::set<std::string> used;
        for (std::size_t i = 0; i < m_held.size(); ++i) {
            auto one = std::move(m_held[i]);
            const double here = thick->thickness[i];
            if (here > 0) {
                used.insert(one.name);
                m_remarks.push_back({Severity::Note, "shell-thick",
                                     fmt::format("its faces are read as a solid {:.4g} mm thick, half of it to each "
                                                 "side; temperatures are the same all across it",
                                                 1e3 * here),
                                     one.name});
            }
            if (auto kept = store(std::move(one), here); !kept)
                return kept;
        }
        for (const auto& [name, unused] : thickness)
            if (!used.contains(name))
                tellUnused(name, m_partNames.contains(name) ? "its cells are not those of a shell"
                                                            : "the case has no such part");
        if (thick->torn > 0)
            m_remarks.push_back(
                {Severity::Warning, "shells-apart",
                 fmt::format(
                     "at {} three faces or more meet; shells are apart there, heat from one to another is not told",
                     counted(thick->torn, "edge")),
                 m_request.file.string()});
        if (thick->steps > 0)
            m_remarks.push_back({Severity::Warning, "shells-step",
                                 fmt::format("at {} shells of different thickness meet; they share no face there, heat "
                                             "from one to another is not told",
                                             counted(thick->steps, "node")),
                                 m_request.file.string()});
        if (thick->sharp > 0)
            m_remarks.push_back({Severity::Warning, "shells-sharp",
                                 fmt::format("at {} shells are folded so sharply that their mitre is cut off",
                                             counted(thick->sharp, "node")),
                                 m_request.file.string()});
        m_held.clear();
        return {};
    }

    Done keep(NamedGrid one) {
        one.name = uniqueName(one.name, one.boundary ? m_boundaryNames : m_partNames);
        return store(std::move(one), 0);
    }

    // Under its own name, which no other has. `thickness`: of a part of shells, else 0.
    Done store(NamedGrid one, double thickness) {
        takeTime(*one.grid);
        auto& list = one.boundary ? m_boundaries : m_parts;
        const auto& name = one.name;
        const auto key = fmt::format("{}/{}", one.boundary ? "boundary" : "part", list.size());
        auto stored = storeGrid(*one.grid, key, name, one.where, m_store);
        if (!stored)
            return tl::unexpected(stored.error());
        stored->entry["file_nodes"] = one.asInFile ? one.asInFile->nodes
                                                   : static_cast<std::uint64_t>(one.grid->GetNumberOfPoints());
        if (one.asInFile)
            stored->entry["file_cells"] = one.asInFile->cells;
        if (thickness > 0)
            stored->entry["thickness"] = thickness;
        if (!one.boundary && stored->entry["dimension"] == 2)
            m_remarks.push_back({Severity::Note, "part-surface",
                                 "it is a surface and has an area, no volume; with a thickness (Cases, Parts) it is "
                                 "read as a shell, along which heat flows",
                                 name});
        list.push_back(std::move(stored->entry));
        m_remarks.insert(m_remarks.end(), stored->remarks.begin(), stored->remarks.end());
        return {};
    }

    std::string uniqueName(std::string name, std::set<std::string>& taken) {
        if (name.empty())
            name = fmt::format("part {}", taken.size() + 1);
        std::string unique = name;
        for (int copy = 2; taken.contains(unique); ++copy)
            unique = fmt::format("{} ({})", name, copy);
        if (unique != name)
            m_remarks.push_back({Severity::Warning, "duplicate-name",
                                 fmt::format("the name \"{}\" occurs twice; the later one reads \"{}\"", name, unique),
                                 m_request.file.string()});
        taken.insert(unique);
        return unique;
    }

    void takeTime(vtkPointSet& grid) {
        auto* time = grid.GetFieldData()->GetArray("TimeValue");
        if (!m_time && time != nullptr && time->GetNumberOfValues() > 0)
            m_time = time->GetComponent(0, 0);
    }

    nlohmann::json meta() const {
        auto remarks = nlohmann::json::array();
        for (const auto& remark : m_remarks)
            remarks.push_back({{"severity", static_cast<int>(remark.severity)},
                               {"code", remark.code},
                               {"text", remark.text},
                               {"where", remark.where}});
        nlohmann::json meta{{"version", storeVersion}, {"file", m_request.file.string()},
                            {"parts", m_parts},        {"boundaries", m_boundaries},
                            {"remarks", remarks},      {"sources", sourceStamps(m_sources)},
                            {"step", m_request.step}};
        meta["as"] = m_request.as.toJson();
        if (m_lone)
            meta["lone"] = {{"by", m_lone->dividedBy}, {"could_be", m_lone->couldBe}};
        for (std::size_t i = 0; m_monitored && i < m_monitored->columns.size(); ++i)
            meta["monitored"].push_back(m_monitored->columns[i].first);
        if (m_plane)
            meta["plane"] = {{"normal", m_plane->normal}, {"depth", m_plane->depth}, {"given", m_plane->given}};
        if (m_time && std::isfinite(*m_time))
            meta["time"] = *m_time;
        return meta;
    }

    const CaseSource& m_request;
    ArrayFileWriter m_store;
    Progress& m_progress;
    nlohmann::json m_parts = nlohmann::json::array();
    nlohmann::json m_boundaries = nlohmann::json::array();
    std::set<std::string> m_partNames;
    std::set<std::string> m_boundaryNames;
    std::vector<std::filesystem::path> m_sources;
    std::optional<double> m_time;
    Remarks m_remarks;
    bool m_inSpace = false; // whether anything is there that no case in two dimensions has
    std::vector<NamedGrid> m_held;
    std::optional<PlaneCase> m_plane;
    std::optional<LoneGrid> m_lone;
    std::optional<MonitoredInFile> m_monitored;
};

} // namespace

Done readCaseIntoStore(const CaseSource& request, const std::filesystem::path& storeFile, Progress& progress) {
    if (auto readable = checkReadable(request.file); !readable)
        return readable;
    const auto* format = formatOf(request.file);
    if (format == nullptr)
        return fail(ErrorCode::FormatUnknown,
                    fmt::format("files ending in \"{}\" are not read", request.file.extension().string()),
                    request.file.string(), "Read are " + endingsRead());
    StoreIntake intake(request, storeFile, progress);
    if (auto read = format->read(request, intake); !read)
        return read;
    return intake.finish();
}

} // namespace pyro
