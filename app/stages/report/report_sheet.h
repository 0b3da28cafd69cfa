// The sheet of the stage Report: what stands on the page, and its files.
#pragma once

#include "app/stages/sheet.h"

namespace pyro {

class ReportSheet : public Sheet {
    Q_OBJECT
public:
    ReportSheet(Session& session, QWidget* parent);

signals:
    void pdfRequested();
    void csvRequested();

private:
    void refresh();
    void keep(std::string ReportSettings::*setting, const QString& text);
    QLineEdit* m_title;
    QLineEdit* m_preparedBy;
    QLineEdit* m_note;
    QPushButton* m_pdf;
    QPushButton* m_csv;
};

} // namespace pyro
