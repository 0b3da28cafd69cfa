// Limits of a table before they are taken over: what each row was understood as, and which of them are wanted.
#pragma once

#include "core/sheets/sheet_read.h"
#include "core/survey/limit_import.h"

#include <QComboBox>
#include <QDialog>
#include <QLabel>
#include <QPushButton>
#include <QTableWidget>

namespace pyro {

class LimitImportDialog : public QDialog {
    Q_OBJECT
public:
    LimitImportDialog(std::vector<TableSheet> sheets, LimitNames names, const QString& file, QWidget* parent);
    // The rows that are ticked, as limits.
    std::vector<Limit> chosen() const;

private:
    void read();
    void fill();

    std::vector<TableSheet> m_sheets;
    LimitNames m_names;
    QString m_file;
    LimitImport m_import;
    QComboBox* m_sheet;
    QComboBox* m_unit;
    QTableWidget* m_table;
    QLabel* m_facts;
    QPushButton* m_take;
};

} // namespace pyro
