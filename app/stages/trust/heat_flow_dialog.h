// The heat flow diagram of the assembly in a window of its own; follows the case while it is open.
#pragma once

#include "app/session/session.h"
#include "core/report/heat_flow_diagram.h"

#include <QDialog>
#include <QLabel>

namespace pyro {

class HeatFlowDialog : public QDialog {
    Q_OBJECT
public:
    HeatFlowDialog(Session& session, QWidget* parent);
    const std::optional<HeatFlowDiagram>& map() const { return m_map; }
    // Errors: those of writeHeatFlowDiagram; NotSupported when there is none.
    Done write(const QString& file) const;

signals:
    void exportRequested();

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    void refresh();
    std::string title() const;
    Session& m_session;
    std::optional<HeatFlowDiagram> m_map;
    QString m_why;
};

} // namespace pyro
