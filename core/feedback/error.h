// feedback: how the core tells that something went wrong. A mistake of ours is an assertion; bad input or a
// failing disk is an Error value; a remark does not stop the work. Cancelled is an outcome of its own.
#pragma once

#include <string>
#include <string_view>
#include <tl/expected.hpp>
#include <variant>
#include <vector>

namespace pyro {

enum class ErrorCode {
    FileMissing,
    FileEmpty,
    FileTruncated,
    FileUnreadable,
    FormatUnknown,
    NoCells,
    LengthMismatch,
    IndexOutOfRange,
    SizeAbsurd,
    MemoryLimit,
    ReaderCrashed,
    ReaderMissing,
    Syntax,
    WrongVersion,
    WrongType,
    WrongUnit,
    NameUnknown,
    NotSupported,
    NotConverged,
    WriteFailed,
    Usage,
    Cancelled
};

// The stable name of a code as written to JSON and stderr, e.g. "file-missing".
std::string_view codeName(ErrorCode code);
// The code of a stable name; ReaderCrashed for a name that is none (only a broken child writes one).
ErrorCode codeFromName(std::string_view name);

struct Error {
    ErrorCode code;
    std::string what;   // what is wrong, one sentence without a full stop
    std::string where;  // file, key or part it concerns
    std::string remedy; // what the user can do

    bool cancelled() const { return code == ErrorCode::Cancelled; }
    // One line: "where: what. remedy."
    std::string text() const;
};

template <class T>
using Result = tl::expected<T, Error>;
using Done = Result<std::monostate>;

tl::unexpected<Error> fail(ErrorCode code, std::string what, std::string where = {}, std::string remedy = {});

enum class Severity { Note, Warning, Serious };
std::string_view severityName(Severity severity);

struct Remark {
    Severity severity;
    std::string code; // stable, e.g. "unit-guessed"
    std::string text;
    std::string where;
};
using Remarks = std::vector<Remark>;

} // namespace pyro
