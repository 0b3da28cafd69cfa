#include "app/stages/trust/heat_flow_dialog.h"

#include "render/heat_flow_picture.h"

#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

namespace pyro {

HeatFlowDialog::HeatFlowDialog(Session& session, QWidget* parent) : QDialog(parent), m_session(session) {
    setObjectName("heatFlowDiagram");
    setWindowTitle("Heat flow diagram of the assembly");
    setAttribute(Qt::WA_DeleteOnClose);
    resize(1080, 640);
    auto* save = new QPushButton("Save as picture\u2026");
    save->setAccessibleName("saveHeatFlowDiagram");
    connect(save, &QPushButton::clicked, this, &HeatFlowDialog::exportRequested);
    auto* layout = new QVBoxLayout(this);
    layout->addStretch();
    layout->addWidget(save, 0, Qt::AlignRight);
    session.listen(this, Change::Survey | Change::View | Change::Cases | Change::Readings, &HeatFlowDialog::refresh);
    refresh();
}

void HeatFlowDialog::refresh() {
    const auto* state = m_session.activeCase();
    m_map.reset();
    m_why = "Working out which way the heat goes\u2026";
    if (state != nullptr && state->readings && state->readings->balances) {
        auto map = heatFlowDiagram(*state->readings, *m_session.activeEntry());
        if (map)
            m_map = std::move(*map);
        else
            m_why = QString::fromStdString(map.error().what + ". " + map.error().remedy);
    }
    update();
}

std::string HeatFlowDialog::title() const {
    const auto* entry = m_session.activeEntry();
    return m_session.displayName().toStdString() + (entry != nullptr ? ", " + entry->name : std::string());
}

Done HeatFlowDialog::write(const QString& file) const {
    if (!m_map)
        return fail(ErrorCode::NotSupported, m_why.toStdString());
    return writeHeatFlowDiagram(*m_map, title(), m_session.view().unit, file.toStdString());
}

void HeatFlowDialog::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    const QRectF area = QRectF(rect()).adjusted(16, 16, -16, -52);
    painter.fillRect(area.adjusted(-4, -4, 4, 4), Qt::white);
    if (m_map)
        drawHeatFlowDiagram(painter, area.adjusted(8, 8, -8, -8), *m_map, m_session.view().unit);
    else
        painter.drawText(area, Qt::AlignCenter, m_why);
}

} // namespace pyro
