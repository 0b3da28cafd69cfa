#include "core/case/folder_cases.h"

#include "core/case/case_endings.h"
#include "core/case/series.h"

#include <algorithm>
#include <array>
#include <fmt/format.h>
#include <fstream>
#include <map>
#include <set>

namespace pyro {
namespace {

constexpr std::size_t longestList = std::size_t{8} << 20U; // bytes of a file that is looked through for names

bool isCase(const std::filesystem::path& file) {
    const auto ending = endingOf(file);
    return ending == ".pvd" || std::ranges::find(caseEndings, ending) != caseEndings.end();
}

bool namesOthers(const std::filesystem::path& file) {
    constexpr std::array<std::string_view, 8> lists{".vtm",  ".pvd",  ".pvtu", ".pvti",
                                                    ".pvtr", ".pvts", ".xdmf", ".xmf"};
    return std::ranges::find(lists, lowerEnding(file)) != lists.end();
}

// Files beside a list that it names in an attribute `file` or `Source`.
std::set<std::filesystem::path> namedIn(const std::filesystem::path& list) {
    std::ifstream stream(list, std::ios::binary);
    std::string text(longestList, '\0');
    stream.read(text.data(), static_cast<std::streamsize>(text.size()));
    text.resize(static_cast<std::size_t>(std::max<std::streamsize>(stream.gcount(), 0)));
    std::set<std::filesystem::path> out;
    for (const std::string_view key : {"file=\"", "Source=\"", "href=\""})
        for (auto at = text.find(key); at != std::string::npos; at = text.find(key, at + 1)) {
            const auto from = at + key.size();
            const auto to = text.find('"', from);
            if (to != std::string::npos && to - from < 1024)
                out.insert((list.parent_path() / text.substr(from, to - from)).lexically_normal());
        }
    return out;
}

// "name.e.4.0" -> "name.e.4", what all pieces share.
std::string pieceOf(const std::filesystem::path& file) { return isPiece(file) ? file.stem().string() : std::string(); }

} // namespace

Result<std::vector<FolderCase>> casesIn(const std::filesystem::path& folder) {
    std::error_code failed;
    if (!std::filesystem::is_directory(folder, failed))
        return fail(ErrorCode::FileMissing, "this is no folder", folder.string(),
                    "Choose the folder that holds the results");
    std::set<std::filesystem::path> files;
    for (const auto& entry : std::filesystem::directory_iterator(folder, failed))
        if (entry.is_regular_file(failed) && isCase(entry.path()))
            files.insert(entry.path().lexically_normal());
    if (failed)
        return fail(ErrorCode::FileUnreadable, "the folder cannot be read: " + failed.message(), folder.string(),
                    "Check its permissions");
    std::map<std::filesystem::path, std::set<std::filesystem::path>> listed;
    std::set<std::filesystem::path> members;
    for (const auto& file : files)
        if (namesOthers(file)) {
            auto& named = listed[file] = namedIn(file);
            named.erase(file);
            members.insert(named.begin(), named.end());
        }
    std::vector<FolderCase> out;
    std::set<std::filesystem::path> done;
    std::set<std::string> pieces;
    for (const auto& file : files) {
        if (members.contains(file) || done.contains(file))
            continue;
        FolderCase one{file};
        if (const auto piece = pieceOf(file); !piece.empty()) {
            if (!pieces.insert(piece).second)
                continue;
            one.files = static_cast<std::size_t>(
                std::ranges::count_if(files, [&](const auto& other) { return pieceOf(other) == piece; }));
            one.how = fmt::format("{} pieces", one.files);
        } else if (const auto siblings = siblingsOf(file); siblings.size() > 1) {
            for (const auto& sibling : siblings)
                done.insert(sibling.lexically_normal());
            one.files = siblings.size();
            one.how = fmt::format("{} files by number", one.files);
        } else if (const auto named = listed.find(file); named != listed.end() && !named->second.empty()) {
            one.files = 1 + named->second.size();
            one.how = fmt::format("with {} files", named->second.size());
        }
        out.push_back(std::move(one));
    }
    return out;
}

} // namespace pyro
