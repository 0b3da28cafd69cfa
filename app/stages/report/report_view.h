// The pages of the stage Report, as they will be printed.
#pragma once

#include "app/stages/stage_desk.h"
#include "render/report_page.h"

#include <QScrollArea>
#include <QVBoxLayout>

namespace pyro {

class ReportView : public QScrollArea {
    Q_OBJECT
public:
    ReportView(StageDesk& desk, QWidget* parent);
    void writePdf();

protected:
    void showEvent(QShowEvent* event) override;

private:
    void refresh();
    ReportContent content(); // of a case that has readings
    void show(const std::vector<QImage>& pages);

    StageDesk& m_desk;
    QVBoxLayout* m_pages;
    Readings m_reported; // what the page shows
};

} // namespace pyro
