#include "app/selfcheck/checks.h"
#include "core/feedback/whole_file.h"
#include "core/program/program.h"

#include <fmt/format.h>
#include <unistd.h>

namespace pyro {
namespace {

constexpr double leastFree = 500e6; // bytes: a case of some million cells

// Writes a megabyte there and takes it away again.
CheckLine written(const char* name, const std::filesystem::path& folder, const char* loss) {
    std::error_code status;
    std::filesystem::create_directories(folder, status);
    const auto shown = withoutHome(folder);
    if (status)
        return {name, false, fmt::format("{} cannot be made ({}); {}", shown, status.message(), loss),
                "Correct its permissions, or name another one by the environment (see man pyrometer)"};
    const auto file = folder / fmt::format(".self-check-{}", ::getpid());
    const auto done = writeFileAtomically(file, std::string(1 << 20, 'x'));
    std::filesystem::remove(file, status);
    if (!done)
        return {name, false, fmt::format("{} cannot be written; {}", shown, loss),
                "Free space there, or correct its permissions"};
    const auto space = std::filesystem::space(folder, status);
    const auto free = status ? 0.0 : static_cast<double>(space.available);
    if (!status && free < leastFree)
        return {name, false, fmt::format("{} has {:.0f} MB left", shown, free / 1e6), "Free space there"};
    return {name, true, fmt::format("{}, {:.1f} GB free", shown, free / 1e9)};
}

} // namespace

CheckLine checkSettings() { return written("settings", settingsFolder(), "settings and unsaved work are not kept"); }
CheckLine checkCache() {
    return written("cache", usualCacheFolder(),
                   cacheFolder() == usualCacheFolder()
                       ? "cases cannot be opened"
                       : ("cases are read into " + cacheFolder().string() + ", anew after a restart").c_str());
}
CheckLine checkTemporary() {
    std::error_code ignored;
    auto folder = std::filesystem::temp_directory_path(ignored);
    if (folder.empty())
        return {"temporary files", false, "the folder for temporary files (TMPDIR, /tmp) is not there", "Make it"};
    return written("temporary files", folder, "reports cannot be made");
}

} // namespace pyro
