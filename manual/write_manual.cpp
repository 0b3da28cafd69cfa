// pyrometer-manual FOLDER: writes the man pages and completions of all programs below FOLDER, as they are installed
// below share. Run by the build.
#include "core/feedback/whole_file.h"
#include "manual/manual.h"

#include <fmt/format.h>

int main(int count, char** words) {
    if (count != 2)
        return 2;
    const std::filesystem::path folder = words[1];
    pyro::WindowWords window;
    pyro::CliWords cli;
    pyro::RigWords rig;
    bool written = true;
    const auto write = [&](const std::filesystem::path& file, const std::string& text) {
        std::filesystem::create_directories((folder / file).parent_path());
        if (const auto done = pyro::writeFileAtomically(folder / file, text); !done) {
            fmt::print(stderr, "pyrometer-manual: {}\n", done.error().text());
            written = false;
        }
    };
    const pyro::Manual manuals[] = {pyro::windowManual(window), pyro::cliManual(cli), pyro::rigManual(rig),
                                    pyro::readerManual()};
    for (const auto& one : manuals) {
        write(fmt::format("man/man1/{}.1", one.name()), manPage(one));
        if (one.internal)
            continue;
        write(fmt::format("bash-completion/completions/{}", one.name()), bashCompletion(one));
        write(fmt::format("zsh/vendor-completions/_{}", one.name()), zshCompletion(one));
        write(fmt::format("fish/vendor_completions.d/{}.fish", one.name()), fishCompletion(one));
    }
    return written ? 0 : 1;
}
