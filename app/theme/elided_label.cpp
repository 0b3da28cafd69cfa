#include "app/theme/elided_label.h"

#include <QPainter>
#include <QTextDocument>

namespace pyro {
namespace {

QString plain(const QString& text) {
    if (!Qt::mightBeRichText(text))
        return text;
    QTextDocument document;
    document.setHtml(text);
    return document.toPlainText();
}

} // namespace

ElidedLabel::ElidedLabel(QWidget* parent) : QLabel(parent) {
    setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
}

QSize ElidedLabel::sizeHint() const {
    return {fontMetrics().horizontalAdvance(plain(text())) + 4, QLabel::sizeHint().height()};
}
QSize ElidedLabel::minimumSizeHint() const { return {0, fontMetrics().height() + 2}; }

void ElidedLabel::paintEvent(QPaintEvent*) {
    const auto whole = plain(text());
    const auto fitting = fontMetrics().elidedText(whole, Qt::ElideRight, contentsRect().width());
    if (toolTip().isEmpty() != (fitting == whole))
        setToolTip(fitting == whole ? QString() : whole);
    QPainter painter(this);
    painter.setPen(palette().color(foregroundRole()));
    painter.drawText(contentsRect(), static_cast<int>(alignment()), fitting);
}

} // namespace pyro
