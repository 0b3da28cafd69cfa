#include "core/feedback/error.h"

#include <array>
#include <utility>

namespace pyro {
namespace {

constexpr std::array<std::pair<ErrorCode, std::string_view>, 22> codeNames{{
    {ErrorCode::FileMissing, "file-missing"},
    {ErrorCode::FileEmpty, "file-empty"},
    {ErrorCode::FileTruncated, "file-truncated"},
    {ErrorCode::FileUnreadable, "file-unreadable"},
    {ErrorCode::FormatUnknown, "format-unknown"},
    {ErrorCode::NoCells, "no-cells"},
    {ErrorCode::LengthMismatch, "length-mismatch"},
    {ErrorCode::IndexOutOfRange, "index-out-of-range"},
    {ErrorCode::SizeAbsurd, "size-absurd"},
    {ErrorCode::MemoryLimit, "memory-limit"},
    {ErrorCode::ReaderCrashed, "reader-crashed"},
    {ErrorCode::ReaderMissing, "reader-missing"},
    {ErrorCode::Syntax, "syntax"},
    {ErrorCode::WrongVersion, "wrong-version"},
    {ErrorCode::WrongType, "wrong-type"},
    {ErrorCode::WrongUnit, "wrong-unit"},
    {ErrorCode::NameUnknown, "name-unknown"},
    {ErrorCode::NotSupported, "not-supported"},
    {ErrorCode::NotConverged, "not-converged"},
    {ErrorCode::WriteFailed, "write-failed"},
    {ErrorCode::Usage, "usage"},
    {ErrorCode::Cancelled, "cancelled"},
}};

} // namespace

std::string_view codeName(ErrorCode code) {
    for (const auto& [known, name] : codeNames)
        if (known == code)
            return name;
    return "reader-crashed";
}

ErrorCode codeFromName(std::string_view name) {
    for (const auto& [code, known] : codeNames)
        if (known == name)
            return code;
    return ErrorCode::ReaderCrashed;
}

std::string Error::text() const {
    std::string line = where.empty() ? what : where + ": " + what;
    if (!line.empty() && line.back() != '.')
        line += '.';
    if (!remedy.empty())
        line += ' ' + remedy + (remedy.back() == '.' ? "" : ".");
    return line;
}

tl::unexpected<Error> fail(ErrorCode code, std::string what, std::string where, std::string remedy) {
    return tl::unexpected<Error>(Error{code, std::move(what), std::move(where), std::move(remedy)});
}

std::string_view severityName(Severity severity) {
    switch (severity) {
    case Severity::Note:
        return "note";
    case Severity::Warning:
        return "warning";
    case Severity::Serious:
        return "serious";
    }
    return "note";
}

} // namespace pyro
