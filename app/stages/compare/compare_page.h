// The tables of the stage Compare: what changed against the baseline, grid convergence, measured data, the sweep.
#pragma once

#include "app/ledger/ledger_page.h"
#include "app/session/session.h"
#include "core/compare/sweep_values.h"

#include <QComboBox>

namespace pyro {

class ComparePage : public LedgerPage {
    Q_OBJECT
public:
    ComparePage(Session& session, QWidget* parent);

signals:
    void exportRequested();
    void setUpRequested(const QString& what); // name of an action

private:
    void addSetUp();
    void addSweep();
    void fill();
    void fillCompare();
    void fillGrids();
    void fillMeasured();
    void fillSweep();
    void tellSweep();
    void hideColumns();
    void followTab(int at); // shows above what the table is about
    void followView();      // and the other way round
    void markChosen();

    Session& m_session;
    RowTable* m_compare;
    RowTable* m_grids;
    RowTable* m_measured;
    std::vector<std::pair<std::string, std::string>> m_measuredRows; // set and name, per row
    RowTable* m_sweep;
    QComboBox* m_order;
    QPushButton* m_clear;            // the ranges of the sweep
    std::vector<std::size_t> m_left; // cases in the table of the sweep
    struct SweepKey {                // what the sweep's table and picture were made of
        std::shared_ptr<const SweepReading> sweep;
        SweepLook look;
        TemperatureUnit unit = TemperatureUnit::Celsius;
        bool operator==(const SweepKey&) const = default;
    };
    std::optional<SweepKey> m_drawn;
};

} // namespace pyro
