// Pictures and animations of what the viewport shows, with the scale of its colours and a caption.
#include "app/main_window.h"

#include "app/animation.h"
#include "app/session/dialogs.h"
#include "app/startup/display.h"
#include "app/viewport/section_sweep.h"
#include "render/drawing_file.h"
#include "render/frame_writer.h"

#include <QStatusBar>
#include <fmt/format.h>

namespace pyro {
namespace {

constexpr int sweepFrames = 60;
constexpr int particleFrames = 60;
constexpr double spansPerFrame = 0.012;
constexpr double largestScale = 8; // sides of more than about ten thousand pixels are refused by graphics drivers

} // namespace

std::pair<PictureSheet, SheetLook> MainWindow::sheetOfView(double scale) {
    PictureSheet sheet;
    SheetLook look;
    look.ground = SheetGround::Graphite;
    sheet.view = m_viewport->picture(scale, false);
    look.ratio = devicePixelRatioF();
    sheet.view.setDevicePixelRatio(1);
    const auto* state = m_session.activeCase();
    if (state == nullptr || !state->picture)
        return {sheet, look};
    sheet.scale = scaleOf(m_session.seen());
    if (sheet.scale)
        sheet.scale->caption = fmt::format(
            "{}, {}: {}", m_session.displayName().toStdString(), m_session.activeEntry()->name,
            writtenName(state->picture->quantity, m_session.view().component).toStdString());
    return {sheet, look};
}

bool MainWindow::mayDraw() {
    if (missingOpenGl().isEmpty())
        return true;
    showMessage({ErrorCode::NotSupported, "the picture cannot be drawn", "viewport",
                 missingOpenGl().toStdString() + " Reports draw their pictures without the window"});
    return false;
}

QImage MainWindow::picturedView(double scale) {
    const auto [sheet, look] = sheetOfView(scale);
    return sheet.scale ? imageOf(sheet, look) : sheet.view;
}

void MainWindow::savePicture() {
    if (!mayDraw())
        return;
    const auto file = dialogs::saveFile(this, "Save picture", proposal(".png"),
                                        "Pictures (*.png);;With letters as such (*.svg);;PDF (*.pdf)");
    if (file.isEmpty())
        return;
    const auto [sheet, look] = sheetOfView(1);
    tellWritten(writeSheets({sheet}, look, file.toStdString()), file);
}

void MainWindow::saveLargePicture() {
    if (!mayDraw())
        return;
    const auto width = dialogs::askNumber(this, "Save picture", "Width in pixels", m_viewport->width() * 2, 64,
                                          static_cast<int>(largestScale * m_viewport->width()));
    if (!width)
        return;
    const auto file = dialogs::saveFile(this, "Save picture", proposal(".png"), "Pictures (*.png)");
    if (file.isEmpty())
        return;
    const auto picture = picturedView(static_cast<double>(*width) / m_viewport->width());
    tellWritten(writePicture(picture, file.toStdString()), file,
                QString(", %1 x %2 pixels").arg(picture.width()).arg(picture.height()));
}

int MainWindow::frameCount(Frames frames) const {
    const auto* state = m_session.activeCase();
    if (state == nullptr || !state->picture)
        return 0;
    const auto paths = m_session.extras().paths();
    switch (frames) {
    case Frames::Steps:
        return state->series.steps.size() > 1 ? static_cast<int>(state->series.steps.size()) : 0;
    case Frames::Sweep:
        return sweepRange(m_session) ? sweepFrames : 0;
    case Frames::Particles:
        return paths && paths->lines() > 0 && m_session.view().field.paths.moving ? particleFrames : 0;
    }
    return 0;
}

void MainWindow::showFrame(Frames frames, int at) {
    if (frames == Frames::Steps)
        m_session.setStep(at);
    else if (frames == Frames::Sweep && at > 0)
        sweepBy(m_session, 1.0 / sweepFrames);
    else if (frames == Frames::Particles)
        m_viewport->setParticleTime(spansPerFrame * at);
}

void MainWindow::writeAnimation(Frames frames) {
    if (!mayDraw())
        return;
    if (m_animation)
        return; // one at a time
    const int count = frameCount(frames);
    if (count == 0)
        return m_session.complain({ErrorCode::NotSupported, "there is nothing to animate", "animation",
                                   frames == Frames::Steps ? "Open a case with several steps"
                                   : frames == Frames::Sweep
                                       ? "Choose a section first: click its card in the stage Field"
                                       : "Show paths and let particles run along them first"});
    const auto file = dialogs::saveFile(this, "Write animation", proposal(".ogv"),
                                        "Film (*.ogv);;Animated picture (*.webp);;Numbered pictures (*.png)");
    if (file.isEmpty())
        return;
    auto writer = FrameWriter::open(file.toStdString(), frames == Frames::Steps ? 5 : 20);
    if (!writer)
        return showMessage(writer.error());
    const auto before = m_session.view().step;
    m_animation = new Animation(std::move(*writer), count,
                                {[this, frames](int at) { showFrame(frames, at); },
                                 [this, frames](int at) {
                                     return isSettled() &&
                                            (frames != Frames::Steps || m_session.activeCase()->step == at);
                                 },
                                 [this] { return picturedView(); }},
                                this);
    connect(m_animation, &Animation::ended, this, [this, frames, before, file](const AnimationEnd& end) {
        if (frames == Frames::Steps && before)
            m_session.setStep(*before);
        if (!end.done)
            return showMessage(end.done.error());
        statusBar()->showMessage(QString("Written: %1 frames, %2").arg(end.frames).arg(file), 5000);
    });
}

} // namespace pyro
