#include "app/selfcheck/run_program.h"

#include <QProcess>

namespace pyro {

ProgramEnd runProgram(const std::filesystem::path& program, const QStringList& words, int within) {
    QProcess child;
    child.start(QString::fromStdString(program.string()), words);
    const bool ended = child.waitForFinished(within);
    const bool late = !ended && child.state() != QProcess::NotRunning;
    if (late) {
        child.kill();
        child.waitForFinished();
    }
    const auto how = late                                        ? ProgramEnd::How::TooLate
                     : !ended                                    ? ProgramEnd::How::Badly
                     : child.exitStatus() == QProcess::CrashExit ? ProgramEnd::How::Crashed
                     : child.exitCode() != 0                     ? ProgramEnd::How::Badly
                                                                 : ProgramEnd::How::Well;
    return {how, child.readAllStandardOutput(), child.readAllStandardError()};
}

} // namespace pyro
