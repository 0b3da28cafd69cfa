// The page of the stage Report: its pages, with what tells where one is above them.
#pragma once

#include "app/stages/report/page_view.h"
#include "app/stages/report/report_sheet.h"

namespace pyro {

class ReportView : public QWidget {
    Q_OBJECT
public:
    ReportView(ReportSheet& sheet, QWidget* parent);

private:
    void tell();
    ReportDraft& m_draft;
    PageView* m_pages;
    QLabel* m_page;
    QLabel* m_remarks;
};

} // namespace pyro
