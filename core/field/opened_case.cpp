#include "core/field/opened_case.h"

#include "core/field/boundary_fit.h"
#include "core/field/boundary_patches.h"

namespace pyro {
namespace {

Result<OpenedCase> faced(std::shared_ptr<const Case> solved, const CaseSplit& split, Progress& progress) {
    auto shells = shellsOf(*solved, progress);
    if (!shells)
        return tl::unexpected(shells.error());
    auto whole = withPatches(withFittedBoundaries(std::move(solved), (*shells)->parts), **shells, split, progress);
    if (!whole)
        return tl::unexpected(whole.error());
    return OpenedCase{std::move(*whole), unmeasuredIndex(std::move(*shells))};
}

} // namespace

Result<OpenedCase> openForPicture(const StepFile& step, const OpenOptions& options, Progress& progress) {
    SubProgress reading(progress, 0.0, 0.7);
    auto solved = openCase(step, options, reading);
    if (!solved)
        return tl::unexpected(solved.error());
    SubProgress facing(progress, 0.7, 1.0);
    return faced(std::move(*solved), step.split, facing);
}

Result<OpenedCase> measured(const OpenedCase& opened, Progress& progress) {
    auto index = indexOf(*opened.solved, progress);
    if (!index)
        return tl::unexpected(index.error());
    return OpenedCase{opened.solved, std::move(*index)};
}

Result<OpenedCase> openForEvaluation(const std::filesystem::path& file, const OpenOptions& options,
                                     Progress& progress) {
    SubProgress opening(progress, 0.0, 0.7);
    auto opened = openForPicture({{}, file, {}, options.split}, options, opening);
    if (!opened)
        return opened;
    SubProgress measuring(progress, 0.7, 1.0);
    return measured(*opened, measuring);
}

Result<OpenedCase> openStep(const StepFile& step, const OpenedCase* like, const OpenOptions& options,
                            Progress& progress) {
    SubProgress reading(progress, 0.0, 0.6);
    auto solved = openCase(step, options, reading);
    if (!solved)
        return tl::unexpected(solved.error());
    if (like != nullptr && like->index && like->solved->split == step.split && sameMesh(**solved, *like->solved))
        return OpenedCase{
            withPatchesOf(withFittedBoundaries(std::move(*solved), like->index->shells->parts), *like->solved),
            like->index};
    SubProgress facing(progress, 0.6, 0.7);
    auto opened = faced(std::move(*solved), step.split, facing);
    if (!opened)
        return opened;
    SubProgress measuring(progress, 0.7, 1.0);
    return measured(*opened, measuring);
}

} // namespace pyro
