#include "app/stages/report/report_view.h"

#include "app/session/dialogs.h"

#include <QDate>
#include <fmt/format.h>

namespace pyro {

ReportView::ReportView(StageDesk& desk, QWidget* parent) : QLabel(parent), m_desk(desk) {
    setObjectName("reportPage");
    setAlignment(Qt::AlignCenter);
    setStyleSheet("background:#CFC8BB");
    desk.session().listen(this, contents, &ReportView::refresh);
}

void ReportView::showEvent(QShowEvent* event) {
    QLabel::showEvent(event);
    refresh();
}

void ReportView::refresh() {
    if (!isVisible())
        return;
    const auto* state = m_desk.session().activeCase();
    if (state == nullptr || !state->readings) {
        setText("Open a case to see its report.");
        return;
    }
    const double ratio = devicePixelRatioF();
    const double dpi = std::max(40.0, (parentWidget()->height() - 24) / 297.0 * 25.4);
    auto page = reportPreview(content(), dpi * ratio);
    page.setDevicePixelRatio(ratio);
    setPixmap(QPixmap::fromImage(page));
}

ReportContent ReportView::content() {
    auto& session = m_desk.session();
    const auto* state = session.activeCase();
    ReportContent content;
    content.title = session.displayName().toStdString();
    content.preparedBy = session.survey().report.preparedBy;
    content.note = session.survey().report.note;
    content.date = QDate::currentDate().toString(Qt::ISODate).toStdString();
    content.entry = session.activeEntry();
    content.solved = state->opened->solved.get();
    m_reported = *state->readings;
    if (session.verdictsOverSteps())
        m_reported.limits = session.verdicts();
    content.readings = &m_reported;
    content.cases = session.verdictsOfCases();
    content.findings = session.survey().findings;
    content.unit = session.view().unit;
    content.picture = m_desk.lastPicture();
    if (const auto range = shownRange(session.seen()); range && state->picture) {
        const auto unit = session.unit();
        content.pictureCaption = fmt::format(
            "{}, colours from {} to {}", writtenName(state->picture->quantity, session.view().component).toStdString(),
            unit.text((*range)[0]), unit.text((*range)[1]));
    }
    return content;
}

void ReportView::writePdf() {
    const auto* state = m_desk.session().activeCase();
    if (state == nullptr || !state->readings)
        return;
    const auto file = dialogs::saveFile(this, "Write report", m_desk.proposal(".pdf"), "PDF (*.pdf)");
    if (!file.isEmpty())
        m_desk.tellWritten(writeReportPdf(content(), file.toStdString()), file);
}

} // namespace pyro
