#include "core/case/series.h"

#include "core/case/case_endings.h"
#include "core/case/collection.h"
#include "core/case/reader_process.h"
#include "core/feedback/csv_rows.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <charconv>
#include <cmath>
#include <cstring>
#include <fmt/format.h>
#include <fstream>
#include <ranges>

namespace pyro {
namespace {

constexpr std::size_t fewestDigits = 3;

// "warm_0042" -> "warm_" and 4; nothing when the stem does not end in "_" and at least three digits.
struct NumberedStem {
    std::string name;
    std::size_t digits;
    bool operator==(const NumberedStem&) const = default;
};
std::optional<NumberedStem> numberedStem(const std::string& stem) {
    std::size_t digits = 0;
    while (digits < stem.size() && std::isdigit(static_cast<unsigned char>(stem[stem.size() - 1 - digits])) != 0)
        ++digits;
    if (digits < fewestDigits || digits == stem.size() || stem[stem.size() - 1 - digits] != '_')
        return std::nullopt;
    return NumberedStem{stem.substr(0, stem.size() - digits), digits};
}

} // namespace

std::vector<std::filesystem::path> siblingsOf(const std::filesystem::path& file) {
    const auto own = numberedStem(file.stem().string());
    std::vector<std::filesystem::path> siblings;
    std::error_code failed;
    if (own)
        for (const auto& entry : std::filesystem::directory_iterator(file.parent_path(), failed))
            if (entry.path().extension() == file.extension() && numberedStem(entry.path().stem().string()) == own)
                siblings.push_back(entry.path());
    std::ranges::sort(siblings);
    return siblings;
}

namespace {

Series alone(const std::filesystem::path& file) { return {{{{0, std::nullopt}, file, {}}}, {}}; }

// By time, of equal times the later file; files without a time keep their order.
Series sorted(std::vector<StepFile> files, Remarks remarks, const std::string& partName) {
    std::ranges::stable_sort(
        files, [](const StepFile& a, const StepFile& b) { return a.step.time.value_or(0) < b.step.time.value_or(0); });
    Series series{{}, std::move(remarks)};
    for (auto& file : files) {
        if (!series.steps.empty() && file.step.time && series.steps.back().step.time == file.step.time) {
            series.remarks.push_back(
                {Severity::Warning, "repeated-time",
                 fmt::format("t = {:g} s occurs twice; {} is taken, {} is left out", *file.step.time,
                             file.file.filename().string(), series.steps.back().file.filename().string()),
                 file.file.string()});
            series.steps.pop_back();
        }
        series.steps.push_back(std::move(file));
    }
    for (std::size_t i = 0; i < series.steps.size(); ++i)
        series.steps[i].step.index = static_cast<int>(i);
    for (auto& step : series.steps)
        step.partName = partName;
    return series;
}

Result<Series> numbered(const std::filesystem::path& file, std::optional<bool> wanted, const OpenOptions& options,
                        Progress& progress) {
    const auto siblings = siblingsOf(file);
    if (siblings.size() < 2)
        return alone(file);
    const auto times = readTimes(siblings, options, progress);
    if (!times)
        return tl::unexpected(times.error());
    const auto stem = numberedStem(file.stem().string())->name;
    const auto partName = stem.substr(0, stem.size() - 1); // without the "_"
    std::vector<StepFile> with;
    std::vector<StepFile> without;
    for (std::size_t i = 0; i < siblings.size(); ++i) {
        const auto time = (*times)[i].empty() || !std::isfinite((*times)[i].front())
                              ? std::nullopt
                              : std::optional((*times)[i].front());
        (time ? with : without).push_back({{0, time}, siblings[i]});
    }
    if (with.empty())
        return wanted.value_or(false) ? sorted(std::move(without), {}, partName) : alone(file);
    Remarks remarks;
    for (const auto& one : without)
        remarks.push_back({Severity::Warning, "no-time", "the file carries no time and is left out of the series",
                           one.file.string()});
    return sorted(std::move(with), std::move(remarks), partName);
}

// Kinds of files that may hold several steps.
bool mayHoldSteps(const std::filesystem::path& file) {
    const auto ending = endingOf(file);
    constexpr std::array<std::string_view, 8> endings{".cgns", ".e",   ".exo",    ".ex2",
                                                      ".xdmf", ".xmf", ".vtkhdf", ".hdf"};
    return std::ranges::find(endings, ending) != endings.end();
}

// The steps of one file; of several without times their order.
Result<Series> within(const std::filesystem::path& file, std::optional<bool> wanted, const OpenOptions& options,
                      Progress& progress) {
    const auto told = readTimes({file}, options, progress);
    if (!told)
        return tl::unexpected(told.error());
    const auto& times = told->front();
    if (times.size() < 2)
        return alone(file);
    std::vector<StepFile> steps;
    for (std::size_t i = 0; i < times.size(); ++i)
        steps.push_back(
            {{0, std::isfinite(times[i]) ? std::optional(times[i]) : std::nullopt}, file, {}, {}, static_cast<int>(i)});
    if (wanted == false)
        return Series{{steps.back()}, {}};
    return sorted(std::move(steps), {}, file.stem().string());
}

Result<Series> fromTable(const std::filesystem::path& table) {
    std::ifstream stream(table, std::ios::binary);
    if (!stream)
        return fail(ErrorCode::FileMissing, "the table of steps cannot be read", table.string(),
                    "Check its name and folder");
    const std::string text(std::istreambuf_iterator<char>(stream), {});
    const auto rows = parseCsv(text);
    if (!rows)
        return tl::unexpected(rows.error());
    const auto refuse = [&](std::size_t row, const std::string& what) {
        return fail(ErrorCode::Syntax, fmt::format("row {}: {}", row + 1, what), table.string(),
                    "The table has the columns time (in seconds) and file");
    };
    if (rows->empty())
        return refuse(0, "the table is empty");
    std::optional<std::size_t> timeAt;
    std::optional<std::size_t> fileAt;
    for (std::size_t i = 0; i < rows->front().size(); ++i) {
        const auto title = csvWord((*rows)[0][i]);
        if (title == "time")
            timeAt = i;
        else if (title == "file")
            fileAt = i;
    }
    if (!timeAt || !fileAt)
        return refuse(0, "the columns time and file are missing");
    std::vector<StepFile> files;
    for (std::size_t row = 1; row < rows->size(); ++row) {
        const auto& fields = (*rows)[row];
        if (std::max(*timeAt, *fileAt) >= fields.size())
            return refuse(row, "a field is missing");
        const auto time = csvWord(fields[*timeAt]);
        double seconds = 0;
        const auto [end, status] = std::from_chars(time.data(), time.data() + time.size(), seconds);
        if (status != std::errc() || end != time.data() + time.size() || !std::isfinite(seconds))
            return refuse(row, fmt::format("\"{}\" is no time in seconds", fields[*timeAt]));
        files.push_back({{0, seconds}, table.parent_path() / fields[*fileAt]});
    }
    if (files.empty())
        return refuse(0, "the table lists no file");
    return sorted(std::move(files), {}, table.stem().string());
}

Result<Series> fromCollection(const std::filesystem::path& list) {
    const auto steps = readCollection(list);
    if (!steps)
        return tl::unexpected(steps.error());
    std::vector<StepFile> files;
    for (const auto& one : *steps)
        files.push_back({{0, one.seconds}, one.file});
    return sorted(std::move(files), {}, list.stem().string());
}

template <class A, class B>
bool sameBytes(std::span<const A> a, std::span<const B> b) {
    return std::is_same_v<A, B> && a.size() == b.size() &&
           (a.empty() || std::memcmp(a.data(), b.data(), a.size_bytes()) == 0);
}

bool sameRegion(const Region& a, const Region& b) {
    const auto& one = a.asRead ? *a.asRead : a.mesh;
    const auto& other = b.asRead ? *b.asRead : b.mesh;
    const bool samePlaces = one.coordinates.visit(
        [&](auto mine) { return other.coordinates.visit([&](auto theirs) { return sameBytes(mine, theirs); }); });
    return a.name == b.name && samePlaces && sameBytes(one.connectivity, other.connectivity) &&
           sameBytes(one.types, other.types) && sameBytes(one.offsets, other.offsets);
}

} // namespace

Result<Series> seriesOf(const std::filesystem::path& file, std::optional<bool> wanted, const OpenOptions& options,
                        Progress& progress) {
    std::error_code ignored;
    const auto full = std::filesystem::weakly_canonical(std::filesystem::absolute(file), ignored);
    auto series = full.extension() == ".csv"    ? fromTable(full)
                  : lowerEnding(full) == ".pvd" ? fromCollection(full)
                  : mayHoldSteps(full)          ? within(full, wanted, options, progress)
                  : wanted == false             ? alone(full)
                                                : numbered(full, wanted, options, progress);
    if (series)
        for (auto& step : series->steps)
            step.split = options.split;
    return series;
}

int Series::nearest(std::optional<int> wanted) const {
    const int last = static_cast<int>(steps.size()) - 1;
    return std::clamp(wanted.value_or(last), 0, last);
}

Result<std::shared_ptr<const Case>> openCase(const StepFile& step, const OpenOptions& options, Progress& progress) {
    auto solved = openCase(CaseSource{step.file, step.within, step.split}, options, progress);
    if (!solved || step.partName.empty() || (*solved)->parts.size() != 1 ||
        (*solved)->parts[0].name != step.file.stem())
        return solved;
    auto renamed = std::make_shared<Case>(**solved);
    renamed->parts[0].name = step.partName;
    return renamed;
}

bool changesWithTime(const Series& series) {
    return series.steps.size() > 1 &&
           std::ranges::all_of(series.steps, [](const StepFile& one) { return one.step.time.has_value(); });
}

bool sameMesh(const Case& a, const Case& b) {
    const auto named = [](const Case& one) {
        return one.boundaries | std::views::filter([](const Region& boundary) { return !boundary.patchOf; });
    };
    return std::ranges::equal(a.parts, b.parts, sameRegion) && std::ranges::equal(named(a), named(b), sameRegion);
}

} // namespace pyro
