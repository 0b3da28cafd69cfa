#include "core/case/case_endings.h"
#include "core/case/readers/format.h"

#include <algorithm>
#include <fmt/format.h>

namespace pyro {

std::span<const CaseFormat> caseFormats() {
    static const std::vector<CaseFormat> formats{
#define CASE_FORMAT(read, times, ...) {{__VA_ARGS__}, read, times},
#include "core/case/formats.inc"
#undef CASE_FORMAT
    };
    return formats;
}

const CaseFormat* formatOf(const std::filesystem::path& file) {
    const auto ending = endingOf(file);
    const auto found = std::ranges::find_if(caseFormats(), [&](const CaseFormat& format) {
        return std::ranges::find(format.endings, ending) != format.endings.end();
    });
    return found == caseFormats().end() ? nullptr : &*found;
}

std::string endingsRead() { return fmt::format("{}", fmt::join(caseEndings, " ")); }

} // namespace pyro
