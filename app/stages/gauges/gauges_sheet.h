// The sheet of the stage Gauges: new gauges on every kind of place, and the editor of the chosen one.
#pragma once

#include "app/stages/gauges/gauge_form.h"
#include "app/stages/sheet.h"

#include <QMenu>

namespace pyro {

class GaugesSheet : public Sheet {
    Q_OBJECT
public:
    GaugesSheet(Session& session, QWidget* parent);

signals:
    void pointRequested();
    void lineRequested();
    void surfaceRequested(); // a file is to be chosen
    void removeRequested();

private:
    void buildMenu();
    void fillMenus();
    void addAlong(std::size_t axis);
    void addThroughHottest(std::size_t axis);
    void addEnvelope(Gauge gauge); // that reads environments or layers
    void takeCopies(const QString& what, Result<Survey> next);
    void addStations();

    QMenu* m_more;
    QMenu* m_parts;
    QMenu* m_boundaries;
    QMenu* m_sections;
    QMenu* m_interfaces;
    QMenu* m_traces;
    QPushButton* m_remove;
    QPushButton* m_copy;
    QPushButton* m_stations;
    QLabel* m_advice;
};

} // namespace pyro
