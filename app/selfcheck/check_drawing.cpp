#include "app/selfcheck/checks.h"
#include "app/startup/display.h"
#include "render/headless.h"

#include <QGuiApplication>
#include <QOffscreenSurface>
#include <QOpenGLContext>
#include <QOpenGLFunctions>
#include <QScreen>
#include <fmt/format.h>

namespace pyro {
namespace {

// "Mesa, llvmpipe (LLVM 15), OpenGL 4.5", of the context that is current.
std::string rendererText(QOpenGLContext& context) {
    const auto word = [&](GLenum which) {
        const auto* text = reinterpret_cast<const char*>(context.functions()->glGetString(which));
        return std::string(text == nullptr ? "?" : text);
    };
    return fmt::format("{}, OpenGL {}", word(GL_RENDERER), word(GL_VERSION));
}

} // namespace

CheckLine checkDisplay() {
    const auto* screen = QGuiApplication::primaryScreen();
    if (screen == nullptr)
        return {"display", false, "no screen is connected", "Connect one, or use pyrometer-cli"};
    const auto size = screen->size() * screen->devicePixelRatio();
    auto found = fmt::format("{}, {} x {} pixels", QGuiApplication::platformName().toStdString(), size.width(),
                             size.height());
    if (const auto& missing = missingOpenGl(); !missing.isEmpty())
        return {"display", false, found + "; " + missing.chopped(1).toStdString()};
    QOpenGLContext context;
    QOffscreenSurface surface;
    surface.create();
    if (context.create() && context.makeCurrent(&surface))
        found += ", " + rendererText(context);
    return {"display", true, found};
}

CheckLine checkPictures() {
    const auto headless = Headless::open();
    if (!headless)
        return {"pictures", false, headless.error().what, headless.error().remedy};
    FieldScene scene;
    scene.showTriangle();
    const auto picture = (*headless)->draw(scene, {64, 64}, [] {});
    scene.clear();
    const bool drawn = !picture.isNull() && picture.width() == 64;
    return {"pictures", drawn, drawn ? "drawn without a display" : "nothing was drawn",
            drawn ? "" : "Install libgl1-mesa-dri and libegl1"};
}

} // namespace pyro
