// The ledger of the stage Gauges: the readings of all cases, the balances, and the chart beside them.
#pragma once

#include "app/charts/chart_view.h"
#include "app/ledger/ledger_page.h"
#include "app/session/session.h"
#include "app/stages/gauges/spot_page.h"

#include <QSplitter>

namespace pyro {

class GaugePage : public QSplitter {
    Q_OBJECT
public:
    explicit GaugePage(Session& session, QWidget* parent = nullptr);
    ChartPanel& chart() { return *m_chart; }

signals:
    void placeRequested(const Point& place); // to be looked at
    void exportRequested();
    void removeRequested();
    void heatFlowDiagramRequested();

private:
    void follow(Changes what);
    void fillReadings();
    void fillHeat();
    void fillTerms();
    void chooseRow(int row);
    void sortBy(int column);
    void orderRows(const std::vector<TableColumn>& columns);
    void rename(std::size_t gauge, const QString& id);

    Session& m_session;
    LedgerPage* m_page;
    QStackedWidget* m_beside; // the chart, or the terms or the hotspots of the chosen gauge
    ChartPanel* m_chart;
    LedgerPage* m_termsPage;
    SpotPage* m_spots;
    RowTable* m_terms;
    RowTable* m_readings;
    RowTable* m_balances;
    RowTable* m_flows;
    RowTable* m_links;
    std::vector<std::size_t> m_order; // gauges of the survey by table row
    int m_sorted = -1;                // column; -1: as in the survey
    bool m_descending = false;
    bool m_choosing = false;
};

} // namespace pyro
