#include "app/ledger/heat_map_dialog.h"

#include "render/heat_map_picture.h"

#include <QPainter>
#include <QPushButton>
#include <QVBoxLayout>

namespace pyro {

HeatMapDialog::HeatMapDialog(Session& session, QWidget* parent) : QDialog(parent), m_session(session) {
    setObjectName("heatMap");
    setWindowTitle("Heat map of the assembly");
    setAttribute(Qt::WA_DeleteOnClose);
    resize(1080, 640);
    auto* save = new QPushButton("Save as picture\u2026");
    save->setAccessibleName("saveHeatMap");
    connect(save, &QPushButton::clicked, this, &HeatMapDialog::exportRequested);
    auto* layout = new QVBoxLayout(this);
    layout->addStretch();
    layout->addWidget(save, 0, Qt::AlignRight);
    connect(&session, &Session::changed, this, &HeatMapDialog::refresh);
    refresh();
}

void HeatMapDialog::refresh() {
    const auto* state = m_session.activeCase();
    m_map.reset();
    m_why = "Working out which way the heat goes\u2026";
    if (state != nullptr && state->readings && state->readings->balances) {
        auto map = heatMap(*state->readings, *m_session.activeEntry());
        if (map)
            m_map = std::move(*map);
        else
            m_why = QString::fromStdString(map.error().what + ". " + map.error().remedy);
    }
    update();
}

std::string HeatMapDialog::title() const {
    const auto* entry = m_session.activeEntry();
    return m_session.displayName().toStdString() + (entry != nullptr ? ", " + entry->name : std::string());
}

Done HeatMapDialog::write(const QString& file) const {
    if (!m_map)
        return fail(ErrorCode::NotSupported, m_why.toStdString());
    return writeHeatMap(*m_map, title(), m_session.view().unit, file.toStdString());
}

void HeatMapDialog::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    const QRectF area = QRectF(rect()).adjusted(16, 16, -16, -52);
    painter.fillRect(area.adjusted(-4, -4, 4, 4), Qt::white);
    if (m_map)
        drawHeatMap(painter, area.adjusted(8, 8, -8, -8), *m_map, m_session.view().unit);
    else
        painter.drawText(area, Qt::AlignCenter, m_why);
}

} // namespace pyro
