// Files that stand at their place only once they are whole: written beside it and renamed.
#pragma once

#include "core/feedback/error.h"

#include <filesystem>

namespace pyro {

class WholeFile {
public:
    explicit WholeFile(std::filesystem::path target);
    ~WholeFile(); // what was not put is removed
    WholeFile(const WholeFile&) = delete;
    WholeFile& operator=(const WholeFile&) = delete;

    const std::filesystem::path& target() const { return m_target; }
    const std::filesystem::path& beside() const { return m_beside; } // to be written
    // Renames what was written. `what`: "the report", for the message. Errors: WriteFailed; what stood there is then
    // unchanged.
    Done put(const std::string& what);
    // The same error, for whoever could not write it.
    tl::unexpected<Error> failed(const std::string& what) const;

private:
    std::filesystem::path m_target;
    std::filesystem::path m_beside;
};

// Content (CSV, JSON, a picture ...), on the disk when this returns. `what`: as above. Errors: WriteFailed.
Done writeFileAtomically(const std::filesystem::path& file, std::string_view content,
                         const std::string& what = "the file");

} // namespace pyro
