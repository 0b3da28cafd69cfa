// The page of the stage Report, as it will be printed.
#pragma once

#include "app/stages/stage_desk.h"
#include "render/report_page.h"

#include <QLabel>

namespace pyro {

class ReportView : public QLabel {
    Q_OBJECT
public:
    ReportView(StageDesk& desk, QWidget* parent);
    void writePdf();

protected:
    void showEvent(QShowEvent* event) override;

private:
    void refresh();
    ReportContent content(); // of a case that has readings

    StageDesk& m_desk;
    Readings m_reported; // what the page shows
};

} // namespace pyro
