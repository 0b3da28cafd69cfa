// The tables of the stage Compare: what changed against the baseline, and grid convergence.
#pragma once

#include "app/ledger/ledger_page.h"
#include "app/session/session.h"

#include <QComboBox>

namespace pyro {

class SweepMap;

class ComparePage : public LedgerPage {
    Q_OBJECT
public:
    ComparePage(Session& session, QWidget* parent);

signals:
    void exportRequested();

private:
    void fill();
    void fillCompare();
    void fillGrids();
    void fillMeasured();
    void fillSweep();

    Session& m_session;
    RowTable* m_compare;
    RowTable* m_grids;
    RowTable* m_measured;
    RowTable* m_sweep;
    SweepMap* m_map;
    QComboBox* m_order;
};

} // namespace pyro
