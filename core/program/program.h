// program: what is known of the program itself: its version, and where what was installed with it lies. Everything is
// found from the running program's own file, so that an installed tree can be moved as a whole.
#pragma once

#include <filesystem>
#include <string>
#include <vector>

namespace pyro {

std::string programVersion(); // "0.2"

// The folder of the program that runs.
std::filesystem::path programFolder();
// A program that is installed with this one: beside it, or, where users do not call it themselves, in
// ../libexec/pyrometer. Where there is none, the path beside.
std::filesystem::path helperProgram(const std::string& name);
// A folder of what is shipped, "demos" or "templates": ../share/pyrometer/<name>, or that of the sources where the
// program runs from its build folder; empty where there is none.
std::filesystem::path shippedFolder(const std::string& name);

// Folders of the user after the XDG Base Directory Specification: for what can be made again (cases as read, demos as
// solved), and for settings.
std::filesystem::path usualCacheFolder();
std::filesystem::path settingsFolder();
// The usual one, or one of this user alone in the folder for temporary files where that cannot be written (a read-only
// home, a container). Made where it is not there; the same for the life of the process.
std::filesystem::path cacheFolder();

// A path as it may be shown to others: the home folder as "~".
std::string withoutHome(const std::filesystem::path& path);

} // namespace pyro
