#include "app/stages/rail.h"

#include "app/theme/theme.h"

#include <QPainter>
#include <QVBoxLayout>

namespace pyro {

RailButton::RailButton(const Stage& stage, QWidget* parent) : QAbstractButton(parent), m_stage(stage) {
    setText(stage.id);
    setObjectName(QString("stage") + stage.id);
    setToolTip(QString("%1 (%2)").arg(stage.id).arg(stage.key));
    setCheckable(true);
    setAutoExclusive(true);
    setCursor(Qt::PointingHandCursor);
    setFixedHeight(62);
}

void RailButton::setBadge(const StageBadge& badge) {
    m_badge = badge;
    update();
}

void RailButton::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    if (isChecked()) {
        painter.fillRect(rect(), QColor(0x33, 0x3A, 0x43));
        painter.fillRect(QRect(0, 0, 3, height()), theme::ember);
    } else if (underMouse()) {
        painter.fillRect(rect(), QColor(0x2A, 0x30, 0x37));
    }
    const QColor colour = isChecked() ? QColor(Qt::white) : QColor(0xB4, 0xBA, 0xC1);
    painter.drawPixmap(width() / 2 - 11, 9, theme::icon(m_stage.icon, colour, 22));
    QFont small = font();
    small.setPixelSize(12);
    small.setWeight(isChecked() ? QFont::DemiBold : QFont::Normal);
    painter.setFont(small);
    painter.setPen(colour);
    painter.drawText(QRect(0, 36, width(), 18), Qt::AlignCenter, text());
    if (m_badge.count > 0) {
        const QRectF disc(width() / 2.0 + 7, 5, 16, 16);
        painter.setPen(Qt::NoPen);
        painter.setBrush(m_badge.colour);
        painter.drawEllipse(disc);
        small.setPixelSize(10);
        small.setWeight(QFont::Bold);
        painter.setFont(small);
        painter.setPen(Qt::white);
        painter.drawText(disc, Qt::AlignCenter, QString::number(m_badge.count));
    }
}

Rail::Rail(Session& session, QWidget* parent) : QWidget(parent), m_session(session) {
    setObjectName("rail");
    setAttribute(Qt::WA_StyledBackground);
    setFixedWidth(76);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 8, 0, 0);
    layout->setSpacing(4);
    for (const auto* stage : stages()) {
        auto* button = new RailButton(*stage, this);
        connect(button, &RailButton::clicked, this, [this, stage] { emit stageChosen(stage->id); });
        layout->addWidget(button);
        m_buttons.append(button);
    }
    layout->addStretch();
    session.listen(this, Change::Cases | Change::View | Change::Survey | Change::Readings, &Rail::refresh);
    refresh();
}

void Rail::refresh() {
    const auto shown = QString::fromStdString(m_session.view().stage);
    for (qsizetype at = 0; at < m_buttons.size(); ++at) {
        const auto& stage = *stages()[static_cast<std::size_t>(at)];
        m_buttons[at]->setChecked(shown == stage.id);
        if (stage.badge != nullptr)
            m_buttons[at]->setBadge(stage.badge(m_session));
    }
}

} // namespace pyro
