#include "app/stages/rail.h"

#include "app/theme/theme.h"
#include "render/verdict_mark.h"

#include <QPainter>
#include <QVBoxLayout>
#include <algorithm>

namespace pyro {

RailButton::RailButton(const QString& stage, const QString& icon, QWidget* parent)
    : QAbstractButton(parent), m_icon(icon) {
    setText(stage);
    setObjectName("stage" + stage);
    setCheckable(true);
    setAutoExclusive(true);
    setCursor(Qt::PointingHandCursor);
    setFixedHeight(62);
}

void RailButton::setBadge(int count, const QColor& colour) {
    m_count = count;
    m_badgeColour = colour;
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
    painter.drawPixmap(width() / 2 - 11, 9, theme::icon(m_icon, colour, 22));
    QFont small = font();
    small.setPixelSize(12);
    small.setWeight(isChecked() ? QFont::DemiBold : QFont::Normal);
    painter.setFont(small);
    painter.setPen(colour);
    painter.drawText(QRect(0, 36, width(), 18), Qt::AlignCenter, text());
    if (m_count > 0) {
        const QRectF disc(width() / 2.0 + 7, 5, 16, 16);
        painter.setPen(Qt::NoPen);
        painter.setBrush(m_badgeColour);
        painter.drawEllipse(disc);
        small.setPixelSize(10);
        small.setWeight(QFont::Bold);
        painter.setFont(small);
        painter.setPen(Qt::white);
        painter.drawText(disc, Qt::AlignCenter, QString::number(m_count));
    }
}

Rail::Rail(Session& session, QWidget* parent) : QWidget(parent), m_session(session) {
    setObjectName("rail");
    setAttribute(Qt::WA_StyledBackground);
    setFixedWidth(76);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 8, 0, 0);
    layout->setSpacing(4);
    for (const auto& stage : stages()) {
        auto* button = new RailButton(stage, stage.toLower(), this);
        button->setToolTip(QString("%1 (%2)").arg(stage).arg(keyOf(stage)));
        connect(button, &RailButton::clicked, this, [this, stage] { emit stageChosen(stage); });
        layout->addWidget(button);
        m_buttons.append(button);
    }
    layout->addStretch();
    connect(&session, &Session::changed, this, &Rail::refresh);
    refresh();
}

void Rail::refresh() {
    const auto stage = QString::fromStdString(m_session.view().stage);
    for (auto* button : m_buttons)
        button->setChecked(button->text() == stage);
    int broken = 0;
    for (const auto& entry : m_session.survey().cases) {
        const auto* state = m_session.stateOf(entry);
        broken += state != nullptr && state->error ? 1 : 0;
    }
    const auto* state = m_session.activeCase();
    int serious = 0;
    int over = 0;
    int unknown = 0;
    if (state != nullptr && state->readings) {
        serious = static_cast<int>(std::ranges::count_if(
            state->readings->remarks, [](const Remark& remark) { return remark.severity != Severity::Note; }));
        auto count = countOfCases(m_session.verdictsOfCases());
        over = count[Verdict::Over];
        unknown = count[Verdict::Unknown];
    }
    const auto badge = [this](const char* name) { return m_buttons[stages().indexOf(name)]; };
    int doubted = 0;
    int looked = 0;
    if (state != nullptr && state->readings) {
        doubted = static_cast<int>(std::ranges::count(state->readings->checks, CheckState::Failed, &Check::state));
        looked = static_cast<int>(std::ranges::count(state->readings->checks, CheckState::Review, &Check::state));
    }
    badge("Trust")->setBadge(doubted > 0 ? doubted : looked,
                             verdictColour(doubted > 0 ? Verdict::Over : Verdict::Tight));
    badge("Cases")->setBadge(broken + serious,
                             broken > 0 ? verdictColour(Verdict::Over) : verdictColour(Verdict::Tight));
    int unread = 0;
    if (state != nullptr && state->readings)
        unread = static_cast<int>(
            std::ranges::count_if(state->readings->gauges, [](const GaugeReading& gauge) { return !gauge.read(); }));
    badge("Gauges")->setBadge(unread, verdictColour(Verdict::Unknown));
    badge("Limits")->setBadge(over > 0 ? over : unknown, verdictColour(over > 0 ? Verdict::Over : Verdict::Unknown));
}

} // namespace pyro
