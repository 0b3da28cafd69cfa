#include "core/case/readers/read_case.h"

#include "core/case/case.h"
#include "core/case/readers/grid.h"
#include "core/case/readers/multiblock.h"
#include "core/case/readers/partitioned.h"
#include "core/case/readers/surface_read.h"
#include "core/case/store.h"

#include <algorithm>
#include <fmt/format.h>
#include <set>
#include <vtkDataArray.h>
#include <vtkFieldData.h>

namespace pyro {
namespace {

class CaseReader {
public:
    CaseReader(const std::filesystem::path& file, const std::filesystem::path& storeFile, Progress& progress)
        : m_file(file), m_store(storeFile), m_progress(progress) {}

    Done run();

private:
    Result<std::vector<Block>> blocks();
    Done readBlock(const Block& block);
    Done readSurface();
    std::string uniqueName(std::string name, std::set<std::string>& taken);
    void takeTime(vtkPointSet& grid);
    nlohmann::json meta() const;

    std::filesystem::path m_file;
    ArrayFileWriter m_store;
    Progress& m_progress;
    nlohmann::json m_parts = nlohmann::json::array();
    nlohmann::json m_boundaries = nlohmann::json::array();
    std::set<std::string> m_partNames;
    std::set<std::string> m_boundaryNames;
    std::vector<std::filesystem::path> m_sources;
    std::optional<double> m_time;
    Remarks m_remarks;
};

Result<std::vector<Block>> CaseReader::blocks() {
    if (auto readable = checkReadable(m_file); !readable)
        return tl::unexpected(readable.error());
    const auto ending = m_file.extension();
    if (ending == ".vtu" || ending == ".vtp" || ending == ".pvtu")
        return std::vector<Block>{{m_file.stem().string(), m_file, Block::Group::Parts}};
    if (ending != ".vtm")
        return fail(ErrorCode::FormatUnknown, fmt::format("files ending in \"{}\" are not read yet", ending.string()),
                    m_file.string(), "Open a .vtu, .pvtu, .vtp or .vtm file");
    auto list = readBlockList(m_file);
    if (!list)
        return tl::unexpected(list.error());
    m_sources.push_back(m_file);
    m_remarks = std::move(list->remarks);
    return std::move(list->blocks);
}

std::string CaseReader::uniqueName(std::string name, std::set<std::string>& taken) {
    if (name.empty())
        name = fmt::format("part {}", taken.size() + 1);
    std::string unique = name;
    for (int copy = 2; taken.contains(unique); ++copy)
        unique = fmt::format("{} ({})", name, copy);
    if (unique != name)
        m_remarks.push_back({Severity::Warning, "duplicate-name",
                             fmt::format("the name \"{}\" occurs twice; the later one reads \"{}\"", name, unique),
                             m_file.string()});
    taken.insert(unique);
    return unique;
}

void CaseReader::takeTime(vtkPointSet& grid) {
    auto* time = grid.GetFieldData()->GetArray("TimeValue");
    if (!m_time && time != nullptr && time->GetNumberOfValues() > 0)
        m_time = time->GetComponent(0, 0);
}

Done CaseReader::readBlock(const Block& block) {
    const bool partitioned = block.file.extension() == ".pvtu";
    auto grid = partitioned ? readPartitioned(block.file, m_remarks) : readGrid(block.file);
    if (!grid)
        return tl::unexpected(grid.error());
    takeTime(**grid);
    m_sources.push_back(block.file);
    if (const auto pieces = partitioned ? piecesOf(block.file) : std::vector<std::filesystem::path>(); pieces)
        m_sources.insert(m_sources.end(), pieces->begin(), pieces->end());
    const bool boundary = block.group == Block::Group::Boundaries ||
                          (block.group == Block::Group::Other && block.file.extension() == ".vtp");
    auto& list = boundary ? m_boundaries : m_parts;
    const auto name = uniqueName(block.name, boundary ? m_boundaryNames : m_partNames);
    const auto key = fmt::format("{}/{}", boundary ? "boundary" : "part", list.size());
    auto stored = storeGrid(**grid, key, name, block.file.string(), m_store);
    if (!stored)
        return tl::unexpected(stored.error());
    list.push_back(std::move(stored->entry));
    m_remarks.insert(m_remarks.end(), stored->remarks.begin(), stored->remarks.end());
    return {};
}

// Every solid is a part of its own.
Done CaseReader::readSurface() {
    if (auto readable = checkReadable(m_file); !readable)
        return tl::unexpected(readable.error());
    const auto surfaces = readSurfaces(m_file);
    if (!surfaces)
        return tl::unexpected(surfaces.error());
    m_sources.push_back(m_file);
    for (const auto& surface : *surfaces) {
        auto stored = storeGrid(*surface.grid, fmt::format("part/{}", m_parts.size()), uniqueName(surface.name, m_partNames), m_file.string(), m_store);
        if (!stored)
            return tl::unexpected(stored.error());
        m_parts.push_back(std::move(stored->entry));
    }
    return m_store.finish(meta());
}

nlohmann::json CaseReader::meta() const {
    auto remarks = nlohmann::json::array();
    for (const auto& remark : m_remarks)
        remarks.push_back({{"severity", static_cast<int>(remark.severity)},
                           {"code", remark.code},
                           {"text", remark.text},
                           {"where", remark.where}});
    nlohmann::json meta{{"version", storeVersion}, {"file", m_file.string()},
                        {"parts", m_parts},        {"boundaries", m_boundaries},
                        {"remarks", remarks},      {"sources", sourceStamps(m_sources)}};
    if (m_time)
        meta["time"] = *m_time;
    return meta;
}

Done CaseReader::run() {
    if (isSurfaceFile(m_file))
        return readSurface();
    auto list = blocks();
    if (!list)
        return tl::unexpected(list.error());
    for (std::size_t i = 0; i < list->size(); ++i) {
        if (m_progress.cancelled())
            return fail(ErrorCode::Cancelled, "reading was cancelled", m_file.string());
        m_progress.report(static_cast<double>(i) / static_cast<double>(list->size()),
                          fmt::format("reading {}", (*list)[i].name));
        if (auto done = readBlock((*list)[i]); !done)
            return done;
    }
    if (m_parts.empty())
        return fail(ErrorCode::NoCells, "the file has boundaries but no part", m_file.string(),
                    "Add the mesh of the parts to the .vtm");
    return m_store.finish(meta());
}

} // namespace

Done readCaseIntoStore(const std::filesystem::path& file, const std::filesystem::path& storeFile,
                       Progress& progress) {
    return CaseReader(file, storeFile, progress).run();
}

} // namespace pyro
