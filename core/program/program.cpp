#include "core/program/program.h"

#include <cstdlib>
#include <map>
#include <mutex>
#include <sys/stat.h>
#include <unistd.h>

namespace pyro {
namespace {

std::filesystem::path homeFolder() {
    const char* home = std::getenv("HOME");
    return home != nullptr && *home == '/' ? std::filesystem::path(home) : std::filesystem::temp_directory_path();
}

std::filesystem::path userFolder(const char* variable, const char* usual) {
    if (const char* given = std::getenv(variable); given != nullptr && *given == '/') // others are to be ignored
        return std::filesystem::path(given) / "pyrometer";
    return homeFolder() / usual / "pyrometer";
}

bool canWrite(const std::filesystem::path& folder) {
    std::error_code status;
    std::filesystem::create_directories(folder, status);
    return ::access(folder.c_str(), W_OK | X_OK) == 0;
}

// Others could have put a folder of that name there before us: it must be ours.
std::filesystem::path temporaryCache() {
    std::error_code ignored;
    const auto base = std::filesystem::temp_directory_path(ignored);
    auto folder = base / ("pyrometer-" + std::to_string(::getuid()));
    ::mkdir(folder.c_str(), 0700);
    struct stat status {};
    if (::lstat(folder.c_str(), &status) == 0 && S_ISDIR(status.st_mode) && status.st_uid == ::getuid())
        return folder;
    auto name = (base / "pyrometer-XXXXXX").string();
    return ::mkdtemp(name.data()) != nullptr ? std::filesystem::path(name) : folder;
}

} // namespace

std::string programVersion() { return PYROMETER_VERSION; }

std::filesystem::path programFolder() {
    std::error_code ignored;
    return std::filesystem::read_symlink("/proc/self/exe", ignored).parent_path();
}

std::filesystem::path helperProgram(const std::string& name) {
    std::error_code ignored;
    auto beside = programFolder() / name;
    for (const auto& file : {beside, programFolder().parent_path() / "libexec" / "pyrometer" / name,
                             programFolder().parent_path().parent_path() / "bin" / name}) // seen from libexec
        if (std::filesystem::exists(file, ignored))
            return file;
    return beside;
}

std::filesystem::path shippedFolder(const std::string& name) {
    std::error_code ignored;
    // From bin or from libexec/pyrometer; the last is the source folder above build/bin.
    const auto above = programFolder().parent_path();
    for (const auto& folder : {above / "share" / "pyrometer" / name, above.parent_path() / "share" / "pyrometer" / name,
                               above.parent_path() / name})
        if (std::filesystem::is_directory(folder, ignored))
            return folder;
    return {};
}

std::filesystem::path usualCacheFolder() { return userFolder("XDG_CACHE_HOME", ".cache"); }
std::filesystem::path cacheFolder() {
    static std::map<std::filesystem::path, std::filesystem::path> found; // tests move it
    static std::mutex guard;
    const std::scoped_lock lock(guard);
    const auto usual = usualCacheFolder();
    auto& folder = found[usual];
    if (folder.empty())
        folder = canWrite(usual) ? usual : temporaryCache();
    return folder;
}

std::filesystem::path settingsFolder() { return userFolder("XDG_CONFIG_HOME", ".config"); }

std::string withoutHome(const std::filesystem::path& path) {
    const auto within = path.lexically_relative(homeFolder());
    return within.empty() || *within.begin() == ".." ? path.string() : ("~" / within).string();
}

} // namespace pyro
