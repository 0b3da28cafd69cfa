#include "core/case/series_watch.h"

#include <algorithm>

namespace pyro {
namespace {

std::optional<FileStamp> stampOf(const std::filesystem::path& file) {
    std::error_code failed;
    FileStamp stamp{file, std::filesystem::file_size(file, failed), {}};
    if (failed)
        return std::nullopt;
    stamp.changed = std::filesystem::last_write_time(file, failed);
    return failed ? std::nullopt : std::optional(stamp);
}

} // namespace

std::vector<FileStamp> stampsOf(const std::filesystem::path& caseFile,
                                const std::vector<std::filesystem::path>& further) {
    auto files = siblingsOf(caseFile);
    if (files.empty())
        files.push_back(caseFile);
    files.insert(files.end(), further.begin(), further.end());
    std::vector<FileStamp> stamps;
    for (const auto& file : files)
        if (auto stamp = stampOf(file))
            stamps.push_back(std::move(*stamp));
    return stamps;
}

Result<ReadySeries> readySeries(const std::filesystem::path& file, std::optional<bool> wanted,
                                const std::vector<FileStamp>& known, const OpenOptions& options, Progress& progress) {
    auto series = seriesOf(file, wanted, options, progress);
    if (!series)
        return tl::unexpected(series.error());
    ReadySeries out{{{}, std::move(series->remarks)}, 0};
    for (auto& step : series->steps) {
        const auto stamp = stampOf(step.file);
        if (!stamp || std::ranges::find(known, *stamp) == known.end()) {
            NoProgress quiet;
            const auto opened = openCase(step, options, quiet);
            if (progress.cancelled())
                return fail(ErrorCode::Cancelled, "looking for new steps was cancelled", file.string());
            if (!opened) {
                ++out.waiting;
                continue;
            }
        }
        step.step.index = static_cast<int>(out.series.steps.size());
        out.series.steps.push_back(std::move(step));
    }
    // Siblings without a time are told as remarks; while the case is being written they are files that are not whole.
    out.waiting += static_cast<int>(std::ranges::count(out.series.remarks, "no-time", &Remark::code));
    std::error_code ignored;
    if (out.series.steps.empty() && !std::filesystem::exists(file, ignored))
        return fail(ErrorCode::FileMissing, "the file does not exist any more", file.string(),
                    "It was moved or deleted: say where it is now");
    if (out.series.steps.empty())
        return fail(ErrorCode::FileUnreadable, "no step of the case is whole yet", file.string(),
                    "Wait for the solver");
    return out;
}

} // namespace pyro
