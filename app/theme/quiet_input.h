// Input that does not surprise: the wheel scrolls past controls that have no focus, and Enter gives the focus back.
#pragma once

#include <QObject>
#include <QPointer>
#include <QWidget>

namespace pyro {

// For one window; installed on the application while it lives.
class QuietInput : public QObject {
    Q_OBJECT
public:
    // `home`: has the focus whenever no control needs it, so that single keys are the window's.
    QuietInput(QWidget& window, QWidget& home);
    ~QuietInput() override;

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    QWidget& m_window;
    QPointer<QWidget> m_home;
};

} // namespace pyro
