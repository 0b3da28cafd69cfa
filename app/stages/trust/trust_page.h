// The ledger of the stage Trust: every check with what was found and what was wanted, the findings, and what the solver
// monitored.
#pragma once

#include "app/ledger/ledger_page.h"
#include "app/session/session.h"
#include "core/survey/findings.h"

#include <qcustomplot.h>

namespace pyro {

class TrustPage : public LedgerPage {
    Q_OBJECT
public:
    TrustPage(Session& session, QWidget* parent);
    void showFindings();

signals:
    void chosen(const std::optional<Check>& check);
    void placeRequested(const Check& check);
    void findingRequested(const Finding& finding);
    void exportRequested();

private:
    void fill();
    void fillChecks();
    void fillFindings();
    void fillMonitored();
    void drawHistory();
    std::optional<Check> at(int row) const;
    void choose(const std::optional<Check>& check);
    void removeFinding();
    Session& m_session;
    RowTable* m_checks;
    RowTable* m_findings;
    RowTable* m_monitored;
    QPushButton* m_remove;
    QCustomPlot* m_plot;
};

} // namespace pyro
