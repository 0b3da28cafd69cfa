#include "app/pipeline/demo_solver.h"

#include "core/program/demo_list.h"
#include "core/program/program.h"

#include <QProcess>

namespace pyro {
namespace {

// "progress 0.25 cases/baseline.vtm".
void takeLine(const QString& line, Progress& progress) {
    if (line.startsWith("progress "))
        progress.report(line.section(' ', 1, 1).toDouble(), line.section(' ', 2).toStdString());
}

void stop(QProcess& rig) {
    rig.terminate();
    if (!rig.waitForFinished(2000))
        rig.kill();
    rig.waitForFinished(2000);
}

} // namespace

Result<std::string> solvedDemo(const std::string& name, Progress& progress) {
    const auto demo = shippedDemo(name);
    if (!demo)
        return tl::unexpected(demo.error());
    const auto program = helperProgram("pyrometer-rig").string();
    const auto folder = demoFolder();
    QProcess rig;
    rig.start(QString::fromStdString(program), {"--demo", QString::fromStdString(name), "--folder",
                                                QString::fromStdString(folder.string()), "--progress"});
    if (!rig.waitForStarted())
        return fail(ErrorCode::ReaderMissing, "the program that solves the demos cannot be run", program,
                    "It is installed with this one; install it again");
    while (rig.state() != QProcess::NotRunning) {
        rig.waitForReadyRead(100);
        while (rig.canReadLine())
            takeLine(QString::fromUtf8(rig.readLine()).trimmed(), progress);
        if (progress.cancelled()) {
            stop(rig);
            return fail(ErrorCode::Cancelled, "cancelled", name);
        }
    }
    if (rig.exitStatus() != QProcess::NormalExit || rig.exitCode() != 0) {
        const auto told = QString::fromUtf8(rig.readAllStandardError()).trimmed().remove("pyrometer-rig: ");
        return fail(ErrorCode::WriteFailed,
                    "the demo could not be solved: " +
                        (told.isEmpty() ? std::string("the rig ended without a word") : told.toStdString()),
                    folder.string());
    }
    return (folder / demo->survey).string();
}

} // namespace pyro
