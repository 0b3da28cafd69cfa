#include "app/animation.h"

namespace pyro {
namespace {

constexpr int tick = 20; // ms, in which a frame is drawn
constexpr int longest = 60'000;

} // namespace

Animation::Animation(std::unique_ptr<FrameWriter> writer, int count, Scene scene, QWidget* window)
    : QObject(window), m_writer(std::move(writer)), m_count(count), m_scene(std::move(scene)),
      m_progress("Writing the animation", "Stop", 0, count, window) {
    m_progress.setWindowModality(Qt::WindowModal);
    m_progress.setAutoReset(false);
    m_timer.setInterval(tick);
    connect(&m_timer, &QTimer::timeout, this, &Animation::look);
    m_scene.show(0);
    m_waited.start();
    m_timer.start();
}

void Animation::look() {
    if (m_progress.wasCanceled())
        return end();
    if (!m_scene.isShown(m_frame) && m_waited.elapsed() < longest)
        return;
    m_done = m_writer->add(m_scene.picture());
    m_progress.setValue(++m_frame);
    if (!m_done || m_frame == m_count)
        return end();
    m_scene.show(m_frame);
    m_waited.restart();
}

void Animation::end() {
    m_timer.stop();
    m_progress.reset();
    if (m_done)
        m_done = m_writer->finish();
    emit ended({m_done, m_writer->frames()});
    deleteLater();
}

} // namespace pyro
