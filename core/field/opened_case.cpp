#include "core/field/opened_case.h"

#include "core/field/boundary_fit.h"
#include "core/field/boundary_patches.h"

#include <cmath>
#include <fmt/format.h>

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

Result<CaseAtTime> openAtTime(const Series& series, std::optional<double> time, const OpenOptions& options,
                              Progress& progress) {
    const auto one = [&](std::size_t at, const OpenedCase* like) {
        return openStep(series.steps[at], like, options, progress);
    };
    const auto whole = [&](std::size_t at) -> Result<CaseAtTime> {
        auto opened = one(at, nullptr);
        return opened ? Result<CaseAtTime>(CaseAtTime{std::move(*opened)}) : tl::unexpected(opened.error());
    };
    const auto last = series.steps.size() - 1;
    if (!time || last == 0 || !changesWithTime(series))
        return whole(last);
    const auto timeOf = [&](std::size_t at) { return *series.steps[at].step.time; }; // all have one, rising
    const double hair = 1e-9 * std::max(std::abs(timeOf(0)), std::abs(timeOf(last)));
    if (*time < timeOf(0) - hair || *time > timeOf(last) + hair)
        return fail(ErrorCode::NotSupported, fmt::format("it runs from {:g} s to {:g} s and tells nothing of {:g} s",
                                                         timeOf(0), timeOf(last), *time));
    for (std::size_t at = 0; at <= last; ++at)
        if (std::abs(*time - timeOf(at)) <= hair)
            return whole(at);
    std::size_t after = 1;
    while (timeOf(after) < *time)
        ++after;
    auto out = whole(after - 1);
    if (!out)
        return out;
    auto next = one(after, &out->before);
    if (!next)
        return tl::unexpected(next.error());
    out->after = std::move(*next);
    out->share = (*time - timeOf(after - 1)) / (timeOf(after) - timeOf(after - 1));
    out->when = fmt::format("between {:g} s and {:g} s", timeOf(after - 1), timeOf(after));
    return out;
}

} // namespace pyro
