// A small on/off switch: a pill with a knob.
#pragma once

#include <QAbstractButton>

namespace pyro {

class Switch : public QAbstractButton {
    Q_OBJECT
public:
    explicit Switch(const QString& accessibleName, QWidget* parent = nullptr);
    QSize sizeHint() const override { return {26, 16}; }

protected:
    void paintEvent(QPaintEvent* event) override;
};

} // namespace pyro
