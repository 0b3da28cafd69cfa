// A page of tables.
#pragma once

#include "app/ledger/row_table.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QStackedWidget>
#include <vector>

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
    void addCopyLink(const QString& name); // the table that is shown, as text, to the clipboard
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
    std::vector<RowTable*> m_models; // of the tables, in their order
    int m_tabs = 0;
};

} // namespace pyro
