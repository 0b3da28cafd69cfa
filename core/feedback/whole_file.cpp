#include "core/feedback/whole_file.h"

#include <cstdio>
#include <fmt/format.h>
#include <unistd.h>

namespace pyro {
namespace {

bool writeAll(const std::filesystem::path& file, std::string_view content) {
    std::FILE* stream = std::fopen(file.c_str(), "wb");
    if (stream == nullptr)
        return false;
    const bool written = std::fwrite(content.data(), 1, content.size(), stream) == content.size() &&
                         std::fflush(stream) == 0 && ::fsync(::fileno(stream)) == 0;
    return std::fclose(stream) == 0 && written;
}

} // namespace

WholeFile::WholeFile(std::filesystem::path target)
    : m_target(std::move(target)), m_beside(m_target.string() + fmt::format(".{}.part", ::getpid())) {}

WholeFile::~WholeFile() {
    std::error_code ignored;
    std::filesystem::remove(m_beside, ignored);
}

Done WholeFile::put(const std::string& what) {
    std::error_code renamed;
    std::filesystem::rename(m_beside, m_target, renamed);
    if (renamed)
        return failed(what);
    return {};
}

tl::unexpected<Error> WholeFile::failed(const std::string& what) const {
    return fail(ErrorCode::WriteFailed, what + " cannot be written; what stood there is unchanged", m_target.string(),
                "Choose another folder, or check its permissions and free space");
}

Done writeFileAtomically(const std::filesystem::path& file, std::string_view content, const std::string& what) {
    WholeFile whole(file);
    return writeAll(whole.beside(), content) ? whole.put(what) : whole.failed(what);
}

} // namespace pyro
