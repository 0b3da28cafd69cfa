// Cases in files of one grid, in lists of such files, and in files of surfaces.
#include "core/case/readers/format.h"
#include "core/case/readers/grid.h"
#include "core/case/readers/multiblock.h"
#include "core/case/readers/surface_read.h"

#include <fmt/format.h>

namespace pyro {

std::vector<double> gridFileTimes(const std::filesystem::path& file) {
    const auto time = timeOf(file);
    return time ? std::vector<double>{*time} : std::vector<double>();
}

Done readLoneGrid(const CaseSource& request, Intake& to) {
    Remarks remarks;
    auto grid = readGridFile(request.file, remarks);
    if (!grid)
        return tl::unexpected(grid.error());
    for (auto& remark : remarks)
        to.remark(std::move(remark));
    for (const auto& piece : piecesOfGridFile(request.file))
        to.addSource(piece);
    return to.takeLone({request.file.stem().string(), false, std::move(*grid), request.file.string()});
}

Done readBlocks(const CaseSource& request, Intake& to) {
    auto list = readBlockList(request.file);
    if (!list)
        return tl::unexpected(list.error());
    for (auto& remark : list->remarks)
        to.remark(std::move(remark));
    for (std::size_t i = 0; i < list->blocks.size(); ++i) {
        const auto& block = list->blocks[i];
        if (to.progress().cancelled())
            return fail(ErrorCode::Cancelled, "reading was cancelled", request.file.string());
        to.progress().report(static_cast<double>(i) / static_cast<double>(list->blocks.size()),
                             fmt::format("reading {}", block.name));
        Remarks remarks;
        auto grid = readGridFile(block.file, remarks);
        if (!grid)
            return tl::unexpected(grid.error());
        to.addSource(block.file);
        for (const auto& piece : piecesOfGridFile(block.file))
            to.addSource(piece);
        for (auto& remark : remarks)
            to.remark(std::move(remark));
        const bool boundary = block.group == Block::Group::Boundaries ||
                              (block.group == Block::Group::Other && lowerEnding(block.file) == ".vtp");
        if (auto taken = to.take({block.name, boundary, std::move(*grid), block.file.string()}); !taken)
            return taken;
    }
    return {};
}

// Every solid is a part of its own.
Done readSolids(const CaseSource& request, Intake& to) {
    auto surfaces = readSurfaces(request.file);
    if (!surfaces)
        return tl::unexpected(surfaces.error());
    for (auto& surface : *surfaces)
        if (auto taken = to.take({surface.name, false, std::move(surface.grid), request.file.string()}); !taken)
            return taken;
    return {};
}

std::vector<double> timesOfSolids(const std::filesystem::path&) { return {}; }

} // namespace pyro
