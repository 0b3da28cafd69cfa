#include "app/startup/display.h"

#include <QOffscreenSurface>
#include <QOpenGLContext>
#include <QString>
#include <cstdio>
#include <cstdlib>

namespace pyro {
namespace {

QtMessageHandler before = nullptr;

QString displayText() {
    for (const char* variable : {"WAYLAND_DISPLAY", "DISPLAY"})
        if (const auto value = qEnvironmentVariable(variable); !value.isEmpty())
            return QString("the display %1 cannot be reached").arg(value);
    return "there is no display (DISPLAY and WAYLAND_DISPLAY are not set)";
}

void tell(QtMsgType type, const QMessageLogContext& context, const QString& text) {
    if (type == QtFatalMsg) {
        std::fprintf(stderr,
                     "pyrometer: %s. Start it in a session of the desktop, or use pyrometer-cli, which evaluates, "
                     "reports and draws without one.\n",
                     qPrintable(displayText()));
        std::fflush(stderr);
        std::_Exit(2);
    }
    if (text.contains("could not connect to display") || text.contains("platform plugin") ||
        text.startsWith("This application failed to start"))
        return; // told above, once
    if (before != nullptr)
        before(type, context, text);
}

} // namespace

void tellFailuresOfTheToolkit() { before = qInstallMessageHandler(tell); }
void leaveFailuresToTheToolkit() { qInstallMessageHandler(before); }

namespace {

QString lookForOpenGl() {
    constexpr const char* remedy = " Install libgl1-mesa-dri, which draws without a graphics card, or the driver of "
                                   "your card.";
    QOpenGLContext context;
    QOffscreenSurface surface;
    surface.create();
    if (!context.create() || !context.makeCurrent(&surface))
        return QString("OpenGL cannot be used on this display.") + remedy;
    const auto version = context.format().version();
    context.doneCurrent();
    if (version < qMakePair(3, 2))
        return QString("OpenGL %1.%2 is too old for the viewport, it needs 3.2.")
                   .arg(version.first)
                   .arg(version.second) +
               remedy;
    return {};
}

} // namespace

const QString& missingOpenGl() {
    static const auto missing = lookForOpenGl();
    return missing;
}

} // namespace pyro
