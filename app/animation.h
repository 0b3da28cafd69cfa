// Writes an animation of what the window shows: frame after frame, each once the window has come to rest. It runs from
// the event loop; a dialog over the window tells how far it is and stops it.
#pragma once

#include "render/frame_writer.h"

#include <QElapsedTimer>
#include <QImage>
#include <QProgressDialog>
#include <QTimer>

namespace pyro {

struct AnimationEnd {
    Done done;
    int frames; // that were written
};

class Animation : public QObject {
    Q_OBJECT
public:
    struct Scene {
        std::function<void(int frame)> show;
        std::function<bool(int frame)> isShown; // a frame that takes a minute is taken as it is
        std::function<QImage()> picture;
    };
    Animation(std::unique_ptr<FrameWriter> writer, int count, Scene scene, QWidget* window);

signals:
    // Stopped or at its end; what was written is whole.
    void ended(const pyro::AnimationEnd& end);

private:
    void look();
    void end();

    std::unique_ptr<FrameWriter> m_writer;
    int m_count;
    Scene m_scene;
    QProgressDialog m_progress;
    QTimer m_timer;
    QElapsedTimer m_waited; // since the frame was wanted
    int m_frame = 0;
    Done m_done;
};

} // namespace pyro
