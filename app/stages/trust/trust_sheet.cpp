#include "app/stages/trust/trust_sheet.h"

#include "core/units/typographic.h"
#include "render/text.h"

#include <algorithm>
#include <map>

namespace pyro {

Verdict markOf(CheckState state) {
    switch (state) {
    case CheckState::Passed:
        return Verdict::Within;
    case CheckState::Review:
        return Verdict::Tight;
    case CheckState::Failed:
        return Verdict::Over;
    default:
        return Verdict::Unknown;
    }
}

TrustSheet::TrustSheet(Session& session, QWidget* parent) : Sheet(session, "Trust", parent) {
    QVBoxLayout* layout = nullptr;
    card(layout);
    m_counts = new QLabel;
    m_counts->setObjectName("trustCounts");
    m_counts->setTextFormat(Qt::RichText);
    m_summary = new QLabel;
    m_summary->setWordWrap(true);
    layout->addWidget(m_counts);
    layout->addWidget(m_summary);
    heading("The chosen check");
    QVBoxLayout* chosen = nullptr;
    card(chosen);
    m_title = new QLabel;
    m_title->setWordWrap(true);
    m_title->setObjectName("trustTitle");
    m_text = new QLabel;
    m_text->setWordWrap(true);
    m_text->setTextFormat(Qt::RichText);
    chosen->addWidget(m_title);
    chosen->addWidget(m_text);
    m_show = button("showCheck", "Show the place", true);
    connect(m_show, &QPushButton::clicked, this, [this] {
        if (m_check)
            emit placeRequested(*m_check);
    });
    m_raise = button("raiseFromCheck", "Raise a finding");
    m_raise->setToolTip("Keeps check, place and view for follow-up; in the table Findings below");
    connect(m_raise, &QPushButton::clicked, this, [this] {
        if (m_check)
            emit findingRequested(*m_check);
    });
    m_layout->addStretch();
    hint("Choose a row to see what it means; its place, and the cells it is about, are marked in the viewport. "
         "Double-click it, or press the button, to go there. Press A to see all parts again.");
    session.listen(this, contents, &TrustSheet::refresh);
    refresh();
    choose(std::nullopt);
}

void TrustSheet::choose(const std::optional<Check>& check) {
    m_check = check;
    m_title->setText(check ? "<b>" + q(check->title).toHtmlEscaped() + "</b>" : QString("None is chosen."));
    m_text->setVisible(check.has_value());
    m_show->setEnabled(check && (check->at || !check->part.empty()));
    m_raise->setEnabled(check.has_value());
    if (check)
        m_text->setText(q(typographic(check->figure)).toHtmlEscaped() + "<br><span style='color:#777B80'>required: " +
                        q(check->threshold).toHtmlEscaped() + "</span><br><br>" + q(check->meaning).toHtmlEscaped());
}

void TrustSheet::refresh() {
    const auto* state = m_session.activeCase();
    const auto checks = m_session.checks();
    if (checks.empty()) {
        m_counts->setText(state == nullptr ? "No case is open" : "Checking\u2026");
        m_summary->clear();
        return;
    }
    std::map<CheckState, int> count;
    for (const auto& check : checks)
        ++count[check.state];
    QStringList words;
    for (const auto one : {CheckState::Failed, CheckState::Review, CheckState::NotCheckable, CheckState::Passed})
        if (count[one] > 0)
            words.append(QString("<b>%1</b> %2").arg(count[one]).arg(q(std::string(checkStateText(one)))));
    m_counts->setText(words.join(" &nbsp;&nbsp; "));
    m_summary->setText(count[CheckState::Failed] > 0
                           ? "Do not rely on this field before the failed checks are understood."
                       : count[CheckState::Review] > 0 ? "No check failed; review what is marked."
                                                       : "Every check that could be made passed.");
}

} // namespace pyro
