#include "core/case/store.h"

#include "core/case/text_hash.h"
#include "core/program/program.h"

#include "core/case/reader_process.h"

#include <chrono>
#include <cstdlib>
#include <fmt/format.h>
#include <sys/stat.h>
#include <unistd.h>

namespace pyro {
namespace {

nlohmann::json writtenStamp(const std::filesystem::path& file) {
    struct stat status {};
    if (::stat(file.c_str(), &status) != 0)
        return nullptr;
    return {{"file", file.string()},
            {"size", status.st_size},
            {"changed", status.st_mtim.tv_sec * 1'000'000'000LL + status.st_mtim.tv_nsec}};
}

Result<std::shared_ptr<const Case>> fromStore(const std::filesystem::path& storeFile, const CaseSource& source) {
    auto store = ArrayFile::open(storeFile);
    if (!store)
        return tl::unexpected(store.error());
    const auto& meta = (*store)->meta();
    if (meta.value("version", 0) != storeVersion || meta.value("file", "") != source.file.string() ||
        meta.value("step", -1) != source.step || meta.value("as", nlohmann::json()) != source.as.toJson() ||
        !stampsHold(meta.at("sources")))
        return fail(ErrorCode::WrongVersion, "the store is out of date", storeFile.string());
    auto solved = caseFromStore(std::move(*store));
    if (!solved)
        return solved;
    auto placed = std::make_shared<Case>(**solved);
    placed->storeFile = storeFile;
    return placed;
}

} // namespace

std::filesystem::path storeFolder() { return cacheFolder(); }

std::filesystem::path storePath(const CaseSource& source) {
    auto named = source.file.string();
    if (source.step != 0)
        named += fmt::format("\nstep {}", source.step);
    if (source.as != ReadAs{})
        named += "\nas " + source.as.toJson().dump();
    return storeFolder() / fmt::format("{}-{:016x}.case", source.file.stem().string().substr(0, 60), textHash(named));
}

nlohmann::json sourceStamps(const std::vector<std::filesystem::path>& files) {
    auto stamps = nlohmann::json::array();
    for (const auto& file : files)
        stamps.push_back(writtenStamp(file));
    return stamps;
}

bool stampsHold(const nlohmann::json& stamps) {
    for (const auto& stamp : stamps)
        if (!stamp.is_object() || stamp != writtenStamp(stamp.value("file", "")))
            return false;
    return !stamps.empty();
}

std::filesystem::path besideStore(const Case& solved, const char* ending) {
    return std::filesystem::path(solved.storeFile).replace_extension(ending);
}

nlohmann::json besideStoreMeta(const Case& solved, int version) {
    return {{"version", version}, {"file", solved.file}, {"sources", solved.store->meta().at("sources")}};
}

Result<std::shared_ptr<const ArrayFile>> openBesideStore(const Case& solved, const char* ending, int version) {
    auto file = ArrayFile::open(besideStore(solved, ending));
    if (!file)
        return file;
    const auto& meta = (*file)->meta();
    const auto own = besideStoreMeta(solved, version);
    for (const auto& [key, wanted] : own.items())
        if (!meta.contains(key) || meta[key] != wanted)
            return fail(ErrorCode::WrongVersion, "it is out of date", besideStore(solved, ending).string());
    return file;
}

Result<std::shared_ptr<const Case>> openCase(const std::filesystem::path& file, const OpenOptions& options,
                                             Progress& progress) {
    return openCase(CaseSource{file, 0, options.split}, options, progress);
}

Result<std::shared_ptr<const Case>> openCase(const CaseSource& source, const OpenOptions& options, Progress& progress) {
    std::error_code ignored;
    auto full = source;
    full.file = std::filesystem::weakly_canonical(std::filesystem::absolute(source.file), ignored);
    const auto storeFile = storePath(full);
    if (auto known = fromStore(storeFile, full))
        return known;
    std::error_code created;
    std::filesystem::create_directories(storeFolder(), created);
    if (created)
        return fail(ErrorCode::WriteFailed, "the folder of the case stores cannot be made", storeFolder().string(),
                    "Point XDG_CACHE_HOME to a folder that can be written");
    if (auto read = runReader(full, storeFile, options, progress); !read)
        return tl::unexpected(read.error());
    return fromStore(storeFile, full);
}

} // namespace pyro
