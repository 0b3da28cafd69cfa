// stepbar: the steps of the active case in the case bar: a scrubber, step by step, and playing.
#pragma once

#include "app/session/session.h"

#include <QLabel>
#include <QPushButton>
#include <QSlider>
#include <QTimer>
#include <QWidget>

namespace pyro {

class StepBar : public QWidget {
    Q_OBJECT
public:
    explicit StepBar(Session& session, QWidget* parent = nullptr);

    bool isPlaying() const { return m_timer.isActive(); }
    bool loops() const { return m_loop; }

signals:
    void findRequested(); // the case's file is not where it was

public slots:
    void first();
    void last();
    void back();
    void on();
    // Plays from the step on display, from the first one when that is the last.
    void togglePlaying();
    void setLooping(bool loop) { m_loop = loop; }
    void setSpeed(double stepsPerSecond);

private:
    void refresh();
    void advance();
    int count() const;
    int wanted() const; // the step asked for, which may still be on its way
    void go(int step);

    Session& m_session;
    QPushButton* m_back;
    QPushButton* m_play;
    QPushButton* m_on;
    QPushButton* m_options;
    QSlider* m_scrubber;
    QLabel* m_label;
    QPushButton* m_find;
    QTimer m_timer;
    bool m_loop = true;
};

} // namespace pyro
