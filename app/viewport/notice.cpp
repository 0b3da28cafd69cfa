#include "app/viewport/notice.h"

#include <QEvent>
#include <QPainter>

namespace pyro {
namespace {

constexpr int shownMilliseconds = 2200;
constexpr int fadesMilliseconds = 500;
constexpr int margin = 12;

} // namespace

Notice::Notice(QWidget* over) : QWidget(over) {
    setObjectName("notice");
    setAttribute(Qt::WA_TransparentForMouseEvents);
    m_fade.setDuration(fadesMilliseconds);
    m_fade.setStartValue(1.0);
    m_fade.setEndValue(0.0);
    m_read.setSingleShot(true);
    connect(&m_read, &QTimer::timeout, this, [this] { m_fade.start(); });
    connect(&m_fade, &QVariantAnimation::valueChanged, this, qOverload<>(&QWidget::update));
    connect(&m_fade, &QVariantAnimation::finished, this, &QWidget::hide);
    over->installEventFilter(this);
    hide();
}

void Notice::tell(const QString& text) {
    m_text = text;
    m_fade.stop();
    place();
    show();
    raise();
    update();
    m_read.start(shownMilliseconds);
}

void Notice::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setOpacity(m_fade.state() == QAbstractAnimation::Running ? m_fade.currentValue().toDouble() : 1);
    painter.setPen(Qt::NoPen);
    painter.setBrush(QColor(0x32, 0x3A, 0x44));
    painter.drawRoundedRect(rect(), 6, 6);
    painter.setPen(QColor(0xE8, 0xEB, 0xEE));
    painter.drawText(rect().adjusted(12, 0, -12, 0), Qt::AlignVCenter | Qt::AlignLeft,
                     fontMetrics().elidedText(m_text, Qt::ElideRight, width() - 24));
}

bool Notice::eventFilter(QObject*, QEvent* event) {
    if (event->type() == QEvent::Resize && isVisible())
        place();
    return false;
}

void Notice::place() {
    const int room = parentWidget()->width() - 2 * margin;
    resize(std::min(fontMetrics().horizontalAdvance(m_text) + 26, room), 28);
    move(margin, parentWidget()->height() - height() - margin);
}

} // namespace pyro
