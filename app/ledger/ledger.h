// The area under the heat strip: one page of tables per stage.
#pragma once

#include "app/ledger/row_table.h"
#include "app/session/session.h"
#include "app/stages/stage.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QStackedWidget>

namespace pyro {

// A titled page with link buttons on the right and one table or several to switch between.
class LedgerPage : public QWidget {
    Q_OBJECT
public:
    LedgerPage(const QString& title, QWidget* parent);
    void setTitle(const QString& title);
    RowTable* addTable(const QString& name, const QString& tab = {});
    // A table with something beside it, in one tab.
    RowTable* addTableBeside(const QString& name, const QString& tab, QWidget* beside);
    void showTable(const QString& name); // with its tab
    QTableView* view(const QString& name) const;
    QPushButton* addLink(const QString& name, const QString& text);
    // Any other widget at the right of the title.
    void addTool(QWidget* tool);

signals:
    void foldRequested();    // its head was double-clicked
    void tableShown(int at); // in the order in which they were added

protected:
    void mouseDoubleClickEvent(QMouseEvent* event) override;

private:
    QLabel* m_title;
    QHBoxLayout* m_head;
    QStackedWidget* m_tables;
    int m_tabs = 0;
};

class GaugePage;
class LimitsPage;
class TrustPage;

class Ledger : public QStackedWidget {
    Q_OBJECT
public:
    explicit Ledger(Session& session, QWidget* parent = nullptr);
    void showStage(const Stage& stage);
    QWidget* casesPage() { return m_cases; }
    QWidget* fieldPage() { return m_field; }
    GaugePage& gauges() { return *m_gauges; }
    TrustPage& trust() { return *m_trust; }
    LimitsPage& limits() { return *m_limits; }

signals:
    void foldRequested(); // to its head, or back
    // A row with a place was chosen: isolate the part and fly there.
    void placeChosen(const QString& part, const pyro::Point& place);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    void refresh(Changes what);
    void showSelectedBoundary();
    void fillParts();
    void fillBoundaries();
    void fillQuantities();
    void fillMaterials();
    void fillRemarks();
    void fillField();
    void chooseReading(std::size_t row);

    Session& m_session;
    LedgerPage* m_cases;
    LedgerPage* m_field;
    GaugePage* m_gauges;
    TrustPage* m_trust;
    LimitsPage* m_limits;
    RowTable* m_parts;
    RowTable* m_boundaries;
    RowTable* m_quantities;
    RowTable* m_materials;
    RowTable* m_remarks;
    RowTable* m_readings;
    std::vector<std::size_t> m_sectionRows; // sections that have a row, first in the table
};

} // namespace pyro
