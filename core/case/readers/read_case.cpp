#include "core/case/readers/read_case.h"

#include "core/case/case.h"
#include "core/case/readers/format.h"
#include "core/case/readers/grid.h"
#include "core/case/readers/joined_nodes.h"
#include "core/case/readers/part_split.h"
#include "core/case/readers/plane_case.h"
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
        const bool flat = mayBePlane(one);
        m_held.push_back(std::move(one));
        return flat ? Done() : keepHeld();
    }

    Done takeLone(NamedGrid one) override {
        join(one);
        auto pieces = splitParts(*one.grid, m_request.parts, one.where);
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
        auto said = fmt::format("the cell array \"{}\" divides the grid into {}", pieces->array, counted(parts, "part"));
        if (parts < pieces->parts.size())
            said += " and " + counted(pieces->parts.size() - parts, "boundary");
        m_remarks.push_back({Severity::Note, "parts-split", said, one.where});
        for (std::size_t i = 0; i < pieces->parts.size(); ++i) { // faces among solids, edges among faces: what a mesher marked as boundary
            auto& piece = pieces->parts[i];
            const int dimension = dimensions[i];
            if (dimension == 0) {
                m_remarks.push_back({Severity::Note, "cells-left-out", fmt::format("\"{}\" has only vertices and is left out", piece.name), one.where});
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
            if (auto kept = keepPlane(); !kept)
                return kept;
        if (m_request.depth && !m_plane)
            m_remarks.push_back({Severity::Warning, "depth-unused", "the survey gives a depth, but the case is none in two dimensions; it is not used", m_request.file.string()});
        if (m_monitored) {
            m_store.add("monitored/times", std::span<const double>(m_monitored->times));
            for (std::size_t i = 0; i < m_monitored->columns.size(); ++i)
                m_store.add(fmt::format("monitored/{}", i), std::span<const double>(m_monitored->columns[i].second));
        }
        if (m_parts.empty())
            return fail(ErrorCode::NoCells, "the file has boundaries but no part", m_request.file.string(), "Add the mesh of the parts to it");
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
        m_remarks.push_back({Severity::Note, "nodes-joined", fmt::format("no two cells share a node; {} at the same place are joined", counted(static_cast<std::uint64_t>(joined->fewer), "node")), one.name});
        if (!joined->torn.empty())
            m_remarks.push_back({Severity::Warning, "values-differ", fmt::format("at joined nodes \"{}\" differs from cell to cell by up to {:.2g} % of its range; the mean is taken", joined->torn, 100 * joined->by), one.name});
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
        m_plane = PlaneCase{*normal, m_request.depth.value_or(1), m_request.depth.has_value()};
        for (auto& one : m_held) {
            auto deep = madeDeep(*one.grid, *normal, m_plane->depth, one.where);
            if (!deep)
                return tl::unexpected(deep.error());
            one.asInFile = {static_cast<std::uint64_t>(one.grid->GetNumberOfPoints()), static_cast<std::uint64_t>(one.grid->GetNumberOfCells())};
            one.grid = std::move(*deep);
        }
        const auto said = m_plane->given ? fmt::format("{:.4g} mm deep as the survey says", 1e3 * m_plane->depth) : std::string("1 m deep, so that heat flows are per metre of depth");
        m_remarks.push_back({Severity::Note, "case-plane", fmt::format("the cells lie in a plane: a case in two dimensions, read {}; its boundaries are edges", said), m_request.file.string()});
        return keepHeld();
    }

    Done keep(NamedGrid one) {
        takeTime(*one.grid);
        auto& list = one.boundary ? m_boundaries : m_parts;
        const auto name = uniqueName(one.name, one.boundary ? m_boundaryNames : m_partNames);
        const auto key = fmt::format("{}/{}", one.boundary ? "boundary" : "part", list.size());
        auto stored = storeGrid(*one.grid, key, name, one.where, m_store);
        if (!stored)
            return tl::unexpected(stored.error());
        stored->entry["file_nodes"] = one.asInFile ? one.asInFile->nodes : static_cast<std::uint64_t>(one.grid->GetNumberOfPoints());
        if (one.asInFile)
            stored->entry["file_cells"] = one.asInFile->cells;
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
            m_remarks.push_back({Severity::Warning, "duplicate-name", fmt::format("the name \"{}\" occurs twice; the later one reads \"{}\"", name, unique), m_request.file.string()});
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
            remarks.push_back({{"severity", static_cast<int>(remark.severity)}, {"code", remark.code}, {"text", remark.text}, {"where", remark.where}});
        nlohmann::json meta{{"version", storeVersion}, {"file", m_request.file.string()}, {"parts", m_parts}, {"boundaries", m_boundaries},
                            {"remarks", remarks},      {"sources", sourceStamps(m_sources)}, {"step", m_request.step}};
        meta["split"] = m_request.parts ? nlohmann::json(*m_request.parts) : nlohmann::json();
        meta["depth"] = m_request.depth ? nlohmann::json(*m_request.depth) : nlohmann::json();
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
        return fail(ErrorCode::FormatUnknown, fmt::format("files ending in \"{}\" are not read", request.file.extension().string()), request.file.string(), "Read are " + endingsRead());
    StoreIntake intake(request, storeFile, progress);
    if (auto read = format->read(request, intake); !read)
        return read;
    return intake.finish();
}

} // namespace pyro
