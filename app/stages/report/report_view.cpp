#include "app/stages/report/report_view.h"

#include "app/theme/elided_label.h"
#include "render/text.h"

#include <QHBoxLayout>
#include <QPushButton>
#include <QVBoxLayout>

namespace pyro {

ReportView::ReportView(ReportSheet& sheet, QWidget* parent)
    : QWidget(parent), m_draft(sheet.draft()), m_pages(new PageView(m_draft)), m_page(new QLabel),
      m_remarks(new ElidedLabel) {
    m_page->setObjectName("reportPage");
    m_remarks->setObjectName("reportRemarks");
    auto* bar = new QWidget;
    bar->setObjectName("reportBar");
    bar->setAttribute(Qt::WA_StyledBackground);
    auto* row = new QHBoxLayout(bar);
    row->setContentsMargins(14, 2, 10, 2);
    row->addWidget(m_page);
    row->addWidget(m_remarks, 1);
    const auto link = [&](const char* name, const QString& text, const QString& tip, const auto& does) {
        auto* made = new QPushButton(text);
        made->setObjectName("link");
        made->setAccessibleName(name);
        made->setToolTip(tip);
        connect(made, &QPushButton::clicked, this, does);
        row->addWidget(made);
    };
    link("reportSmaller", "\u2212", "Smaller (Ctrl and wheel)", [this] { m_pages->setZoom(m_pages->zoom() / 1.2); });
    link("reportLarger", "+", "Larger (Ctrl and wheel)", [this] { m_pages->setZoom(m_pages->zoom() * 1.2); });
    link("reportFit", "Fit width", "As wide as there is room", [this] { m_pages->setZoom(std::nullopt); });
    auto* column = new QVBoxLayout(this);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(0);
    column->addWidget(bar);
    column->addWidget(m_pages, 1);
    connect(m_pages, &PageView::moved, this, &ReportView::tell);
    connect(m_pages, &PageView::textWanted, &sheet, &ReportSheet::beginText);
    connect(&m_draft, &ReportDraft::made, this, &ReportView::tell);
    connect(&m_draft, &ReportDraft::chosenChanged, this, [this] { m_pages->showBlock(m_draft.chosen()); });
    tell();
}

void ReportView::tell() {
    const auto* pages = m_draft.pages();
    m_page->setText(pages == nullptr ? QString("No pages yet")
                                     : QString("Page %1 of %2").arg(m_pages->pageInSight() + 1).arg(pages->count()));
    QStringList remarks;
    if (const auto* document = m_draft.document())
        for (const auto& remark : document->remarks)
            remarks.append(q(remark));
    m_remarks->setText(remarks.join("; "));
}

} // namespace pyro
