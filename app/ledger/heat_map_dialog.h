// The heat map of the assembly in a window of its own; follows the case while it is open.
#pragma once

#include "app/session/session.h"
#include "core/report/heat_map.h"

#include <QDialog>
#include <QLabel>

namespace pyro {

class HeatMapDialog : public QDialog {
    Q_OBJECT
public:
    HeatMapDialog(Session& session, QWidget* parent);
    const std::optional<HeatMap>& map() const { return m_map; }
    // Errors: those of writeHeatMap; NotSupported when there is none.
    Done write(const QString& file) const;

signals:
    void exportRequested();

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    void refresh();
    std::string title() const;
    Session& m_session;
    std::optional<HeatMap> m_map;
    QString m_why;
};

} // namespace pyro
