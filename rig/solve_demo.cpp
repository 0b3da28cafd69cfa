#include "rig/solve_demo.h"

#include "core/feedback/whole_file.h"
#include "rig/run.h"

#include <cmath>
#include <fcntl.h>
#include <fmt/format.h>
#include <fstream>
#include <sys/file.h>
#include <unistd.h>

namespace pyro::rig {
namespace {

std::string contentOf(const std::filesystem::path& file) {
    std::ifstream stream(file, std::ios::binary);
    return {std::istreambuf_iterator<char>(stream), {}};
}

// Held for as long as it lives; where the file system knows no locks, everybody is let in.
class FolderLock {
public:
    explicit FolderLock(const std::filesystem::path& folder)
        : m_file(::open((folder / ".lock").c_str(), O_CREAT | O_RDWR | O_CLOEXEC, 0644)) {
        if (m_file >= 0)
            ::flock(m_file, LOCK_EX);
    }
    ~FolderLock() {
        if (m_file >= 0)
            ::close(m_file);
    }
    FolderLock(const FolderLock&) = delete;
    FolderLock& operator=(const FolderLock&) = delete;

private:
    int m_file;
};

// The input as the demo changes it. Errors: Syntax, of a list and an input that do not fit each other.
Result<std::string> inputOf(const Demo& demo, const DemoCase& one) try {
    auto input = nlohmann::json::parse(contentOf(demo.source / one.input));
    if (one.change.is_array())
        input = input.patch(one.change);
    for (auto& axis : input.at("grid"))
        for (const char* key : {"spacing", "fine"})
            if (axis.contains(key))
                axis[key] = std::round(axis[key].get<double>() * one.coarser * 1e6) / 1e6;
    return input.dump(1) + "\n";
} catch (const nlohmann::json::exception& problem) {
    return fail(ErrorCode::Syntax, std::string("this input of a demo cannot be read: ") + problem.what(),
                (demo.source / one.input).string(), "Install the program again");
}

Done madeFolder(const std::filesystem::path& folder) {
    std::error_code status;
    std::filesystem::create_directories(folder, status);
    if (status)
        return fail(ErrorCode::WriteFailed, "the folder of the demo cannot be made: " + status.message(),
                    folder.string(), "Free space there, or name another folder (--folder)");
    return {};
}

Done solveCase(const Demo& demo, const DemoCase& one, const std::filesystem::path& folder, Progress& progress) {
    const auto input = inputOf(demo, one);
    if (!input)
        return tl::unexpected(input.error());
    const auto output = folder / one.output;
    auto made = output; // the input that it was made of stands beside it once it is whole
    made.replace_extension(".rig.json");
    if (isSolved(one, folder) && contentOf(made) == *input)
        return {};
    if (auto there = madeFolder(output.parent_path()); !there)
        return there;
    auto fresh = made;
    fresh.replace_extension(".new");
    if (auto written = writeFileAtomically(fresh, *input, "the input of the demo"); !written)
        return written;
    std::error_code ignored;
    std::filesystem::remove(made, ignored);
    auto solved = run({fresh, output, one.history.empty() ? std::filesystem::path() : folder / one.history}, progress);
    if (solved)
        std::filesystem::rename(fresh, made, ignored);
    else
        std::filesystem::remove(fresh, ignored);
    return solved;
}

// Tells which case is solved, in place of how its equations converge.
class CaseProgress final : public Progress {
public:
    CaseProgress(Progress& whole, std::size_t at, std::size_t count, const DemoCase& one)
        : m_part(whole, static_cast<double>(at) / static_cast<double>(count),
                 static_cast<double>(at + 1) / static_cast<double>(count)),
          m_text(fmt::format("case {} of {}, {}", at + 1, count, std::filesystem::path(one.output).stem().string())) {}
    void report(double share, std::string_view) override { m_part.report(share, m_text); }
    bool cancelled() const override { return m_part.cancelled(); }

private:
    SubProgress m_part;
    std::string m_text;
};

// A name that is free, for what the user made of the survey.
std::filesystem::path freeName(const std::filesystem::path& survey) {
    auto base = survey.filename().string();
    base = base.substr(0, base.find(".survey.json"));
    for (int number = 1;; ++number) {
        const auto name = number == 1 ? fmt::format("{} (yours).survey.json", base)
                                      : fmt::format("{} (yours {}).survey.json", base, number);
        if (std::error_code ignored; !std::filesystem::exists(survey.parent_path() / name, ignored))
            return survey.parent_path() / name;
    }
}

// What is shipped stands in ".shipped" too, which tells whether the user changed the survey since.
Done putSurvey(const Demo& demo, const std::filesystem::path& folder) {
    const auto survey = folder / demo.survey;
    const auto before = folder / ".shipped" / demo.survey;
    const auto shipped = contentOf(demo.source / demo.survey);
    std::error_code status;
    if (std::filesystem::exists(survey, status)) {
        const auto current = contentOf(survey);
        if (current == shipped || contentOf(before) == shipped)
            return {};
        if (current != contentOf(before))
            std::filesystem::rename(survey, freeName(survey), status);
    }
    if (auto there = madeFolder(before.parent_path()); !there)
        return there;
    if (auto written = writeFileAtomically(before, shipped, "the survey of the demo"); !written)
        return written;
    return writeFileAtomically(survey, shipped, "the survey of the demo");
}

} // namespace

Result<std::filesystem::path> solveDemo(const Demo& demo, const std::filesystem::path& folder, Progress& progress) {
    if (auto there = madeFolder(folder); !there)
        return tl::unexpected(there.error());
    const FolderLock lock(folder);
    for (std::size_t at = 0; at < demo.cases.size(); ++at) {
        CaseProgress part(progress, at, demo.cases.size(), demo.cases[at]);
        part.report(0, {});
        if (auto solved = solveCase(demo, demo.cases[at], folder, part); !solved)
            return tl::unexpected(solved.error());
    }
    for (const auto& file : demo.files)
        if (auto written = writeFileAtomically(folder / file, contentOf(demo.source / file), "a table of the demo");
            !written)
            return tl::unexpected(written.error());
    if (auto put = putSurvey(demo, folder); !put)
        return tl::unexpected(put.error());
    return folder / demo.survey;
}

} // namespace pyro::rig
