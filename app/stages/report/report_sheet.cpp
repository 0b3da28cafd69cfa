#include "app/stages/report/report_sheet.h"

#include "render/text.h"

#include <QLineEdit>

namespace pyro {

ReportSheet::ReportSheet(Session& session, QWidget* parent) : Sheet(session, "Report", parent) {
    const auto field = [this](const QString& name, const QString& title) {
        heading(title);
        auto* edit = new QLineEdit;
        edit->setObjectName(name);
        m_layout->addWidget(edit);
        return edit;
    };
    m_title = field("reportTitle", "Title");
    m_preparedBy = field("reportPreparedBy", "Prepared by");
    m_note = field("reportNote", "Note");
    m_layout->addSpacing(8);
    m_pdf = button("writePdf", "Export PDF\u2026", true);
    m_csv = button("writeCsv", "Export CSV\u2026");
    m_layout->addStretch();
    hint("The page shows the case, the picture as you left it under Field or Limits, and the verdicts by margin.");
    connect(m_title, &QLineEdit::editingFinished, this, [this] {
        auto next = m_session.survey();
        next.title = m_title->text().toStdString();
        m_session.edit("Title", std::move(next));
    });
    connect(m_preparedBy, &QLineEdit::editingFinished, this,
            [this] { keep(&ReportSettings::preparedBy, m_preparedBy->text()); });
    connect(m_note, &QLineEdit::editingFinished, this, [this] { keep(&ReportSettings::note, m_note->text()); });
    connect(m_pdf, &QPushButton::clicked, this, &ReportSheet::pdfRequested);
    connect(m_csv, &QPushButton::clicked, this, &ReportSheet::csvRequested);
    session.listen(this, Change::Survey | Change::Cases | Change::Readings, &ReportSheet::refresh);
    refresh();
}

void ReportSheet::keep(std::string ReportSettings::*setting, const QString& text) {
    auto next = m_session.survey();
    next.report.*setting = text.toStdString();
    m_session.edit("Report settings", std::move(next));
}

void ReportSheet::refresh() {
    const auto show = [](QLineEdit* edit, const QString& words) {
        if (!edit->hasFocus() && edit->text() != words)
            edit->setText(words);
    };
    show(m_title, q(m_session.survey().title));
    show(m_preparedBy, q(m_session.survey().report.preparedBy));
    show(m_note, q(m_session.survey().report.note));
    const auto* state = m_session.activeCase();
    const bool ready = state != nullptr && state->readings != nullptr;
    m_pdf->setEnabled(ready);
    m_csv->setEnabled(ready);
}

} // namespace pyro
