// Another program, run to its end.
#pragma once

#include <QStringList>
#include <filesystem>

namespace pyro {

struct ProgramEnd {
    enum class How { Well, Badly, Crashed, TooLate } how; // Badly: it could not be started, or its status is not 0
    QByteArray out;
    QByteArray err;
};

// Ends it after so many milliseconds.
ProgramEnd runProgram(const std::filesystem::path& program, const QStringList& words, int within);

} // namespace pyro
