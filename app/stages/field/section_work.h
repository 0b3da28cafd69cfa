// What is done about sections by keys: new ones, the chosen one moved, swept, put through three places.
#pragma once

#include "app/stages/stage_desk.h"

#include <QObject>
#include <QTimer>

namespace pyro {

class SectionWork : public QObject {
    Q_OBJECT
public:
    SectionWork(StageDesk& desk, QObject* parent);
    void add(); // through the hottest visible place
    void throughHottest();
    void throughCursor();
    // The first two places wait; the third makes the section.
    void takePlace();
    // From one end of what is visible to the other and around again; it stays where it is stopped.
    void toggleSweep();
    // By a hundredth of the visible size of the view, but into every thin layer on the way.
    void nudge(double steps);

private:
    void keep(SectionView section, const QString& what);

    StageDesk& m_desk;
    QTimer m_sweep;              // runs while a section sweeps
    std::vector<Point> m_places; // taken so far for a section through three
};

} // namespace pyro
