// The tree as `cmake --install` makes it, moved to another place afterwards, and programs that are run from it.
#pragma once

#include "tests/support/temp_folder.h"

#include <array>
#include <cstdio>
#include <filesystem>
#include <string>
#include <sys/wait.h>

namespace pyro::test {

struct Told {
    int status; // -1: it was ended by a signal
    std::string text;
};

// A line of the shell, its output and messages together.
inline Told told(const std::string& line) {
    auto* pipe = ::popen(("{ " + line + "; } 2>&1").c_str(), "r");
    std::string text;
    std::array<char, 4096> piece{};
    while (const auto read = std::fread(piece.data(), 1, piece.size(), pipe))
        text.append(piece.data(), read);
    const int ended = ::pclose(pipe);
    return {WIFEXITED(ended) ? WEXITSTATUS(ended) : -1, text};
}

class Installed {
public:
    // Once for all tests of a process.
    static const Installed& tree() {
        static const Installed made;
        return made;
    }
    const std::filesystem::path& root() const { return m_root; } // what was the prefix
    std::filesystem::path bin(const std::string& name) const { return m_root / "bin" / name; }
    std::filesystem::path share() const { return m_root / "share"; }
    const Told& installation() const { return m_installation; }

    // The line with the tree's programs found first.
    Told run(const std::string& line) const {
        return told("export PATH='" + (m_root / "bin").string() + "':\"$PATH\"; " + line);
    }
    // Another tree, of which a test may break something.
    void copyTo(const std::filesystem::path& folder) const {
        std::filesystem::copy(m_root, folder, std::filesystem::copy_options::recursive);
    }

private:
    Installed() {
        m_installation = told("DESTDIR='" + (m_folder / "dest").string() +
                              "' cmake --install '" PYROMETER_BUILD "' --prefix /opt/pyro --strip > /dev/null");
        m_root = m_folder / "moved";
        std::filesystem::rename(m_folder / "dest/opt/pyro", m_root);
    }
    TempFolder m_folder;
    Told m_installation;
    std::filesystem::path m_root;
};

} // namespace pyro::test
