// A line of text that never asks for more room than it has: what does not fit ends in "…" and stands in the tooltip.
#pragma once

#include <QLabel>

namespace pyro {

class ElidedLabel : public QLabel {
    Q_OBJECT
public:
    explicit ElidedLabel(QWidget* parent = nullptr);

    QSize sizeHint() const override;
    QSize minimumSizeHint() const override;

protected:
    void paintEvent(QPaintEvent* event) override;
};

} // namespace pyro
