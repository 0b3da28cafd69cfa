#include "app/theme/quiet_input.h"

#include <QAbstractItemView>
#include <QAbstractSlider>
#include <QAbstractSpinBox>
#include <QApplication>
#include <QComboBox>
#include <QKeyEvent>
#include <QLineEdit>
#include <QScrollBar>

namespace pyro {
namespace {

// Whose value the wheel would change.
bool isTurnedByWheel(QWidget* widget) {
    return qobject_cast<QComboBox*>(widget) != nullptr || qobject_cast<QAbstractSpinBox*>(widget) != nullptr ||
           (qobject_cast<QAbstractSlider*>(widget) != nullptr && qobject_cast<QScrollBar*>(widget) == nullptr);
}

bool isInTable(const QWidget* widget) {
    for (auto* above = widget->parentWidget(); above != nullptr; above = above->parentWidget())
        if (qobject_cast<const QAbstractItemView*>(above) != nullptr)
            return true;
    return false;
}

} // namespace

QuietInput::QuietInput(QWidget& window, QWidget& home) : QObject(&window), m_window(window), m_home(&home) {
    home.setFocusPolicy(Qt::StrongFocus);
    for (auto* widget : window.findChildren<QWidget*>())
        if (isTurnedByWheel(widget) && widget->focusPolicy() == Qt::WheelFocus)
            widget->setFocusPolicy(Qt::StrongFocus); // rolling over it is no wish to change it
    qApp->installEventFilter(this);
}

QuietInput::~QuietInput() { qApp->removeEventFilter(this); }

bool QuietInput::eventFilter(QObject* watched, QEvent* event) {
    auto* widget = qobject_cast<QWidget*>(watched);
    if (widget == nullptr || widget->window() != &m_window)
        return QObject::eventFilter(watched, event);
    if (event->type() == QEvent::Polish && isTurnedByWheel(widget) && widget->focusPolicy() == Qt::WheelFocus)
        widget->setFocusPolicy(Qt::StrongFocus);
    if (event->type() == QEvent::Wheel) {
        auto* turned = qobject_cast<QLineEdit*>(widget) != nullptr && isTurnedByWheel(widget->parentWidget())
                           ? widget->parentWidget()
                           : widget;
        if (isTurnedByWheel(turned) && !turned->hasFocus()) {
            event->ignore(); // what scrolls behind it has it
            return true;
        }
    }
    const bool typed = qobject_cast<QLineEdit*>(widget) != nullptr ||
                       qobject_cast<QAbstractSpinBox*>(widget) != nullptr;
    if (event->type() == QEvent::KeyPress && typed && !isInTable(widget)) {
        const auto key = static_cast<QKeyEvent*>(event)->key();
        if (key == Qt::Key_Return || key == Qt::Key_Enter)
            QMetaObject::invokeMethod(
                this,
                [this, widget = QPointer<QWidget>(widget)] {
                    if (widget && widget->hasFocus() && m_home && m_home->isVisible())
                        m_home->setFocus();
                },
                Qt::QueuedConnection);
    }
    return QObject::eventFilter(watched, event);
}

} // namespace pyro
