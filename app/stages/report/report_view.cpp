#include "app/stages/report/report_view.h"

#include "app/session/dialogs.h"

#include <QDate>
#include <QLabel>
#include <fmt/format.h>

namespace pyro {

ReportView::ReportView(StageDesk& desk, QWidget* parent) : QScrollArea(parent), m_desk(desk) {
    setObjectName("reportPages");
    setFrameShape(NoFrame);
    setWidgetResizable(true);
    auto* ground = new QWidget;
    ground->setStyleSheet("background:#CFC8BB");
    m_pages = new QVBoxLayout(ground);
    m_pages->setContentsMargins(0, 12, 0, 12);
    m_pages->setSpacing(12);
    setWidget(ground);
    desk.session().listen(this, contents, &ReportView::refresh);
}

void ReportView::showEvent(QShowEvent* event) {
    QScrollArea::showEvent(event);
    refresh();
}

void ReportView::refresh() {
    if (!isVisible())
        return;
    const auto* state = m_desk.session().activeCase();
    if (state == nullptr || !state->readings)
        return show({});
    const double ratio = devicePixelRatioF();
    const double dpi = std::max(40.0, (parentWidget()->height() - 24) / 297.0 * 25.4);
    const ReportPages pages(content());
    std::vector<QImage> pictures;
    for (int page = 0; page < pages.count(); ++page) {
        pictures.push_back(pages.picture(page, dpi * ratio));
        pictures.back().setDevicePixelRatio(ratio);
    }
    show(pictures);
}

// One label for each; without any a word on what to do.
void ReportView::show(const std::vector<QImage>& pages) {
    const auto wanted = std::max<std::size_t>(pages.size(), 1);
    while (m_pages->count() > static_cast<int>(wanted))
        delete m_pages->takeAt(m_pages->count() - 1)->widget();
    while (m_pages->count() < static_cast<int>(wanted)) {
        auto* label = new QLabel;
        label->setObjectName(m_pages->count() == 0 ? QString("reportPage")
                                                   : QString("reportPage%1").arg(m_pages->count() + 1));
        label->setAlignment(Qt::AlignCenter);
        m_pages->addWidget(label);
        label->show(); // at once, not when the layout comes to it
    }
    for (std::size_t at = 0; at < pages.size(); ++at)
        static_cast<QLabel*>(m_pages->itemAt(static_cast<int>(at))->widget())->setPixmap(QPixmap::fromImage(pages[at]));
    if (pages.empty())
        static_cast<QLabel*>(m_pages->itemAt(0)->widget())->setText("Open a case to see its report.");
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
    content.survey = &session.survey();
    m_reported = *state->readings;
    m_reported.limits = session.verdicts();
    content.readings = &m_reported;
    content.run = &session.openRun();
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
    const auto file = dialogs::saveFile(m_desk.dialogParent(), "Write report", m_desk.proposal(".pdf"), "PDF (*.pdf)");
    if (!file.isEmpty())
        m_desk.tellWritten(ReportPages(content()).writePdf(file.toStdString()), file);
}

} // namespace pyro
